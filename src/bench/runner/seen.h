// What a step of a recipe showed, and the sheet that a run's steps make: the same that hands would have filled in.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "bench/recipes/recipe.h"
#include "core/kinds/rows.h"

namespace otterstone::bench {

inline constexpr double kGoneShare = 0.25; ///< of the set current: less does not flow

struct SeenStep {
    Step step;
    double askedVolts = 5.0; ///< of the step's load's trigger
    double level = 0.0;      ///< A, W or Ω that the load was set to
    double seconds = 0.0;    ///< how long it lasted
    // Means over the second half, at the meter.
    std::optional<double> volts, amps, inVolts, inAmps, secondVolts, secondAmps;
    std::optional<double> wentOffAfter; ///< seconds into the step at which the watched output went off
    std::optional<double> flowedAfter;  ///< seconds into the step at which something flowed first
    double outFor = 0.0;                ///< seconds within the step in which it was off though loaded
};

/// Gathers the readings of one step. Times are on the run's clock.
class StepWatch {
public:
    /// Readings are kept for a kind that has a sheet only: a drain at a thousand a second would fill the memory in a
    /// day.
    void keepReadings(bool keep) { keep_ = keep; }
    void begin(const Step& step, double askedVolts, double level, double now);
    void reading(double time, double volts, double amps);
    void inReading(double time, double volts, double amps);
    void secondReading(double volts, double amps);
    [[nodiscard]] SeenStep end(double now) const;
    /// The loads of this step: something is expected to flow through the first, the second.
    void expect(bool first, bool second) { firstLoaded_ = first, secondLoaded_ = second; }
    /// A loaded output gives nothing now.
    [[nodiscard]] bool gone() const;
    [[nodiscard]] bool flows() const;

private:
    struct Reading {
        double time, volts, amps;
    };
    SeenStep seen_;
    double from_ = 0.0;
    bool keep_ = false;
    bool firstLoaded_ = false, secondLoaded_ = false;
    std::vector<Reading> out_, in_;
    std::optional<Reading> second_;
    std::optional<Reading> last_; ///< across steps
};

/// Nothing for a kind without a sheet, or when no step showed anything.
[[nodiscard]] std::optional<records::Sheet> sheetFromSteps(records::Kind kind, const std::vector<SeenStep>& steps,
                                                           const std::vector<Source>& sources);

} // namespace otterstone::bench
