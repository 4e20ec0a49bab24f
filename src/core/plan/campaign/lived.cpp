#include "core/plan/campaign/lived.h"

#include <algorithm>
#include <cmath>
#include <numeric>

#include "core/quantity/date.h"
#include "core/quantity/format.h"
#include "core/quantity/say.h"

namespace otterstone::plan::campaign {

namespace {

constexpr double kPatience = 600.0; // s
constexpr double kSameWatts = 0.1;

std::string lateWords(double seconds) { return showDuration(std::round(seconds / 60.0) * 60.0); }
bool onlyAsNeeded(const JobKey& key) { return key.variant == kAsNeeded; }

} // namespace

std::vector<Lived> livedThrough(const Kept& kept, std::span<const RunSeen> runs, double now) {
    std::vector<const RunSeen*> left;
    for (const RunSeen& run : runs)
        left.push_back(&run);
    std::sort(left.begin(), left.end(), [](const RunSeen* a, const RunSeen* b) { return a->from < b->from; });
    std::vector<Lived> all(kept.jobs.size());
    std::vector<std::size_t> order(kept.jobs.size());
    std::iota(order.begin(), order.end(), std::size_t(0));
    const auto begins = [&](std::size_t k) { return secondsOf(kept.jobs[k].from).value_or(now); };
    std::stable_sort(order.begin(), order.end(), [&](auto a, auto b) { return begins(a) < begins(b); });
    const auto take = [&](std::size_t k, bool byRecipe) {
        const JobKey& key = kept.jobs[k].job;
        const std::string& planned = kept.jobs[k].since.empty() ? kept.at : kept.jobs[k].since;
        const double since = secondsOf(planned).value_or(now);
        const auto at = std::find_if(left.begin(), left.end(), [&](const RunSeen* run) {
            const bool known = !run->recipe.empty() && !key.recipe.empty();
            const std::optional<double>& watts = kept.jobs[k].watts;
            const bool otherLoad =
                watts && run->watts && std::fabs(*run->watts - *watts) > kSameWatts * *watts; // of one recipe
            return run->from >= since && run->bank == key.bank && !otherLoad &&
                   (run->kind == key.kind || (run->notebook && key.kind == records::Kind::Notebook)) &&
                   (byRecipe ? known && run->recipe == key.recipe : !known);
        });
        if (all[k].run || at == left.end())
            return;
        all[k].run = **at;
        left.erase(at);
    };
    for (const bool byRecipe : {true, false}) {
        for (const std::size_t k : order)
            take(k, byRecipe);
    }
    for (std::size_t k = 0; k < all.size(); ++k) {
        all[k].job = k;
        all[k].late = (all[k].run ? all[k].run->from : now) - begins(k);
        all[k].due = !all[k].run && !onlyAsNeeded(kept.jobs[k].job) && all[k].late > kPatience;
    }
    return all;
}

std::string livedSentence(const Kept& kept, std::span<const Lived> lived) {
    if (kept.at.empty() || lived.empty())
        return {};
    std::size_t done = 0, wanted = 0, due = 0;
    const Lived *latest = nullptr, *last = nullptr;
    for (const Lived& l : lived) {
        if (onlyAsNeeded(kept.jobs[l.job].job))
            continue;
        ++wanted;
        done += l.run ? 1 : 0;
        due += l.due ? 1 : 0;
        if (l.due && (!latest || l.late > latest->late))
            latest = &l;
        if (l.run && (!last || l.run->from > last->run->from))
            last = &l;
    }
    if (wanted == 0)
        return {};
    std::string words =
        wanted == 1 && done == 1 ? say("The one job agreed on is done.")
        : wanted == 1            ? say("The one job agreed on is not done yet.")
        : done == 1              ? say("1 of the {} jobs agreed on is done.", std::to_string(wanted))
                    : say("{} of the {} jobs agreed on are done.", std::to_string(done), std::to_string(wanted));
    if (last && std::fabs(last->late) > kPatience)
        words = say("{} “{}” began {}{}", words, kept.jobs[last->job].words, lateWords(std::fabs(last->late)),
                    (last->late > 0.0 ? say(" late.") : say(" early.")));
    if (latest)
        words = say("{} “{}” is {} late{}", words, kept.jobs[latest->job].words, lateWords(latest->late),
                    (due == 1 ? "." : say(", and {} more.", std::to_string(due - 1))));
    return words;
}

} // namespace otterstone::plan::campaign
