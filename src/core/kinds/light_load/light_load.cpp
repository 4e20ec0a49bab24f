#include "core/kinds/light_load/light_load.h"

#include <algorithm>

#include "core/kinds/figure_keys.h"
#include "core/kinds/parts.h"
#include "core/quantity/say.h"

namespace otterstone::kinds {

namespace {

constexpr double kDay = 86400.0;

std::string milliamps(double amps) { return say("{} mA", showNumber(amps * 1000.0, 3)); }

void conclude(LightLadder& l) {
    std::stable_sort(l.steps.begin(), l.steps.end(),
                     [](const LightStep& a, const LightStep& b) { return a.amps < b.amps; });
    for (const LightStep& s : l.steps) {
        if (s.staysOn)
            continue;
        l.offAt = s.amps;
        if (s.seconds)
            l.secondsToOff = std::min(l.secondsToOff.value_or(*s.seconds), *s.seconds);
    }
    for (const LightStep& s : l.steps) {
        if (!s.staysOn)
            continue;
        if (l.secondsToOff && s.seconds && *s.seconds < *l.secondsToOff)
            l.tooShort.push_back(s);
        else if (l.offAt && s.amps <= *l.offAt)
            l.against.push_back(s);
        else if (!l.onAt)
            l.onAt = s.amps;
    }
}

std::string stepsWords(const std::vector<LightStep>& steps) {
    std::vector<std::string> words;
    words.reserve(steps.size());
    for (const LightStep& s : steps)
        words.push_back(milliamps(s.amps) + (s.seconds ? say(" (watched for {})", showDuration(*s.seconds, 1.0)) : ""));
    return listed(words);
}

void warn(const LightLadder& l, Said& said) {
    if (!l.tooShort.empty())
        said.warnings.push_back(
            {"watched_too_short",
             say("It stayed on at {}, but that was shorter than the {} it takes to go off, and says nothing.",
                 stepsWords(l.tooShort), showDuration(*l.secondsToOff, 1.0))});
    if (!l.against.empty())
        said.warnings.push_back(
            {"ladder_contradicts",
             say("It stayed on at {}, though it went off at {}, which is no less: what lets it sleep is not the current alone. Try both once more, watched equally long.",
                 stepsWords(l.against), milliamps(*l.offAt))});
}

std::string ladderWords(const LightLadder& l) {
    if (!l.offAt)
        return l.onAt
                   ? say("The output stays on down to {}, the smallest current tried", milliamps(l.steps.front().amps))
                   : "";
    std::string text = say("The output goes off at {}", milliamps(*l.offAt));
    if (l.secondsToOff)
        text = say("{} after {}", text, showDuration(*l.secondsToOff, 1.0));
    return l.onAt                                    ? say("{} and stays on at {}", text, milliamps(*l.onAt))
           : l.tooShort.empty() && l.against.empty() ? say("{}, the largest current tried", text)
                                                     : text;
}

Working ladderFigure(const LightLadder& l, const char* key, const char* label, const std::string& run) {
    Working w = figure(key, sayAsItStands(label),
                       say("between {} (goes off) and {} (stays on)", milliamps(*l.offAt), milliamps(*l.onAt)),
                       between(*l.offAt, *l.onAt, ErrorSource::ofRun(run, "between two steps")), Unit::Amp, "bank out",
                       "the middle ± half of the step; any value between is as likely");
    if (l.secondsToOff)
        w.parts.push_back(remark("time to auto-off", showDuration(*l.secondsToOff, 1.0)));
    return w;
}

void idle(Said& said, const char* key, const std::string& thing, const std::optional<double>& watts) {
    if (!watts)
        return;
    Working w = figure(key, say("idle {}", thing), "", Measured(*watts), Unit::Watt, "");
    w.parts.push_back(remark("in a day", say("{} Wh", showNumber(*watts * kDay / 3600.0, 2))));
    said.figures.push_back(std::move(w));
    said.sentence += (said.sentence.empty() ? "" : " ") +
                     say("Doing nothing, the {} burns {} mW.", thing, showNumber(*watts * 1000.0, 2));
}

} // namespace

LightLoadFinding lightLoad(const Sheet& sheet, const Facts& facts) {
    LightLoadFinding f;
    Rows rows(sheet, f.said.remarks);
    while (rows.next()) {
        const std::string what = rows.choice("what").empty() ? "load" : rows.choice("what");
        if (what.starts_with("idle")) {
            const auto watts = rows.number("watts");
            if (!watts)
                rows.remark("watts", "no_watts", "what idles needs its watts.");
            (what == "idle bank" ? f.bankWatts : what == "idle charger" ? f.chargerWatts : f.inverterWatts) = watts;
            continue;
        }
        const auto amps = rows.number("amps");
        const std::string state = rows.choice("state");
        if (!amps || state.empty()) {
            rows.remark(amps ? "state" : "amps", "half_step", "a step needs its current and what the output did.");
            continue;
        }
        (what == "load" ? f.plain : f.lowMode)
            .steps.push_back({*amps, state == "stays on", rows.seconds("after", 1.0)});
    }
    conclude(f.plain);
    conclude(f.lowMode);
    Said& said = f.said;
    warn(f.plain, said);
    warn(f.lowMode, said);
    if (const std::string words = ladderWords(f.plain); !words.empty())
        said.sentence = words + ".";
    if (f.plain.offAt && f.plain.onAt)
        said.figures.push_back(ladderFigure(f.plain, key::autoOffAmps, "goes to sleep below", facts.run));
    if (f.plain.secondsToOff)
        said.figures.push_back(figure("auto_off_seconds", "time to auto-off",
                                      "the shortest of the steps at which it went off", Measured(*f.plain.secondsToOff),
                                      Unit::Second, "bank out"));
    if (!f.lowMode.steps.empty() && f.plain.offAt) {
        // Helps where a current that let it sleep now keeps it awake.
        f.lowModeHelps = std::any_of(f.lowMode.steps.begin(), f.lowMode.steps.end(),
                                     [&](const LightStep& s) { return s.staysOn && s.amps <= *f.plain.offAt; });
        said.sentence += *f.lowModeHelps ? say(" The low-current mode keeps it on.")
                                         : say(" The low-current mode does not keep it on.");
        said.figures.push_back(remark("low-current mode", *f.lowModeHelps ? "helps" : "does not help"));
        said.figures.back().key = "low_mode";
    }
    idle(said, key::idleBank, say("bank"), f.bankWatts);
    idle(said, "idle_charger", say("charger"), f.chargerWatts);
    idle(said, "idle_inverter", say("inverter"), f.inverterWatts);
    if (facts.label.claimsLowCurrentMode && f.plain.offAt && f.lowMode.steps.empty())
        said.warnings.push_back(
            {"low_mode_not_tried", say("The label promises a low-current mode; it was not tried.")});
    return f;
}

} // namespace otterstone::kinds
