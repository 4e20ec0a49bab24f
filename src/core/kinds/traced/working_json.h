// Workings, measured values and what a display was found to say as JSON; internal to this folder.
#pragma once

#include <nlohmann/json_fwd.hpp>

#include "core/kinds/traced/gauge.h"
#include "core/quantity/working.h"

namespace otterstone::kinds {

[[nodiscard]] nlohmann::json measuredJson(const Measured& m);
[[nodiscard]] Measured measuredFrom(const nlohmann::json& j);
[[nodiscard]] nlohmann::json workingJson(const Working& w);
[[nodiscard]] Working workingFrom(const nlohmann::json& j);

[[nodiscard]] nlohmann::json gaugeJson(const std::optional<GaugeFinding>& gauge);

} // namespace otterstone::kinds
