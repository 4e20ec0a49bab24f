#include "core/trace/gaps.h"

#include <algorithm>
#include <cmath>
#include <cstdint>

#include "core/quantity/wide.h"

namespace otterstone::trace {

namespace {

constexpr std::size_t kMostLooked = 64; // readings of a window, and windows of a trace
constexpr double kAlike = 0.05;         // of the power: sides that differ by less are alike
constexpr std::size_t kLeastMisses = 3;
constexpr double kNoVolts = 0.05; // V: next to nothing on both sides says nothing of a charge

} // namespace

// Counted rather than searched: a count is what the compiler turns into wide instructions.
OTTERSTONE_WIDE bool hasGap(const double* time, std::size_t count, double gapSeconds) {
    std::int64_t gaps = 0;
    for (std::size_t k = 1; k < count; ++k)
        gaps += time[k] - time[k - 1] > gapSeconds;
    return gaps > 0;
}

double secondsOfGaps(const double* time, std::size_t count, double gapSeconds) {
    double seconds = 0.0;
    if (!hasGap(time, count, gapSeconds))
        return seconds;
    for (std::size_t k = 1; k < count; ++k) {
        if (time[k] - time[k - 1] > gapSeconds)
            seconds += time[k] - time[k - 1];
    }
    return seconds;
}

// The mean over a window that ends at sample k. Steps weigh by their length, so that uneven rows do no harm.
GapEstimator::Mean GapEstimator::before(std::size_t k, double seconds) const {
    std::size_t first = k;
    while (first > 0 && trace_.time[k] - trace_.time[first - 1] <= seconds &&
           trace_.time[first] - trace_.time[first - 1] <= gapSeconds_)
        --first;
    const std::size_t stride = std::max<std::size_t>(1, (k - first + 1) / kMostLooked);
    Mean m;
    double n = 0.0;
    for (std::size_t at = k;; at -= stride) {
        m.watts += trace_.power(at);
        m.amps += trace_.hasCurrent() ? trace_.amps[at] : 0.0;
        m.volts += trace_.hasCurrent() ? trace_.volts[at] : 0.0;
        n += 1.0;
        if (at < first + stride)
            break;
    }
    m.watts /= n;
    m.amps /= n;
    m.volts /= n;
    m.whole = first > 0 && trace_.time[first] - trace_.time[first - 1] <= gapSeconds_;
    return m;
}

GapEstimator::Mean GapEstimator::after(std::size_t k, double seconds) const {
    std::size_t last = k;
    while (last + 1 < trace_.size() && trace_.time[last + 1] - trace_.time[k] <= seconds &&
           trace_.time[last + 1] - trace_.time[last] <= gapSeconds_)
        ++last;
    Mean m = before(last, trace_.time[last] - trace_.time[k]);
    m.whole = last + 1 < trace_.size() && trace_.time[last + 1] - trace_.time[last] <= gapSeconds_;
    return m;
}

// The estimate tried where the truth is known: windows as long as the gap, with as long a time on both sides.
const std::vector<GapEstimator::Miss>& GapEstimator::elsewhere(double seconds) {
    const auto length = static_cast<std::size_t>(std::max(0.0, std::round(2.0 * std::log2(std::max(1.0, seconds)))));
    if (looked_.size() <= length) {
        looked_.resize(length + 1, false);
        misses_.resize(length + 1);
    }
    if (looked_[length])
        return misses_[length];
    looked_[length] = true;
    const double span = trace_.span();
    if (span < 4.0 * seconds)
        return misses_[length];
    const double step = std::max((span - 3.0 * seconds) / static_cast<double>(kMostLooked), seconds / 4.0);
    for (double at = trace_.time.front() + seconds; at + 2.0 * seconds <= trace_.time.back(); at += step) {
        const auto index = [this](double t) {
            return static_cast<std::size_t>(std::lower_bound(trace_.time.begin(), trace_.time.end(), t) -
                                            trace_.time.begin());
        };
        const std::size_t from = index(at), to = index(at + seconds);
        if (from + 1 >= to || to >= trace_.size())
            continue;
        const Mean left = before(from, seconds), right = after(to, seconds),
                   within = before(to, trace_.time[to] - trace_.time[from]);
        if (left.whole && right.whole && within.whole)
            misses_[length].push_back(
                {std::fabs(left.watts - right.watts), (left.watts + right.watts) / 2.0 - within.watts});
    }
    return misses_[length];
}

Gap GapEstimator::estimate(std::size_t k) {
    Gap gap;
    gap.sample = k;
    gap.from = trace_.time[k];
    gap.to = trace_.time[k + 1];
    const double seconds = gap.to - gap.from, hours = seconds / 3600.0;
    const Mean left = before(k, seconds), right = after(k + 1, seconds);
    gap.wattHours = (left.watts + right.watts) / 2.0 * hours;
    gap.ampHours = (left.amps + right.amps) / 2.0 * hours;
    const double sides = std::fabs(left.watts - right.watts);
    const double alike = std::max(sides, kAlike * std::max(std::fabs(left.watts), std::fabs(right.watts)));
    double squares = 0.0, n = 0.0;
    for (const Miss& m : elsewhere(seconds)) {
        if (m.sides <= alike) {
            squares += m.watts * m.watts;
            n += 1.0;
        }
    }
    double miss = n >= static_cast<double>(kLeastMisses) ? std::sqrt(squares / n) : 0.0;
    if (n < static_cast<double>(kLeastMisses)) {
        // Nowhere else to learn from: the last and first reading may lie anywhere within what both sides did.
        const double a = trace_.power(k), b = trace_.power(k + 1);
        miss = std::max(std::fabs(a - left.watts), std::fabs(b - right.watts)) / std::sqrt(3.0);
    }
    gap.uWattHours = std::hypot(sides / 2.0 / std::sqrt(3.0), miss) * hours;
    const double volts = std::max(left.volts, right.volts);
    gap.uAmpHours = volts > kNoVolts ? gap.uWattHours / volts : 0.0;
    return gap;
}

} // namespace otterstone::trace
