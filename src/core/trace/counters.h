// C5: a meter's own mAh and Wh columns, a cross-check on the integral.
#pragma once

#include <optional>

#include "core/trace/trace.h"

namespace otterstone::trace {

/// What a counting column counted from its first to its last row. A fall to next to nothing (reset, roll-over) starts a
/// new stretch and is not subtracted; any other is: a last digit that steps back, a net counter that runs the other
/// way. NaN rows are passed over. Nothing when fewer than two rows have a number.
[[nodiscard]] std::optional<double> counted(const Readings& counter);

/// Above this relative difference a warning is due. Common practice, no published source.
inline constexpr double kCounterTolerance = 0.02;

} // namespace otterstone::trace
