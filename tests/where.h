// Where this build's programs and the files of the tests lie. Told by one source file that CMake writes: were the paths
// on each test's command line, the compiler's cache could serve no other clone.
#pragma once

#include <QString>

namespace otterstone::where {

[[nodiscard]] QString cli();
[[nodiscard]] QString standin();
[[nodiscard]] QString liveWindow(); ///< a window that records, for the signals to end
[[nodiscard]] QString killWriter();
[[nodiscard]] QString oddMachine(); ///< a library that stands in for a machine where calls of the system fail
[[nodiscard]] QString data(const QString& name);  ///< in tests/data
[[nodiscard]] QString cases(const QString& name); ///< in tests/cases
[[nodiscard]] QString share(const QString& name); ///< in share/otterstone

} // namespace otterstone::where
