// Measures of the tide, in pixels; internal to this folder.
#pragma once

namespace otterstone::app {

inline constexpr double kGutter = 168.0;   ///< names at the left
inline constexpr double kMargin = 10.0;    ///< at the right
inline constexpr double kHead = 38.0;      ///< days and hours
inline constexpr double kThread = 15.0;    ///< of a piece of gear
inline constexpr double kOverLevel = 17.0; ///< room over a full bank's level: words, diamonds
inline constexpr double kUnderLevel = 5.0; ///< below an empty one's

} // namespace otterstone::app
