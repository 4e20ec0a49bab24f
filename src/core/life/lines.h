// What a life tells, one thing after another: each adds its figures and sentences.
#pragma once

#include "core/life/life.h"

namespace otterstone::life {

/// ", if they began full": what is assumed of drains of which nobody said it; empty where all is known.
[[nodiscard]] std::string ifTaken(const std::vector<const kinds::RunEntry*>& drains);

void tellArrival(Life& life);
void tellRests(Life& life);
void tellCounts(Life& life);
/// What its display said against the truth, over several runs: whether it settles.
void tellDisplay(Life& life, const std::vector<kinds::RunEntry>& runs);
void tellFading(Life& life, const std::vector<kinds::RunEntry>& runs, const std::optional<double>& rated);

} // namespace otterstone::life
