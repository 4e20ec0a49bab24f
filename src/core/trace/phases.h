// C7: what happened when in a trace.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/trace/integral.h"
#include "core/trace/plateau.h"
#include "core/trace/trace.h"

namespace otterstone::trace {

enum class PhaseKind { Idle, Bulk, Taper, Steady, Throttled, Off };
[[nodiscard]] std::string phaseName(PhaseKind kind);

struct Phase {
    PhaseKind kind = PhaseKind::Idle;
    double from = 0.0;
    double to = 0.0;
    double wattHours = 0.0;
};

struct Stretch {
    double from = 0.0;
    double to = 0.0;
    [[nodiscard]] double length() const { return to - from; }
};

/// A lasting step of VBUS by more than 0.5 V.
struct TierChange {
    double at = 0.0;
    double fromVolts = 0.0;
    double toVolts = 0.0;
};

enum class EndedBy { Unknown, CutOff, OverCurrent, Heat, User };
/// "unknown", "cutoff", "overcurrent", "heat", "user": as in --json.
[[nodiscard]] std::string endedByKey(EndedBy e);

struct DrainPhases {
    std::vector<Phase> phases;
    std::vector<Stretch> interruptions; ///< off for more than 1 s, then on again
    std::optional<double> on;           ///< first moment with current; nothing when there was none
    std::optional<double> off;          ///< the final end; nothing when the log ends while current flows
    double activeSeconds = 0.0;
    EndedBy endedBy = EndedBy::Unknown;
    std::vector<TierChange> tierChanges;
};
/// A sample's state lasts until the next sample.
[[nodiscard]] DrainPhases drainPhases(const Trace& trace, const Plateau& plateau, const RunningEnergy& energy);

/// When is it full (the default school): power below `share` of the plateau for `seconds`.
struct FullRule {
    double share = 0.05;
    double seconds = 600.0;
    std::optional<double> at = {}; ///< another school's moment, which then stands instead
};

struct RechargePhases {
    std::vector<Phase> phases;
    std::vector<Stretch> throttles;
    std::optional<double> start;
    std::optional<double> taperStart;
    std::optional<double> end; ///< nothing when the log ends before the bank was full
    double wattHoursUntilEnd = 0.0; ///< until the end, or that of the log
    std::vector<TierChange> tierChanges;
    /// Moments at which these shares of wattHoursUntilEnd had gone in.
    struct Reached {
        double share;
        double at;
    };
    std::vector<Reached> reached; ///< 0.5, 0.8, 1.0
};
[[nodiscard]] RechargePhases rechargePhases(const Trace& trace, const Plateau& plateau, const RunningEnergy& energy,
                                            FullRule full = {});

/// Steps of VBUS by more than 0.5 V, seen while current flows, that last 10 s or more.
[[nodiscard]] std::vector<TierChange> tierChanges(const Trace& trace, const Plateau& plateau);

} // namespace otterstone::trace
