// C8: what the rounding of readings to a last digit leaves open in their mean.
#pragma once

#include <cmath>

namespace otterstone::trace {

/// Standard uncertainty of the mean of readings that were rounded to multiples of `digit` and scatter by `spread`
/// (standard deviation, as read; both in one unit, >= 0). Readings that stand still all carry one rounding error: digit
/// / √12 (JCGM 100:2008, F.2.2.1). Readings that go to and fro between two digits tell where between them the truth
/// lies, the better the more evenly they do: the truth is within |share − ½| digits, rectangular, and as share·(1 −
/// share) = spread² / digit² that is √(digit²/12 − spread²/3). From half a digit of spread on it averages out. Own
/// derivation from the two-digit case, no published source; checked by simulation (tests/reference/independent).
[[nodiscard]] inline double standingRounding(double digit, double spread) {
    return std::sqrt(std::max(0.0, digit * digit / 12.0 - spread * spread / 3.0));
}

} // namespace otterstone::trace
