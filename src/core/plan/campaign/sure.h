// How sure a plan is: the same order of things lived again and again, each job taking as long as it may.
#pragma once

#include "core/plan/campaign/schedule.h"

namespace otterstone::plan::campaign {

struct Sure {
    double half = 0.0;              ///< all has ended by then in half of the lives, s
    double nearly = 0.0;            ///< in nine of ten
    std::optional<double> ofWindow; ///< share of the lives in which all has ended by the end of the window
    std::vector<Span> ends;         ///< from the tenth to the ninetieth of a hundred lives; of each job placed
};

/// Each life keeps pieces, people and the order on each as planned. A job begins when what stands before it has ended
/// and somebody is there for what it is expected to take; it takes what is drawn (normal with its spread, a tenth of
/// its time at least); moments of hands at its end come when somebody is there, and its pieces stay taken until then.
[[nodiscard]] Sure howSure(const Problem& problem, const Schedule& schedule, int lives = 2000, unsigned seed = 1);

} // namespace otterstone::plan::campaign
