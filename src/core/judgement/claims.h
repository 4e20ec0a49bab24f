// What a label claims, as rows that can be tested: each with the condition under which it is meant.
#pragma once

#include <string>
#include <vector>

#include "core/judgement/verdict.h"
#include "core/label/port_rules.h"
#include "core/quantity/units.h"

namespace otterstone::judgement {

enum class ClaimKind {
    Energy,
    RatedOutput,
    Tier,
    PortWatts,
    TotalWatts,
    Together,
    InputWatts,
    RechargeTime,
    PassThrough,
    LowCurrent,
    DeviceCharges,
    Weight,
    Size
};

struct Claim {
    ClaimKind kind = ClaimKind::Energy;
    std::string key;       ///< stable: "energy", "gives:C1:20", "together:C1+A"
    std::string words;     ///< "C1 gives 20 V 2.25 A"
    std::string condition; ///< under which it is meant
    Limits limits = {};    ///< none for a promise that is kept or not
    Unit unit = Unit::None;
    std::string port = {};               ///< where it is about one
    double volts = 0.0;                  ///< where it is about a tier
    std::size_t combination = 0;         ///< Together, DeviceCharges: index into the label's shared limits, its charges
    std::optional<double> lowVolts = {}; ///< of a tier: the other end of a programmable range
};

/// In the order of a label: energy, output, ports, sharing, recharge, promises, charges, weight, size.
[[nodiscard]] std::vector<Claim> claimsOf(const label::Label& label);

} // namespace otterstone::judgement
