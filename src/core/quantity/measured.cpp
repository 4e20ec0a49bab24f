#include "core/quantity/measured.h"

#include <algorithm>
#include <array>
#include <cmath>

#include <Eigen/Cholesky>
#include <boost/math/distributions/students_t.hpp>

namespace otterstone {

namespace {

// Below this the t-factor differs from k = 2 by more than about 2 %; above it the GUM's usual k = 2 is meant.
constexpr double kDofThatCounts = 30.0;

void add(std::vector<Contribution>& into, const Contribution& part, double factor) {
    const double u = part.u * factor;
    if (u == 0.0)
        return;
    auto at = std::lower_bound(into.begin(), into.end(), part.source,
                               [](const Contribution& c, const SharedSource& s) { return c.source < s; });
    if (at == into.end() || !(at->source == part.source)) {
        into.insert(at, Contribution{part.source, u, part.dof});
        return;
    }
    at->u += u;
    at->dof = std::min(at->dof, part.dof);
    if (at->u == 0.0)
        into.erase(at);
}

} // namespace

Measured::Measured(double value, double u, SharedSource source, double dof) : value_(value) {
    add(parts_.changed(), Contribution{std::move(source), u, dof}, 1.0);
}

double Measured::u() const {
    double squares = 0.0;
    for (const Contribution& c : parts_)
        squares += c.u * c.u;
    return std::sqrt(squares);
}

double Measured::degreesOfFreedom() const {
    const double total = u();
    double sum = 0.0;
    for (const Contribution& c : parts_) {
        if (std::isfinite(c.dof) && c.dof > 0.0)
            sum += std::pow(c.u, 4) / c.dof;
    }
    if (!(sum > 0.0))
        return std::numeric_limits<double>::infinity();
    const double dof = std::pow(total, 4) / sum;
    // A source alone gives its own degrees back; rounding must not make 4.999… of 5, which is then cut to 4.
    return std::fabs(dof - std::round(dof)) < 1e-9 * dof ? std::round(dof) : dof;
}

double Measured::expanded() const {
    const double dof = degreesOfFreedom();
    if (dof >= kDofThatCounts)
        return 2.0 * u();
    const boost::math::students_t t(std::max(1.0, std::floor(dof)));
    return boost::math::quantile(t, 0.975) * u();
}

double Measured::from(const ErrorSource& source) const {
    const auto at =
        std::find_if(parts_.begin(), parts_.end(), [&](const Contribution& c) { return *c.source == source; });
    return at == parts_.end() ? 0.0 : at->u;
}

std::vector<Measured::BudgetLine> Measured::budget() const {
    std::vector<BudgetLine> lines;
    for (const Contribution& c : parts_) {
        const std::string words = c.source->words();
        const auto at = std::find_if(lines.begin(), lines.end(), [&](const BudgetLine& l) { return l.words == words; });
        if (at == lines.end())
            lines.push_back({words, std::fabs(c.u), c.dof});
        else
            *at = {words, std::hypot(at->u, c.u), std::min(at->dof, c.dof)};
    }
    return lines;
}

Measured Measured::with(SharedSource source, double u, double dof) const& {
    return Measured(*this).with(std::move(source), u, dof);
}

Measured Measured::with(SharedSource source, double u, double dof) && {
    add(parts_.changed(), Contribution{std::move(source), u, dof}, 1.0);
    return std::move(*this);
}

Measured combine(double value, std::span<const Sensitivity> inputs) {
    Measured result(value);
    for (const Sensitivity& s : inputs) {
        for (const Contribution& c : s.input->contributions())
            add(result.parts_.changed(), c, s.derivative);
    }
    return result;
}

Measured operator+(const Measured& a, const Measured& b) {
    return combine(a.value() + b.value(), std::array{Sensitivity{&a, 1.0}, Sensitivity{&b, 1.0}});
}

Measured operator-(const Measured& a, const Measured& b) {
    return combine(a.value() - b.value(), std::array{Sensitivity{&a, 1.0}, Sensitivity{&b, -1.0}});
}

Measured operator*(const Measured& a, const Measured& b) {
    return combine(a.value() * b.value(), std::array{Sensitivity{&a, b.value()}, Sensitivity{&b, a.value()}});
}

Measured operator/(const Measured& a, const Measured& b) {
    const double q = a.value() / b.value();
    return combine(q, std::array{Sensitivity{&a, 1.0 / b.value()}, Sensitivity{&b, -q / b.value()}});
}

std::vector<Measured> correlated(std::span<const double> values, std::span<const double> u,
                                 std::span<const double> correlation, const ErrorSource& source) {
    using Eigen::Index;
    const auto n = static_cast<Index>(values.size());
    // The matrix is given row by row; being symmetric, it reads the same by columns.
    const Eigen::LDLT<Eigen::MatrixXd> ldlt(Eigen::Map<const Eigen::MatrixXd>(correlation.data(), n, n));
    const Eigen::MatrixXd factor =
        ldlt.transpositionsP().transpose() *
        Eigen::MatrixXd(Eigen::MatrixXd(ldlt.matrixL()) * ldlt.vectorD().cwiseMax(0.0).cwiseSqrt().asDiagonal());
    std::vector<Measured> result;
    for (Index row = 0; row < n; ++row) {
        Measured m(values[static_cast<std::size_t>(row)]);
        for (Index col = 0; col < n; ++col) {
            ErrorSource part = source;
            part.what += "/" + std::to_string(col + 1);
            m = m.with(part, u[static_cast<std::size_t>(row)] * factor(row, col));
        }
        result.push_back(std::move(m));
    }
    return result;
}

Measured asIf(const Measured& m, Common common, const std::string& mine) {
    Measured changed(m.value());
    const std::vector<Contribution>& parts = m.contributions();
    for (std::size_t k = 0; k < parts.size(); ++k) {
        ErrorSource source = *parts[k].source;
        double u = parts[k].u;
        if (source.scope == Scope::Instrument && common == Common::None) {
            source.id = mine + "\n" + source.id;
        } else if (source.scope == Scope::Instrument) {
            // What counts everywhere comes first in the order of sources; the parts that count near some point only
            // follow it.
            source.near.clear();
            for (; k + 1 < parts.size() && !parts[k + 1].source->near.empty() && parts[k + 1].source->id == source.id &&
                   parts[k + 1].source->what == source.what;
                 ++k)
                u = std::copysign(std::hypot(u, parts[k + 1].u), u);
        }
        changed = changed.with(source, u, parts[k].dof);
    }
    return changed;
}

double rectangular(double halfWidth) { return halfWidth / std::sqrt(3.0); }

} // namespace otterstone
