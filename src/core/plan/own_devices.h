// Devices of the gear drawer among what is to be kept going.
#pragma once

#include <vector>

#include "core/plan/use.h"
#include "core/records/gear.h"

namespace otterstone::plan {

/// A need of the name of a device in the drawer charges with the efficiency that is written down of that one. The
/// window, the sheet and the command line all go through here, so that one question has one answer.
[[nodiscard]] std::vector<Need> withOwnDevices(std::vector<Need> needs, const std::vector<records::Gear>& gear);

} // namespace otterstone::plan
