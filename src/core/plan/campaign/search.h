// Finds a schedule near the best there is: orders of jobs, each placed as early as it can be, bettered step by step.
#pragma once

#include <functional>

#include "core/plan/campaign/schedule.h"

namespace otterstone::plan::campaign {

struct Answer {
    Schedule schedule;
    Bounds bounds;
    bool optimal = false; ///< proved: nothing worth more fits, and nothing as good ends earlier
    long tried = 0;       ///< orders looked at
};

/// Asked again and again with the best so far; false ends the search.
using GoOn = std::function<bool(const Answer& best)>;

/// The best that was found when it is proved to be the best, or when `goOn` says no more; there is always an answer,
/// were it that nothing fits. Left out is what makes room for most value. The same problem, seed and number of steps
/// give the same answer.
[[nodiscard]] Answer solve(const Problem& problem, const GoOn& goOn, unsigned seed = 1);

} // namespace otterstone::plan::campaign
