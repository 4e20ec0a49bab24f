// What needs a library that draws, or speaks to instruments, is done by a program beside this one.
#pragma once

#include <string>
#include <vector>

namespace otterstone::cli {

/// Becomes that program, "otterstone-report" or "otterstone-live", with these arguments: its exit code is this
/// program's. Returns only when it is not there, with the code of the complaint about `what`, which goes on "… is not
/// there.".
[[nodiscard]] int handOver(const std::string& program, std::vector<std::string> arguments, const std::string& what,
                           const std::string& mend);

} // namespace otterstone::cli
