// Numbers and durations as people write them: "4,85", "20 000", "1h12", "1.2 h", "72 min", "0.085 ± 0.01".
#pragma once

#include <optional>
#include <string_view>

#include "core/quantity/measured.h"
#include "core/quantity/problem.h"

namespace otterstone {

/// What a lone separator followed by exactly three digits means: "20,000" is 20000 mAh but 4,850 A is 4.85 A.
enum class Expect { AnyNumber, WholeNumber };

/// No figure of a bench is larger, in any unit; a number beyond it is a slip, or somebody's trick. Squares and products
/// of three of these stay finite.
inline constexpr double kLargestFigure = 1e15;

/// One number with a decimal point or comma, digits grouped in threes by spaces, points, commas or apostrophes, an
/// exponent, and nothing else but spaces. Other groups are slips, and refused, as are numbers beyond ±kLargestFigure.
/// `place` names the field or option for the problem's sentence.
[[nodiscard]] Result<double> parseNumber(std::string_view text, std::string_view place = {},
                                         Expect expect = Expect::AnyNumber);

/// Seconds from "1h12", "1.2 h", "72 min", "90 s", "1 h 12 min 5 s", "1:12" (h:min), "1:12:05", "2 d".
/// `bareUnitSeconds` is what a number without a unit counts in (3600 for hours); without it, that is a problem.
[[nodiscard]] Result<double> parseDuration(std::string_view text, std::string_view place = {},
                                           std::optional<double> bareUnitSeconds = std::nullopt);

/// "0.085", "0.085±0.01", "0.085 +- 0.01": the figure behind ± is a standard uncertainty's k = 2 interval, so it is
/// halved. `source` names the doubt.
[[nodiscard]] Result<Measured> parseMeasured(std::string_view text, std::string_view place, const ErrorSource& source);

/// Text without white space (no-break spaces included) at either end.
[[nodiscard]] std::string_view trimmed(std::string_view text);
/// ASCII letters made small; other bytes unchanged.
[[nodiscard]] std::string lowered(std::string_view text);

} // namespace otterstone
