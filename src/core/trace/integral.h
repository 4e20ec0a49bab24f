// C1, C2: energy and charge of a trace by the trapezoid rule on the samples as they are, and its gaps.
#pragma once

#include <vector>

#include "core/trace/plateau.h"
#include "core/trace/trace.h"

namespace otterstone::trace {

/// A step longer than max(5 × median step, 5 s).
struct Gap {
    double from = 0.0;
    double to = 0.0;
    bool bridged = false;    ///< joined linearly: both sides in the same state and within 20 % in power
    double wattHours = 0.0;  ///< what the straight line across it holds, counted or not
    double ampHours = 0.0;
};

struct Totals {
    double wattHours = 0.0;       ///< ∫V·I dt
    double ampHours = 0.0;        ///< ∫I dt; 0 without a current column
    double voltHours = 0.0;       ///< ∫V dt
    double squareAmpHours = 0.0;  ///< ∫I² dt
    double peakWatts = 0.0;       ///< greatest sample
    double hours = 0.0;           ///< time covered, left-out gaps not counted
    std::vector<Gap> gaps;
    std::vector<std::size_t> switches; ///< samples at which the output goes on, off, on …; it is off before the first
    std::vector<double> checkpoints; ///< Wh before every kCheckpointRows-th sample, so that any stretch is summed quickly
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

/// True when a gap between samples k and k + 1 may be joined linearly (C2).
[[nodiscard]] bool canBridge(const Trace& trace, std::size_t k, const Plateau& plateau);

/// Source of the rule: definition of work and charge; trapezoid after any numerical-analysis text; checked against
/// closed forms and numpy.
[[nodiscard]] Totals integrate(const Trace& trace, const Plateau& plateau, double gapSeconds);

/// Energy as integrate() counts it, from the first sample up to sample k.
class RunningEnergy {
public:
    RunningEnergy(const Trace& trace, const Plateau& plateau, double gapSeconds, const Totals& totals)
        : trace_(trace), plateau_(plateau), gapSeconds_(gapSeconds), totals_(totals) {}

    /// Of the step between samples k and k + 1; 0 across a gap that is left out.
    [[nodiscard]] double step(std::size_t k) const;
    /// Up to sample `k` (clamped to the last).
    [[nodiscard]] double upTo(std::size_t k) const;
    /// The moment at which `wattHours` had flowed, the power being a straight line within each step.
    [[nodiscard]] double momentOf(double wattHours) const;
    [[nodiscard]] const Totals& totals() const { return totals_; }

private:
    const Trace& trace_;
    const Plateau& plateau_;
    double gapSeconds_;
    const Totals& totals_;
};

} // namespace otterstone::trace
