// C2: gaps of a trace, and what flowed in them.
#pragma once

#include <cstddef>
#include <vector>

#include "core/trace/trace.h"

namespace otterstone::trace {

/// A step longer than max(5 × median step, 5 s), with what is taken to have flowed in it.
struct Gap {
    double from = 0.0;
    double to = 0.0;
    bool bridged = true;    ///< counted; false: the house leaves gaps out, and every sum is "at least"
    double wattHours = 0.0; ///< the middle of what the power did on both sides, counted or not
    double ampHours = 0.0;
    double uWattHours = 0.0; ///< standard uncertainty of both
    double uAmpHours = 0.0;
    std::size_t sample = 0; ///< the last before it
};

/// How a house treats gaps.
enum class GapRule { Estimate, LeaveOut };

/// Whether one of the steps between `count` moments is longer than gapSeconds, and how many seconds those take
/// together.
[[nodiscard]] bool hasGap(const double* time, std::size_t count, double gapSeconds);
[[nodiscard]] double secondsOfGaps(const double* time, std::size_t count, double gapSeconds);

/// What flowed between neighbouring samples that are further apart than a gap's length: the step, in hours, times the
/// middle of what the power did on both sides over as long a time. Its doubt: half of the difference of the two sides,
/// rectangular (the load changed at some moment within), and how far the same estimate misses elsewhere in this trace
/// over gaps as long whose sides are as alike. Common practice, no published source; checked by simulation.
class GapEstimator {
public:
    explicit GapEstimator(const Trace& trace, double gapSeconds) : trace_(trace), gapSeconds_(gapSeconds) {}
    /// Samples `k` and `k + 1` are the gap's sides.
    [[nodiscard]] Gap estimate(std::size_t k);

private:
    struct Mean {
        double watts = 0.0, amps = 0.0, volts = 0.0;
        bool whole = false; ///< the window had no gap and did not reach over the trace's end
    };
    struct Miss {
        double sides = 0.0, watts = 0.0; ///< difference of the sides; estimate − truth
    };
    [[nodiscard]] Mean before(std::size_t k, double seconds) const;
    [[nodiscard]] Mean after(std::size_t k, double seconds) const;
    [[nodiscard]] const std::vector<Miss>& elsewhere(double seconds);

    const Trace& trace_;
    double gapSeconds_;
    std::vector<std::vector<Miss>> misses_; ///< by the length's power of two
    std::vector<bool> looked_;
};

} // namespace otterstone::trace
