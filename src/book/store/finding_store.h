// The finding of a run: worked out from bank, gear, marks and samples, and cached until any of these changes.
#pragma once

#include "book/names.h"
#include "book/store/sql.h"
#include "core/kinds/judge.h"
#include "core/kinds/traced/finding.h"
#include "core/records/run.h"
#include "core/setup/rests_on.h"

namespace otterstone::book {

using setup::Bench;
[[nodiscard]] Bench loadBench(Connection& c);

/// What a run's sheet is held against, as setup::factsOf has it, with the bank's round trip where the kind asks for it.
[[nodiscard]] setup::Facts factsOf(Connection& c, const Bank& bank, const Run& run, const Bench& bench);
/// Changes when the setup, the method or the trace does.
[[nodiscard]] std::string cacheKey(Connection& c, const Bank& bank, const Run& run, const Bench& bench);

/// The cached finding if it still holds. Throws SqlError, as all below.
[[nodiscard]] std::optional<kinds::Finding> cachedFinding(Connection& c, const Bank& bank, const Run& run,
                                                          const Bench& bench);
/// The cached one, else worked out; nothing when that cannot be done.
[[nodiscard]] std::optional<kinds::Finding> cachedOrWorkedOut(Connection& c, const Bank& bank, const Run& run,
                                                              const Bench& bench);
[[nodiscard]] Result<kinds::Finding> workOut(Connection& c, const Bank& bank, const Run& run, const Bench& bench);
void storeFinding(Connection& c, Id run, const std::string& key, const kinds::Finding& finding);

} // namespace otterstone::book
