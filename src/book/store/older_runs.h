// Runs as older books and bundles hold them, brought to what they are now.
#pragma once

#include <nlohmann/json_fwd.hpp>

#include "book/names.h"
#include "core/records/run.h"

namespace otterstone::book {

/// A drain or a recharge of which readings or counters were typed, and a sheet of a pad, are notebooks now: every cell
/// stands in the column that it had. `details` are a run's own; called when its stamps are read, too. Throws Damage.
void bringUpToDate(const nlohmann::json& details, Run& run);

} // namespace otterstone::book
