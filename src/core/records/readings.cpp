#include "core/records/readings.h"

#include <algorithm>
#include <array>

namespace otterstone::records {

namespace {

constexpr std::array<std::string HandRow::*, kHandColumns> kCells = {
    &HandRow::time,    &HandRow::volts,       &HandRow::amps, &HandRow::watts,
    &HandRow::percent, &HandRow::temperature, &HandRow::note};

} // namespace

std::string& cell(HandRow& row, std::size_t column) { return row.*kCells[std::min(column, kHandColumns - 1)]; }
const std::string& cell(const HandRow& row, std::size_t column) {
    return row.*kCells[std::min(column, kHandColumns - 1)];
}

} // namespace otterstone::records
