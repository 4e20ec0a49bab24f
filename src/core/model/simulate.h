// F: whole runs of a simulated bank, read by a meter that errs within its stated accuracy. Same seed, same trace.
#pragma once

#include <cstdint>
#include <vector>

#include "core/kinds/traced/finding.h"
#include "core/model/bank.h"
#include "core/path/meter.h"
#include "core/path/point.h"
#include "core/trace/trace.h"

namespace otterstone::model {

/// One more meter somewhere along the path.
struct Station {
    path::Point point = path::Point::BankOut;
    path::Meter meter;
    double ohms = 0.0;              ///< loop resistance between the bank's port and here
    double chargerEfficiency = 0.0; ///< above 0: at the wall, before a charger of this efficiency
    double clockRuns = 1.0;         ///< seconds it counts for each true one
    double startsAt = 0.0;          ///< true seconds after the main meter's start
};

/// How a run is read: cable between port and meter, the meter's errors drawn once per run from `seed`.
struct Reading {
    path::Meter meter;
    double pathOhms = 0.0;
    double noiseVolts = 0.0005;
    double noiseAmps = 0.0005;
    double voltsDigit = 0.001; ///< readings are rounded to this
    double ampsDigit = 0.001;
    double sampleSeconds = 1.0;
    double idleBefore = 20.0;
    double idleAfter = 60.0;
    double clockRuns = 1.0; ///< seconds the meter counts for each true one
    std::vector<Station> also;
    std::uint64_t seed = 1;
};

struct DrainPlan {
    double volts = 5.0;
    double amps = 1.0;
    double ambient = 20.0;
    std::vector<double> ampsSteps = {}; ///< loads of equal length before the lasting one, for a cable's straight line
    double stepSeconds = 60.0;
    double stopAfter = 0.0;                     ///< seconds after which the tester ends it; 0: the bank does
    std::vector<double> percentMarksEvery = {}; ///< moments, in shares of the run, at which the display is read off
    double beginsAt = 1.0;                      ///< state of charge of the bank, 0 to 1
    double deviceTakes = 0.0; ///< Wh that a device takes until it is full, tapering over the last third; 0: a load
};

struct RechargePlan {
    double volts = 9.0;
    double chargerWatts = 18.0;
    double ambient = 20.0;
    double throttleFrom = 0.0; ///< seconds after the start at which the input drops to 2.5 W for `throttleFor`
    double throttleFor = 0.0;
    double beginsAt = 0.0;    ///< state of charge of the bank, 0 to 1
    double errorAfter = 0.0;  ///< seconds after the start at which the charger gives up; 0: it does not
    double replugAfter = 0.0; ///< seconds after that at which somebody plugs it in anew; 0: nobody does
};

struct Truth {
    double portWattHours = 0.0;
    double cellWattHours = 0.0; ///< ∫ open-circuit volts × cell current
    double lostWattHours = 0.0; ///< converter and cell resistance
    double seconds = 0.0;       ///< under load, or until the end of charge
    bool stoppedByHeat = false;
    bool full = false;                         ///< of a recharge: the bank was, when it ended
    bool deviceFull = false;                   ///< of a drain: the device was
    double beganAt = 0.0, endedAt = 0.0;       ///< state of charge of the bank, 0 to 1
    double saidAtBegin = 0.0, saidAtEnd = 0.0; ///< by the display, %
    double hottest = 0.0;                      ///< °C
};

struct SimulatedRun {
    trace::Trace trace;             ///< as the meter wrote it
    std::vector<trace::Trace> also; ///< as the other stations did
    Truth truth;
    std::vector<records::Mark> marks;
};

/// To cut-off, heat trip, over-current, or until its device is full.
[[nodiscard]] SimulatedRun drain(const Bank& bank, const DrainPlan& plan, const Reading& reading);
/// Until it is full, or its charger gave up for good, and `idleAfter` on.
[[nodiscard]] SimulatedRun recharge(const Bank& bank, const RechargePlan& plan, const Reading& reading);

} // namespace otterstone::model
