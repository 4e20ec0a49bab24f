// B4: what a meter itself takes from the path, by both ways to see it.
#pragma once

#include "core/quantity/working.h"

namespace otterstone::path {

/// Read at one voltage: 4 mA at 5 V.
struct OwnDraw {
    double amps = 0.0;
    double volts = 5.0;
    bool operator==(const OwnDraw&) const = default;
};

struct OwnDrawEstimate {
    Measured wattHours; ///< the mean of both, half their spread as rectangular doubt
    double constantCurrentWh = 0.0;
    double constantPowerWh = 0.0;
    bool matters = false; ///< above a third of the standard uncertainty it would change
    Working working;
};

/// As a constant current it takes amps·∫V dt, as a constant power amps·volts·hours. `voltHours` is ∫V dt, `u` the
/// standard uncertainty of the energy it would be added to. Common practice, no published source.
[[nodiscard]] OwnDrawEstimate ownDrawEnergy(const OwnDraw& draw, double voltHours, double hours, double u,
                                            const std::string& meter);

} // namespace otterstone::path
