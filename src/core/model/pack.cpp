#include "core/model/pack.h"

#include <algorithm>
#include <cmath>

namespace otterstone::model {

namespace {

constexpr double kHour = 3600.0;
constexpr int kVoltRounds = 3; // the volts change by microvolts within a step: two rounds settle them

} // namespace

Pack::Pack(const Cells& cells, double stateOfCharge) : cells_(cells), soc_(stateOfCharge) {}

double Pack::storedWattHours() const {
    const double capacitor =
        cells_.slowOhms > 0.0 ? 0.5 * cells_.slowSeconds / cells_.slowOhms * slowVolts_ * slowVolts_ / kHour : 0.0;
    return cells_.storedWattHours(soc_) + capacitor;
}

Pack::Step Pack::stepOf(double seconds) const {
    if (seconds != stepSeconds_) {
        const double x = seconds / cells_.slowSeconds;
        step_ = {std::exp(-x), x > 0.0 ? -std::expm1(-x) / x : 1.0};
        stepSeconds_ = seconds;
    }
    return step_;
}

double Pack::meanOpenCircuit(double amps, double seconds) const {
    const double charge = amps * seconds / kHour;
    if (std::fabs(charge) < 1e-9 * cells_.ampHours) // too little to divide by
        return cells_.openCircuitVolts(soc_ - charge / cells_.ampHours / 2.0);
    return (cells_.storedWattHours(soc_) - cells_.storedWattHours(soc_ - charge / cells_.ampHours)) / charge;
}

double Pack::voltsUnder(double amps, double seconds) const {
    const Step step = stepOf(seconds);
    return meanOpenCircuit(amps, seconds) - amps * (cells_.ohms + cells_.slowOhms * (1.0 - step.mean)) -
           slowVolts_ * step.mean;
}

double Pack::ampsFor(double watts, double seconds) const {
    const Step step = stepOf(seconds);
    const double ohms = cells_.ohms + cells_.slowOhms * (1.0 - step.mean);
    double amps = 0.0;
    for (int round = 0; round < kVoltRounds; ++round) {
        // amps · (volts − amps · ohms) = watts
        const double volts = meanOpenCircuit(amps, seconds) - slowVolts_ * step.mean;
        const double root = volts * volts - 4.0 * ohms * watts;
        if (root <= 0.0)
            return volts / (2.0 * ohms);
        // The form without a difference of near equals.
        amps = 2.0 * watts / (volts + std::sqrt(root));
    }
    return amps;
}

double Pack::chargeAmpsUpTo(double volts, double seconds) const {
    const Step step = stepOf(seconds);
    const double ohms = cells_.ohms + cells_.slowOhms * (1.0 - step.mean);
    double amps = 0.0;
    for (int round = 0; round < kVoltRounds; ++round)
        amps = std::max(0.0, (volts - meanOpenCircuit(-amps, seconds) + slowVolts_ * step.mean) / ohms);
    return amps;
}

double Pack::advance(double amps, double seconds) {
    const Step step = stepOf(seconds);
    double lost = amps * amps * cells_.ohms * seconds / kHour;
    if (cells_.slowOhms > 0.0) {
        const double settled = amps * cells_.slowOhms;
        const double mean = settled + (slowVolts_ - settled) * step.mean;
        const double after = settled + (slowVolts_ - settled) * step.decay;
        const double farad = cells_.slowSeconds / cells_.slowOhms;
        lost += (amps * mean * seconds - 0.5 * farad * (after * after - slowVolts_ * slowVolts_)) / kHour;
        slowVolts_ = after;
    }
    soc_ -= amps * seconds / kHour / cells_.ampHours;
    lost_ += lost;
    return lost * kHour / seconds;
}

} // namespace otterstone::model
