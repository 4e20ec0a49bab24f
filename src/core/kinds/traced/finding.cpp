#include "core/kinds/traced/finding.h"

#include <cmath>

#include "core/kinds/parts.h"
#include "core/kinds/traced/context.h"
#include "core/quantity/say.h"
#include "core/trace/clock.h"
#include "core/trace/counters.h"

namespace otterstone::kinds {

namespace {

constexpr double kLeastWattHours = 1e-9; // below, no meter has read anything: quotients of it mean nothing

constexpr double kShortestRun = 1e-6; // s: no instrument reads twice in less

// Times rest on the clock and the sampling alone; everything else on the meter's accuracy, unless so much is known
// besides that a meter's would be the lesser part.
void markPartial(Working& w) {
    w.partialDoubt = !w.isText && w.unit != Unit::Second && w.point != "label" && !mostlyKnown(w.value);
    for (SharedList<Working>* list : {&w.parts, &w.others}) {
        if (list->empty())
            continue;
        for (Working& one : list->changed())
            markPartial(one);
    }
}

void warnOfGaps(const trace::Totals& totals, Finding& f) {
    double seconds = 0.0;
    for (const trace::Gap& g : totals.gaps)
        seconds += g.to - g.from;
    const std::string many = totals.gaps.size() == 1 ? say("1 gap of {} in all", showDuration(seconds))
                                                     : say("{} gaps of {} in all", std::to_string(totals.gaps.size()),
                                                           showDuration(seconds));
    if (totals.gaps.empty())
        return;
    if (totals.gaps.front().bridged)
        f.warnings.push_back(
            {"gap_bridged",
             say("The log has {}. What flowed there is estimated from both sides, with the doubt that leaves.", many)});
    else
        f.warnings.push_back(
            {"gap_left_out",
             say("The log has {}. Nothing is counted there, as the house leaves gaps out: every sum is \"at least\".",
                 many)});
}

void warnOfCounters(const Setup& setup, const trace::Totals& totals, std::vector<Warning>& out) {
    if (setup.from || setup.to)
        return; // the counters run over the whole log
    const auto compare = [&](std::optional<double> counter, double integral, const char* what, const char* unit) {
        if (!counter || integral == 0.0)
            return;
        const double off = std::fabs(*counter) / std::fabs(integral) - 1.0;
        if (std::fabs(off) > trace::kCounterTolerance)
            out.push_back(
                {"counter_differs", say("The meter's own {} counter says {} {}, {} % {} than the samples give.", what,
                                        showNumber(*counter, 4), unit, showNumber(std::fabs(off) * 100.0, 2),
                                        (off > 0 ? say("more") : say("less")))});
    };
    compare(setup.counterWattHours, totals.wattHours, "energy", "Wh");
    compare(setup.counterAmpHours, totals.ampHours, "charge", "Ah");
}

} // namespace

trace::Read readOf(const Setup& s, Kind kind) {
    return {s.meter, s.clock, s.hand.value_or(trace::Between::Joined), s.run, kind == Kind::Recharge};
}

Measured onTrueClock(const Context& c, const Measured& span) {
    Measured m = span;
    if (c.setup.meter.clock)
        m = m.with(ErrorSource::ofInstrument(c.setup.meter.name, "clock"),
                   span.value() * rectangular(*c.setup.meter.clock));
    for (const Contribution& part : c.setup.clock.contributions())
        m = m.with(part.source, span.value() * part.u / c.setup.clock.value());
    return m;
}

void setMeanWatts(const Context& c, Finding& f, const Measured& wattHours, double seconds) {
    if (!(seconds >= kShortestRun)) // it was on between two readings at one moment: no mean can be told of that
        return;
    f.onSeconds = seconds;
    f.meanWatts = wattHours / measuredSpan(c, seconds) * Measured(3600.0);
}

Measured measuredSpan(const Context& c, double seconds) {
    const Measured m = onTrueClock(c, seconds);
    // Each end lies somewhere within a step: half a step either way, twice. Who writes down by hand looks at a clock
    // when it ends.
    const double step = c.setup.hand ? std::min(c.step, 60.0) : c.step;
    return m.with(ErrorSource::ofRun(c.setup.run, "sampling step"), rectangular(step / 2.0) * std::sqrt(2.0));
}

Result<Finding> analyse(const trace::Trace& original, Kind kind, const Setup& setup) {
    if (const auto odd = trace::unsound(original))
        return problem("no_trace", setup.logName, *odd + ".", "Check that the right columns and units were chosen.");
    if (!(setup.clock.value() >= trace::kSlowestClock && setup.clock.value() <= trace::kFastestClock))
        return problem("no_clock", setup.logName, "the meter's clock factor is that of no clock.",
                       "Mend it in the gear drawer.");
    trace::Trace changed;
    const trace::Trace* used = &original;
    if (setup.from || setup.to) {
        changed = cropped(original, setup.from.value_or(-HUGE_VAL), setup.to.value_or(HUGE_VAL));
        used = &changed;
    }
    if (setup.clock.value() != 1.0) {
        changed = rescaled(*used, setup.clock.value());
        used = &changed;
    }
    if (used->size() < 2)
        return problem("too_few_samples", setup.logName, "fewer than two samples lie in what is to be analysed.",
                       "Widen the time window, or check that the right columns were chosen.");
    if (!(used->time.back() - used->time.front() >= kShortestRun))
        return problem("no_time", setup.logName, "all samples lie at one moment.",
                       "Check that the right column was taken for the time, and its unit.");

    Finding f;
    f.kind = kind;
    const double step = trace::medianStep(used->time);
    const double gapSeconds = setup.maxGap.value_or(setup.hand ? HUGE_VAL : trace::gapThreshold(step));
    trace::Plateau plateau = findPlateau(*used, gapSeconds);
    trace::Totals totals = integrate(*used, plateau, gapSeconds, setup.schools.gaps);
    if (totals.wattHours < 0.0) {
        if (used != &changed)
            changed = *used;
        reverseDirection(changed);
        used = &changed;
        plateau = findPlateau(*used, gapSeconds);
        totals = integrate(*used, plateau, gapSeconds, setup.schools.gaps);
        f.warnings.push_back(
            {"direction_reversed",
             say("The currents are negative: the meter counted the other direction. They are taken as positive here.")});
    }
    if (!(totals.wattHours > kLeastWattHours))
        return problem("nothing_flowed", setup.logName, "no energy flowed in this trace.",
                       "Check that the volts and amps columns were chosen rightly.");

    std::vector<trace::Block> blocks = trace::blocksOf(*used, gapSeconds);
    trace::EnergyFigures energy = energyFigures(*used, totals, blocks, readOf(setup, kind));
    const Context c{*used,
                    setup,
                    plateau,
                    gapSeconds,
                    step,
                    totals,
                    std::move(blocks),
                    std::move(energy),
                    {*used, gapSeconds, totals, step},
                    setup.also.empty() ? 0.0
                                       : onsetOf(original, findPlateau(original, gapSeconds)) * setup.clock.value()};
    f.samples = used->size();
    f.skippedLines = setup.skippedLines;
    f.durationSeconds = used->span();
    f.wattHours = c.energy.wattHours;
    const Measured& charge = c.energy.ampHours;
    const Measured mean = charge.value() > 0.0 ? c.energy.wattHours / charge : Measured(0.0);
    if (!used->hasCurrent()) {
        f.warnings.push_back({"no_current", say("The log has watts only, so charge and mean volts are unknown.")});
    } else if (mean.value() > 0.0 && std::isfinite(mean.value()) && std::isfinite(mean.u())) {
        f.milliampHours = charge * Measured(1000.0);
        f.meanVolts = mean;
    } else {
        f.warnings.push_back(
            {"no_charge", say("As much current flowed back as forth, so charge and mean volts say nothing.")});
    }
    setMeanWatts(c, f, f.wattHours, f.durationSeconds);
    f.peakWatts = totals.peakWatts;
    f.gaps = totals.gaps;
    f.point = setup.point;
    f.plateauAmps = plateau.amps;
    f.plateauVolts = plateau.volts;
    f.plateauPower = plateau.watts;
    findPoints(c, f);
    if (setup.rating)
        f.ratedWattHours = setup.rating->energy.value;
    if (!setup.meter.accuracyKnown())
        f.warnings.push_back(
            {"meter_accuracy_unknown",
             say("The meter's accuracy is not stated, so the uncertainty holds only what the log itself shows.")});
    warnOfGaps(totals, f);
    warnOfCounters(setup, totals, f.warnings);

    f.seen.stated = setup.ends;
    f.seen.run = setup.run;
    kind == Kind::Drain ? findDrain(c, f) : findRecharge(c, f);
    addStamps(c, f);
    addCommonFigures(c, f);
    if (!setup.meter.accuracyKnown())
        markWithoutAccuracy(f);
    return settled(std::move(f));
}

void markWithoutAccuracy(Finding& f) {
    for (Working& w : f.figures)
        markPartial(w);
    for (PointFigure& p : f.points)
        markPartial(p.energy);
}

Finding ofSheet(Kind kind, Said said) {
    Finding f;
    f.kind = kind;
    f.sentence = std::move(said.sentence);
    f.figures = std::move(said.figures);
    f.warnings = std::move(said.warnings);
    if (!said.bank)
        return f;
    const auto noted = [](const std::optional<State>& s) {
        return s ? std::optional(KnownState{*s, StateFrom::Stamped, say("the notebook says {}", stateWords(*s))})
                 : std::nullopt;
    };
    f.ends.began = noted(said.bank->began);
    f.ends.ended = noted(said.bank->ended);
    f.durationSeconds = said.bank->seconds;
    f.fills = said.bank->fills;
    return f;
}

const Working* figure(const Finding& finding, std::string_view key) {
    for (const Working& w : finding.figures) {
        if (w.key == key)
            return &w;
    }
    return nullptr;
}

} // namespace otterstone::kinds
