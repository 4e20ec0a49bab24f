// What a live run says of itself: in the page, in the strip and to a screen reader.
#pragma once

#include <QString>

#include "bench/runner/progress.h"

class QLabel;

namespace otterstone::app {

/// "Running: draw 1 A until the bank switches its output off."
[[nodiscard]] QString stateWords(const bench::Progress& progress);
/// A sign for the strip that is told apart by shape, not colour.
[[nodiscard]] QString stateSign(const bench::Progress& progress);
/// A person is wanted: to do something, or because a load is still on, which is told already while a run is closed.
[[nodiscard]] bool wantsHands(const bench::Progress& progress);
/// "Cut-off predicted at 14:32 (from its earlier run) · by its display at 15:10".
[[nodiscard]] QString endWords(const bench::Progress& progress, bool drain, double speed);
[[nodiscard]] QString healthWords(const bench::Progress& progress);

/// Sets words only where they differ: whoever sets the same again has the whole window laid out for nothing.
void say(QLabel* label, const QString& words);

} // namespace otterstone::app
