// What comes from each source through each cable, as it is written down.
#include "core/kinds/columns.h"
#include "core/kinds/matrix/matrix.h"
#include "core/kinds/seen.h"
#include "core/kinds/sheet_kind.h"

namespace otterstone::kinds {

namespace {

std::vector<Column> columns() {
    return {
        ditto("charger", "Source", "a charger of the gear drawer, a port of this bank, own charger, another bank"),
        ditto("cable", "Cable", "as in the gear drawer"),
        ditto("port", "Into", "an input of this bank, or a device"),
        ditto("state", "State", "off, on, lid closed, busy: what you say"),
        spare(oneOf("computer", "Computer", "in older sheets: on or off, where one is charged", {"on", "off"}, true)),
        number("volts", "V", "negotiated"),
        number("amps", "A", "that flow"),
        number("watts", "W", "that flow"),
        oneOf("happened", "What happened", "nothing flows, stopped, settled", {kNothingFlows, kStopped, kSettled}),
        anyText("after", "After", "how long until it stopped or settled: 5 h, 20 s"),
        note()};
}

// What a port of this bank gave to a device: as much as that asked for.
void observeOut(Seen& seen, const MatrixCell& c) {
    if (!c.volts || *c.volts <= 0.0 || !c.watts || *c.watts / *c.volts <= kLittle)
        return;
    Observation o = seen.gaveAsRead(portOf(seen.of().facts, c.source)->name, *c.volts, *c.watts / *c.volts);
    o.cable = c.cable;
    o.device = c.into;
    o.row = c.row;
    seen.add(std::move(o));
}

void observeIn(Seen& seen, const MatrixCell& c) {
    Observation o = seen.took(c.into, c.volts, *c.watts);
    o.charger = c.source;
    o.cable = c.cable;
    o.row = c.row;
    for (const Source& s : seen.of().facts.chargers) {
        if (s.name == c.source)
            o.sourceWatts = path::mostWatts(s.side);
    }
    // The charger through this cable, at a tier both know.
    if (c.predicted && c.predicted->best.binding != path::Binding::Bank)
        o.sourceWatts = c.predicted->best.watts().value;
    o.limited = limitedBySource(o);
    seen.add(std::move(o));
}

void observe(Seen& seen) {
    const Facts& facts = seen.of().facts;
    for (const MatrixCell& c : matrix(seen.of().sheet, facts).cells) {
        if (portOf(facts, c.source))
            observeOut(seen, c);
        // Nothing may be the charger's doing, or the cable's.
        else if (c.watts && *c.watts > 0.0 && (c.into.empty() || portOf(facts, c.into)))
            observeIn(seen, c);
    }
}

} // namespace

SheetKind matrixKind() {
    return {columns, [](const Sheet& sheet, const Facts& facts) { return matrix(sheet, facts).said; }, nullptr,
            observe};
}

} // namespace otterstone::kinds
