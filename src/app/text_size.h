// How large the tester wants the text.
#pragma once

namespace otterstone::app {

/// The text's size as the tester wants it, as a share of the usual one, which follows the desktop's dots per inch. It
/// is kept from one start to the next.
[[nodiscard]] double textSize();
/// From kLeastText to kMostText; what is shown already follows at once.
void setTextSize(double share);
inline constexpr double kLeastText = 0.8, kMostText = 2.0;

} // namespace otterstone::app
