// D1, D3, D7: what a drain says about the bank.
#include "core/kinds/figure_keys.h"
#include "core/kinds/traced/context.h"
#include "core/quantity/say.h"

#include <algorithm>

namespace otterstone::kinds {

namespace {

Working shareWorking(const Finding& f, const Measured& counted, const label::Rating& rating) {
    Working w;
    w.key = key::deliveredShare;
    w.label = say("delivered share");
    w.formula = say("{} ÷ {} Wh", showValue(counted, Unit::WattHour), showNumber(rating.energy.value));
    w.value = counted / Measured(rating.energy.value);
    w.unit = Unit::Share;
    w.point = say("bank out");
    w.note = rating.printed ? say("against the printed Wh") : say("against {}", rating.working.formula);
    w.parts = {*figure(f, key::energyAtPortWh), rating.working};
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
        f.warnings.push_back(
            {"share_above_one",
             say("More came out than the label holds. Check the label's figures and the columns of the log before you trust this.")});
}

Working equivalentWorking(const Measured& counted, double volts, const Finding& f) {
    Working w;
    w.key = key::equivalentMah;
    w.label = say("equivalent charge at {} V", showNumber(volts));
    w.formula = showValue(counted, Unit::WattHour) + " ÷ " + showNumber(volts) + " V × 1000";
    w.value = counted * Measured(1000.0 / volts);
    w.unit = Unit::MilliampHour;
    w.point = say("bank out, as if at cell voltage");
    w.note = say("what came out, in mAh at the cells' nominal voltage: never without it");
    w.parts = {*figure(f, key::energyAtPortWh)};
    return w;
}

// D3: the capacity as each school writes it, with the voltage it is at.
void addCapacity(const Context& c, const Measured& counted, Finding& f) {
    std::vector<Working> all;
    const auto school = [&](Working w, const char* key) {
        w.key = key::capacity;
        w.school = key;
        all.push_back(std::move(w));
    };
    Working wh = *figure(f, key::energyAtPortWh);
    wh.others.clear();
    wh.label = say("what came out, in Wh");
    wh.value = counted;
    school(wh, "wh");
    if (c.setup.cellVolts && c.setup.cellVolts->value > 0.0)
        school(equivalentWorking(counted, c.setup.cellVolts->value, f), "mah_cell");
    if (f.milliampHours) {
        Working out;
        out.label = say("charge out at {}", showValue(*f.meanVolts, Unit::Volt));
        out.value = *f.milliampHours;
        out.unit = Unit::MilliampHour;
        out.formula = say("∫ I dt");
        out.point = path::pointWords(f.point);
        out.note = say("capacity in mAh at the output's voltage: not to be held against cell mAh");
        school(out, "mah_output");
    }
    f.figures.push_back(ledBy("capacity_in", answerOf(c.setup.schools, "capacity_in"), std::move(all)));
}

// The pieces of its sentence.
SaidOfRun saidOf(const Setup& setup, const Finding& f) {
    const auto [counted, where] = countedEnergy(setup, f);
    const std::string to = where.empty() ? say(" came out by the bank's own display") : say(" reached {}", where);
    SaidOfRun s;
    const std::string wh = quoted(setup, counted, Unit::WattHour);
    s.amount = s.amountInWh = wh + to;
    const Working* capacity = figure(f, key::capacity);
    if (capacity && capacity->school != "wh") // mAh never stand without their voltage
        s.amount = quoted(setup, capacity->value, Unit::MilliampHour) +
                   (capacity->school == "mah_cell" ? say(" at {} V", showNumber(setup.cellVolts->value))
                                                   : say(" at {}", showRoughly(f.meanVolts->value(), Unit::Volt))) +
                   " (" + wh + ")" + to;
    if (const Working* share = figure(f, key::deliveredShare))
        s.share = shareWords(setup.meter.accuracyKnown() || mostlyKnown(share->value)
                                 ? showValue(share->value, Unit::Share)
                                 : showRoughly(share->value.value(), Unit::Share),
                             setup.rating && setup.rating->printed, share->parts.back().value.value());
    if (f.durationSeconds > 0.0)
        s.time = showDuration(f.drain->activeSeconds);
    if (!setup.meter.accuracyKnown() && !setup.byDisplay)
        s.restsOn = say(" The meter's accuracy is not stated.");
    return s;
}

} // namespace

void findDrain(const Context& c, Finding& f) {
    const trace::DrainPhases phases = drainPhases(c.trace, c.plateau, c.running);
    DrainFinding& d = f.drain.emplace();
    f.phases = phases.phases;
    f.tierChanges = phases.tierChanges;
    d.endedBy = phases.endedBy;
    const double on = phases.on.value_or(c.trace.time.front());
    const double off = phases.off.value_or(c.trace.time.back());
    f.seen.began = signNear(c, on, false);
    f.seen.ended = signNear(c, off, true);
    f.seen.deviceBegan = deviceNear(c, on, false);
    f.seen.deviceEnded = deviceNear(c, off, true);
    f.seen.ending = endingOfDrain(c, phases);
    if (const auto stamped = stampedEnding(c, off)) { // the tester saw it; the trace alone may show but a cut-off
        f.seen.ending = *stamped;
        f.seen.stamped = true;
        if (*stamped == Ending::Heat)
            d.endedBy = trace::EndedBy::Heat;
    }
    d.pauses = phases.pauses;
    for (const trace::Stretch& gone : phases.interruptions) {
        if (pulledOut(c, gone)) { // no doing of the bank
            d.pauses.push_back(gone);
            continue;
        }
        d.interruptions.push_back(gone);
        d.restarts.push_back(restartOf(c, gone));
    }
    std::sort(d.pauses.begin(), d.pauses.end(),
              [](const trace::Stretch& a, const trace::Stretch& b) { return a.from < b.from; });
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
    f.figures.push_back(timeWorking(
        "active_s", "time under load", measuredSpan(c, d.activeSeconds),
        say("current above {} mA; {}", showNumber(c.plateau.onAmps * 1000.0, 3), endingWords(f.seen.ending))));
    if (!d.interruptions.empty()) {
        std::string text = say("The output was interrupted {}{}", std::to_string(d.interruptions.size()),
                               (d.interruptions.size() == 1 ? say(" time:") : say(" times:")));
        for (std::size_t k = 0; k < d.interruptions.size() && k < 5; ++k)
            text =
                say("{}{}for {} at {}{}", text, (k == 0 ? " " : "; "), showDuration(d.interruptions[k].length()),
                    showDuration(d.interruptions[k].from), (d.restarts[k].empty() ? "" : " (" + d.restarts[k] + ")"));
        f.warnings.push_back({"interrupted", text + "."});
    }
    addGauge(c, f, on, off, d.endedBy == trace::EndedBy::CutOff);
    if (d.endedBy == trace::EndedBy::CutOff)
        (void)addTimeLeft(c, f, off);
    addHeat(c, f, on, off, off);
    addWhereItWent(c, f, on, off);
    f.said = saidOf(c.setup, f);
}

} // namespace otterstone::kinds
