// For the first window, built before applyTheme().
#pragma once

#include "app/theme.h"

namespace otterstone::app {

/// Palette and fonts of a theme, without its style sheet. Under a sheet each step of a widget into its parent polishes
/// all that is below it anew: a window that is built before it is polished once, which halves the time of a start.
void prepareTheme(ThemeKind kind);

} // namespace otterstone::app
