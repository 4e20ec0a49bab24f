// What the parts of one analysis share; internal to this folder.
#pragma once

#include <utility>

#include "core/kinds/parts.h"
#include "core/kinds/traced/finding.h"

namespace otterstone::kinds {

struct Context {
    const trace::Trace& trace;
    const Setup& setup;
    trace::Plateau plateau;
    double gapSeconds = 5.0;
    double step = 0.0;
    trace::Totals totals;
    std::vector<trace::Block> blocks;
    trace::EnergyFigures energy;
    trace::RunningEnergy running;
    double onset = 0.0; ///< when power came on in the whole trace, also where only a window of it is looked at; with
                        ///< further traces only
};

/// The first moment at which power is on; the first at all when it never is.
[[nodiscard]] inline double onsetOf(const trace::Trace& t, const trace::Plateau& plateau) {
    for (std::size_t k = 0; k < t.size(); ++k) {
        if (plateau.isOn(t, k))
            return t.time[k];
    }
    return t.time.empty() ? 0.0 : t.time.front();
}

/// How the main trace was read.
[[nodiscard]] trace::Read readOf(const Setup& setup, Kind kind);
/// A span in seconds, or one that has a doubt already, with that of the clock.
[[nodiscard]] Measured onTrueClock(const Context& c, const Measured& seconds);
/// A span in seconds with the doubt of the clock and of half a sampling step at either end.
[[nodiscard]] Measured measuredSpan(const Context& c, double seconds);
/// The mean while it was on, in place of that over the whole trace. `seconds` > 0 is how long, `wattHours` what flowed
/// then.
void setMeanWatts(const Context& c, Finding& f, const Measured& wattHours, double seconds);

/// Workings shared by both kinds.
[[nodiscard]] Working energyWorking(const Context& c, const Finding& f);
[[nodiscard]] Working portWorking(const Context& c, const Finding& f);
/// "77 % of the printed 74 Wh", or of the rated.
[[nodiscard]] std::string shareWords(const std::string& share, bool printed, double wattHours);
[[nodiscard]] Working timeWorking(const std::string& key, Spoken label, const Measured& seconds, Spoken note);
void addCommonFigures(const Context& c, Finding& f);

/// No ± is shown on figures while the meter's accuracy is unknown.
void markWithoutAccuracy(Finding& f);
/// Energies along the path, and the port's.
void findPoints(const Context& c, Finding& f);
/// D6 and D15; `from` and `to` are when it counts, `steadyUntil` when the power began to fall, `whole` whether it went
/// to its end.
/// What the display said it would take, from the moments at which it said so until `end`, on the true clock: the first
/// is the figure. As a share, positive when it took longer; nothing when it said nothing.
std::optional<double> addTimeLeft(const Context& c, Finding& f, double end);
void addGauge(const Context& c, Finding& f, double from, double to, bool whole);
void addHeat(const Context& c, Finding& f, double from, double to, double steadyUntil);
/// Stamps that say something happened, as one remark.
void addStamps(const Context& c, Finding& f);
/// D4, D13: where the energy of a drain went.
void addWhereItWent(const Context& c, Finding& f, double on, double off);
/// Energy where the house counts it, with its place in words; these are empty for the bank's own display.
[[nodiscard]] std::pair<Measured, std::string> countedEnergy(const Setup& setup, const Finding& f);
/// Figures about energy that both kinds begin with: where it counts, the port, the other points.
void addEnergyFigures(const Context& c, Finding& f);

/// The state of the bank that its display or LEDs told near an end; the last that was recorded, else the nearest stamp.
[[nodiscard]] std::optional<Sign> signNear(const Context& c, double moment, bool end);
/// The same of what the device's own display said.
[[nodiscard]] std::optional<Sign> deviceNear(const Context& c, double moment, bool end);
/// What a stamp at that moment says of why it ended.
[[nodiscard]] std::optional<Ending> stampedEnding(const Context& c, double moment);
/// By the trace, and the device's own display.
[[nodiscard]] Ending endingOfDrain(const Context& c, const trace::DrainPhases& phases);
/// What a stop needed to go on, as the tester stamped it around its end.
[[nodiscard]] std::string restartOf(const Context& c, const trace::Stretch& off);
/// The tester stamped that it was unplugged as the volts went: no doing of the bank.
[[nodiscard]] bool pulledOut(const Context& c, const trace::Stretch& off);

/// Fill in the part of their kind, the figures, what they show of their ends, and the pieces of the sentence.
void findDrain(const Context& c, Finding& f);
void findRecharge(const Context& c, Finding& f);

/// A figure as a sentence quotes it: with ± only when the meter's accuracy is known, or its part would be the lesser.
[[nodiscard]] inline std::string quoted(const Setup& setup, const Measured& m, Unit unit) {
    return setup.meter.accuracyKnown() || mostlyKnown(m) ? show(m, unit) : showRoughly(m.value(), unit);
}

} // namespace otterstone::kinds
