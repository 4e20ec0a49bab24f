// What holds a campaign up: which pieces and people are busy most, and what one more would save.
#pragma once

#include "core/plan/campaign/search.h"

namespace otterstone::plan::campaign {

struct Busy {
    std::string piece;  ///< its id; empty: the people
    double share = 0.0; ///< of the time from 0 to the last end that it is there for, 0 to 1
};
/// The busiest first.
[[nodiscard]] std::vector<Busy> scarceOf(const Problem& problem, const Schedule& schedule);

/// Of the time to search, what is spent on each piece that might be added.
inline constexpr double kOneMoreShare = 0.1;

struct OneMore {
    std::string piece;
    int more = 1;       ///< the first more of it, or the second: what that saves besides
    double saves = 0.0; ///< s by which all ends earlier; of the same jobs
    double gains = 0.0; ///< value of what then fits
    [[nodiscard]] bool helps() const;
};
/// With one more of what a job that is left out lacks, and of each of the busiest pieces; of the one that serves best
/// with yet another. Each is searched for as long as `goOn` says. What the search did not find cannot be told from what
/// is not there: less than 0 is 0.
[[nodiscard]] std::vector<OneMore> oneMoreOf(const Problem& problem, const Answer& answer,
                                             const std::function<GoOn()>& goOn);
/// "one more Burn 60: 2 h 10 min earlier", "yet another Burn 60: more of it fits", "… nothing found that it would
/// save".
[[nodiscard]] std::string oneMoreWords(const OneMore& more);

} // namespace otterstone::plan::campaign
