// The tide: how a bank's charge rises and falls over a plan.
#pragma once

#include "core/plan/campaign/schedule.h"

namespace otterstone::plan::campaign {

/// A stretch of one bank's time in which one thing goes on.
struct Stretch {
    enum class What { Waits, Fills, Drains, Stays, Rests };
    What what = What::Waits;
    double from = 0.0, to = 0.0; ///< s from the beginning
    State begin, end;
    std::optional<std::size_t> placed; ///< position in the schedule, of the job that it is
};

/// By bank, without a hole from 0 to `to`, s; what rises is filled, what falls is drained, as far as the middle of what
/// is known of the charge says.
[[nodiscard]] std::vector<std::vector<Stretch>> tideOf(const Problem& problem, const Schedule& schedule, double to);

/// The stretches from 0 to `to` in which nobody is there.
[[nodiscard]] std::vector<Span> absences(const Problem& problem, double to);

} // namespace otterstone::plan::campaign
