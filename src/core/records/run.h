// A run as the book holds it: its kind, the stretches of its path, and what was written down of it.
#pragma once

#include <optional>
#include <string>
#include <utility>
#include <vector>

#include "core/path/point.h"
#include "core/quantity/stated.h"
#include "core/records/conditions.h"
#include "core/records/gear.h"
#include "core/records/kind.h"
#include "core/records/mark.h"
#include "core/records/sheet.h"
#include "core/records/state.h"

namespace otterstone::records {

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

struct Run {
    Id id = kNew;
    Id bank = kNew;
    Kind kind = Kind::Drain;
    std::string title;
    std::string startedAt; ///< ISO 8601; empty when the log has no date
    std::optional<Id> charger, farCable, cable, meter, load, trigger, thermometer, device;
    std::optional<Target> target;
    path::Point point = path::Point::Meter; ///< where the main trace was read
    bool byDisplay = false;
    std::string port;               ///< of the bank, as on its label; empty when not stated
    bool settling = false;          ///< left out of repeats, pairs and the usable curve
    std::optional<double> ambient;  ///< °C
    Conditions conditions;          ///< that make it unlike others besides load and gear
    std::optional<double> from, to; ///< what is analysed, on the log's clock
    std::string logName;
    std::size_t skippedLines = 0;
    std::optional<double> counterWattHours, counterAmpHours;
    std::optional<Sheet> sheet; ///< of the kinds that have one
    std::vector<AlsoTrace> also;
    std::vector<std::pair<std::string, std::string>> logWarnings; ///< code, text: what the import said
    std::vector<Mark> marks;
    StatedEnds ends; ///< what the tester said of its begin and end
    std::string notes;
    std::string recipe;  ///< of a run on the live bench: the recipe it followed, as JSON
    std::string stopped; ///< why that ended, as told
    bool open = false;   ///< it is being captured, or was when the program ended
    /// Samples of its own, not a sheet filled in by hand.
    [[nodiscard]] bool hasTrace() const { return !(sheet && recipe.empty()); }
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

} // namespace otterstone::records
