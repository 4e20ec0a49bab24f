#include "core/quantity/curve_fit.h"

#include <cmath>

#include <Eigen/Dense>
#include <unsupported/Eigen/NonLinearOptimization>

namespace otterstone {

namespace {

using Eigen::Index;

// Parameters are fitted relative to their start, so that one of 1e-6 and one of 100 weigh alike in the solver's trust
// region.
struct Residuals {
    const CurveModel& model;
    std::span<const double> x, y, u;
    std::vector<double> scale;

    [[nodiscard]] int values() const { return static_cast<int>(x.size()); }
    [[nodiscard]] double weight(std::size_t k) const { return u.empty() ? 1.0 : 1.0 / u[k]; }
    [[nodiscard]] std::vector<double> unscaled(const Eigen::VectorXd& p) const {
        std::vector<double> out(scale.size());
        for (std::size_t j = 0; j < out.size(); ++j)
            out[j] = p[static_cast<Index>(j)] * scale[j];
        return out;
    }
    int operator()(const Eigen::VectorXd& p, Eigen::VectorXd& out) const {
        const std::vector<double> real = unscaled(p);
        for (std::size_t k = 0; k < x.size(); ++k) {
            out[static_cast<Index>(k)] = (model.value(x[k], real) - y[k]) * weight(k);
            if (!std::isfinite(out[static_cast<Index>(k)]))
                return -1;
        }
        return 0;
    }
    int df(const Eigen::VectorXd& p, Eigen::MatrixXd& out) const {
        const std::vector<double> real = unscaled(p);
        std::vector<double> g(real.size());
        for (std::size_t k = 0; k < x.size(); ++k) {
            model.gradient(x[k], real, g);
            for (std::size_t j = 0; j < g.size(); ++j)
                out(static_cast<Index>(k), static_cast<Index>(j)) = g[j] * scale[j] * weight(k);
        }
        return 0;
    }
};

} // namespace

double CurveFit::u(std::size_t k) const { return std::sqrt(covariance[k * parameters.size() + k]); }

std::vector<Measured> CurveFit::measured(const ErrorSource& source) const {
    const std::size_t n = parameters.size();
    std::vector<double> us(n), correlation(n * n);
    for (std::size_t k = 0; k < n; ++k)
        us[k] = u(k);
    for (std::size_t i = 0; i < n; ++i) {
        for (std::size_t j = 0; j < n; ++j)
            correlation[i * n + j] = i == j ? 1.0 : us[i] * us[j] > 0.0 ? covariance[i * n + j] / (us[i] * us[j]) : 0.0;
    }
    return correlated(parameters, us, correlation, source);
}

double CurveFit::uOfCurve(std::span<const double> g) const {
    double squares = 0.0;
    for (std::size_t i = 0; i < g.size(); ++i) {
        for (std::size_t j = 0; j < g.size(); ++j)
            squares += g[i] * g[j] * covariance[i * g.size() + j];
    }
    return std::sqrt(std::max(0.0, squares));
}

std::optional<CurveFit> fitCurve(const CurveModel& model, std::vector<double> start, std::span<const double> x,
                                 std::span<const double> y, std::span<const double> u) {
    const std::size_t n = start.size();
    if (x.size() < n + (u.empty() ? 1 : 0) || y.size() != x.size() || (!u.empty() && u.size() != x.size()))
        return std::nullopt;
    Residuals residuals{model, x, y, u, start};
    for (double& s : residuals.scale)
        s = s == 0.0 ? 1.0 : std::fabs(s);
    Eigen::VectorXd p(static_cast<Index>(n));
    for (std::size_t j = 0; j < n; ++j)
        p[static_cast<Index>(j)] = start[j] / residuals.scale[j];
    Eigen::LevenbergMarquardt<Residuals> solver(residuals);
    solver.parameters.maxfev = 2000;
    solver.parameters.ftol = solver.parameters.xtol = 1e-14;
    const auto status = solver.minimize(p);
    if (status <= 0 || !p.allFinite())
        return std::nullopt;

    Eigen::VectorXd off(static_cast<Index>(x.size()));
    Eigen::MatrixXd jacobian(static_cast<Index>(x.size()), static_cast<Index>(n));
    if (residuals(p, off) < 0)
        return std::nullopt;
    residuals.df(p, jacobian);
    CurveFit fit;
    fit.parameters = residuals.unscaled(p);
    fit.dof = static_cast<double>(x.size() - n);
    fit.residual = fit.dof > 0.0 ? std::sqrt(off.squaredNorm() / fit.dof) : 0.0;
    const double unit = u.empty() ? fit.residual : std::max(1.0, fit.residual);
    const Eigen::MatrixXd inverse = (jacobian.transpose() * jacobian).inverse();
    if (!inverse.allFinite())
        return std::nullopt;
    for (std::size_t i = 0; i < n; ++i) {
        for (std::size_t j = 0; j < n; ++j)
            fit.covariance.push_back(unit * unit * inverse(static_cast<Index>(i), static_cast<Index>(j)) *
                                     residuals.scale[i] * residuals.scale[j]);
        if (!(fit.covariance[i * n + i] >= 0.0))
            return std::nullopt;
    }
    return fit;
}

} // namespace otterstone
