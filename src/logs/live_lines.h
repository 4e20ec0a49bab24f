// Lines as an instrument prints them while it measures: the same cells, numbers and units as in a log, one line at a
// time.
#pragma once

#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "core/quantity/problem.h"
#include "logs/columns.h"

namespace otterstone::logs {

/// How such lines are cut and what their cells mean.
struct LineFormat {
    char delimiter = ','; ///< ' ' stands for any run of spaces
    char decimal = '.';
    std::size_t cells = 0; ///< in a whole line: a shorter or longer one is spoiled
    struct Cell {
        Role role = Role::Volts;
        std::size_t index = 0; ///< counted from 0
        std::string unit;      ///< empty for the SI unit
        bool operator==(const Cell&) const = default;
    };
    std::vector<Cell> meaning; ///< volts and amps at least
    bool operator==(const LineFormat&) const = default;
};

struct LiveReading {
    std::optional<double> time; ///< on the instrument's clock, seconds
    double volts = 0.0;
    double amps = 0.0;
    std::optional<double> celsius, percent;
};

class LiveLines {
public:
    /// Problems: no_volts_column, no_amps_column, unknown_unit, unknown_column.
    [[nodiscard]] static Result<LiveLines> make(const LineFormat& format, const std::string& place);

    /// The reading of a line, or why there is none: "no reading in it", "3 cells instead of 4".
    [[nodiscard]] tl::expected<LiveReading, std::string> read(std::string_view line) const;

private:
    struct Column {
        Role role;
        std::size_t index;
        UnitScale scale;
    };
    LineFormat format_;
    std::vector<Column> columns_;
};

/// What lines without a header most likely hold, from their numbers alone, with the reasons. Problems: no_table (too
/// few lines of one width), unclear_columns.
struct GuessedFormat {
    LineFormat format;
    std::vector<std::string> reasons; ///< one per column that was named
};
[[nodiscard]] Result<GuessedFormat> guessFormat(const std::vector<std::string>& lines, const std::string& place);

} // namespace otterstone::logs
