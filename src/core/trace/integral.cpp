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
    totals.checkpoints.reserve(trace.size() / kCheckpointRows + 1);
    const bool current = trace.hasCurrent();
    const auto sample = [&](std::size_t k) {
        const double v = current ? trace.volts[k] : 0.0;
        const double i = current ? trace.amps[k] : 0.0;
        return Sample{trace.time[k], v, i, trace.watts.empty() ? v * i : trace.watts[k]};
    };
    Sample here = trace.size() > 0 ? sample(0) : Sample{};
    totals.peakWatts = here.watts;
    for (std::size_t k = 0; k + 1 < trace.size(); ++k) {
        if (k % kCheckpointRows == 0)
            totals.checkpoints.push_back(totals.wattHours);
        const Sample next = sample(k + 1);
        totals.peakWatts = std::max(totals.peakWatts, next.watts);
        if (next.time - here.time <= gapSeconds) {
            addStep(here, next, totals);
        } else {
            Totals across;
            addStep(here, next, across);
            const Gap gap{here.time, next.time, canBridge(trace, k, plateau), across.wattHours, across.ampHours};
            if (gap.bridged)
                addStep(here, next, totals);
            totals.gaps.push_back(gap);
        }
        here = next;
    }
    return totals;
}

double RunningEnergy::step(std::size_t k) const {
    const double dt = trace_.time[k + 1] - trace_.time[k];
    if (dt > gapSeconds_ && !canBridge(trace_, k, plateau_))
        return 0.0;
    return (trace_.power(k) + trace_.power(k + 1)) * dt / 7200.0;
}

double RunningEnergy::upTo(std::size_t k) const {
    if (trace_.size() < 2)
        return 0.0;
    k = std::min(k, trace_.size() - 1);
    const std::size_t from = std::min(k / kCheckpointRows, totals_.checkpoints.size() - 1);
    double energy = totals_.checkpoints[from];
    for (std::size_t j = from * kCheckpointRows; j < k; ++j)
        energy += step(j);
    return energy;
}

double RunningEnergy::momentOf(double wattHours) const {
    const std::vector<double>& points = totals_.checkpoints;
    const auto after = std::upper_bound(points.begin(), points.end(), wattHours);
    std::size_t k = after == points.begin() ? 0 : static_cast<std::size_t>(after - points.begin() - 1) * kCheckpointRows;
    double energy = upTo(k);
    for (; k + 2 < trace_.size(); ++k) {
        const double more = step(k);
        if (energy + more >= wattHours)
            break;
        energy += more;
    }
    // Within the step the power is a straight line: p0·x + slope·x²/2 = wanted.
    const double dt = trace_.time[k + 1] - trace_.time[k];
    const double p0 = trace_.power(k);
    const double slope = dt > 0.0 ? (trace_.power(k + 1) - p0) / dt : 0.0;
    const double wanted = (wattHours - energy) * 3600.0;
    const double root = p0 * p0 + 2.0 * slope * wanted;
    const double x = root <= 0.0 || p0 + std::sqrt(root) <= 0.0 ? dt : 2.0 * wanted / (p0 + std::sqrt(root));
    return trace_.time[k] + std::clamp(x, 0.0, dt);
}

} // namespace otterstone::trace
