#include "bench/runner/time_keeper.h"

#include <algorithm>
#include <cmath>

#include "core/quantity/format.h"

#include "core/quantity/say.h"

namespace otterstone::bench {

namespace {

// A stamp may run ahead of what passed here by so much before it is doubted: lines come in bursts.
constexpr double kSlackSeconds = 30.0;
constexpr double kSlackFactor = 3.0;
constexpr double kRateAfter = 120.0; // seconds after which the two clocks are compared
constexpr double kRateTolerance = 0.02;
constexpr double kBurstSeconds = 25.0;

} // namespace

std::string TimeKeeper::rateRemark(double stamp, double bench) {
    const double here = bench - anchorBench_;
    if (rateTold_ || here < kRateAfter)
        return {};
    const double rate = (stamp - anchorStamp_) / here;
    // Lines may come in bursts; less than one of these is no difference of the clocks.
    if (std::fabs(rate - 1.0) <= kRateTolerance || std::fabs(stamp - anchorStamp_ - here) < kBurstSeconds)
        return {};
    rateTold_ = true;
    return say(
        "the meter's clock runs {} % {} against this computer's; compare it with a stopwatch and enter that in the gear drawer",
        showNumber(100.0 * std::fabs(rate - 1.0), 2), (rate < 1.0 ? say("slow") : say("fast")));
}

std::optional<TimeKeeper::Placed> TimeKeeper::place(std::optional<double> stampGiven, double bench) {
    const double stamp = stampGiven.value_or(bench);
    Placed placed;
    if (!begun_) {
        begun_ = true;
        anchorStamp_ = stamp;
        anchorBench_ = bench;
        placed.time = base_;
    } else {
        const double step = stamp - lastStamp_;
        const double here = bench - lastBench_;
        if (step < 0.0 || step > kSlackSeconds + kSlackFactor * std::max(0.0, here)) {
            const bool borneOut =
                suspect_ && stamp >= *suspect_ &&
                stamp - *suspect_ <= kSlackSeconds + kSlackFactor * std::max(0.0, bench - suspectBench_);
            suspect_ = stamp;
            suspectBench_ = bench;
            if (!borneOut)
                return std::nullopt;
            // The meter's clock began anew: the run's goes on by what passed here.
            base_ = last_ + std::max(0.0, here);
            anchorStamp_ = stamp;
            anchorBench_ = bench;
            placed.time = base_;
            placed.remark = say("the meter's clock began anew; the time between was taken from this computer's");
        } else {
            placed.time = std::max(last_, base_ + (stamp - anchorStamp_));
            if (stampGiven)
                placed.remark = rateRemark(stamp, bench);
        }
    }
    suspect_.reset();
    last_ = placed.time;
    lastStamp_ = stamp;
    lastBench_ = bench;
    return placed;
}

double TimeKeeper::at(double bench) const { return begun_ ? last_ + std::max(0.0, bench - lastBench_) : last_; }

} // namespace otterstone::bench
