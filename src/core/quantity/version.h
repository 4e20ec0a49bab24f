// Which Otterstone this is.
#pragma once

#include <string>

namespace otterstone {

/// "0.2.0", as sheets and bundles name it.
[[nodiscard]] std::string version();
/// "0.2.0 (1a2b3c4)": with the commit it was built from, where that is known.
[[nodiscard]] std::string versionWithCommit();

} // namespace otterstone
