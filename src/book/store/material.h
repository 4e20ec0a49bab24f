// What a sheet is made from, gathered from the book; and keeping what was published.
#pragma once

#include "book/names.h"
#include "book/store/book.h"
#include "report/history.h"

namespace otterstone::book {

/// One bank: its sheet; several or none (all of the book): the comparison, with the house's purpose and needs. On a
/// connection of its own, for a worker's thread. A problem when there is no bank.
[[nodiscard]] Result<report::Material> gatherMaterial(const QString& path, const std::vector<Id>& banks,
                                                      const std::string& at);

/// Remembers that this sheet was published.
Result<Id> rememberPublished(Book& book, const report::Material& material, const report::Content& content);
/// "comparison", or the bank's name.
[[nodiscard]] std::string scopeOf(const report::Material& material);

} // namespace otterstone::book
