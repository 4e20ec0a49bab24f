// How likely each bank is the best for a purpose: Monte Carlo over the doubts of its figures. Internal to this folder.
#pragma once

#include "core/judgement/rank.h"

namespace otterstone::judgement {

/// Where a value stands between the worst (0) and the best (1) of a scale.
[[nodiscard]] inline double placed(const Scale& scale, double value) {
    const double share = (value - scale.worst) / (scale.best - scale.worst);
    return share < 0.0 ? 0.0 : share > 1.0 ? 1.0 : share; // not std::clamp: many at once
}

struct Chance {
    double best = 0.0;   ///< share of the trials in which its score was the highest
    double spread = 0.0; ///< standard deviation of its score, which goes from 0 to 1
};
/// By bank of the comparison. `shares`: the weight of each scale, their sum 1; only who `mayLead` can be the best. What
/// is not known lies anywhere on its scale. The trials go in parts with random numbers of their own, so that the answer
/// is the same on any machine, however many of them are done at once.
[[nodiscard]] std::vector<Chance> chancesOf(const Comparison& comparison, const Purpose& purpose,
                                            const std::vector<double>& shares, const std::vector<bool>& mayLead,
                                            const Draw& draw);

} // namespace otterstone::judgement
