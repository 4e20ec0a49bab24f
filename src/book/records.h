// What a book holds, as plain values: banks, gear and runs. Saved and read by Book, exchanged by the bundle.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/findings/finding.h"
#include "core/label/label.h"
#include "core/path/meter.h"
#include "core/quantity/measured.h"

namespace otterstone::book {

using Id = long long;
inline constexpr Id kNew = 0;

struct Bank {
    Id id = kNew;
    std::string name;
    label::Label label;
    std::string notes;
    bool operator==(const Bank&) const = default;
};

enum class GearKind { Charger, Cable, Meter, Load };
[[nodiscard]] std::string gearKey(GearKind kind);
[[nodiscard]] std::optional<GearKind> gearFromKey(std::string_view key);

/// One piece of gear, used by many runs. Which members mean something depends on the kind.
struct Gear {
    Id id = kNew;
    GearKind kind = GearKind::Meter;
    std::string name;
    std::optional<double> watts;      ///< charger: the most it gives; load: the most it takes
    std::optional<double> ohms;       ///< cable: loop resistance
    std::optional<double> ohmsExpanded; ///< cable: its ± (k = 2)
    path::Meter meter;                ///< meter: accuracy; its name is this gear's
    double clockFactor = 1.0;         ///< meter: true time ÷ its own
    std::optional<double> clockExpanded;
    bool operator==(const Gear&) const = default;
};

struct Run {
    Id id = kNew;
    Id bank = kNew;
    findings::Kind kind = findings::Kind::Drain;
    std::string title;
    std::string startedAt; ///< ISO 8601; empty when the log has no date
    std::optional<Id> charger, cable, meter, load;
    std::optional<double> from, to; ///< what is analysed, on the log's clock
    std::string logName;
    std::size_t skippedLines = 0;
    std::optional<double> counterWattHours, counterAmpHours;
    std::vector<std::pair<std::string, std::string>> logWarnings; ///< code, text: what the import said
    std::vector<findings::Mark> marks;
    std::string notes;
    bool operator==(const Run&) const = default;
};

} // namespace otterstone::book
