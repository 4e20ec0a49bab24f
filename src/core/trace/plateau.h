// C7: the reference power of a trace: a robust plateau, not the greatest sample.
#pragma once

#include "core/trace/trace.h"

namespace otterstone::trace {

struct Plateau {
    double watts = 0.0; ///< median of the time within 10 % of the reference level: the mean of the readings within ± 1
                        ///< % of it, or within its last digits
    double amps = 0.0;  ///< mean current over the same time; 0 without a current column
    double volts = 0.0;
    /// On means more than this: max(20 mA, 2 % of the plateau's current); where the plateau itself is hardly above
    /// that, half way between it and what is read with nothing drawn. Where no current was recorded, 2 % of its watts.
    double onAmps = 0.02;
    double onWatts = 0.0;

    [[nodiscard]] bool isOn(const Trace& t, std::size_t k) const {
        return t.hasCurrent() ? t.amps[k] > onAmps : t.power(k) > onWatts;
    }
};

/// The reference level is the power above which a quarter of the energy flowed: spikes carry little energy, a taper
/// less than the bulk. Steps longer than `gapSeconds` carry no weight. Of more than 60 000 samples an even selection is
/// looked at. Common practice, no published source.
[[nodiscard]] Plateau findPlateau(const Trace& trace, double gapSeconds);

} // namespace otterstone::trace
