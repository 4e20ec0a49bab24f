// Is a book whole? Reads everything, changes nothing.
#pragma once

#include <string>
#include <vector>

#include <QString>

#include "core/quantity/problem.h"

namespace otterstone::book {

class Connection;

struct CheckReport {
    std::size_t banks = 0, runs = 0, samples = 0;
    std::vector<std::string> faults; ///< empty: whole
};

/// Reads every record of a book; those that cannot be read, in words. Throws SqlError.
[[nodiscard]] std::vector<std::string> damagedRecords(Connection& connection);

/// SQLite's integrity check, foreign keys, and every chunk against its own samples and its neighbours.
[[nodiscard]] Result<CheckReport> checkBook(const QString& path);

} // namespace otterstone::book
