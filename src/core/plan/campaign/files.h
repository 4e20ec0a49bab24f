// A plan for other programs: a calendar of the moments that want hands, and a table.
#pragma once

#include <string>
#include <vector>

#include "core/plan/campaign/schedule.h"

namespace otterstone::plan::campaign {

/// RFC 5545: one event a moment of hands, with an alarm ten minutes before, in the tester's own time (floating). What
/// a job is called stays over replans (`names`, one for each of the problem's jobs; a job run as needed counts on), so
/// that importing again moves events. `beginsAt` in s since 1970; `stamp` is when it was made, the same.
[[nodiscard]] std::string calendarOf(const Problem& problem, const Schedule& schedule,
                                     const std::vector<std::string>& names, double beginsAt, double stamp);

/// `job,bank,kind,starts,ends,begin_state,end_state,gear,value,why`, one line a job, in time.
[[nodiscard]] std::string csvOf(const Problem& problem, const Schedule& schedule, double beginsAt);

/// "2026-04-02T09:10:00" of s since 1970.
[[nodiscard]] std::string isoOf(double at);

} // namespace otterstone::plan::campaign
