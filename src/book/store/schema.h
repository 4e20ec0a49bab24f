// The book's tables, and how older books grow into them.
#pragma once

#include <span>

#include "book/store/sql.h"

namespace otterstone::book {

/// In the file's header, so that `file` and we know a book from any other SQLite file: "Ottr".
inline constexpr unsigned kApplicationId = 0x4F747472;

struct Migration {
    int version; ///< user_version after it
    std::span<const char* const> statements;
};

/// In order; the last one's version is the current one.
[[nodiscard]] std::span<const Migration> migrations();
[[nodiscard]] int currentVersion();

/// What a book of this version cannot hold, or lacks, in words: a trigger, a view in the place of a table, a column
/// less. Nothing when all is ours. Reads the schema alone: of a stranger's book nothing else may be touched before.
/// Throws SqlError.
[[nodiscard]] std::optional<std::string> foreignIn(Connection& connection, int version);

/// Brings an open book from its user_version to the last one, each step in a transaction of its own. Throws SqlError.
void migrate(Connection& connection, std::span<const Migration> steps);

} // namespace otterstone::book
