#include "core/model/running_bank.h"

#include <algorithm>
#include <cmath>

namespace otterstone::model {

RunningBank::RunningBank(const Bank& bank, double stateOfCharge, double ambient)
    : bank_(bank), pack_(bank.cells, stateOfCharge), heat_(bank.thermal, ambient),
      says_(bank.gauge.says(stateOfCharge)) {}

double RunningBank::chargeAmps(double seconds) const {
    return std::min(bank_.chargeAmps, pack_.chargeAmpsUpTo(bank_.cells.fullVolts * bank_.cells.series, seconds));
}

double RunningBank::takes(double volts, double availableWatts, double outputWatts, double seconds) const {
    if (volts <= 0.0)
        return 0.0;
    double need = outputWatts + bank_.useWatts;
    if (!full_) {
        const double amps = chargeAmps(seconds);
        need += amps * pack_.voltsUnder(-amps, seconds);
    }
    if (need <= 0.0)
        return std::min(availableWatts, bank_.idleInputWatts);
    return std::min(availableWatts, bank_.input.inputFor(need, volts));
}

bool RunningBank::canGive(double outputWatts, double seconds) {
    const double amps = pack_.ampsFor(outputWatts, seconds);
    empty_ |=
        pack_.stateOfCharge() <= 0.0 || pack_.voltsUnder(amps, seconds) < bank_.cells.cutOffVolts * bank_.cells.series;
    return !empty_;
}

void RunningBank::advance(double inputWatts, double inputVolts, double portWatts, double outputLoss, bool sourceLimits,
                          double seconds) {
    // What a full bank idles on never reaches the cells.
    const bool idling = full_ && portWatts <= 0.0 && bank_.useWatts <= 0.0;
    const double inputLoss = inputWatts <= 0.0 ? 0.0 : idling ? inputWatts : bank_.input.loss(inputWatts / inputVolts);
    const double own = pack_.stateOfCharge() > 0.0 ? bank_.standbyWatts + bank_.useWatts : 0.0;
    const double amps = pack_.ampsFor(portWatts + outputLoss + own - (inputWatts - inputLoss), seconds);
    if (!full_ && inputWatts > 0.0) {
        const bool constantVolts = amps > -bank_.chargeAmps && !sourceLimits;
        full_ = pack_.stateOfCharge() >= 1.0 || (constantVolts && -amps < bank_.endOfChargeShare * bank_.chargeAmps);
    } else if (full_ && (inputWatts <= 0.0 ? amps > 0.0 : pack_.stateOfCharge() < bank_.topOffBelow)) {
        full_ = false;
    }
    const double inCells = pack_.advance(amps, seconds);
    const double elsewhere = inputLoss + outputLoss + own;
    lost_ += elsewhere * seconds / 3600.0;
    heat_.step(inputLoss + outputLoss + inCells + bank_.standbyWatts, seconds);
    if (amps < 0.0)
        empty_ = false;
    if (seconds != displaySeconds_) {
        displayShare_ = -std::expm1(-seconds / std::max(seconds, bank_.gauge.lagSeconds));
        displaySeconds_ = seconds;
    }
    says_ += (bank_.gauge.says(pack_.stateOfCharge()) - says_) * displayShare_;
}

} // namespace otterstone::model
