#include "core/path/cable.h"

#include <cmath>
#include <numbers>
#include <vector>

#include "core/quantity/line.h"
#include "core/quantity/say.h"

namespace otterstone::path {

namespace {

constexpr double kCopperOhmMetre = 1.7241e-8;
constexpr double kCopperPerKelvin = 0.00393;
constexpr double kWireDoubt = 0.15;
constexpr double kContactsOhms = 0.020;
constexpr double kContactsDoubt = 0.015;

Working ohmsWorking(const Measured& value, std::string formula, std::string note) {
    Working w;
    w.key = "loop_ohms";
    w.label = say("loop resistance");
    w.formula = std::move(formula);
    w.value = value;
    w.unit = Unit::Ohm;
    w.point = say("between the two points");
    w.note = std::move(note);
    return w;
}

} // namespace

Working loopResistance(const Measured& voltsNear, const Measured& voltsFar, const Measured& amps) {
    return ohmsWorking((voltsNear - voltsFar) / amps,
                       "(" + showValue(voltsNear, Unit::Volt) + " − " + showValue(voltsFar, Unit::Volt) + ") ÷ " +
                           showValue(amps, Unit::Amp),
                       say("from one load: what the two voltmeters differ by weighs in full"));
}

std::optional<CableFit> loopResistance(std::span<const LoadPoint> loads, const CommonErrors& common,
                                       const ErrorSource& scatter) {
    std::vector<double> x, y, u;
    for (const LoadPoint& p : loads) {
        x.push_back(p.amps);
        y.push_back(p.dropVolts);
        u.push_back(p.uDrop > 0.0 ? p.uDrop : 1e-6);
    }
    const auto line = fitLine(x, y, u);
    if (!line)
        return std::nullopt;
    CableFit fit;
    // More scatter than the readings' own doubt explains: a contact moved, the cable warmed. The line's doubt grows
    // with it (Birge ratio).
    const double scale = std::max(1.0, line->residual);
    fit.ohms = Measured(line->slope).with(scatter, line->uSlope * scale);
    for (const Contribution& c : common.amps) // a current read too large makes the resistance too small
        fit.ohms = fit.ohms.with(c.source, -line->slope * c.u, c.dof);
    for (const Contribution& c : common.drop)
        fit.ohms = fit.ohms.with(c.source, c.u, c.dof);
    fit.offsetVolts = line->intercept;
    fit.loads = loads.size();
    fit.working =
        ohmsWorking(fit.ohms, say("slope of the volts lost over the amps"),
                    say("{} loads; at no current the two voltmeters differ by {} mV, which the slope leaves out",
                        std::to_string(fit.loads), showNumber(line->intercept * 1000.0, 2)));
    return fit;
}

double wireMillimetres(int awg) { return 0.127 * std::pow(92.0, (36.0 - awg) / 39.0); }

double copperOhmsPerMetre(int awg, double celsius) {
    const double metres = wireMillimetres(awg) * 1e-3;
    const double area = std::numbers::pi * metres * metres / 4.0;
    return kCopperOhmMetre / area * (1.0 + kCopperPerKelvin * (celsius - 20.0));
}

Working estimatedLoop(int awg, double metres, double celsius, const std::string& piece) {
    const double wire = 2.0 * metres * copperOhmsPerMetre(awg, celsius);
    const Measured copper(wire, rectangular(kWireDoubt * wire), ErrorSource::ofBench(piece, "the wire's make"));
    const Measured contacts(kContactsOhms, rectangular(kContactsDoubt), ErrorSource::ofBench(piece, "the contacts"));
    return ohmsWorking(
        copper + contacts,
        "2 × " + showNumber(metres, 3) + " m × " + showNumber(copperOhmsPerMetre(awg, celsius) * 1000.0, 4) +
            " mΩ/m + " + showNumber(kContactsOhms * 1000.0) + " mΩ",
        say("estimated from AWG {} copper and the contacts; measure it with two meters to know it better",
            std::to_string(awg)));
}

} // namespace otterstone::path
