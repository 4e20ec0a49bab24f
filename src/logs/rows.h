// Turns the body of a log into columns of numbers, fast; internal to this folder.
#pragma once

#include <array>
#include <vector>

#include "logs/log.h"

namespace otterstone::logs {

/// Slots of a row, in the order in which they are stored.
enum Slot : std::size_t { SlotTime, SlotVolts, SlotAmps, SlotWatts, SlotTemperature, SlotPercent, SlotEnergy, SlotCharge, kSlots };

struct Rows {
    std::array<trace::Column, kSlots> columns; ///< empty where the log has none
    std::vector<std::uint32_t> lineless;       ///< lines of the body, from 0, that gave no row (blank or skipped)
    std::size_t skipped = 0;
    std::vector<SkippedLine> firstSkipped;
    double firstTime = 0.0;                    ///< of the first row, before absolute times were made relative
    [[nodiscard]] std::size_t size() const { return columns[SlotTime].size(); }
};

/// Reads all lines from the first data line on, on as many threads as the machine has (two at most: more gain nothing on
/// the disks and machines this runs on). Times are absolute where the form is.
[[nodiscard]] Rows readRows(const OpenedLog& log, const Recognition& recognition, Progress* progress);

} // namespace otterstone::logs
