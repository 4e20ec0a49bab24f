// B1: the loop resistance of a cable: from two readings at one load, from several loads, from gauge and length.
#pragma once

#include <optional>
#include <span>
#include <vector>

#include "core/quantity/working.h"

namespace otterstone::path {

/// (V near the source − V far from it) ÷ I. Precondition: `amps` is not 0. Source: Ohm's law.
[[nodiscard]] Working loopResistance(const Measured& voltsNear, const Measured& voltsFar, const Measured& amps);

/// One load: the current and the volts lost between the two points, with the standard uncertainty of that drop that is
/// not common to all loads.
struct LoadPoint {
    double amps = 0.0;
    double dropVolts = 0.0;
    double uDrop = 0.0;
};

/// What is common to all loads, as signed standard uncertainties under the names that other figures of the same meters
/// use.
struct CommonErrors {
    std::vector<Contribution> amps; ///< relative, of the current: the gain of an ammeter
    std::vector<Contribution> drop; ///< volts of drop per ampere: the gains of the two voltmeters on volts that
                                    ///< themselves change with the load
};

struct CableFit {
    Measured ohms;
    double offsetVolts = 0.0; ///< drop at no current: what the two voltmeters differ by
    std::size_t loads = 0;
    Working working;
};

/// Slope of a weighted straight line of drop over current: constant differences of the two voltmeters stay in the
/// intercept. Nothing below two loads, or when they are all alike. Source: weighted least squares (quantity/line.h).
[[nodiscard]] std::optional<CableFit> loopResistance(std::span<const LoadPoint> loads, const CommonErrors& common,
                                                     const ErrorSource& scatter);

/// Diameter of a wire of this gauge in mm: 0.127 mm × 92^((36 − n)/39). Source: ASTM B258, quoted from memory; checked
/// against GNU units.
[[nodiscard]] double wireMillimetres(int awg);
/// Ohms per metre of one copper conductor. Annealed copper has 1.7241e-8 Ωm at 20 °C (IEC 60028, quoted from memory), +
/// 0.393 %/K.
[[nodiscard]] double copperOhmsPerMetre(int awg, double celsius = 20.0);

/// An estimate for both conductors and four contacts: ± 15 % on the copper (strands, temperature, length) and 20 ± 15
/// mΩ for the contacts, both rectangular; `piece` is the cable whose make and contacts these are. Common practice, no
/// published source. `awg` 0 … 40, `metres` > 0.
[[nodiscard]] Working estimatedLoop(int awg, double metres, double celsius = 20.0, const std::string& piece = {});

} // namespace otterstone::path
