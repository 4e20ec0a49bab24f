// Banks, gear and runs as JSON: what the bundle's book.json holds.
#pragma once

#include <string>

#include <nlohmann/json_fwd.hpp>

#include "book/names.h"
#include "core/records/run.h"
#include "logs/columns.h"

namespace otterstone::book {

[[nodiscard]] std::string directionKey(label::Direction d);
[[nodiscard]] label::Direction directionFromKey(std::string_view key);

/// What is printed on a bank: the keys of label::eachMember, and its ports.
[[nodiscard]] nlohmann::json labelJson(const label::Label& label);
[[nodiscard]] nlohmann::json toJson(const Bank& bank);
/// {"came": {"on", "low", "high"}, "own_counts": [{"on", "out_wh", "in_wh", "cycles", "health_percent"}],
/// "specimen_of"}.
[[nodiscard]] nlohmann::json pastJson(const records::Past& past);
[[nodiscard]] records::Past pastFrom(const nlohmann::json& j);
/// A state as "low" and "high", in percent, among other members.
void putState(nlohmann::json& j, const records::State& state);
[[nodiscard]] std::optional<records::State> stateFrom(const nlohmann::json& j, const char* key);
[[nodiscard]] nlohmann::json toJson(const Gear& gear);
/// What a run says besides the tables' own columns.
[[nodiscard]] nlohmann::json detailsJson(const Run& run);
void readDetails(const nlohmann::json& json, Run& run);
[[nodiscard]] nlohmann::json toJson(const Run& run);
[[nodiscard]] nlohmann::json toJson(const logs::Mapping& mapping);

/// These throw Damage on a wrong shape, type or number.
[[nodiscard]] label::Label labelFromJson(const nlohmann::json& j);
[[nodiscard]] Bank bankFromJson(const nlohmann::json& j);
[[nodiscard]] Gear gearFromJson(const nlohmann::json& j);
[[nodiscard]] Run runFromJson(const nlohmann::json& j);
/// Never throws: a mapping that is not understood is none.
[[nodiscard]] std::optional<logs::Mapping> mappingFromJson(const nlohmann::json& j);

} // namespace otterstone::book
