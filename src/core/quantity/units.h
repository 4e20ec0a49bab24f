// Small strong types where a mix-up is likely (volts for amps, Wh for Ah). Inner loops use plain doubles.
#pragma once

#include <compare>

namespace otterstone {

template<class Tag>
struct Amount {
    double value = 0.0;

    constexpr Amount() = default;
    constexpr explicit Amount(double v) : value(v) {}
    constexpr auto operator<=>(const Amount&) const = default;
    constexpr Amount operator+(Amount o) const { return Amount(value + o.value); }
    constexpr Amount operator-(Amount o) const { return Amount(value - o.value); }
    constexpr Amount operator*(double k) const { return Amount(value * k); }
    constexpr Amount operator/(double k) const { return Amount(value / k); }
    constexpr double operator/(Amount o) const { return value / o.value; }
};

using Volts = Amount<struct VoltsTag>;
using Amps = Amount<struct AmpsTag>;
using Watts = Amount<struct WattsTag>;
using WattHours = Amount<struct WattHoursTag>;
using AmpHours = Amount<struct AmpHoursTag>;
using Hours = Amount<struct HoursTag>;

constexpr Watts operator*(Volts v, Amps i) { return Watts(v.value * i.value); }
constexpr WattHours operator*(AmpHours q, Volts v) { return WattHours(q.value * v.value); }
constexpr Volts operator/(WattHours e, AmpHours q) { return Volts(e.value / q.value); }
constexpr AmpHours operator/(WattHours e, Volts v) { return AmpHours(e.value / v.value); }
constexpr Hours operator/(WattHours e, Watts p) { return Hours(e.value / p.value); }
constexpr WattHours operator*(Watts p, Hours t) { return WattHours(p.value * t.value); }

/// The unit in which a figure is shown. `Share` is a fraction inside and a percentage on the screen; `Point` is a
/// hundredth of a score.
enum class Unit {
    None,
    Volt,
    Amp,
    Watt,
    WattHour,
    MilliampHour,
    Second,
    Share,
    Ohm,
    Celsius,
    Gram,
    Kelvin,
    Millimetre,
    WattHourPerKilogram,
    WattHourPerLitre,
    Month,
    Point
};

} // namespace otterstone
