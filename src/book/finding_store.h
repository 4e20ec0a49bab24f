// The finding of a run: worked out from bank, gear, marks and samples, and cached until any of these changes.
#pragma once

#include "book/records.h"
#include "book/sql.h"
#include "core/findings/finding.h"

namespace otterstone::book {

/// All a finding depends on besides the samples. `gear` is all gear of the book.
[[nodiscard]] findings::Setup setupOf(const Bank& bank, const Run& run, const std::vector<Gear>& gear);
/// Changes when the setup, the method or the trace does.
[[nodiscard]] std::string cacheKey(const Bank& bank, const Run& run, const std::vector<Gear>& gear);

/// The cached finding if it still holds. Throws SqlError, as all below.
[[nodiscard]] std::optional<findings::Finding> cachedFinding(Connection& c, const Bank& bank, const Run& run, const std::vector<Gear>& gear);
[[nodiscard]] Result<findings::Finding> workOut(Connection& c, const Bank& bank, const Run& run, const std::vector<Gear>& gear);
void storeFinding(Connection& c, Id run, const std::string& key, const findings::Finding& finding);

} // namespace otterstone::book
