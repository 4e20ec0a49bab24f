// Findings across runs: what a bank's runs say together, and all that is known of banks when they are judged.
#pragma once

#include <QString>

#include "book/names.h"
#include "book/store/fresh_findings.h"
#include "core/evidence/evidence.h"

namespace otterstone::book {

/// What the runs of one bank say together. On a connection of its own, so it may be called in a worker's thread; cached
/// findings are used.
[[nodiscard]] Result<together::BankFindings> workOutTogether(const QString& path, Id bank);

/// All that is known of banks when they are judged and compared; all banks of the book when none is named. As above,
/// for a worker's thread; `fresh` takes the findings that were not in the cache, for the book to remember.
[[nodiscard]] Result<std::vector<evidence::Evidence>>
gatherEvidence(const QString& path, const std::vector<Id>& banks = {}, std::vector<FreshFinding>* fresh = nullptr);

} // namespace otterstone::book
