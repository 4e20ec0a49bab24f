// What a recipe will do and how long it takes, in words for people.
#include <algorithm>

#include "bench/recipes/recipe.h"
#include "bench/runner/stops.h"
#include "core/quantity/format.h"

#include "core/quantity/say.h"

namespace otterstone::bench {

namespace {

constexpr double kTaperStretch =
    1.25; // a recharge takes that much longer than energy ÷ plateau watts. Common practice, no published source.

} // namespace

label::Tier tierFor(const Step& step, const label::Label& label) {
    std::optional<label::Tier> found;
    for (const label::Port& p : label.ports) {
        if (!p.gives() || (!step.port.empty() && p.name != step.port))
            continue;
        std::vector<label::Tier> tiers;
        for (const label::Tier& t : p.tiers) {
            if (step.top || (t.low.value <= step.volts + 0.3 && step.volts - 0.3 <= t.high.value))
                tiers.push_back(t);
        }
        const auto best = label::bestTier(tiers);
        if (best && (!found || best->watts() > found->watts()))
            found = best;
    }
    if (!found)
        return {Volts(step.volts), Volts(step.volts), Amps(3.0)};
    const Volts volts = step.top ? found->high : Volts(step.volts);
    return {volts, volts, found->amps};
}

double levelAt(const Step& step, const label::Tier& tier) {
    if (!step.ofTier)
        return step.level;
    return step.level * (step.mode == Mode::Power ? tier.watts().value : tier.amps.value);
}

namespace {

std::string lasting(const Step& s, const Recipe& r) {
    switch (s.ends) {
    case Ends::AtCutOff:
        return s.seconds > 0.0 ? say("until the output goes off, {} at most", showDuration(s.seconds))
                               : say("until the bank switches its output off");
    case Ends::AtTaper: return say("until the power stays below a twentieth of its peak");
    case Ends::WhenSettled:
        return say("until the temperature has settled{}",
                   (s.seconds > 0.0 ? say(", {} at most", showDuration(s.seconds)) : std::string()));
    case Ends::AtTime: break;
    }
    return say("for {}{}", showDuration(s.seconds),
               (s.what == Step::Do::Load && r.goneMeans == "trip" ? say(", or until it trips") : ""));
}

// Within what it stays, as a sentence.
std::string limitsOf(const Recipe& r) {
    const Limits usual;
    const auto volts = [](double v) {
        return v < kShareBelow ? say("{} % of the volts asked for", showNumber(100.0 * v, 4)) : showNumber(v, 4) + " V";
    };
    std::string s = say("It stops at {} °C (where that is measured)", showNumber(r.celsius.value_or(usual.celsius)));
    if (r.lowVolts && *r.lowVolts > 0.0)
        s = say("{}, below {} under load", s, volts(*r.lowVolts));
    s = say("{}, above {}", s, volts(r.highVolts.value_or(usual.highVolts)));
    return say("{}, and after {} at the latest.", s, showDuration(r.hours ? *r.hours * 3600.0 : usual.seconds));
}

std::string amount(const Step& s, const label::Tier& tier) {
    if (s.ofTier && tier.amps.value <= 0.0)
        return say("{} % of what it promises", showNumber(100.0 * s.level, 3));
    const char* unit = s.mode == Mode::Current ? " A" : s.mode == Mode::Power ? " W" : " Ω";
    return showNumber(levelAt(s, tier), 3) + unit;
}

} // namespace

std::vector<std::string> describe(const Recipe& given, const label::Label& label) {
    std::vector<std::string> all;
    Recipe recipe = given;
    if (!given.forEach.empty()) {
        // Written out it would be long; the places where a port will stand are words.
        const std::pair<const char*, const char*> kPlaces[] = {{"{port}", "the port"},
                                                               {"{first}", "the first port"},
                                                               {"{second}", "the second port"},
                                                               {"{charger}", "the charger"},
                                                               {"{cable}", "the cable"}};
        for (Step& s : recipe.steps) {
            for (const auto& [place, words] : kPlaces) {
                for (std::string* text : {&s.text, &s.port}) {
                    for (std::size_t at = text->find(place); at != std::string::npos; at = text->find(place))
                        text->replace(at, std::string_view(place).size(), sayAsItStands(words));
                }
            }
        }
        all.push_back(given.forEach == "tier"   ? say("For each output, for each tier it may have:")
                      : given.forEach == "pair" ? say("For each output alone, then for each pair in both orders:")
                                                : say("For each charger with each cable of the drawer:"));
    } else {
        recipe = expand(given, label);
    }
    label::Tier tier = tierFor({}, label);
    for (std::size_t k = 0; k < recipe.steps.size(); ++k) {
        const Step& s = recipe.steps[k];
        if (!given.forEach.empty())
            tier.amps = Amps(0.0); // of no tier in particular
        if (s.ifGone)
            continue; // what is done where something went off
        switch (s.what) {
        case Step::Do::Ask:
            tier = tierFor(s, label);
            if (!given.forEach.empty()) { // each has its own
                all.push_back(say("Ask {}{}", (s.port.empty() ? say("the port") : s.port),
                                  (s.top ? say(" for its best tier.") : say(" for the tier."))));
                break;
            }
            all.push_back(
                say("Ask {} for {} V.", (s.port.empty() ? say("the port") : s.port), showNumber(tier.high.value, 3)));
            break;
        case Step::Do::Tell: all.push_back(say("You: {}", s.text)); break;
        case Step::Do::Rest: all.push_back(say("Watch with nothing changed {}.", lasting(s, recipe))); break;
        case Step::Do::Load: {
            const std::string which = s.load == 2 ? say(" with the second load") : "";
            // A ladder is told as one.
            std::size_t last = k;
            while (last + 1 < recipe.steps.size() && recipe.steps[last + 1].what == Step::Do::Load &&
                   recipe.steps[last + 1].seconds == s.seconds && recipe.steps[last + 1].load == s.load &&
                   recipe.steps[last + 1].ends == s.ends && !recipe.steps[last + 1].off && !s.off)
                ++last;
            if (s.off)
                all.push_back(say("Switch the load off{}.", which));
            else if (last > k + 1)
                all.push_back(say("Draw from {} to {} in {} steps, each {}.", amount(s, tier),
                                  amount(recipe.steps[last], tier), std::to_string(last - k + 1), lasting(s, recipe)));
            else
                all.push_back(say("Draw {}{} {}.", amount(s, tier), which, lasting(s, recipe)));
            if (last > k + 1)
                k = last;
            break;
        }
        }
    }
    if (!recipe.afterGone.empty())
        all.push_back(say("When the output has gone off, find out what brings it back."));
    all.push_back(recipe.closingSeconds > 0.0
                      ? say("Load off; watch for another {}. {}", showDuration(recipe.closingSeconds), limitsOf(given))
                      : limitsOf(given));
    return all;
}

std::optional<double> estimateSeconds(const Recipe& recipe, const label::Label& label, std::optional<double> wattHours,
                                      std::optional<double> inputWatts) {
    const auto course = courseOf(recipe, label, wattHours, inputWatts);
    return course ? std::optional(course->seconds) : std::nullopt;
}

std::optional<Course> courseOf(const Recipe& given, const label::Label& label, std::optional<double> wattHours,
                               std::optional<double> inputWatts) {
    const Recipe recipe = expand(given, label);
    double total = 0.0;
    Course course;
    label::Tier tier = tierFor({}, label);
    double drawn = 0.0; // Wh
    for (const Step& s : recipe.steps) {
        if (s.ifGone)
            continue;
        if (s.what == Step::Do::Tell && total > 0.0)
            course.hands.push_back({total, s.text});
        if (s.what == Step::Do::Ask)
            tier = tierFor(s, label);
        const double level = levelAt(s, tier);
        const double watts = s.what != Step::Do::Load || s.off ? 0.0
                             : s.mode == Mode::Power           ? level
                             : s.mode == Mode::Current         ? level * tier.high.value
                             : level > 0.0                     ? tier.high.value * tier.high.value / level
                                                               : 0.0;
        double seconds = s.seconds;
        if (s.ends == Ends::AtCutOff || s.ends == Ends::AtTaper) {
            const double at = s.ends == Ends::AtTaper ? inputWatts.value_or(0.0) / kTaperStretch : watts;
            if (!wattHours || at <= 0.0)
                return std::nullopt;
            seconds = std::max(0.0, *wattHours - drawn) / at * 3600.0;
        }
        drawn += watts * seconds / 3600.0;
        total += seconds;
    }
    course.seconds = total + recipe.closingSeconds;
    return course;
}

} // namespace otterstone::bench
