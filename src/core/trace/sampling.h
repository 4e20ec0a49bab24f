// C6: what a few readings leave open between them.
#pragma once

#include "core/trace/trace.h"

namespace otterstone::trace {

/// How the time between two readings by hand is filled.
enum class Between { Joined, Held };

/// Half the difference between the left and the right sum, in Wh: the half-width of what lies between readings joined by straight lines, or held until
/// the next one (two samples at one time, as held() writes them). Steps longer than `gapSeconds` are gaps and have a
/// doubt of their own. Of logs above 65 536 samples it is too small to matter and 0. Common practice, no published source.
[[nodiscard]] double samplingDoubt(const Trace& trace, Between between, double gapSeconds);

/// The same readings with each value held until the next: a step is two samples at one time.
[[nodiscard]] Trace held(const Trace& joined);

} // namespace otterstone::trace
