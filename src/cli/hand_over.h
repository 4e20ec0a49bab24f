// What needs a library that draws is done by otterstone-report, a program beside this one.
#pragma once

#include <string>
#include <vector>

namespace otterstone::cli {

/// Becomes otterstone-report with these arguments: its exit code is this program's. Returns only when it is not there,
/// with the code of the complaint about `what`, which goes on "… is not there.".
[[nodiscard]] int handOver(std::vector<std::string> arguments, const std::string& what, const std::string& mend);

} // namespace otterstone::cli
