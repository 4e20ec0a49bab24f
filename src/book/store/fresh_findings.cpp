#include "book/store/fresh_findings.h"

namespace otterstone::book {

bool remember(Book& book, const std::vector<FreshFinding>& findings) {
    bool all = true;
    return findings.empty() || (book.inOneWrite([&] {
               for (const FreshFinding& f : findings)
                   all = book.remember(f.run, f.worked) && all;
           }) && all);
}

} // namespace otterstone::book
