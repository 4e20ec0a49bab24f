// A pass-through run as it is written down: its corners. The sheet names no port.
#include "core/kinds/columns.h"
#include "core/kinds/pass_through/pass_through.h"
#include "core/kinds/seen.h"
#include "core/kinds/sheet_kind.h"

namespace otterstone::kinds {

namespace {

std::vector<Column> columns() {
    return {oneOf("corner", "Corner", "what is plugged in",
                  {"in alone", "out alone", "both", "source removed", "bank full", "device full"}),
            number("in_v", "In V", "at the bank's input"),
            number("in_a", "In A", "at the bank's input"),
            number("out_v", "Out V", "at its output"),
            number("out_a", "Out A", "at its output"),
            anyText("time", "Time", "source removed: how long the output was out (300 ms); full: when (2 h 10 min)"),
            oneOf("back", "Came back", "the output, when the source went",
                  {"never went off", "by itself", "replug", "button", "stays off"}),
            note()};
}

void begin(Sheet& sheet, const label::Label&) {
    for (const char* corner : {"in alone", "out alone", "both", "source removed"})
        addRow(sheet, {{"corner", corner}});
}

void observe(Seen& seen) {
    const auto f = passThrough(seen.of().sheet, seen.of().facts);
    const auto corner = [&](const Corner& c, bool charging) {
        if (c.outVolts && c.outWatts && *c.outVolts > 0.0) {
            Observation o = seen.gaveAsRead({}, *c.outVolts, *c.outWatts / *c.outVolts);
            o.charging = charging;
            seen.add(std::move(o));
        }
        if (c.inVolts && c.inWatts && *c.inVolts > 0.0) {
            Observation o = seen.took({}, *c.inVolts, *c.inWatts);
            if (charging)
                o.others = {"an output"};
            seen.add(std::move(o));
        }
    };
    corner(f.inAlone, false);
    corner(f.outAlone, false);
    corner(f.both, true);
    if (f.what == PassClass::Unknown)
        return;
    Observation o = seen.blank(What::PassThrough, {}, 0.0);
    o.yes = passesThrough(f.what);
    o.code = passClassKey(f.what);
    o.words = passClassWords(f.what);
    seen.add(std::move(o));
}

} // namespace

SheetKind passThroughKind() {
    return {columns, [](const Sheet& sheet, const Facts& facts) { return passThrough(sheet, facts).said; }, begin,
            observe};
}

} // namespace otterstone::kinds
