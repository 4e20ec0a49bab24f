// Days and moments as files and testers write them: ISO 8601.
#pragma once

#include <optional>
#include <string>
#include <string_view>

namespace otterstone {

/// Seconds since 1970 of "2026-04-02" or "2026-04-02T09:10:00", with or without an offset: one clock for all that a
/// tester wrote down. Nothing for anything else.
[[nodiscard]] std::optional<double> secondsOf(const std::string& iso);
/// "2026-04-02", a day that the calendar has.
[[nodiscard]] bool isDay(std::string_view text);
/// The day of a moment: "2026-04-02".
[[nodiscard]] std::string dayOf(const std::string& iso);

inline constexpr double kSecondsADay = 86400.0;
inline constexpr double kDaysAMonth = 30.0;
/// A rest or an age as it is spoken of: "9 days", "3 months", "1.5 years".
[[nodiscard]] std::string spanWords(double days);

} // namespace otterstone
