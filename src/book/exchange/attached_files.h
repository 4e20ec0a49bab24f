// The photographs and files of a bundle: a file each, bit by bit as the book holds them. Internal to this folder.
#pragma once

#include <map>

#include <QString>

#include "book/store/book.h"
#include "book/store/json_put.h"

namespace otterstone::book {

/// Into attachments/, listed in `all`.
[[nodiscard]] Result<void> writeAttached(const Book& book, const QString& folder, json& all);
/// By the bundle's own ids of banks and runs. Throws Damage.
[[nodiscard]] Result<void> readAttached(Book& book, const QString& folder, const json& all,
                                        const std::map<Id, Id>& banks, const std::map<Id, Id>& runs);

} // namespace otterstone::book
