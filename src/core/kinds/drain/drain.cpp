// D1, D3, D7: what a drain says about the bank.
#include "core/kinds/traced/context.h"

#include <cmath>

#include "core/quantity/parse.h"

namespace otterstone::kinds {

namespace {

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

Working shareWorking(const Finding& f, const Measured& counted, const label::Rating& rating) {
    Working w;
    w.key = "delivered_share";
    w.label = "delivered share";
    w.formula = showValue(counted, Unit::WattHour) + " ÷ " + showNumber(rating.energy.value) + " Wh";
    w.value = counted / Measured(rating.energy.value);
    w.unit = Unit::Share;
    w.point = "bank out";
    w.note = rating.printed ? "against the printed Wh" : "against " + rating.working.formula;
    w.parts = {*figure(f, "energy_at_port_wh"), rating.working};
    return w;
}

void addShare(const Context& c, const Measured& counted, Finding& f) {
    DrainFinding& d = *f.drain;
    std::vector<Working> all;
    for (const auto& [reference, rating] : c.setup.ratings) {
        all.push_back(shareWorking(f, counted, rating));
        all.back().school = question("reference").answers[static_cast<std::size_t>(reference)].key;
    }
    Working w = all.empty() ? shareWorking(f, counted, *c.setup.rating)
                            : ledBy("reference", answerOf(c.setup.schools, "reference"), std::move(all));
    d.deliveredShare = w.value;
    f.figures.push_back(std::move(w));
    if (d.deliveredShare->value() > 1.0)
        f.warnings.push_back({"share_above_one",
                              "More came out than the label holds. Check the label's figures and the "
                              "columns of the log before you trust this."});
}

Working equivalentWorking(const Measured& counted, double volts, const Finding& f) {
    Working w;
    w.key = "equivalent_mah";
    w.label = "equivalent charge at " + showNumber(volts) + " V";
    w.formula = showValue(counted, Unit::WattHour) + " ÷ " + showNumber(volts) + " V × 1000";
    w.value = counted * Measured(1000.0 / volts);
    w.unit = Unit::MilliampHour;
    w.point = "bank out, as if at cell voltage";
    w.note = "capacity in mAh at the cells' nominal voltage: never without it";
    w.parts = {*figure(f, "energy_at_port_wh")};
    return w;
}

// D3: the capacity as each school writes it, with the voltage it is at.
void addCapacity(const Context& c, const Measured& counted, Finding& f) {
    std::vector<Working> all;
    const auto school = [&](Working w, const char* key) {
        w.key = "capacity";
        w.school = key;
        all.push_back(std::move(w));
    };
    Working wh = *figure(f, "energy_at_port_wh");
    wh.others.clear();
    wh.label = "what came out, in Wh";
    wh.value = counted;
    school(wh, "wh");
    if (c.setup.cellVolts && c.setup.cellVolts->value > 0.0)
        school(equivalentWorking(counted, c.setup.cellVolts->value, f), "mah_cell");
    if (f.milliampHours) {
        Working out;
        out.label = "charge out at " + showValue(*f.meanVolts, Unit::Volt);
        out.value = *f.milliampHours;
        out.unit = Unit::MilliampHour;
        out.formula = "∫ I dt";
        out.point = path::pointName(f.point);
        out.note = "capacity in mAh at the output's voltage: not to be held against cell mAh";
        school(out, "mah_output");
    }
    f.figures.push_back(ledBy("capacity_in", answerOf(c.setup.schools, "capacity_in"), std::move(all)));
}

void addProjection(const Setup& setup, const Said& said, Finding& f) {
    const double used = (said.start - *said.end) / 100.0;
    if (used < 0.05)
        return;
    // Both readings of the display carry its error; a start at 100 % is taken as exact, since a full bank was plugged
    // in.
    const double u = rectangular(setup.gaugeErrorPoints / 100.0);
    const Measured share = Measured(used).with(ErrorSource::ofRun(setup.run, "the display's own error"), u);
    f.drain->projectedWattHours = f.portWattHours / share;
    Working w;
    w.key = "projected_wh";
    w.label = "estimate for a full drain";
    w.formula = showValue(f.portWattHours, Unit::WattHour) + " ÷ " + showNumber(used * 100.0, 3) + " %";
    w.value = *f.drain->projectedWattHours;
    w.unit = Unit::WattHour;
    w.point = "bank out";
    w.note = "an estimate: the run stopped with " + showNumber(*said.end, 3) +
             " % on the display, which is trusted to ± " + showNumber(setup.gaugeErrorPoints) + " points" +
             (said.startKnown ? "" : "; taken as full at the start");
    w.parts = {*figure(f, "energy_at_port_wh")};
    f.figures.push_back(std::move(w));
}

std::string sentence(const Setup& setup, const Finding& f) {
    const DrainFinding& d = *f.drain;
    const auto [counted, where] = countedEnergy(setup, f);
    std::string s = quoted(setup, counted, Unit::WattHour);
    const Working* capacity = figure(f, "capacity");
    if (capacity && capacity->school != "wh") // mAh never stand without their voltage
        s = quoted(setup, capacity->value, Unit::MilliampHour) +
            (capacity->school == "mah_cell" ? " at " + showNumber(setup.cellVolts->value) + " V"
                                            : " at " + showRoughly(f.meanVolts->value(), Unit::Volt)) +
            " (" + s + ")";
    s += where.empty() ? std::string(" came out by the bank's own display") : " reached " + where;
    if (d.deliveredShare)
        s += ": " +
             (setup.meter.accuracyKnown() ? showValue(*d.deliveredShare, Unit::Share)
                                          : showRoughly(d.deliveredShare->value(), Unit::Share)) +
             " of the " +
             (figure(f, "delivered_share")->note.starts_with("against the printed Wh") ? "printed " : "rated ") +
             showNumber(figure(f, "delivered_share")->parts.back().value.value()) + " Wh";
    if (f.durationSeconds > 0.0) {
        const std::string time = showDuration(d.activeSeconds);
        s += d.endedBy == trace::EndedBy::Heat          ? ", until heat stopped it after " + time
             : d.endedBy == trace::EndedBy::OverCurrent ? ", until over-current protection stopped it after " + time
                                                        : ", in " + time;
    }
    s += ".";
    if (!setup.meter.accuracyKnown())
        s += setup.byDisplay ? "" : " The meter's accuracy is not stated.";
    return s;
}

// What an interruption needed to go on, as the tester stamped it around its end.
std::string restartOf(const Context& c, const trace::Stretch& off) {
    for (const Mark& m : c.setup.marks) {
        const double at = m.at * c.setup.clock.value();
        if (at < off.from - 1.0 || at > off.to + 60.0)
            continue;
        if (m.what == Mark::What::Plugged)
            return m.text.empty() ? "replug" : m.text;
        if ((m.what == Mark::What::Note || m.what == Mark::What::Trip) && !m.text.empty())
            return m.text;
    }
    return {};
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
    for (const trace::Stretch& off : d.interruptions)
        d.restarts.push_back(restartOf(c, off));
    d.pauses = phases.pauses;
    d.activeSeconds = phases.activeSeconds;
    if (d.activeSeconds > 0.0)
        setMeanWatts(c, f, f.wattHours, d.activeSeconds);

    addEnergyFigures(c, f);
    const Measured counted = countedEnergy(c.setup, f).first;
    if (c.setup.rating)
        addShare(c, counted, f);
    addCapacity(c, counted, f);
    if (c.setup.cellVolts && c.setup.cellVolts->value > 0.0) {
        f.figures.push_back(equivalentWorking(counted, c.setup.cellVolts->value, f));
        d.equivalentMah = f.figures.back().value;
    }
    f.figures.push_back(
        timeWorking("active_s", "time under load", measuredSpan(c, d.activeSeconds),
                    "current above " + showNumber(c.plateau.onAmps * 1000.0, 3) + " mA; " + endedWords(d.endedBy)));
    const Said said = saidPercent(c, phases);
    if (d.endedBy != trace::EndedBy::CutOff && said.end && *said.end > 0.0)
        addProjection(c.setup, said, f);

    if (!phases.off && d.endedBy == trace::EndedBy::Unknown)
        f.warnings.push_back({"log_ends_under_load", "The log ends while current flows, so the bank may hold more."});
    if (d.endedBy == trace::EndedBy::Heat)
        f.warnings.push_back(
            {"stopped_by_heat", "Heat stopped the run: what was delivered counts, the rest is unknown."});
    if (!d.interruptions.empty()) {
        std::string text = "The output was interrupted " + std::to_string(d.interruptions.size()) +
                           (d.interruptions.size() == 1 ? " time:" : " times:");
        for (std::size_t k = 0; k < d.interruptions.size() && k < 5; ++k)
            text += (k == 0 ? " " : "; ") + std::string("for ") + showDuration(d.interruptions[k].length()) + " at " +
                    showDuration(d.interruptions[k].from) + (d.restarts[k].empty() ? "" : " (" + d.restarts[k] + ")");
        f.warnings.push_back({"interrupted", text + "."});
    }
    const double on = phases.on.value_or(c.trace.time.front());
    const double off = phases.off.value_or(c.trace.time.back());
    addGauge(c, f, on, off, d.complete());
    addHeat(c, f, on, off, off);
    addWhereItWent(c, f);
    f.sentence = sentence(c.setup, f);
}

} // namespace otterstone::kinds
