#include "core/kinds/parts.h"

#include <cmath>

#include "core/label/usb_facts.h"
#include "core/path/meter_errors.h"
#include "core/quantity/say.h"

namespace otterstone::kinds {

namespace {

constexpr double kSameTier = 0.12; // a tier sags under load and over a cable
constexpr double kMostOfDoubt = 0.03;

} // namespace

Measured meteredVolts(double volts, double digit, const Facts& facts) {
    return path::withAccuracy(volts, path::Quantity::Volts, facts.meter.voltsUpTo(volts), digit, facts.meter.name,
                              {volts, 0.0});
}

Measured meteredAmps(double amps, double digit, const Facts& facts) {
    return path::withAccuracy(amps, path::Quantity::Amps, facts.meter.ampsUpTo(amps), digit, facts.meter.name,
                              {0.0, amps});
}

std::optional<Measured> readVolts(Rows& rows, std::string_view key, const Facts& facts) {
    const auto v = rows.number(key);
    if (!v)
        return std::nullopt;
    return meteredVolts(*v, rows.digit(key), facts);
}

std::optional<Measured> readAmps(Rows& rows, std::string_view key, const Facts& facts) {
    const auto v = rows.number(key);
    if (!v)
        return std::nullopt;
    return meteredAmps(*v, rows.digit(key), facts);
}

Working figure(std::string key, Spoken label, Spoken formula, const Measured& value, Unit unit, Spoken point,
               Spoken note) {
    Working w;
    w.key = std::move(key);
    w.label = std::move(label).text();
    w.formula = std::move(formula).text();
    w.value = value;
    w.unit = unit;
    w.point = std::move(point).text();
    w.note = std::move(note).text();
    w.partialDoubt = !value.hasDoubt() && unit != Unit::Second; // a reading's own digits, no more
    return w;
}

bool mostlyKnown(const Measured& value) { return value.u() >= kMostOfDoubt * std::fabs(value.value()); }

Measured between(double low, double high, const ErrorSource& source) {
    return Measured((low + high) / 2.0, rectangular((high - low) / 2.0), source);
}

double nearestTier(double volts) {
    double best = std::round(volts * 10.0) / 10.0;
    for (const double tier : label::kTierVolts) {
        if (std::fabs(volts - tier) <= kSameTier * tier)
            best = tier;
    }
    return best;
}

std::string tierAndWatts(double volts, double watts) {
    return showNumber(nearestTier(volts), 3) + " V " + showNumber(watts, watts < 10.0 ? 2 : 3) + " W";
}

std::string listed(const std::vector<std::string>& names) {
    std::string text;
    for (std::size_t k = 0; k < names.size(); ++k)
        text += (k == 0 ? "" : k + 1 == names.size() ? say(" and ") : ", ") + names[k];
    return text;
}

std::string counted(std::size_t n, const char* one, const char* many) {
    return std::to_string(n) + " " + sayAsItStands(n == 1 ? one : many);
}

} // namespace otterstone::kinds
