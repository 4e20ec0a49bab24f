// Sharing rounds as they are written down: each port alone, then all of a round together.
#include "core/kinds/columns.h"
#include "core/kinds/seen.h"
#include "core/kinds/sharing/sharing.h"
#include "core/kinds/sheet_kind.h"
#include "core/quantity/format.h"
#include "core/quantity/say.h"

namespace otterstone::kinds {

namespace {

std::vector<Column> columns() {
    return {ditto("round", "Round", "rows of one number are plugged in together, in this order"),
            anyText("port", "Port", "as printed: C1"),
            number("alone_v", "Alone V", "with nothing else plugged in"),
            number("alone_a", "Alone A", "with nothing else plugged in"),
            number("together_v", "Together V", "with all of the round plugged in"),
            number("together_a", "Together A", "with all of the round plugged in"),
            note()};
}

// Each pair of outputs, in both orders.
void begin(Sheet& sheet, const label::Label& label) {
    int round = 0;
    for (const label::Port& first : label.ports) {
        for (const label::Port& second : label.ports) {
            if (&first == &second || !first.gives() || !second.gives())
                continue;
            addRow(sheet, {{"round", std::to_string(++round)}, {"port", first.name}});
            addRow(sheet, {{"round", std::to_string(round)}, {"port", second.name}});
        }
    }
}

void observe(Seen& seen) {
    for (const Round& r : sharing(seen.of().sheet, seen.of().facts).rounds) {
        Observation sum = seen.blank(What::Together, {}, 0.0);
        Working total;
        total.key = "together_watts";
        total.label = say("all together");
        total.unit = Unit::Watt;
        total.point = say("bank out");
        total.value = Measured(0.0);
        bool whole = !r.ports.empty(), allAlone = true, allKept = true;
        for (const SharedPort& p : r.ports) {
            sum.others.push_back(p.port);
            if (p.aloneVolts && p.aloneWatts && *p.aloneVolts > 0.0)
                seen.add(seen.gaveAsRead(p.port, *p.aloneVolts, *p.aloneWatts / *p.aloneVolts));
            allAlone = allAlone && p.aloneWatts;
            allKept = allKept && p.kept().value_or(0.0) >= label::kPowerGiven;
            whole = whole && p.togetherWatts && p.togetherVolts;
            if (!p.togetherWatts || !p.togetherVolts)
                continue;
            const double volts = *p.togetherVolts, amps = volts > 0.0 ? *p.togetherWatts / volts : 0.0;
            Observation o = seen.gaveAsRead(p.port, volts, amps);
            o.asked = p.aloneWatts && p.aloneVolts ? std::optional(*p.aloneWatts / *p.aloneVolts) : std::nullopt;
            o.limited = p.kept() && *p.kept() < label::kPowerGiven ? LimitedBy::Bank : LimitedBy::Nobody;
            if (o.value)
                total.value = total.value + o.value->value;
            total.formula +=
                (total.formula.empty() ? "" : " + ") + showNumber(o.value ? o.value->value.value() : 0.0, 3) + " W";
            for (const SharedPort& other : r.ports) {
                if (other.port != p.port)
                    o.others.push_back(other.port);
            }
            seen.add(std::move(o));
        }
        if (!whole)
            continue;
        if (allAlone) {
            sum.asked = r.aloneWatts;
            sum.limited = allKept ? LimitedBy::Nobody : LimitedBy::Bank;
        }
        total.partialDoubt = !total.value.hasDoubt();
        sum.value = std::move(total);
        seen.add(std::move(sum));
    }
}

} // namespace

SheetKind sharingKind() {
    return {columns, [](const Sheet& sheet, const Facts& facts) { return sharing(sheet, facts).said; }, begin, observe};
}

} // namespace otterstone::kinds
