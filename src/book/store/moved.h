// Published figures that read differently since the sums were put right.
#pragma once

#include "report/history.h"

#include <QString>

namespace otterstone::book {

struct Moved {
    std::string scope; ///< the bank's name, or "comparison"
    std::string at;    ///< when it was published
    std::string why;
    std::vector<report::Change> figures;
    /// "Since the sheet of Cobble 10 was published (2026-11-02), sums have changed: …. 3 of its figures read
    /// differently, among them …".
    [[nodiscard]] std::string sentence() const;
};

/// Of the last sheet of each bank and of the comparison, where it was published by an earlier method. Works findings
/// out, so for a worker's thread; on a connection of its own. Empty where the book cannot be read.
[[nodiscard]] std::vector<Moved> movedFigures(const QString& path);

} // namespace otterstone::book
