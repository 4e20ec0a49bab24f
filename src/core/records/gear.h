// A piece of gear, used by many runs.
#pragma once

#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "core/label/label.h"
#include "core/path/meter.h"
#include "core/path/own_draw.h"
#include "core/quantity/stated.h"
#include "core/records/bank.h"

namespace otterstone::records {

enum class GearKind { Charger, Cable, Meter, Load, Trigger, Thermometer, Device };
[[nodiscard]] std::string gearKey(GearKind kind);
[[nodiscard]] std::optional<GearKind> gearFromKey(std::string_view key);
[[nodiscard]] const std::vector<GearKind>& gearKinds();

/// One piece of gear, used by many runs. Which members mean something depends on the kind.
struct Gear {
    Id id = kNew;
    GearKind kind = GearKind::Meter;
    std::string name;
    std::string notes;           ///< orientation quirks and the like
    std::optional<double> price; ///< >= 0
    std::string currency;        ///< of its price, as written; empty when not said
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
    Stated clock{1.0};                       ///< meter and load: true time ÷ its own
    std::string clockComparison;             ///< the stopwatch comparison that gave it, as typed
    std::string modes;                       ///< load: "CC CP CR"
    std::optional<double> maxVolts, maxAmps; ///< load
    std::optional<double> kelvin;            ///< thermometer: ±
    std::optional<Stated> battery;           ///< device: Wh
    /// Reads volts and amps of its own, with an accuracy and a clock.
    [[nodiscard]] bool reads() const { return kind == GearKind::Meter || kind == GearKind::Load; }
    bool operator==(const Gear&) const = default;
};

} // namespace otterstone::records
