#include <algorithm>
#include <cmath>
#include <vector>

#include "core/trace/lasting.h"
#include "core/trace/phases.h"

namespace otterstone::trace {

namespace {

constexpr double kBulkShare = 0.90;
constexpr double kThrottleShare = 0.75;
constexpr double kLeastBulk = 10.0; // seconds at 90 % that make a return to bulk, not a spike in the taper
constexpr double kChargingShare =
    0.50; // of the plateau: what comes back above this for a minute is charging, no top-off
constexpr double kLeastCharging = 60.0;
constexpr double kBrokeOffShare = 0.80; // power that ends from above this was no taper
constexpr double kLastMinute = 60.0;
constexpr double kCalm = 0.02;      // scatter of the power, as a share, that decides nothing
constexpr std::size_t kWidest = 61; // samples of the window that calms a noisy log

// The power as its phases are told from it: as it is, or in a noisy log the mean over as many samples as bring its
// scatter down to 2 %.
class Power {
public:
    Power(const Trace& t, double plateau) : t_(t) {
        if (t.size() < 8)
            return;
        std::vector<double> jumps;
        const std::size_t stride = std::max<std::size_t>(1, t.size() / 4096);
        for (std::size_t k = 1; k + 1 < t.size(); k += stride) // second differences: a taper is no scatter
            jumps.push_back(std::fabs(t.power(k + 1) - 2.0 * t.power(k) + t.power(k - 1)));
        const auto middle = jumps.begin() + static_cast<std::ptrdiff_t>(jumps.size() / 2);
        std::nth_element(jumps.begin(), middle, jumps.end());
        const double scatter = *middle / 0.6745 / std::sqrt(6.0) / plateau; // the median of a normal's size is 0.6745 σ
        if (scatter <= kCalm)
            return;
        const auto wanted = static_cast<std::size_t>(
            std::min(std::ceil(scatter * scatter / (kCalm * kCalm)), static_cast<double>(kWidest)));
        const std::size_t half = std::min({wanted / 2 + 1, kWidest / 2, t.size() / 16 + 1});
        calm_.resize(t.size());
        for (std::size_t k = 0; k < t.size(); ++k) {
            const std::size_t first = k > half ? k - half : 0, last = std::min(k + half, t.size() - 1);
            double sum = 0.0;
            for (std::size_t j = first; j <= last; ++j)
                sum += t.power(j);
            calm_[k] = sum / static_cast<double>(last - first + 1);
        }
    }
    double operator[](std::size_t k) const { return calm_.empty() ? t_.power(k) : calm_[k]; }

private:
    const Trace& t_;
    std::vector<double> calm_;
};

// Spells in [first, after) by what a sample's state is; those that do not last are left out.
template<class State>
std::vector<Spell> spellsOf(const Trace& t, std::size_t first, std::size_t after, State state) {
    std::vector<Spell> spells;
    for (std::size_t k = first; k < after; ++k) {
        const int now = state(k);
        if (spells.empty() || spells.back().state != now)
            spells.push_back({k, k, now});
        spells.back().after = k + 1;
    }
    return lastingSpells(t, std::move(spells), true);
}

double length(const Trace& t, const Spell& s) { return timeAt(t, s.after) - t.time[s.first]; }

struct Landmarks {
    std::size_t start = 0;
    std::size_t bulk = 0;  // first sample of the first bulk
    std::size_t taper = 0; // first sample of the taper, == end when there is none
    std::size_t end = 0;   // first sample at which it is full, or size()
    double endTime = 0.0, uEnd = 0.0;
    std::optional<double> brokeOff;
};

// Where the power falls below the level: the sample that parts what is above from what is below best, and the moment
// within the step before it.
void refineEnd(const Trace& t, double level, std::size_t start, Landmarks& l) {
    const std::size_t reach = 32;
    const std::size_t from = l.end > start + reach ? l.end - reach : start + 1,
                      to = std::min(l.end + reach, t.size() - 1);
    std::size_t below = 0;
    for (std::size_t k = from; k <= to; ++k)
        below += t.power(k) < level ? 1 : 0;
    std::size_t best = l.end, most = 0, above = 0;
    for (std::size_t k = from; k <= to; ++k) { // parted before k
        if (above + below > most) {
            most = above + below;
            best = k;
        }
        if (t.power(k) < level)
            --below;
        else
            ++above;
    }
    l.end = best;
    const double step = t.time[best] - t.time[best - 1], a = t.power(best - 1), b = t.power(best);
    const bool falls = a > level && b < level;
    // A step from well above to well below happened somewhere within; a taper crosses where its line does.
    const bool abrupt = b < 0.5 * level || a > 1.5 * level || !falls;
    l.endTime = abrupt ? t.time[best] - step / 2.0 : t.time[best - 1] + step * (a - level) / (a - b);
    std::size_t first = best, last = best; // what lies on the wrong side of it: noise over the level
    for (std::size_t k = from; k <= to; ++k) {
        if (k < best && t.power(k) < level)
            first = std::min(first, k);
        if (k >= best && t.power(k) >= level)
            last = std::max(last, k + 1);
    }
    l.uEnd =
        std::hypot((abrupt ? step : step / 3.0) / std::sqrt(12.0), (timeAt(t, last) - t.time[first]) / std::sqrt(12.0));
}

void findEnd(const Trace& t, const Power& power, const Plateau& plateau, const FullRule& full, Landmarks& l) {
    std::size_t lastCharging = l.start;
    for (const Spell& s :
         spellsOf(t, l.start, t.size(), [&](std::size_t k) { return power[k] >= kChargingShare * plateau.watts; })) {
        if (s.state && length(t, s) >= kLeastCharging)
            lastCharging = s.after;
    }
    l.end = t.size();
    for (const Spell& s :
         spellsOf(t, l.start, t.size(), [&](std::size_t k) { return power[k] < full.share * plateau.watts; })) {
        if (!s.state || s.first < lastCharging || length(t, s) < full.seconds)
            continue;
        // Full is what a taper leads to. The level of the last minute, without the very last sample, which may be half
        // gone.
        std::vector<double> before;
        for (std::size_t k = s.first;
             k-- > l.start && (before.size() < 4 || t.time[s.first] - t.time[k] <= kLastMinute);)
            before.push_back(power[k]);
        if (before.empty()) // low from the start: nothing led to it
            continue;
        if (before.size() > 2)
            before.erase(before.begin());
        const auto middle = before.begin() + static_cast<std::ptrdiff_t>(before.size() / 2);
        std::nth_element(before.begin(), middle, before.end());
        if (*middle > kBrokeOffShare * plateau.watts) {
            l.brokeOff = t.time[s.first];
            return;
        }
        l.end = s.first;
        refineEnd(t, full.share * plateau.watts, l.start, l);
        return;
    }
}

std::optional<Landmarks> findLandmarks(const Trace& t, const Power& power, const Plateau& plateau, const FullRule& full,
                                       double usualStep) {
    Landmarks l;
    l.end = t.size();
    l.start = t.size();
    for (const Spell& s : spellsOf(t, 0, t.size(), [&](std::size_t k) {
             return t.power(k) >= full.share * plateau.watts;
         })) { // as read: an average would begin too early
        if (s.state) {
            l.start = s.first;
            break;
        }
    }
    if (l.start == t.size())
        return std::nullopt;
    if (full.at) {
        l.end = static_cast<std::size_t>(std::lower_bound(t.time.begin(), t.time.end(), *full.at) - t.time.begin());
        l.endTime = *full.at;
    } else {
        findEnd(t, power, plateau, full, l);
    }
    const double least = std::max(kLeastBulk, 3.0 * usualStep);
    l.bulk = l.end;
    l.taper = l.start;
    for (const Spell& s :
         spellsOf(t, l.start, l.end, [&](std::size_t k) { return power[k] >= kBulkShare * plateau.watts; })) {
        if (!s.state)
            continue;
        if (l.bulk == l.end)
            l.bulk = s.first;
        if (l.taper == l.start || length(t, s) >= least)
            l.taper = s.after;
    }
    return l;
}

} // namespace

RechargePhases rechargePhases(const Trace& t, const Plateau& plateau, const RunningEnergy& energy, FullRule full) {
    RechargePhases result;
    if (t.size() < 2 || plateau.watts <= 0.0)
        return result;
    const Power power(t, plateau.watts);
    const auto found = findLandmarks(t, power, plateau, full, energy.usualStep());
    if (!found)
        return result;
    const Landmarks& marks = *found;
    result.start = t.time[marks.start];
    if (marks.start > 0) { // the power came somewhere within the step before
        const double step = t.time[marks.start] - t.time[marks.start - 1];
        *result.start -= step / 2.0;
        result.uStart = step / std::sqrt(12.0);
    } else { // the log begins with it: at most about a step late
        result.uStart = energy.usualStep() / std::sqrt(3.0);
    }
    result.brokeOff = marks.brokeOff;
    if (marks.end < t.size()) {
        result.end = marks.endTime;
        result.uEnd = marks.uEnd;
    }
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
    // A rise at the beginning is no throttling: only what comes down from the bulk.
    if (marks.bulk < marks.taper) {
        for (const Spell& s : spellsOf(t, marks.bulk, marks.taper,
                                       [&](std::size_t k) { return power[k] < kThrottleShare * plateau.watts; })) {
            if (!s.state)
                continue;
            pieces.push_back({PhaseKind::Bulk, at, s.first});
            // Unplugged: no volts either. Throttled: the source is still there.
            const bool unplugged =
                t.hasCurrent() && outputGone(t.volts[s.first + (s.after - s.first) / 2], plateau.volts);
            pieces.push_back({unplugged ? PhaseKind::Off : PhaseKind::Throttled, s.first, s.after});
            if (!unplugged)
                result.throttles.push_back({t.time[s.first], timeAt(t, s.after)});
            at = s.after;
        }
    }
    pieces.push_back({PhaseKind::Bulk, at, marks.taper});
    if (marks.taper < marks.end)
        pieces.push_back({PhaseKind::Taper, marks.taper, marks.end});
    if (marks.end < t.size())
        pieces.push_back({PhaseKind::Idle, marks.end, t.size()});

    for (const Piece& piece : pieces) {
        const Phase p{piece.kind, t.time[std::min(piece.first, t.size() - 1)], timeAt(t, piece.after),
                      energy.upTo(piece.after) - energy.upTo(piece.first)};
        if (p.to > p.from)
            result.phases.push_back(p);
    }

    // A stop is what charging came back after: from more than a taper's end, to at least half of the plateau again.
    const std::size_t last = std::min(marks.end, t.size());
    const auto low =
        spellsOf(t, marks.start, last, [&](std::size_t k) { return power[k] < full.share * plateau.watts; });
    for (const Spell& s : low) {
        if (s.state && s.first > marks.start && s.after < last && length(t, s) >= kLeastCharging &&
            std::any_of(low.begin(), low.end(),
                        [&](const Spell& on) { return on.first == s.after && length(t, on) >= kLeastCharging; }))
            result.stops.push_back({t.time[s.first], timeAt(t, s.after)});
    }

    const double before = energy.upTo(marks.start > 0 ? marks.start - 1 : 0); // with the step in which the power came
    result.wattHoursUntilEnd = energy.upTo(marks.end) - before;
    for (const double share : {0.5, 0.8})
        result.reached.push_back({share, energy.momentOf(before + share * result.wattHoursUntilEnd)});
    result.reached.push_back({1.0, result.end.value_or(t.time.back())});
    result.tierChanges = tierChanges(t, energy);
    return result;
}

} // namespace otterstone::trace
