// Words by which a tester groups banks: "loan; cabin".
#pragma once

#include <string>
#include <string_view>
#include <vector>

namespace otterstone::records {

/// Parted by ";" or ","; each once, whatever its case, as it was written first.
[[nodiscard]] std::vector<std::string> parseTags(std::string_view text);
/// What parseTags reads again.
[[nodiscard]] std::string showTags(const std::vector<std::string>& tags);

} // namespace otterstone::records
