#include "core/trace/integral.h"

#include <algorithm>
#include <cmath>

namespace otterstone::trace {

namespace {
constexpr double kBridgeTolerance = 0.20;
}

double gapThreshold(double medianStep) { return std::max(5.0 * medianStep, 5.0); }

bool canBridge(const Trace& trace, std::size_t k, const Plateau& plateau) {
    if (plateau.isOn(trace, k) != plateau.isOn(trace, k + 1))
        return false;
    if (!plateau.isOn(trace, k))
        return true; // off on both sides: next to nothing flowed, whatever the ratio of the two readings
    const double a = std::fabs(trace.power(k));
    const double b = std::fabs(trace.power(k + 1));
    return std::fabs(a - b) <= kBridgeTolerance * std::max(a, b);
}

Totals integrate(const Trace& trace, const Plateau& plateau, double gapSeconds) {
    Totals totals;
    for (std::size_t k = 0; k + 1 < trace.size(); ++k) {
        if (trace.time[k + 1] - trace.time[k] <= gapSeconds) {
            addStep(trace, k, totals);
            continue;
        }
        Totals across;
        addStep(trace, k, across);
        Gap gap{trace.time[k], trace.time[k + 1], canBridge(trace, k, plateau), across.wattHours, across.ampHours};
        if (gap.bridged)
            addStep(trace, k, totals);
        totals.gaps.push_back(gap);
    }
    return totals;
}

} // namespace otterstone::trace
