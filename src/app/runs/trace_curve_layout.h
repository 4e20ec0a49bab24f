// Where phases and marks lie on the curve of a run; internal to the curve.
#pragma once

#include <QString>

namespace otterstone::app {

inline constexpr double kPhaseHeight = 18.0;                     ///< pixels; the phases lie along the plot's foot
inline constexpr double kMarkHeight = 15.0;                      ///< of one of the two rows of marks' words
inline const QString kDecoration = QStringLiteral("decoration"); ///< the plot's layer they are on

} // namespace otterstone::app
