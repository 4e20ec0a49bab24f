// The samples of one point in one run, column by column.
#pragma once

#include <cstddef>
#include <optional>
#include <string>

#include "core/trace/readings.h"

namespace otterstone::trace {

/// Invariants: `time` (seconds) never decreases; every other column is empty (not recorded) or as long as `time`.
/// Either `volts` and `amps` are there, or `watts` alone. NaN stands only in `temperature` and `percent`.
struct Trace {
    Column time;
    Readings volts;
    Readings amps;
    Column watts; ///< only where volts and amps are not both known
    Readings temperature;
    Readings percent;       ///< what the bank's own display said, 0 to 100
    double voltsStep = 0.0; ///< resolution seen in the log; 0 when unknown
    double ampsStep = 0.0;

    [[nodiscard]] std::size_t size() const { return time.size(); }
    [[nodiscard]] bool hasCurrent() const { return !amps.empty(); }
    [[nodiscard]] double power(std::size_t k) const { return watts.empty() ? volts[k] * amps[k] : watts[k]; }
    [[nodiscard]] double span() const { return time.empty() ? 0.0 : time.back() - time.front(); }
    /// Calls f(column, name) for each column, in file order; names are those of the bundle's CSV.
    template<class Self, class F>
    static void eachColumn(Self& self, F f) {
        f(self.time, "time_s");
        f(self.volts, "volts_v");
        f(self.amps, "amps_a");
        f(self.watts, "watts_w");
        f(self.temperature, "temperature_c");
        f(self.percent, "percent");
    }
};

/// No bench reads more, in volts, amperes or watts; and no run lasts longer, in seconds either side of its log's zero
/// (30 000 years).
inline constexpr double kMostReading = 1e6, kMostSeconds = 1e12;
/// What breaks the invariants of a trace, or is no reading of any bench, in words: a column of another length, a time
/// that steps back, NaN volts, 1e300 A. Nothing when it is sound. Every sum asks for that first.
[[nodiscard]] std::optional<std::string> unsound(const Trace& trace);

/// The part between two moments, its ends interpolated linearly. Empty when nothing lies between them.
[[nodiscard]] Trace cropped(const Trace& trace, double from, double to);
/// C3: the same trace on a true clock, t_true = factor · t_logged.
[[nodiscard]] Trace rescaled(const Trace& trace, double factor);
/// Changes the sign of all currents (and watts): the meter was plugged in the other way round.
void reverseDirection(Trace& trace);
/// What the last digit of a column's readings is worth: the smallest difference between readings where enough different
/// ones are there to tell it from the signal's own steps. Else the last digit as `written` in the log (0: not known,
/// then as the readings themselves show it), without zeros that all readings end in. 0 where no digit of up to a
/// millionth can be seen.
[[nodiscard]] double resolutionOf(const Readings& column, double written = 0.0);
/// Median of the steps between samples, in seconds; from at most some 20 000 of them, evenly chosen. 0 below two
/// samples.
[[nodiscard]] double medianStep(const Column& time);

} // namespace otterstone::trace
