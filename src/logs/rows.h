// Turns the body of a log into columns of numbers, fast; internal to this folder.
#pragma once

#include <array>
#include <vector>

#include "logs/log.h"
#include "logs/row_reader.h"

namespace otterstone::logs {

/// Bytes; a longer line is none of a log, and is not held in memory.
inline constexpr std::size_t kLongestLine = std::size_t(1) << 26;

struct Rows {
    std::array<trace::Column, kSlots> columns; ///< empty where the log has none, and where `digits` has it
    std::array<trace::Digits, kSlots> digits;  ///< what is no time, when all of it has few enough digits
    std::array<double, kSlots> divisors{};     ///< 0 where `digits` is not used
    std::vector<std::uint32_t> lineless;       ///< lines of the body, from 0, that gave no row (blank or skipped)
    std::size_t skipped = 0;
    std::vector<SkippedLine> firstSkipped;
    bool stepsBack = false;   ///< the time does, somewhere
    bool endlessLine = false; ///< a line was longer than kLongestLine; nothing behind it was read
    [[nodiscard]] std::size_t size() const { return columns[SlotTime].size(); }
    /// What is no time, taken out.
    [[nodiscard]] trace::Readings take(Slot slot) {
        return divisors[slot] != 0.0 ? trace::Readings(std::move(digits[slot]), divisors[slot])
                                     : trace::Readings(std::move(columns[slot]));
    }
};

/// Reads all lines from the first data line on, on two threads where the log is long. Times are absolute where the form
/// is.
[[nodiscard]] Rows readRows(const OpenedLog& log, const Recognition& recognition, Progress* progress);

} // namespace otterstone::logs
