#include "book/store/moved.h"

#include <QDateTime>

#include "book/store/book.h"
#include "book/store/material.h"
#include "core/setup/method.h"
#include "report/material.h"

#include "core/quantity/say.h"

namespace otterstone::book {

namespace {

constexpr const char* kComparison = "comparison";

// The last sheet of this scope, held against the same sheet made now.
std::optional<Moved> movedOf(const Book& book, const QString& path, const std::string& scope,
                             const std::vector<Id>& banks) {
    const auto published = book.publications(scope);
    if (published.empty() || published.front().method >= setup::kMethodVersion)
        return std::nullopt;
    const Publication& last = published.front();
    const auto before = report::fromJson(last.json, last.at, last.method);
    auto material = gatherMaterial(path, banks, QDateTime::currentDateTime().toString(Qt::ISODate).toStdString());
    if (!before || !material)
        return std::nullopt;
    const report::Published now = report::whatIsSaid(*material, report::makeContent(*material));
    Moved m{scope, last.at, setup::whyFiguresMove(last.method), report::changesBetween(*before, now).figures};
    return m.figures.empty() ? std::nullopt : std::optional(std::move(m));
}

} // namespace

std::string Moved::sentence() const {
    const report::Change& first = figures.front();
    const std::string of = scope == kComparison ? say("the comparison") : scope, on = at.substr(0, 10);
    if (figures.size() == 1)
        return say(
            "Since the sheet of {} was published ({}), sums have changed: {}. One of its figures reads differently "
            "now: {}, {} then, {} now. Its next sheet lists it.",
            of, on, why, first.what, first.before, first.after);
    return say(
        "Since the sheet of {} was published ({}), sums have changed: {}. {} of its figures read differently now, "
        "among them {}, {} then, {} now. Its next sheet lists them all.",
        of, on, why, std::to_string(figures.size()), first.what, first.before, first.after);
}

std::vector<Moved> movedFigures(const QString& path) {
    std::vector<Moved> all;
    const auto book = Book::openToRead(path);
    if (!book)
        return all;
    std::vector<std::pair<std::string, std::vector<Id>>> scopes = {{kComparison, {}}};
    for (const Bank& b : (*book)->banks())
        scopes.push_back({b.name, {b.id}});
    for (const auto& [scope, banks] : scopes) {
        if (auto moved = movedOf(**book, path, scope, banks))
            all.push_back(std::move(*moved));
    }
    return all;
}

} // namespace otterstone::book
