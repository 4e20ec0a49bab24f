// A wireless pad as a port: how much of the bank reaches the device, against a wire, and whether heat slows it.
#pragma once

#include "core/kinds/judge.h"

namespace otterstone::kinds {

struct PadReading {
    std::optional<double> seconds, device, bank, celsius, watts;
};

/// One way of charging the device.
struct Way {
    std::vector<PadReading> readings;
    std::optional<double> devicePoints, bankPoints, seconds; ///< from the first to the last reading
    std::optional<Measured> transfer;                        ///< into the device's battery ÷ out of the bank's rating
};

struct PadFinding {
    Way pad, wire;
    std::optional<Measured> against;        ///< device points per bank point, pad ÷ wire
    std::optional<double> hottest;          ///< °C, on the pad
    std::optional<Measured> wattsPerKelvin; ///< slope of the pad's watts over the device's temperature
    Said said;
};

/// Both displays are good to ± 1 point at either end (rectangular). Common practice, no published source.
[[nodiscard]] PadFinding pad(const Sheet& sheet, const Facts& facts);

struct SheetKind;
/// Its row in the catalogue.
[[nodiscard]] SheetKind padKind();

} // namespace otterstone::kinds
