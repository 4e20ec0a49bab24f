// D8: how much of a bank is usable at which load, from a few drains. D17 asks it how long a load runs.
#pragma once

#include <optional>
#include <span>
#include <string>
#include <vector>

#include "core/quantity/curve_fit.h"
#include "core/quantity/working.h"

namespace otterstone::together {

/// What of the energy at the port arrives in a device's battery where no run into it says so, as a share give or take
/// `kArrivesWithin`. Common practice, no published source.
inline constexpr double kArrivesInDevice = 0.85, kArrivesWithin = 0.10;

/// One complete drain.
struct UsablePoint {
    long long run = 0;
    std::string title;
    double watts = 0.0; ///< mean at the port while it was loaded
    Measured wattHours; ///< out of the port
    double volts =
        0.0; ///< of the tier; losses follow the current, so a curve is best drawn through drains at one voltage
};

/// What else is known of the bank.
struct UsableKnown {
    std::string bank = {};                     ///< identity of the fit's own doubt
    std::optional<double> putInWattHours = {}; ///< of a recharge from empty to full: the cells hold less than that
    std::optional<double> ratedWattHours = {};
    std::optional<double> idleWatts = {};  ///< what it burns with the output on and nothing drawn (D12)
    std::optional<double> outputOhms = {}; ///< of the output, from a staircase (D9), at `outputVolts`
    double outputVolts = 5.0;
    double topWatts = 0.0; ///< the most its ports give; 0: not known, then the highest load tried
};

/// E(P) = E₀·P / (P + P₀ + r·P²): a fixed overhead of P₀ watts and a resistive loss r·P² beside the load, fitted to
/// complete drains by least squares with what is known as prior, so that one drain answers already, with a wide band:
/// E₀ lies between what the best drain gave and what a recharge put in, else 1.05 of the rating (a logistic scale, so
/// never outside); P₀ about 0.1 W within a factor of five (95 %), or the idle draw within one and a half; r such that 4
/// % are lost at the top load within a factor of six, or twice the output's resistance within two and a half. Common
/// practice, no published source for shape and priors; the fit is checked against scipy's, the band against simulated
/// banks.
class UsableCurve {
public:
    /// From complete drains; nothing without one.
    [[nodiscard]] static std::optional<UsableCurve> fit(std::vector<UsablePoint> points, const UsableKnown& known = {});

    /// Energy at a load, watts > 0, with the band's doubt: of the fit, and of what all drains share.
    [[nodiscard]] Measured at(double watts) const;
    /// Outside 1/1.5 to 1.5 times the loads that were tried.
    [[nodiscard]] bool extrapolates(double watts) const;
    /// at() with its formula; says so when it extrapolates.
    [[nodiscard]] Working energyAt(double watts) const;
    /// D17.
    [[nodiscard]] Working runtimeOf(double watts) const;
    /// Between the loads that were tried, by their ratio: W.
    [[nodiscard]] double middlingLoad() const;
    /// How often a battery of so many Wh, > 0, is charged from empty to full at a middling load, where as much arrives
    /// in it as usual.
    [[nodiscard]] Working chargesOf(double batteryWattHours) const;

    [[nodiscard]] const std::vector<UsablePoint>& points() const { return points_; }
    [[nodiscard]] double lowest() const { return lowest_; }
    [[nodiscard]] double highest() const { return highest_; }
    [[nodiscard]] std::size_t loads() const { return loads_; } ///< that differ by more than 5 %
    [[nodiscard]] double emptyLoadWattHours() const;           ///< E₀
    [[nodiscard]] Measured emptyLoad() const;                  ///< E₀ with the fit's doubt, and that of all drains
    [[nodiscard]] double most() const { return most_; }        ///< Wh: what E₀ cannot exceed
    [[nodiscard]] double overheadWatts() const;                ///< P₀
    [[nodiscard]] double resistance() const;                   ///< r, 1/W
    /// "E₀ = 68.1 Wh, P₀ = 0.31 W, r = 0.0021 per W (3 drains, and what else is known of the bank)".
    [[nodiscard]] std::string inWords() const;

private:
    [[nodiscard]] double valueAt(double watts, std::span<const double> p) const;
    void gradientAt(double watts, std::span<const double> p, std::span<double> g) const;

    std::vector<UsablePoint> points_;
    std::string bank_;
    CurveFit fit_; ///< of the logistic scale of E₀, ln P₀ and ln r
    double least_ = 0.0, most_ = 0.0;
    std::size_t loads_ = 0;
    double lowest_ = 0.0, highest_ = 0.0;
    double sharedRelative_ = 0.0; ///< standard uncertainty that all drains have in common, as a fraction
};

} // namespace otterstone::together
