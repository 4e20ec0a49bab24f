// D1, D3, D7: what a drain says about the bank.
#include "core/findings/context.h"

#include <cmath>

#include "core/quantity/parse.h"

namespace otterstone::findings {

namespace {

// Displays are trusted to no better than this many points. Common practice, no published source.
constexpr double kGaugeErrorPoints = 5.0;

struct Said {
    double start = 100.0;
    bool startKnown = false;
    std::optional<double> end;
};

// What the bank's display said when the drain began and ended, from marks first, else from a recorded column.
Said saidPercent(const Context& c, const trace::DrainPhases& phases) {
    Said said;
    const double on = phases.on.value_or(c.trace.time.front());
    const double off = phases.off.value_or(c.trace.time.back());
    const double slack = std::max(60.0, 2.0 * c.step);
    for (std::size_t k = 0; k < c.trace.percent.size(); ++k) {
        const double p = c.trace.percent[k];
        if (std::isnan(p) || c.trace.time[k] < on || c.trace.time[k] > off)
            continue;
        if (!said.startKnown) {
            said.start = p;
            said.startKnown = true;
        }
        said.end = p;
    }
    for (const Mark& m : c.setup.marks) {
        if (m.what != Mark::What::Percent || !m.number)
            continue;
        const double at = m.at * c.setup.clock.value();
        if (std::fabs(at - on) <= slack) {
            said.start = *m.number;
            said.startKnown = true;
        } else if (std::fabs(at - off) <= slack) {
            said.end = *m.number;
        }
    }
    return said;
}

std::string endedWords(trace::EndedBy e) {
    switch (e) {
    case trace::EndedBy::CutOff: return "ended by the bank's cut-off";
    case trace::EndedBy::OverCurrent: return "ended by over-current protection";
    case trace::EndedBy::Heat: return "ended early by heat";
    case trace::EndedBy::User: return "ended by the tester: the port still had its volts";
    case trace::EndedBy::Unknown: return "how it ended cannot be told from the trace";
    }
    return {};
}

void addShare(const Context& c, Finding& f) {
    DrainFinding& d = *f.drain;
    const label::Rating& rating = *c.setup.rating;
    d.deliveredShare = f.portWattHours / Measured(rating.energy.value);
    Working w;
    w.key = "delivered_share";
    w.label = "delivered share";
    w.formula = showValue(f.portWattHours, Unit::WattHour) + " ÷ " + showNumber(rating.energy.value) + " Wh";
    w.value = *d.deliveredShare;
    w.unit = Unit::Share;
    w.point = "bank out";
    w.note = rating.printed ? "school: against the printed Wh" : "school: against the printed mAh × nominal cell voltage";
    w.parts = {portWorking(c, f), rating.working};
    f.figures.push_back(std::move(w));
    if (d.deliveredShare->value() > 1.0)
        f.warnings.push_back({"share_above_one", "More came out than the label holds. Check the label's figures and the "
                                                 "columns of the log before you trust this."});
}

void addEquivalent(const Context& c, Finding& f) {
    DrainFinding& d = *f.drain;
    const double volts = c.setup.cellVolts->value;
    d.equivalentMah = f.portWattHours * Measured(1000.0 / volts);
    Working w;
    w.key = "equivalent_mah";
    w.label = "equivalent charge at " + showNumber(volts) + " V";
    w.formula = showValue(f.portWattHours, Unit::WattHour) + " ÷ " + showNumber(volts) + " V × 1000";
    w.value = *d.equivalentMah;
    w.unit = Unit::MilliampHour;
    w.point = "bank out, as if at cell voltage";
    w.note = "school: capacity in mAh at the cells' nominal voltage";
    w.parts = {portWorking(c, f)};
    f.figures.push_back(std::move(w));
}

void addProjection(const Finding& port, const Said& said, Finding& f) {
    const double used = (said.start - *said.end) / 100.0;
    if (used < 0.05)
        return;
    // Both readings of the display carry its error; a start at 100 % is taken as exact, since a full bank was plugged in.
    const double u = rectangular(kGaugeErrorPoints / 100.0);
    const Measured share = Measured(used).with("the display's own error", u);
    f.drain->projectedWattHours = f.portWattHours / share;
    Working w;
    w.key = "projected_wh";
    w.label = "estimate for a full drain";
    w.formula = showValue(f.portWattHours, Unit::WattHour) + " ÷ " + showNumber(used * 100.0, 3) + " %";
    w.value = *f.drain->projectedWattHours;
    w.unit = Unit::WattHour;
    w.point = "bank out";
    w.note = "an estimate: the run stopped with " + showNumber(*said.end, 3) + " % on the display, which is trusted to ± " +
             showNumber(kGaugeErrorPoints) + " points" + (said.startKnown ? "" : "; taken as full at the start");
    w.parts = {*figure(port, "energy_at_port_wh")};
    f.figures.push_back(std::move(w));
}

std::string sentence(const Context& c, const Finding& f) {
    const Setup& setup = c.setup;
    const DrainFinding& d = *f.drain;
    std::string s = quoted(c, f.portWattHours, Unit::WattHour) + " reached " + placeOf(f);
    if (d.deliveredShare)
        s += ": " +
             (setup.meter.accuracyKnown() ? showValue(*d.deliveredShare, Unit::Share) : showRoughly(d.deliveredShare->value(), Unit::Share)) + " of the " + (setup.rating->printed ? "printed " : "rated ") +
             showNumber(setup.rating->energy.value) + " Wh";
    const std::string time = showDuration(d.activeSeconds);
    if (d.endedBy == trace::EndedBy::Heat)
        s += ", until heat stopped it after " + time + ".";
    else if (d.endedBy == trace::EndedBy::OverCurrent)
        s += ", until over-current protection stopped it after " + time + ".";
    else
        s += ", in " + time + ".";
    if (!setup.meter.accuracyKnown())
        s += " The meter's accuracy is not stated.";
    return s;
}

} // namespace

void findDrain(const Context& c, Finding& f) {
    const trace::DrainPhases phases = drainPhases(c.trace, c.plateau, c.running);
    DrainFinding& d = f.drain.emplace();
    f.phases = phases.phases;
    f.tierChanges = phases.tierChanges;
    d.endedBy = phases.endedBy;
    for (const Mark& m : c.setup.marks) {
        const double at = m.at * c.setup.clock.value();
        if (m.what == Mark::What::Trip && lowered(m.text).find("heat") != std::string::npos && phases.off &&
            std::fabs(at - *phases.off) <= 60.0)
            d.endedBy = trace::EndedBy::Heat; // the tester saw it; the trace alone shows only a cut-off
    }
    d.interruptions = phases.interruptions;
    d.activeSeconds = phases.activeSeconds;

    if (c.setup.rating)
        addShare(c, f);
    f.figures.push_back(portWorking(c, f));
    if (c.setup.cellVolts && c.setup.cellVolts->value > 0.0)
        addEquivalent(c, f);
    f.figures.push_back(timeWorking("active_s", "time under load", measuredSpan(c, d.activeSeconds),
                                    "current above " + showNumber(c.plateau.onAmps * 1000.0, 3) + " mA; " +
                                        endedWords(d.endedBy)));
    const Said said = saidPercent(c, phases);
    if (d.endedBy != trace::EndedBy::CutOff && said.end && *said.end > 0.0)
        addProjection(f, said, f);

    if (!phases.off && d.endedBy == trace::EndedBy::Unknown)
        f.warnings.push_back({"log_ends_under_load", "The log ends while current flows, so the bank may hold more."});
    if (d.endedBy == trace::EndedBy::Heat)
        f.warnings.push_back({"stopped_by_heat", "Heat stopped the run: what was delivered counts, the rest is unknown."});
    if (!d.interruptions.empty())
        f.warnings.push_back({"interrupted", "The output was interrupted " + std::to_string(d.interruptions.size()) +
                                                 (d.interruptions.size() == 1 ? " time." : " times.")});
    f.sentence = sentence(c, f);
}

} // namespace otterstone::findings
