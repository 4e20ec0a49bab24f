// Findings of the runs of one bank as the book caches them: worked out from a run alone, then settled with what its
// neighbours in the bank's life leave and find. A cached finding holds while neither it nor a neighbour has changed.
#pragma once

#include <functional>
#include <map>
#include <string>

#include "book/names.h"
#include "book/store/sql.h"
#include "core/kinds/judge.h"
#include "core/kinds/traced/run_entry.h"
#include "core/setup/rests_on.h"

namespace otterstone::book {

using setup::Bench;

[[nodiscard]] Bench loadBench(Connection& c);

/// A finding as it is stored, and what it was stored under.
struct KeyedFinding {
    std::string key;
    kinds::HeldFinding finding;
};

class FindingsOfBank {
public:
    /// Keeps references to all three, and reads the bank's runs.
    FindingsOfBank(Connection& c, const Bank& bank, const Bench& bench);
    /// The same runs on another bench: what `known` has of them stands in for the cache, which is not read again.
    using Known = std::function<const KeyedFinding*(Id)>;
    FindingsOfBank(const FindingsOfBank& before, const Bench& bench, Known known);

    [[nodiscard]] const std::vector<Run>& runs() const { return runs_; }
    /// What the finding of a run must have been stored under to hold now.
    [[nodiscard]] std::string key(const Run& run);
    [[nodiscard]] std::optional<kinds::HeldFinding> cached(const Run& run);
    [[nodiscard]] Result<kinds::HeldFinding> workOut(const Run& run);
    [[nodiscard]] std::optional<kinds::HeldFinding> cachedOrWorkedOut(const Run& run);
    /// A run with its finding, as all that looks across runs is given it.
    [[nodiscard]] kinds::RunEntry entry(const Run& run, kinds::HeldFinding finding) const;
    /// What a run's sheet is held against.
    [[nodiscard]] setup::Facts facts(const Run& run);

private:
    [[nodiscard]] const std::string& ownKey(const Run& run);
    [[nodiscard]] Result<kinds::Finding> workOutAlone(const Run& run);
    void takeTexts();
    [[nodiscard]] const std::pair<std::string, std::string>* storedText(Id run);
    [[nodiscard]] const std::string* storedKey(const Run& run);
    [[nodiscard]] std::optional<kinds::HeldFinding> read(const Run& run);
    [[nodiscard]] const kinds::HeldFinding* alone(const Run& run);
    [[nodiscard]] kinds::HeldFinding heard(const Run& run, kinds::HeldFinding own);
    [[nodiscard]] std::pair<const Run*, const Run*> neighbours(const Run& run) const;
    [[nodiscard]] std::optional<Measured> roundTrip();

    Connection& c_;
    const Bank& bank_;
    const Bench& bench_;
    std::vector<Run> runs_;
    std::vector<Id> life_;               ///< the dated ones, in their order
    std::string bankText_, schoolsText_; ///< as JSON, what findings rest on of them
    std::map<Id, std::string> gearTexts_, ownKeys_;
    std::optional<std::map<Id, std::pair<std::string, std::string>>> texts_; ///< key and JSON of findings, as stored
    Known known_;
    std::map<Id, std::optional<kinds::HeldFinding>> alone_;
};

/// `text`: toCache(finding), where that was made already.
void storeFinding(Connection& c, Id run, const std::string& key, const kinds::Finding& finding,
                  const std::string& text = {});

} // namespace otterstone::book
