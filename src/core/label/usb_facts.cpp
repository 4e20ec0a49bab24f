#include "core/label/usb_facts.h"

#include <array>

namespace otterstone::label {

namespace {

constexpr std::array kFacts = {
    UsbFact{Fact::SourceLow, "least volts of a 5 V source", 4.75, Unit::Volt, "USB 2.0, 7.2.2; USB Type-C, 4.4.2",
            true},
    UsbFact{Fact::SourceHigh, "most volts of a Type-C source at 5 V", 5.5, Unit::Volt, "USB Type-C, 4.4.2", true},
    UsbFact{Fact::OldSourceHigh, "most volts of an older A-type port", 5.25, Unit::Volt, "USB 2.0, 7.3.2", true},
    UsbFact{Fact::FixedTolerance, "tolerance of a fixed tier", 0.05, Unit::Share, "USB Power Delivery, 7.1.4", true},
    UsbFact{Fact::TypeCDefault2, "Type-C default current, USB 2.0", 0.5, Unit::Amp, "USB Type-C, 4.5.2.3", true},
    UsbFact{Fact::TypeCDefault3, "Type-C default current, USB 3", 0.9, Unit::Amp, "USB Type-C, 4.5.2.3", true},
    UsbFact{Fact::TypeCMedium, "Type-C current, middle", 1.5, Unit::Amp, "USB Type-C, 4.5.2.3", true},
    UsbFact{Fact::TypeCHigh, "Type-C current, high", 3.0, Unit::Amp, "USB Type-C, 4.5.2.3", true},
    UsbFact{Fact::DedicatedPort, "dedicated charging port", 1.5, Unit::Amp, "USB Battery Charging 1.2, 4.4", true},
    UsbFact{Fact::CableUnmarked, "current through a cable without a marker", 3.0, Unit::Amp, "USB Type-C, 4.9", true},
    UsbFact{Fact::CableUnmarkedWatts, "power through a cable without a marker", 60.0, Unit::Watt,
            "USB Power Delivery, 6.4", true},
    UsbFact{Fact::CableMarked, "current through a marked cable", 5.0, Unit::Amp, "USB Type-C, 4.9", true},
    UsbFact{Fact::CableMarkedWatts, "power through a marked cable", 100.0, Unit::Watt, "USB Power Delivery, 6.4", true},
    UsbFact{Fact::CableExtendedWatts, "power through a cable marked for the extended range", 240.0, Unit::Watt,
            "USB Power Delivery 3.1, 6.4", true},
    UsbFact{Fact::DropForward, "volts a Type-C cable may lose on VBUS at its rated current", 0.5, Unit::Volt,
            "USB Type-C, 4.4.1", true},
    UsbFact{Fact::DropReturn, "volts it may lose on the return", 0.25, Unit::Volt, "USB Type-C, 4.4.1", true},
    UsbFact{Fact::RuleNine, "watts above which a source offers 9 V", 15.0, Unit::Watt,
            "USB Power Delivery, 10.2 (power rules)", true},
    UsbFact{Fact::RuleFifteen, "watts above which a source offers 15 V", 27.0, Unit::Watt,
            "USB Power Delivery, 10.2 (power rules)", true},
    UsbFact{Fact::RuleTwenty, "watts above which a source offers 20 V", 45.0, Unit::Watt,
            "USB Power Delivery, 10.2 (power rules)", true},
    UsbFact{Fact::RuleTwentyEight, "watts above which a source offers 28 V", 100.0, Unit::Watt,
            "USB Power Delivery 3.1, 10.2 (power rules)", true},
};

constexpr double kAboveFive = 5.6; // V: from here on a tier is one of the fixed ones above 5 V

} // namespace

std::span<const UsbFact> usbFacts() { return kFacts; }

double usbFact(Fact fact) { return kFacts[static_cast<std::size_t>(fact)].value; }

Window toleranceOf(double tierVolts, bool aType) {
    const double share = usbFact(Fact::FixedTolerance);
    if (tierVolts > kAboveFive)
        return {tierVolts * (1.0 - share), tierVolts * (1.0 + share)};
    return {usbFact(Fact::SourceLow), usbFact(aType ? Fact::OldSourceHigh : Fact::SourceHigh)};
}

} // namespace otterstone::label
