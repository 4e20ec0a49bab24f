// What a sheet is held against.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/label/label.h"
#include "core/path/bottleneck.h"
#include "core/path/meter.h"
#include "core/quantity/measured.h"
#include "core/setup/prices.h"

namespace otterstone::setup {

struct Source {
    std::string name;
    path::Side side;            ///< what it offers
    std::optional<Price> price; ///< in the house's currency where a rate is known
};

struct Wire {
    std::string name;
    Amps limit{3.0};
    std::optional<double> ohms; ///< loop
    std::optional<Price> price;
};

/// What a notebook's devices may be.
struct KnownDevice {
    std::string name;
    double wattHours = 0.0; ///< of its battery
};

struct Facts {
    std::string bank;
    std::string run; ///< identity of the sheet's own errors
    label::Label label;
    path::Meter meter;                 ///< what the volts and amps were read with; may know no accuracy
    std::optional<Measured> pathOhms;  ///< loop between the bank's port and where volts were read
    std::optional<Measured> roundTrip; ///< of this bank, from its runs
    std::vector<Source> chargers;
    std::vector<Wire> cables;
    std::optional<double> deviceWattHours; ///< battery of what was charged
    std::string device;
    std::string charger;                     ///< the run's own
    std::optional<double> chargerWatts = {}; ///< what that can give
    std::vector<KnownDevice> devices = {};   ///< of the drawer, where their battery is known
};

} // namespace otterstone::setup
