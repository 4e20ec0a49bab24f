#include <algorithm>
#include <cmath>

#include "core/trace/lasting.h"
#include "core/trace/phases.h"

namespace otterstone::trace {

namespace {

constexpr double kLookBack = 30.0;   // seconds before the end that tell the level
constexpr double kLookAhead = 120.0; // and after it: a capacitor takes its time
constexpr double kFlat = 0.97;       // volts that keep this over five seconds stand; a capacitor's fall
constexpr double kSagging = 0.9;     // a log that ends while the volts fall was cut off
constexpr double kLeak = 0.25;       // of the plateau's current
constexpr double kStepUp = 1.15;     // of the current before
constexpr double kWattsUp =
    1.10; // and of the watts: a constant-power load draws more amps from fewer volts, no more watts
constexpr double kBeforeStep = 90.0; // seconds before the end in which the level before a step is looked for
constexpr double kNoises = 2.0;      // a step must be this many of the scatter before it
constexpr std::size_t kPulses = 10;  // from so many short pauses on the load has a rhythm
constexpr double kLongestPulse = 120.0;

enum State { On, Paused, Gone };

double median(std::vector<double> v) {
    const auto middle = v.begin() + static_cast<std::ptrdiff_t>(v.size() / 2);
    std::nth_element(v.begin(), middle, v.end());
    return *middle;
}

// Off spells are gone or paused by their volts; the level is that of the last current before, else the plateau's.
std::vector<Spell> rawSpells(const Trace& t, const Plateau& plateau, const std::vector<std::size_t>& switches) {
    std::vector<Spell> spells;
    double level = plateau.volts;
    std::size_t at = 0;
    bool on = false;
    const auto add = [&](std::size_t first, std::size_t after) {
        if (first >= after)
            return;
        if (on) {
            // What leaks through a load from a dead output is no load on it any more.
            std::size_t end = after;
            while (t.hasCurrent() && end > first && outputGone(t.volts[end - 1], level) &&
                   t.amps[end - 1] < kLeak * plateau.amps)
                --end;
            if (end > first)
                spells.push_back({first, end, On});
            if (end < after)
                spells.push_back({end, after, Gone});
            joinAlike(spells);
            if (t.hasCurrent() && lasts(t, first, after))
                level = t.volts[first + (after - first) / 2];
            return;
        }
        if (!t.hasCurrent()) { // watts alone: whether the output stood is not known; then it was the output
            spells.push_back({first, after, Gone});
            return;
        }
        std::vector<Spell> off;
        for (std::size_t k = first; k < after; ++k)
            off.push_back({k, k + 1, outputGone(t.volts[k], level) ? Gone : Paused});
        joinAlike(off);
        // Volts that fall for a moment before they are gone belong to their going.
        if (std::any_of(off.begin(), off.end(), [](const Spell& s) { return s.state == Gone; })) {
            for (Spell& s : off)
                s.state = lasts(t, s.first, s.after) ? s.state : Gone;
            joinAlike(off);
        }
        spells.insert(spells.end(), off.begin(), off.end());
    };
    for (const std::size_t next : switches) {
        add(at, next);
        at = next;
        on = !on;
    }
    add(at, t.size());
    return spells;
}

// An output that tries again and again (hiccup) is gone for as long as it does: its short tries do not count.
void joinHiccups(const Trace& t, std::vector<Spell>& spells) {
    for (std::size_t s = 0; s + 2 < spells.size(); ++s) {
        if (spells[s].state != Gone)
            continue;
        std::size_t end = s, samples = spells[s].after - spells[s].first;
        double gone = timeAt(t, spells[s].after) - t.time[spells[s].first];
        const auto brief = [&](const Spell& x) { return x.state != Gone && !lasts(t, x.first, x.after); };
        while (end + 1 < spells.size()) {
            std::size_t next = end + 1;
            while (next < spells.size() && brief(spells[next]))
                ++next;
            if (next >= spells.size() || spells[next].state != Gone)
                break;
            samples += spells[next].after - spells[next].first;
            gone += timeAt(t, spells[next].after) - t.time[spells[next].first];
            end = next;
        }
        const double whole = timeAt(t, spells[end].after) - t.time[spells[s].first];
        if (end > s && samples >= 3 && whole >= 5.0 && gone >= 0.5 * whole) {
            spells[s].after = spells[end].after;
            spells.erase(spells.begin() + static_cast<std::ptrdiff_t>(s) + 1,
                         spells.begin() + static_cast<std::ptrdiff_t>(end) + 1);
        }
    }
}

// What a load with a rhythm does between its pulses is part of its load.
void joinPulses(const Trace& t, std::vector<Spell>& spells) {
    std::size_t pulses = 0;
    const auto isPulse = [&](std::size_t s) {
        return s > 0 && s + 1 < spells.size() && spells[s].state == Paused && spells[s - 1].state == On &&
               spells[s + 1].state == On && timeAt(t, spells[s].after) - t.time[spells[s].first] < kLongestPulse;
    };
    for (std::size_t s = 0; s < spells.size(); ++s)
        pulses += isPulse(s) ? 1 : 0;
    if (pulses < kPulses)
        return;
    for (std::size_t s = 1; s + 1 < spells.size(); ++s) {
        if (isPulse(s))
            spells[s].state = On;
    }
    joinAlike(spells);
}

// The output stood for a while after the current had gone: it was the load that ended.
bool stoodAfter(const Trace& t, std::size_t first, double level) {
    std::size_t k = first;
    while (k + 1 < t.size() && (k - first < 2 || t.time[k] - t.time[first] < 5.0))
        ++k;
    for (std::size_t j = first; j <= k; ++j) {
        if (!outputStands(t.volts[j], level))
            return false;
    }
    return t.volts[k] >= kFlat * t.volts[first];
}

// Over-current: a step up of amps and watts that lasted until the volts went.
bool steppedUp(const Trace& t, const Plateau& plateau, const Spell& last, std::size_t end) {
    if (end < last.first + 6)
        return false;
    std::size_t first = end; // the step must hold for three samples and 5 s
    while (first > last.first && (end - first < 2 || t.time[end] - t.time[first] < 5.0))
        --first;
    std::vector<double> amps, watts, ampsBefore, wattsBefore;
    for (std::size_t k = first; k <= end; ++k) {
        amps.push_back(t.amps[k]);
        watts.push_back(t.power(k));
    }
    for (std::size_t k = first; k-- > last.first && t.time[end] - t.time[k] <= kBeforeStep;) {
        if (!plateau.isOn(t, k))
            continue; // between two pulses
        ampsBefore.push_back(t.amps[k]);
        wattsBefore.push_back(t.power(k));
    }
    if (ampsBefore.size() < 3)
        return false;
    const double before = median(ampsBefore);
    std::vector<double> off;
    off.reserve(ampsBefore.size());
    for (const double a : ampsBefore)
        off.push_back(std::fabs(a - before));
    const double scatter = 1.5 * median(off);
    const double now = median(amps);
    return now > kStepUp * before && now > before + kNoises * scatter && median(watts) > kWattsUp * median(wattsBefore);
}

EndedBy whyEnded(const Trace& t, const Plateau& plateau, const Spell& last) {
    if (!t.hasCurrent() || last.after - last.first < 2)
        return EndedBy::Unknown;
    const std::size_t end = last.after - 1; // last sample with current
    // The level before the end: a median of the last half minute, without the very last sample, which may be half dead.
    std::vector<double> before;
    for (std::size_t k = end; k + 1 > last.first && t.time[end] - t.time[k] <= kLookBack; --k) {
        before.push_back(t.volts[k]);
        if (k == 0)
            break;
    }
    const double level = median(before);
    if (last.after >= t.size()) {
        // It still flowed when the log ended. Volts that had fallen far for more than a sample were on their way out.
        const bool falling = t.volts[end] < kSagging * plateau.volts && t.volts[end - 1] < kSagging * plateau.volts;
        if (!falling && !outputGone(t.volts[end], plateau.volts))
            return EndedBy::Unknown;
    } else {
        if (stoodAfter(t, last.after, level))
            return EndedBy::User;
        double least = t.volts[last.after];
        for (std::size_t k = last.after; k < t.size() && t.time[k] - t.time[last.after] <= kLookAhead; ++k)
            least = std::min(least, t.volts[k]);
        if (!outputGone(least, level))
            return outputStands(least, level) ? EndedBy::User : EndedBy::Unknown;
    }
    // The very last sample may be half dead: neither its amps nor its volts tell of the load.
    return end > last.first && steppedUp(t, plateau, last, outputStands(t.volts[end], level) ? end : end - 1)
               ? EndedBy::OverCurrent
               : EndedBy::CutOff;
}

} // namespace

DrainPhases drainPhases(const Trace& t, const Plateau& plateau, const RunningEnergy& energy) {
    DrainPhases result;
    if (t.size() < 2)
        return result;
    std::vector<Spell> spells = rawSpells(t, plateau, energy.totals().switches);
    joinHiccups(t, spells);
    // A blip of current after the end is no new beginning; a last sample without current is the end.
    const bool endsWithout = !spells.empty() && spells.back().state != On;
    spells = lastingSpells(t, std::move(spells), endsWithout);
    joinPulses(t, spells);

    std::size_t lastOn = spells.size();
    for (std::size_t s = 0; s < spells.size(); ++s) {
        if (spells[s].state == On)
            lastOn = s;
    }
    bool begun = false;
    for (std::size_t s = 0; s < spells.size(); ++s) {
        const Spell& spell = spells[s];
        const Stretch stretch{t.time[spell.first], timeAt(t, spell.after)};
        const PhaseKind kind = spell.state == On ? PhaseKind::Steady : !begun ? PhaseKind::Idle : PhaseKind::Off;
        const Phase p{kind, stretch.from, stretch.to, energy.upTo(spell.after) - energy.upTo(spell.first)};
        if (p.to > p.from && !result.phases.empty() && result.phases.back().kind == kind)
            result.phases.back() = {kind, result.phases.back().from, p.to,
                                    result.phases.back().wattHours + p.wattHours};
        else if (p.to > p.from)
            result.phases.push_back(p);
        if (spell.state == On) {
            if (!begun)
                result.on = stretch.from;
            begun = true;
            result.activeSeconds += stretch.length();
        } else if (begun && s < lastOn && lastOn < spells.size()) {
            // Off and gone in one: gone, from the first to the last of it.
            auto& list = spell.state == Gone ? result.interruptions : result.pauses;
            if (spell.state == Gone && !result.pauses.empty() && result.pauses.back().to == stretch.from) {
                list.push_back({result.pauses.back().from, stretch.to});
                result.pauses.pop_back();
            } else if (spell.state == Paused && !result.interruptions.empty() &&
                       result.interruptions.back().to == stretch.from) {
                result.interruptions.back().to = stretch.to;
            } else {
                list.push_back(stretch);
            }
        }
    }
    if (lastOn == spells.size())
        return result;
    if (spells[lastOn].after < t.size())
        result.off = t.time[spells[lastOn].after];
    result.endedBy = whyEnded(t, plateau, spells[lastOn]);
    result.tierChanges = tierChanges(t, energy);
    return result;
}

} // namespace otterstone::trace
