// When a run must stop. Fed with readings and the bench's clock; no instruments, so that every rule is a table row in a
// test.
//
// Invariants, cited by number in tests:
//  1. Temperature and voltage window stop at the first reading beyond them; the window's upper end with or without a
//  load.
//  2. Silence stops when no reading came for Limits::silentSeconds, counted from the last one, the start, or the moment
//  from which it could be heard.
//  3. An output that comes back within kGoneSeconds was not gone: sockets pause when something is plugged.
//  4. An output that keeps its volts while the current is gone did not switch off: its load, or what lies between, did.
//  5. Every temperature that is expected is heard: one that says nothing for Limits::silentSeconds, nothing that can be
//  true, or always the same, stops.
#pragma once

#include <deque>
#include <optional>
#include <string>

#include "bench/runner/heat_watch.h"
#include "core/setup/schools.h"

namespace otterstone::bench {

inline constexpr double kGoneSeconds = 3.0;

enum class StopKind {
    CutOff,
    TaperEnd,
    StepTime,
    Settled,
    Time,
    Temperature,
    VoltageWindow,
    SensorLost,
    Silent,
    InstrumentLost,
    Refused,
    BookLost,
    Slept,
    Tester,
    Done
};
/// Whether it is a normal end rather than something that went wrong.
[[nodiscard]] bool isOrderly(StopKind kind);

struct Stop {
    StopKind kind = StopKind::Done;
    std::string why; ///< a sentence without its full stop: "the temperature reached 60.2 °C, above the limit of 60 °C"
};

/// Of every run, whatever its recipe says. A lithium cell that is warmer is on its way to trouble (common practice, no
/// published source); a run of more than a week is a slip.
inline constexpr double kLeastCelsius = 20.0, kMostCelsius = 90.0;
inline constexpr double kLongestRun = 7.0 * 86400.0;

struct Limits {
    double seconds = 48.0 * 3600.0;
    double celsius = 60.0;
    double lowVolts = 0.0, highVolts = 60.0; ///< under load, at the meter
    double silentSeconds = 5.0;
    double fullShare = 0.05, fullSeconds = 600.0; ///< the end of a taper, as the house's school has it
    double settledKelvin = 0.5, settledSeconds = 600.0;
};

/// What temperatures are called in words.
inline constexpr const char* kThermometer = "the thermometer";
inline constexpr const char* kMeterHeat = "the meter's temperature";

class Stops {
public:
    Stops(const Limits& limits, std::string goneMeans) : limits_(limits), goneMeans_(std::move(goneMeans)) {}

    /// The bench's clock now; before the first reading silence is counted from here.
    void start(double now);
    /// A load was switched: what is now expected to flow. 0: nothing.
    void expect(double amps, double now);
    /// What ends the present step, besides what always ends a run.
    void watchFor(bool cutOff, bool taper, bool settled, double now);

    struct Seen {
        double volts = 0.0, amps = 0.0;
        std::optional<double> celsius;
    };
    /// A reading of the watched meter. `at`: the bench's clock.
    [[nodiscard]] std::optional<Stop> reading(const Seen& seen, double at);
    /// A temperature from the thermometer.
    [[nodiscard]] std::optional<Stop> temperature(double celsius, double at);
    /// For a while nobody could have heard anything: silence counts from now on.
    void listenAnew(double now) {
        lastReading_ = now;
        heat_.listenAnew(now);
    }
    [[nodiscard]] HeatWatch& heat() { return heat_; }
    /// Time passes.
    [[nodiscard]] std::optional<Stop> tick(double now);
    void setLimits(const Limits& limits) { limits_ = limits; }
    /// Another tier was asked for. Until the port has changed, what was right before is no fault.
    void askedFor(const Limits& limits, double now);
    [[nodiscard]] const Limits& limits() const { return limits_; }

private:
    [[nodiscard]] std::optional<Stop> heard(const std::string& source, double celsius, double at);
    Limits limits_;
    double highBefore_ = 0.0, limitsSince_ = -1e300;
    std::string goneMeans_;
    HeatWatch heat_;
    double startedAt_ = 0.0, lastReading_ = 0.0;
    double expected_ = 0.0, expectedSince_ = 0.0;
    bool cutOff_ = false, taper_ = false, settled_ = false;
    bool flowed_ = false;
    double carriedVolts_ = 0.0; ///< at the last reading with current
    std::optional<double> goneSince_, lowSince_;
    double peakWatts_ = 0.0;
    struct Warmth {
        double at, celsius;
    };
    std::deque<Warmth> warmth_; ///< of the last settledSeconds, thinned out
};

} // namespace otterstone::bench
