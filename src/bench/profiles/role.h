// What an instrument can be in a run: the keys of recipes, set-ups and the command line, each with the kind of
// instrument that plays it.
#pragma once

#include <span>
#include <string>
#include <vector>

#include "bench/profiles/profile.h"

namespace otterstone::bench {

/// One of roles(), by its key.
using Role = std::string;

namespace role {
inline constexpr const char* meter = "meter";
inline constexpr const char* inputMeter = "input meter";
inline constexpr const char* wallMeter = "wall meter";
inline constexpr const char* load = "load";
inline constexpr const char* secondLoad = "second load";
inline constexpr const char* trigger = "trigger";
inline constexpr const char* secondTrigger = "second trigger";
inline constexpr const char* thermometer = "thermometer";
inline constexpr const char* meters[] = {meter, inputMeter, wallMeter};
inline constexpr const char* loads[] = {load, secondLoad}; ///< by the number of a step's load, less one
inline constexpr const char* triggers[] = {trigger, secondTrigger};
} // namespace role

struct RoleRow {
    const char* key;
    Kind kind; ///< of the instrument that can play it
};
/// In the order in which they are shown.
[[nodiscard]] std::span<const RoleRow> roles();
[[nodiscard]] const std::vector<std::string>& roleKeys();
/// Nothing for what is no role.
[[nodiscard]] const RoleRow* roleNamed(const std::string& key);

} // namespace otterstone::bench
