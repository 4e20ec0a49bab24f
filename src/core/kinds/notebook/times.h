// Moments as people write them into a notebook, counted from its beginning.
#pragma once

#include <optional>
#include <string_view>

#include "core/quantity/problem.h"

namespace otterstone::kinds {

/// Reads the times of one notebook from its first row on. "0", "15", "1 h 12" count since the beginning (a bare number
/// minutes), "+15 min" after the row before; "14:05" and "2:15 pm" are clock times where the first row has one, and go
/// on over midnight, else "1:12" is an hour and twelve minutes since the beginning. "2026-05-02 14:05" is a moment.
class Times {
public:
    /// Seconds since the beginning. Problems: no_time, no_clock, time_steps_back, and those of durations.
    [[nodiscard]] Result<double> next(std::string_view text);

private:
    [[nodiscard]] Result<double> read(std::string_view text);

    bool any_ = false;
    bool withDay_ = false;
    std::optional<double> begin_; ///< the first row's clock time, in s since midnight or since 1970
    double last_ = 0.0;
};

} // namespace otterstone::kinds
