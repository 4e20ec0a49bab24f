// D8: how much of a bank is usable at which load, from a few drains. D17 asks it how long a load runs.
#pragma once

#include <optional>
#include <span>
#include <string>
#include <vector>

#include "core/quantity/curve_fit.h"
#include "core/working.h"

namespace otterstone::findings {

/// One complete drain.
struct UsablePoint {
    long long run = 0;
    std::string title;
    double watts = 0.0; ///< mean at the port while it was loaded
    Measured wattHours; ///< out of the port
    double volts = 0.0; ///< of the tier; losses follow the current, so a curve is best drawn through drains at one voltage
};

/// E(P) = E₀·P / (P + P₀ + r·P²): a fixed overhead of P₀ watts and a resistive loss r·P² beside the load. With two loads r is held at 0.
/// Common practice, no published source for the shape; the fit is checked against scipy's.
class UsableCurve {
public:
    /// From complete drains at two or more loads that differ by more than 5 %; nothing otherwise.
    [[nodiscard]] static std::optional<UsableCurve> fit(std::vector<UsablePoint> points);

    /// Energy at a load, watts > 0, with the band's doubt: of the fit, and of what all drains share.
    [[nodiscard]] Measured at(double watts) const;
    /// Outside 1/1.5 to 1.5 times the loads that were tried.
    [[nodiscard]] bool extrapolates(double watts) const;
    /// at() with its formula; says so when it extrapolates.
    [[nodiscard]] Working energyAt(double watts) const;
    /// D17.
    [[nodiscard]] Working runtimeOf(double watts) const;

    [[nodiscard]] const std::vector<UsablePoint>& points() const { return points_; }
    [[nodiscard]] double lowest() const { return lowest_; }
    [[nodiscard]] double highest() const { return highest_; }
    [[nodiscard]] double emptyLoadWattHours() const { return fit_.parameters[0]; } ///< E₀
    [[nodiscard]] double overheadWatts() const { return parameter(1); }            ///< P₀
    [[nodiscard]] double resistance() const { return parameter(2); }               ///< r, 1/W
    [[nodiscard]] bool resistanceHeld() const { return fit_.parameters.size() < 3; }
    /// "E₀ = 68.1 Wh, P₀ = 0.31 W, r = 0.0021 /W (three loads)".
    [[nodiscard]] std::string inWords() const;

private:
    [[nodiscard]] double parameter(std::size_t k) const { return k < fit_.parameters.size() ? fit_.parameters[k] : 0.0; }

    std::vector<UsablePoint> points_;
    CurveFit fit_;
    double lowest_ = 0.0, highest_ = 0.0;
    double sharedRelative_ = 0.0; ///< standard uncertainty that all drains have in common, as a fraction
};

} // namespace otterstone::findings
