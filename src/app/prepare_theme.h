// What of the theme only the start and the menus ask for.
#pragma once

#include "app/theme.h"

namespace otterstone::app {

/// For the first window, built before applyTheme(): palette and fonts of a theme, without its style sheet. Under a
/// sheet each step of a widget into its parent polishes all that is below it anew: a window that is built before it is
/// polished once, and a start takes a third of its time.
void prepareTheme(ThemeKind kind);

/// The text's size as the tester wants it, as a share of the usual one, which follows the desktop's dots per inch. It
/// is kept from one start to the next.
[[nodiscard]] double textSize();
/// From kLeastText to kMostText; what is shown already follows at once.
void setTextSize(double share);
inline constexpr double kLeastText = 0.8, kMostText = 2.0;

} // namespace otterstone::app
