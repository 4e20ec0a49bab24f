// What a kind of sheet is: how it is written down, begun, judged and seen. One value a kind, made in its folder and
// listed in the catalogue.
#pragma once

#include <optional>
#include <string>
#include <utility>
#include <vector>

#include "core/kinds/judge.h"
#include "core/label/label.h"
#include "core/setup/setup.h"
#include "core/trace/trace.h"

namespace otterstone::kinds {

class Seen;
struct Finding;

/// Of a kind that may hold what a meter read: then it is a drain or a recharge as well.
struct Metered {
    /// Whether anything was read.
    bool (*has)(const Sheet&) = nullptr;
    /// The kind that it serves as: its own, where nothing can be told of what was read.
    Kind (*as)(const Sheet&) = nullptr;
    std::optional<Result<Finding>> (*judge)(const Sheet&, const Facts&, Setup) = nullptr;
    /// Whether its rows say how full the bank was when it began.
    bool (*saysBegan)(const Sheet&) = nullptr;
    /// Its readings, for a curve; empty where only counters were read.
    trace::Trace (*trace)(const Sheet&) = nullptr;
};

/// One charge of a device as its own display told it: s since it began, percent.
struct DeviceCurve {
    std::string device;
    std::optional<double> wattHours; ///< its battery
    std::string way;                 ///< "wire", "pad"; empty: not said
    std::vector<std::pair<double, double>> points;
};

struct SheetKind {
    std::vector<Column> (*columns)() = nullptr;
    Said (*judge)(const Sheet&, const Facts&) = nullptr;
    /// The rows it begins with for a bank, so that only readings need be typed; none: nothing to expect.
    void (*begin)(Sheet&, const label::Label&) = nullptr;
    /// What it saw, for every question; none: nothing that is asked yet.
    void (*observe)(Seen&) = nullptr;
    /// Whether it may say how full the bank was at both ends (Said::bank).
    bool tellsEnds = false;
    std::optional<Metered> metered = {};
    /// The charges of devices that it followed; none: it follows none.
    std::vector<DeviceCurve> (*charges)(const Sheet&, const Facts&) = nullptr;
};

} // namespace otterstone::kinds
