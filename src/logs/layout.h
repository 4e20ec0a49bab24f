// How the beginning of a log is cut: its first lines, its header and the cells below; which column means what comes
// after.
#pragma once

#include <string>
#include <vector>

#include "logs/recogniser.h"

namespace otterstone::logs {

struct Layout {
    std::vector<std::string> lines;             ///< the first of the log, preamble and header among them
    std::vector<std::vector<std::string>> rows; ///< the cells of those that are data
    std::vector<HeaderCell> headers;            ///< one for each column
    Recognition found;                          ///< dialect, encoding, names and preview; no columns yet

    /// The cells of one column in these lines; what says "no reading" is left out.
    [[nodiscard]] std::vector<std::string> cellsOf(std::size_t index) const;
};

/// Problems: no_table.
[[nodiscard]] Result<Layout> layoutOf(const OpenedLog& log);

} // namespace otterstone::logs
