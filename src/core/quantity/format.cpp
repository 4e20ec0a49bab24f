#include "core/quantity/format.h"

#include <algorithm>
#include <charconv>
#include <cmath>

#include "core/quantity/parse.h"

namespace otterstone {

namespace {

constexpr double kPlainResolution = 60.0; // s
constexpr double kWholeMinutes = 600.0;   // from here on a doubt's seconds say nothing

std::string fixed(double value, int decimals) {
    if (decimals < 0) {
        const double step = std::pow(10.0, -decimals);
        value = std::round(value / step) * step;
        decimals = 0;
    }
    std::string text = plainDigits(value, std::min(decimals, 12));
    if (text.find_first_not_of("-0.") == std::string::npos && text.front() == '-')
        text.erase(0, 1); // no "-0.0"
    if (text.front() == '-')
        text.replace(0, 1, "−");
    return text;
}

// Percentages are what a person reads; the fraction is what is computed with.
double screenFactor(Unit unit) { return unit == Unit::Share ? 100.0 : 1.0; }

std::string withSymbol(const std::string& number, Unit unit) {
    const std::string s = symbol(unit);
    return s.empty() ? number : number + " " + s;
}

// Told without its doubt, so no digits are boasted; of a degree nobody reads a hundredth.
std::string withoutDoubt(double value, Unit unit, int significant) {
    return withSymbol(unit == Unit::Celsius ? showNumber(std::round(value * 10.0) / 10.0)
                                            : showNumber(value, unit == Unit::Share ? 3 : significant),
                      unit);
}

// Of a span of so many seconds that is known to `resolution`, its seconds, or its minutes, are worth telling.
bool hasSeconds(double seconds, double resolution) { return seconds < 3600.0 || resolution < 30.0; }
bool hasMinutes(double seconds, double resolution) { return seconds < 86400.0 || resolution < 7200.0; }

} // namespace

std::string symbol(Unit unit) {
    switch (unit) {
    case Unit::None: return {};
    case Unit::Volt: return "V";
    case Unit::Amp: return "A";
    case Unit::Watt: return "W";
    case Unit::WattHour: return "Wh";
    case Unit::MilliampHour: return "mAh";
    case Unit::Second: return "s";
    case Unit::Share: return "%";
    case Unit::Ohm: return "Ω";
    case Unit::Celsius: return "°C";
    case Unit::Gram: return "g";
    case Unit::Kelvin: return "K";
    case Unit::Millimetre: return "mm";
    case Unit::WattHourPerKilogram: return "Wh/kg";
    case Unit::WattHourPerLitre: return "Wh/L";
    case Unit::Month: return "months";
    case Unit::Point: return "points";
    }
    return {};
}

int decimalsFor(double expanded) {
    const int exponent = static_cast<int>(std::floor(std::log10(expanded)));
    const double leading = expanded / std::pow(10.0, exponent);
    // Where the rounding itself reaches the next power of ten (0.96), that power's two digits are shown: 1.0.
    return leading < 2.95 || leading >= 9.5 ? 1 - exponent - (leading >= 9.5 ? 1 : 0) : -exponent;
}

std::string showNumber(double value, int significant) {
    if (!std::isfinite(value))
        return "unknown";
    if (value == 0.0)
        return "0";
    const int exponent = static_cast<int>(std::floor(std::log10(std::fabs(value))));
    std::string text = fixed(value, std::clamp(significant - 1 - exponent, 0, 9));
    if (text.find('.') != std::string::npos) {
        text.erase(text.find_last_not_of('0') + 1);
        if (text.back() == '.')
            text.pop_back();
    }
    return text;
}

std::string showDuration(double seconds, double resolution) {
    if (!std::isfinite(seconds))
        return "unknown";
    if (seconds < 0.0)
        return "−" + showDuration(-seconds, resolution);
    if (seconds < 10.0)
        return showNumber(seconds, 3) + " s";
    if (seconds > kLargestFigure) // counted in whole seconds it could overflow
        return showNumber(seconds / 86400.0, 3) + " d";
    auto whole = static_cast<long long>(std::llround(seconds));
    const auto rounded = static_cast<double>(whole);
    const bool withSeconds = hasSeconds(rounded, resolution);
    const long long step = withSeconds ? 1 : hasMinutes(rounded, resolution) ? 60 : 3600;
    whole = (whole + step / 2) / step * step;
    const long long days = whole / 86400;
    const long long hours = whole / 3600 % 24;
    const long long minutes = whole / 60 % 60;
    std::string text;
    const auto part = [&text](long long n, const char* unit) {
        if (n > 0)
            text += (text.empty() ? "" : " ") + std::to_string(n) + " " + unit;
    };
    part(days, "d");
    part(hours, "h");
    part(minutes, "min");
    if (withSeconds)
        part(whole % 60, "s");
    return text;
}

std::string showValue(const Measured& m, Unit unit) {
    if (unit == Unit::Second)
        return showDuration(m.value(), std::max(kPlainResolution, m.expanded()));
    const double factor = screenFactor(unit);
    const double expanded = m.expanded() * factor;
    // A doubt far below the value's own double precision is none that a reader could use.
    if (!(expanded > std::fabs(m.value() * factor) * 1e-12))
        return withoutDoubt(m.value() * factor, unit, 5);
    return withSymbol(fixed(m.value() * factor, decimalsFor(expanded)), unit);
}

std::string plainDigits(double value, int decimals) {
    char text[400]; // the largest double has 309 digits before its point
    const auto [end, error] = std::to_chars(text, text + sizeof text, value, std::chars_format::fixed, decimals);
    return {text, end};
}

std::string showRoughly(double value, Unit unit) {
    if (unit == Unit::Second)
        return showDuration(value);
    return withoutDoubt(value * screenFactor(unit), unit, 4);
}

std::string show(const Measured& m, Unit unit) {
    const double factor = screenFactor(unit);
    const double expanded = m.expanded() * factor;
    if (!(expanded > std::fabs(m.value() * factor) * 1e-12))
        return showValue(m, unit);
    if (unit == Unit::Second) {
        const double step = !hasMinutes(m.value(), expanded)                                ? 3600.0
                            : expanded >= kWholeMinutes || !hasSeconds(m.value(), expanded) ? 60.0
                                                                                            : 0.0;
        return showDuration(m.value(), expanded) + " ± " +
               showDuration(step > 0.0 ? std::max(step, std::round(expanded / step) * step)
                                       : parseNumber(showNumber(expanded, 2)).value_or(expanded));
    }
    const int decimals = decimalsFor(expanded);
    return withSymbol(fixed(m.value() * factor, decimals) + " ± " + fixed(expanded, decimals), unit);
}

std::string showConcise(const Measured& m) {
    const double u = m.u();
    if (u <= 0.0)
        return showNumber(m.value(), 9);
    const int decimals = std::max(0, 1 - static_cast<int>(std::floor(std::log10(u))));
    const auto digits = static_cast<long long>(std::llround(u * std::pow(10.0, decimals)));
    return fixed(m.value(), decimals) + "(" + std::to_string(digits) + ")";
}

} // namespace otterstone
