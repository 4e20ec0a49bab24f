// C7: what happened when in a trace.
#pragma once

#include <algorithm>
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
    std::vector<Stretch> interruptions; ///< the output was gone, and came again
    std::vector<Stretch> pauses;        ///< nothing was drawn while the output stood: the load's doing
    std::optional<double> on;           ///< first moment with current; nothing when there was none
    std::optional<double> off;          ///< the final end; nothing when the log ends while current flows
    double activeSeconds = 0.0;
    EndedBy endedBy = EndedBy::Unknown;
    std::vector<TierChange> tierChanges;
};
/// A sample's state lasts until the next sample. A state counts from three samples and 5 s on, or two samples 30 s
/// apart: one blip, spike or noisy sample decides nothing. A trace too short for that is taken as it stands.
[[nodiscard]] DrainPhases drainPhases(const Trace& trace, const Plateau& plateau, const RunningEnergy& energy);

/// A port that gave `level` volts and now has `volts` gives nothing any more: what a capacitor or a load's leakage
/// leaves standing is less than 60 %, and no usable tier lies below 4 V. Common practice, no published source.
[[nodiscard]] inline bool outputGone(double volts, double level) { return volts < std::min(0.6 * level, 4.0); }
/// It still has its volts, or those to which it falls back when nobody asks for more.
[[nodiscard]] inline bool outputStands(double volts, double level) { return volts >= std::min(0.8 * level, 4.4); }

/// When is it full (the default school): power below `share` of the plateau for `seconds`.
struct FullRule {
    double share = 0.05;
    double seconds = 600.0;
    std::optional<double> at = {}; ///< another school's moment, which then stands instead
};

struct RechargePhases {
    std::vector<Phase> phases;
    std::vector<Stretch> throttles;
    std::vector<Stretch> stops;      ///< a minute or more of next to nothing, after which it went on
    std::optional<double> start;     ///< in the middle of the step in which the power came
    double uStart = 0.0, uEnd = 0.0; ///< s, standard uncertainties that the samples leave on both
    std::optional<double> taperStart;
    std::optional<double>
        end; ///< nothing when it was not seen to be full: the log ends before, or the power broke off without a taper
    std::optional<double> brokeOff; ///< when it broke off, if it did and did not come again
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
[[nodiscard]] std::vector<TierChange> tierChanges(const Trace& trace, const RunningEnergy& energy);

} // namespace otterstone::trace
