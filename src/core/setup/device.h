// What a drain went into.
#pragma once

#include <optional>
#include <string>

#include "core/quantity/stated.h"

namespace otterstone::setup {

struct Device {
    std::string name;
    std::optional<Stated> batteryWattHours;
    std::optional<Stated> chargingEfficiency; ///< a fraction
    std::optional<double> inUseWatts;         ///< what it burns while it is used
    bool operator==(const Device&) const = default;
};

/// The bank that took what the bank under test gave.
struct TargetBank {
    std::string name;
    std::optional<double> ratedWattHours;
    std::optional<double> startPercent, endPercent; ///< by its own display
    std::optional<Stated> chargingEfficiency;       ///< a fraction, for a best estimate
    bool operator==(const TargetBank&) const = default;
};

} // namespace otterstone::setup
