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

// The runs with a date, in its order.
std::vector<Dated> datedOf(const std::vector<RunEntry>& runs) {
    std::vector<Dated> dated;
    for (std::size_t k = 0; k < runs.size(); ++k) {
        if (const auto at = secondsOf(runs[k].startedAt))
            dated.push_back({k, *at, *at + runs[k].finding->durationSeconds, saysNothingOfCharge(runs[k].finding)});
    }
    std::stable_sort(dated.begin(), dated.end(), [](const Dated& a, const Dated& b) { return a.from < b.from; });
    return dated;
}

HeldFinding heard(const std::vector<RunEntry>& runs, const std::vector<Dated>& dated, std::size_t at,
                  const records::Past& past) {
    const auto neighbour = [&](bool before) -> std::optional<Neighbour> {
        if (before && at == 0)
            return arrival(past, dated[at].from);
        if (!before && at + 1 == dated.size())
            return std::nullopt;
        const Dated& other = dated[before ? at - 1 : at + 1];
        const double rest = before ? dated[at].from - other.to : other.from - dated[at].to;
        if (other.silent || rest < 0.0)
            return std::nullopt;
        const RunEntry& r = runs[other.index];
        Neighbour n{r.title, before ? r.finding->ends.ended : r.finding->ends.began, rest / kSecondsADay,
                    wayOf(r.finding), movedBy(r.finding)};
        if (n.state && n.state->from == StateFrom::Taken)
            n.state.reset();
        return n;
    };
    const HeldFinding& own = runs[dated[at].index].finding;
    return dated[at].silent ? own : HeldFinding(settled(*own, neighbour(true), neighbour(false)));
}

} // namespace

HeldFinding heardAmong(const std::vector<RunEntry>& runs, std::size_t run, const records::Past& past) {
    const std::vector<Dated> dated = datedOf(runs);
    const auto at = std::find_if(dated.begin(), dated.end(), [&](const Dated& d) { return d.index == run; });
    return at == dated.end() ? runs[run].finding
                             : heard(runs, dated, static_cast<std::size_t>(at - dated.begin()), past);
}

void hearNeighbours(std::vector<RunEntry>& runs, const records::Past& past) {
    const std::vector<Dated> dated = datedOf(runs);
    std::vector<HeldFinding> all;
    for (std::size_t at = 0; at < dated.size(); ++at)
        all.push_back(heard(runs, dated, at, past));
    for (std::size_t at = 0; at < dated.size(); ++at)
        runs[dated[at].index].finding = all[at];
}

} // namespace otterstone::kinds
