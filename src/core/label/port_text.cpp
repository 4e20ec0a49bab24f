#include "core/label/port_text.h"

#include <algorithm>

#include "core/quantity/characters.h"
#include "core/quantity/format.h"
#include "core/quantity/parse.h"
#include "core/quantity/say.h"

namespace otterstone::label {

namespace {

// Words as they are typed; a unit that stands apart goes to its number, and a comma between digits is a decimal one.
std::vector<std::string> wordsOf(std::string_view text) {
    std::vector<std::string> words;
    std::string word;
    const auto end = [&] {
        const std::string low = lowered(word);
        const bool unit = low == "v" || low == "a" || low == "w";
        if (unit && !words.empty() && isDigit(words.back().back()))
            words.back() += word;
        else if (!word.empty() && low != "x" && low != "×" && low != "@")
            words.push_back(word);
        word.clear();
    };
    for (std::size_t k = 0; k < text.size(); ++k) {
        const bool decimal =
            text[k] == ',' && k > 0 && k + 1 < text.size() && isDigit(text[k - 1]) && isDigit(text[k + 1]);
        if (text[k] == ' ' || text[k] == '\t' || text[k] == ';' || (text[k] == ',' && !decimal))
            end();
        else
            word += text[k];
    }
    end();
    return words;
}

enum class Section { None, Out, In, Both };

Section sectionOf(const std::string& word) {
    const std::string low = lowered(word);
    return low == "out" ? Section::Out : low == "in" ? Section::In : low == "both" ? Section::Both : Section::None;
}

// "27W" or "15 W" alone.
std::optional<double> wattsIn(const std::string& word) {
    if (word.size() < 2 || (word.back() != 'W' && word.back() != 'w'))
        return std::nullopt;
    const auto value = parseNumber(std::string_view(word).substr(0, word.size() - 1));
    return value && *value > 0.0 ? std::optional(*value) : std::nullopt;
}

bool onlyVolts(const std::string& word) {
    const std::string low = lowered(word);
    return low.size() > 1 && low.back() == 'v' && low.find('a') == std::string::npos;
}

struct Said {
    bool given = false; ///< its word was there
    std::vector<Tier> tiers;
    std::optional<Watts> watts;
};

} // namespace

Result<Port> parsePort(std::string_view text, std::string_view place) {
    const auto bad = [&](Spoken why) {
        return problem("bad_port", std::string(place), say("“{}”: {}", text, std::move(why).text()),
                       "Write it like: C1 out 5Vx3A 9Vx3A 27W in 9Vx2A 18W shared 15W.");
    };
    Port port;
    Said out, in, both;
    Said* section = nullptr;
    const auto words = wordsOf(text);
    for (std::size_t k = 0; k < words.size(); ++k) {
        const std::string& word = words[k];
        if (const Section s = sectionOf(word); s != Section::None && !port.name.empty()) {
            section = s == Section::Out ? &out : s == Section::In ? &in : &both;
            if (section->given)
                return bad(say("“{}” stands there twice.", word));
            section->given = true;
        } else if (lowered(word) == "shared") {
            const auto watts = k + 1 < words.size() ? wattsIn(words[k + 1]) : std::nullopt;
            if (!watts)
                return bad("“shared” is followed by watts.");
            port.sharedWatts = Watts(*watts);
            ++k;
        } else if (!section) {
            port.name += (port.name.empty() ? "" : " ") + word;
        } else if (const auto watts = wattsIn(word)) {
            section->watts = Watts(*watts);
        } else {
            std::string tier = word; // "5V 3A" in two words
            if (onlyVolts(word) && k + 1 < words.size())
                tier += " " + words[++k];
            auto read = parseTier(tier, place);
            if (!read)
                return tl::unexpected(read.error());
            section->tiers.push_back(*read);
        }
    }
    if (port.name.empty())
        return bad("it has no name.");
    if (!section)
        return bad("it says neither what it gives (out) nor what it takes (in).");
    if (both.given && (out.given || in.given))
        return bad("“both” stands alone; give out and in by themselves.");
    port.direction = both.given || (out.given && in.given) ? Direction::Both
                     : out.given                           ? Direction::Out
                                                           : Direction::In;
    const Said& first = both.given ? both : out.given ? out : in;
    port.tiers = first.tiers;
    port.watts = first.watts;
    if (out.given && in.given) {
        port.inTiers = in.tiers;
        port.inWatts = in.watts;
    }
    return port;
}

std::string showPort(const Port& port) {
    const auto said = [](const char* section, const std::vector<Tier>& tiers, const std::optional<Watts>& watts) {
        std::string s = std::string(" ") + section;
        for (const Tier& t : tiers)
            s += say(" {}Vx{}A",
                     t.programmable() ? say("{}-{}", showNumber(t.low.value, 9), showNumber(t.high.value, 9))
                                      : showNumber(t.high.value, 9),
                     showNumber(t.amps.value, 9));
        return watts ? say("{} {}W", s, showNumber(watts->value, 9)) : s;
    };
    const bool apart = !port.inTiers.empty() || port.inWatts;
    std::string s = port.name + said(port.direction == Direction::In               ? "in"
                                     : port.direction == Direction::Both && !apart ? "both"
                                                                                   : "out",
                                     port.tiers, port.watts);
    if (port.direction == Direction::Both && apart)
        s += said("in", port.inTiers, port.inWatts);
    return port.sharedWatts ? say("{} shared {}W", s, showNumber(port.sharedWatts->value, 9)) : s;
}

} // namespace otterstone::label
