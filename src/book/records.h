// What a book holds, as plain values: banks, gear and runs. Saved and read by Book, exchanged by the bundle.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/behaviour/sheet.h"
#include "core/evidence/evidence.h"
#include "core/findings/finding.h"
#include "core/findings/hand.h"
#include "core/label/label.h"
#include "core/path/meter.h"
#include "core/quantity/stated.h"

namespace otterstone::book {

using Id = long long;
inline constexpr Id kNew = 0;

struct Bank {
    Id id = kNew;
    std::string name;
    label::Label label;
    evidence::OnScale scale; ///< what it really weighs and measures
    std::string notes;
    bool operator==(const Bank&) const = default;
};

enum class GearKind { Charger, Cable, Meter, Load, Trigger, Thermometer, Device };
[[nodiscard]] std::string gearKey(GearKind kind);
[[nodiscard]] std::optional<GearKind> gearFromKey(std::string_view key);
[[nodiscard]] const std::vector<GearKind>& gearKinds();

/// One piece of gear, used by many runs. Which members mean something depends on the kind.
struct Gear {
    Id id = kNew;
    GearKind kind = GearKind::Meter;
    std::string name;
    std::string notes; ///< orientation quirks and the like
    std::optional<double> price;
    std::optional<double> watts; ///< charger: the most it gives; load: the most it takes; device: what it burns in use
    std::vector<label::Tier> tiers;          ///< charger: offered; trigger: what it can ask for
    std::optional<Stated> efficiency;        ///< charger: wall to socket; device: into its battery; a fraction
    std::optional<Stated> ohms;              ///< cable: loop resistance
    std::optional<double> metres;            ///< cable
    std::optional<int> awg;                  ///< cable: of its power wires
    bool marked = false;                     ///< cable: carries an electronic marker (5 A)
    std::string ends;                        ///< cable: "C to A"
    path::Meter meter;                       ///< meter and load: accuracy; its name is this gear's. Thermometer: unused
    std::optional<path::OwnDraw> ownDraw;    ///< meter
    Stated clock{1.0};                       ///< meter: true time ÷ its own
    std::string clockComparison;             ///< meter: the stopwatch comparison that gave it, as typed
    std::string modes;                       ///< load: "CC CP CR"
    std::optional<double> maxVolts, maxAmps; ///< load
    std::optional<double> kelvin;            ///< thermometer: ±
    std::optional<Stated> battery;           ///< device: Wh
    bool operator==(const Gear&) const = default;
};

/// One more trace of a run, read at another point of its path than the main one.
struct AlsoTrace {
    path::Point point = path::Point::BankOut;
    bool byDisplay = false;
    std::optional<Id> meter;
    std::string logName;
    /// Its name among the traces of the run: "bank out", "bank out (display)".
    [[nodiscard]] std::string key() const { return path::pointName(point) + (byDisplay ? " (display)" : ""); }
    bool operator==(const AlsoTrace&) const = default;
};

/// What a drain was poured into, when that was another bank of the book.
struct Target {
    Id bank = kNew;
    std::optional<double> startPercent, endPercent;
    std::optional<Stated> efficiency;
    bool operator==(const Target&) const = default;
};

/// Readings typed by hand, kept as typed so that they can be gone on with.
struct Hand {
    std::vector<findings::HandRow> rows;
    trace::Between between = trace::Between::Joined;
    bool operator==(const Hand&) const = default;
};

struct Run {
    Id id = kNew;
    Id bank = kNew;
    findings::Kind kind = findings::Kind::Drain;
    std::string title;
    std::string startedAt; ///< ISO 8601; empty when the log has no date
    std::optional<Id> charger, farCable, cable, meter, load, trigger, thermometer, device;
    std::optional<Target> target;
    path::Point point = path::Point::Meter; ///< where the main trace was read
    bool byDisplay = false;
    std::string port;               ///< of the bank, as on its label; empty when not stated
    bool settling = false;          ///< left out of repeats, pairs and the usable curve
    std::optional<double> ambient;  ///< °C
    std::optional<double> from, to; ///< what is analysed, on the log's clock
    std::string logName;
    std::size_t skippedLines = 0;
    std::optional<double> counterWattHours, counterAmpHours;
    std::optional<findings::Counters> countersOnly; ///< a run without a trace
    std::optional<Hand> hand;
    std::optional<behaviour::Sheet> sheet; ///< of the kinds that have one
    std::vector<AlsoTrace> also;
    std::vector<std::pair<std::string, std::string>> logWarnings; ///< code, text: what the import said
    std::vector<findings::Mark> marks;
    std::string notes;
    std::string recipe;  ///< of a run on the live bench: the recipe it followed, as JSON
    std::string stopped; ///< why that ended, as told
    bool open = false;   ///< it is being captured, or was when the program ended
    /// Samples of its own: not counters alone, nor a sheet filled in by hand.
    [[nodiscard]] bool hasTrace() const { return !countersOnly && !(sheet && recipe.empty()); }
    std::string capturedAt; ///< ISO 8601, UTC: when an open run's last samples were written
    bool operator==(const Run&) const = default;
};

/// The stretches of a run's path to which a piece of gear belongs.
struct Stretch {
    const char* key; ///< in files
    std::optional<Id> Run::*piece;
    GearKind kind;
};
inline constexpr Stretch kStretches[] = {{"charger", &Run::charger, GearKind::Charger},
                                         {"far_cable", &Run::farCable, GearKind::Cable},
                                         {"cable", &Run::cable, GearKind::Cable},
                                         {"meter", &Run::meter, GearKind::Meter},
                                         {"load", &Run::load, GearKind::Load},
                                         {"trigger", &Run::trigger, GearKind::Trigger},
                                         {"thermometer", &Run::thermometer, GearKind::Thermometer},
                                         {"device", &Run::device, GearKind::Device}};

[[nodiscard]] bool uses(const Run& run, Id gear);

/// A run that is still to be made: what would settle a claim, or what the tester wrote down.
struct PlannedRun {
    Id id = kNew;
    Id bank = kNew;
    findings::Kind kind = findings::Kind::Drain;
    std::string recipe; ///< key of one that ships; empty: by hand
    std::string claim;  ///< key of the claim it would settle; may be empty
    std::string words;
    bool done = false;
    bool operator==(const PlannedRun&) const = default;
};

/// A sheet that was published: what it said, and by what means, so that the next one can say what changed.
struct Publication {
    Id id = kNew;
    std::string scope; ///< the bank's name, or "comparison"
    std::string at;    ///< ISO 8601
    int method = 0;    ///< findings::kMethodVersion
    std::string json;  ///< figures and means (report/history.h)
    bool operator==(const Publication&) const = default;
};

} // namespace otterstone::book
