// Names, tier changes and step energy, shared by the phases of drains and recharges.
#include "core/trace/phases.h"

#include <cmath>

namespace otterstone::trace {

namespace {
constexpr double kTierStepVolts = 0.5;
constexpr double kLastingSeconds = 10.0;
// The level follows slow drift (a warming cable, a sagging cell) within this time constant.
constexpr double kDriftSeconds = 60.0;
} // namespace

std::string phaseName(PhaseKind kind) {
    switch (kind) {
    case PhaseKind::Idle: return "idle";
    case PhaseKind::Bulk: return "bulk";
    case PhaseKind::Taper: return "taper";
    case PhaseKind::Steady: return "steady";
    case PhaseKind::Throttled: return "throttled";
    case PhaseKind::Off: return "off";
    }
    return {};
}

std::string endedByKey(EndedBy e) {
    switch (e) {
    case EndedBy::Unknown: return "unknown";
    case EndedBy::CutOff: return "cutoff";
    case EndedBy::OverCurrent: return "overcurrent";
    case EndedBy::Heat: return "heat";
    case EndedBy::User: return "user";
    }
    return "unknown";
}

std::vector<TierChange> tierChanges(const Trace& trace, const RunningEnergy& energy) {
    std::vector<TierChange> changes;
    if (!trace.hasCurrent() || trace.size() < 3)
        return changes;
    std::optional<double> level;
    std::size_t away = 0; // first sample of a step that may last; 0 for none: the first sample can be no step
    double previousTime = trace.time.front();
    // A step lasts ten seconds or it is none, so of a fast log one sample every two seconds is enough.
    const double most = static_cast<double>(trace.size()), usual = energy.usualStep();
    const auto stride = static_cast<std::size_t>(usual > 0.0 ? std::clamp(2.0 / usual, 1.0, most) : 1.0);
    const std::vector<std::size_t>& switches = energy.totals().switches;
    std::size_t passed = 0; // of the switches; behind an odd number of them it is on
    for (std::size_t k = 0; k < trace.size(); k += stride) {
        while (passed < switches.size() && switches[passed] <= k)
            ++passed;
        if (passed % 2 == 0) {
            away = 0;
            continue;
        }
        const double v = trace.volts[k];
        if (!level) {
            level = v;
        } else if (std::fabs(v - *level) <= kTierStepVolts) {
            const double dt = trace.time[k] - previousTime;
            *level += (v - *level) * std::min(1.0, dt / kDriftSeconds);
            away = 0;
        } else if (away == 0 || std::fabs(v - trace.volts[away]) > kTierStepVolts) {
            away = k;
        } else if (trace.time[k] - trace.time[away] >= kLastingSeconds) {
            changes.push_back({trace.time[away], *level, v});
            level = v;
            away = 0;
        }
        previousTime = trace.time[k];
    }
    return changes;
}

} // namespace otterstone::trace
