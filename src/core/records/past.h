// What is known of a bank besides its label and its runs: how it came, whose specimen it is, and what it counts of its
// own life.
#pragma once

#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "core/quantity/problem.h"
#include "core/records/bought.h"
#include "core/records/state.h"

namespace otterstone::records {

/// Read off the bank's own display or application on one day. Wh and cycles >= 0, health 0 to 100 %.
struct OwnCount {
    std::string on; ///< ISO 8601 day
    std::optional<double> outWattHours, inWattHours, cycles, health;
    bool operator==(const OwnCount&) const = default;
};

struct Past {
    std::string cameOn; ///< ISO 8601 day; empty when not known
    std::optional<State> cameAt;
    std::vector<OwnCount> counts; ///< by day
    /// The bank of which this is another piece.
    std::optional<long long> specimenOf;
    Bought bought;
    bool operator==(const Past&) const = default;
};

/// "2026-04-02 at 58 %", "2026-04-02", "at 3 of 4", "58 %": sets the day and the charge on arrival; empty text clears
/// both. Problems: bad_date, bad_state.
[[nodiscard]] Result<void> parseCame(std::string_view text, std::string_view place, Past& into);
[[nodiscard]] std::string showCame(const Past& past);

/// "2026-04-02: 312 Wh out, 330 Wh in, 41 cycles, health 98 %; 2026-10-01: 402 Wh out", in any order of days. Problems:
/// bad_date, bad_count, no_count, two_of_one_day.
[[nodiscard]] Result<std::vector<OwnCount>> parseCounts(std::string_view text, std::string_view place);
[[nodiscard]] std::string showCounts(const std::vector<OwnCount>& counts);
/// "312 Wh out, 330 Wh in, 41 cycles, health 98 %".
[[nodiscard]] std::string countWords(const OwnCount& count);

} // namespace otterstone::records
