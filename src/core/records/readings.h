// What was typed of a run that has no log: readings row by row, or what a counter said at its end.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/trace/sampling.h"

namespace otterstone::records {

/// One row as typed; any cell may be empty.
struct HandRow {
    std::string time; ///< "0", "15 min", "+15 min" after the row before, "1:12"; a bare number counts minutes
    std::string volts, amps, watts, percent, temperature, note;
    [[nodiscard]] bool empty() const {
        return (time + volts + amps + watts + percent + temperature + note).find_first_not_of(" \t") ==
               std::string::npos;
    }
    bool operator==(const HandRow&) const = default;
};
/// The cell of a column, 0 time … 6 note.
[[nodiscard]] std::string& cell(HandRow& row, std::size_t column);
[[nodiscard]] const std::string& cell(const HandRow& row, std::size_t column);
inline constexpr std::size_t kHandColumns = 7;

/// A run of which only the meter's counters were read at the end. Wh, or mAh with the mean volts; the time if it was
/// kept.
struct Counters {
    std::optional<double> wattHours, milliampHours, meanVolts, seconds;
    bool operator==(const Counters&) const = default;
};
/// Readings typed by hand, kept as typed so that they can be gone on with.
struct Hand {
    std::vector<HandRow> rows;
    trace::Between between = trace::Between::Joined;
    bool operator==(const Hand&) const = default;
};

} // namespace otterstone::records
