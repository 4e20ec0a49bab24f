#include "core/life/life.h"

#include <algorithm>
#include <cmath>

#include "core/kinds/figure_keys.h"
#include "core/life/lines.h"
#include "core/quantity/date.h"
#include "core/quantity/say.h"

namespace otterstone::life {

using kinds::KnownState;
using kinds::RunEntry;
using kinds::StateFrom;
using records::Kind;
using records::State;

namespace {

constexpr double kLeastRest = 14.0;     // days
constexpr double kLostAMonthAtMost = 5; // points: more, and the line breaks
constexpr double kSameDay = 1.0;        // days: a state that is found so soon is the one that was left

// How far off a state may be, in points.
double doubtOf(const KnownState& s) {
    const double gauge = s.byGauge() ? State::kGaugeDoubt : s.from == StateFrom::Trace ? 0.0 : 100.0 - State::kFull;
    return (s.state.high - s.state.low) / 2.0 + gauge;
}

bool said(const std::optional<KnownState>& s) { return s && s->from != StateFrom::Taken; }

bool goesThrough(const Passage& before, const Passage& after) {
    if (!said(before.ended) || !after.began || !after.restDays)
        return false;
    if (after.began->from == StateFrom::Chain)
        return true;
    if (*after.restDays >= kLeastRest && after.began->from == StateFrom::Stated && after.began->state.isFull())
        return false; // it was filled up again
    const double fell = before.ended->state.middle() - after.began->state.middle();
    const double may = doubtOf(*before.ended) + doubtOf(*after.began);
    return after.began->from != StateFrom::Taken && fell >= -may &&
           fell <= may + kLostAMonthAtMost * std::max(kSameDay, *after.restDays) / kDaysAMonth;
}

Passage passageOf(const RunEntry& r) {
    Passage p;
    p.run = r.run;
    p.title = r.title;
    p.kind = r.finding->kind;
    p.startedAt = r.startedAt;
    if (const auto at = secondsOf(r.startedAt)) {
        p.from = at;
        p.to = *at + r.finding->durationSeconds;
    }
    p.silent = kinds::saysNothingOfCharge(r.finding);
    p.fills = kinds::wayOf(r.finding) == Kind::Recharge;
    if (p.silent)
        return p;
    p.began = r.finding->ends.began;
    p.ended = r.finding->ends.ended;
    p.ending = r.finding->ends.ending;
    p.asks = r.finding->ends.questions.size();
    p.wattHours = r.finding->recharge ? r.finding->recharge->untilEndWattHours : r.finding->portWattHours;
    if (const Working* energy = figure(r.finding, key::energyAtPortWh))
        p.partialDoubt = energy->partialDoubt;
    return p;
}

std::vector<Passage> inOrder(const std::vector<RunEntry>& runs) {
    std::vector<Passage> all;
    for (const RunEntry& r : runs) {
        all.push_back(passageOf(r));
        all.back().entry = all.size() - 1;
    }
    const auto undated =
        std::stable_partition(all.begin(), all.end(), [](const Passage& p) { return p.from.has_value(); });
    std::stable_sort(all.begin(), undated, [](const Passage& a, const Passage& b) { return *a.from < *b.from; });
    for (std::size_t k = 1; k < all.size(); ++k) {
        if (!all[k].from)
            break;
        const double rest = (*all[k].from - *all[k - 1].to) / kSecondsADay;
        if (rest < 0.0)
            continue; // one of the dates is wrong, or two ran at once
        all[k].restDays = rest;
        all[k].joined = goesThrough(all[k - 1], all[k]);
    }
    return all;
}

} // namespace

std::optional<Measured> lostInRest(const KnownState& before, const KnownState& after, double restDays) {
    const auto read = [](const KnownState& s) { return s.from != StateFrom::Taken && s.from != StateFrom::Chain; };
    // Said to begin full or empty, it was made so: that is no reading of what the rest left.
    const bool made = after.from == StateFrom::Stated && (after.state.isFull() || after.state.isEmpty());
    if (!read(before) || !read(after) || made || restDays < kLeastRest)
        return std::nullopt;
    const auto share = [](const KnownState& s, const char* what) {
        return Measured(s.state.middle() / 100.0, rectangular(doubtOf(s) / 100.0), ErrorSource::ofBank("", what));
    };
    const Measured lost = share(before, "charge read before the rest") - share(after, "charge read after the rest");
    return lost.value() > 0.0 ? std::optional(lost) : std::nullopt;
}

Life lifeOf(const std::vector<RunEntry>& runs, const records::Past& past, const std::optional<double>& rated) {
    Life life;
    life.passages = inOrder(runs);
    life.past = past;
    tellArrival(life);
    tellRests(life);
    tellCounts(life);
    tellDisplay(life, runs);
    tellFading(life, runs, rated);
    return life;
}

} // namespace otterstone::life
