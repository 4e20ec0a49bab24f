// What a live run looks like at a moment: everything the page and the strip show.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include <QMetaType>

#include "bench/runner/stops.h"
#include "core/records/mark.h"

namespace otterstone::bench {

/// StillOn: everything is written down, but a load could not be switched off; it is told so until it is.
enum class Phase { Idle, Connecting, Running, Waiting, Closing, StillOn, Finished };

struct Health {
    std::string role, name, address;
    bool up = false;
    long long readings = 0, spoiled = 0;
    std::string trouble;
};

struct CurvePoint {
    double time = 0.0, volts = 0.0, amps = 0.0;
};

struct Progress {
    Phase phase = Phase::Idle;
    long long run = 0; ///< 0: not in the book yet
    std::size_t step = 0, steps = 0;
    std::string doing;    ///< the present step, a sentence
    std::string toDo;     ///< while waiting: what the tester does
    double elapsed = 0.0; ///< the run's clock
    double volts = 0.0, amps = 0.0;
    std::optional<double> celsius, inVolts, inAmps;
    double wattHours = 0.0, ampHours = 0.0;
    bool loadOn = false;
    std::string
        stillOn; ///< why a load that should be off cannot be said to be, once that has lasted; empty when all is well
    std::string next;             ///< the next decision: "read the display's percentage"
    std::optional<double> nextAt; ///< on the run's clock
    std::optional<double> ownEnd, claimEnd,
        displayEnd;      ///< predicted, on the run's clock: ours, the label's claim, the display's own
    std::string ownFrom; ///< what ours rests on
    std::optional<records::Mark> lastMark;
    std::size_t marks = 0;
    std::vector<Health> health;
    std::vector<CurvePoint> fresh; ///< since the last one; thinned when there are many
    std::vector<records::Mark> freshMarks;
    double committedTo = 0.0;
    std::string bookTrouble;
};

struct Outcome {
    long long run = 0; ///< 0: none was made
    Stop stop;
    std::optional<double> trueWattHours; ///< of a rehearsal: what really went through the port meanwhile
    std::string stillOn; ///< why a load may be on still, should the program end now; empty when all are off
    std::string rescued; ///< file with what the book did not take
};

/// Wh and Ah so far, and when it will be over. Pure; the runner feeds it.
class Forecast {
public:
    Forecast(bool drain, std::optional<double> expectedWattHours) : drain_(drain), expected_(expectedWattHours) {}
    void reading(double time, double volts, double amps);
    void mark(const records::Mark& mark);
    [[nodiscard]] double wattHours() const { return wattHours_; }
    [[nodiscard]] double ampHours() const { return ampHours_; }
    /// By the energy still to flow at the present power; nothing while nothing flows or nothing is known.
    [[nodiscard]] std::optional<double> ownEnd() const;
    /// By the bank's display: its own estimate if it was stamped, else its percentage.
    [[nodiscard]] std::optional<double> displayEnd() const;
    [[nodiscard]] std::optional<double> onset() const { return onset_; }

private:
    bool drain_;
    std::optional<double> expected_;
    double time_ = 0.0, volts_ = 0.0, amps_ = 0.0;
    bool any_ = false;
    double wattHours_ = 0.0, ampHours_ = 0.0;
    double watts_ = 0.0; ///< smoothed
    std::optional<double> onset_, displayEnd_;
};

} // namespace otterstone::bench

Q_DECLARE_METATYPE(otterstone::bench::Progress)
Q_DECLARE_METATYPE(otterstone::bench::Outcome)
