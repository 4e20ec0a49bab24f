#include "core/quantity/date.h"

#include <chrono>
#include <cmath>
#include <cstdio>

#include "core/quantity/format.h"
#include "core/quantity/say.h"

namespace otterstone {

std::optional<double> secondsOf(const std::string& iso) {
    int year = 0, month = 0, day = 0, hour = 0, minute = 0, used = 0;
    double second = 0.0;
    if (std::sscanf(iso.c_str(), "%4d-%2d-%2d%n", &year, &month, &day, &used) != 3)
        return std::nullopt;
    const std::chrono::year_month_day date{std::chrono::year(year), std::chrono::month(static_cast<unsigned>(month)),
                                           std::chrono::day(static_cast<unsigned>(day))};
    if (!date.ok())
        return std::nullopt;
    const double midnight = static_cast<double>(std::chrono::sys_days(date).time_since_epoch().count()) * kSecondsADay;
    const std::string rest = iso.substr(static_cast<std::size_t>(used));
    if (rest.empty())
        return midnight;
    if (std::sscanf(rest.c_str(), "T%2d:%2d%n", &hour, &minute, &used) != 2)
        return std::nullopt;
    int more = 0;
    if (std::sscanf(rest.c_str() + used, ":%lf%n", &second, &more) == 1)
        used += more;
    int aheadHours = 0, aheadMinutes = 0;
    if (std::sscanf(rest.c_str() + used, "%d:%d", &aheadHours, &aheadMinutes) >= 1)
        second -= aheadHours * 3600.0 + (aheadHours < 0 ? -aheadMinutes : aheadMinutes) * 60.0;
    return midnight + hour * 3600.0 + minute * 60.0 + second;
}

bool isDay(std::string_view text) { return text.size() == 10 && secondsOf(std::string(text)).has_value(); }

std::string dayOf(const std::string& iso) { return iso.substr(0, 10); }

std::string spanWords(double days) {
    const auto words = [](double value, Pattern<0> one, Pattern<1> many) {
        const std::string number = showNumber(value, value < 10.0 ? 2 : 3);
        return number == "1" ? say(one) : say(many, number);
    };
    if (days < 45.0)
        return words(std::round(days), "1 day", "{} days");
    if (days < 540.0)
        return words(std::round(days / 365.25 * 12.0), "1 month", "{} months");
    return words(days / 365.25, "1 year", "{} years");
}

} // namespace otterstone
