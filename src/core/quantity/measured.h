// Measured: a value with its standard uncertainty, kept as the contributions of named, independent sources.
#pragma once

#include <limits>
#include <span>
#include <string>
#include <vector>

#include "core/quantity/error_source.h"
#include "core/quantity/shared_list.h"

namespace otterstone {

/// One source's contribution to the uncertainty of a value.
struct Contribution {
    SharedSource source; ///< identity: contributions of the same source are one and the same error
    double u = 0.0;      ///< signed standard uncertainty in the value's unit: sensitivity times u of the source
    double dof = std::numeric_limits<double>::infinity(); ///< degrees of freedom behind the source's u
};

/// A value and where its doubt comes from. To first order (JCGM 100:2008, 5.1 and 5.2): contributions of one
/// source add with their signs before they are squared, so correlations need no bookkeeping by the caller.
/// E = V·Q and then E / Q leaves only the doubt of V.
class Measured {
public:
    Measured() = default;
    /// An exactly known value, or one whose doubt is unknown; hasDoubt() is false.
    Measured(double value) : value_(value) {} // NOLINT: numbers are exact Measureds

    /// `u` >= 0 is the standard uncertainty in the value's own unit.
    Measured(double value, double u, SharedSource source, double dof = std::numeric_limits<double>::infinity());
    Measured(double value, double u, ErrorSource source, double dof = std::numeric_limits<double>::infinity())
        : Measured(value, u, SharedSource(std::move(source)), dof) {}

    [[nodiscard]] double value() const { return value_; }
    /// Combined standard uncertainty, >= 0.
    [[nodiscard]] double u() const;
    /// Expanded uncertainty for about 95 %: k = 2, or Student's t with the Welch-Satterthwaite degrees of
    /// freedom (JCGM 100:2008, G.4) where these are below 30 because repeats dominate.
    [[nodiscard]] double expanded() const;
    [[nodiscard]] double degreesOfFreedom() const;
    [[nodiscard]] bool hasDoubt() const { return !parts_.empty(); }
    /// The contributions, sorted by source; none is zero.
    [[nodiscard]] const std::vector<Contribution>& contributions() const { return parts_.list(); }
    /// The signed contribution of one source, 0 when it has none.
    [[nodiscard]] double from(const ErrorSource& source) const;

    /// The contributions as a reader's budget has them: what one source has wherever it is used and near one operating
    /// point is one line. `words` name it, `u` >= 0.
    struct BudgetLine {
        std::string words;
        double u = 0.0;
        double dof = std::numeric_limits<double>::infinity();
    };
    [[nodiscard]] std::vector<BudgetLine> budget() const;

    /// The same value with the doubt of one more source: `u` is signed and in the value's own unit.
    [[nodiscard]] Measured with(SharedSource source, double u,
                                double dof = std::numeric_limits<double>::infinity()) const&;
    [[nodiscard]] Measured with(SharedSource source, double u, double dof = std::numeric_limits<double>::infinity()) &&;

private:
    double value_ = 0.0;
    SharedList<Contribution> parts_;

    friend Measured combine(double value, std::span<const struct Sensitivity> inputs);
};

/// ∂f/∂x at the inputs' values.
struct Sensitivity {
    const Measured* input;
    double derivative;
};

/// f(inputs) to first order, from its value and its partial derivatives.
[[nodiscard]] Measured combine(double value, std::span<const Sensitivity> inputs);

[[nodiscard]] Measured operator+(const Measured& a, const Measured& b);
[[nodiscard]] Measured operator-(const Measured& a, const Measured& b);
[[nodiscard]] Measured operator*(const Measured& a, const Measured& b);
/// Precondition: b's value is not 0.
[[nodiscard]] Measured operator/(const Measured& a, const Measured& b);

/// Values with standard uncertainties and a correlation matrix (row-major, symmetric, positive semi-definite), as
/// Measureds that share independent sources "what/1", "what/2", … (a square root of the matrix).
[[nodiscard]] std::vector<Measured> correlated(std::span<const double> values, std::span<const double> u,
                                               std::span<const double> correlation, const ErrorSource& source);

/// How much of what two figures owe to one instrument is taken as common to both.
enum class Common { All, None };
/// `m` as if the errors of instruments at unlike operating points were all one, or none the same as anybody else's;
/// `mine` tells whose these are.
[[nodiscard]] Measured asIf(const Measured& m, Common common, const std::string& mine);

/// Standard uncertainty of a quantity known only to lie within ± halfWidth, all values alike: halfWidth / √3
/// (JCGM 100:2008, 4.3.7).
[[nodiscard]] double rectangular(double halfWidth);

} // namespace otterstone
