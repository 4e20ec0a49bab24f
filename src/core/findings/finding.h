// What one run says: the figures of a drain or a recharge, each with its working. Pure functions of trace and setup.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/findings/device.h"
#include "core/findings/gauge.h"
#include "core/findings/heat.h"
#include "core/findings/kind.h"
#include "core/findings/method.h"
#include "core/findings/points.h"
#include "core/findings/schools.h"
#include "core/label/rating.h"
#include "core/path/bottleneck.h"
#include "core/path/meter.h"
#include "core/path/own_draw.h"
#include "core/path/point.h"
#include "core/problem.h"
#include "core/quantity/measured.h"
#include "core/trace/energy.h"
#include "core/trace/phases.h"
#include "core/trace/sampling.h"
#include "core/trace/trace.h"
#include "core/working.h"

namespace otterstone::findings {

/// All that a finding depends on besides the samples.
struct Setup {
    std::optional<label::Rating> rating; ///< the house's reference; setRating() fills it and the other schools'
    std::vector<std::pair<label::Reference, label::Rating>> ratings;
    std::optional<Volts> cellVolts;
    Schools schools;
    path::Point point = path::Point::Meter; ///< where the trace was read
    bool byDisplay = false;                 ///< read off the bank's own display, not a meter
    path::Meter meter;
    Measured clock = Measured(1.0);   ///< C3: factor from logged to true time
    std::optional<Measured> pathOhms; ///< loop resistance between the bank's port and the meter
    std::optional<Measured> farOhms;  ///< of the cable on the meter's other side
    std::string cableName = "cable", farCableName = "far cable";
    std::optional<Measured> chargerEfficiency; ///< wall to the charger's socket, a fraction
    std::optional<path::OwnDraw> ownDraw;
    std::vector<Reading> also;          ///< the run's other traces
    std::optional<trace::Between> hand; ///< C6: a few readings by hand, so no step is a gap
    std::optional<double> maxGap;       ///< seconds; C2's rule when not given
    std::optional<double> from, to;     ///< on the log's own clock
    trace::FullRule full;
    std::optional<Hours> claimedRecharge;
    std::optional<Watts> claimedInput;         ///< what the recharge claim needs
    std::optional<Watts> chargerWatts;         ///< what the charger of this run can give
    std::optional<path::Prediction> predicted; ///< B3: what charger, cable and bank can agree on
    std::optional<double> ambient;             ///< °C
    std::optional<double> thermometerKelvin;   ///< ±, half-width; without it temperatures carry no ±
    std::optional<Device> device;              ///< D13: what a drain charged
    std::optional<TargetBank> target;          ///< D4: the bank a drain went into
    double gaugeErrorPoints = 5.0; ///< what the display is trusted to. Common practice, no published source.
    std::vector<Mark> marks;
    std::string run;     ///< identity of the run's own errors: no other run shares them
    std::string logName; ///< for the working's leaf
    std::size_t skippedLines = 0;
    std::optional<double> counterWattHours; ///< C5: what the meter itself counted over the whole log
    std::optional<double> counterAmpHours;
};

/// Rating and ratings from a label, as the setup's schools have it.
void setRating(Setup& setup, const label::Label& label);

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
    [[nodiscard]] bool complete() const { return endedBy == trace::EndedBy::CutOff; }
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
    std::vector<trace::Stretch> throttles;
    std::optional<double> againstDisplay; ///< time taken ÷ time the bank's own display said, − 1
    std::optional<double> againstClaim;   ///< time taken ÷ time claimed, only if the charger could supply the claim
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
    std::string sentence;         ///< the one to quote
    std::vector<Working> figures; ///< in the order of the screen; the key names the figure
};

/// The finding of a trace. A problem when the window holds fewer than two samples or nothing flowed.
[[nodiscard]] Result<Finding> analyse(const trace::Trace& trace, Kind kind, const Setup& setup);

/// A run of which only the meter's counters were read at the end. Wh, or mAh with the mean volts; the time if it was
/// kept.
struct Counters {
    std::optional<double> wattHours, milliampHours, meanVolts, seconds;
    bool operator==(const Counters&) const = default;
};
/// A problem when neither Wh nor mAh with volts are there, or when the three contradict each other by more than 3 %.
[[nodiscard]] Result<Finding> analyseCounters(const Counters& counters, Kind kind, const Setup& setup);

/// The figure with this key, or nothing.
[[nodiscard]] const Working* figure(const Finding& finding, std::string_view key);

} // namespace otterstone::findings
