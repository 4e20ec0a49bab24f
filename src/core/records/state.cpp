#include "core/records/state.h"

#include <algorithm>
#include <vector>

#include "core/quantity/format.h"
#include "core/quantity/parse.h"
#include "core/quantity/say.h"

namespace otterstone::records {

namespace {

std::string percent(double value) { return showNumber(value, 3) + " %"; }

// "cut-off", "cutoff", "Cut_off" are one.
std::string bare(std::string_view key) {
    std::string text = lowered(trimmed(key));
    std::erase_if(text, [](char c) { return c == '-' || c == '_' || c == ' '; });
    return text;
}

} // namespace

std::string typedState(const State& s) {
    return s.isFull() && s.high >= 100.0 ? "full"
           : s == State::empty()         ? "empty"
           : s.low == s.high             ? percent(s.low)
                                         : showNumber(s.low, 3) + " to " + percent(s.high);
}

std::string stateWords(const State& s) {
    return s.isFull() && s.high >= 100.0 ? "full" : s == State::empty() ? "empty" : "at " + typedState(s);
}

std::string stateKey(const State& s) {
    return s.isFull() ? "full" : s.isEmpty() ? "empty" : s.low == s.high ? "percent" : "between";
}

State litLeds(double lit, int inAll) {
    const double all = std::max(1, inAll);
    return lit <= 0.0 ? State::empty()
                      : State{std::clamp(100.0 * (lit - 1.0) / all, 0.0, 100.0), std::min(100.0, 100.0 * lit / all)};
}

Result<State> parseState(std::string_view given, std::string_view place) {
    const auto wrong = [&] {
        return problem("bad_state", std::string(place), say("“{}” is no state of a bank.", given),
                       "Write full, empty, 92 %, 25 to 50 %, or LEDs as in 2 of 4.");
    };
    std::string text = lowered(trimmed(given));
    if (text.starts_with("at "))
        text = trimmed(text.substr(3));
    if (text == "full")
        return State::full();
    if (text == "empty")
        return State::empty();
    std::erase(text, '%');
    const auto pieces = [&](std::string_view by) -> std::optional<std::pair<double, double>> {
        const std::size_t at = text.find(by);
        if (at == std::string::npos || at == 0)
            return std::nullopt;
        const auto a = parseNumber(trimmed(std::string_view(text).substr(0, at)));
        const auto b = parseNumber(trimmed(std::string_view(text).substr(at + by.size())));
        return a && b ? std::optional(std::pair(*a, *b)) : std::nullopt;
    };
    if (const auto leds = pieces("of")) {
        if (leds->first < 0.0 || leds->second < 1.0 || leds->second > 20.0 || leds->first > leds->second)
            return wrong();
        return litLeds(leds->first, static_cast<int>(leds->second));
    }
    State s;
    if (const auto n = parseNumber(trimmed(text)))
        s = State::at(*n);
    else if (const auto range = pieces("to"))
        s = {range->first, range->second};
    else if (const auto dash = pieces("-"))
        s = {dash->first, dash->second};
    else if (const auto long_ = pieces("–"))
        s = {long_->first, long_->second};
    else
        return wrong();
    return s.low >= 0.0 && s.high <= 100.0 && s.low <= s.high ? Result<State>(s) : wrong();
}

std::string endingKey(Ending e) { return kEndings[static_cast<std::size_t>(e)].key; }
std::string endingWords(Ending e) { return sayAsItStands(kEndings[static_cast<std::size_t>(e)].words); }

std::optional<Ending> endingFromKey(std::string_view key) {
    const std::string text = bare(key);
    const auto at =
        std::find_if(kEndings.begin(), kEndings.end(), [&](const EndingName& n) { return bare(n.key) == text; });
    return at == kEndings.end() ? std::nullopt : std::optional(at->ending);
}

Stating usualBeginning(Kind kind) { return {kind == Kind::Drain ? State::full() : State::empty(), false}; }

Result<Stating> parseBegan(std::string_view text, std::string_view place) {
    if (bare(text) == "unknown")
        return Stating{};
    const auto state = parseState(text, place);
    if (!state)
        return tl::unexpected(state.error());
    return Stating{*state, false};
}

Result<void> parseEnded(std::string_view text, std::string_view place, StatedEnds& into) {
    into.ended.reset();
    into.ending.reset();
    if (bare(text) == "unknown") {
        into.ended = Stating{};
        into.ending = Ending::Unknown;
        return {};
    }
    // The ending first, then the state: "unplugged at 45 %", "heat 40", "device full, 2 of 4".
    std::string_view rest = trimmed(text);
    for (std::size_t length = rest.size(); length > 0 && !into.ending; --length) {
        const std::string_view head = rest.substr(0, length);
        if (const auto ending = endingFromKey(head);
            ending && (length == rest.size() || rest[length] == ' ' || rest[length] == ',' || rest[length] == ':')) {
            into.ending = *ending;
            rest = trimmed(rest.substr(length));
            while (!rest.empty() && (rest.front() == ',' || rest.front() == ':'))
                rest = trimmed(rest.substr(1));
        }
    }
    if (!rest.empty()) {
        const auto state = parseState(rest, place);
        if (!state)
            return problem("bad_ending", std::string(place), say("“{}” is no end of a run.", text),
                           "Write a state (empty, 45 %), an ending (cut-off, device full, load stopped, heat, "
                           "over-current, charger error, source gone, full, unplugged), or both: unplugged at 45 %.");
        into.ended = Stating{*state, false};
    } else if (into.ending == Ending::CutOff) {
        into.ended = Stating{State::empty(), false};
    } else if (into.ending == Ending::Full) {
        into.ended = Stating{State::full(), false};
    }
    return {};
}

Result<void> parseDevice(std::string_view text, std::string_view place, StatedEnds& into) {
    const std::string all = lowered(trimmed(text));
    const std::size_t to = all.find(" to ");
    const auto one = [&](std::string_view state) -> Result<std::optional<State>> {
        if (state == "?" || state == "unknown")
            return std::nullopt;
        auto read = parseState(state, place);
        return read ? Result<std::optional<State>>(*read) : tl::unexpected(read.error());
    };
    if (!all.empty() && to == std::string::npos)
        return problem("bad_state", std::string(place), say("“{}” does not say how the device began and ended.", all),
                       "Write both, as in 20 % to full, or 20 % to ?.");
    std::optional<State> began, ended;
    if (!all.empty()) {
        auto first = one(trimmed(std::string_view(all).substr(0, to)));
        auto last = one(trimmed(std::string_view(all).substr(to + 4)));
        if (!first || !last)
            return tl::unexpected(!first ? first.error() : last.error());
        began = *first;
        ended = *last;
    }
    into.deviceBegan = began;
    into.deviceEnded = ended;
    return {};
}

std::string typedDevice(const StatedEnds& s) {
    if (!s.deviceBegan && !s.deviceEnded)
        return {};
    return (s.deviceBegan ? typedState(*s.deviceBegan) : "?") + " to " +
           (s.deviceEnded ? typedState(*s.deviceEnded) : "?");
}

std::string typedBegan(const StatedEnds& s) {
    return !s.began ? "" : s.began->state ? typedState(*s.began->state) : "unknown";
}

std::string typedEnded(const StatedEnds& s) {
    if (s.ending == Ending::Unknown && !(s.ended && s.ended->state))
        return "unknown";
    const bool follows = s.ended && ((s.ending == Ending::CutOff && s.ended->state == State::empty()) ||
                                     (s.ending == Ending::Full && s.ended->state == State::full()));
    std::string ending = s.ending ? endingKey(*s.ending) : "";
    if (!s.ended || !s.ended->state || follows)
        return ending;
    return ending.empty() ? typedState(*s.ended->state) : ending + " at " + typedState(*s.ended->state);
}

} // namespace otterstone::records
