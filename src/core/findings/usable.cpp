#include "core/findings/usable.h"

#include <algorithm>
#include <cmath>

#include "core/findings/device.h"

namespace otterstone::findings {

namespace {

constexpr double kOtherLoad = 1.05;
constexpr double kReach = 1.5;
constexpr double kDoubtWithoutAny = 0.01; // of the energy, where a drain's own doubt is unknown

double share(double watts, std::span<const double> p) {
    const double r = p.size() > 2 ? p[2] : 0.0;
    const double overhead = p.size() > 1 ? p[1] : 0.0;
    return watts / (watts + overhead + r * watts * watts);
}

void gradientAt(double watts, std::span<const double> p, std::span<double> g) {
    const double s = share(watts, p);
    g[0] = s;
    if (g.size() > 1)
        g[1] = -p[0] * s * s / watts;
    if (g.size() > 2)
        g[2] = -p[0] * s * s * watts;
}

} // namespace

std::optional<UsableCurve> UsableCurve::fit(std::vector<UsablePoint> points) {
    std::sort(points.begin(), points.end(), [](const UsablePoint& a, const UsablePoint& b) { return a.watts < b.watts; });
    std::erase_if(points, [](const UsablePoint& p) { return !(p.watts > 0.0) || !(p.wattHours.value() > 0.0); });
    if (points.size() < 2)
        return std::nullopt;
    std::size_t loads = 1;
    for (std::size_t k = 1, last = 0; k < points.size(); ++k) {
        if (points[k].watts > points[last].watts * kOtherLoad) {
            ++loads;
            last = k;
        }
    }
    if (loads < 2)
        return std::nullopt;

    std::vector<double> x, y, u;
    std::vector<Measured> relative;
    for (const UsablePoint& p : points) {
        x.push_back(p.watts);
        y.push_back(p.wattHours.value());
        u.push_back(p.wattHours.hasDoubt() && p.wattHours.u() > 0.0 ? p.wattHours.u() : kDoubtWithoutAny * p.wattHours.value());
        relative.push_back(p.wattHours / Measured(p.wattHours.value()));
    }
    UsableCurve curve;
    const CurveModel model{[](double watts, std::span<const double> p) { return p[0] * share(watts, p); }, gradientAt};
    const double most = *std::max_element(y.begin(), y.end());
    std::vector<double> start = {most * 1.05, 0.05 * x.front(), 0.05 / x.back()};
    // A loss that comes out negative is no loss: it is left out and the rest fitted anew.
    std::optional<CurveFit> found;
    for (std::size_t parameters = loads >= 3 ? 3 : 2; parameters >= 1; --parameters) {
        start.resize(parameters);
        auto tried = fitCurve(model, start, x, y, u);
        if (tried && std::all_of(tried->parameters.begin(), tried->parameters.end(), [](double p) { return p >= 0.0; })) {
            found = std::move(tried);
            break;
        }
    }
    if (!found)
        return std::nullopt;
    curve.fit_ = std::move(*found);
    curve.lowest_ = x.front();
    curve.highest_ = x.back();
    std::vector<Sensitivity> mean;
    for (const Measured& m : relative)
        mean.push_back({&m, 1.0 / static_cast<double>(relative.size())});
    curve.sharedRelative_ = combine(1.0, mean).u();
    curve.points_ = std::move(points);
    return curve;
}

Measured UsableCurve::at(double watts) const {
    std::vector<double> g(fit_.parameters.size());
    gradientAt(watts, fit_.parameters, g);
    const double energy = fit_.parameters[0] * share(watts, fit_.parameters);
    return Measured(energy).with("the fitted curve", fit_.uOfCurve(g)).with("what all drains share", energy * sharedRelative_);
}

bool UsableCurve::extrapolates(double watts) const { return watts < lowest_ / kReach || watts > highest_ * kReach; }

std::string UsableCurve::inWords() const {
    std::string text = "E₀ = " + showNumber(fit_.parameters[0], 4) + " Wh";
    if (fit_.parameters.size() > 1)
        text += ", P₀ = " + showNumber(overheadWatts(), 3) + " W";
    text += resistanceHeld() ? ", r held at 0" : ", r = " + showNumber(resistance(), 3) + " per W";
    return text + " (" + std::to_string(points_.size()) + " drains)";
}

Working UsableCurve::energyAt(double watts) const {
    Working w;
    w.key = "usable_at_wh";
    w.label = "usable at " + showNumber(watts) + " W";
    w.value = at(watts);
    w.unit = Unit::WattHour;
    w.point = "bank out";
    w.formula = "E₀·P ÷ (P + P₀ + r·P²)";
    w.note = inWords();
    if (extrapolates(watts))
        w.note += "; beyond the loads that were tried (" + showNumber(lowest_, 3) + " to " + showNumber(highest_, 3) + " W): a guess from the curve's shape";
    for (const UsablePoint& p : points_)
        w.parts.push_back(remark(p.title, showNumber(p.watts, 3) + " W: " + showValue(p.wattHours, Unit::WattHour)));
    return w;
}

Working UsableCurve::runtimeOf(double watts) const {
    Working w = runtime(at(watts), watts, extrapolates(watts) ? "beyond the loads that were tried: a guess from the curve's shape" : "");
    w.parts = {energyAt(watts)};
    return w;
}

} // namespace otterstone::findings
