#include "bench/runner/progress.h"

#include <algorithm>
#include <cmath>

#include "core/trace/integral.h"

namespace otterstone::bench {

namespace {

constexpr double kSmoothSeconds = 30.0;
constexpr double kFlows = 0.2;           // watts
constexpr double kLeastToldShare = 0.03; // a display that says 99 % tells nothing about the end yet

} // namespace

void Forecast::reading(double time, double volts, double amps) {
    const double watts = volts * amps;
    if (any_) {
        trace::Totals totals;
        trace::addStep({time_, volts_, amps_, volts_ * amps_}, {time, volts, amps, watts}, totals);
        wattHours_ += totals.wattHours;
        ampHours_ += totals.ampHours;
        watts_ += (watts - watts_) * -std::expm1(-std::max(0.0, time - time_) / kSmoothSeconds);
    } else {
        watts_ = watts;
    }
    if (!onset_ && watts > kFlows) {
        onset_ = time;
        watts_ = watts;
    }
    any_ = true;
    time_ = time;
    volts_ = volts;
    amps_ = amps;
}

std::optional<double> Forecast::ownEnd() const {
    if (!expected_ || watts_ < kFlows)
        return std::nullopt;
    return time_ + std::max(0.0, *expected_ - wattHours_) / watts_ * 3600.0;
}

void Forecast::mark(const records::Mark& m) {
    if (!m.number)
        return;
    if (m.what == records::Mark::What::Estimate) {
        displayEnd_ = m.at + *m.number;
    } else if (m.what == records::Mark::What::Percent && onset_) {
        const double share = std::clamp(*m.number / 100.0, 0.0, 1.0);
        const double passed = drain_ ? 1.0 - share : share;
        if (passed >= kLeastToldShare && m.at > *onset_)
            displayEnd_ = *onset_ + (m.at - *onset_) / passed;
    }
}

std::optional<double> Forecast::displayEnd() const { return displayEnd_; }

} // namespace otterstone::bench
