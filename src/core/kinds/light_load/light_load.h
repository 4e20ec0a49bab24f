// D12: small currents and idling: where the output goes to sleep, after how long, whether the low-current mode helps,
// and what things burn doing nothing.
#pragma once

#include "core/kinds/judge.h"

namespace otterstone::kinds {

struct LightStep {
    double amps = 0.0;
    bool staysOn = true;
    std::optional<double> seconds; ///< until it went off, or how long it was watched
};

struct LightLadder {
    std::vector<LightStep> steps;       ///< by amps, upwards
    std::optional<double> offAt;        ///< greatest current at which it went off
    std::optional<double> onAt;         ///< least current above that at which it stayed on
    std::optional<double> secondsToOff; ///< shortest of those at which it went off
    std::vector<LightStep> tooShort;    ///< stayed on, but was watched for less than it takes to go off: says nothing
    std::vector<LightStep> against;     ///< stayed on below a current at which it went off
};

struct LightLoadFinding {
    LightLadder plain, lowMode;
    std::optional<bool> lowModeHelps;
    std::optional<double> bankWatts, chargerWatts, inverterWatts;
    Said said;
};

/// The switch-off current lies between two tried steps: the interval, taken as rectangular. Common practice, no
/// published source.
[[nodiscard]] LightLoadFinding lightLoad(const Sheet& sheet, const Facts& facts);

struct SheetKind;
/// Its row in the catalogue.
[[nodiscard]] SheetKind lightLoadKind();

} // namespace otterstone::kinds
