// Findings across runs: what a bank's runs say together, and what a corrected piece of gear changes in all runs that
// use it.
#pragma once

#include <map>

#include <QString>

#include "book/names.h"
#include "book/store/book.h"
#include "core/evidence/evidence.h"
#include "core/together/changes.h"

namespace otterstone::book {

/// All findings of the banks in question, as they stand now. Runs whose finding cannot be worked out are left out.
struct Snapshot {
    struct OfRun {
        Id run = kNew;
        std::string bank, title;
        bool uses = false; ///< the piece of gear that was asked for
        Book::WorkedOut worked;
        bool fresh = false; ///< was not in the cache
    };
    std::vector<OfRun> runs;
    std::map<std::string, together::BankFindings> together; ///< by the bank's name
};
/// Caches them in the book, in one write; false when it cannot be written.
bool remember(Book& book, const std::vector<Snapshot::OfRun>& runs);

/// What the runs of one bank say together. On a connection of its own, so it may be called in a worker's thread; cached
/// findings are used.
[[nodiscard]] Result<together::BankFindings> workOutTogether(const QString& path, Id bank);
/// The banks that have a run with this piece of gear; all banks for kNew.
[[nodiscard]] Result<Snapshot> takeSnapshot(const QString& path, Id gear = kNew);

/// All that is known of banks when they are judged and compared; all banks of the book when none is named. As above,
/// for a worker's thread; `fresh` takes the findings that were not in the cache, for the book to remember.
[[nodiscard]] Result<std::vector<evidence::Evidence>>
gatherEvidence(const QString& path, const std::vector<Id>& banks = {}, std::vector<Snapshot::OfRun>* fresh = nullptr);

/// One row of "what changed": a run, or what the runs of a bank say together (run is kNew).
struct Ripple {
    Id run = kNew;
    std::string bank, title;
    std::vector<together::FigureChange> figures;
};
/// Every run that uses the gear is listed, also with nothing changed; other rows only when something did.
[[nodiscard]] std::vector<Ripple> ripplesBetween(const Snapshot& before, const Snapshot& after);
/// "Cobble 10, Gentle: energy out of the port 32.7 Wh → 30.7 Wh; …".
[[nodiscard]] std::string inWords(const Ripple& ripple);

} // namespace otterstone::book
