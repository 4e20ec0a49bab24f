// B1 from two traces of one current.
#include <algorithm>
#include <cmath>

#include "core/kinds/traced/points.h"
#include "core/path/meter_errors.h"
#include "core/quantity/line.h"
#include "core/trace/digits.h"

namespace otterstone::kinds {

namespace {

constexpr std::size_t kMostPairs = 4000;
constexpr int kLevels = 16;      // groups of current from 0 to the greatest
constexpr double kSteady = 0.05; // a pair counts when the current holds still this well around it
constexpr double kSteadyAmps = 0.02;
constexpr double kSpreadForLine = 0.2;

// A trace read at any moment, linear between samples.
class Lookup {
public:
    explicit Lookup(const trace::Trace& t) : t_(t) {}
    struct At {
        double volts, amps;
        bool steady;
    };
    [[nodiscard]] std::optional<At> at(double time) {
        const auto after = std::upper_bound(t_.time.begin(), t_.time.end(), time);
        if (after == t_.time.begin() || after == t_.time.end())
            return std::nullopt;
        const auto k = static_cast<std::size_t>(after - t_.time.begin()) - 1;
        const double part = (time - t_.time[k]) / (t_.time[k + 1] - t_.time[k]);
        const auto mix = [part](double a, double b) { return a + (b - a) * part; };
        bool steady = true;
        for (const std::size_t n : {k > 0 ? k - 1 : k, k + 1, std::min(k + 2, t_.size() - 1)})
            steady = steady && std::fabs(t_.amps[n] - t_.amps[k]) <= kSteadyAmps + kSteady * std::fabs(t_.amps[k]);
        return At{mix(t_.volts[k], t_.volts[k + 1]), mix(t_.amps[k], t_.amps[k + 1]), steady};
    }

private:
    const trace::Trace& t_;
};

struct Group {
    double n = 0.0, amps = 0.0, near = 0.0, far = 0.0, drop = 0.0, nearSquares = 0.0, farSquares = 0.0,
           dropSquares = 0.0;
    // Standard deviation of a meter's readings from their sum and that of their squares.
    [[nodiscard]] double spread(double sum, double squares) const {
        return std::sqrt(std::max(0.0, squares / n - sum / n * (sum / n)));
    }
};

double most(const trace::Readings& r) {
    double m = 0.0;
    for (std::size_t k = 0; k < r.size(); ++k)
        m = std::max(m, r[k]);
    return m;
}

} // namespace

std::optional<path::CableFit> resistanceBetween(const trace::Trace& nearer, const path::Meter& nearMeter,
                                                const trace::Trace& farther, const path::Meter& farMeter,
                                                double farShift, const std::string& run) {
    if (!nearer.hasCurrent() || !farther.hasCurrent() || nearer.size() < 3 || farther.size() < 3)
        return std::nullopt;
    const double greatest = most(nearer.amps);
    const double voltsThere = most(nearer.volts);
    if (!(greatest > 0.0))
        return std::nullopt;
    std::vector<Group> groups(kLevels + 1);
    Lookup near(nearer), far(farther);
    const std::size_t stride = std::max<std::size_t>(1, nearer.size() / kMostPairs);
    for (std::size_t k = 1; k + 1 < nearer.size(); ++k) {
        // Loads that lasted only a few samples count in full, long ones thinned: a short rest at no current fixes the
        // line's foot.
        if (k % stride != 0 && nearer.amps[k] > 0.1 * greatest)
            continue;
        const auto a = near.at(nearer.time[k]);
        const auto b = far.at(nearer.time[k] - farShift);
        if (!a || !b || !a->steady || !b->steady || a->volts < 0.5 * voltsThere || b->volts < 0.5 * voltsThere ||
            std::fabs(a->amps - b->amps) > 2.0 * kSteadyAmps + kSteady * greatest)
            continue;
        const double amps = (a->amps + b->amps) / 2.0;
        const int level = std::clamp(static_cast<int>(std::lround(amps / greatest * kLevels)), 0, kLevels);
        Group& g = groups[static_cast<std::size_t>(level)];
        const double drop = a->volts - b->volts;
        g.n += 1.0;
        g.amps += amps;
        g.near += a->volts;
        g.far += b->volts;
        g.nearSquares += a->volts * a->volts;
        g.farSquares += b->volts * b->volts;
        g.drop += drop;
        g.dropSquares += drop * drop;
    }

    std::vector<path::LoadPoint> loads;
    std::vector<double> amps, nearVolts, farVolts;
    for (const Group& g : groups) {
        if (g.n < 3.0)
            continue;
        const double mean = g.drop / g.n;
        const double scatter = g.spread(g.drop, g.dropSquares) / std::sqrt(g.n);
        const double rounding = std::hypot(trace::standingRounding(nearer.voltsStep, g.spread(g.near, g.nearSquares)),
                                           trace::standingRounding(farther.voltsStep, g.spread(g.far, g.farSquares)));
        loads.push_back({g.amps / g.n, mean, std::hypot(scatter, rounding)});
        amps.push_back(g.amps / g.n);
        nearVolts.push_back(g.near / g.n);
        farVolts.push_back(g.far / g.n);
    }
    if (loads.empty())
        return std::nullopt;

    const auto gain = [](const std::optional<path::Accuracy>& a) { return a ? rectangular(a->gain) : 0.0; };
    const auto nearV = nearMeter.voltsUpTo(voltsThere), farV = farMeter.voltsUpTo(voltsThere);
    const auto nearI = nearMeter.ampsUpTo(greatest), farI = farMeter.ampsUpTo(greatest);
    const bool spread = loads.size() >= 2 && amps.back() - amps.front() >= kSpreadForLine * amps.back();
    if (spread) {
        path::CommonErrors common;
        const path::OperatingPoint at{voltsThere, greatest};
        const auto both = [&at](const path::Meter& a, double ua, const path::Meter& b, double ub, const char* what) {
            return withInstrument(path::withInstrument(Measured(0.0), a.name, what, ua, at), b.name, what, ub, at)
                .contributions();
        };
        common.amps = both(nearMeter, gain(nearI) / 2.0, farMeter, gain(farI) / 2.0, "amps gain");
        // Volts that stay put carry their gain error into the intercept; only their change with the load weighs.
        const double span = amps.back() - amps.front();
        common.drop = both(nearMeter, gain(nearV) * (nearVolts.back() - nearVolts.front()) / span, farMeter,
                           -gain(farV) * (farVolts.back() - farVolts.front()) / span, "volts gain");
        return path::loopResistance(loads, common, ErrorSource::ofRun(run, "straight line"));
    }

    // One load alone: both voltmeters' whole errors weigh.
    const path::LoadPoint& only =
        *std::max_element(loads.begin(), loads.end(), [](const auto& a, const auto& b) { return a.amps < b.amps; });
    if (!(only.amps > 0.0))
        return std::nullopt;
    const auto at = static_cast<std::size_t>(&only - loads.data());
    const path::OperatingPoint here{voltsThere, only.amps};
    const auto volts = [&](double v, const path::Meter& m, const std::optional<path::Accuracy>& a, double step) {
        return path::withAccuracy(v, path::Quantity::Volts, a, step, m.name, here);
    };
    const Measured current =
        (path::withAccuracy(only.amps, path::Quantity::Amps, nearI, nearer.ampsStep, nearMeter.name, here) +
         path::withAccuracy(only.amps, path::Quantity::Amps, farI, farther.ampsStep, farMeter.name, here)) /
        Measured(2.0);
    path::CableFit fit;
    fit.working = path::loopResistance(volts(nearVolts[at], nearMeter, nearV, nearer.voltsStep)
                                           .with(ErrorSource::ofRun(run, "scatter and rounding"), only.uDrop),
                                       volts(farVolts[at], farMeter, farV, farther.voltsStep), current);
    fit.ohms = fit.working.value;
    fit.loads = 1;
    return fit;
}

} // namespace otterstone::kinds
