// F: a bank's inside while it runs: cells, heat, display, and what its firmware takes from a charger. What hangs on its
// sockets is the bench's (bench.h).
#pragma once

#include "core/model/bank.h"
#include "core/model/heat.h"
#include "core/model/pack.h"

namespace otterstone::model {

class RunningBank {
public:
    RunningBank(const Bank& bank, double stateOfCharge, double ambient);

    [[nodiscard]] const Bank& bank() const { return bank_; }
    [[nodiscard]] const Pack& pack() const { return pack_; }
    [[nodiscard]] Heat& heat() { return heat_; }
    [[nodiscard]] const Heat& heat() const { return heat_; }
    /// By its own display.
    [[nodiscard]] double saysPercent() const { return says_; }
    [[nodiscard]] bool full() const { return full_; }
    /// Under load the cells fell below where it cuts off; over when it is charged again.
    [[nodiscard]] bool empty() const { return empty_; }
    /// Lost so far in converters and cells, and used by a device itself; Wh.
    [[nodiscard]] double lostWattHours() const { return lost_ + pack_.lostWattHours(); }

    /// The input watts it takes at these volts when so many are there and its outputs cost `outputWatts` on the cells'
    /// side.
    [[nodiscard]] double takes(double volts, double availableWatts, double outputWatts, double seconds) const;
    /// Whether the cells can give so much for this long without falling to the cut-off. Remembers when they cannot.
    bool canGive(double outputWatts, double seconds);
    /// Lets a step pass: `inputWatts` came in at `inputVolts`, and the outputs gave `portWatts` and lost `outputLoss`.
    /// `sourceLimits`: the charger, not the cells, decides what comes in, so that a small current doesn't mean full.
    void advance(double inputWatts, double inputVolts, double portWatts, double outputLoss, bool sourceLimits,
                 double seconds);

private:
    [[nodiscard]] double chargeAmps(double seconds) const;

    Bank bank_;
    Pack pack_;
    Heat heat_;
    double says_;
    double lost_ = 0.0;
    bool full_ = false;
    bool empty_ = false;
    double displaySeconds_ = -1.0, displayShare_ = 0.0; ///< of the last step, whose exponential is kept
};

} // namespace otterstone::model
