// A weighted straight line through points.
#pragma once

#include <optional>
#include <span>

namespace otterstone {

struct Line {
    double slope = 0.0;
    double intercept = 0.0;
    double uSlope = 0.0; ///< standard uncertainty
    double uIntercept = 0.0;
    double covariance = 0.0; ///< of slope and intercept
    double residual = 0.0;   ///< standard deviation of the residuals; with weights in units of each point's u
    double dof = 0.0;        ///< points − 2
};

/// y = intercept + slope·x by least squares. With `u` (one standard uncertainty > 0 per point) each point weighs 1/u²
/// and the line's doubt comes from these; without, all weigh alike and the doubt comes from the scatter. Nothing below
/// two points, below three without `u`, or when all x are one. Source: weighted least squares, e.g. JCGM 100:2008, H.3;
/// checked against the certified values of NIST's Norris data and scipy.
[[nodiscard]] std::optional<Line> fitLine(std::span<const double> x, std::span<const double> y,
                                          std::span<const double> u = {});

} // namespace otterstone
