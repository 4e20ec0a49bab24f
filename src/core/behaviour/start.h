// The rows a sheet begins with for a bank: what its label lets one expect to try, so that only readings need be typed.
#pragma once

#include "core/behaviour/sheet.h"
#include "core/label/label.h"

namespace otterstone::behaviour {

[[nodiscard]] Sheet startingSheet(Kind kind, const label::Label& label);

} // namespace otterstone::behaviour
