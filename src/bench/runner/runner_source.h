// One meter of a live run and what became of its readings; internal to the runner.
#pragma once

#include <functional>
#include <memory>
#include <string>

#include "bench/instruments/meter.h"
#include "bench/runner/time_keeper.h"

namespace otterstone::bench {

/// Seconds on the bench within which a load hears from the runner whenever time passes at the runner's word; shorter
/// than the watchdog of the stand-in's load.
inline constexpr double kLoadHearsWithin = 20.0;
/// Seconds on the bench between two questions to loads and thermometer, but in a fast rehearsal.
inline constexpr double kPollSeconds = 1.0;

struct Runner::Source {
    Role role;
    path::Point point = path::Point::Meter;
    std::unique_ptr<Meter> meter; ///< none when the load measures
    TimeKeeper keeper;
    bool celsius = false, percent = false;
    std::optional<logs::LiveReading> last;
    double lastAt = 0.0;    ///< of the last good reading, on the bench's clock
    double usualStep = 1.0; ///< between readings, smoothed
    long long readings = 0, spoiled = 0;
    long long spoiledInRow = 0;
    std::string spoiledWhy;
    double spoiledMarkedAt = -1e9;
    bool holeMarked = false;

    std::optional<logs::LiveReading> same;   ///< the last reading that differed from the one before
    double sameSince = 0.0, stampStep = 1.0; ///< bench seconds; how long its stamps stand as a rule

    /// A meter that froze prints one line again and again. Those without a clock of their own cannot be told from
    /// steady ones.
    [[nodiscard]] bool standsStill(const logs::LiveReading& reading, double now);

    using Mark = std::function<void(std::string)>;
    /// Marks the beginning of a hole in the readings, once.
    void lookForHoles(double now, const Mark& mark);
    /// A good reading came: marks what lies behind.
    void good(double now, const Mark& mark);
    void bad(double now, const std::string& why, const Mark& mark);
    /// What a person should look for when nothing comes.
    [[nodiscard]] std::string whySilent() const;
};

} // namespace otterstone::bench
