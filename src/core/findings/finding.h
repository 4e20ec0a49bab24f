// What one run says: the figures of a drain or a recharge, each with its working. Pure functions of trace and setup.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/label/rating.h"
#include "core/path/meter.h"
#include "core/path/point.h"
#include "core/problem.h"
#include "core/quantity/measured.h"
#include "core/trace/energy.h"
#include "core/trace/phases.h"
#include "core/trace/trace.h"
#include "core/working.h"

namespace otterstone::findings {

/// Changes whenever a sum changes, so that cached findings are worked out anew.
inline constexpr int kMethodVersion = 1; // raise it with the next sum that changes

enum class Kind { Drain, Recharge };
[[nodiscard]] std::string kindKey(Kind kind);
[[nodiscard]] std::optional<Kind> kindFromKey(std::string_view key);

/// Something stamped at a moment of a run.
struct Mark {
    enum class What { Percent, Leds, Plugged, Unplugged, Temperature, Trip, Estimate, Note };
    double at = 0.0; ///< seconds on the trace's clock
    What what = What::Note;
    std::optional<double> number; ///< %, LEDs lit, °C; for an estimate the seconds the bank's display said it would still take
    std::string text;
    bool operator==(const Mark&) const = default;
};
[[nodiscard]] std::string markKey(Mark::What what);
[[nodiscard]] std::optional<Mark::What> markFromKey(std::string_view key);

/// All that a finding depends on besides the samples.
struct Setup {
    std::optional<label::Rating> rating;
    std::optional<Volts> cellVolts;
    path::Meter meter;
    Measured clock = Measured(1.0);     ///< C3: factor from logged to true time
    std::optional<Measured> pathOhms;   ///< loop resistance between the bank's port and the meter
    std::optional<double> maxGap;       ///< seconds; C2's rule when not given
    std::optional<double> from, to;     ///< on the log's own clock
    trace::FullRule full;
    std::optional<Hours> claimedRecharge;
    std::optional<Watts> claimedInput;  ///< what the recharge claim needs
    std::optional<Watts> chargerWatts;  ///< what the charger of this run can give
    std::vector<Mark> marks;
    std::string logName;                ///< for the working's leaf
    std::size_t skippedLines = 0;
    std::optional<double> counterWattHours; ///< C5: what the meter itself counted over the whole log
    std::optional<double> counterAmpHours;
};

struct DrainFinding {
    std::optional<Measured> deliveredShare;      ///< D1
    std::optional<Measured> equivalentMah;       ///< D3, at the cell's nominal voltage
    trace::EndedBy endedBy = trace::EndedBy::Unknown;
    std::vector<trace::Stretch> interruptions;
    double activeSeconds = 0.0;
    std::optional<Measured> projectedWattHours;  ///< D7, an estimate; only for a run that stopped early
};

struct RechargeFinding {
    std::optional<Measured> timeTo50, timeTo80, timeTo100; ///< seconds from the start of charging
    double bulkSeconds = 0.0;
    double taperSeconds = 0.0;
    std::optional<double> endOfCharge; ///< on the trace's clock; nothing when not seen
    Measured plateauWatts;
    std::vector<trace::Stretch> throttles;
    std::optional<double> againstDisplay; ///< time taken ÷ time the bank's own display said, − 1
    std::optional<double> againstClaim; ///< time taken ÷ time claimed, only if the charger could supply the claim
};

struct Finding {
    Kind kind = Kind::Drain;
    std::size_t samples = 0;
    std::size_t skippedLines = 0;
    double durationSeconds = 0.0;
    Measured wattHours;                    ///< where the meter was
    std::optional<Measured> milliampHours;
    std::optional<Measured> meanVolts;     ///< E / Q
    Measured meanWatts;
    double peakWatts = 0.0;
    path::Point point = path::Point::Meter;
    Measured portWattHours;                ///< referred to the bank's port (B2); the meter's without a resistance
    bool referred = false;
    std::optional<double> ratedWattHours;
    std::vector<trace::Gap> gaps;
    std::vector<trace::Phase> phases;
    std::vector<trace::TierChange> tierChanges;
    std::vector<Warning> warnings;
    std::optional<DrainFinding> drain;
    std::optional<RechargeFinding> recharge;
    std::string sentence;                  ///< the one to quote
    std::vector<Working> figures;          ///< in the order of the screen; the key names the figure
};

/// The finding of a trace. A problem when the window holds fewer than two samples or nothing flowed.
[[nodiscard]] Result<Finding> analyse(const trace::Trace& trace, Kind kind, const Setup& setup);

/// The figure with this key, or nothing.
[[nodiscard]] const Working* figure(const Finding& finding, std::string_view key);

} // namespace otterstone::findings
