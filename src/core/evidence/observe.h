// How the evidence is asked: all that was seen of a bank, whatever kind of run saw it.
#pragma once

#include <vector>

#include "core/evidence/evidence.h"
#include "core/kinds/observation.h"

namespace otterstone::evidence {

/// In the order of its runs and their rows.
[[nodiscard]] std::vector<kinds::Observation> observe(const Evidence& evidence);

} // namespace otterstone::evidence
