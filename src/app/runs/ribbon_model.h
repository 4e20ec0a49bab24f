// What the path ribbon shows of a finished run: stretches, widths in Wh, losses, read points and what is unknown.
#pragma once

#include <optional>
#include <vector>

#include <QString>

#include "core/kinds/traced/finding.h"
#include "core/records/run.h"

namespace otterstone::app {

/// One stretch of the path, from left (where the energy comes from) to right.
struct RibbonStretch {
    QString name;   ///< "Grey 1 m"
    QString kind;   ///< "cable"
    int place = -1; ///< which of records::kStretches a click chooses; -1 for the bank itself
    std::optional<double> wattHoursIn, wattHoursOut; ///< width at either end; nothing: unknown, drawn hatched
    QString loss;                                    ///< words at what peels off; empty when nothing is known to
    std::optional<double> lossWattHours;
    bool absent = false; ///< no piece here: drawn narrow, to be added
};

/// A place where something was read.
struct RibbonNotch {
    int before = 0; ///< stands before this stretch
    path::Point at = path::Point::Meter;
    QString words;    ///< "57.9 ± 0.4 Wh" and means
    QString point;    ///< "meter"
    bool read = true; ///< false: referred from another point
};

struct Ribbon {
    std::vector<RibbonStretch> stretches;
    std::vector<RibbonNotch> notches;
    double fullWidth = 0.0;      ///< what the thickest band stands for; 0: the widest stretch
    std::optional<double> drift; ///< of a band that moves: how far its ticks have come, in their own distances
    [[nodiscard]] QString inWords() const; ///< for screen readers
};

/// The place of a stretch of a run in records::kStretches.
[[nodiscard]] int placeOf(std::optional<records::Id> records::Run::*piece);
/// "At the load: 31.2 ± 0.2 Wh, referred from the meter; 1.1 Wh (3.4 %) less than at the port."
[[nodiscard]] QString sayAt(const kinds::Finding& finding, path::Point point);

/// What flows now, in watts: read at one meter, and referred to the port through the cable where that is known.
struct LiveFlow {
    double volts = 0.0, amps = 0.0; ///< at the meter
    double peakWatts = 0.0;         ///< so far: the full width
    double wattHours = 0.0;         ///< so far; the ticks drift with it
    bool reading = true;            ///< false: the meter is silent, and all is hatched
};
[[nodiscard]] Ribbon makeLiveRibbon(const records::Bank& bank, const records::Run& run,
                                    const std::vector<records::Gear>& gear, const LiveFlow& flow);

[[nodiscard]] Ribbon makeRibbon(const records::Bank& bank, const records::Run& run,
                                const std::vector<records::Gear>& gear, const kinds::Finding& finding);

} // namespace otterstone::app
