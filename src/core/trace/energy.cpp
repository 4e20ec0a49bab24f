#include "core/trace/energy.h"

#include <algorithm>
#include <cmath>

#include "core/path/meter_errors.h"
#include "core/quantity/format.h"

namespace otterstone::trace {

namespace {

double greatest(const Readings& r, bool asked) {
    double most = 0.0;
    for (std::size_t k = 0; asked && k < r.size(); ++k)
        most = std::max(most, std::fabs(r[k]));
    return most;
}

// What an offset of one volt or ampere, and one of the other, come to in a weighed sum.
struct Levers {
    double wattHours = 0.0, ampHours = 0.0, voltHours = 0.0, hours = 0.0;
};

Levers leversOf(const std::vector<Block>& blocks, const Weighing& weighing) {
    Levers l;
    for (const Block& b : blocks) {
        const double hours = weighing.of(b) * b.hours;
        l.ampHours += b.amps * hours;
        l.voltHours += b.volts * hours;
        l.hours += hours;
    }
    return l;
}

// Where the meter was used: by the level of the energy, so that idle times do not matter.
path::OperatingPoint pointOf(const Totals& t, const Read& read) {
    return {t.ampHours != 0.0 ? t.wattHours / t.ampHours : 0.0, t.ampHours != 0.0 ? t.squareAmpHours / t.ampHours : 0.0,
            read.intoBank};
}

struct Accuracies {
    std::optional<path::Accuracy> volts, amps;
    path::OperatingPoint at;
};

Accuracies accuraciesOf(const Trace& trace, const Totals& totals, const Read& read) {
    // Watts alone: the gains of both weigh on them, offsets cannot be told.
    return {read.meter.voltsUpTo(greatest(trace.volts, !read.meter.voltsRanges.empty())),
            read.meter.ampsUpTo(greatest(trace.amps, !read.meter.ampsRanges.empty())), pointOf(totals, read)};
}

// The errors of gain and offset, the digits and what lies between the samples, on a sum that weighs the trace's energy.
Measured withReadingErrors(Measured m, double unit, const Levers& l, const LeftOpen& open, const Accuracies& acc,
                           const Trace& trace, const Read& read) {
    const std::string& name = read.meter.name;
    const auto meters = [&](const char* what, double u) { m = path::withInstrument(m, name, what, u * unit, acc.at); };
    if (acc.volts) {
        meters("volts gain", l.wattHours * rectangular(acc.volts->gain));
        meters("volts offset", l.ampHours * rectangular(acc.volts->offset + acc.volts->digits * trace.voltsStep));
    }
    if (acc.amps) {
        meters("amps gain", l.wattHours * rectangular(acc.amps->gain));
        meters("amps offset", l.voltHours * rectangular(acc.amps->offset + acc.amps->digits * trace.ampsStep));
    }
    return m.with(ErrorSource::ofRun(read.run, name + ": volts digits"), open.voltsDigitsWattHours * unit)
        .with(ErrorSource::ofRun(read.run, name + ": amps digits"), open.ampsDigitsWattHours * unit)
        .with(ErrorSource::ofRun(read.run, "between samples"), open.betweenWattHours * unit);
}

// Each of the widest gaps leaves an error of its own; the many small ones of a log full of holes make up one, or a
// budget would be as long as the log.
constexpr std::size_t kOwnGaps = 40;

ErrorSource gapSource(const Gap& gap, const Read& read) {
    return ErrorSource::ofRun(read.run, "gap at " + showNumber(gap.from, 7) + " s");
}

// `doubt`: what a gap leaves open in this figure.
template<class Doubt>
Measured withGaps(Measured m, const Totals& totals, const Read& read, Doubt doubt) {
    std::vector<const Gap*> gaps;
    for (const Gap& gap : totals.gaps) {
        if (gap.bridged) // else the sum is "at least", by the house's choice
            gaps.push_back(&gap);
    }
    const std::size_t own = std::min(kOwnGaps, gaps.size());
    std::partial_sort(gaps.begin(), gaps.begin() + static_cast<std::ptrdiff_t>(own), gaps.end(),
                      [](const Gap* a, const Gap* b) { return a->uWattHours > b->uWattHours; });
    double others = 0.0;
    for (std::size_t k = 0; k < gaps.size(); ++k) {
        const double u = doubt(*gaps[k]);
        if (k < own)
            m = m.with(gapSource(*gaps[k], read), u);
        else
            others += u * u;
    }
    return others > 0.0 ? m.with(ErrorSource::ofRun(read.run, "smaller gaps"), std::sqrt(others)) : m;
}

} // namespace

EnergyFigures energyFigures(const Trace& trace, const Totals& totals, const std::vector<Block>& blocks,
                            const Read& read) {
    EnergyFigures f{totals.wattHours, totals.ampHours, totals.squareAmpHours, read.clock.value()};
    const std::string& name = read.meter.name;
    const Accuracies acc = accuraciesOf(trace, totals, read);
    const LeftOpen open = leftOpen(blocks, trace.voltsStep, trace.ampsStep, read.between);
    f.wattHours = withReadingErrors(
        f.wattHours, 1.0, {totals.wattHours, totals.ampHours, totals.voltHours, totals.hours}, open, acc, trace, read);
    if (acc.amps) {
        const double gain = rectangular(acc.amps->gain);
        const double offset = rectangular(acc.amps->offset + acc.amps->digits * trace.ampsStep);
        f.ampHours = withInstrument(withInstrument(f.ampHours, name, "amps gain", totals.ampHours * gain, acc.at), name,
                                    "amps offset", totals.hours * offset, acc.at);
        f.squareAmpHours = withInstrument(
            withInstrument(f.squareAmpHours, name, "amps gain", 2.0 * totals.squareAmpHours * gain, acc.at), name,
            "amps offset", 2.0 * totals.ampHours * offset, acc.at);
    }
    const double level = acc.at.amps; // a squared current is off by twice that, for each ampere hour
    const SharedSource digits = ErrorSource::ofRun(read.run, name + ": amps digits"),
                       between = ErrorSource::ofRun(read.run, "between samples");
    f.ampHours = f.ampHours.with(digits, open.ampsDigitsAmpHours).with(between, open.betweenAmpHours);
    f.squareAmpHours = f.squareAmpHours.with(digits, 2.0 * level * open.ampsDigitsAmpHours)
                           .with(between, level * open.betweenAmpHours);

    const auto scaleByTime = [&](const SharedSource& source, double relative) {
        f.wattHours = f.wattHours.with(source, totals.wattHours * relative);
        f.ampHours = f.ampHours.with(source, totals.ampHours * relative);
        f.squareAmpHours = f.squareAmpHours.with(source, totals.squareAmpHours * relative);
    };
    if (read.meter.clock)
        scaleByTime(ErrorSource::ofInstrument(name, "clock"), rectangular(*read.meter.clock));
    for (const Contribution& c : read.clock.contributions())
        scaleByTime(c.source, c.u / read.clock.value());

    f.wattHours = withGaps(f.wattHours, totals, read, [](const Gap& gap) { return gap.uWattHours; });
    f.ampHours = withGaps(f.ampHours, totals, read, [](const Gap& gap) { return gap.uAmpHours; });
    f.squareAmpHours =
        withGaps(f.squareAmpHours, totals, read, [level](const Gap& gap) { return level * gap.uAmpHours; });
    return f;
}

Measured shareSpan(const Moment& moment, const Trace& trace, const Totals& totals, const std::vector<Block>& blocks,
                   const Read& read) {
    // The moment is where E(t) = share · E(end): it moves by (share · δE(end) − δE(t)) ÷ watts.
    const Weighing weighing{moment.share - 1.0, moment.share, moment.at};
    std::vector<Block> until;
    for (const Block& b : blocks) {
        if (b.from < moment.end && b.to > moment.start)
            until.push_back(b);
    }
    const double secondsPerWattHour = 3600.0 / moment.watts;
    const Measured m = withReadingErrors(moment.at - moment.start, secondsPerWattHour, leversOf(until, weighing),
                                         leftOpen(until, trace.voltsStep, trace.ampsStep, read.between, weighing),
                                         accuraciesOf(trace, totals, read), trace, read);
    return withGaps(m, totals, read, [&](const Gap& gap) {
        return gap.from < moment.end && gap.to > moment.start
                   ? weighing.of(gap.from) * gap.uWattHours * secondsPerWattHour
                   : 0.0;
    });
}

Measured referEnergy(const EnergyFigures& atMeter, const Measured& ohms, int towardsSource) {
    const Measured loss = ohms * atMeter.squareAmpHours;
    return towardsSource > 0 ? atMeter.wattHours + loss : atMeter.wattHours - loss;
}

} // namespace otterstone::trace
