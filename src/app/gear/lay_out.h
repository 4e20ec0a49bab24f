// Gear by name onto a run's path.
#pragma once

#include <string>
#include <vector>

#include "core/records/gear.h"
#include "core/records/run.h"

namespace otterstone::app {

/// Each piece of the drawer that is named into the first stretch of the path that takes one of its kind and has none;
/// of two cables the second is the far one. Names that the drawer does not know are passed over.
void layOut(records::Run& run, const std::vector<records::Gear>& drawer, const std::vector<std::string>& names);

} // namespace otterstone::app
