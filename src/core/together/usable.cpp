#include "core/together/usable.h"

#include <algorithm>
#include <cmath>

#include "core/kinds/figure_keys.h"
#include "core/kinds/traced/device.h"
#include "core/quantity/say.h"

namespace otterstone::together {

using namespace kinds;

namespace {

constexpr double kOtherLoad = 1.05;
constexpr double kReach = 1.5;
constexpr double kDoubtWithoutAny = 0.01; // of the energy, where a drain's own doubt is unknown
constexpr double kShape = 0.005;          // of the energy: no bank follows the curve to the last digit
constexpr double kMostOfRating = 1.05,
                 kMostOfBest = 1.6;  // what cells hold at most: of the rating; of the best drain where nothing is known
constexpr double kScaleSpread = 1.5; // of the logistic scale: nearly even between both ends

// ln of a typical value, and its standard deviation.
struct Prior {
    double typical, factor; ///< 95 % lie within this factor of it
    [[nodiscard]] double mean() const { return std::log(typical); }
    [[nodiscard]] double spread() const { return std::log(factor) / 2.0; }
};

double logistic(double z) { return 1.0 / (1.0 + std::exp(-z)); }

} // namespace

double UsableCurve::emptyLoadWattHours() const { return least_ + (most_ - least_) * logistic(fit_.parameters[0]); }
double UsableCurve::overheadWatts() const { return std::exp(fit_.parameters[1]); }
double UsableCurve::resistance() const { return std::exp(fit_.parameters[2]); }

double UsableCurve::valueAt(double watts, std::span<const double> p) const {
    return (least_ + (most_ - least_) * logistic(p[0])) * watts /
           (watts + std::exp(p[1]) + std::exp(p[2]) * watts * watts);
}

void UsableCurve::gradientAt(double watts, std::span<const double> p, std::span<double> g) const {
    const double e = valueAt(watts, p), l = logistic(p[0]), overhead = std::exp(p[1]),
                 resistive = std::exp(p[2]) * watts * watts;
    const double all = watts + overhead + resistive;
    g[0] = (most_ - least_) * l * (1.0 - l) * watts / all;
    g[1] = -e * overhead / all;
    g[2] = -e * resistive / all;
}

std::optional<UsableCurve> UsableCurve::fit(std::vector<UsablePoint> points, const UsableKnown& known) {
    std::sort(points.begin(), points.end(),
              [](const UsablePoint& a, const UsablePoint& b) { return a.watts < b.watts; });
    std::erase_if(points, [](const UsablePoint& p) { return !(p.watts > 0.0) || !(p.wattHours.value() > 0.0); });
    if (points.empty())
        return std::nullopt;
    UsableCurve curve;
    curve.bank_ = known.bank;
    double last = 0.0, best = 0.0;
    std::vector<double> x, y, u;
    std::vector<Measured> relative;
    for (const UsablePoint& p : points) {
        if (p.watts > last * kOtherLoad) {
            ++curve.loads_;
            last = p.watts;
        }
        best = std::max(best, p.wattHours.value());
        x.push_back(p.watts);
        y.push_back(p.wattHours.value());
        const double own =
            p.wattHours.hasDoubt() && p.wattHours.u() > 0.0 ? p.wattHours.u() : kDoubtWithoutAny * p.wattHours.value();
        u.push_back(std::hypot(own, kShape * p.wattHours.value()));
        relative.push_back(p.wattHours / Measured(p.wattHours.value()));
    }
    curve.lowest_ = x.front();
    curve.highest_ = x.back();
    curve.least_ = best;
    curve.most_ = known.ratedWattHours ? kMostOfRating * *known.ratedWattHours : kMostOfBest * best;
    if (known.putInWattHours &&
        *known.putInWattHours > best) // less than came out was no recharge from empty, and bounds nothing
        curve.most_ = *known.putInWattHours;
    curve.most_ =
        std::max(curve.most_, 1.02 * best); // more came out than is printed: the label is modest, or a reading slipped
    const double top = std::max(known.topWatts, curve.highest_);
    const Prior overhead = known.idleWatts && *known.idleWatts > 0.0 ? Prior{*known.idleWatts, 1.5} : Prior{0.1, 5.0};
    const Prior resistive = known.outputOhms && *known.outputOhms > 0.0
                                ? Prior{2.0 * *known.outputOhms / (known.outputVolts * known.outputVolts), 2.5}
                                : Prior{0.04 / top, 6.0};

    // What is known stands among the readings: a row of x = −1 … −3 is a parameter itself.
    const std::vector<double> start = {0.0, overhead.mean(), resistive.mean()};
    const double spreads[] = {kScaleSpread, overhead.spread(), resistive.spread()};
    for (std::size_t k = 0; k < start.size(); ++k) {
        x.push_back(-1.0 - static_cast<double>(k));
        y.push_back(start[k]);
        u.push_back(spreads[k]);
    }
    const auto parameterOf = [](double row) { return static_cast<std::size_t>(-row - 0.5); };
    const CurveModel model{
        [&](double row, std::span<const double> p) { return row < 0.0 ? p[parameterOf(row)] : curve.valueAt(row, p); },
        [&](double row, std::span<const double> p, std::span<double> g) {
            if (row > 0.0)
                return curve.gradientAt(row, p, g);
            std::fill(g.begin(), g.end(), 0.0);
            g[parameterOf(row)] = 1.0;
        }};
    auto found = fitCurve(model, start, x, y, u);
    if (!found)
        return std::nullopt;
    curve.fit_ = std::move(*found);
    std::vector<Sensitivity> mean;
    mean.reserve(relative.size());
    for (const Measured& m : relative)
        mean.push_back({&m, 1.0 / static_cast<double>(relative.size())});
    curve.sharedRelative_ = combine(1.0, mean).u();
    curve.points_ = std::move(points);
    return curve;
}

Measured UsableCurve::at(double watts) const {
    std::vector<double> g(fit_.parameters.size());
    gradientAt(watts, fit_.parameters, g);
    const double energy = valueAt(watts, fit_.parameters);
    return Measured(energy)
        .with(ErrorSource::ofBank(bank_, "the fitted curve"), std::hypot(fit_.uOfCurve(g), kShape * energy))
        .with(ErrorSource::ofBank(bank_, "what all drains share"), energy * sharedRelative_);
}

Measured UsableCurve::emptyLoad() const {
    const double l = logistic(fit_.parameters[0]), energy = emptyLoadWattHours();
    std::vector<double> g(fit_.parameters.size());
    g[0] = (most_ - least_) * l * (1.0 - l);
    return Measured(energy)
        .with(ErrorSource::ofBank(bank_, "the fitted curve"), std::hypot(fit_.uOfCurve(g), kShape * energy))
        .with(ErrorSource::ofBank(bank_, "what all drains share"), energy * sharedRelative_);
}

bool UsableCurve::extrapolates(double watts) const { return watts < lowest_ / kReach || watts > highest_ * kReach; }

std::string UsableCurve::inWords() const {
    return say("E₀ = {} Wh, P₀ = {} W, r = {} per W ({}{}, and what else is known of the bank)",
               showNumber(emptyLoadWattHours(), 4), showNumber(overheadWatts(), 2), showNumber(resistance(), 2),
               std::to_string(points_.size()), (points_.size() == 1 ? say(" drain") : say(" drains")));
}

Working UsableCurve::energyAt(double watts) const {
    Working w;
    w.key = "usable_at_wh";
    w.label = say("usable at {} W", showNumber(watts));
    w.value = at(watts);
    w.unit = Unit::WattHour;
    w.point = say("bank out");
    w.formula = "E₀·P ÷ (P + P₀ + r·P²)";
    w.note = inWords();
    if (extrapolates(watts))
        w.note = say("{}; beyond the loads that were tried ({} to {} W): a guess from the curve's shape", w.note,
                     showNumber(lowest_, 3), showNumber(highest_, 3));
    for (const UsablePoint& p : points_)
        w.parts.push_back(remark(p.title, showNumber(p.watts, 3) + " W: " + showValue(p.wattHours, Unit::WattHour)));
    return w;
}

Working UsableCurve::runtimeOf(double watts) const {
    Working w =
        runtime(at(watts), watts,
                extrapolates(watts) ? say("beyond the loads that were tried: a guess from the curve's shape") : "");
    w.parts = {energyAt(watts)};
    return w;
}

double UsableCurve::middlingLoad() const { return std::sqrt(lowest_ * highest_); }

Working UsableCurve::chargesOf(double batteryWattHours) const {
    const Measured usable = at(middlingLoad());
    const Measured arrives(kArrivesInDevice, rectangular(kArrivesWithin),
                           ErrorSource::ofBench("", "what arrives in a device"));
    Working w;
    w.key = key::deviceCharges;
    w.label = say("full charges of {} Wh", showNumber(batteryWattHours));
    w.value = usable * arrives / Measured(batteryWattHours);
    w.formula = say("{} × {} % ÷ {} Wh", showValue(usable, Unit::WattHour), showNumber(100.0 * kArrivesInDevice),
                    showNumber(batteryWattHours));
    w.point = say("the device's battery");
    w.note = say("{} ± {} % arrive in a device's battery (common practice); a run into the device itself would know it "
                 "better",
                 showNumber(100.0 * kArrivesInDevice), showNumber(100.0 * kArrivesWithin));
    w.parts = {energyAt(middlingLoad())};
    return w;
}

} // namespace otterstone::together
