// What runs with a trace saw, for every question.
#pragma once

#include <vector>

#include "core/kinds/observation.h"
#include "core/kinds/traced/run_entry.h"

namespace otterstone::kinds {

/// An observation of this run, with its port and gear.
[[nodiscard]] Observation ofRun(const RunEntry& r, What what, label::Way way);

void observeDrain(const label::Label& label, const RunEntry& run, std::vector<Observation>& all);
void observeRecharge(const label::Label& label, const RunEntry& run, std::vector<Observation>& all);

} // namespace otterstone::kinds
