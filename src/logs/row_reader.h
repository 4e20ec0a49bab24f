// Reads one line of a log's body into slots; internal to this folder.
#pragma once

#include <array>
#include <string>
#include <string_view>

#include "logs/rows.h"

namespace otterstone::logs {

enum class LineKind { Row, Blank, Skipped };

/// The fast way reads plain numbers up to the last needed cell; a line it cannot read goes the careful way, which knows
/// quotes, missing readings and why a line is no row.
class RowReader {
public:
    explicit RowReader(const Recognition& recognition);

    /// `*end` must be readable and no digit (the line's end has a newline, a carriage return or a zero there).
    /// `values` gets one value a used slot; NaN for an optional one without a reading.
    LineKind read(const char* line, const char* end, std::array<double, kSlots>& values) {
        if (readFast(line, end, values))
            return LineKind::Row;
        return readCarefully(std::string_view(line, static_cast<std::size_t>(end - line)), values);
    }
    /// Why the last careful line was skipped.
    [[nodiscard]] const std::string& reason() const { return reason_; }
    [[nodiscard]] bool uses(Slot slot) const { return used_[slot]; }

private:
    struct Cell {
        int slot = -1; ///< -1: not needed
        double factor = 1.0;  ///< used when at least 1
        double divisor = 1.0; ///< its inverse, used below 1: 5012 mV / 1000 is the double nearest to 5.012
        double offset = 0.0;
        [[nodiscard]] double scaled(double value) const { return (factor < 1.0 ? value / divisor : value * factor) + offset; }
    };
    bool readFast(const char* line, const char* end, std::array<double, kSlots>& values) const;
    LineKind readCarefully(std::string_view line, std::array<double, kSlots>& values);
    [[nodiscard]] std::optional<double> timeOf(const std::vector<std::string>& cells) const;

    const Recognition& recognition_;
    std::vector<Cell> cells_; ///< by column, up to the last needed one
    std::array<bool, kSlots> used_{};
    bool fast_ = false;
    std::string reason_;
};

} // namespace otterstone::logs
