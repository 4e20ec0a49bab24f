// A wireless charge beside a wired one, as it is written down.
#include "core/kinds/columns.h"
#include "core/kinds/pad/pad.h"
#include "core/kinds/sheet_kind.h"

namespace otterstone::kinds {

namespace {

std::vector<Column> columns() {
    return {oneOf("way", "Way", "pad, or wire for the comparison", {"pad", "wire"}, true),
            anyText("time", "Time", "since this way began: 15 min"),
            number("device", "Device %", "by its own display"),
            number("bank", "Bank %", "by its own display"),
            anyText("celsius", "°C", "of the device's back"),
            number("watts", "W", "shown by device, pad or meter"),
            note()};
}

} // namespace

SheetKind padKind() {
    return {columns, [](const Sheet& sheet, const Facts& facts) { return pad(sheet, facts).said; }, nullptr, nullptr};
}

} // namespace otterstone::kinds
