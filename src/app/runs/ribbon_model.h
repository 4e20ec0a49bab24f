// What the path ribbon shows of a finished run: stretches, widths in Wh, losses, read points and what is unknown.
#pragma once

#include <optional>
#include <vector>

#include <QString>

#include "book/records.h"
#include "core/findings/finding.h"

namespace otterstone::app {

/// One stretch of the path, from left (where the energy comes from) to right.
struct RibbonStretch {
    QString name;                     ///< "Grey 1 m"
    QString kind;                     ///< "cable"
    std::optional<book::GearKind> gear; ///< what a click chooses; nothing for the bank itself
    std::optional<double> wattHoursIn, wattHoursOut; ///< width at either end; nothing: unknown, drawn hatched
    QString loss;                     ///< words at what peels off; empty when nothing is known to
    std::optional<double> lossWattHours;
};

/// A place where something was read.
struct RibbonNotch {
    int before = 0; ///< stands before this stretch
    QString words;  ///< "57.9 ± 0.4 Wh" and means
    QString point;  ///< "meter"
    bool read = true; ///< false: referred from another point
};

struct Ribbon {
    std::vector<RibbonStretch> stretches;
    std::vector<RibbonNotch> notches;
    [[nodiscard]] QString inWords() const; ///< for screen readers
};

[[nodiscard]] Ribbon makeRibbon(const book::Bank& bank, const book::Run& run, const std::vector<book::Gear>& gear,
                                const findings::Finding& finding);

} // namespace otterstone::app
