// D15: how warm it gets: a first-order rise over ambient.
#pragma once

#include <limits>
#include <optional>
#include <span>
#include <string_view>

#include "core/kinds/names.h"
#include "core/quantity/problem.h"
#include "core/quantity/working.h"

namespace otterstone::kinds {

struct HeatFinding {
    double hottest = 0.0;          ///< °C, the greatest reading
    std::optional<double> ambient; ///< °C, stated, else a first reading from before the power warmed it; else not known
    bool ambientStated = false;
    std::optional<Measured> rise;    ///< K, settled; nothing when the readings do not settle it
    std::optional<Measured> seconds; ///< the time constant
    [[nodiscard]] std::optional<Measured> at25() const {
        return rise ? std::optional(*rise + Measured(25.0)) : std::nullopt;
    }
};

/// A surface held for a minute or longer should stay below this. From memory: touch-temperature limits of IEC 62368-1 /
/// EN 563 for plastic.
inline constexpr double kHeldSurfaceCelsius = 48.0;

/// While power flows steadily: a taper cools a bank, and says nothing of where it would settle.
struct Heating {
    double start = 0.0;                                     ///< when the power came, on the readings' clock
    double until = std::numeric_limits<double>::infinity(); ///< when it began to taper, or ended
};

/// T_a + ΔT(1 − e^(−t/τ)) fitted to the readings from `start` to `until`; `time` in seconds from any origin. A first
/// reading is the ambient's only if it was taken not later than a minute after the start, else the ambient must be
/// stated. Needs four readings; rise and τ stay unknown without an ambient, and when the readings span less than τ/2,
/// rise by less than 1 K, or scatter too much to tell (u > half the rise). Source: Newton's law of cooling for one heat
/// store; checked against scipy's curve_fit.
[[nodiscard]] std::optional<HeatFinding> findHeat(std::span<const double> time, std::span<const double> celsius,
                                                  const Heating& heating, std::optional<double> ambient);

/// "38", "38.5 °C", "101 °F", "101F": degrees Celsius.
[[nodiscard]] Result<double> parseTemperature(std::string_view text, std::string_view place = {});

} // namespace otterstone::kinds
