// How good a schedule could be at best: what no order of the jobs can beat.
#pragma once

#include "core/plan/campaign/schedule.h"

namespace otterstone::plan::campaign {

/// The largest of: chains of jobs that wait for one another; what each piece, each bank and the people have to do, with
/// the heads and tails of their jobs (Jackson's preemptive schedule); what must be attended against the hours. Value:
/// for each of these, what fits into the window at most (a knapsack whose last job may be cut).
[[nodiscard]] Bounds boundsOf(const Problem& problem);

} // namespace otterstone::plan::campaign
