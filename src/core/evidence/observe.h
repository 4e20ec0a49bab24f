// How the evidence is asked: all that was seen of a bank, whatever kind of run saw it.
#pragma once

#include <vector>

#include "core/evidence/evidence.h"
#include "core/kinds/observation.h"

namespace otterstone::evidence {

/// In the order of its runs and their rows.
[[nodiscard]] std::vector<kinds::Observation> observe(const Evidence& evidence);

/// Batteries that differ by 5 % at most; never where one is not known. Common practice, no published source.
[[nodiscard]] bool sameBattery(std::optional<double> wattHours, std::optional<double> others);
/// Whether it was seen of that device: by its battery where both are known, else by its name.
[[nodiscard]] bool isOf(const kinds::Observation& seen, const std::string& device, std::optional<double> wattHours);

} // namespace otterstone::evidence
