// The demo's behaviour runs: hands at the simulated bench fill in their sheets.
#pragma once

#include <functional>

#include <nlohmann/json_fwd.hpp>

#include "book/names.h"
#include "core/model/bank.h"
#include "core/records/run.h"

namespace otterstone::book {

/// Kind, title, time and gear of a scenario's run, whatever it is made from.
[[nodiscard]] Run demoRunOf(const nlohmann::json& entry);

/// A run with its sheet, by the scenario's entry. `truthOf` gives a bank by its name.
[[nodiscard]] Run demoSheet(const nlohmann::json& entry, const label::Label& label, const model::Bank& truth,
                            const std::vector<Gear>& gear,
                            const std::function<model::Bank(const std::string&)>& truthOf);

} // namespace otterstone::book
