#include "core/quantity/repeats.h"

#include <cmath>
#include <vector>

#include <boost/math/distributions/students_t.hpp>

#include "core/quantity/line.h"

namespace otterstone {

Repeats repeats(std::span<const Measured> values, const ErrorSource& scatter) {
    Repeats r;
    r.count = values.size();
    const auto n = static_cast<double>(r.count);
    double sum = 0.0;
    std::vector<Sensitivity> inputs;
    for (const Measured& v : values) {
        sum += v.value();
        inputs.push_back({&v, 1.0 / n});
    }
    r.mean = combine(sum / n, inputs);
    if (r.count < 2)
        return r;
    double squares = 0.0;
    for (const Measured& v : values)
        squares += (v.value() - sum / n) * (v.value() - sum / n);
    r.spread = std::sqrt(squares / (n - 1.0));
    r.mean = r.mean.with(scatter, r.spread / std::sqrt(n), n - 1.0);

    std::vector<double> order, y;
    for (std::size_t k = 0; k < r.count; ++k) {
        order.push_back(static_cast<double>(k));
        y.push_back(values[k].value());
    }
    if (const auto line = fitLine(order, y)) {
        Repeats::Drift drift{line->slope, 1.0};
        if (line->uSlope > 0.0) {
            const boost::math::students_t t(line->dof);
            drift.chance = 2.0 * boost::math::cdf(boost::math::complement(t, std::fabs(line->slope / line->uSlope)));
        } else if (line->slope != 0.0) {
            drift.chance = 0.0; // all on one sloping line
        }
        r.drift = drift;
    }
    return r;
}

} // namespace otterstone
