// F: a simulated meter: its errors, drawn once within its stated accuracy, and the digits it shows.
#pragma once

#include <cstdint>
#include <random>

#include "core/path/meter.h"

namespace otterstone::model {

struct Digits {
    double volts = 0.001, amps = 0.001;             ///< readings are rounded to this
    double noiseVolts = 0.0005, noiseAmps = 0.0005; ///< standard deviation of each reading
};

class MeterErrors {
public:
    MeterErrors(const path::Meter& meter, Digits digits, std::uint64_t seed);

    struct Shown {
        double volts, amps;
    };
    /// What it shows for what is there; amps towards the load are positive, and an offset stands only where something
    /// is.
    [[nodiscard]] Shown read(double volts, double amps);

private:
    Digits digits_;
    std::mt19937_64 random_;
    std::normal_distribution<double> noise_;
    double voltsGain_ = 0.0, voltsOffset_ = 0.0, ampsGain_ = 0.0, ampsOffset_ = 0.0;
};

/// Decimal digits as a log has them: 5.123, not the nearest multiple of a binary 0.001.
[[nodiscard]] double rounded(double value, double step);

} // namespace otterstone::model
