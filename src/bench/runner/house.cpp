#include "bench/runner/house.h"

#include <algorithm>
#include <cmath>

#include "core/quantity/format.h"
#include "core/quantity/say.h"

namespace otterstone::bench {

namespace {

constexpr double kUnprintedAmps = 3.0;
constexpr double kTolerance = 1.001; // digits of shares
// Nothing that is asked for 5 V gives more than this over it: USB allows 5.5 V, a vehicle's socket 14.4 V at 12 V.
constexpr double kMostOfTier = 1.25;
constexpr double kUsbVolts = 5.0;

double orElse(double given, double otherwise) { return std::isfinite(given) ? given : otherwise; }

// What a step draws at most, from an output of this tier.
struct Draw {
    double volts, amps;
};

Draw drawOf(const Step& s, const label::Tier& tier) {
    const double volts = tier.high.value, level = levelAt(s, tier);
    if (s.mode == Mode::Current)
        return {volts, level};
    if (s.mode == Mode::Power) // as the volts sag the amps rise
        return {volts, volts > 0.0 ? level / volts : HUGE_VAL};
    return {volts, level > 0.0 ? volts / level : HUGE_VAL};
}

} // namespace

Limits houseLimits(Limits l) {
    const Limits usual;
    l.seconds = std::clamp(orElse(l.seconds, usual.seconds), 1.0, kLongestRun);
    l.celsius = std::clamp(orElse(l.celsius, usual.celsius), kLeastCelsius, kMostCelsius);
    l.lowVolts = std::max(0.0, orElse(l.lowVolts, usual.lowVolts));
    l.highVolts = std::clamp(orElse(l.highVolts, usual.highVolts), 1.0, usual.highVolts);
    l.silentSeconds = std::clamp(orElse(l.silentSeconds, usual.silentSeconds), 1.0, usual.silentSeconds);
    return l;
}

Result<void> checkCelsius(double celsius, const std::string& place) {
    if (celsius >= kLeastCelsius && celsius <= kMostCelsius)
        return {};
    return problem("bad_limit", place,
                   say("the limit on temperature is a number from {} to {} °C.", showNumber(kLeastCelsius),
                       showNumber(kMostCelsius)),
                   "60 °C is usual.");
}

std::string missingWitness(const Plan& plan) {
    const auto& all = plan.instruments;
    const bool load = all.contains(role::load) || all.contains(role::secondLoad);
    if (!load || (mainMeter(plan.recipe.kind) == role::meter && all.contains(role::meter)))
        return {};
    return say(
        "no meter stands on the load's path: should the load say that it is off and go on, nothing here shows it");
}

double meantVolts(const label::Label& label, double reads) {
    double meant = kUsbVolts, apart = HUGE_VAL;
    for (const label::Port& port : label.ports) {
        for (const label::Tier& tier : port.tiersFor(label::Way::Out)) {
            const double next = std::clamp(reads, tier.low.value, std::max(tier.low.value, tier.high.value));
            const double off = std::fabs(reads - next);
            if (off < apart && off <= (kMostOfTier - 1.0) * next) {
                apart = off;
                meant = next;
            }
        }
    }
    return meant;
}

Limits windowFor(const Plan& plan, double asked) {
    Limits limits = plan.limits;
    const auto volts = [asked](const std::optional<double>& given, double otherwise) {
        return !given ? otherwise : *given < kShareBelow ? *given * asked : *given;
    };
    limits.lowVolts = volts(plan.recipe.lowVolts, plan.limits.lowVolts);
    const bool loaded = mainMeter(plan.recipe.kind) == role::meter && plan.instruments.contains(role::load);
    limits.highVolts = volts(plan.recipe.highVolts,
                             loaded ? std::min(plan.limits.highVolts, kMostOfTier * asked) : plan.limits.highVolts);
    return limits;
}

std::optional<Problem> asksTooMuch(const Plan& plan) {
    label::Tier tiers[2] = {tierFor({}, plan.label), tierFor({}, plan.label)};
    const auto& steps = plan.recipe.steps;
    for (std::size_t k = 0; k < steps.size() + plan.recipe.afterGone.size(); ++k) {
        const Step& s = k < steps.size() ? steps[k] : plan.recipe.afterGone[k - steps.size()];
        label::Tier& tier = tiers[s.load == 2 ? 1 : 0];
        if (s.what == Step::Do::Ask)
            tier = tierFor(s, plan.label);
        if (s.what != Step::Do::Load || s.off || s.again)
            continue;
        const auto load = plan.instruments.find(role::loads[s.load == 2]);
        if (load == plan.instruments.end())
            continue;
        const Draw d = drawOf(s, tier);
        const Range& most = load->second.profile.most;
        const auto tooMuch = [&](Spoken of, const std::string& asked, Spoken bears, Spoken mend) {
            return Problem{
                "asks_too_much", say("step {} of the recipe", std::to_string(k + 1)),
                say("it asks for {}, and {} bears {}.", asked, std::move(of).text(), std::move(bears).text()),
                std::move(mend).text()};
        };
        const std::string amps = showNumber(d.amps, 3) + " A";
        if (!(d.amps <= most.amps * kTolerance))
            return tooMuch("the load", amps, showNumber(most.amps, 3) + " A",
                           "Take a smaller load in the recipe, or a stronger instrument.");
        if (!(d.volts <= most.volts * kTolerance))
            return tooMuch("the load", showNumber(d.volts, 3) + " V", showNumber(most.volts, 3) + " V",
                           "Ask for a lower tier, or take another load.");
        if (!(d.amps * d.volts <= most.watts * kTolerance))
            return tooMuch("the load", showNumber(d.amps * d.volts, 3) + " W", showNumber(most.watts, 3) + " W",
                           "Take a smaller load in the recipe, or a stronger instrument.");
        const double port = kPortTimes * (tier.amps.value > 0.0 ? tier.amps.value : kUnprintedAmps);
        if (!(d.amps <= port * kTolerance))
            return tooMuch(say("a port that prints {} A", showNumber(port / kPortTimes, 3)), amps, "at most twice that",
                           "Check the label's tiers, or take a smaller load in the recipe.");
        if (plan.cableAmps && !(d.amps <= *plan.cableAmps * kTolerance))
            return tooMuch("the cable", amps, showNumber(*plan.cableAmps, 3) + " A",
                           "Take a cable that is marked for 5 A, and name it in the gear drawer.");
    }
    return std::nullopt;
}

} // namespace otterstone::bench
