#include "core/trace/integral.h"

#include <algorithm>
#include <array>
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

namespace {

// Some samples as doubles, decoded together: that is several times as fast as one by one.
struct Block {
    std::array<double, kCheckpointRows + 1> volts{}, amps{}, watts{}, weight{};

    void decode(const Trace& t, std::size_t first, std::size_t count) {
        if (t.hasCurrent()) {
            t.volts.decode(first, count, volts.data());
            t.amps.decode(first, count, amps.data());
            for (std::size_t k = 0; k < count; ++k)
                watts[k] = volts[k] * amps[k];
        }
        if (!t.watts.empty())
            std::copy_n(t.watts.data() + first, count, watts.data());
    }
    [[nodiscard]] Sample at(std::size_t k, double time) const { return {time, volts[k], amps[k], watts[k]}; }

    // All steps of a block without gaps: each sample weighs half of the steps on its two sides. Four lanes a sum, so that the
    // compiler can keep them in wide registers; adding in another order changes the last digits of a double, no more.
    void addAll(const double* time, std::size_t count, Totals& totals) {
        constexpr std::size_t kLanes = 4;
        for (std::size_t k = 1; k + 1 < count; ++k)
            weight[k] = (time[k + 1] - time[k - 1]) / 7200.0;
        weight[0] = (time[1] - time[0]) / 7200.0;
        weight[count - 1] = (time[count - 1] - time[count - 2]) / 7200.0;
        std::array<double, kLanes> p{}, i{}, v{}, s{};
        std::size_t k = 0;
        for (; k + kLanes <= count; k += kLanes) {
            for (std::size_t l = 0; l < kLanes; ++l) {
                p[l] += watts[k + l] * weight[k + l];
                i[l] += amps[k + l] * weight[k + l];
                v[l] += volts[k + l] * weight[k + l];
                s[l] += amps[k + l] * amps[k + l] * weight[k + l];
            }
        }
        for (; k < count; ++k) {
            p[0] += watts[k] * weight[k];
            i[0] += amps[k] * weight[k];
            v[0] += volts[k] * weight[k];
            s[0] += amps[k] * amps[k] * weight[k];
        }
        const auto sum = [](const std::array<double, kLanes>& lanes) { return (lanes[0] + lanes[1]) + (lanes[2] + lanes[3]); };
        totals.wattHours += sum(p);
        totals.ampHours += sum(i);
        totals.voltHours += sum(v);
        totals.squareAmpHours += sum(s);
        totals.hours += (time[count - 1] - time[0]) / 3600.0;
    }
};

double longestStep(const double* time, std::size_t count) {
    double longest = 0.0;
    for (std::size_t k = 1; k < count; ++k)
        longest = std::max(longest, time[k] - time[k - 1]);
    return longest;
}

} // namespace

Totals integrate(const Trace& trace, const Plateau& plateau, double gapSeconds) {
    Totals totals;
    const std::size_t n = trace.size();
    totals.checkpoints.reserve(n / kCheckpointRows + 1);
    const double* const time = trace.time.data();
    const bool current = trace.hasCurrent();
    const double onLevel = current ? plateau.onAmps : plateau.onWatts;
    bool on = false;
    Block block;
    for (std::size_t first = 0; first < n; first += kCheckpointRows) {
        totals.checkpoints.push_back(totals.wattHours);
        const std::size_t own = std::min(kCheckpointRows, n - first);
        const std::size_t count = std::min(own + 1, n - first); // and the first sample of the next block, for the step to it
        block.decode(trace, first, count);
        const double* const level = current ? block.amps.data() : block.watts.data();
        for (std::size_t k = 0; k < own; ++k) {
            totals.peakWatts = std::max(totals.peakWatts, block.watts[k]);
            if ((level[k] > onLevel) != on) {
                on = !on;
                totals.switches.push_back(first + k);
            }
        }
        if (count > 1 && longestStep(time + first, count) <= gapSeconds) {
            block.addAll(time + first, count, totals);
            continue;
        }
        for (std::size_t k = 0; k + 1 < count; ++k) {
            const Sample here = block.at(k, time[first + k]);
            const Sample next = block.at(k + 1, time[first + k + 1]);
            if (next.time - here.time <= gapSeconds) {
                addStep(here, next, totals);
                continue;
            }
            Totals across;
            addStep(here, next, across);
            const Gap gap{here.time, next.time, canBridge(trace, first + k, plateau), across.wattHours, across.ampHours};
            if (gap.bridged)
                addStep(here, next, totals);
            totals.gaps.push_back(gap);
        }
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
