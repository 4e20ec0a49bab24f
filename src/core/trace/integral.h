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
    double hours = 0.0;           ///< time covered, left-out gaps not counted
    std::vector<Gap> gaps;
};

/// The length from which a step is a gap, in seconds, for a trace with this median step.
[[nodiscard]] double gapThreshold(double medianStep);

/// Trapezoid of one step between samples k and k + 1, added to `totals` (in hours). Shared with the book's chunk summaries.
inline void addStep(const Trace& t, std::size_t k, Totals& totals) {
    const double half = (t.time[k + 1] - t.time[k]) / 7200.0;
    totals.wattHours += (t.power(k) + t.power(k + 1)) * half;
    totals.hours += 2.0 * half;
    if (!t.amps.empty() && !t.volts.empty()) {
        totals.ampHours += (t.amps[k] + t.amps[k + 1]) * half;
        totals.voltHours += (t.volts[k] + t.volts[k + 1]) * half;
        totals.squareAmpHours += (t.amps[k] * t.amps[k] + t.amps[k + 1] * t.amps[k + 1]) * half;
    }
}

/// True when a gap between samples k and k + 1 may be joined linearly (C2).
[[nodiscard]] bool canBridge(const Trace& trace, std::size_t k, const Plateau& plateau);

/// Source of the rule: definition of work and charge; trapezoid after any numerical-analysis text; checked against
/// closed forms and numpy.
[[nodiscard]] Totals integrate(const Trace& trace, const Plateau& plateau, double gapSeconds);

} // namespace otterstone::trace
