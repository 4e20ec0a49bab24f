#include "core/kinds/traced/ends.h"

#include <algorithm>
#include <cmath>

#include "core/quantity/date.h"
#include "core/quantity/format.h"
#include "core/quantity/say.h"

namespace otterstone::kinds {

namespace {

constexpr double kLostAMonth = 3.0;       // points that a bank loses while it rests: "full" holds for a month
constexpr double kSoon = 2.0;             // days
constexpr double kLeastOfRating = 0.60;   // of the rating: less came out, and a full bank is asked for
constexpr double kLeastIntoRating = 0.80; // of the rating: less went in, and an empty one is asked for

bool disagree(const State& a, const State& b) {
    return a.low - b.high > State::kGaugeDoubt || b.low - a.high > State::kGaugeDoubt;
}

Answer notKnown() { return {"unknown", say("I do not know")}; }

std::string wh(double value) { return say("{} Wh", showNumber(value, 3)); }

struct Other {
    State state;
    std::string words;
};

// What the run before left, less what is lost while it rests. Who drains a bank that a drain had emptied has filled it
// in between, and the other way round.
std::optional<KnownState> leftBy(bool drain, const std::optional<Neighbour>& before) {
    if (!before || !before->state || (drain && before->arrival && !before->state->state.isFull()) ||
        (drain && before->kind == Kind::Drain && before->state->state.mayBeEmpty()) ||
        (!drain && before->kind == Kind::Recharge && before->state->state.mayBeFull()))
        return std::nullopt;
    State s = before->state->state;
    if (const double lost = kLostAMonth * before->days / kDaysAMonth; lost >= 1.0)
        s.low = std::max(0.0, s.low - lost);
    return KnownState{s, StateFrom::Chain,
                      (before->arrival ? say("it came ") : say("“{}” left it ", before->title)) +
                          stateWords(before->state->state) +
                          (before->days >= 1.0 ? say(", {} before", showDuration(before->days * kSecondsADay)) : "")};
}

// What the run after found, soon after. Full or empty it may have been made in between.
std::optional<KnownState> foundBy(const std::optional<Neighbour>& after) {
    if (!after || !after->state || after->days >= kSoon || after->state->state.isFull() ||
        after->state->state.isEmpty())
        return std::nullopt;
    return KnownState{after->state->state, StateFrom::Chain,
                      say("“{}”, soon after, began {}", after->title, stateWords(after->state->state))};
}

Question askBegan(const State& stated, const std::string& said, const Other& other, const std::string& because) {
    Question q;
    q.key = "began";
    q.sentence = say("{}, but {}. How did it begin?", said, other.words);
    const std::string usual = stateWords(stated);
    q.answers = {
        {typedState(stated), usual + ": " + because}, {typedState(other.state), stateWords(other.state)}, notKnown()};
    return q;
}

void resolveBegan(bool drain, const EndsSeen& seen, const Moved& moved, const std::optional<Neighbour>& before,
                  const std::optional<Neighbour>& after, Ends& ends) {
    const State usual = drain ? State::full() : State::empty();
    const auto chain = leftBy(drain, before);
    const bool contradicts =
        before && !before->arrival && (before->kind == Kind::Drain) != drain; // else it was used, or filled, in between
    const auto& stated = seen.stated.began;
    if (stated && !stated->state)
        return; // said to be not known
    if (stated) {
        ends.began = KnownState{*stated->state, StateFrom::Stated};
    } else if (seen.began && !(drain ? seen.began->state.high >= 100.0 && !seen.began->state.isFull()
                                     : seen.began->state.low <= 0.0 && !seen.began->state.isEmpty())) {
        ends.began = KnownState{seen.began->state, StateFrom::Stamped, seen.began->words};
    } else if (chain) {
        ends.began = chain;
    } else { // LEDs that allow for the usual are no more than that
        ends.began = KnownState{usual, StateFrom::Taken, seen.began ? seen.began->words : std::string()};
    }
    if (stated && stated->sure)
        return;
    const bool taken = ends.began->from == StateFrom::Taken;
    const std::string said = stated  ? say("It was said to begin {}", stateWords(*stated->state))
                             : taken ? say("Nobody said how it began")
                             : ends.began->from == StateFrom::Stamped ? say("When it began {}", seen.began->words)
                                                                      : std::string();
    std::optional<Other> other;
    if (stated && seen.began && disagree(*stated->state, seen.began->state))
        other = Other{seen.began->state, say("{} then", seen.began->words)};
    else if (!said.empty() && !taken && chain && contradicts && disagree(ends.began->state, chain->state))
        other = Other{chain->state, chain->words};
    else if (drain && taken && before && before->arrival && before->state && disagree(usual, before->state->state))
        other = Other{before->state->state, say("it came {}", stateWords(before->state->state))};
    if (other) {
        ends.questions.push_back(askBegan(ends.began->state, said, *other,
                                          taken   ? say("it had been filled first")
                                          : drain ? say("the other sign is wrong")
                                                  : say("the other sign is wrong, or it was used in between")));
        ends.began.reset();
        return;
    }
    // Nothing but the custom, or one word, says it: then what was moved must fit.
    if (ends.began->state != usual)
        return;
    Question q{"began", {}, {}};
    if (drain && taken && moved.ratedWattHours && ends.endedEmpty() &&
        moved.wattHours < kLeastOfRating * *moved.ratedWattHours)
        q.sentence =
            say("Only {} came out of a bank of {}. Did it begin full?", wh(moved.wattHours), wh(*moved.ratedWattHours));
    else if (!drain && after && after->kind == Kind::Drain && after->wattHours > moved.wattHours + 2.0 * moved.u &&
             ends.endedFull())
        q.sentence = say("More came out of it in “{}” ({}) than the {} that went in. Did it begin empty?", after->title,
                         wh(after->wattHours), wh(moved.wattHours));
    else if (!drain && taken && moved.ratedWattHours && ends.endedFull() &&
             moved.wattHours < kLeastIntoRating * *moved.ratedWattHours)
        q.sentence = say("Only {} went into a bank of {} until it was full. Did it begin empty?", wh(moved.wattHours),
                         wh(*moved.ratedWattHours));
    if (q.sentence.empty())
        return;
    q.answers = {
        {typedState(usual), drain ? say("yes, it began full") : say("yes, it began empty")},
        {"unknown", drain ? say("no, or I do not know") : say("no, something was left in it, or I do not know")}};
    ends.questions.push_back(std::move(q));
    if (!taken)
        ends.began.reset();
}

Question askEnded(std::string sentence, std::vector<Answer> answers) {
    answers.push_back(notKnown());
    return {"ended", std::move(sentence), std::move(answers)};
}

Answer answerOf(Ending ending, std::string text) { return {endingKey(ending), std::move(text)}; }

void resolveDrainEnd(const EndsSeen& seen, const std::optional<Neighbour>& after, Ends& ends) {
    const auto& stated = seen.stated.ended;
    ends.ending = seen.stated.ending.value_or(seen.ending);
    const bool sure = (stated && stated->sure) || seen.stated.ending;
    if (stated && !stated->state)
        return;
    const bool open = seen.ending == Ending::Unknown || seen.ending == Ending::LogEnds;
    if (stated) {
        ends.ended = KnownState{*stated->state, StateFrom::Stated};
        if (!seen.stated.ending && ends.ended->state.isEmpty() && (open || stated->sure))
            ends.ending = Ending::CutOff;
        if (sure)
            return;
        if (seen.ending == Ending::CutOff && !ends.ended->state.mayBeEmpty(State::kGaugeDoubt)) {
            ends.questions.push_back(askEnded(
                say("It was said to end {}, but the output went off. What was it?", stateWords(*stated->state)),
                {answerOf(Ending::CutOff, say("it was empty")), answerOf(Ending::Heat, "heat"),
                 answerOf(Ending::OverCurrent, "over-current"), answerOf(Ending::Unplugged, say("I unplugged it"))}));
            ends.ended.reset();
            ends.ending = Ending::Unknown;
        } else if (ends.ended->state.isEmpty() &&
                   (seen.ending == Ending::LoadStopped || seen.ending == Ending::DeviceFull)) {
            ends.questions.push_back(askEnded(
                say("It was said to end empty, but the port still had its volts when the current fell away. What "
                    "was it?"),
                {answerOf(Ending::CutOff, say("it was empty: it cuts off so")),
                 answerOf(Ending::DeviceFull, say("the device was full")),
                 answerOf(Ending::Unplugged, say("I unplugged it"))}));
            ends.ended.reset();
        }
        return;
    }
    if (ends.ending == Ending::CutOff && !seen.counters) {
        ends.ended = KnownState{State::empty(), StateFrom::Trace, say("the output went off for good")};
        if (!sure && seen.ended && !seen.ended->state.mayBeEmpty(State::kGaugeDoubt)) {
            ends.questions.push_back(askEnded(
                say("When the output went off {}. What was it?", seen.ended->words),
                {answerOf(Ending::CutOff, say("it was empty: the display is wrong")), answerOf(Ending::Heat, "heat"),
                 answerOf(Ending::OverCurrent, "over-current"), answerOf(Ending::Unplugged, say("I unplugged it"))}));
            ends.ended.reset();
            ends.ending = Ending::Unknown;
        }
        return;
    }
    if (seen.ended)
        ends.ended = KnownState{seen.ended->state, StateFrom::Stamped, seen.ended->words};
    else if (const auto found = foundBy(after))
        ends.ended = found;
    else if (seen.counters && !sure)
        ends.ended = KnownState{State::empty(), StateFrom::Taken};
    if (sure)
        return;
    if (seen.counters) {
        ends.questions.push_back(
            askEnded(say("Counters do not tell how it ended. Did it run until it switched itself off?"),
                     {answerOf(Ending::CutOff, say("yes, until it was empty")),
                      answerOf(Ending::LoadStopped, say("no, it was stopped before"))}));
    } else if (seen.ending == Ending::Unknown && (!ends.ended || ends.ended->state.mayBeEmpty(State::kGaugeDoubt))) {
        ends.questions.push_back(askEnded(say("The log does not tell why it ended. What was it?"),
                                          {answerOf(Ending::CutOff, say("it switched itself off: it was empty")),
                                           answerOf(Ending::DeviceFull, say("the device was full")),
                                           answerOf(Ending::Unplugged, say("I unplugged it"))}));
    }
}

void resolveRechargeEnd(const EndsSeen& seen, const std::optional<Neighbour>& after, Ends& ends) {
    const auto& stated = seen.stated.ended;
    ends.ending = seen.stated.ending.value_or(seen.ending);
    const bool sure = (stated && stated->sure) || seen.stated.ending;
    if (stated && !stated->state)
        return;
    if (stated) {
        ends.ended = KnownState{*stated->state, StateFrom::Stated};
        if (!seen.stated.ending && ends.ended->state.isFull())
            ends.ending = Ending::Full;
    } else if (ends.ending == Ending::Full) {
        ends.ended = KnownState{State::full(), StateFrom::Trace, say("the power tapered and stayed low")};
        if (!sure && seen.ended && !seen.ended->state.mayBeFull(State::kGaugeDoubt)) {
            ends.questions.push_back(
                {"ended",
                 say("The power had tapered and stayed low, but {}. Was it full?", seen.ended->words),
                 {{endingKey(Ending::Full), say("yes: the display is wrong")},
                  {typedState(seen.ended->state), say("no, it was {}", stateWords(seen.ended->state))},
                  notKnown()}});
            ends.ended.reset();
            ends.ending = Ending::Unknown;
        }
    } else if (seen.ended) {
        ends.ended = KnownState{seen.ended->state, StateFrom::Stamped, seen.ended->words};
    } else if (const auto found = foundBy(after)) {
        ends.ended = found;
    }
    if (sure)
        return;
    if (seen.counters && !stated) {
        ends.questions.push_back(askEnded(say("Counters do not tell how it ended. Was it full?"),
                                          {answerOf(Ending::Full, say("yes, it was full")),
                                           answerOf(Ending::Unplugged, say("no, it was stopped before"))}));
    } else if (seen.ending == Ending::SourceGone && !seen.stamped && !stated) {
        ends.questions.push_back(
            askEnded(say("The power broke off from its full level after {}. What was it?",
                         showDuration(seen.brokeOffAfter.value_or(0.0))),
                     {answerOf(Ending::ChargerError, say("the charger, or its plug")),
                      answerOf(Ending::Unplugged, say("I unplugged it")), answerOf(Ending::Heat, "heat"),
                      answerOf(Ending::Full, say("it was full: it stops all at once"))}));
    }
}

} // namespace

std::string fromKey(StateFrom from) {
    static constexpr const char* kKeys[] = {"stated", "trace", "stamped", "chain", "taken"};
    return kKeys[static_cast<std::size_t>(from)];
}

void resolveDevice(const EndsSeen& seen, Ends& ends) {
    const auto known = [](const std::optional<State>& stated, const std::optional<Sign>& sign) {
        return stated ? std::optional(KnownState{*stated, StateFrom::Stated})
               : sign ? std::optional(KnownState{sign->state, StateFrom::Stamped, sign->words})
                      : std::nullopt;
    };
    ends.deviceBegan = known(seen.stated.deviceBegan, seen.deviceBegan);
    ends.deviceEnded = known(seen.stated.deviceEnded, seen.deviceEnded);
    if (!ends.deviceEnded && seen.stated.ending.value_or(seen.ending) == Ending::DeviceFull)
        ends.deviceEnded = seen.stated.ending ? KnownState{State::full(), StateFrom::Stated}
                           : seen.stamped ? KnownState{State::full(), StateFrom::Stamped, say("it was stamped full")}
                                          : KnownState{State::full(), StateFrom::Trace, say("it took less and less")};
}

Ends resolve(Kind kind, const EndsSeen& seen, const Moved& moved, const std::optional<Neighbour>& before,
             const std::optional<Neighbour>& after) {
    Ends ends;
    kind == Kind::Drain ? resolveDrainEnd(seen, after, ends) : resolveRechargeEnd(seen, after, ends);
    resolveBegan(kind == Kind::Drain, seen, moved, before, after, ends);
    resolveDevice(seen, ends);
    return ends;
}

std::string beganWords(const Ends& ends) {
    if (!ends.began)
        return say("how full it began is not known");
    return say(
        "it began {}{}", stateWords(ends.began->state),
        (ends.began->words.empty() || ends.began->from == StateFrom::Taken ? "" : " (" + ends.began->words + ")"));
}

std::string endedWords(const Ends& ends) {
    if (ends.ending == Ending::Unknown && ends.ended)
        return say("it ended {}", stateWords(ends.ended->state));
    const bool said = ends.ending == Ending::Unknown || ends.ending == Ending::LogEnds;
    std::string why = (said ? "" : "it ") + endingWords(ends.ending);
    if (ends.ending == Ending::CutOff || ends.ending == Ending::Full || !ends.ended)
        return why;
    return why + ", " + stateWords(ends.ended->state);
}

Result<StatedEnds> answered(StatedEnds stated, std::string_view key, std::string_view answer) {
    if (key == "began") {
        auto began = parseBegan(answer, "began");
        if (!began)
            return tl::unexpected(began.error());
        began->sure = true;
        stated.began = *began;
        return stated;
    }
    if (key == "ended") {
        StatedEnds said = stated;
        if (auto read = parseEnded(answer, "ended", said); !read)
            return tl::unexpected(read.error());
        if (said.ended)
            said.ended->sure = true;
        return said;
    }
    return problem("no_question", std::string(key), "there is no such question.", "Runs ask “began” and “ended”.");
}

} // namespace otterstone::kinds
