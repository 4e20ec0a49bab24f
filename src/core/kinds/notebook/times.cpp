#include "core/kinds/notebook/times.h"

#include <cmath>
#include <string>

#include "core/quantity/date.h"
#include "core/quantity/format.h"
#include "core/quantity/parse.h"
#include "core/quantity/say.h"

namespace otterstone::kinds {

namespace {

// A row that seems to step back was written the day after, unless that would be this much later: then it is a slip.
constexpr double kLongestNight = 18.0 * 3600.0;

struct Clock {
    double seconds = 0.0;
    bool withDay = false;
    bool halfDay = false; ///< am or pm
};

// "14:05", "2:15 pm", "2 pm", "2026-05-02 14:05"; nothing for what is no clock time.
std::optional<Clock> clockOf(std::string_view text) {
    std::string t = lowered(trimmed(text));
    if (t.size() > 11 && isDay(t.substr(0, 10))) {
        t[10] = 'T';
        if (t.size() == 16)
            t += ":00";
        const auto at = secondsOf(t);
        return at ? std::optional(Clock{*at, true, false}) : std::nullopt;
    }
    std::optional<bool> afternoon;
    for (const auto& [word, pm] : {std::pair("am", false), {"pm", true}, {"a.m.", false}, {"p.m.", true}}) {
        if (t.ends_with(word)) {
            afternoon = pm;
            t = std::string(trimmed(std::string_view(t).substr(0, t.size() - std::string_view(word).size())));
        }
    }
    if (!afternoon && t.find(':') == std::string::npos)
        return std::nullopt;
    const auto time = parseDuration(t, {}, 3600.0);
    if (!time || (afternoon && (*time < 3600.0 || *time >= 13.0 * 3600.0)))
        return std::nullopt;
    Clock c{*time, false, afternoon.has_value()};
    if (afternoon) {
        if (c.seconds >= 12.0 * 3600.0)
            c.seconds -= 12.0 * 3600.0; // 12:10 am is ten past midnight
        c.seconds += *afternoon ? 12.0 * 3600.0 : 0.0;
    }
    return c;
}

tl::unexpected<Problem> stepsBack(std::string_view text, double later) {
    return problem("time_steps_back", "", say("“{}” is before the row above.", text),
                   later > 0.0
                       ? say("Over midnight it would be {} later; if it was, write the day, too: 2026-05-02 14:05.",
                             showDuration(later))
                       : say("Times count on from the beginning."));
}

} // namespace

Result<double> Times::read(std::string_view text) {
    if (text.empty())
        return problem(
            "no_time", "", "the row has no time.",
            "Write it since the beginning (15 min), after the row before (+15 min), or by the clock (14:05).");
    if (text.starts_with("+")) {
        const auto later = parseDuration(text.substr(1), {}, 60.0);
        return later ? Result<double>(last_ + *later) : later;
    }
    const auto clock = clockOf(text);
    if (!clock)
        return parseDuration(text, {}, 60.0);
    if (!any_ && (clock->withDay || clock->halfDay || clock->seconds > 0.0)) {
        begin_ = clock->seconds;
        withDay_ = clock->withDay;
    }
    if (!begin_) {
        if (clock->withDay || clock->halfDay)
            return problem("no_clock", "", "the first row has no clock time to count from.",
                           "Write the first row by the clock, too, or this one since the beginning.");
        return clock->seconds; // "1:12" after "0"
    }
    if (clock->withDay != withDay_ && clock->withDay)
        return problem("no_clock", "", "the first row has no day to count from.",
                       "Write the first row with its day, or this one by the clock alone.");
    double at = clock->seconds - *begin_;
    if (!clock->withDay) // of the same day as the row above
        at += kSecondsADay * std::floor((*begin_ + last_) / kSecondsADay);
    if (at < last_ && !clock->withDay) {
        at += kSecondsADay;
        if (at - last_ > kLongestNight)
            return stepsBack(text, at - last_);
    }
    return at;
}

Result<double> Times::next(std::string_view text) {
    auto at = read(trimmed(text));
    if (!at)
        return at;
    if (any_ && *at < last_)
        return stepsBack(trimmed(text), 0.0);
    any_ = true;
    last_ = *at;
    return at;
}

} // namespace otterstone::kinds
