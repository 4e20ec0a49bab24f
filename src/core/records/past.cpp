#include "core/records/past.h"

#include <algorithm>

#include "core/quantity/date.h"
#include "core/quantity/format.h"
#include "core/quantity/parse.h"
#include "core/quantity/say.h"

namespace otterstone::records {

namespace {

constexpr const char* kDayMend = "Write it like 2026-04-02.";

tl::unexpected<Problem> noDay(std::string_view text, std::string_view place) {
    return problem("bad_date", std::string(place), say("“{}” is no day.", text), kDayMend);
}

// One of "312 Wh out", "330 Wh in", "41 cycles", "health 98 %".
struct Counted {
    std::optional<double> OwnCount::*member;
    const char *before, *after; ///< the number
    double most;
};
constexpr Counted kCounted[] = {{&OwnCount::outWattHours, "", "wh out", kLargestFigure},
                                {&OwnCount::inWattHours, "", "wh in", kLargestFigure},
                                {&OwnCount::cycles, "", "cycles", kLargestFigure},
                                {&OwnCount::cycles, "", "cycle", kLargestFigure},
                                {&OwnCount::health, "health", "%", 100.0},
                                {&OwnCount::health, "", "% health", 100.0}};

Result<void> parseItem(const std::string& text, const std::string& place, OwnCount& into) {
    const std::string low = lowered(text);
    for (const Counted& c : kCounted) {
        const std::string before = c.before, after = c.after;
        if (!low.starts_with(before) || !low.ends_with(after) || low.size() <= before.size() + after.size())
            continue;
        const auto number = parseNumber(
            trimmed(std::string_view(text).substr(before.size(), text.size() - before.size() - after.size())), place);
        if (!number)
            return tl::unexpected(number.error());
        if (*number < 0.0 || *number > c.most)
            return problem("bad_count", place, say("“{}” cannot be.", text));
        into.*(c.member) = *number;
        return {};
    }
    return problem("bad_count", place, say("“{}” is not understood.", text),
                   "Write it like 312 Wh out, 330 Wh in, 41 cycles, health 98 %.");
}

std::vector<std::string> split(std::string_view text, char by) {
    std::vector<std::string> all;
    for (std::size_t from = 0; from <= text.size();) {
        const std::size_t to = std::min(text.find(by, from), text.size());
        if (const auto piece = trimmed(text.substr(from, to - from)); !piece.empty())
            all.emplace_back(piece);
        from = to + 1;
    }
    return all;
}

} // namespace

Result<void> parseCame(std::string_view given, std::string_view place, Past& into) {
    std::string_view text = trimmed(given);
    std::string on;
    if (const auto word = text.substr(0, text.find(' ')); std::count(word.begin(), word.end(), '-') == 2) {
        if (!isDay(word))
            return noDay(word, place);
        on = word;
        text = trimmed(text.substr(word.size()));
    }
    if (text.starts_with("at "))
        text = trimmed(text.substr(3));
    std::optional<State> at;
    if (!text.empty()) {
        const auto state = parseState(text, place);
        if (!state)
            return tl::unexpected(state.error());
        at = *state;
    }
    into.cameOn = std::move(on);
    into.cameAt = at;
    return {};
}

std::string showCame(const Past& p) {
    const std::string state = p.cameAt ? stateWords(*p.cameAt) : std::string();
    return p.cameOn + (p.cameOn.empty() || state.empty() ? "" : " ") + state;
}

Result<std::vector<OwnCount>> parseCounts(std::string_view text, std::string_view place) {
    std::vector<OwnCount> counts;
    for (const std::string& piece : split(text, ';')) {
        const std::size_t colon = piece.find(':');
        OwnCount c;
        c.on = trimmed(std::string_view(piece).substr(0, colon));
        if (!isDay(c.on))
            return noDay(c.on, place);
        if (colon == std::string::npos)
            return problem("no_count", std::string(place), say("Nothing was counted on {}.", c.on),
                           "Write it like 2026-04-02: 312 Wh out, 41 cycles.");
        for (const std::string& item : split(std::string_view(piece).substr(colon + 1), ',')) {
            if (auto read = parseItem(item, std::string(place), c); !read)
                return tl::unexpected(read.error());
        }
        if (countWords(c).empty())
            return problem("no_count", std::string(place), say("Nothing was counted on {}.", c.on),
                           "Write it like 2026-04-02: 312 Wh out, 41 cycles.");
        if (std::any_of(counts.begin(), counts.end(), [&](const OwnCount& o) { return o.on == c.on; }))
            return problem("two_of_one_day", std::string(place), say("{} is there twice.", c.on), "Keep one of them.");
        counts.push_back(std::move(c));
    }
    std::sort(counts.begin(), counts.end(), [](const OwnCount& a, const OwnCount& b) { return a.on < b.on; });
    return counts;
}

std::string countWords(const OwnCount& c) {
    std::string text;
    const auto add = [&](const std::optional<double>& v, const char* before, const char* after) {
        if (v)
            text += (text.empty() ? "" : ", ") + std::string(before) + showNumber(*v, 6) + after;
    };
    add(c.outWattHours, "", " Wh out");
    add(c.inWattHours, "", " Wh in");
    add(c.cycles, "", c.cycles == 1.0 ? " cycle" : " cycles");
    add(c.health, "health ", " %");
    return text;
}

std::string showCounts(const std::vector<OwnCount>& counts) {
    std::string text;
    for (const OwnCount& c : counts)
        text += (text.empty() ? "" : "; ") + c.on + ": " + countWords(c);
    return text;
}

} // namespace otterstone::records
