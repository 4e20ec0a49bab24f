// What devices need: read, shown, and reckoned a day.
#include <algorithm>

#include "core/plan/use.h"
#include "core/quantity/format.h"
#include "core/quantity/parse.h"
#include "core/quantity/say.h"

namespace otterstone::plan {

namespace {

// Behind the figures only what people put between and after them may stand.
std::string unknownWord(const std::string& text) {
    constexpr std::string_view kKnown[] = {"a",    "per",   "day",   "each", "every", "and",     "at",      "for",
                                           "in",   "its",   "of",    "the",  "with",  "battery", "starts",  "begins",
                                           "full", "empty", "daily", "use",  "load",  "charge",  "charges", "hours"};
    std::string word;
    for (const char c : text + " ") {
        if (c != ' ' && c != ',' && c != ';' && c != ':' && c != '(' && c != ')' && c != '/' && c != '.') {
            word += c;
            continue;
        }
        if (!word.empty() && std::find(std::begin(kKnown), std::end(kKnown), lowered(word)) == std::end(kKnown))
            return word;
        word.clear();
    }
    return {};
}

} // namespace

std::optional<double> wattHoursPerDay(const Need& n) {
    if (n.watts && n.hoursPerDay)
        return *n.watts * *n.hoursPerDay;
    if (n.battery && n.chargesPerDay)
        return n.battery->value * *n.chargesPerDay;
    return std::nullopt;
}

Result<Need> parseNeed(std::string_view text, std::string_view place) {
    Need n;
    std::size_t lastNumber = 0, firstNumber = std::string_view::npos;
    std::string rest(text); // what is not understood yet
    bool twice = false;
    // A name may hold digits ("Camera 2"): what counts as a figure is a number with one of the units.
    for (std::size_t k = 0; k < text.size();) {
        const bool starts =
            std::isdigit(static_cast<unsigned char>(text[k])) && (k == 0 || text[k - 1] == ' ' || text[k - 1] == ',');
        if (!starts) {
            ++k;
            continue;
        }
        std::size_t end = k;
        while (end < text.size() &&
               (std::isdigit(static_cast<unsigned char>(text[end])) || text[end] == '.' ||
                (text[end] == ',' && end + 1 < text.size() && std::isdigit(static_cast<unsigned char>(text[end + 1])))))
            ++end;
        std::size_t unit = end;
        while (unit < text.size() && text[unit] == ' ')
            ++unit;
        std::size_t after = unit;
        while (after < text.size() && text[after] != ' ' && text[after] != ',' && text[after] != ';')
            ++after;
        const std::string_view word = text.substr(unit, after - unit);
        const auto number = parseNumber(text.substr(k, end - k));
        const bool known = number && (word == "W" || word == "w" || word == "Wh" || word == "wh" || word == "h" ||
                                      word == "h/day" || word == "x" || word == "×" || word == "x/day");
        if (known) {
            const bool watts = word == "W" || word == "w", battery = word == "Wh" || word == "wh";
            const bool hours = word.starts_with("h");
            std::optional<double> wattHours;
            auto& into = watts ? n.watts : battery ? wattHours : hours ? n.hoursPerDay : n.chargesPerDay;
            twice = twice || into || (battery && n.battery);
            into = *number;
            if (battery)
                n.battery = Stated(*number);
            firstNumber = std::min(firstNumber, k);
            lastNumber = after;
            std::fill(rest.begin() + static_cast<std::ptrdiff_t>(k), rest.begin() + static_cast<std::ptrdiff_t>(after),
                      ' ');
        }
        k = after;
    }
    n.name = std::string(trimmed(text.substr(0, std::min(firstNumber, text.size()))));
    while (n.name.ends_with(",") || n.name.ends_with(":"))
        n.name.pop_back();
    n.startsFull = text.substr(lastNumber).find("empty") == std::string_view::npos;
    if (n.name.empty() && firstNumber != std::string_view::npos)
        n.name = "device";
    const std::string unknown = firstNumber == std::string_view::npos
                                    ? std::string()
                                    : unknownWord(rest.substr(std::min(firstNumber, rest.size())));
    if (twice || !unknown.empty())
        return problem(
            "bad_need", std::string(place),
            twice ? say("“{}” says one figure twice.", text) : say("“{}” in “{}” is not understood.", unknown, text),
            "Write one device a line, like Camera 2 W 8 h or Tablet 26.4 Wh 1x; add “empty” if it starts empty.");
    const auto perDay = wattHoursPerDay(n);
    if (!perDay || !(*perDay > 0.0) || (n.hoursPerDay && *n.hoursPerDay > 24.0))
        return problem(
            "bad_need", std::string(place),
            n.hoursPerDay && *n.hoursPerDay > 24.0 ? say("a day has 24 hours.")
                                                   : say("“{}” does not say what it needs in a day.", text),
            "Write watts and hours a day, or a battery and charges a day, like Camera 2 W 8 h or Tablet 26.4 Wh 1x; add “empty” if it starts empty.");
    return n;
}

std::string showNeed(const Need& n) {
    std::string s = n.name;
    if (n.battery)
        s += " " + showNumber(n.battery->value) + " Wh";
    if (n.watts)
        s += " " + showNumber(*n.watts) + " W";
    if (n.hoursPerDay)
        s += " " + showNumber(*n.hoursPerDay) + " h";
    if (n.chargesPerDay)
        s += " " + showNumber(*n.chargesPerDay) + "x";
    return n.startsFull ? s : s + " empty";
}

} // namespace otterstone::plan
