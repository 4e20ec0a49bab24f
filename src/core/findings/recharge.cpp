// D5: what a recharge says about the bank.
#include "core/findings/context.h"

#include <cmath>

namespace otterstone::findings {

namespace {

double sumOf(const std::vector<trace::Phase>& phases, trace::PhaseKind kind) {
    double seconds = 0.0;
    for (const trace::Phase& p : phases)
        seconds += p.kind == kind ? p.to - p.from : 0.0;
    return seconds;
}

// The claim is held against the time only if the charger could give what the claim needs.
void holdAgainstClaim(const Context& c, Finding& f) {
    const Setup& s = c.setup;
    RechargeFinding& r = *f.recharge;
    if (!s.claimedRecharge)
        return;
    Working w = remark("against the claim", "");
    w.key = "against_claim";
    const std::string claim = showDuration(s.claimedRecharge->value * 3600.0);
    if (!r.endOfCharge || !r.timeTo100) {
        w.note = "not tested: the end of charge was not seen, so " + claim + " can be neither met nor missed";
    } else if (!s.chargerWatts) {
        w.note = "not tested: what the charger can give is not stated, and the claim of " + claim + " needs a fitting one";
    } else if (s.claimedInput && s.chargerWatts->value < 0.98 * s.claimedInput->value) {
        w.note = "not tested: the claim of " + claim + " needs " + showNumber(s.claimedInput->value) +
                 " W and the charger gives at most " + showNumber(s.chargerWatts->value) + " W; the charger is the bottleneck";
        f.warnings.push_back({"charger_too_small", "The charger was too small for the claimed recharge time; the claim is not tested."});
    } else {
        r.againstClaim = r.timeTo100->value() / (s.claimedRecharge->value * 3600.0);
        w.isText = false;
        w.label = "time against the claim";
        w.value = *r.timeTo100 / Measured(s.claimedRecharge->value * 3600.0);
        w.unit = Unit::Share;
        w.formula = showValue(*r.timeTo100, Unit::Second) + " ÷ " + claim;
        w.note = "100 % is just what is printed";
    }
    f.figures.push_back(std::move(w));
}

// What the display said it would take, from the moment it said so.
void holdAgainstDisplay(const Context& c, Finding& f) {
    RechargeFinding& r = *f.recharge;
    for (const Mark& m : c.setup.marks) {
        if (m.what != Mark::What::Estimate || !m.number || !(*m.number > 0.0) || !r.endOfCharge || r.againstDisplay)
            continue;
        const Measured taken = measuredSpan(c, *r.endOfCharge - m.at * c.setup.clock.value());
        const Measured off = taken / Measured(*m.number) - Measured(1.0);
        r.againstDisplay = off.value();
        Working w;
        w.key = "against_display";
        w.label = "beyond the display's own estimate";
        w.formula = showValue(taken, Unit::Second) + " ÷ " + showDuration(*m.number) + " − 1";
        w.value = off;
        w.unit = Unit::Share;
        w.note = "the display said " + showDuration(*m.number) + " at " + showDuration(m.at) + " of the trace; positive: it took longer";
        f.figures.push_back(std::move(w));
    }
}

std::string sentence(const Context& c, const Finding& f) {
    const RechargeFinding& r = *f.recharge;
    std::string s = quoted(c, f.portWattHours, Unit::WattHour) + " went into " + placeOf(f);
    if (r.endOfCharge)
        s += "; the bank was full after " + showValue(*r.timeTo100, Unit::Second);
    else
        s += " until the log ended after " + showDuration(f.durationSeconds) + "; the end of charge was not seen";
    if (r.timeTo80)
        s += ", 80 % was in after " + showValue(*r.timeTo80, Unit::Second);
    s += ".";
    if (!c.setup.meter.accuracyKnown())
        s += " The meter's accuracy is not stated.";
    return s;
}

} // namespace

void findRecharge(const Context& c, Finding& f) {
    const trace::RechargePhases phases = rechargePhases(c.trace, c.plateau, c.running, c.setup.full);
    RechargeFinding& r = f.recharge.emplace();
    f.phases = phases.phases;
    f.tierChanges = phases.tierChanges;
    r.bulkSeconds = sumOf(phases.phases, trace::PhaseKind::Bulk);
    r.taperSeconds = sumOf(phases.phases, trace::PhaseKind::Taper);
    r.endOfCharge = phases.end;
    r.throttles = phases.throttles;
    r.plateauWatts = f.wattHours * Measured(c.plateau.watts / f.wattHours.value()); // gains weigh on it alike
    if (phases.start) {
        for (const auto& reached : phases.reached) {
            const Measured span = measuredSpan(c, reached.at - *phases.start);
            (reached.share < 0.6 ? r.timeTo50 : reached.share < 0.9 ? r.timeTo80 : r.timeTo100) = span;
        }
    }

    const std::string of = phases.end ? "of the energy put in until the end of charge"
                                      : "of the energy put in until the log ended: the end of charge was not seen";
    f.figures.push_back(portWorking(c, f));
    const auto time = [&](const char* key, const char* label, const std::optional<Measured>& t) {
        if (!t)
            return;
        Working w = timeWorking(key, label, *t, of);
        w.formula = "moment at which that share of " + showNumber(phases.wattHoursUntilEnd, 4) + " Wh was in";
        w.point = path::pointName(f.point);
        w.parts = {energyWorking(c, f)};
        f.figures.push_back(std::move(w));
    };
    time("time_to_80", "time to 80 %", r.timeTo80);
    time("time_to_100", phases.end ? "time to full" : "time to the end of the log", r.timeTo100);
    time("time_to_50", "time to 50 %", r.timeTo50);
    Working plateau;
    plateau.key = "plateau_watts";
    plateau.label = "plateau watts";
    plateau.value = r.plateauWatts;
    plateau.unit = Unit::Watt;
    plateau.point = path::pointName(f.point);
    plateau.formula = "median of the time within 10 % of the level above which a quarter of the energy flowed";
    f.figures.push_back(plateau);
    f.figures.push_back(timeWorking("bulk_s", "bulk", measuredSpan(c, r.bulkSeconds), "power at 90 % of the plateau or more, throttled stretches not counted"));
    f.figures.push_back(timeWorking("taper_s", "taper", measuredSpan(c, r.taperSeconds), "from the end of bulk until full"));
    holdAgainstClaim(c, f);
    holdAgainstDisplay(c, f);

    if (!phases.end)
        f.warnings.push_back({"end_of_charge_not_seen", "The log ends before the power stayed below " +
                                                            showNumber(c.setup.full.share * 100.0) + " % of the plateau for " +
                                                            showDuration(c.setup.full.seconds) +
                                                            "; percentages are of what the log holds."});
    if (!r.throttles.empty())
        f.warnings.push_back({"throttled", "The power dropped and came back " + std::to_string(r.throttles.size()) +
                                               (r.throttles.size() == 1 ? " time" : " times") + " while in bulk."});
    f.sentence = sentence(c, f);
}

} // namespace otterstone::findings
