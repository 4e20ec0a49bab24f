// C7: which of a trace's states last. Internal to this folder.
#pragma once

#include <vector>

#include "core/trace/trace.h"

namespace otterstone::trace {

/// Samples [first, after) in one state.
struct Spell {
    std::size_t first = 0, after = 0;
    int state = 0;
};

/// When the sample behind a spell was taken; the last sample's time at the trace's end.
[[nodiscard]] inline double timeAt(const Trace& t, std::size_t k) { return k < t.size() ? t.time[k] : t.time.back(); }

/// From three samples and 5 s on, or two samples 30 s apart, a state counts.
[[nodiscard]] inline bool lasts(const Trace& t, std::size_t first, std::size_t after) {
    const std::size_t count = after - first;
    const double seconds = timeAt(t, after) - t.time[first];
    return (count >= 3 && seconds >= 5.0) || (count >= 2 && t.time[after - 1] - t.time[first] >= 30.0);
}

/// Neighbouring spells of one state made one.
inline void joinAlike(std::vector<Spell>& spells) {
    std::vector<Spell> joined;
    for (const Spell& s : spells) {
        if (!joined.empty() && joined.back().state == s.state)
            joined.back().after = s.after;
        else
            joined.push_back(s);
    }
    spells = std::move(joined);
}

/// The same spells without those that do not last: each goes to the one before it; before the first that lasts, all are
/// of the very first's state. The last stands as it is, for nothing contradicts it, if `keepLast`. Nothing lasting at
/// all: as they were.
[[nodiscard]] inline std::vector<Spell> lastingSpells(const Trace& t, std::vector<Spell> spells, bool keepLast) {
    std::vector<Spell> kept;
    bool any = false;
    for (std::size_t s = 0; s < spells.size(); ++s) {
        const bool last = s + 1 == spells.size();
        if (lasts(t, spells[s].first, spells[s].after) || (last && keepLast && any)) {
            if (!any && s > 0)
                kept.push_back({spells.front().first, spells[s].first, spells.front().state});
            kept.push_back(spells[s]);
            any = true;
        } else if (any) {
            kept.back().after = spells[s].after;
        }
        joinAlike(kept);
    }
    return any ? kept : spells;
}

} // namespace otterstone::trace
