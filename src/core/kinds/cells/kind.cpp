// Cell by cell, where the cells can be reached, as it is written down.
#include "core/kinds/cells/cells.h"
#include "core/kinds/columns.h"
#include "core/kinds/sheet_kind.h"

namespace otterstone::kinds {

namespace {

std::vector<Column> columns() {
    return {anyText("cell", "Cell", "1, 2, …; the word input for what the bank takes in"),
            number("volts", "V", "over the cell"), number("amps", "A", "into the cell"), note()};
}

} // namespace

SheetKind cellsKind() {
    return {columns, [](const Sheet& sheet, const Facts& facts) { return cells(sheet, facts).said; }, nullptr, nullptr};
}

} // namespace otterstone::kinds
