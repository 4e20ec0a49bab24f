#include "core/kinds/traced/heat.h"

#include <algorithm>
#include <cmath>
#include <vector>

#include "core/quantity/curve_fit.h"
#include "core/quantity/parse.h"
#include "core/quantity/say.h"
#include "core/quantity/screen_form.h"

namespace otterstone::kinds {

namespace {

constexpr std::size_t kMostReadings = 400; // enough for two parameters
constexpr double kNotYetWarm = 60.0;       // seconds under power that warm no surface

} // namespace

std::optional<HeatFinding> findHeat(std::span<const double> time, std::span<const double> celsius,
                                    const Heating& heating, std::optional<double> ambient) {
    std::vector<double> t, rise;
    HeatFinding h;
    const std::size_t stride = std::max<std::size_t>(1, time.size() / kMostReadings);
    bool any = false;
    for (std::size_t k = 0; k < time.size(); ++k) {
        if (std::isnan(celsius[k]))
            continue;
        if (!any) {
            h.ambient = ambient;
            if (!ambient && time[k] <= heating.start + kNotYetWarm)
                h.ambient = celsius[k];
            h.ambientStated = ambient.has_value();
            h.hottest = celsius[k];
            any = true;
        }
        h.hottest = std::max(h.hottest, celsius[k]);
        if (h.ambient && time[k] >= heating.start && time[k] <= heating.until && k % stride == 0) {
            t.push_back(time[k] - heating.start);
            rise.push_back(celsius[k] - *h.ambient);
        }
    }
    if (!any)
        return std::nullopt;
    if (t.size() < 4 || *std::max_element(rise.begin(), rise.end()) < 1.0)
        return h;

    const CurveModel model{[](double x, std::span<const double> p) { return p[0] * (1.0 - std::exp(-x / p[1])); },
                           [](double x, std::span<const double> p, std::span<double> g) {
                               const double e = std::exp(-x / p[1]);
                               g[0] = 1.0 - e;
                               g[1] = -p[0] * e * x / (p[1] * p[1]);
                           }};
    const double span = t.back();
    const auto fit = fitCurve(model, {rise.back(), span / 2.0}, t, rise);
    if (!fit || fit->parameters[1] <= 0.0 || fit->parameters[1] > 2.0 * span ||
        fit->u(0) > std::fabs(fit->parameters[0]) / 2.0)
        return h;
    const auto p = fit->measured(ErrorSource::ofRun("", "first-order fit"));
    h.rise = p[0];
    h.seconds = p[1];
    return h;
}

Result<double> parseTemperature(std::string_view text, std::string_view place) {
    std::string t(trimmed(text));
    bool fahrenheit = false;
    for (const std::string_view unit :
         {std::string_view("°F"), std::string_view("F"), std::string_view("f"), std::string_view("°C"),
          std::string_view("C"), std::string_view("c"), std::string_view("°")}) {
        if (t.size() > unit.size() && t.ends_with(unit)) {
            fahrenheit = unit.back() == 'F' || unit.back() == 'f';
            t.resize(t.size() - unit.size());
            break;
        }
    }
    const auto number = parseNumber(t, place);
    if (!number)
        return problem("bad_temperature", std::string(place), say("“{}” is not a temperature.", trimmed(text)),
                       "Write it like 38.5, 38.5 °C or 101 °F.");
    const double celsius = fahrenheit ? celsiusOf(*number) : *number;
    if (celsius < -60.0 || celsius > 300.0)
        return problem("bad_temperature", std::string(place), say("“{}” is no temperature of a bank.", trimmed(text)),
                       "Check the unit: °C without one, °F when written.");
    return celsius;
}

} // namespace otterstone::kinds
