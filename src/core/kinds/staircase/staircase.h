// D9: the load staircase: how far a port sags per ampere, where it leaves its tolerance, between which steps it trips,
// and how it comes back.
#pragma once

#include "core/kinds/judge.h"

namespace otterstone::kinds {

struct Step {
    double amps = 0.0;
    double volts = 0.0; ///< at the port where the path is known, else as read
    bool on = true;
    std::size_t row = 0; ///< of the sheet
};

enum class Recovery { ByItself, Replug, Button, WaitThenReplug, NotYet };
[[nodiscard]] std::string recoveryWords(Recovery how, std::optional<double> seconds);

/// One port on one tier.
struct Stair {
    std::string port;
    double tierVolts = 5.0;
    std::optional<double> ratedAmps; ///< by the label
    std::vector<Step> steps;         ///< by amps, upwards
    std::optional<Measured> ohms; ///< of the output, from the line through all steps that held; with the path's doubt.
                                  ///< Below 0 by more than its doubt: an error, told
    std::optional<Measured> emptyVolts;       ///< the line's volts at no load
    std::size_t fitted = 0;                   ///< steps that held: what the line goes through
    std::optional<double> sagsAtAmps;         ///< first step out of tolerance
    std::optional<double> lastGood, firstBad; ///< amps; the trip lies between
    std::optional<Recovery> recovery;
    std::optional<double> recoverySeconds;
    bool hot = false; ///< what ended it was heat
    /// Trip over the rated current: − 1 at either end of the interval; needs both steps and a rating.
    [[nodiscard]] std::optional<std::pair<double, double>> margin() const;
};

struct StaircaseFinding {
    std::vector<Stair> stairs;
    Said said;
};

/// Line: least squares through the steps that held (quantity/line.h). The trip is the interval between the last good
/// and the first bad step, taken as rectangular. Common practice, no published source.
[[nodiscard]] StaircaseFinding staircase(const Sheet& sheet, const Facts& facts);

struct SheetKind;
/// Its row in the catalogue.
[[nodiscard]] SheetKind staircaseKind();

} // namespace otterstone::kinds
