#include "core/model/meter_errors.h"

#include <cmath>

namespace otterstone::model {

MeterErrors::MeterErrors(const path::Meter& meter, Digits digits, std::uint64_t seed) : digits_(digits), random_(seed) {
    const auto within = [this](double half) { return std::uniform_real_distribution<double>(-half, half)(random_); };
    if (meter.volts) {
        voltsGain_ = within(meter.volts->gain);
        voltsOffset_ = within(meter.volts->offset);
    }
    if (meter.amps) {
        ampsGain_ = within(meter.amps->gain);
        ampsOffset_ = within(meter.amps->offset);
    }
}

MeterErrors::Shown MeterErrors::read(double volts, double amps) {
    const double v =
        volts * (1.0 + voltsGain_) + (volts > 0.0 ? voltsOffset_ : 0.0) + noise_(random_) * digits_.noiseVolts;
    const double i = amps * (1.0 + ampsGain_) + (amps > 0.0 ? ampsOffset_ : 0.0) + noise_(random_) * digits_.noiseAmps;
    return {rounded(std::max(0.0, v), digits_.volts), rounded(std::max(0.0, i), digits_.amps)};
}

double rounded(double value, double step) { return std::round(value / step) / std::round(1.0 / step); }

} // namespace otterstone::model
