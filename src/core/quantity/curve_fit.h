// A curve with a few parameters fitted to points (Levenberg-Marquardt, from Eigen).
#pragma once

#include <functional>
#include <optional>
#include <span>
#include <string>
#include <vector>

#include "core/quantity/measured.h"

namespace otterstone {

/// A curve y(x; p). `gradient` writes ∂y/∂p, one number per parameter.
struct CurveModel {
    std::function<double(double x, std::span<const double> p)> value;
    std::function<void(double x, std::span<const double> p, std::span<double> out)> gradient;
};

struct CurveFit {
    std::vector<double> parameters;
    std::vector<double> covariance; ///< row-major
    double residual = 0.0;          ///< standard deviation of the residuals, in units of u where u was given
    double dof = 0.0;

    [[nodiscard]] double u(std::size_t k) const;
    /// The parameters as Measureds that share independent sources "what/1", …; their dof is the fit's when the doubt
    /// comes from the scatter.
    [[nodiscard]] std::vector<Measured> measured(const ErrorSource& source) const;
    /// Standard uncertainty of the curve itself where its gradient is `g`.
    [[nodiscard]] double uOfCurve(std::span<const double> g) const;
};

/// Least squares from `start`. With `u` each point weighs 1/u² and the doubt comes from these, enlarged when the
/// residuals are larger than u explains (Birge ratio above 1); without, from the scatter. Nothing when there are fewer
/// points than parameters (or as many, without u), or no minimum was found. Source: Levenberg-Marquardt; checked
/// against NIST's certified Misra1a and scipy.optimize.curve_fit.
[[nodiscard]] std::optional<CurveFit> fitCurve(const CurveModel& model, std::vector<double> start,
                                               std::span<const double> x, std::span<const double> y,
                                               std::span<const double> u = {});

} // namespace otterstone
