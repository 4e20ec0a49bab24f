// A3: what on a label contradicts itself or cannot be.
#pragma once

#include <string>
#include <vector>

#include "core/label/label.h"

namespace otterstone::label {

/// One contradiction. Codes: energy_mismatch, implied_volts_implausible, tier_above_port, port_above_total,
/// current_above_total, shares_above_total, combination_above_total, combination_above_port, combination_unknown_port,
/// output_share_implausible, density_implausible, recharge_too_fast.
struct Conflict {
    std::string code;
    std::string text;
};

/// All contradictions of a label; none for an honest one. The limits (1 % of Wh, 50 to 95 % output share) are common
/// practice, no published source; 250 Wh/kg and 600 Wh/L for a whole bank are quoted from memory.
[[nodiscard]] std::vector<Conflict> conflicts(const Label& label);

} // namespace otterstone::label
