#include <algorithm>
#include <cmath>

#include "core/together/parts.h"

#include "core/quantity/say.h"

namespace otterstone::together {

using namespace kinds;

namespace {

constexpr std::size_t kSettlingRuns = 2;

Working repeatsWorking(const std::string& what, const Repeats& r, const std::vector<const RunEntry*>& of, Unit unit) {
    Working w;
    w.key = "repeats";
    w.label = say("mean of {}: {}", std::to_string(r.count), what);
    w.value = r.mean;
    w.unit = unit;
    w.formula = r.count > 1 ? "Σ ÷ " + std::to_string(r.count) + ", s = " + showNumber(r.spread, 2) + " " + symbol(unit)
                            : say("one run alone");
    w.note = r.count > 1 ? say("± for about 95 % by Student's t with {} degrees of freedom where the scatter dominates",
                               std::to_string(r.count - 1))
                         : say("one run is an anecdote: repeat it");
    if (r.drift)
        w.note += r.drift->seen()
                      ? say("; it drifts by {} {} from run to run (chance {} %): not settled",
                            showNumber(r.drift->perRun, 2), symbol(unit), showNumber(r.drift->chance * 100.0, 2))
                      : say("; no drift can be told");
    for (const RunEntry* e : of)
        w.parts.push_back(remark(e->title, e->finding->sentence));
    markDoubt(w, of);
    return w;
}

// `value` is what is compared.
template<class Take, class Value>
void addRepeats(const std::vector<RunEntry>& runs, Repeating school, const char* kind, Take take, Value value,
                std::vector<RepeatGroup>& out) {
    std::vector<bool> used(runs.size(), false);
    for (std::size_t k = 0; k < runs.size(); ++k) {
        if (used[k] || !take(runs[k]))
            continue;
        std::vector<const RunEntry*> all, kept;
        RepeatGroup g;
        for (std::size_t j = k; j < runs.size(); ++j) {
            if (used[j] || !take(runs[j]) || !alike(runs[j], runs[k]))
                continue;
            used[j] = true;
            (runs[j].settling ? g.leftOut : g.runs).push_back(runs[j].run);
            if (!runs[j].settling)
                all.push_back(&runs[j]);
        }
        if (all.size() + g.leftOut.size() < 2 || all.empty())
            continue;
        g.what = say("{} at {} W{}", sayAsItStands(kind), showNumber(repeatedAt(runs[k].finding), 2),
                     (runs[k].conditions.empty() ? "" : ", " + records::showConditions(runs[k].conditions)));
        std::vector<Working> schools;
        const auto as = [&](const char* key, const std::vector<const RunEntry*>& of) {
            if (of.empty())
                return;
            std::vector<Measured> values;
            std::string ids;
            for (const RunEntry* e : of) {
                values.push_back(value(*e));
                ids += std::to_string(e->run) + " ";
            }
            const Repeats r = repeats(values, ErrorSource::scatterOf(ids));
            if (schools.empty() || answerOf(Schools{.repeating = school}, "repeats") == key) {
                g.repeats = r;
                kept = of;
            }
            schools.push_back(repeatsWorking(g.what, r, of, Unit::WattHour));
            schools.back().school = key;
        };
        as("mean", all);
        as("once", {all.front()});
        if (all.size() + g.leftOut.size() > kSettlingRuns)
            as("settled",
               {all.begin() + static_cast<std::ptrdiff_t>(
                                  std::min(all.size() - 1, kSettlingRuns - std::min(kSettlingRuns, g.leftOut.size()))),
                all.end()});
        g.working = ledBy("repeats", answerOf(Schools{.repeating = school}, "repeats"), std::move(schools));
        g.sentence = say("{} in {}{} ({}){}.", g.working.shown(), std::to_string(g.repeats.count),
                         (g.repeats.count == 1 ? say(" run") : say(" runs")), g.what,
                         (g.leftOut.empty() ? "" : say(", {} settling left out", std::to_string(g.leftOut.size()))));
        out.push_back(std::move(g));
    }
}

} // namespace

std::vector<RepeatGroup> repeatGroupsOf(const std::vector<RunEntry>& runs, setup::Repeating school) {
    std::vector<RepeatGroup> groups;
    addRepeats(
        runs, school, "drain", wholeDrain, [](const RunEntry& r) { return r.finding->portWattHours; }, groups);
    addRepeats(
        runs, school, "recharge", wholeRecharge,
        [](const RunEntry& r) { return r.finding->recharge->untilEndWattHours; }, groups);
    return groups;
}

} // namespace otterstone::together
