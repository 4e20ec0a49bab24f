#include "bench/runner/heat_watch.h"

#include <algorithm>
#include <cmath>

#include "core/quantity/format.h"

#include "core/quantity/say.h"

namespace otterstone::bench {

namespace {

// All common practice, no published source. A bank's case warms by a few kelvin a minute; a plug that is pulled shows
// another world at once.
constexpr double kFastest = 1.0;                 // K/s
constexpr double kAtOnce = 8.0;                  // K: a sensor that is touched, or laid on
constexpr double kLikeIt = 3.0, kBorneOut = 1.0; // K, s: what follows a jump and stays there was no slip of the reading
constexpr double kFlowing = 1.0;                 // W: enough to warm a bank
// A sensor of hundredths never stands still for so long, nor does any that has not moved since the power came on.
constexpr double kFineStep = 0.05, kFineSame = 600.0, kNeverMoved = 3600.0; // K, s, s

} // namespace

void HeatWatch::expect(const std::string& source, double now, double silentSeconds) {
    Source& s = sources_[source];
    s.silentSeconds = silentSeconds;
    s.heardAt = s.saidAt = s.sameSince = now;
}

void HeatWatch::allowSilence(const std::string& source, double silentSeconds) {
    if (const auto at = sources_.find(source); at != sources_.end())
        at->second.silentSeconds = silentSeconds;
}

bool HeatWatch::believable(const std::string& source, double celsius, double at) {
    const auto found = sources_.find(source);
    if (found == sources_.end())
        return std::isfinite(celsius);
    Source& s = found->second;
    const double since = std::max(0.0, at - std::exchange(s.saidAt, at));
    const bool possible =
        std::isfinite(celsius) && (!s.celsius || std::fabs(celsius - *s.celsius) <= kAtOnce + kFastest * since);
    if (!possible) {
        const bool again = std::isfinite(celsius) && s.jumpedTo && std::fabs(celsius - *s.jumpedTo) <= kLikeIt;
        if (!again)
            s.jumpedAt = at;
        s.cameOff = again && at - s.jumpedAt >= kBorneOut;
        s.jumpedTo = std::isfinite(celsius) ? std::optional(celsius) : std::nullopt;
        s.oddity = std::isfinite(celsius)
                       ? say("jumped from {} to {} °C, which no bank does: it came off, or its reading is wrong",
                             showNumber(s.celsius.value_or(celsius), 4), showNumber(celsius, 4))
                       : say("says no number");
        return false;
    }
    s.jumpedTo.reset();
    s.cameOff = false;
    if (!s.celsius || celsius != *s.celsius) {
        if (s.celsius)
            s.finest = std::min(s.finest, std::fabs(celsius - *s.celsius));
        s.sameSince = at;
    }
    s.celsius = celsius;
    s.heardAt = at;
    s.oddity.reset();
    return true;
}

void HeatWatch::flowing(double watts, double now) {
    if (!(watts >= kFlowing))
        flowingSince_.reset();
    else if (!flowingSince_)
        flowingSince_ = now;
}

std::optional<std::string> HeatWatch::broken(double now) const {
    for (const auto& [name, s] : sources_) {
        if (s.cameOff || now - s.heardAt >= s.silentSeconds)
            return sayAsItStands(name) +
                   (s.oddity ? " " + *s.oddity : say(" has said nothing for {}", showDuration(now - s.heardAt, 1.0)));
        if (!flowingSince_)
            continue;
        const double same = now - std::max(s.sameSince, *flowingSince_);
        const bool everMoved = s.finest < 1e300;
        if ((everMoved && s.finest <= kFineStep && same >= kFineSame) || (!everMoved && same >= kNeverMoved))
            return say("{} has stood at {} °C for {} while power flowed: it is stuck", sayAsItStands(name),
                       showNumber(s.celsius.value_or(0.0), 4), showDuration(same));
    }
    return std::nullopt;
}

void HeatWatch::listenAnew(double now) {
    for (auto& [name, s] : sources_) {
        s.heardAt = std::max(s.heardAt, now);
        s.saidAt = s.heardAt;
    }
}

} // namespace otterstone::bench
