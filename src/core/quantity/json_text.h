// JSON that comes from outside: whatever the text is, it is read or refused, and nothing else happens.
#pragma once

#include <string>
#include <string_view>

#include <nlohmann/json.hpp>

#include "core/quantity/problem.h"

namespace otterstone {

/// Brackets inside brackets, at most: more is nobody's data, and copying it would go as deep.
inline constexpr int kDeepestJson = 60;

/// The value a text spells. Problems: not_json (with the line, for broken syntax, numbers beyond ±1.8e308, and nesting
/// deeper than kDeepestJson).
[[nodiscard]] Result<nlohmann::json> parseJson(std::string_view text, const std::string& place);

/// A text for files and outputs: bytes that are no UTF-8 are replaced, never thrown. `indent` < 0: on one line.
[[nodiscard]] std::string jsonText(const nlohmann::json& json, int indent = -1);

} // namespace otterstone
