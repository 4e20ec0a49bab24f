// The conditions of a run in the tester's own words: what makes runs alike or unlike besides load and gear.
#pragma once

#include <string>
#include <string_view>
#include <vector>

namespace otterstone::records {

/// "case on", "screen off": each once, in the order in which they were said.
using Conditions = std::vector<std::string>;

/// "case on; screen off" or with commas: never wrong, as the words are the tester's.
[[nodiscard]] Conditions parseConditions(std::string_view text);
[[nodiscard]] std::string showConditions(const Conditions& conditions);
/// The same words in any order, whatever their case and spaces.
[[nodiscard]] bool sameConditions(const Conditions& a, const Conditions& b);

} // namespace otterstone::records
