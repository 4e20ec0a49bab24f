#include "core/trace/integral.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <cstdint>

#include "core/quantity/halves.h"
#include "core/quantity/wide.h"

namespace otterstone::trace {

double gapThreshold(double medianStep) { return std::max(5.0 * medianStep, 5.0); }

namespace {

constexpr std::size_t kWorthAThread = 256; // blocks, that are half a millisecond's work

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

// What a block of rows, with the step to the next block, says by itself.
struct BlockSeen {
    BlockSums sums; ///< where there is no gap in it
    std::size_t on = 0;
    bool gap = false;
};

class Blocks {
public:
    Blocks(const Trace& trace, const Plateau& plateau, double gapSeconds)
        : trace_(trace), gapSeconds_(gapSeconds), byAmps_(trace.hasCurrent()),
          onLevel_(byAmps_ ? plateau.onAmps : plateau.onWatts),
          seen_((trace.size() + kCheckpointRows - 1) / kCheckpointRows) {
        std::array<double, 2> peaks{};
        inHalves(seen_.size(), kWorthAThread, [&](std::size_t half, std::size_t from, std::size_t to) {
            Doubles rows;
            for (std::size_t b = from; b < to; ++b)
                seen_[b] = look(b, rows, peaks[half]);
        });
        peakWatts_ = std::max(peaks[0], peaks[1]);
    }

    [[nodiscard]] std::size_t size() const { return seen_.size(); }
    [[nodiscard]] const BlockSeen& operator[](std::size_t b) const { return seen_[b]; }
    [[nodiscard]] double peakWatts() const { return peakWatts_; }
    [[nodiscard]] std::size_t own(std::size_t b) const {
        return std::min(kCheckpointRows, trace_.size() - b * kCheckpointRows);
    }
    /// With the first row of the next block.
    [[nodiscard]] std::size_t reach(std::size_t b) const {
        return std::min(own(b) + 1, trace_.size() - b * kCheckpointRows);
    }
    [[nodiscard]] bool isOn(const Doubles& rows, std::size_t k) const {
        return (byAmps_ ? rows.amps : rows.watts)[k] > onLevel_;
    }

private:
    [[nodiscard]] BlockSeen look(std::size_t b, Doubles& rows, double& peak) const {
        const std::size_t first = b * kCheckpointRows, count = reach(b);
        const double* const time = trace_.time.data() + first;
        rows.decode(trace_, first, count);
        if (countAbove(rows.watts.data(), own(b), peak) > 0)
            peak = *std::max_element(rows.watts.begin(), rows.watts.begin() + static_cast<std::ptrdiff_t>(own(b)));
        BlockSeen seen;
        seen.on = countAbove((byAmps_ ? rows.amps : rows.watts).data(), own(b), onLevel_);
        seen.gap = hasGap(time, count, gapSeconds_);
        if (count > 1 && !seen.gap)
            sumBlock(time, rows.watts.data(), rows.amps.data(), rows.volts.data(), count, seen.sums);
        return seen;
    }

    const Trace& trace_;
    double gapSeconds_;
    bool byAmps_;
    double onLevel_;
    std::vector<BlockSeen> seen_;
    double peakWatts_ = 0.0;
};

} // namespace

Totals integrate(const Trace& trace, const Plateau& plateau, double gapSeconds, GapRule rule) {
    Totals totals;
    GapEstimator estimator(trace, gapSeconds);
    const Blocks blocks(trace, plateau, gapSeconds);
    totals.peakWatts = blocks.peakWatts();
    totals.checkpoints.reserve(blocks.size());
    const double* const time = trace.time.data();
    bool on = false;
    Doubles rows; // of blocks that are looked at row by row
    for (std::size_t b = 0; b < blocks.size(); ++b) {
        const std::size_t first = b * kCheckpointRows, own = blocks.own(b), count = blocks.reach(b);
        const BlockSeen& seen = blocks[b];
        totals.checkpoints.push_back(totals.wattHours);
        const bool switches = seen.on != (on ? own : 0);
        if (switches || seen.gap)
            rows.decode(trace, first, count);
        for (std::size_t k = 0; switches && k < own; ++k) {
            if (blocks.isOn(rows, k) != on) {
                on = !on;
                totals.switches.push_back(first + k);
            }
        }
        if (!seen.gap) {
            totals.wattHours += seen.sums.watts;
            totals.ampHours += seen.sums.amps;
            totals.voltHours += seen.sums.volts;
            totals.squareAmpHours += seen.sums.squares;
            totals.hours += (time[first + count - 1] - time[first]) / 3600.0;
            continue;
        }
        for (std::size_t k = 0; k + 1 < count; ++k) {
            const Sample here = rows.at(k, time[first + k]);
            const Sample next = rows.at(k + 1, time[first + k + 1]);
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
