// A meter's stated accuracy, as "% of reading + offset", and the errors it puts on what it reads.
#pragma once

#include <optional>
#include <string>
#include <string_view>

#include "core/problem.h"

namespace otterstone::path {

/// ± (gain · reading + offset), both half-widths of rectangular distributions. `gain` is a fraction, `offset` in V or A.
struct Accuracy {
    double gain = 0.0;
    double offset = 0.0;
    bool operator==(const Accuracy&) const = default;
};

struct Meter {
    std::string name = "meter"; ///< identity of its errors: two runs by one meter share them
    std::optional<Accuracy> volts;
    std::optional<Accuracy> amps;
    std::optional<double> clock; ///< half-width as a fraction: 50 ppm is 50e-6

    [[nodiscard]] bool accuracyKnown() const { return volts && amps; }
    bool operator==(const Meter&) const = default;
};

/// "volts 0.05%+2mV, amps 0.1%+3mA, clock 50ppm"; parts may be left out and come in any order.
[[nodiscard]] Result<Meter> parseMeter(std::string_view text, std::string_view place);
/// The text parseMeter reads again; empty when nothing is known.
[[nodiscard]] std::string showMeter(const Meter& meter);
[[nodiscard]] std::string showAccuracy(const Accuracy& a, std::string_view unit);

} // namespace otterstone::path
