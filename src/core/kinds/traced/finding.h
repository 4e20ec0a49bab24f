// What one run says: the figures of a drain or a recharge, each with its working. Pure functions of trace and setup.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/kinds/judge.h"
#include "core/kinds/names.h"
#include "core/kinds/traced/ends.h"
#include "core/kinds/traced/gauge.h"
#include "core/kinds/traced/heat.h"
#include "core/kinds/traced/points.h"
#include "core/label/rating.h"
#include "core/path/bottleneck.h"
#include "core/path/meter.h"
#include "core/path/own_draw.h"
#include "core/path/point.h"
#include "core/quantity/measured.h"
#include "core/quantity/problem.h"
#include "core/quantity/working.h"
#include "core/records/kind.h"
#include "core/setup/setup.h"
#include "core/trace/energy.h"
#include "core/trace/phases.h"
#include "core/trace/sampling.h"
#include "core/trace/trace.h"

namespace otterstone::kinds {

struct DrainFinding {
    std::optional<Measured> deliveredShare; ///< D1
    std::optional<Measured> equivalentMah;  ///< D3, at the cell's nominal voltage
    trace::EndedBy endedBy = trace::EndedBy::Unknown;
    std::vector<trace::Stretch> interruptions; ///< the output was gone for a while
    std::vector<trace::Stretch> pauses;        ///< nothing was drawn while the output stood
    std::vector<std::string> restarts; ///< what each interruption needed to go on, as stamped; empty where nothing was
    double activeSeconds = 0.0;
    std::optional<Measured> projectedWattHours; ///< D7, an estimate; only for a run that stopped early
    std::optional<Measured> transferred;        ///< D4: a lower bound
};

struct RechargeFinding {
    std::optional<Measured> timeTo50, timeTo80, timeTo100; ///< seconds from the start of charging
    double bulkSeconds = 0.0;
    double taperSeconds = 0.0;
    std::optional<double> endOfCharge; ///< on the trace's clock; nothing when not seen
    std::optional<double> brokeOff;    ///< the power ended from its full level, without a taper
    Measured plateauWatts;             ///< what it takes, at the port where the cable is known
    Measured untilEndWattHours;        ///< into the port until the end of charge, or of the log
    std::optional<Measured>
        wallWattHours;               ///< from the wall until then, read or through the charger's stated efficiency
    std::optional<double> idleWatts; ///< drawn at 100 %, over the time after the end of charge
    bool claimTested = false;
    std::string claimNotTested; ///< why not, where there is a claim
    std::vector<trace::Stretch> throttles;
    std::vector<trace::Stretch> stops;    ///< nothing went in for a while, and then it went on
    std::vector<std::string> restarts;    ///< what each stop needed to go on, as stamped; empty where nothing was
    std::optional<double> againstDisplay; ///< time taken ÷ time the bank's own display said, − 1
    std::optional<double> againstClaim;   ///< time taken ÷ time claimed, only if the charger could supply the claim
};

/// The pieces its sentence is put together from: which of them stand depends on what its ends allow.
struct SaidOfRun {
    std::string amount, amountInWh; ///< as the house writes capacities; in Wh, where no capacity may be told
    std::string share;              ///< "88 % of the printed 37 Wh"
    std::string time;               ///< under load; until full
    std::string timeTo80;           ///< where the house compares by it
    std::string restsOn; ///< at its end: " The meter's accuracy is not stated.", " From the meter's counters."
};

/// A figure that the ends of its run do not allow, and where it stood.
struct Withheld {
    std::size_t place = 0;
    Working figure;
};

struct Finding {
    Kind kind = Kind::Drain;
    std::size_t samples = 0;
    std::size_t skippedLines = 0;
    double durationSeconds = 0.0;
    Measured wattHours; ///< where the meter was
    std::optional<Measured> milliampHours;
    std::optional<Measured> meanVolts; ///< E / Q
    double onSeconds = 0.0;            ///< how long power flowed; a recharge until it was full
    Measured meanWatts;                ///< while it did
    double peakWatts = 0.0;
    path::Point point = path::Point::Meter;
    Measured portWattHours;            ///< referred to the bank's port (B2); the meter's without a resistance
    bool referred = false;             ///< true when the port's figure is more than the main trace's own
    std::vector<PointFigure> points;   ///< as the energy flows; also those only referred to
    std::vector<LinkFigure> links;     ///< between them
    std::optional<GaugeFinding> gauge; ///< D6
    std::optional<HeatFinding> heat;   ///< D15
    double plateauAmps = 0.0, plateauVolts = 0.0, plateauPower = 0.0;
    std::optional<double> ratedWattHours;
    std::vector<trace::Gap> gaps;
    std::vector<trace::Phase> phases;
    std::vector<trace::TierChange> tierChanges;
    std::vector<Warning> warnings;
    std::optional<DrainFinding> drain;
    std::optional<RechargeFinding> recharge;
    EndsSeen seen;      ///< what it shows of its ends
    Ends ends;          ///< what is known of them, its neighbours heard
    bool fills = false; ///< of a sheet that looked at the bank: energy went into it
    SaidOfRun said;
    std::vector<Withheld> withheld;
    std::string sentence;         ///< the one to quote
    std::vector<Working> figures; ///< in the order of the screen; the key names the figure
};

/// The finding of a trace. A problem when the window holds fewer than two samples or nothing flowed.
[[nodiscard]] Result<Finding> analyse(const trace::Trace& trace, Kind kind, const Setup& setup);

/// A run of which nothing but the meter's counters was read. Wh, or mAh with the mean volts; the time if it was kept.
struct Counters {
    std::optional<double> wattHours, milliampHours, meanVolts, seconds;
    bool operator==(const Counters&) const = default;
};
/// A problem when neither Wh nor mAh with volts are there, or when the three contradict each other by more than 3 %.
[[nodiscard]] Result<Finding> analyseCounters(const Counters& counters, Kind kind, const Setup& setup);

/// The same finding with what its neighbours in the bank's life say of its ends: figures whose needs
/// (core/kinds/needs.h) are not met are withheld, estimates stand in their place, and it asks what one word of the
/// tester would settle. analyse() and analyseCounters() give it without neighbours; it may be settled again with
/// others. Runs with a sheet are left as they are.
[[nodiscard]] Finding settled(Finding finding, const std::optional<Neighbour>& before = {},
                              const std::optional<Neighbour>& after = {});
/// Whether it can give a figure, by its ends.
[[nodiscard]] bool answers(const Finding& finding, std::string_view figure);

/// What a sheet said, as a finding: its ends are what it saw of the bank.
[[nodiscard]] Finding ofSheet(Kind kind, Said said);

/// The figure with this key, or nothing.
[[nodiscard]] const Working* figure(const Finding& finding, std::string_view key);

} // namespace otterstone::kinds
