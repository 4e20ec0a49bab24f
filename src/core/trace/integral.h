// C1, C2: energy and charge of a trace by the trapezoid rule on the samples as they are, and its gaps.
#pragma once

#include <vector>

#include "core/trace/gaps.h"
#include "core/trace/plateau.h"
#include "core/trace/trace.h"

namespace otterstone::trace {

struct Totals {
    double wattHours = 0.0;      ///< ∫V·I dt
    double ampHours = 0.0;       ///< ∫I dt; 0 without a current column
    double voltHours = 0.0;      ///< ∫V dt
    double squareAmpHours = 0.0; ///< ∫I² dt
    double peakWatts = 0.0;      ///< greatest sample
    double hours = 0.0;          ///< time covered, gaps only where they are counted
    std::vector<Gap> gaps;
    std::vector<std::size_t> switches; ///< samples at which the output goes on, off, on …; it is off before the first
    std::vector<double>
        checkpoints; ///< Wh before every kCheckpointRows-th sample, so that any stretch is summed quickly
};

inline constexpr std::size_t kCheckpointRows = 1024;

/// The length from which a step is a gap, in seconds, for a trace with this median step.
[[nodiscard]] double gapThreshold(double medianStep);

struct Sample {
    double time = 0.0, volts = 0.0, amps = 0.0, watts = 0.0;
};

/// Trapezoid of one step, added to `totals` (in hours).
inline void addStep(const Sample& a, const Sample& b, Totals& totals) {
    const double half = (b.time - a.time) / 7200.0;
    totals.wattHours += (a.watts + b.watts) * half;
    totals.hours += 2.0 * half;
    totals.ampHours += (a.amps + b.amps) * half;
    totals.voltHours += (a.volts + b.volts) * half;
    totals.squareAmpHours += (a.amps * a.amps + b.amps * b.amps) * half;
}

/// Source of the rule: definition of work and charge; trapezoid after any numerical-analysis text; checked against
/// closed forms and numpy.
[[nodiscard]] Totals integrate(const Trace& trace, const Plateau& plateau, double gapSeconds,
                               GapRule gaps = GapRule::Estimate);

/// Energy as integrate() counts it, from the first sample up to sample k.
class RunningEnergy {
public:
    RunningEnergy(const Trace& trace, double gapSeconds, const Totals& totals)
        : RunningEnergy(trace, gapSeconds, totals, medianStep(trace.time)) {}
    /// `usualStep`: the trace's medianStep(), s, where it is known already.
    RunningEnergy(const Trace& trace, double gapSeconds, const Totals& totals, double usualStep)
        : trace_(trace), gapSeconds_(gapSeconds), totals_(totals), usualStep_(usualStep) {}

    /// Of the step between samples k and k + 1; across a gap what is counted there.
    [[nodiscard]] double step(std::size_t k) const;
    /// Up to sample `k` (clamped to the last).
    [[nodiscard]] double upTo(std::size_t k) const;
    /// The moment at which `wattHours` had flowed, the power being a straight line within each step, and even across a
    /// gap.
    [[nodiscard]] double momentOf(double wattHours) const;
    [[nodiscard]] const Totals& totals() const { return totals_; }
    /// The median of the steps, s.
    [[nodiscard]] double usualStep() const { return usualStep_; }

private:
    const Trace& trace_;
    double gapSeconds_;
    const Totals& totals_;
    double usualStep_;
};

} // namespace otterstone::trace
