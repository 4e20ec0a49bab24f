// C3: a clock that runs fast or slow, from one comparison with a stopwatch.
// C4: time stamps that step back (a changed clock, a restarted counter, midnight) and how they are mended.
#pragma once

#include <string>
#include <vector>

#include "core/quantity/measured.h"
#include "core/quantity/problem.h"
#include "core/trace/trace.h"

namespace otterstone::trace {

struct ClockRepair {
    std::size_t row = 0; ///< first row after the step back
    double shift = 0.0;  ///< seconds added to this and all later rows
};

/// Mends each step back by the median step of the 16 rows on either side. Refuses, and changes nothing, when a step
/// back has fewer than three steady rows on either side or there are more than ten. The problem's place is the row's
/// index.
[[nodiscard]] Result<std::vector<ClockRepair>> repairClock(Column& time);

/// True time ÷ its own lies between these for anything one would call a clock.
inline constexpr double kSlowestClock = 0.1, kFastestClock = 10.0;

/// C3: factor from logged to true time, t_true = k · t_logged, from one span timed by both. The hand on the stopwatch
/// is late by some 0.3 s at either end, taken as the standard uncertainty of each (common practice, no published
/// source). Both spans > 0.
[[nodiscard]] Measured clockFactor(double stopwatchSeconds, double loggedSeconds, const ErrorSource& source);

/// "1.06", "1.06 ± 0.001" (expanded), or the two spans themselves: "1h / 56 min 36 s" is stopwatch / logged.
[[nodiscard]] Result<Measured> parseClockFactor(std::string_view text, std::string_view place,
                                                const ErrorSource& source);

} // namespace otterstone::trace
