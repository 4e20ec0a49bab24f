#include "core/plan/campaign/tide.h"

#include <algorithm>

namespace otterstone::plan::campaign {

std::vector<std::vector<Stretch>> tideOf(const Problem& p, const Schedule& s, double to) {
    using What = Stretch::What;
    std::vector<std::vector<Stretch>> lanes(p.banks.size());
    struct Now {
        double at = 0.0;
        State state;
    };
    std::vector<Now> now;
    for (const Bank& bank : p.banks)
        now.push_back({0.0, bank.now});
    const auto add = [&](std::size_t bank, What what, double until, const State& state,
                         std::optional<std::size_t> placed = {}) {
        if (until > now[bank].at)
            lanes[bank].push_back({what, now[bank].at, until, now[bank].state, state, placed});
        now[bank] = {std::max(until, now[bank].at), state};
    };
    std::vector<std::size_t> order(s.placed.size());
    for (std::size_t k = 0; k < order.size(); ++k)
        order[k] = k;
    std::stable_sort(order.begin(), order.end(), [&](auto a, auto b) { return s.placed[a].from < s.placed[b].from; });
    for (const std::size_t k : order) {
        const Placed& placed = s.placed[k];
        const Job& job = p.jobs[placed.job];
        if (!job.bank)
            continue;
        const std::size_t bank = *job.bank;
        add(bank, What::Waits, placed.from, now[bank].state);
        now[bank].state = placed.begin;
        const double rises = placed.end.middle() - placed.begin.middle();
        add(bank, rises > 0.0 ? What::Fills : rises < 0.0 ? What::Drains : What::Stays, placed.to, placed.end, k);
        if (job.rest > 0.0)
            add(bank, What::Rests, std::min(placed.to + job.rest, to), placed.end);
    }
    for (std::size_t bank = 0; bank < lanes.size(); ++bank)
        add(bank, What::Waits, to, now[bank].state);
    return lanes;
}

std::vector<Span> absences(const Problem& p, double to) {
    std::vector<Span> all;
    if (!p.hours)
        return all;
    double at = 0.0;
    for (const Presence& there : *p.hours) {
        if (there.people <= 0 || there.span.to <= at)
            continue;
        if (there.span.from > at)
            all.push_back({at, std::min(there.span.from, to)});
        at = there.span.to;
        if (at >= to)
            return all;
    }
    if (at < to)
        all.push_back({at, to});
    return all;
}

} // namespace otterstone::plan::campaign
