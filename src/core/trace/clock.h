// C4: time stamps that step back (a changed clock, a restarted counter, midnight) and how they are mended.
#pragma once

#include <string>
#include <vector>

#include "core/problem.h"
#include "core/trace/trace.h"

namespace otterstone::trace {

struct ClockRepair {
    std::size_t row = 0;  ///< first row after the step back
    double shift = 0.0;   ///< seconds added to this and all later rows
};

/// Mends each step back by the median step of the 16 rows on either side. Refuses, and changes nothing, when a step back
/// has fewer than three steady rows on either side or there are more than ten. The problem's place is the row's index.
[[nodiscard]] Result<std::vector<ClockRepair>> repairClock(Column& time);

} // namespace otterstone::trace
