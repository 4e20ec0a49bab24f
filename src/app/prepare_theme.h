// For the first window, built before applyTheme().
#pragma once

#include "app/theme.h"

namespace otterstone::app {

/// Palette and fonts of a theme, without its style sheet. Under a sheet each step of a widget into its parent polishes
/// all that is below it anew: a window that is built before it is polished once, and a start takes a third of its time.
void prepareTheme(ThemeKind kind);

/// What the tester asks of the text's size, beside what the desktop asks: a share of it, kept from one start to the
/// next.
[[nodiscard]] double textSize();
/// From kLeastText to kMostText; what is shown already follows at once.
void setTextSize(double share);
inline constexpr double kLeastText = 0.8, kMostText = 2.0;

} // namespace otterstone::app
