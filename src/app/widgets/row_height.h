// How high the rows of a table are.
#pragma once

#include <algorithm>

#include <QFontMetrics>

#include "app/theme.h"

namespace otterstone::app {

/// So many pixels, and more where the text is larger: never less than a line with some air.
[[nodiscard]] inline int rowHeight(int least) {
    constexpr int kAir = 8; // pixels
    return std::max(least, QFontMetrics(app::font(1.0)).height() + kAir);
}

} // namespace otterstone::app
