#include "core/trace/energy.h"

#include <algorithm>
#include <cmath>

#include "core/quantity/format.h"

namespace otterstone::trace {

namespace {

// Standard uncertainty of a reading rounded to the nearest digit: step / √12 (JCGM 100:2008, F.2.2.1).
double rounding(double step) { return step / std::sqrt(12.0); }

} // namespace

EnergyFigures energyFigures(const Trace& trace, const Totals& totals, const path::Meter& meter, const Measured& clock) {
    EnergyFigures f{totals.wattHours, totals.ampHours, totals.squareAmpHours, clock.value()};
    const std::string& m = meter.name;
    const auto greatest = [](const Readings& r, bool asked) {
        double most = 0.0;
        for (std::size_t k = 0; asked && k < r.size(); ++k)
            most = std::max(most, std::fabs(r[k]));
        return most;
    };
    // Watts alone: the gains of both weigh on them, offsets cannot be told.
    const auto volts = meter.voltsUpTo(greatest(trace.volts, !meter.voltsRanges.empty()));
    const auto amps = meter.ampsUpTo(greatest(trace.amps, !meter.ampsRanges.empty()));
    if (volts) {
        f.wattHours = f.wattHours.with(m + ": volts gain", totals.wattHours * rectangular(volts->gain))
                          .with(m + ": volts offset", totals.ampHours * rectangular(volts->offset + volts->digits * trace.voltsStep));
    }
    if (amps) {
        const double gain = rectangular(amps->gain);
        const double offset = rectangular(amps->offset + amps->digits * trace.ampsStep);
        f.wattHours = f.wattHours.with(m + ": amps gain", totals.wattHours * gain)
                          .with(m + ": amps offset", totals.voltHours * offset);
        f.ampHours = f.ampHours.with(m + ": amps gain", totals.ampHours * gain)
                         .with(m + ": amps offset", totals.hours * offset);
        f.squareAmpHours = f.squareAmpHours.with(m + ": amps gain", 2.0 * totals.squareAmpHours * gain)
                               .with(m + ": amps offset", 2.0 * totals.ampHours * offset);
    }
    f.wattHours = f.wattHours.with(m + ": volts resolution", totals.ampHours * rounding(trace.voltsStep))
                      .with(m + ": amps resolution", totals.voltHours * rounding(trace.ampsStep));
    f.ampHours = f.ampHours.with(m + ": amps resolution", totals.hours * rounding(trace.ampsStep));

    const auto scaleByTime = [&](const std::string& source, double relative) {
        f.wattHours = f.wattHours.with(source, totals.wattHours * relative);
        f.ampHours = f.ampHours.with(source, totals.ampHours * relative);
        f.squareAmpHours = f.squareAmpHours.with(source, totals.squareAmpHours * relative);
    };
    if (meter.clock)
        scaleByTime(m + ": clock", rectangular(*meter.clock));
    for (const Contribution& c : clock.contributions())
        scaleByTime(c.source, c.u / clock.value());

    for (const Gap& gap : totals.gaps) {
        const std::string source = "gap at " + showNumber(gap.from, 7) + " s";
        f.wattHours = f.wattHours.with(source, rectangular(0.5 * gap.wattHours));
        f.ampHours = f.ampHours.with(source, rectangular(0.5 * gap.ampHours));
    }
    return f;
}

Measured referEnergy(const EnergyFigures& atMeter, const Measured& ohms, int towardsSource) {
    const Measured loss = ohms * atMeter.squareAmpHours;
    return towardsSource > 0 ? atMeter.wattHours + loss : atMeter.wattHours - loss;
}

} // namespace otterstone::trace
