// The bundle: a book as a folder of open text files, and back.
#pragma once

#include <QString>

#include "book/store/book.h"

namespace otterstone::book {

/// Writes book.json, findings.csv and traces/*.csv into a new or empty folder. Problems: folder_not_empty,
/// cannot_write, and those of a finding.
[[nodiscard]] Result<void> exportBundle(Book& book, const QString& folder);

/// Reads a folder or .zip into a new book; nothing is left behind on a problem. Problems: no_bundle, bad_bundle,
/// bad_zip, book_exists, and those of a log.
[[nodiscard]] Result<std::unique_ptr<Book>> importBundle(const QString& folderOrZip, const QString& bookPath);

} // namespace otterstone::book
