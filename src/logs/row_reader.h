// Reads one line of a log's body into slots; internal to this folder.
#pragma once

#include <array>
#include <bitset>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "logs/recogniser.h"

namespace otterstone::logs {

/// What a row holds, in the order in which it is stored.
enum Slot : std::size_t {
    SlotTime,
    SlotVolts,
    SlotAmps,
    SlotWatts,
    SlotTemperature,
    SlotPercent,
    SlotEnergy,
    SlotCharge,
    kSlots
};

using Slots = std::bitset<kSlots>;

enum class LineKind { Row, Blank, Skipped, TooManyDigits };

/// A slot is stored as a double, or as a whole number of its last digit.
struct Row {
    std::array<double, kSlots> values{};
    std::array<std::int32_t, kSlots> digits{};
};

/// Where the fast way puts what it reads: the columns of the slots in use.
struct Columns {
    std::array<double*, kSlots> values{};
    std::array<std::int32_t*, kSlots> digits{};
};

/// The fast way reads plain numbers up to the last needed cell; a line it cannot read goes the careful way, which knows
/// quotes, missing readings and why a line is no row.
class RowReader {
public:
    /// Readings are stored as digits where the first lines show few enough of them, but for those of `asDoubles`.
    RowReader(const Recognition& recognition, Slots asDoubles);

    /// Reads the line into row `at` of the columns. Where in it the last needed cell ended, or null when it must be
    /// read carefully. Some newline or zero ends the text that begins at `line`, and 128 bytes behind that are
    /// readable.
    const char* readFast(const char* line, const char* textEnd, const Columns& columns, std::size_t at) const;
    /// Optional slots get NaN without a reading.
    LineKind readCarefully(std::string_view line, Row& row);
    /// Why the last careful line was skipped.
    [[nodiscard]] const std::string& reason() const { return reason_; }
    /// What had more digits than its first lines, in the last line that did.
    [[nodiscard]] Slot tooLong() const { return tooLong_; }
    [[nodiscard]] bool uses(Slot slot) const { return used_[slot]; }
    /// The power of ten a slot's digits are divided by; 0 for one that is stored as doubles.
    [[nodiscard]] double divisor(Slot slot) const { return divisors_[slot]; }

private:
    struct Cell {
        int slot = -1;        ///< -1: not needed
        double factor = 1.0;  ///< used when at least 1
        double inverse = 1.0; ///< used below 1: 5012 mV / 1000 is the double nearest to 5.012
        double offset = 0.0;
        int wholeDecimals = -1; ///< as written, when stored as digits; -1 for doubles
        [[nodiscard]] double scaled(double value) const {
            return (factor < 1.0 ? value / inverse : value * factor) + offset;
        }
    };
    [[nodiscard]] bool storeDigits(std::size_t slot, Row& row) const;
    [[nodiscard]] std::optional<double> timeOf(const std::vector<std::string>& cells) const;

    const Recognition& recognition_;
    std::vector<Cell> cells_; ///< by column, up to the last needed one
    std::array<bool, kSlots> used_{};
    std::array<double, kSlots> divisors_{};
    bool fast_ = false;
    std::string reason_;
    Slot tooLong_ = SlotTime;
};

} // namespace otterstone::logs
