// The hours of a week in which somebody is there, as people write them.
#pragma once

#include <array>
#include <string_view>
#include <vector>

#include "core/plan/campaign/problem.h"

namespace otterstone::plan::campaign {

struct WeekHours {
    std::array<bool, 7> days{};  ///< Monday first
    double from = 0.0, to = 0.0; ///< s of the day, 0 to 86400
    int people = 1;
    bool operator==(const WeekHours&) const = default;
};

/// "mon-fri 9-17; sat 10:30-14 2 people", "daily 8-22". Problems: bad_hours, for no days, no times, hours of one day
/// that overlap.
[[nodiscard]] Result<std::vector<WeekHours>> parseWeek(std::string_view text, std::string_view place);

/// When they are there in so many seconds from a moment (s since 1970, on the tester's own clock).
[[nodiscard]] std::vector<Presence> presenceOf(const std::vector<WeekHours>& week, double beginsAt, double seconds);
/// A moment as people write it, s since 1970: "2026-09-11 18:00", "18:00" (the next), "fri 18:00", "tomorrow 9:00",
/// "in 6 days 18:00"; a day alone is its beginning, and a weekday that of today is a week from now unless its time is
/// still to come. Problems: bad_moment.
[[nodiscard]] Result<double> parseMoment(std::string_view text, double now, std::string_view place);
/// Seconds from a moment back to its midnight, less than or equal to 0.
[[nodiscard]] double midnightBefore(double beginsAt);

} // namespace otterstone::plan::campaign
