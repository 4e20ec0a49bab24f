// C8: what of an instrument's error two readings have in common, and what each has of its own.
#pragma once

#include <optional>
#include <string>

#include "core/path/meter.h"
#include "core/quantity/measured.h"

namespace otterstone::path {

/// Where on its scales an instrument was used. Two uses are near when their volts are of one usual tier, their amps
/// within a factor of about 1.4 of one power of two, and the energy runs the same way.
struct OperatingPoint {
    double volts = 0.0;
    double amps = 0.0; ///< 0 where no current is known
    bool intoBank = false;
    [[nodiscard]] std::string key() const; ///< "5 V 1 A out"
};

/// `m` with the error `what` of the instrument `name`: `u` is signed, in m's unit. Half of the variance is common to
/// all that the instrument reads, half belongs to this operating point: figures from one point share all of it, figures
/// from far apart half. Common practice, no published source.
[[nodiscard]] Measured withInstrument(const Measured& m, const std::string& name, const char* what, double u,
                                      const OperatingPoint& at);

/// A reading of volts or amps with the errors of its accuracy; nothing is added where none is stated. `digit` is what
/// its last digit is worth.
enum class Quantity { Volts, Amps };
[[nodiscard]] Measured withAccuracy(double reading, Quantity what, const std::optional<Accuracy>& accuracy,
                                    double digit, const std::string& meter, const OperatingPoint& at);

} // namespace otterstone::path
