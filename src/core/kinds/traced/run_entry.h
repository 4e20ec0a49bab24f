// A run with its finding, as all that looks across runs is given it.
#pragma once

#include <optional>
#include <string>

#include "core/kinds/traced/finding.h"

namespace otterstone::kinds {

/// One run with its finding, as the book knows it.
struct RunEntry {
    long long run = 0;
    std::string title;
    std::string startedAt; ///< ISO 8601; runs without one keep the order in which they come
    bool settling = false; ///< left out of repeats, pairs and the usable curve
    std::string charger, cable;
    bool intoDevice = false, intoBank = false;
    Finding finding;
    std::string port = {};                      ///< of the bank, as stated
    std::optional<double> chargerWatts = {};    ///< what its charger can give
    std::optional<double> deviceWattHours = {}; ///< battery of the device it charged
};

/// Mean watts at the port while a drain was loaded; the plateau where the time is unknown.
[[nodiscard]] double loadOf(const Finding& drain);

} // namespace otterstone::kinds
