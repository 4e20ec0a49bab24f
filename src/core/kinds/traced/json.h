// Findings as JSON: the keys of `otterstone-cli analyse --json`, and the whole with workings for the book's cache.
#pragma once

#include <nlohmann/json_fwd.hpp>

#include "core/kinds/traced/finding.h"

namespace otterstone::kinds {

/// The command line's contract: keys are added, never renamed; unknown is null; shares are fractions; ± are expanded (k
/// = 2).
[[nodiscard]] nlohmann::json toContract(const Finding& finding);
/// toContract plus sentence and figures with their workings; lossless for what the window shows.
[[nodiscard]] std::string toCache(const Finding& finding);
/// Nothing when the text was not written by toCache of this method version.
[[nodiscard]] std::optional<Finding> fromCache(const std::string& json);
/// The working as indented text, for copying.
[[nodiscard]] std::string asText(const Working& working, int indent = 0);
/// C8: the uncertainty budget as a table of text: source, ± (two standard uncertainties), share of the squares. Empty
/// without a doubt.
[[nodiscard]] std::string budgetText(const Working& working);

} // namespace otterstone::kinds
