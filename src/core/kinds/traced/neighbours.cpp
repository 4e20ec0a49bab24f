// The life of a bank: what one run leaves the next finds.
#include <algorithm>
#include <chrono>
#include <cstdio>

#include "core/kinds/traced/run_entry.h"

namespace otterstone::kinds {

namespace {

constexpr double kDay = 86400.0;

// Seconds of "2026-04-02T09:10:00", with or without a zone, on a clock that all runs of a tester share.
std::optional<double> secondsOf(const std::string& iso) {
    int year = 0, month = 0, day = 0, hour = 0, minute = 0, used = 0;
    double second = 0.0;
    if (std::sscanf(iso.c_str(), "%d-%d-%dT%d:%d%n", &year, &month, &day, &hour, &minute, &used) != 5)
        return std::nullopt;
    int more = 0;
    if (std::sscanf(iso.c_str() + used, ":%lf%n", &second, &more) == 1)
        used += more;
    const std::chrono::year_month_day date{std::chrono::year(year), std::chrono::month(static_cast<unsigned>(month)),
                                           std::chrono::day(static_cast<unsigned>(day))};
    if (!date.ok())
        return std::nullopt;
    int aheadHours = 0, aheadMinutes = 0;
    if (std::sscanf(iso.c_str() + used, "%d:%d", &aheadHours, &aheadMinutes) >= 1)
        second -= aheadHours * 3600.0 + (aheadHours < 0 ? -aheadMinutes : aheadMinutes) * 60.0;
    return static_cast<double>(std::chrono::sys_days(date).time_since_epoch().count()) * kDay + hour * 3600.0 +
           minute * 60.0 + second;
}

struct Dated {
    std::size_t index = 0;
    double from = 0.0, to = 0.0;
    bool sheet = false;
};

double movedBy(const Finding& f) {
    return f.recharge ? f.recharge->untilEndWattHours.value() : f.portWattHours.value();
}

} // namespace

void hearNeighbours(std::vector<RunEntry>& runs) {
    std::vector<Dated> dated;
    for (std::size_t k = 0; k < runs.size(); ++k) {
        if (const auto at = secondsOf(runs[k].startedAt))
            dated.push_back({k, *at, *at + runs[k].finding.durationSeconds, hasSheet(runs[k].finding.kind)});
    }
    std::stable_sort(dated.begin(), dated.end(), [](const Dated& a, const Dated& b) { return a.from < b.from; });
    std::vector<Ends> alone;
    for (const RunEntry& r : runs)
        alone.push_back(r.finding.ends);
    const auto neighbour = [&](std::size_t at, bool before) -> std::optional<Neighbour> {
        if (before ? at == 0 : at + 1 == dated.size())
            return std::nullopt;
        const Dated& other = dated[before ? at - 1 : at + 1];
        const double rest = before ? dated[at].from - other.to : other.from - dated[at].to;
        if (other.sheet || rest < 0.0)
            return std::nullopt;
        const RunEntry& r = runs[other.index];
        Neighbour n{r.title, before ? alone[other.index].ended : alone[other.index].began, rest / kDay, r.finding.kind,
                    movedBy(r.finding)};
        if (n.state && n.state->from == StateFrom::Taken)
            n.state.reset();
        return n;
    };
    for (std::size_t at = 0; at < dated.size(); ++at) {
        if (dated[at].sheet)
            continue;
        Finding& f = runs[dated[at].index].finding;
        f = settled(std::move(f), neighbour(at, true), neighbour(at, false));
    }
}

} // namespace otterstone::kinds
