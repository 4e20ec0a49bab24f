#include "core/quantity/line.h"

#include <cmath>

namespace otterstone {

std::optional<Line> fitLine(std::span<const double> x, std::span<const double> y, std::span<const double> u) {
    const std::size_t n = x.size();
    if (n < 2 || y.size() != n || (!u.empty() && u.size() != n) || (u.empty() && n < 3))
        return std::nullopt;
    const auto weight = [&](std::size_t k) { return u.empty() ? 1.0 : 1.0 / (u[k] * u[k]); };
    // Sums about the weighted means: the plain normal equations lose half the digits on data far from the origin.
    double w = 0.0, meanX = 0.0, meanY = 0.0;
    for (std::size_t k = 0; k < n; ++k) {
        w += weight(k);
        meanX += weight(k) * x[k];
        meanY += weight(k) * y[k];
    }
    meanX /= w;
    meanY /= w;
    double xx = 0.0, xy = 0.0;
    for (std::size_t k = 0; k < n; ++k) {
        xx += weight(k) * (x[k] - meanX) * (x[k] - meanX);
        xy += weight(k) * (x[k] - meanX) * (y[k] - meanY);
    }
    if (!(xx > 0.0))
        return std::nullopt;
    Line line;
    line.slope = xy / xx;
    line.intercept = meanY - line.slope * meanX;
    line.dof = static_cast<double>(n) - 2.0;
    double squares = 0.0;
    for (std::size_t k = 0; k < n; ++k) {
        const double off = y[k] - line.intercept - line.slope * x[k];
        squares += weight(k) * off * off;
    }
    line.residual = line.dof > 0.0 ? std::sqrt(squares / line.dof) : 0.0;
    const double unit = u.empty() ? line.residual : 1.0;
    line.uSlope = unit / std::sqrt(xx);
    line.uIntercept = unit * std::sqrt(1.0 / w + meanX * meanX / xx);
    line.covariance = -unit * unit * meanX / xx;
    return line;
}

} // namespace otterstone
