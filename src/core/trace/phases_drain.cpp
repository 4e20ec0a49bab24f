#include <algorithm>
#include <cmath>

#include "core/trace/phases.h"

namespace otterstone::trace {

namespace {

constexpr double kLeastInterruption = 1.0;
constexpr double kLookAround = 30.0;         // seconds before and after the end that tell why it ended
constexpr double kCollapsed = 0.5;           // of the level before: the port is dead
constexpr double kStillThere = 0.8;          // of the level before: only the load went away
constexpr double kSagging = 0.9;             // a log that ends while the volts fall was cut off
constexpr double kOverPlateau = 1.15;        // a current step right before the collapse
constexpr double kStepBefore = 15.0;         // seconds within which that step counts

struct OnStretch {
    std::size_t first; // first sample on
    std::size_t after; // first sample off again, or size()
};

std::vector<OnStretch> onStretches(const Trace& t, const std::vector<std::size_t>& switches) {
    std::vector<OnStretch> on;
    for (std::size_t s = 0; s < switches.size(); s += 2) {
        const std::size_t first = switches[s];
        const std::size_t after = s + 1 < switches.size() ? switches[s + 1] : t.size();
        // A dip of a second or less is no interruption: the stretch before goes on.
        if (!on.empty() && t.time[first] - t.time[on.back().after] <= kLeastInterruption)
            on.back().after = after;
        else
            on.push_back({first, after});
    }
    return on;
}

EndedBy whyEnded(const Trace& t, const Plateau& plateau, const OnStretch& last) {
    if (!t.hasCurrent() || last.after - last.first < 2)
        return EndedBy::Unknown;
    const std::size_t end = last.after - 1; // last sample with current
    // The level before the end: a median of the last half minute, without the very last sample, which may be half dead.
    std::vector<double> before;
    double mostAmps = 0.0;
    for (std::size_t k = end; k + 1 > last.first && t.time[end] - t.time[k] <= kLookAround; --k) {
        before.push_back(t.volts[k]);
        if (t.time[end] - t.time[k] <= kStepBefore)
            mostAmps = std::max(mostAmps, t.amps[k]);
        if (k == 0)
            break;
    }
    std::nth_element(before.begin(), before.begin() + static_cast<std::ptrdiff_t>(before.size() / 2), before.end());
    const double level = before[before.size() / 2];

    double after = t.volts[end];
    bool collapsed = after < kSagging * std::max(level, plateau.volts);
    if (last.after < t.size()) {
        // Capacitors hold the volts for a moment: the lowest of the next half minute counts.
        for (std::size_t k = last.after; k < t.size() && t.time[k] - t.time[last.after] <= kLookAround; ++k)
            after = std::min(after, t.volts[k]);
        collapsed = after < kCollapsed * level;
        if (!collapsed)
            return after >= kStillThere * level ? EndedBy::User : EndedBy::Unknown;
    }
    if (!collapsed)
        return EndedBy::Unknown;
    return mostAmps > kOverPlateau * plateau.amps ? EndedBy::OverCurrent : EndedBy::CutOff;
}

} // namespace

DrainPhases drainPhases(const Trace& t, const Plateau& plateau, const RunningEnergy& energy) {
    DrainPhases result;
    if (t.size() < 2)
        return result;
    const std::vector<OnStretch> on = onStretches(t, energy.totals().switches);
    std::size_t at = 0;
    const auto phase = [&](PhaseKind kind, std::size_t first, std::size_t after) {
        if (first >= after || first + 1 > t.size())
            return;
        const Phase p{kind, t.time[first], after < t.size() ? t.time[after] : t.time.back(), energy.upTo(after) - energy.upTo(first)};
        if (p.to > p.from)
            result.phases.push_back(p);
    };
    for (std::size_t s = 0; s < on.size(); ++s) {
        phase(s == 0 ? PhaseKind::Idle : PhaseKind::Off, at, on[s].first);
        if (s > 0)
            result.interruptions.push_back({t.time[at], t.time[on[s].first]});
        phase(PhaseKind::Steady, on[s].first, on[s].after);
        at = on[s].after;
    }
    phase(on.empty() ? PhaseKind::Idle : PhaseKind::Off, at, t.size());
    if (on.empty())
        return result;
    for (const Phase& p : result.phases) {
        if (p.kind == PhaseKind::Steady)
            result.activeSeconds += p.to - p.from;
    }
    result.on = t.time[on.front().first];
    if (on.back().after < t.size())
        result.off = t.time[on.back().after];
    result.endedBy = whyEnded(t, plateau, on.back());
    result.tierChanges = tierChanges(t, plateau);
    return result;
}

} // namespace otterstone::trace
