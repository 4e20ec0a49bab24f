// A staircase as it is written down: a port at one tier under growing load.
#include "core/kinds/columns.h"
#include "core/kinds/parts.h"
#include "core/kinds/seen.h"
#include "core/kinds/sheet_kind.h"
#include "core/kinds/staircase/staircase.h"

namespace otterstone::kinds {

namespace {

std::vector<Column> columns() {
    return {
        ditto("port", "Port", "as printed: C1"),
        {"asked_v", "Asked V", "the tier", {}, true, true},
        number("amps", "A", "drawn on this step"),
        number("volts", "V", "read on it"),
        oneOf("state", "Output", "holds, tripped or hot", {"holds", "tripped", "hot"}),
        oneOf("back", "Came back", "after a trip", {"by itself", "replug", "button", "wait, then replug", "not yet"}),
        anyText("after", "After", "how long that took: 12 s"),
        note()};
}

void observe(Seen& seen) {
    for (const Stair& stair : staircase(seen.of().sheet, seen.of().facts).stairs) {
        for (const Step& step : stair.steps) {
            Observation o = seen.gave(stair.port, stair.tierVolts, step.on ? step.volts : 0.0, step.amps);
            o.row = step.row;
            seen.add(std::move(o));
        }
    }
}

} // namespace

SheetKind staircaseKind() {
    return {columns, [](const Sheet& sheet, const Facts& facts) { return staircase(sheet, facts).said; }, nullptr,
            observe};
}

} // namespace otterstone::kinds
