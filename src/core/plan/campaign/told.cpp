#include "core/plan/campaign/told.h"

#include <algorithm>
#include <cmath>

#include <nlohmann/json.hpp>

#include "core/plan/campaign/calendar.h"
#include "core/quantity/format.h"
#include "core/quantity/say.h"

namespace otterstone::plan::campaign {

namespace {

using nlohmann::json;

std::string count(std::size_t n, const char* one, const char* many) {
    return std::to_string(n) + " " + (n == 1 ? one : many);
}
std::string percent(double share) { return showNumber(std::round(share * 100.0), 3) + " %"; }
// Of lives that were tried: never all, never none.
std::string chance(double share) {
    return share > 0.99 ? say("more than 99 %") : share < 0.01 ? say("less than 1 %") : percent(share);
}

bool same(double a, double b) { return std::fabs(a - b) <= 10.0 * kSameMoment; }

} // namespace

Told tell(const Problem& problem, Answer answer) {
    Told told{std::move(answer), {}, {}, {}};
    told.sure = howSure(problem, told.answer.schedule);
    told.scarce = scarceOf(problem, told.answer.schedule);
    return told;
}

std::string stateTold(const State& s) { return s == State() ? "unknown" : records::typedState(s); }

std::string whyThen(const Problem& p, const Schedule& s, const Placed& placed) {
    const Job& j = p.jobs[placed.job];
    if (j.pin && same(*j.pin, placed.from))
        return say("it is pinned there");
    if (same(placed.from, 0.0))
        return {};
    for (const Placed& other : s.placed) {
        if (&other == &placed)
            continue;
        const Job& o = p.jobs[other.job];
        if (std::find(j.after.begin(), j.after.end(), other.job) != j.after.end() && same(other.to, placed.from))
            return say("when “{}” has ended", o.id);
        if (j.bank && o.bank == j.bank && same(other.to + o.rest, placed.from))
            return say("when {}{}", p.banks[*j.bank].id, (o.rest > 0.0 ? say(" has rested") : say(" is free")));
    }
    for (const Placed& other : s.placed) {
        if (&other == &placed || !same(other.to, placed.from))
            continue;
        for (std::size_t n = 0; n < placed.pieces.size(); ++n) {
            for (std::size_t m = 0; m < other.pieces.size(); ++m) {
                if (placed.pieces[n] == other.pieces[m] && placed.unit[n] == other.unit[m])
                    return say("when {} is free", p.pieces[placed.pieces[n]].id);
            }
        }
    }
    for (const auto& [one, other] : p.apart) {
        const double days = (placed.from - p.midnight) / kDay;
        if ((one == placed.job || other == placed.job) && same(days, std::round(days)))
            return say("on another day than “{}”", p.jobs[one == placed.job ? other : one].id);
    }
    return p.hours           ? say("when somebody is there and free for it")
           : j.hands.empty() ? ""
                             : say("when somebody has a hand free");
}

std::vector<std::string> cautionsOf(const Problem& p, const Schedule& s) {
    std::size_t alone = 0;
    for (const Placed& placed : s.placed) {
        const Job& j = p.jobs[placed.job];
        alone += j.bank && j.unattended.value_or(p.unattended) != Unattended::Never ? 1 : 0;
    }
    if (alone == 0)
        return {};
    return {say(
        "{} on while nobody may be there. Lithium cells can burn: only on a surface that does not, with an automatic stop that was tried, a smoke alarm in hearing, and where local rules allow it.",
        count(alone, "job goes", "jobs go"))};
}

std::string sentenceOf(const Problem& p, const Told& t) {
    const Schedule& s = t.answer.schedule;
    std::size_t wanted = 0, asNeeded = 0;
    for (const Placed& placed : s.placed)
        (p.jobs[placed.job].asNeeded ? asNeeded : wanted) += 1;
    if (wanted == 0)
        return s.leftOut.empty() ? say("There is nothing to do.") : say("Nothing of it fits.");
    const double gap = t.answer.bounds.makespan > 0.0 ? s.makespan / t.answer.bounds.makespan - 1.0 : 0.0;
    std::string words = s.leftOut.empty()
                            ? (wanted == 1 ? say("The one job") : say("All {} jobs", std::to_string(wanted)))
                            : say("{} of {}", std::to_string(wanted), count(wanted + s.leftOut.size(), "job", "jobs"));
    if (asNeeded > 0)
        words = say("{}, with {}", words,
                    count(asNeeded, "more to bring banks into the state they need,",
                          "more to bring banks into the states they need,"));
    words = wanted == 1 ? say("{} takes {}", words, showDuration(s.makespan))
                        : say("{} take {}", words, showDuration(s.makespan));
    if (t.answer.optimal)
        words += s.leftOut.empty() ? say("; nothing ends earlier")
                                   : say("; nothing worth more fits, and nothing as good ends earlier");
    else if (s.leftOut.empty() && t.answer.bounds.makespan > 0.0 && std::isfinite(t.answer.bounds.makespan))
        words = say("{}; no plan can take less than {} (this one is {} above that)", words,
                    showDuration(t.answer.bounds.makespan), percent(gap));
    words += ".";
    const bool doubtful = std::any_of(s.placed.begin(), s.placed.end(),
                                      [&](const Placed& placed) { return p.jobs[placed.job].spread > 0.0; });
    if (doubtful)
        words = say("{} Half of the times it ends within {}, nine times in ten within {}.", words,
                    showDuration(t.sure.half), showDuration(t.sure.nearly));
    if (doubtful && t.sure.ofWindow)
        words = say("{} The window is met with a chance of {}.", words, chance(*t.sure.ofWindow));
    return words;
}

json toldJson(const Problem& p, const Told& t) {
    const Schedule& s = t.answer.schedule;
    const auto bankOf = [&](std::size_t job) {
        return p.jobs[job].bank ? json(p.banks[*p.jobs[job].bank].id) : json(nullptr);
    };
    const auto finite = [](double v) { return std::isfinite(v) ? json(v) : json(nullptr); };
    json jobs = json::array(), out = json::array(), scarce = json::array(), more = json::array();
    for (const Placed& placed : s.placed) {
        const Job& j = p.jobs[placed.job];
        json gear = json::array(), hands = json::array();
        for (const std::size_t piece : placed.pieces)
            gear.push_back(p.pieces[piece].id);
        for (const Hands& h : j.hands) {
            const Span at = h.within(j.seconds);
            hands.push_back({{"from", placed.from + at.from}, {"to", placed.from + at.to}, {"what", h.what}});
        }
        const Span& ends = t.sure.ends[static_cast<std::size_t>(&placed - s.placed.data())];
        jobs.push_back({{"id", j.id},
                        {"bank", bankOf(placed.job)},
                        {"kind", j.kind},
                        {"starts", placed.from},
                        {"ends", placed.to},
                        {"ends_between", {ends.from, ends.to}},
                        {"begin_state", j.bank ? json(stateTold(placed.begin)) : json(nullptr)},
                        {"end_state", j.bank ? json(stateTold(placed.end)) : json(nullptr)},
                        {"gear", std::move(gear)},
                        {"hands", std::move(hands)},
                        {"value", j.asNeeded ? 0.0 : j.value},
                        {"as_needed", j.asNeeded},
                        {"fixed", j.pin.has_value()},
                        {"why", whyThen(p, s, placed)}});
    }
    for (const LeftOut& l : s.leftOut)
        out.push_back({{"id", p.jobs[l.job].id},
                       {"bank", bankOf(l.job)},
                       {"kind", p.jobs[l.job].kind},
                       {"value", p.jobs[l.job].value},
                       {"why", whyLeftOut(p, l)}});
    for (const Busy& b : t.scarce)
        scarce.push_back({{"piece", b.piece.empty() ? "people" : b.piece}, {"busy_share", b.share}});
    for (const OneMore& o : t.oneMore)
        more.push_back({{"piece", o.piece}, {"more", o.more}, {"saves_s", o.saves}, {"gains_value", o.gains}});
    return {{"sentence", sentenceOf(p, t)},
            {"jobs", std::move(jobs)},
            {"left_out", std::move(out)},
            {"makespan_s", s.makespan},
            {"lower_bound_s", finite(t.answer.bounds.makespan)},
            {"optimal", t.answer.optimal},
            {"value", s.value},
            {"value_bound", t.answer.bounds.value},
            {"chance_by", {{"0.5", t.sure.half}, {"0.9", t.sure.nearly}}},
            {"chance_of_window", t.sure.ofWindow ? json(*t.sure.ofWindow) : json(nullptr)},
            {"scarce", std::move(scarce)},
            {"one_more", std::move(more)},
            {"warnings", cautionsOf(p, s)}};
}

} // namespace otterstone::plan::campaign
