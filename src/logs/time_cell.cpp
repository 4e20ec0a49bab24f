#include "logs/time_cell.h"

#include <chrono>

#include "core/quantity/characters.h"
#include "core/quantity/parse.h"
#include "core/quantity/say.h"

namespace otterstone::logs {

namespace {

// Reads one to `most` digits off the front.
std::optional<int> takeDigits(std::string_view& text, std::size_t most) {
    int value = 0;
    std::size_t n = 0;
    while (n < most && n < text.size() && isDigit(text[n]))
        value = value * 10 + (text[n++] - '0');
    if (n == 0)
        return std::nullopt;
    text.remove_prefix(n);
    return value;
}

bool take(std::string_view& text, char c) {
    if (text.empty() || text.front() != c)
        return false;
    text.remove_prefix(1);
    return true;
}

double takeFraction(std::string_view& text) {
    double value = 0.0;
    double weight = 0.1;
    while (!text.empty() && isDigit(text.front())) {
        value += (text.front() - '0') * weight;
        weight /= 10.0;
        text.remove_prefix(1);
    }
    return value;
}

// h:mm[:ss[.fff]] or m:ss off the front.
std::optional<double> takeClock(std::string_view& text, int parts, bool secondsOptional) {
    const auto first = takeDigits(text, 6);
    if (!first || !take(text, ':'))
        return std::nullopt;
    const auto second = takeDigits(text, 2);
    if (!second || *second > 59)
        return std::nullopt;
    double seconds = parts == 3 ? *first * 3600.0 + *second * 60.0 : *first * 60.0 + *second;
    if (parts == 3) {
        if (take(text, ':')) {
            const auto third = takeDigits(text, 2);
            if (!third || *third > 60)
                return std::nullopt;
            seconds += *third;
        } else {
            return secondsOptional ? std::optional(seconds) : std::nullopt;
        }
    }
    if (take(text, '.') || take(text, ','))
        seconds += takeFraction(text);
    return seconds;
}

std::optional<long> takeDate(std::string_view& text) {
    std::string_view rest = text;
    const auto first = takeDigits(rest, 4);
    if (!first || rest.empty())
        return std::nullopt;
    const bool yearFirst = *first > 31;
    const char divider = rest.front();
    if (divider != '-' && divider != '/' && divider != '.')
        return std::nullopt;
    if (!yearFirst && divider != '.')
        return std::nullopt; // 03/11/2026: nobody can tell the day from the month
    rest.remove_prefix(1);
    const auto month = takeDigits(rest, 2);
    if (!month || !take(rest, divider))
        return std::nullopt;
    const auto last = takeDigits(rest, 4);
    if (!last)
        return std::nullopt;
    const std::chrono::year_month_day date{std::chrono::year(yearFirst ? *first : *last),
                                           std::chrono::month(static_cast<unsigned>(*month)),
                                           std::chrono::day(static_cast<unsigned>(yearFirst ? *last : *first))};
    if (!date.ok() || int(date.year()) < 1970)
        return std::nullopt;
    text = rest;
    return std::chrono::sys_days(date).time_since_epoch().count();
}

} // namespace

std::string timeFormWords(TimeForm form) {
    switch (form) {
    case TimeForm::Elapsed: return say("elapsed time as a number");
    case TimeForm::Clock: return "h:mm:ss";
    case TimeForm::MinuteClock: return "m:ss";
    case TimeForm::HourClock: return "h:mm";
    case TimeForm::Iso: return say("date and time");
    case TimeForm::EpochSeconds: return say("seconds since 1970");
    case TimeForm::EpochMilliseconds: return say("milliseconds since 1970");
    case TimeForm::SpreadsheetSerial: return say("a spreadsheet's day numbers");
    case TimeForm::DateAndClock: return say("a date column and a time column");
    }
    return {};
}

bool isAbsolute(TimeForm form) {
    return form == TimeForm::Iso || form == TimeForm::EpochSeconds || form == TimeForm::EpochMilliseconds ||
           form == TimeForm::SpreadsheetSerial || form == TimeForm::DateAndClock;
}

std::optional<double> parseClock(std::string_view cell, int parts) {
    std::string_view text = trimmed(cell);
    const auto seconds = takeClock(text, parts, false);
    return seconds && text.empty() ? seconds : std::nullopt;
}

std::optional<IsoStamp> parseIso(std::string_view cell) {
    std::string_view text = trimmed(cell);
    const auto days = takeDate(text);
    if (!days || !(take(text, 'T') || take(text, 't') || take(text, ' ')))
        return std::nullopt;
    text = trimmed(text);
    const auto clock = takeClock(text, 3, true);
    if (!clock)
        return std::nullopt;
    IsoStamp stamp{static_cast<double>(*days) * 86400.0 + *clock, false};
    text = trimmed(text);
    if (text.empty())
        return stamp;
    stamp.zoned = true;
    if (text == "Z" || text == "z" || text == "UTC")
        return stamp;
    const double sign = text.front() == '-' ? -1.0 : text.front() == '+' ? 1.0 : 0.0;
    text.remove_prefix(1);
    const auto hours = takeDigits(text, 2);
    take(text, ':');
    const auto minutes = text.empty() ? std::optional(0) : takeDigits(text, 2);
    if (sign == 0.0 || !hours || !minutes || !text.empty())
        return std::nullopt;
    stamp.seconds -= sign * (*hours * 3600.0 + *minutes * 60.0);
    return stamp;
}

std::optional<long> parseDate(std::string_view cell) {
    std::string_view text = trimmed(cell);
    const auto days = takeDate(text);
    return days && text.empty() ? days : std::nullopt;
}

} // namespace otterstone::logs
