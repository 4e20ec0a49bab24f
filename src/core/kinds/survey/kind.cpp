// A survey as it is written down: each port at each tier, out and in.
#include "core/kinds/columns.h"
#include "core/kinds/seen.h"
#include "core/kinds/sheet_kind.h"
#include "core/kinds/survey/survey.h"
#include "core/quantity/format.h"

namespace otterstone::kinds {

namespace {

std::vector<Column> columns() {
    return {ditto("port", "Port", "as printed: C1"),
            oneOf("way", "Way", "out: it gives; in: it takes", {"out", "in"}, true),
            number("asked_v", "Asked V", "the tier asked for"),
            oneOf("offered", "Offered", "yes or no; empty: not tried", {"yes", "no"}),
            number("amps", "A", "drawn from it (or taken in)"),
            number("volts", "V", "under that load"),
            oneOf("handshake", "Handshake", "how charger and bank agreed",
                  {"USB PD fixed", "USB PD PPS", "USB PD AVS", "DCP 1.5 A", "divider 2.4 A", "data-line, fixed steps",
                   "data-line, 200 mV steps", "data-line, high current", "Type-C current", "none", "unknown"}),
            note()};
}

void begin(Sheet& sheet, const label::Label& label) {
    for (const label::Port& p : label.ports) {
        if (!p.gives())
            continue;
        for (const label::Tier& t : p.tiersFor(label::Way::Out))
            addRow(sheet, {{"port", p.name}, {"way", "out"}, {"asked_v", showNumber(t.high.value)}});
    }
}

void observe(Seen& seen) {
    for (const SurveyCell& c : survey(seen.of().sheet, seen.of().facts).cells) {
        for (const Try& t : c.tries) {
            Observation o;
            if (t.state == TierState::NotTried)
                continue;
            if (t.volts && t.amps && *t.amps >= kLittle) {
                o = c.in ? seen.took(c.port, *t.volts, *t.volts * *t.amps)
                         : seen.gave(c.port, c.tierVolts, *t.volts, *t.amps);
                o.tierVolts = c.tierVolts;
            } else {
                o = seen.blank(What::Tier, c.port, c.tierVolts, c.way());
                o.volts = t.volts;
                o.yes = t.state != TierState::NotOffered;
            }
            o.row = t.row;
            o.note = t.note;
            seen.add(std::move(o));
        }
    }
}

} // namespace

SheetKind surveyKind() {
    return {columns, [](const Sheet& sheet, const Facts& facts) { return survey(sheet, facts).said; }, begin, observe};
}

} // namespace otterstone::kinds
