// A6: what USB standards say about volts, amps and watts, in one table: tolerances and predictions look here.
#pragma once

#include <array>
#include <span>
#include <string_view>

#include "core/quantity/units.h"

namespace otterstone::label {

enum class Fact {
    SourceLow,          ///< V, least a 5 V source may show
    SourceHigh,         ///< V, most a Type-C source at 5 V may show
    OldSourceHigh,      ///< V, the same for older A-type ports
    FixedTolerance,     ///< share, of a fixed tier above 5 V
    TypeCDefault2,      ///< A, a Type-C port that promises nothing, USB 2.0
    TypeCDefault3,      ///< A, the same, USB 3
    TypeCMedium,        ///< A
    TypeCHigh,          ///< A
    DedicatedPort,      ///< A, a charging port with shorted data lines
    CableUnmarked,      ///< A
    CableUnmarkedWatts, ///< W
    CableMarked,        ///< A
    CableMarkedWatts,   ///< W
    CableExtendedWatts, ///< W
    DropForward,        ///< V, lost on VBUS at the rated current
    DropReturn,         ///< V, lost on the return
    RuleNine,           ///< W, above which a source offers 9 V
    RuleFifteen,        ///< W, 15 V
    RuleTwenty,         ///< W, 20 V
    RuleTwentyEight,    ///< W, 28 V
};

struct UsbFact {
    Fact fact;
    std::string_view what; ///< in words
    double value;
    Unit unit;
    std::string_view standard;
    bool fromMemory; ///< quoted from memory, not from the text of the standard
};

/// Every row once, in the order of Fact.
[[nodiscard]] std::span<const UsbFact> usbFacts();
[[nodiscard]] double usbFact(Fact fact);

/// V: the tiers that sources have, lowest first (USB Power Delivery 3.1, fixed supplies and the extended range; 12 V is
/// no part of its rules and common [memory]); those up to 20 V every trigger can ask for.
inline constexpr std::array kTierVolts = {5.0, 9.0, 12.0, 15.0, 20.0, 28.0, 36.0, 48.0};
[[nodiscard]] constexpr std::span<const double> standardTierVolts() { return std::span(kTierVolts).first(5); }

/// What a source may show at its socket on a tier of so many volts: 4.75 to 5.5 V at 5 V, ± 5 % above. `aType`: 5.25 V
/// is the most.
struct Window {
    double low = 0.0, high = 0.0; ///< V
    [[nodiscard]] bool holds(double volts) const { return volts >= low && volts <= high; }
};
[[nodiscard]] Window toleranceOf(double tierVolts, bool aType = false);

} // namespace otterstone::label
