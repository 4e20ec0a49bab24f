#include "core/path/bottleneck.h"

#include <algorithm>
#include <cmath>

#include "core/label/usb_facts.h"
#include "core/quantity/say.h"

namespace otterstone::path {

namespace {

constexpr double kSameVoltage = 0.05; // of it: fixed tiers are good to ± 5 %
constexpr double kAsksWhy = 0.15;

std::optional<Amps> ampsAt(const Side& side, double volts) {
    std::optional<Amps> most;
    for (const label::Tier& t : side.tiers) {
        if (volts < t.low.value * (1.0 - kSameVoltage) || volts > t.high.value * (1.0 + kSameVoltage))
            continue;
        Amps a = t.amps;
        if (side.watts)
            a = std::min(a, Amps(side.watts->value / volts));
        most = most ? std::max(*most, a) : a;
    }
    return most;
}

Working workingOf(const Prediction& p) {
    Working w;
    w.key = "predicted_tier";
    w.label = say("predicted");
    w.value = Measured(p.best.watts().value);
    w.unit = Unit::Watt;
    w.point = say("bank in");
    w.formula = showNumber(p.best.volts.value) + " V × " + showNumber(p.best.amps.value, 3) + " A";
    w.note = say("the {} decides", bindingName(p.best.binding));
    for (const Meeting& m : p.meetings) {
        const auto amps = [](std::optional<Amps> a) { return a ? showNumber(a->value, 3) + " A" : say("not offered"); };
        w.parts.push_back(
            remark(say("at {} V", showNumber(m.volts.value)),
                   say("charger {}, cable {} A, bank {}{}", amps(m.charger), showNumber(m.cable.value), amps(m.bank),
                       m.amps.value > 0.0
                           ? say(": {} W, decided by the {}", showNumber(m.watts().value, 3), bindingName(m.binding))
                           : say(": not possible"))));
    }
    return w;
}

} // namespace

std::string bindingName(Binding b) {
    return b == Binding::Charger ? say("charger") : b == Binding::Cable ? say("cable") : say("bank");
}

std::optional<double> mostWatts(const Side& side) {
    std::optional<double> most = side.tiers.empty() && side.watts ? std::optional(side.watts->value) : std::nullopt;
    for (const label::Tier& t : side.tiers)
        most = std::max(most.value_or(0.0), side.watts ? std::min(t.watts(), *side.watts).value : t.watts().value);
    return most;
}

std::optional<Prediction> predictTier(const Side& charger, CableLimit cable, const Side& bank) {
    std::vector<double> volts;
    for (const Side* side : {&charger, &bank}) {
        for (const label::Tier& t : side->tiers) {
            volts.push_back(t.high.value);
            if (t.programmable())
                volts.push_back(t.low.value);
        }
    }
    std::sort(volts.begin(), volts.end());
    volts.erase(std::unique(volts.begin(), volts.end(), [](double a, double b) { return std::fabs(a - b) < 1e-9; }),
                volts.end());

    Prediction p;
    bool any = false;
    for (double v : volts) {
        Meeting m;
        m.volts = Volts(v);
        m.cable = cable.amps;
        m.charger = ampsAt(charger, v);
        m.bank = ampsAt(bank, v);
        if (m.charger && m.bank) {
            m.amps = std::min({*m.charger, m.cable, *m.bank});
            // Where several are equal the bank is named first: no better charger or cable would help.
            m.binding = *m.bank == m.amps ? Binding::Bank : *m.charger == m.amps ? Binding::Charger : Binding::Cable;
            if (!any || m.watts().value > p.best.watts().value * (1.0 + 1e-9))
                p.best = m;
            any = true;
        } else {
            m.binding = m.charger ? Binding::Bank : Binding::Charger;
        }
        p.meetings.push_back(m);
    }
    if (!any)
        return std::nullopt;
    // The charger may stop the next better tier by not having its voltage at all.
    for (const Meeting& m : p.meetings) {
        if (m.bank && !m.charger && p.best.binding == Binding::Bank &&
            std::min(*m.bank, cable.amps) * m.volts.value > p.best.amps * p.best.volts.value)
            p.best.binding = Binding::Charger;
    }
    p.working = workingOf(p);
    return p;
}

std::vector<label::Tier> powerRuleTiers(Watts watts) {
    using label::Fact;
    struct Rule {
        double above, volts;
    };
    const Rule kRules[] = {{0.0, 5.0},
                           {usbFact(Fact::RuleNine), 9.0},
                           {usbFact(Fact::RuleFifteen), 15.0},
                           {usbFact(Fact::RuleTwenty), 20.0},
                           {usbFact(Fact::RuleTwentyEight), 28.0}};
    const double marked = usbFact(Fact::CableMarked), unmarked = usbFact(Fact::CableUnmarked);
    const double most = watts.value > usbFact(Fact::CableUnmarkedWatts) ? marked : unmarked;
    std::vector<label::Tier> tiers;
    for (const Rule& r : kRules) {
        if (watts.value > r.above)
            tiers.push_back({Volts(r.volts), Volts(r.volts),
                             Amps(std::min(r.volts < 20.0 ? unmarked : most, watts.value / r.volts))});
    }
    return tiers;
}

std::vector<std::string> whyBelow(Watts measured, const Prediction& predicted) {
    if (measured.value >= (1.0 - kAsksWhy) * predicted.best.watts().value)
        return {};
    std::vector<std::string> why = {say("Is the cable thin or long, or without a marker?"),
                                    say("Is the bank hot, so that it slows down by itself?"),
                                    say("Is the bank nearly full, so that the taper has begun?")};
    // Near 5 V though more was possible: the two never agreed on a higher tier.
    why.push_back(predicted.best.volts.value > 5.5
                      ? say("Did charger and bank agree on {} V at all? Read the volts; replug, or turn the plug.",
                            showNumber(predicted.best.volts.value))
                      : say("Does the charger give its full current at 5 V to this bank (data-line handshake)?"));
    return why;
}

} // namespace otterstone::path
