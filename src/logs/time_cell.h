// C4: the time stamps of a log, cell by cell.
#pragma once

#include <optional>
#include <string>
#include <string_view>

namespace otterstone::logs {

enum class TimeForm {
    Elapsed,     ///< a number times the column's unit
    Clock,       ///< h:mm:ss, with fractions
    MinuteClock, ///< m:ss
    HourClock,   ///< h:mm
    Iso,         ///< ISO 8601 date and time, with or without zone; also 31.12.2026 12:00:00
    EpochSeconds,
    EpochMilliseconds,
    SpreadsheetSerial, ///< days since 30 December 1899
    DateAndClock       ///< a date column beside a clock column
};
[[nodiscard]] std::string timeFormWords(TimeForm form);
/// Absolute forms count from the first row; others keep the log's own zero.
[[nodiscard]] bool isAbsolute(TimeForm form);

/// "1:02:03.5" (parts = 3) or "02:03" (parts = 2) in seconds; a comma may stand for the point. Nothing when it is none.
[[nodiscard]] std::optional<double> parseClock(std::string_view cell, int parts);

struct IsoStamp {
    double seconds = 0.0; ///< since 1970-01-01; in local time when there is no zone
    bool zoned = false;
};
/// "2026-11-03T12:30:01.5+01:00", "2026-11-03 12:30:01", "2026/11/03 12:30", "03.11.2026 12:30:01".
[[nodiscard]] std::optional<IsoStamp> parseIso(std::string_view cell);
/// "2026-11-03", "2026/11/03", "03.11.2026" in days since 1970-01-01. "03/11/2026" is refused: day or month first?
[[nodiscard]] std::optional<long> parseDate(std::string_view cell);

} // namespace otterstone::logs
