// What the parts of one analysis share; internal to this folder.
#pragma once

#include "core/findings/finding.h"

namespace otterstone::findings {

struct Context {
    const trace::Trace& trace;
    const Setup& setup;
    trace::Plateau plateau;
    double gapSeconds = 5.0;
    double step = 0.0;
    trace::Totals totals;
    trace::EnergyFigures energy;
    trace::RunningEnergy running;
};

/// A moment or span in seconds with the doubt of the clock and of half a sampling step at either end.
[[nodiscard]] Measured measuredSpan(const Context& c, double seconds);

/// Workings shared by both kinds.
[[nodiscard]] Working energyWorking(const Context& c, const Finding& f);
[[nodiscard]] Working portWorking(const Context& c, const Finding& f);
[[nodiscard]] Working timeWorking(const std::string& key, const std::string& label, const Measured& seconds,
                                  const std::string& note);
void addCommonFigures(const Context& c, Finding& f);

/// Fill in the part of their kind, the figures and the sentence.
void findDrain(const Context& c, Finding& f);
void findRecharge(const Context& c, Finding& f);

/// A figure as a sentence quotes it: with ± only when the meter's accuracy is known.
[[nodiscard]] inline std::string quoted(const Context& c, const Measured& m, Unit unit) {
    return c.setup.meter.accuracyKnown() ? show(m, unit) : showRoughly(m.value(), unit);
}

[[nodiscard]] inline std::string placeOf(const Finding& f) {
    return f.referred ? "the port" : "the " + path::pointName(f.point);
}

} // namespace otterstone::findings
