// Findings that were worked out because the cache did not hold them, for the book to remember.
#pragma once

#include <vector>

#include "book/store/book.h"

namespace otterstone::book {

struct FreshFinding {
    Id run = kNew;
    Book::WorkedOut worked;
};

/// Caches them in the book, in one write; false when it cannot be written.
bool remember(Book& book, const std::vector<FreshFinding>& findings);

} // namespace otterstone::book
