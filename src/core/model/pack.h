// F: the cells while they run. Amps are positive out of the pack. Within a step the current is constant and every sum
// exact, so energy is conserved to the last bits whatever the step's length.
#pragma once

#include "core/model/bank.h"

namespace otterstone::model {

class Pack {
public:
    Pack(const Cells& cells, double stateOfCharge);

    [[nodiscard]] double stateOfCharge() const { return soc_; }
    /// In the cells and in the RC pair's capacitor, Wh.
    [[nodiscard]] double storedWattHours() const;
    /// Turned into heat in the resistances so far, Wh.
    [[nodiscard]] double lostWattHours() const { return lost_; }
    /// Mean volts at the terminals over a step of this many seconds.
    [[nodiscard]] double voltsUnder(double amps, double seconds) const;
    /// The current whose mean power at the terminals over the step is `watts` (negative: charging); of what cannot be
    /// had the most.
    [[nodiscard]] double ampsFor(double watts, double seconds) const;
    /// The greatest charging current that keeps the terminals at or below `volts`; 0 when they are above already.
    [[nodiscard]] double chargeAmpsUpTo(double volts, double seconds) const;
    /// Lets it flow. The watts lost meanwhile.
    double advance(double amps, double seconds);

private:
    struct Step {
        double decay; ///< e^(−t/τ)
        double mean;  ///< (1 − decay)·τ/t: the share of its first value that the pair's voltage keeps on average
    };
    [[nodiscard]] Step stepOf(double seconds) const;
    [[nodiscard]] double meanOpenCircuit(double amps, double seconds) const;

    Cells cells_;
    double soc_;
    double slowVolts_ = 0.0; ///< over the RC pair
    double lost_ = 0.0;
    mutable double stepSeconds_ = -1.0; ///< the last step's, whose exponential is kept
    mutable Step step_{};
};

} // namespace otterstone::model
