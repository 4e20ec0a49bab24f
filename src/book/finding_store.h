// The finding of a run: worked out from bank, gear, marks and samples, and cached until any of these changes.
#pragma once

#include "book/records.h"
#include "book/sql.h"
#include "core/behaviour/judge.h"
#include "core/findings/finding.h"

namespace otterstone::book {

/// What all runs of a book share.
struct Bench {
    std::vector<Gear> gear;
    findings::Schools schools;
    std::vector<Bank> banks;
};
[[nodiscard]] Bench loadBench(Connection& c);

/// All a finding depends on besides the samples.
[[nodiscard]] findings::Setup setupOf(const Bank& bank, const Run& run, const Bench& bench);
/// What a run's sheet is held against: label, meter, path, gear; and for pass-through the bank's round trip, from its
/// other runs.
[[nodiscard]] behaviour::Facts factsOf(Connection& c, const Bank& bank, const Run& run, const Bench& bench);
/// Changes when the setup, the method or the trace does.
[[nodiscard]] std::string cacheKey(Connection& c, const Bank& bank, const Run& run, const Bench& bench);

/// The cached finding if it still holds. Throws SqlError, as all below.
[[nodiscard]] std::optional<findings::Finding> cachedFinding(Connection& c, const Bank& bank, const Run& run,
                                                             const Bench& bench);
/// The cached one, else worked out; nothing when that cannot be done.
[[nodiscard]] std::optional<findings::Finding> cachedOrWorkedOut(Connection& c, const Bank& bank, const Run& run,
                                                                 const Bench& bench);
[[nodiscard]] Result<findings::Finding> workOut(Connection& c, const Bank& bank, const Run& run, const Bench& bench);
void storeFinding(Connection& c, Id run, const std::string& key, const findings::Finding& finding);

} // namespace otterstone::book
