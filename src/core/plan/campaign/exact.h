// Small campaigns to the optimum: every order that matters, as far as it can still be better.
#pragma once

#include "core/plan/campaign/search.h"

namespace otterstone::plan::campaign {

/// Campaigns of so many jobs are looked through whole.
inline constexpr std::size_t kExactJobs = 12;

/// Branches on who is first wherever two want one piece, one person, one bank or one day, each time with all begins as
/// early as what is decided lets them be (disjunctive branch and bound). `best` is bettered on the way; true when it is
/// proved that nothing worth more fits and nothing as good ends earlier.
[[nodiscard]] bool exactly(const Problem& problem, const std::vector<double>& weights, Schedule& best, const GoOn& goOn,
                           const Answer& soFar);

} // namespace otterstone::plan::campaign
