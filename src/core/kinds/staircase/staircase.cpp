#include "core/kinds/staircase/staircase.h"

#include <algorithm>
#include <cmath>

#include "core/kinds/parts.h"
#include "core/label/port_rules.h"
#include "core/path/meter_errors.h"
#include "core/quantity/line.h"
#include "core/quantity/say.h"

namespace otterstone::kinds {

namespace {

Stair& stairOf(std::vector<Stair>& all, const std::string& port, double volts, const Facts& facts) {
    for (Stair& s : all) {
        if (s.port == port && label::sameVolts(s.tierVolts, volts))
            return s;
    }
    Stair s;
    s.port = port;
    s.tierVolts = volts;
    if (const label::Port* p = label::portNamed(facts.label, port))
        s.ratedAmps = label::promisedAmps(*p, label::Way::Out, volts);
    return all.emplace_back(std::move(s));
}

// A step that tripped shows no volts: it belongs to the stair that was being climbed.
double lastTier(const std::vector<Stair>& all, const std::string& port) {
    const auto at = std::find_if(all.rbegin(), all.rend(), [&](const Stair& s) { return s.port == port; });
    return at == all.rend() ? 5.0 : at->tierVolts;
}

std::optional<Recovery> recoveryFrom(const std::string& words) {
    if (words.empty())
        return std::nullopt;
    return words == "by itself" ? Recovery::ByItself
           : words == "replug"  ? Recovery::Replug
           : words == "button"  ? Recovery::Button
           : words == "not yet" ? Recovery::NotYet
                                : Recovery::WaitThenReplug;
}

void conclude(Stair& s, const Facts& facts) {
    std::stable_sort(s.steps.begin(), s.steps.end(), [](const Step& a, const Step& b) { return a.amps < b.amps; });
    std::vector<double> amps, volts;
    const auto window = label::toleranceAt(s.port, s.tierVolts);
    for (const Step& step : s.steps) {
        if (!step.on) {
            s.firstBad = std::min(s.firstBad.value_or(step.amps), step.amps);
            continue;
        }
        amps.push_back(step.amps);
        volts.push_back(step.volts);
        if (window && !window->holds(step.volts) && !s.sagsAtAmps)
            s.sagsAtAmps = step.amps;
    }
    for (const Step& step : s.steps) {
        if (step.on && (!s.firstBad || step.amps < *s.firstBad))
            s.lastGood = step.amps;
    }
    s.fitted = amps.size();
    const auto line = fitLine(amps, volts);
    if (!line)
        return;
    const ErrorSource scatter = ErrorSource::ofRun(facts.run, "scatter of the steps");
    const path::OperatingPoint at{line->intercept, amps.back()};
    Measured ohms(-line->slope, line->uSlope, scatter, line->dof);
    // Amps read too large make the slope too small, volts read too large make it too large.
    if (const auto a = facts.meter.ampsUpTo(amps.back()))
        ohms = path::withInstrument(ohms, facts.meter.name, "amps gain", line->slope * rectangular(a->gain), at);
    if (const auto v = facts.meter.voltsUpTo(line->intercept))
        ohms = path::withInstrument(ohms, facts.meter.name, "volts gain", -line->slope * rectangular(v->gain), at);
    if (facts.pathOhms) // its value is in the volts already; its doubt is the slope's in full
        ohms = ohms - (*facts.pathOhms - Measured(facts.pathOhms->value()));
    s.emptyVolts = Measured(line->intercept, line->uIntercept, scatter, line->dof);
    if (const auto v = facts.meter.voltsUpTo(line->intercept))
        s.emptyVolts = path::withInstrument(path::withInstrument(*s.emptyVolts, facts.meter.name, "volts gain",
                                                                 line->intercept * rectangular(v->gain), at),
                                            facts.meter.name, "volts offset", rectangular(v->offset), at);
    s.ohms = ohms;
}

std::string marginWords(const std::pair<double, double>& m) {
    const auto percent = [](double share) {
        return std::string(share >= 0.0 ? "+" : "−") + showNumber(std::fabs(share) * 100.0, 2) + " %";
    };
    return otterstone::say("{} to {}", percent(m.first), percent(m.second));
}

void say(const Stair& s, const Facts& facts, Said& said) {
    const std::string where = s.port.empty() ? showNumber(s.tierVolts) + " V"
                                             : otterstone::say("{} at {} V", s.port, showNumber(s.tierVolts));
    std::string text = where;
    const std::string key = s.port + ":" + showNumber(s.tierVolts);
    if (s.lastGood && s.firstBad) {
        const std::string good = showNumber(*s.lastGood, 3), bad = showNumber(*s.firstBad, 3);
        text = s.hot ? otterstone::say("{} stopped from heat between {} and {} A", text, good, bad)
                     : otterstone::say("{} trips between {} and {} A", text, good, bad);
        Working w = figure("trip:" + key, otterstone::say("{}: trip", where),
                           otterstone::say("between {} A (held) and {} A (did not)", good, bad),
                           between(*s.lastGood, *s.firstBad, ErrorSource::ofRun(facts.run, "between two steps")),
                           Unit::Amp, "bank out", "the middle ± half of the step; any value between is as likely");
        if (const auto m = s.margin()) {
            text = otterstone::say("{} ({} over the printed {} A)", text, marginWords(*m), showNumber(*s.ratedAmps, 3));
            w.parts.push_back(remark("margin over the rating",
                                     otterstone::say("{} over {} A", marginWords(*m), showNumber(*s.ratedAmps, 3))));
        }
        said.figures.push_back(std::move(w));
        if (s.recovery) {
            text = *s.recovery == Recovery::NotYet
                       ? otterstone::say("{} and had not come back", text)
                       : otterstone::say("{} and comes back {}", text, recoveryWords(*s.recovery, s.recoverySeconds));
            said.figures.push_back(
                remark(otterstone::say("{}: recovery", where), recoveryWords(*s.recovery, s.recoverySeconds)));
            said.figures.back().key = "recovery:" + key;
        }
        if (s.ratedAmps && *s.firstBad <= *s.ratedAmps)
            said.warnings.push_back({"trips_below_rating", otterstone::say("{} gives up at or below its printed {} A.",
                                                                           where, showNumber(*s.ratedAmps, 3))});
    } else if (s.firstBad) {
        text = otterstone::say("{} trips at {} A already, the smallest step tried", text, showNumber(*s.firstBad, 3));
    } else if (s.lastGood) {
        text = otterstone::say("{} holds up to {} A, the largest step tried", text, showNumber(*s.lastGood, 3));
    }
    if (s.sagsAtAmps)
        text = otterstone::say("{}; out of tolerance from {} A on", text, showNumber(*s.sagsAtAmps, 3));
    if (s.ohms) {
        Working w = figure(
            "output_ohms:" + key, otterstone::say("{}: output resistance", where),
            otterstone::say("− slope of volts over amps, {}", counted(s.fitted, "step that held", "steps that held")),
            *s.ohms, Unit::Ohm, "bank out");
        if (facts.pathOhms)
            w.note = otterstone::say("the path's {} mΩ between port and meter are taken off",
                                     showNumber(facts.pathOhms->value() * 1000.0, 3));
        else
            w.note = otterstone::say("with the cable between port and meter, which is not known");
        if (s.ohms->value() + s.ohms->expanded() < 0.0)
            said.warnings.push_back(
                {"negative_resistance",
                 otterstone::say(
                     "{}: the volts rise with the load by {} mΩ, more than the readings' doubt: a cable's resistance is stated too large, or a reading slipped. No output resistance is given.",
                     where, showNumber(-s.ohms->value() * 1000.0, 3))});
        else
            said.figures.push_back(std::move(w));
        said.figures.push_back(figure("empty_volts:" + key, otterstone::say("{}: volts without load", where),
                                      "the line at 0 A", *s.emptyVolts, Unit::Volt, "bank out"));
    }
    said.sentence += (said.sentence.empty() ? "" : " ") + text + ".";
}

} // namespace

std::string recoveryWords(Recovery how, std::optional<double> seconds) {
    const std::string after = seconds ? otterstone::say(" after {}", showDuration(*seconds, 1.0)) : std::string();
    switch (how) {
    case Recovery::ByItself: return otterstone::say("by itself{}", after);
    case Recovery::Replug: return otterstone::say("when replugged");
    case Recovery::Button: return otterstone::say("at a press of the button");
    case Recovery::WaitThenReplug:
        return otterstone::say("when replugged{}", (seconds ? after : otterstone::say(" after a wait")));
    case Recovery::NotYet:
        return otterstone::say("not yet{}",
                               (seconds ? otterstone::say(" after {}", showDuration(*seconds, 1.0)) : std::string()));
    }
    return {};
}

std::optional<std::pair<double, double>> Stair::margin() const {
    if (!lastGood || !firstBad || !ratedAmps || *ratedAmps <= 0.0)
        return std::nullopt;
    return std::pair(*lastGood / *ratedAmps - 1.0, *firstBad / *ratedAmps - 1.0);
}

StaircaseFinding staircase(const Sheet& sheet, const Facts& facts) {
    StaircaseFinding f;
    Rows rows(sheet, f.said.remarks);
    while (rows.next()) {
        const auto amps = rows.number("amps");
        auto volts = rows.number("volts");
        const std::string state = rows.choice("state");
        const auto asked = rows.number("asked_v");
        if (!amps && !volts && state.empty())
            continue;
        if (!amps) {
            rows.remark("amps", "no_amps", "a step needs its current.",
                        "Write what was drawn, or what was asked for when it tripped.");
            continue;
        }
        const std::string port = rows.text("port");
        const label::Port* named = label::portNamed(facts.label, port);
        const std::string name = named ? named->name : port;
        Stair& stair = stairOf(f.stairs, name,
                               asked                                 ? *asked
                               : volts && !label::outputGone(*volts) ? nearestTier(*volts)
                                                                     : lastTier(f.stairs, name),
                               facts);
        const bool on = state.empty() ? !label::outputGone(volts.value_or(0.0)) : state == "holds";
        if (on && !volts) {
            rows.remark("volts", "no_volts", "a step that held needs its volts.");
            continue;
        }
        stair.hot = stair.hot || state == "hot";
        if (on && facts.pathOhms)
            *volts += *amps * facts.pathOhms->value();
        stair.steps.push_back({*amps, volts.value_or(0.0), on, rows.at()});
        if (const auto back = recoveryFrom(rows.choice("back"))) {
            stair.recovery = back;
            stair.recoverySeconds = rows.seconds("after", 1.0);
        }
    }
    for (Stair& s : f.stairs) {
        conclude(s, facts);
        say(s, facts, f.said);
    }
    if (!f.stairs.empty())
        f.said.warnings.push_back(
            {"overload_caution",
             otterstone::say(
                 "Overload steps only into protected equipment that is rated for them; never short a bank by hand, open it or bridge its cells.")});
    return f;
}

} // namespace otterstone::kinds
