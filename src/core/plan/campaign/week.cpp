#include "core/plan/campaign/week.h"

#include <algorithm>
#include <cmath>
#include <optional>

#include "core/quantity/date.h"
#include "core/quantity/parse.h"
#include "core/quantity/say.h"

namespace otterstone::plan::campaign {

namespace {

constexpr std::array<std::string_view, 7> kDayWords = {"mon", "tue", "wed", "thu", "fri", "sat", "sun"};
constexpr const char* kMend = "Write them like mon-fri 9-17; sat 10:30-14 2 people.";

std::optional<std::size_t> weekdayNamed(std::string_view word) {
    for (std::size_t k = 0; k < kDayWords.size(); ++k) {
        if (word.size() >= 3 && word.substr(0, 3) == kDayWords[k])
            return k;
    }
    return std::nullopt;
}

// "9", "9:30", "24" as seconds of the day.
std::optional<double> timeOf(std::string_view text) {
    const std::size_t colon = text.find(':');
    const auto hours = parseNumber(text.substr(0, colon), "hour", Expect::WholeNumber);
    if (!hours || *hours < 0.0 || *hours > 24.0 || *hours != std::floor(*hours))
        return std::nullopt;
    double minutes = 0.0;
    if (colon != std::string_view::npos) {
        const auto m = parseNumber(text.substr(colon + 1), "minute", Expect::WholeNumber);
        if (!m || *m < 0.0 || *m > 59.0 || *m != std::floor(*m))
            return std::nullopt;
        minutes = *m;
    }
    const double seconds = *hours * 3600.0 + minutes * 60.0;
    return seconds <= kDay ? std::optional(seconds) : std::nullopt;
}

std::vector<std::string> wordsOf(const std::string& text) {
    std::vector<std::string> words;
    std::string word;
    for (const char c : text + " ") {
        if (c != ' ') {
            word += c;
        } else if (!word.empty()) {
            words.push_back(std::move(word));
            word.clear();
        }
    }
    return words;
}

bool readDays(std::string_view word, WeekHours& into) {
    if (word == "daily") {
        into.days.fill(true);
        return true;
    }
    const std::size_t dash = word.find('-');
    const auto first = weekdayNamed(word.substr(0, dash));
    const auto last = dash == std::string_view::npos ? first : weekdayNamed(word.substr(dash + 1));
    if (!first || !last)
        return false;
    for (std::size_t k = *first;; k = (k + 1) % kDayWords.size()) { // "sat-mon" goes on over Sunday
        into.days[k] = true;
        if (k == *last)
            return true;
    }
}

std::optional<WeekHours> readOne(const std::string& text) {
    const auto words = wordsOf(lowered(text));
    if (words.size() != 2 && words.size() != 3 && words.size() != 4)
        return std::nullopt;
    WeekHours h;
    const std::size_t dash = words[1].find('-');
    if (!readDays(words[0], h) || dash == std::string::npos)
        return std::nullopt;
    const auto from = timeOf(std::string_view(words[1]).substr(0, dash));
    const auto to = timeOf(std::string_view(words[1]).substr(dash + 1));
    if (!from || !to || *to <= *from)
        return std::nullopt;
    h.from = *from;
    h.to = *to;
    if (words.size() > 2) {
        const auto people = parseNumber(words[2], "people", Expect::WholeNumber);
        if (!people || *people < 1.0 || *people > kMostPeople || *people != std::floor(*people) ||
            (words.size() == 4 && words[3] != "people" && words[3] != "person"))
            return std::nullopt;
        h.people = static_cast<int>(*people);
    }
    return h;
}

// Of a midnight: 0 for Monday.
double weekdayOf(double midnight) {
    constexpr double kThursday = 3.0; // 1970-01-01 was one
    const double days = std::round(midnight / kDay) + kThursday;
    return days - 7.0 * std::floor(days / 7.0);
}

} // namespace

Result<std::vector<WeekHours>> parseWeek(std::string_view text, std::string_view place) {
    std::vector<WeekHours> week;
    for (std::size_t from = 0; from <= text.size();) {
        const std::size_t to = std::min(text.find(';', from), text.size());
        const std::string piece(trimmed(text.substr(from, to - from)));
        from = to + 1;
        if (piece.empty())
            continue;
        const auto hours = readOne(piece);
        if (!hours)
            return problem("bad_hours", std::string(place), say("“{}” is not understood.", piece), kMend);
        for (const WeekHours& other : week) {
            for (std::size_t day = 0; day < kDayWords.size(); ++day) {
                if (other.days[day] && hours->days[day] && other.from < hours->to && hours->from < other.to)
                    return problem("bad_hours", std::string(place), say("“{}” overlaps other hours of one day.", piece),
                                   kMend);
            }
        }
        week.push_back(*hours);
    }
    if (week.empty())
        return problem("bad_hours", std::string(place), "no hours are named.", kMend);
    return week;
}

Result<double> parseMoment(std::string_view text, double now, std::string_view place) {
    auto words = wordsOf(lowered(std::string(text)));
    const auto wrong = [&] {
        return problem("bad_moment", std::string(place), say("“{}” is not a moment.", text),
                       "Write it like 2026-09-11 18:00, fri 18:00, tomorrow 9:00 or in 6 days 18:00.");
    };
    if (words.empty() || words.size() > 4)
        return wrong();
    std::string iso = words[0];
    if (iso.find('t') != std::string::npos)
        iso[iso.find('t')] = 'T';
    if (const auto at = secondsOf(iso); at && words.size() == 1)
        return *at;
    // The time of the day stands last, where there is one.
    double time = 0.0;
    if (words.back().find(':') != std::string::npos) {
        const auto read = timeOf(words.back());
        if (!read)
            return wrong();
        time = *read;
        words.pop_back();
    }
    const double midnight = now + midnightBefore(now);
    if (words.empty())
        return midnight + time + (midnight + time < now ? kDay : 0.0);
    if (const auto day = secondsOf(words[0]); day && words.size() == 1)
        return *day + time;
    if (words[0] == "today" && words.size() == 1)
        return midnight + time;
    if (words[0] == "tomorrow" && words.size() == 1)
        return midnight + kDay + time;
    if (words[0] == "in" && words.size() == 3 && (words[2] == "days" || words[2] == "day")) {
        constexpr double kMostDays = 1000.0;
        const auto days = parseNumber(words[1], "days", Expect::WholeNumber);
        if (!days || *days < 0.0 || *days > kMostDays || *days != std::floor(*days))
            return wrong();
        return midnight + *days * kDay + time;
    }
    const auto day = weekdayNamed(words[0]);
    if (!day || words.size() != 1)
        return wrong();
    double at = midnight + std::fmod(static_cast<double>(*day) + 7.0 - weekdayOf(midnight), 7.0) * kDay + time;
    return at <= now ? at + 7.0 * kDay : at;
}

double midnightBefore(double beginsAt) { return std::floor(beginsAt / kDay) * kDay - beginsAt; }

std::vector<Presence> presenceOf(const std::vector<WeekHours>& week, double beginsAt, double seconds) {
    std::vector<Presence> all;
    for (double midnight = midnightBefore(beginsAt); midnight < seconds; midnight += kDay) {
        const auto day = static_cast<std::size_t>(weekdayOf(beginsAt + midnight));
        for (const WeekHours& h : week) {
            const Span span{std::max(0.0, midnight + h.from), std::min(seconds, midnight + h.to)};
            if (h.days[day] && span.to > span.from)
                all.push_back({span, h.people});
        }
    }
    std::sort(all.begin(), all.end(), [](const Presence& a, const Presence& b) { return a.span.from < b.span.from; });
    return all;
}

} // namespace otterstone::plan::campaign
