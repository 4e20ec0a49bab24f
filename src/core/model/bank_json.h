// A simulated bank as data: what demo/scenario.json and a stand-in's bench file hold. Everything left out takes
// bank.h's default.
#pragma once

#include <nlohmann/json_fwd.hpp>

#include "core/model/bank.h"
#include "core/quantity/problem.h"

namespace otterstone::model {

/// A problem names the key that is wrong ("truth.cells.ah").
[[nodiscard]] Result<Bank> bankFromJson(const nlohmann::json& json, const std::string& place = "truth");
[[nodiscard]] nlohmann::json toJson(const Bank& bank);

/// A bank that would honestly bear this label: its cells, ports and limits are what is printed, its losses are
/// ordinary. What a rehearsal uses when nothing better is known.
[[nodiscard]] Bank bankFromLabel(const label::Label& label);

} // namespace otterstone::model
