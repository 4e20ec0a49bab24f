// The programs of this house that start each other.
#pragma once

#include <string>

namespace otterstone::bench {

/// Where one lies: beside this one, as it is installed, or in the build folder. Beside this one, too, where it is
/// nowhere.
[[nodiscard]] std::string programOfOurs(const std::string& name);

} // namespace otterstone::bench
