#include "core/path/meter_errors.h"

#include <cmath>

#include "core/label/usb_facts.h"
#include "core/quantity/format.h"

namespace otterstone::path {

namespace {

constexpr double kCell = 3.7; // V: a cell is measured, too

double usualTier(double volts) {
    double best = kCell;
    for (const double tier : label::kTierVolts) {
        if (std::fabs(std::log(volts / tier)) < std::fabs(std::log(volts / best)))
            best = tier;
    }
    return volts > kCell / 2.0 ? best : 0.0;
}

} // namespace

std::string OperatingPoint::key() const {
    std::string text;
    if (std::fabs(volts) > 1e-6)
        text += showNumber(usualTier(std::fabs(volts)), 2) + " V ";
    if (std::fabs(amps) > 1e-6)
        text += showNumber(std::exp2(std::round(std::log2(std::fabs(amps)))), 3) + " A ";
    return text + (intoBank ? "in" : "out");
}

Measured withInstrument(const Measured& m, const std::string& name, const char* what, double u,
                        const OperatingPoint& at) {
    const ErrorSource everywhere = ErrorSource::ofInstrument(name, what);
    ErrorSource here = everywhere;
    here.near = at.key();
    return m.with(everywhere, u / std::sqrt(2.0)).with(here, u / std::sqrt(2.0));
}

Measured withAccuracy(double reading, Quantity what, const std::optional<Accuracy>& accuracy, double digit,
                      const std::string& meter, const OperatingPoint& at) {
    if (!accuracy)
        return reading;
    const bool volts = what == Quantity::Volts;
    return withInstrument(
        withInstrument(reading, meter, volts ? "volts gain" : "amps gain", reading * rectangular(accuracy->gain), at),
        meter, volts ? "volts offset" : "amps offset", rectangular(accuracy->offset + accuracy->digits * digit), at);
}

} // namespace otterstone::path
