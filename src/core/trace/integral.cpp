#include "core/trace/integral.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <cstdint>

#include "core/quantity/wide.h"

namespace otterstone::trace {

double gapThreshold(double medianStep) { return std::max(5.0 * medianStep, 5.0); }

namespace {

// Some samples as doubles, decoded together: that is several times as fast as one by one.
struct Doubles {
    std::array<double, kCheckpointRows + 1> volts{}, amps{}, watts{};

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
};

struct BlockSums {
    double watts = 0.0, amps = 0.0, volts = 0.0, squares = 0.0; ///< each sample times its weight in hours
};

// All steps of a block without gaps: each sample weighs half of the steps on its two sides. Four lanes a sum, so that
// the compiler can keep them in wide words; adding in another order changes the last digits of a double, no more.
OTTERSTONE_WIDE void sumBlock(const double* time, const double* watts, const double* amps, const double* volts,
                              std::size_t count, BlockSums& out) {
    constexpr std::size_t kLanes = 4;
    double p[kLanes] = {}, i[kLanes] = {}, v[kLanes] = {}, s[kLanes] = {};
    const auto add = [&](std::size_t k, std::size_t lane, double weight) {
        p[lane] += watts[k] * weight;
        i[lane] += amps[k] * weight;
        v[lane] += volts[k] * weight;
        s[lane] += amps[k] * amps[k] * weight;
    };
    add(0, 0, (time[1] - time[0]) / 7200.0);
    std::size_t k = 1;
    for (; k + kLanes < count; k += kLanes) {
        for (std::size_t lane = 0; lane < kLanes; ++lane) {
            const double weight = (time[k + lane + 1] - time[k + lane - 1]) * (1.0 / 7200.0);
            p[lane] += watts[k + lane] * weight;
            i[lane] += amps[k + lane] * weight;
            v[lane] += volts[k + lane] * weight;
            s[lane] += amps[k + lane] * amps[k + lane] * weight;
        }
    }
    for (; k + 1 < count; ++k)
        add(k, 0, (time[k + 1] - time[k - 1]) / 7200.0);
    add(count - 1, 1, (time[count - 1] - time[count - 2]) / 7200.0);
    out = {(p[0] + p[1]) + (p[2] + p[3]), (i[0] + i[1]) + (i[2] + i[3]), (v[0] + v[1]) + (v[2] + v[3]),
           (s[0] + s[1]) + (s[2] + s[3])};
}

OTTERSTONE_WIDE std::size_t countAbove(const double* values, std::size_t count, double level) {
    std::int64_t above = 0;
    for (std::size_t k = 0; k < count; ++k)
        above += values[k] > level;
    return static_cast<std::size_t>(above);
}

} // namespace

Totals integrate(const Trace& trace, const Plateau& plateau, double gapSeconds, GapRule rule) {
    Totals totals;
    GapEstimator estimator(trace, gapSeconds);
    const std::size_t n = trace.size();
    totals.checkpoints.reserve(n / kCheckpointRows + 1);
    const double* const time = trace.time.data();
    const bool current = trace.hasCurrent();
    const double onLevel = current ? plateau.onAmps : plateau.onWatts;
    bool on = false;
    Doubles block;
    for (std::size_t first = 0; first < n; first += kCheckpointRows) {
        totals.checkpoints.push_back(totals.wattHours);
        const std::size_t own = std::min(kCheckpointRows, n - first);
        const std::size_t count =
            std::min(own + 1, n - first); // and the first sample of the next block, for the step to it
        block.decode(trace, first, count);
        const double* const level = current ? block.amps.data() : block.watts.data();
        if (countAbove(block.watts.data(), own, totals.peakWatts) > 0)
            totals.peakWatts =
                *std::max_element(block.watts.begin(), block.watts.begin() + static_cast<std::ptrdiff_t>(own));
        if (countAbove(level, own, onLevel) != (on ? own : 0)) {
            for (std::size_t k = 0; k < own; ++k) {
                if ((level[k] > onLevel) != on) {
                    on = !on;
                    totals.switches.push_back(first + k);
                }
            }
        }
        if (count > 1 && !hasGap(time + first, count, gapSeconds)) {
            BlockSums sums;
            sumBlock(time + first, block.watts.data(), block.amps.data(), block.volts.data(), count, sums);
            totals.wattHours += sums.watts;
            totals.ampHours += sums.amps;
            totals.voltHours += sums.volts;
            totals.squareAmpHours += sums.squares;
            totals.hours += (time[first + count - 1] - time[first]) / 3600.0;
            continue;
        }
        for (std::size_t k = 0; k + 1 < count; ++k) {
            const Sample here = block.at(k, time[first + k]);
            const Sample next = block.at(k + 1, time[first + k + 1]);
            if (next.time - here.time <= gapSeconds) {
                addStep(here, next, totals);
                continue;
            }
            Gap gap = estimator.estimate(first + k);
            gap.bridged = rule == GapRule::Estimate;
            if (gap.bridged) {
                const double hours = (gap.to - gap.from) / 3600.0;
                totals.wattHours += gap.wattHours;
                totals.ampHours += gap.ampHours;
                totals.voltHours += (here.volts + next.volts) / 2.0 * hours;
                totals.squareAmpHours += gap.ampHours * gap.ampHours / hours;
                totals.hours += hours;
            }
            totals.gaps.push_back(gap);
        }
    }
    return totals;
}

double RunningEnergy::step(std::size_t k) const {
    const double dt = trace_.time[k + 1] - trace_.time[k];
    if (dt > gapSeconds_) {
        const auto at = std::lower_bound(totals_.gaps.begin(), totals_.gaps.end(), k,
                                         [](const Gap& g, std::size_t sample) { return g.sample < sample; });
        return at != totals_.gaps.end() && at->bridged ? at->wattHours : 0.0;
    }
    return (trace_.power(k) + trace_.power(k + 1)) * dt / 7200.0;
}

double RunningEnergy::upTo(std::size_t k) const {
    if (trace_.size() < 2)
        return 0.0;
    k = std::min(k, trace_.size() - 1);
    const std::size_t from = std::min(k / kCheckpointRows, totals_.checkpoints.size() - 1);
    double energy = totals_.checkpoints[from];
    const std::size_t first = from * kCheckpointRows;
    Doubles block; // each sample's power once, not for the steps on both of its sides
    block.decode(trace_, first, k - first + 1);
    for (std::size_t j = first; j < k; ++j) {
        const double dt = trace_.time[j + 1] - trace_.time[j];
        energy += dt > gapSeconds_ ? step(j) : (block.watts[j - first] + block.watts[j + 1 - first]) * dt / 7200.0;
    }
    return energy;
}

double RunningEnergy::momentOf(double wattHours) const {
    const std::vector<double>& points = totals_.checkpoints;
    const auto after = std::upper_bound(points.begin(), points.end(), wattHours);
    std::size_t k =
        after == points.begin() ? 0 : static_cast<std::size_t>(after - points.begin() - 1) * kCheckpointRows;
    double energy = upTo(k);
    for (; k + 2 < trace_.size(); ++k) {
        const double more = step(k);
        if (energy + more >= wattHours)
            break;
        energy += more;
    }
    // Within the step the power is a straight line: p0·x + slope·x²/2 = wanted.
    const double dt = trace_.time[k + 1] - trace_.time[k];
    if (dt > gapSeconds_) {
        const double across = step(k);
        return trace_.time[k] + (across > 0.0 ? std::clamp((wattHours - energy) / across, 0.0, 1.0) * dt : dt);
    }
    const double p0 = trace_.power(k);
    const double slope = dt > 0.0 ? (trace_.power(k + 1) - p0) / dt : 0.0;
    const double wanted = (wattHours - energy) * 3600.0;
    const double root = p0 * p0 + 2.0 * slope * wanted;
    const double x = root <= 0.0 || p0 + std::sqrt(root) <= 0.0 ? dt : 2.0 * wanted / (p0 + std::sqrt(root));
    return trace_.time[k] + std::clamp(x, 0.0, dt);
}

} // namespace otterstone::trace
