// A meter's stated accuracy, as "% of reading + offset", and the errors it puts on what it reads.
#pragma once

#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "core/quantity/problem.h"

namespace otterstone::path {

/// ± (gain · reading + offset + digits · last digit), all half-widths of rectangular distributions. `gain` is a
/// fraction, `offset` in V or A; what a digit is worth shows in the log.
struct Accuracy {
    double gain = 0.0;
    double offset = 0.0;
    double digits = 0.0;
    bool operator==(const Accuracy&) const = default;
};

/// The accuracy of a range that ends before the widest.
struct Range {
    double upTo = 0.0; ///< V or A
    Accuracy accuracy;
    bool operator==(const Range&) const = default;
};

struct Meter {
    std::string name = "meter"; ///< identity of its errors: two runs by one meter share them
    std::optional<Accuracy> volts;
    std::optional<Accuracy> amps;
    std::vector<Range> voltsRanges, ampsRanges; ///< below the widest, from the narrowest on
    std::optional<double> clock;                ///< half-width as a fraction: 50 ppm is 50e-6

    [[nodiscard]] bool accuracyKnown() const {
        return (volts || !voltsRanges.empty()) && (amps || !ampsRanges.empty());
    }
    /// The accuracy of the range that takes a reading this large: a whole trace is judged by its greatest.
    [[nodiscard]] std::optional<Accuracy> voltsUpTo(double greatest) const;
    [[nodiscard]] std::optional<Accuracy> ampsUpTo(double greatest) const;
    bool operator==(const Meter&) const = default;
};

/// "volts 0.05%+2mV, amps 0.1%+3mA, clock 50ppm"; parts may be left out and come in any order. Ranges: "volts 0.05%+2mV
/// to 10V, volts 0.1%+5 digits".
[[nodiscard]] Result<Meter> parseMeter(std::string_view text, std::string_view place);
/// The text parseMeter reads again; empty when nothing is known.
[[nodiscard]] std::string showMeter(const Meter& meter);
[[nodiscard]] std::string showAccuracy(const Accuracy& a, std::string_view unit);

} // namespace otterstone::path
