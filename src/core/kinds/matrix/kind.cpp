// What each charger brings in through each cable, as it is written down.
#include "core/kinds/columns.h"
#include "core/kinds/matrix/matrix.h"
#include "core/kinds/seen.h"
#include "core/kinds/sheet_kind.h"

namespace otterstone::kinds {

namespace {

std::vector<Column> columns() {
    return {ditto("charger", "Charger", "as in the gear drawer"),
            ditto("cable", "Cable", "as in the gear drawer"),
            ditto("port", "Port", "of the bank"),
            oneOf("computer", "Computer", "on or off, where one is charged", {"on", "off"}, true),
            number("volts", "V", "negotiated"),
            number("amps", "A", "taken in"),
            number("watts", "W", "taken in"),
            note()};
}

void observe(Seen& seen) {
    for (const MatrixCell& c : matrix(seen.of().sheet, seen.of().facts).cells) {
        if (!c.computer.empty())
            continue; // those watts went into the computer
        Observation o = seen.took(c.port, c.volts, *c.watts);
        o.charger = c.charger;
        o.cable = c.cable;
        o.row = c.row;
        for (const Source& s : seen.of().facts.chargers) {
            if (s.name == c.charger)
                o.sourceWatts = path::mostWatts(s.side);
        }
        // The charger through this cable, at a tier both know.
        if (c.predicted && c.predicted->best.binding != path::Binding::Bank)
            o.sourceWatts = c.predicted->best.watts().value;
        o.limited = limitedBySource(o);
        seen.add(std::move(o));
    }
}

} // namespace

SheetKind matrixKind() {
    return {columns, [](const Sheet& sheet, const Facts& facts) { return matrix(sheet, facts).said; }, nullptr,
            observe};
}

} // namespace otterstone::kinds
