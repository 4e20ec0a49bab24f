// The one formatter: digits follow the uncertainty, durations are hours and minutes, shares are percentages.
// The window, the reports and the command line all show numbers through these functions.
#pragma once

#include <string>

#include "core/quantity/measured.h"
#include "core/quantity/units.h"

namespace otterstone {

/// How many decimals show `expanded` with one significant digit, or two where it begins with 1 or 2.
/// Negative when the last certain digit stands before the decimal point. `expanded` > 0.
[[nodiscard]] int decimalsFor(double expanded);

/// "57.9 ± 0.4 Wh", "78.2 ± 0.5 %", "1 h 12 min ± 20 s". Without a doubt: "74 Wh", at most five significant digits.
[[nodiscard]] std::string show(const Measured& m, Unit unit);
/// The value alone, with the digits its uncertainty allows: "57.9 Wh".
[[nodiscard]] std::string showValue(const Measured& m, Unit unit);
/// A value whose doubt is not fully known: four significant digits, a share three, and no ±.
[[nodiscard]] std::string showRoughly(double value, Unit unit);
/// A value and its standard uncertainty in the last two digits, as metrologists print it: "127.732(71)".
[[nodiscard]] std::string showConcise(const Measured& m);
/// "1 h 12 min", "12 min 5 s", "45 s", "3 d 4 h"; from one hour on seconds are shown only when they are known to better
/// than half a minute.
[[nodiscard]] std::string showDuration(double seconds, double resolution = 60.0);
/// A bare number with at most `significant` digits, trailing zeros cut, large whole numbers kept whole.
[[nodiscard]] std::string showNumber(double value, int significant = 5);
/// So many decimals, with a point, whatever the locale: for files and instruments. 0 ≤ decimals ≤ 15.
[[nodiscard]] std::string plainDigits(double value, int decimals);
[[nodiscard]] std::string symbol(Unit unit);

} // namespace otterstone
