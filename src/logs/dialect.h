// How a log's text is cut into cells: delimiter, decimal mark, and which line is the header.
#pragma once

#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "core/quantity/problem.h"

namespace otterstone::logs {

struct Dialect {
    char delimiter = ','; ///< ' ' stands for any run of spaces
    char decimal = '.';
    bool quotes = false;                   ///< quotes were seen
    std::optional<std::size_t> headerLine; ///< counted from 0
    std::optional<std::size_t> unitsLine;
    std::size_t firstDataLine = 0;
    std::size_t fields = 0; ///< cells in a usual data line
    bool operator==(const Dialect&) const = default;
};

/// Cuts one line; quotes are taken off, doubled quotes halved, cells trimmed.
[[nodiscard]] std::vector<std::string> splitLine(std::string_view line, char delimiter);

/// A number written with this decimal mark and nothing else (units and "OL" are none).
[[nodiscard]] std::optional<double> parseCell(std::string_view cell, char decimal);
/// NaN, OL, ---, empty: no reading.
[[nodiscard]] bool isNoReading(std::string_view cell);

/// From the first lines of a log. Problems: no_table.
[[nodiscard]] Result<Dialect> recogniseDialect(const std::vector<std::string>& lines, const std::string& place);

} // namespace otterstone::logs
