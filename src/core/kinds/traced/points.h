// B1, B2 over a whole run: energy at every point of its path, read or referred, and what each stretch between loses.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/kinds/names.h"
#include "core/path/cable.h"
#include "core/path/meter.h"
#include "core/path/point.h"
#include "core/quantity/working.h"
#include "core/setup/setup.h"
#include "core/trace/trace.h"

namespace otterstone::kinds {

struct PointFigure {
    path::Point point = path::Point::Meter;
    bool read = true; ///< false: referred from the nearest that was
    bool byDisplay = false;
    Working energy;
};

struct LinkFigure {
    path::Point from = path::Point::BankOut, to = path::Point::Meter; ///< as the energy flows
    std::string name;                                                 ///< of the gear between
    std::optional<double> lossWattHours;
    std::optional<Working> ohms; ///< measured between two readings (B1)
};

/// The points of a run's path in the order in which energy flows through them.
[[nodiscard]] const std::vector<path::Point>& pointsAlong(bool drain);

/// B1 from two traces of one current: pairs them in time, groups the pairs by current, and fits the line. `onset`
/// shifts are the moments at which power came on in each. `run` is the identity of their scatter. Nothing when they do
/// not overlap, or no current flowed.
[[nodiscard]] std::optional<path::CableFit> resistanceBetween(const trace::Trace& nearer, const path::Meter& nearMeter,
                                                              const trace::Trace& farther, const path::Meter& farMeter,
                                                              double farShift, const std::string& run = {});

} // namespace otterstone::kinds
