#include <algorithm>

#include "core/trace/phases.h"

namespace otterstone::trace {

namespace {

constexpr double kBulkShare = 0.90;
constexpr double kThrottleShare = 0.75;
constexpr double kLeastThrottle = 5.0;   // seconds; a single dropped sample is no throttling
constexpr double kLeastBulk = 10.0;      // seconds at 90 % that make a return to bulk, not a spike in the taper
constexpr double kChargingShare = 0.50;  // of the plateau: what comes back above this for a minute is charging, no top-off
constexpr double kLeastCharging = 60.0;

// Follows stretches in which a condition holds; `ended` is called with each one's first and first-not sample.
template<class Condition, class Ended>
void eachStretch(const Trace& t, Condition holds, Ended ended) {
    bool inside = false;
    std::size_t first = 0;
    for (std::size_t k = 0; k < t.size(); ++k) {
        const bool now = holds(k);
        if (now && !inside)
            first = k;
        if (!now && inside)
            ended(first, k);
        inside = now;
    }
    if (inside)
        ended(first, t.size());
}

double endTime(const Trace& t, std::size_t after) { return after < t.size() ? t.time[after] : t.time.back(); }

struct Landmarks {
    std::size_t start;
    std::size_t taper; // first sample of the taper, == end when there is none
    std::size_t end;   // first sample at which it is full, or size()
};

// The first low stretch that lasts long enough, and behind which no real charging follows: a bank that tops off now and then is full
// all the same, one that was unplugged for a while is not.
std::size_t findEnd(const Trace& t, const Plateau& plateau, std::size_t start, FullRule full) {
    std::size_t lastCharging = start;
    eachStretch(
        t, [&](std::size_t k) { return t.power(k) >= kChargingShare * plateau.watts; },
        [&](std::size_t first, std::size_t after) {
            if (endTime(t, after) - t.time[first] >= kLeastCharging)
                lastCharging = after;
        });
    std::size_t end = t.size();
    eachStretch(
        t, [&](std::size_t k) { return k > start && t.power(k) < full.share * plateau.watts; },
        [&](std::size_t first, std::size_t after) {
            if (end == t.size() && first >= lastCharging && endTime(t, after) - t.time[first] >= full.seconds)
                end = first;
        });
    return end;
}

Landmarks findLandmarks(const Trace& t, const Plateau& plateau, FullRule full) {
    Landmarks l{0, 0, t.size()};
    while (l.start < t.size() && t.power(l.start) < full.share * plateau.watts)
        ++l.start;
    if (l.start == t.size())
        return l;
    l.end = full.at ? static_cast<std::size_t>(std::lower_bound(t.time.begin(), t.time.end(), *full.at) - t.time.begin())
                    : findEnd(t, plateau, l.start, full);
    const double least = std::max(kLeastBulk, 3.0 * medianStep(t.time));
    l.taper = l.start;
    eachStretch(
        t, [&](std::size_t k) { return k >= l.start && k < l.end && t.power(k) >= kBulkShare * plateau.watts; },
        [&](std::size_t first, std::size_t after) {
            if (l.taper == l.start || endTime(t, after) - t.time[first] >= least)
                l.taper = after;
        });
    return l;
}

} // namespace

RechargePhases rechargePhases(const Trace& t, const Plateau& plateau, const RunningEnergy& energy, FullRule full) {
    RechargePhases result;
    if (t.size() < 2 || plateau.watts <= 0.0)
        return result;
    const Landmarks marks = findLandmarks(t, plateau, full);
    if (marks.start == t.size())
        return result;
    result.start = t.time[marks.start];
    if (marks.end < t.size())
        result.end = t.time[marks.end];
    if (marks.taper < std::min(marks.end, t.size()))
        result.taperStart = t.time[marks.taper];

    struct Piece {
        PhaseKind kind;
        std::size_t first, after;
    };
    std::vector<Piece> pieces;
    if (marks.start > 0)
        pieces.push_back({PhaseKind::Idle, 0, marks.start});
    std::size_t at = marks.start;
    const auto low = [&](std::size_t k) {
        return k > marks.start && k < marks.taper && t.power(k) < kThrottleShare * plateau.watts;
    };
    eachStretch(t, low, [&](std::size_t first, std::size_t after) {
        if (endTime(t, after) - t.time[first] < kLeastThrottle)
            return;
        pieces.push_back({PhaseKind::Bulk, at, first});
        // Unplugged: no volts either. Throttled: the source is still there.
        const bool unplugged = t.hasCurrent() && t.volts[first + (after - first) / 2] < 0.5 * plateau.volts;
        pieces.push_back({unplugged ? PhaseKind::Off : PhaseKind::Throttled, first, after});
        if (!unplugged)
            result.throttles.push_back({t.time[first], endTime(t, after)});
        at = after;
    });
    pieces.push_back({PhaseKind::Bulk, at, marks.taper});
    if (marks.taper < marks.end)
        pieces.push_back({PhaseKind::Taper, marks.taper, marks.end});
    if (marks.end < t.size())
        pieces.push_back({PhaseKind::Idle, marks.end, t.size()});

    for (const Piece& piece : pieces) {
        const Phase p{piece.kind, t.time[std::min(piece.first, t.size() - 1)], endTime(t, piece.after),
                      energy.upTo(piece.after) - energy.upTo(piece.first)};
        if (piece.first >= marks.start && piece.first < marks.end)
            result.wattHoursUntilEnd += p.wattHours;
        if (p.to > p.from)
            result.phases.push_back(p);
    }

    for (const double share : {0.5, 0.8})
        result.reached.push_back({share, energy.momentOf(energy.upTo(marks.start) + share * result.wattHoursUntilEnd)});
    result.reached.push_back({1.0, endTime(t, marks.end)});
    result.tierChanges = tierChanges(t, plateau);
    return result;
}

} // namespace otterstone::trace
