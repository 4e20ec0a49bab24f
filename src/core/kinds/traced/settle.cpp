// A finding and its ends: what they allow is given, the rest withheld with the reason.
#include <algorithm>
#include <cmath>

#include "core/kinds/figure_keys.h"
#include "core/kinds/needs.h"
#include "core/kinds/parts.h"
#include "core/kinds/traced/context.h"
#include "core/quantity/say.h"

namespace otterstone::kinds {

namespace {

constexpr double kLeastUsed = 5.0; // points: less says nothing of the whole
// Warnings that are made here.
constexpr const char* kSettled[] = {"need_not_met", "taken", "log_ends_under_load", "stopped_by_heat"};
constexpr const char* kProjected = key::projectedWh;
constexpr const char* kTimeFrom = key::timeFrom;

// As it was before it was settled.
void restore(Finding& f) {
    std::erase_if(f.figures, [](const Working& w) { return w.key == kProjected || w.key == kTimeFrom; });
    std::erase_if(f.warnings, [](const Warning& w) {
        return std::find(std::begin(kSettled), std::end(kSettled), w.code) != std::end(kSettled);
    });
    for (Withheld& w : f.withheld)
        f.figures.insert(f.figures.begin() + static_cast<std::ptrdiff_t>(std::min(w.place, f.figures.size())),
                         std::move(w.figure));
    f.withheld.clear();
}

void withhold(Finding& f) {
    std::vector<std::pair<std::string, std::string>> told; // why, what
    for (std::size_t k = 0, place = 0; k < f.figures.size(); ++place) {
        const std::string key = f.figures[k].key;
        if (answers(f.kind, f.ends, key)) {
            ++k;
            continue;
        }
        for (const FigureNeed& n : figureNeeds()) {
            if (n.kind != f.kind || n.figure != key)
                continue;
            const std::string why = whyNot(f.kind, f.ends, key);
            const auto at = std::find_if(told.begin(), told.end(), [&](const auto& t) { return t.first == why; });
            if (at == told.end())
                told.emplace_back(why, sayAsItStands(n.words));
            else
                at->second += ", " + sayAsItStands(n.words);
        }
        f.withheld.push_back({place, std::move(f.figures[k])});
        f.figures.erase(f.figures.begin() + static_cast<std::ptrdiff_t>(k));
    }
    for (const auto& [why, what] : told)
        f.warnings.push_back({"need_not_met", say("Not given: {}, as {}.", what, why)});
}

std::optional<Measured> valueOf(const Finding& f, std::string_view key) {
    const Working* w = figure(f, key);
    return w && !w->isText ? std::optional(w->value) : std::nullopt;
}

// A state in points, with the doubt of who read it.
Measured points(const Finding& f, const KnownState& s, const char* end) {
    const ErrorSource display = ErrorSource::ofRun(f.seen.run, std::string("the display's own error at the ") + end);
    Measured m(s.state.middle());
    if (s.state.high > s.state.low)
        m = m.with(display, rectangular((s.state.high - s.state.low) / 2.0));
    if (s.byGauge())
        m = m.with(display, rectangular(State::kGaugeDoubt));
    return m;
}

// D7: an estimate for a full drain, of one that was none.
void project(Finding& f) {
    DrainFinding& d = *f.drain;
    d.projectedWattHours.reset();
    if (answers(f.kind, f.ends, key::deliveredShare) || !answers(f.kind, f.ends, kProjected))
        return;
    const Measured used = points(f, *f.ends.began, "beginning") - points(f, *f.ends.ended, "end");
    if (f.figures.empty() || used.value() < kLeastUsed || !(used.value() > 2.0 * used.u()))
        return;
    Working w;
    w.key = kProjected;
    w.label = say("estimate for a full drain");
    w.value = f.portWattHours / (used * Measured(0.01));
    w.unit = Unit::WattHour;
    w.point = say("bank out");
    w.formula = showValue(f.portWattHours, Unit::WattHour) + " ÷ " + showNumber(used.value(), 3) + " %";
    w.note = say("an estimate, no finding: {}{}, and {}; a display is trusted to ± {} points", beganWords(f.ends),
                 (f.ends.began->from == StateFrom::Taken ? say(", as is taken") : ""), endedWords(f.ends),
                 showNumber(State::kGaugeDoubt));
    if (const Working* port = figure(f, key::energyAtPortWh)) {
        w.parts = {*port};
        // Where the display's doubt is most of it, the meter's changes nothing.
        w.partialDoubt = port->partialDoubt && !mostlyKnown(w.value);
    }
    d.projectedWattHours = w.value;
    f.figures.insert(f.figures.begin() + 1, std::move(w));
}

// From where it began, not compared with any claim.
void timeFrom(Finding& f) {
    if (answers(f.kind, f.ends, key::timeTo100) || !answers(f.kind, f.ends, kTimeFrom))
        return;
    const auto at = std::find_if(f.withheld.begin(), f.withheld.end(),
                                 [](const Withheld& w) { return w.figure.key == key::timeTo100; });
    if (at == f.withheld.end() || f.figures.empty())
        return;
    Working w = at->figure;
    w.key = kTimeFrom;
    w.label = say("from {} to full", typedState(f.ends.began->state));
    w.note = say("{}: not to be held against a claim", beganWords(f.ends));
    w.question.clear();
    w.others.clear();
    w.school.clear();
    f.figures.insert(f.figures.begin() + 1, std::move(w));
}

// "from 92 % until it was unplugged, with 45 % left"; `after` so long
std::string course(const Finding& f, const std::string& after = {}) {
    const Ends& e = f.ends;
    std::string s = !e.began                            ? say("from a state not known")
                    : e.began->from == StateFrom::Taken ? ""
                                                        : say("from {}", typedState(e.began->state));
    const char* until = nullptr;
    switch (e.ending) {
    case Ending::CutOff: until = "until it shut off"; break;
    case Ending::DeviceFull: until = "until the device was full"; break;
    case Ending::LoadStopped: until = "until the load stopped"; break;
    case Ending::Heat: until = "until heat stopped it"; break;
    case Ending::OverCurrent: until = "until over-current protection stopped it"; break;
    case Ending::ChargerError: until = "until the charger failed"; break;
    case Ending::SourceGone: until = "until the power broke off"; break;
    case Ending::Full: until = "until it was full"; break;
    case Ending::Unplugged: until = "until it was unplugged"; break;
    case Ending::LogEnds: until = "until the record ended"; break;
    case Ending::Unknown: break;
    }
    if (until)
        s += (s.empty() ? "" : " ") + sayAsItStands(until) + (after.empty() ? "" : say(" after {}", after));
    if (e.ended && !e.ended->state.isEmpty() && !e.ended->state.isFull()) {
        const std::string state = typedState(e.ended->state);
        s += (s.empty() ? "" : ", ") +
             (f.kind == Kind::Drain ? say("with {} left", state) : say("with {} in it", state));
    }
    return s;
}

std::string drainSentence(const Finding& f) {
    const SaidOfRun& said = f.said;
    const bool whole = figure(f, key::deliveredShare) != nullptr;
    std::string s = answers(f, key::capacity) ? said.amount : said.amountInWh;
    if (whole) {
        const bool began = f.ends.began->from == StateFrom::Taken, ended = f.ends.ended->from == StateFrom::Taken;
        s = began && ended ? say("{}: {}, if it began full and ran until it was empty", s, said.share)
            : began        ? say("{}: {}, if it began full", s, said.share)
                           : say("{}: {}", s, said.share);
    }
    const bool tripped = f.ends.ending == Ending::Heat || f.ends.ending == Ending::OverCurrent;
    if (!said.time.empty() && !(tripped && !whole))
        s = say("{}, in {}", s, said.time);
    if (!answers(f, key::deliveredShare)) {
        if (const std::string way = course(f, tripped ? said.time : std::string()); !way.empty())
            s += ", " + way;
    }
    return s + "." + said.restsOn;
}

std::string rechargeSentence(const Finding& f) {
    const SaidOfRun& said = f.said;
    std::string s = said.amount;
    if (f.seen.counters)
        return s + (said.time.empty() ? "" : say(", in {}", said.time)) + "." + said.restsOn;
    if (answers(f, key::timeTo100)) {
        s = said.timeTo80.empty()
                ? say("{}; the bank was full after {}", s, said.time)
                : say("{}; 80 % was in after {}, and it was full after {}", s, said.timeTo80, said.time);
        if (f.ends.began->from == StateFrom::Taken)
            s = say("{}, if it began empty", s);
    } else if (f.ends.endedFull() && f.ends.ending == Ending::Full) {
        s = say("{}; from {} it was full after {}", s,
                (f.ends.began ? typedState(f.ends.began->state) : say("a state not known")), said.time);
    } else if (!said.time.empty()) {
        const bool until = f.ends.ending != Ending::Unknown;
        const std::string way = course(f, until ? said.time : std::string());
        s = say("{}{}{}; the end of charge was not seen", s, (way.empty() ? "" : ", " + way),
                (until ? "" : say(", in {}", said.time)));
    }
    return s + "." + said.restsOn;
}

// What the end means for what was found.
void sayWhatEndedIt(Finding& f) {
    if (f.drain && f.ends.ending == Ending::LogEnds)
        f.warnings.push_back(
            {"log_ends_under_load", say("The record ends while current flows, so the bank may hold more.")});
    if (f.drain && f.ends.ending == Ending::Heat)
        f.warnings.push_back(
            {"stopped_by_heat", say("Heat stopped the run: what was delivered counts, the rest is unknown.")});
}

void sayWhatIsTaken(Finding& f) {
    const auto taken = [](const std::optional<KnownState>& s) { return s && s->from == StateFrom::Taken; };
    if (taken(f.ends.began))
        f.warnings.push_back(
            {"taken", say("Taken as begun {}, as nobody said otherwise.", stateWords(f.ends.began->state))});
}

} // namespace

bool answers(const Finding& f, std::string_view figure) { return answers(f.kind, f.ends, figure); }

Finding settled(Finding f, const std::optional<Neighbour>& before, const std::optional<Neighbour>& after) {
    if (!f.drain && !f.recharge)
        return f;
    restore(f);
    const Measured& moved = f.recharge ? f.recharge->untilEndWattHours : f.portWattHours;
    f.ends = resolve(f.kind, f.seen, {moved.value(), moved.u(), f.ratedWattHours}, before, after);
    withhold(f);
    if (f.drain) {
        f.drain->deliveredShare = valueOf(f, key::deliveredShare);
        project(f);
    } else {
        RechargeFinding& r = *f.recharge;
        r.timeTo50 = valueOf(f, key::timeTo50);
        r.timeTo80 = valueOf(f, key::timeTo80);
        r.timeTo100 = valueOf(f, key::timeTo100);
        const Working* claim = figure(f, key::againstClaim);
        r.claimTested = claim && !claim->isText;
        r.againstClaim = r.claimTested ? std::optional(claim->value.value()) : std::nullopt;
        timeFrom(f);
    }
    sayWhatEndedIt(f);
    sayWhatIsTaken(f);
    f.sentence = f.drain ? drainSentence(f) : rechargeSentence(f);
    return f;
}

} // namespace otterstone::kinds
