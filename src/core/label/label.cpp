#include "core/label/label.h"

#include <algorithm>
#include <cctype>

#include "core/quantity/characters.h"
#include "core/quantity/format.h"
#include "core/quantity/parse.h"
#include "core/quantity/say.h"

namespace otterstone::label {

namespace {

// Length of the number at the front of `text`: digits with one point or comma between digits.
std::size_t numberLength(std::string_view text) {
    std::size_t n = 0;
    bool separator = false;
    while (n < text.size()) {
        const bool inside =
            (text[n] == '.' || text[n] == ',') && !separator && n > 0 && n + 1 < text.size() && isDigit(text[n + 1]);
        if (!inside && !isDigit(text[n]))
            break;
        separator = separator || inside;
        ++n;
    }
    return n;
}

std::size_t skipDash(std::string_view text) {
    for (std::string_view dash : {std::string_view("-"), std::string_view("–"), std::string_view("…")}) {
        if (text.starts_with(dash))
            return dash.size();
    }
    return 0;
}

} // namespace

std::vector<Tier> Port::tiersFor(Way way) const {
    if (!goes(way))
        return {};
    return way == Way::In && direction == Direction::Both && !inTiers.empty() ? inTiers : tiers;
}

std::optional<Watts> Port::wattsFor(Way way) const {
    if (!goes(way))
        return std::nullopt;
    if (way == Way::In && direction == Direction::Both && (inWatts || !inTiers.empty()))
        return inWatts;
    return watts;
}

std::optional<Tier> bestTier(const std::vector<Tier>& tiers) {
    if (tiers.empty())
        return std::nullopt;
    return *std::max_element(tiers.begin(), tiers.end(), [](const Tier& a, const Tier& b) {
        return a.watts() != b.watts() ? a.watts() < b.watts() : a.high > b.high;
    });
}

std::vector<Printed> scanPrinted(std::string_view text) {
    std::vector<Printed> found;
    std::size_t at = 0;
    while (at < text.size()) {
        if (!isDigit(text[at])) {
            // A digit that is part of a word ("C1", "x2") is a name, except right behind an "x" for "times".
            const bool times = (text[at] == 'x' || text[at] == 'X');
            if (isLetter(text[at]) && !times) {
                while (at < text.size() && (isLetter(text[at]) || isDigit(text[at])))
                    ++at;
            } else {
                ++at;
            }
            continue;
        }
        Printed p;
        std::size_t length = numberLength(text.substr(at));
        p.low = p.high = parseNumber(text.substr(at, length)).value_or(0.0);
        at += length;
        std::size_t ahead = at;
        while (ahead < text.size() && text[ahead] == ' ')
            ++ahead;
        if (const std::size_t dash = skipDash(text.substr(ahead)); dash > 0) {
            ahead += dash;
            while (ahead < text.size() && text[ahead] == ' ')
                ++ahead;
            if (ahead < text.size() && isDigit(text[ahead])) {
                length = numberLength(text.substr(ahead));
                p.high = parseNumber(text.substr(ahead, length)).value_or(p.low);
                at = ahead + length;
            }
        }
        ahead = at;
        while (ahead < text.size() && text[ahead] == ' ')
            ++ahead;
        std::size_t unitEnd = ahead;
        while (unitEnd < text.size() && isLetter(text[unitEnd]) && text[unitEnd] != 'x' && text[unitEnd] != 'X')
            ++unitEnd;
        p.unit = lowered(text.substr(ahead, unitEnd - ahead));
        at = std::max(at, unitEnd);
        found.push_back(std::move(p));
    }
    return found;
}

Result<Tier> parseTier(std::string_view text, std::string_view place) {
    std::optional<Printed> volts;
    std::optional<double> amps;
    std::optional<double> watts;
    for (const Printed& p : scanPrinted(text)) {
        if (p.unit == "v" || (p.unit.empty() && !volts))
            volts = p;
        else if (p.unit == "ma")
            amps = p.high / 1000.0;
        else if (p.unit == "a" || (p.unit.empty() && !amps))
            amps = p.high;
        else if (p.unit == "w")
            watts = p.high;
    }
    if (volts && !amps && watts && volts->high > 0.0)
        amps = *watts / volts->high;
    // Below or above these it is a slip, and what is shown of it could not be read again.
    if (!volts || !amps || !(volts->low >= 0.1) || volts->high < volts->low || !(*amps >= 0.001) ||
        volts->high > 1000.0 || *amps > 1000.0)
        return problem("bad_tier", std::string(place), say("“{}” is not a tier.", trimmed(text)),
                       "Write volts and amperes like 9Vx2A, or a range like 3.3-11V 5A.");
    return Tier{Volts(volts->low), Volts(volts->high), Amps(*amps)};
}

Result<std::vector<Tier>> parseTiers(std::string_view text, std::string_view place) {
    std::vector<Tier> tiers;
    std::size_t start = 0;
    for (std::size_t i = 0; i <= text.size(); ++i) {
        const bool decimalComma =
            i < text.size() && i > 0 && i + 1 < text.size() && isDigit(text[i - 1]) && isDigit(text[i + 1]);
        const bool divides = i == text.size() || text[i] == ';' || text[i] == '\n' || (text[i] == ',' && !decimalComma);
        if (!divides)
            continue;
        const std::string_view one = trimmed(text.substr(start, i - start));
        start = i + 1;
        if (one.empty())
            continue;
        auto tier = parseTier(one, place);
        if (!tier)
            return tl::unexpected(tier.error());
        tiers.push_back(*tier);
    }
    return tiers;
}

std::string showTier(const Tier& tier) {
    std::string volts = showNumber(tier.low.value);
    if (tier.programmable())
        volts += "–" + showNumber(tier.high.value);
    return volts + " V " + showNumber(tier.amps.value) + " A";
}

std::string showTiers(const std::vector<Tier>& tiers) {
    std::string text;
    for (const Tier& t : tiers)
        text += (text.empty() ? "" : "; ") + showTier(t);
    return text;
}

} // namespace otterstone::label
