// What one display says of a battery that is charged or used: percent or LEDs at moments, and what lies between them.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/quantity/measured.h"
#include "core/records/state.h"

namespace otterstone::kinds {

/// One look at a display.
struct Look {
    double at = 0.0; ///< s
    records::State state;
    bool exact = false;         ///< "full" or "empty" as it told itself, no digit of a percent
    bool leds = false;          ///< an interval, not a digit
    bool wentOff = false;       ///< that interval is what its last display allowed when it went off
    std::optional<double> left; ///< s that it said it would still take
    std::optional<double> celsius;
    std::size_t row = 0;
    double slack = 0.0; ///< s, either way, of its moment: nobody saw a light come on
};

/// A moment known to lie between two.
struct Between {
    double low = 0.0, high = 0.0; ///< s
    bool operator==(const Between&) const = default;
};

/// Its display stood still though it was not full.
struct Stuck {
    double percent = 0.0, at = 0.0, seconds = 0.0;
};
struct Slowed {
    double percent = 0.0, at = 0.0;   ///< where, and s after the beginning
    double before = 0.0, after = 0.0; ///< points an hour
    std::optional<double> celsius;    ///< then
};
/// What it said it would take, at a moment, and when it truly was full after that moment.
struct SaidLeft {
    double at = 0.0, said = 0.0; ///< s
    Between truth;
};

/// Times are in s since its first look. A percent is good to its last digit either way (rectangular), LEDs say an
/// interval, and where one more is lit than at the look before, the charge was at their border some time between;
/// between looks the curve is taken as a line that may bulge as far as its neighbours let it. Common practice, no
/// published source.
struct Charging {
    Measured from, to, gained; ///< points; negative when it lost
    double seconds = 0.0;
    std::optional<Measured> pace; ///< points an hour up to 80 %, or over all where that is too little
    double paceFrom = 0.0, paceTo = 0.0;
    std::optional<Measured> at30, at60; ///< percent after half an hour and after one
    std::optional<Measured> to80;       ///< s; nothing when it began above or did not get there
    std::optional<Between> toFull;
    std::optional<Stuck> stuck;
    std::optional<Slowed> slowed;
    std::optional<SaidLeft> saidLeft;
};

/// A time that is known to half of itself, or better: others would only fill a table.
[[nodiscard]] bool tellsMuch(const Measured& seconds);
/// The state at a look as a figure in points. `who` tells whose display it is.
[[nodiscard]] Measured stateOf(const Look& look, const std::string& run, const std::string& who);
/// Precondition: one look or more, in the order of time.
[[nodiscard]] Charging chargingOf(const std::vector<Look>& looks, const std::string& run, const std::string& who);

} // namespace otterstone::kinds
