// The life of a bank: what one run leaves the next finds.
#include <algorithm>

#include "core/kinds/traced/run_entry.h"
#include "core/quantity/date.h"

namespace otterstone::kinds {

namespace {

struct Dated {
    std::size_t index = 0;
    double from = 0.0, to = 0.0;
    bool silent = false; ///< nothing is known of what it did to the charge
};

double movedBy(const Finding& f) {
    return f.recharge ? f.recharge->untilEndWattHours.value() : f.portWattHours.value();
}

// How the bank came stands before its first run. Who drained a new bank had filled it first, whatever it came with.
std::optional<Neighbour> arrival(const records::Past& past, double firstRun) {
    if (!past.cameAt)
        return std::nullopt;
    const auto came = secondsOf(past.cameOn);
    return Neighbour{{},
                     KnownState{*past.cameAt, StateFrom::Stated},
                     came ? std::max(0.0, firstRun - *came) / kSecondsADay : 0.0,
                     Kind::Drain,
                     0.0,
                     true};
}

} // namespace

void hearNeighbours(std::vector<RunEntry>& runs, const records::Past& past) {
    std::vector<Dated> dated;
    for (std::size_t k = 0; k < runs.size(); ++k) {
        if (const auto at = secondsOf(runs[k].startedAt))
            dated.push_back({k, *at, *at + runs[k].finding.durationSeconds, saysNothingOfCharge(runs[k].finding)});
    }
    std::stable_sort(dated.begin(), dated.end(), [](const Dated& a, const Dated& b) { return a.from < b.from; });
    std::vector<Ends> alone;
    alone.reserve(runs.size());
    for (const RunEntry& r : runs)
        alone.push_back(r.finding.ends);
    const auto neighbour = [&](std::size_t at, bool before) -> std::optional<Neighbour> {
        if (before && at == 0)
            return arrival(past, dated[at].from);
        if (!before && at + 1 == dated.size())
            return std::nullopt;
        const Dated& other = dated[before ? at - 1 : at + 1];
        const double rest = before ? dated[at].from - other.to : other.from - dated[at].to;
        if (other.silent || rest < 0.0)
            return std::nullopt;
        const RunEntry& r = runs[other.index];
        Neighbour n{r.title, before ? alone[other.index].ended : alone[other.index].began, rest / kSecondsADay,
                    wayOf(r.finding), movedBy(r.finding)};
        if (n.state && n.state->from == StateFrom::Taken)
            n.state.reset();
        return n;
    };
    for (std::size_t at = 0; at < dated.size(); ++at) {
        if (dated[at].silent)
            continue;
        Finding& f = runs[dated[at].index].finding;
        f = settled(std::move(f), neighbour(at, true), neighbour(at, false));
    }
}

} // namespace otterstone::kinds
