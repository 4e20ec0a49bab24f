// What one run has come to; internal to the runner.
#pragma once

#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "bench/runner/progress.h"
#include "bench/runner/seen.h"
#include "bench/runner/stops.h"
#include "book/store/capture.h"
#include "core/label/label.h"

namespace otterstone::bench {

/// Made anew for each run, so that nothing of the one before stays. Seconds are the bench's, milliseconds real.
struct RunState {
    Progress progress;
    std::optional<Stop> stop;
    qint64 connectingSince = 0;
    double closingSince = 0.0;
    double askedDisplayAt = 0.0;

    // Steps.
    std::size_t step = 0;
    double stepSince = 0.0;
    std::string asks; ///< why the run waits for the tester in the midst of a step, its load off
    double askedAt = 0.0;
    label::Tier tiers[2];     ///< asked for, by load
    bool windowKnown = false; ///< something was asked for, or an output was seen
    StepWatch watch;
    std::vector<SeenStep> seen;
    bool outputGone = false;  ///< at the end of the last step that drew something
    std::optional<Stop> gone; ///< the output went off, and what brings it back is being tried
    double goneLevel = 0.0;

    // What watches.
    std::unique_ptr<Stops> stops;
    std::unique_ptr<Forecast> forecast;
    double polledAt = -1e9, pollEvery = 1.0;
    double steadySince = 0.0; ///< no load was switched since
    /// What each load was asked for.
    struct Asked {
        Mode mode = Mode::Current;
        double level = 0.0;
    } asked[2];
    int setOtherwise = 0;      ///< answers in a row that name another level than was asked for
    int tooMuch = 0;           ///< readings in a row at which more flows than was asked for
    double tooMuchSince = 0.0; ///< of the first of them
    std::string meddled;       ///< somebody else switched a load on after this run had ended: which
    int differs = 0;           ///< polls at which meter and load said different amperes
    double differSince = 0.0;
    std::optional<double> celsius;
    double heatAskedAt = 0.0, heatAskedAfter = 0.0; ///< the last question, and how long after the one before
    qint64 stillOnSince = 0;
    bool saidStillOn = false;

    // The book.
    long long run = 0;
    bool recording = false, finishing = false, closed = false;
    book::Batch batch;
    qint64 stuckSince = -1;
    std::string rescued;

    // A rehearsal's bench.
    bool inStep = false;    ///< the stand-in's time is ours
    bool advancing = false; ///< the stand-in lets time pass
    qint64 advancedAt = 0;
    double chunk = 0.0; ///< that passed at once
    std::optional<double> trueBefore, trueAfter;
};

} // namespace otterstone::bench
