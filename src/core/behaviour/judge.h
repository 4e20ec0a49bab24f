// What a sheet says: one sentence to quote, the figures with their workings, and the pieces a picture is drawn from.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/behaviour/sheet.h"
#include "core/label/label.h"
#include "core/path/bottleneck.h"
#include "core/path/meter.h"
#include "core/problem.h"
#include "core/working.h"

namespace otterstone::behaviour {

struct Source {
    std::string name;
    path::Side side; ///< what it offers
    std::optional<double> price;
};

struct Wire {
    std::string name;
    Amps limit{3.0};
    std::optional<double> ohms; ///< loop
    std::optional<double> price;
};

/// What a sheet is held against.
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
};

struct Said {
    std::string sentence;
    std::vector<Working> figures;
    std::vector<Warning> warnings;
    std::vector<Remark> remarks;
};

/// By the sheet's kind. A problem (nothing_yet) while no row says enough.
[[nodiscard]] Result<Said> judge(const Sheet& sheet, const Facts& facts);

} // namespace otterstone::behaviour
