// One port in a line of text, as a script or a note has it.
#pragma once

#include "core/label/label.h"

namespace otterstone::label {

/// "C1 out 5Vx3A 9Vx3A 27W in 9Vx2A 18W shared 15W": its name as printed, then what it gives and what it takes, tiers
/// and the limit in watts for each; "both" for what holds either way; "shared" for its limit while the others are in
/// use. Watts behind volts make a tier ("20V 100W"), watts by themselves are the limit. Problems: bad_port, those of
/// parseTier. `place` names the field or option.
[[nodiscard]] Result<Port> parsePort(std::string_view text, std::string_view place);
/// What parsePort reads again.
[[nodiscard]] std::string showPort(const Port& port);

} // namespace otterstone::label
