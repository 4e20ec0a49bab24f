// How high the rows of a table are.
#pragma once

#include <cmath>

#include "app/text_size.h"

namespace otterstone::app {

/// So many pixels where text has its usual size, and as much more or less as the tester wants of that. Not
/// named as the member of a table that asks for a row of its own.
[[nodiscard]] inline int rowPixels(int usual) { return static_cast<int>(std::lround(usual * textSize())); }

} // namespace otterstone::app
