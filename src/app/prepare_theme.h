// For the first window, built before applyTheme().
#pragma once

#include "app/theme.h"

namespace otterstone::app {

/// Palette and fonts of a theme, without its style sheet. Under a sheet each step of a widget into its parent polishes
/// all that is below it anew: a window that is built before it is polished once, and a start takes a third of its time.
void prepareTheme(ThemeKind kind);

} // namespace otterstone::app
