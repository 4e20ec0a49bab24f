// D6: the bank's own display under test: what it said against what was truly left.
#pragma once

#include <cmath>
#include <optional>
#include <vector>

#include "core/kinds/names.h"
#include "core/quantity/working.h"
#include "core/records/mark.h"
#include "core/records/state.h"

namespace otterstone::kinds {

struct GaugePoint {
    double at = 0.0;      ///< seconds
    double saidLow = 0.0; ///< %; LEDs say an interval, a number says itself
    double saidHigh = 0.0;
    double truePercent = 0.0; ///< by energy: of what the whole run moved
    /// Said − true in points; for an interval how far the truth lies outside it, 0 within.
    [[nodiscard]] double error() const {
        return truePercent < saidLow ? saidLow - truePercent : truePercent > saidHigh ? saidHigh - truePercent : 0.0;
    }
};

struct GaugeFinding {
    std::vector<GaugePoint> points;
    GaugePoint worst;
    std::optional<double> zeroAt;    ///< when the display first said 0 %
    std::optional<Measured> reserve; ///< Wh delivered after that
};

/// The points of marks and of a recorded percent column (its changes only). `moved(t)` is the share of the run's energy
/// moved up to t, 0 … 1; `remaining` turns it round for a drain. `clock` puts the marks on the true clock. Nothing
/// without a point. LEDs: n of m lit = (n − 1)/m … n/m, the sums' own convention being 2 of 4 = 25–50 %. Common
/// practice, no published source.
struct GaugeInput {
    const std::vector<Mark>& marks;
    double clock = 1.0;
    double from = 0.0, to = 0.0; ///< while it counts
    bool drain = true;
};
template<class Moved>
[[nodiscard]] std::optional<GaugeFinding> findGauge(const GaugeInput& in, Moved moved) {
    GaugeFinding g;
    for (const Mark& m : in.marks) {
        const double at = m.at * in.clock;
        if (!m.number || at < in.from || at > in.to || (m.what != Mark::What::Percent && m.what != Mark::What::Leds))
            continue;
        GaugePoint p;
        p.at = at;
        p.saidLow = p.saidHigh = *m.number;
        if (m.what == Mark::What::Leds) {
            const State lit = litLeds(*m.number, ledsInAll(m));
            p.saidLow = lit.low;
            p.saidHigh = lit.high;
        }
        const double share = moved(at);
        p.truePercent = 100.0 * (in.drain ? 1.0 - share : share);
        g.points.push_back(p);
        if (m.what == Mark::What::Percent && *m.number <= 0.0 && in.drain && !g.zeroAt)
            g.zeroAt = at;
    }
    if (g.points.empty())
        return std::nullopt;
    g.worst = g.points.front();
    for (const GaugePoint& p : g.points) {
        if (std::abs(p.error()) > std::abs(g.worst.error()))
            g.worst = p;
    }
    return g;
}

} // namespace otterstone::kinds
