// Which way power flows between two things that both give and take, as it is written down.
#include "core/kinds/columns.h"
#include "core/kinds/directions/directions.h"
#include "core/kinds/sheet_kind.h"

namespace otterstone::kinds {

namespace {

std::vector<Column> columns() {
    return {ditto("port", "Port", "of this bank"),
            anyText("other", "Joined to", "the other bank, or a computer"),
            anyText("other_port", "Its port", "as printed"),
            oneOf("how", "How", "as it comes, forced by a button or a setting, or with the plugs in the other order",
                  {"as it comes", "forced", "other end first"}),
            oneOf("result", "This bank", "gives, takes, or nothing flows", {"gives", "takes", "nothing"}),
            number("watts", "W", "that flow"),
            note()};
}

} // namespace

SheetKind directionsKind() {
    return {columns, [](const Sheet& sheet, const Facts& facts) { return directions(sheet, facts).said; }, nullptr,
            nullptr};
}

} // namespace otterstone::kinds
