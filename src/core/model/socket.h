// F: what hangs on the far side of a socket, and the current it draws through the resistance before it.
#pragma once

#include "core/model/bank.h"

namespace otterstone::model {

/// An electronic load.
struct Load {
    enum class Mode { ConstantCurrent, ConstantPower, ConstantResistance };
    Mode mode = Mode::ConstantCurrent;
    double level = 0.0; ///< A, W or Ω
    bool on = false;

    /// Amps drawn from a source of so many volts through a resistance. A power that cannot be had draws the most the
    /// resistance passes.
    [[nodiscard]] double amps(double volts, double ohms) const;
};

/// What a trigger asks a port for.
struct Ask {
    double volts = 5.0;
    double amps = 5.0; ///< at most
};

/// The tier a source gives to who asks: the asked volts if it has them, otherwise 5 V; empty tiers give what is asked.
/// At most `watts` (0: no limit). Amps 0 when there is nothing to agree on.
[[nodiscard]] Ask agreed(const std::vector<label::Tier>& gives, Ask asked, double watts);
/// The fixed tier of the most watts that both name, within the cable; of equals the lower voltage. Empty lists know no
/// limit but `any`.
[[nodiscard]] Ask bestAgreed(const std::vector<label::Tier>& gives, const std::vector<label::Tier>& takes,
                             double cableAmps, Ask any);

} // namespace otterstone::model
