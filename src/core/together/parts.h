// What judgeTogether() is put together from.
#pragma once

#include "core/together/bank_findings.h"

namespace otterstone::together {

/// Each complete drain with its recharge; pairs that cannot be go to the contradictions.
[[nodiscard]] std::vector<Pair> pairsOf(const std::vector<kinds::RunEntry>& runs,
                                        std::vector<Contradiction>& contradictions);
/// A drain that stopped on the way and the recharge right after it that filled it up again, or a recharge that stopped
/// on the way and the drain right after it that emptied it: what one moved, the other moved back. `runs` are those of
/// which the life is.
[[nodiscard]] std::vector<Pair> partTripsOf(const std::vector<kinds::RunEntry>& runs, const life::Life& life,
                                            std::vector<Contradiction>& contradictions);
/// The groups of runs that repeat one another, drains first.
[[nodiscard]] std::vector<RepeatGroup> repeatGroupsOf(const std::vector<kinds::RunEntry>& runs,
                                                      setup::Repeating school);

} // namespace otterstone::together
