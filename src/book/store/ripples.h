// What a corrected piece of gear, or another way of the house, changes: in each run that rests on it, and in what the
// runs of a bank say together.
#pragma once

#include <functional>

#include <QString>

#include "book/names.h"
#include "book/store/fresh_findings.h"
#include "core/setup/rests_on.h"
#include "core/together/changes.h"

namespace otterstone::book {

/// One row of "what changed": a run, or what the runs of a bank say together (run is kNew).
struct Ripple {
    Id run = kNew;
    std::string bank, title;
    std::vector<together::FigureChange> figures;
    bool operator==(const Ripple&) const = default;
};
/// "Cobble 10, Gentle: energy out of the port 32.7 Wh → 30.7 Wh; …".
[[nodiscard]] std::string inWords(const Ripple& ripple);

/// Of one bank.
struct Rippled {
    std::vector<Ripple> rows;        ///< its runs, then all of them together
    std::vector<FreshFinding> fresh; ///< for the book to remember
};

/// The book's gear, choices and banks as they stand now: to be kept before a change, and held against what follows.
[[nodiscard]] Result<setup::Bench> benchNow(const QString& path);

/// Works out what has changed since `before`: in the banks that have a run with this piece of gear, in all for kNew.
/// Every run that uses the gear is listed, also with nothing changed; other rows only when something did. Tells bank
/// after bank in their order, each as soon as it is known, one at a time and from any thread, until `tell` answers
/// false. On connections of its own, so it may be called in a worker's thread.
Result<void> tellRipples(const QString& path, const setup::Bench& before, Id gear,
                         const std::function<bool(Rippled)>& tell);

} // namespace otterstone::book
