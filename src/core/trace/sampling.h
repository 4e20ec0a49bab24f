// C6: how the time between readings is filled. What it leaves open is told by blocks.h.
#pragma once

#include "core/trace/trace.h"

namespace otterstone::trace {

/// How the time between two readings by hand is filled.
enum class Between { Joined, Held };

/// The same readings with each value held until the next: a step is two samples at one time.
[[nodiscard]] Trace held(const Trace& joined);

} // namespace otterstone::trace
