#include <algorithm>

#include "bench/runner/runner.h"
#include "bench/runner/runner_source.h"
#include "core/quantity/format.h"

#include "core/quantity/say.h"

namespace otterstone::bench {

namespace {

constexpr double kHoleSteps = 3.0;
constexpr double kLeastHole = 2.0;       // seconds
constexpr double kMarkAgainAfter = 30.0; // one mark for a stretch of spoiled lines, not one per line
constexpr double kSmoothing = 0.1;
constexpr double kFrozen = 3.0;        // seconds
constexpr double kLongestStamp = 60.0; // a clock that shows minutes

} // namespace

void Runner::Source::lookForHoles(double now, const Mark& mark) {
    if (holeMarked || readings < 2 || now - lastAt < std::max(kLeastHole, kHoleSteps * usualStep))
        return;
    holeMarked = true;
    mark(say("no reading from the {}{}", role, (meter && !meter->isUp() ? say(": it is not connected") : "")));
}

bool Runner::Source::standsStill(const logs::LiveReading& r, double now) {
    if (!r.time)
        return false;
    const bool stands =
        same && same->time == r.time && same->volts == r.volts && same->amps == r.amps && same->celsius == r.celsius;
    if (!stands) {
        if (same && same->time != r.time)
            stampStep = std::max(stampStep, std::min(now - sameSince, kLongestStamp));
        same = r;
        sameSince = now;
    }
    return stands && now - sameSince > std::max(kFrozen, 3.0 * stampStep);
}

void Runner::Source::good(double now, const Mark& mark) {
    if (std::exchange(holeMarked, false))
        mark(say("the {} reads again after {}", role, showDuration(now - lastAt)));
    if (readings > 0)
        usualStep += (std::min(now - lastAt, 10.0 * usualStep) - usualStep) * kSmoothing;
    lastAt = now;
    ++readings;
    spoiledInRow = 0;
}

void Runner::Source::bad(double now, const std::string& why, const Mark& mark) {
    ++spoiled;
    ++spoiledInRow;
    spoiledWhy = why;
    if (now - spoiledMarkedAt >= kMarkAgainAfter)
        mark(say("unreadable from the {}: {}; such lines are left out", role, why));
    spoiledMarkedAt = now;
}

std::string Runner::Source::whySilent() const {
    if (meter && !meter->isUp())
        return say("; it is not connected: {}", meter->trouble().toStdString());
    if (spoiledInRow > 0)
        return say("; {} lines came that could not be read ({}): is the baud rate right, and the profile this meter's?",
                   std::to_string(spoiledInRow), spoiledWhy);
    return {};
}

} // namespace otterstone::bench
