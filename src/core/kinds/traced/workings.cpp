// The workings that drains and recharges share: energy at the meter down to samples and accuracy, the port, the means.
#include "core/kinds/figure_keys.h"
#include "core/kinds/traced/context.h"
#include "core/quantity/say.h"

#include <cmath>

namespace otterstone::kinds {

namespace {

std::string plain(double v, const char* unit) { return showNumber(v) + " " + unit; }

Working samplesLeaf(const Context& c) {
    const trace::Trace& t = c.trace;
    Working w = remark("samples", say("{} samples from {} to {}, one every {} (median)", std::to_string(t.size()),
                                      plain(t.time.front(), "s"), plain(t.time.back(), "s"), showDuration(c.step)));
    if (!c.setup.logName.empty())
        w.note = say("{}, from {}", w.note, c.setup.logName);
    if (c.setup.skippedLines > 0)
        w.note = say("{}; {} lines skipped", w.note, std::to_string(c.setup.skippedLines));
    return w;
}

Working accuracyLeaf(const Context& c) {
    Working w = remark("accuracy of the meter", path::showMeter(c.setup.meter));
    if (w.note.empty())
        w.note = say("not stated; state it in the run's set-up to give the figure an honest ±");
    else
        w.note = say("{}. Taken as rectangular limits (÷ √3), common to all samples", w.note);
    return w;
}

Working gapsLeaf(const Context& c) {
    std::string note;
    for (const trace::Gap& g : c.totals.gaps)
        note = say("{}{}{} to {}{}{} ± {} Wh", note, (note.empty() ? "" : "; "), plain(g.from, "s"), plain(g.to, "s"),
                   (g.bridged ? say(" estimated from both sides as ") : say(" left out, about ")),
                   showNumber(g.wattHours, 3), showNumber(2.0 * g.uWattHours, 2));
    return remark("gaps", note);
}

} // namespace

Working energyWorking(const Context& c, const Finding& f) {
    Working w;
    w.key = key::energyWh;
    w.label = say("energy at the {}", path::pointWords(f.point));
    w.formula = c.trace.hasCurrent() ? say("∫ V·I dt, trapezoids on the samples as they are")
                                     : say("∫ P dt, trapezoids on the samples");
    w.value = f.wattHours;
    w.unit = Unit::WattHour;
    w.point = path::pointWords(f.point);
    w.parts = {samplesLeaf(c), accuracyLeaf(c)};
    if (!c.totals.gaps.empty())
        w.parts.push_back(gapsLeaf(c));
    if (c.setup.clock.value() != 1.0)
        w.parts.push_back(remark("clock", say("times multiplied by {}", showNumber(c.setup.clock.value(), 6))));
    return w;
}

Working portWorking(const Context& c, const Finding& f) {
    const path::Point port = f.kind == Kind::Drain ? path::Point::BankOut : path::Point::BankIn;
    Working w;
    for (const PointFigure& p : f.points) {
        if (p.point == port && !p.byDisplay)
            w = p.energy;
    }
    if (w.key.empty()) { // no figure of the port's own
        w.formula = say("as read at the {}", path::pointWords(f.point));
        w.note = say("the resistance between port and meter is not known, so nothing is added for the cable");
        w.parts = {energyWorking(c, f)};
    }
    w.key = key::energyAtPortWh;
    w.label = f.kind == Kind::Drain ? say("energy out of the port") : say("energy into the port");
    w.value = f.portWattHours;
    w.unit = Unit::WattHour;
    w.point = path::pointWords(port);
    if (c.setup.ownDraw && f.kind == Kind::Drain && f.points.size() > 0 &&
        f.points.front().point != path::Point::BankOut)
        w.parts.push_back(path::ownDrawEnergy(*c.setup.ownDraw, c.totals.voltHours, c.totals.hours, f.wattHours.u(),
                                              c.setup.meter.name)
                              .working);
    return w;
}

std::pair<Measured, std::string> countedEnergy(const Setup& setup, const Finding& f) {
    const auto at = [&](path::Point point, bool display) -> const PointFigure* {
        for (const PointFigure& p : f.points) {
            if (p.point == point && p.byDisplay == display)
                return &p;
        }
        return nullptr;
    };
    const path::Point port = f.kind == Kind::Drain ? path::Point::BankOut : path::Point::BankIn;
    const PointFigure* p = nullptr;
    switch (setup.schools.measuredAt) {
    case MeasuredAt::Port: break;
    case MeasuredAt::Display: p = at(port, true); break;
    case MeasuredAt::FirstMeter: p = at(path::Point::Meter, false); break;
    case MeasuredAt::FarLoad: p = at(path::Point::Load, false); break;
    }
    if (p)
        return {p->energy.value, p->byDisplay ? std::string() : say("the {}", path::pointWords(p->point))};
    return {f.portWattHours, setup.byDisplay                 ? std::string()
                             : f.referred || at(port, false) ? say("the port")
                                                             : say("the {}", path::pointWords(f.point))};
}

void addEnergyFigures(const Context& c, Finding& f) {
    std::vector<Working> all;
    const auto school = [&all](Working w, const char* key) {
        w.key = key::energyAtPortWh;
        w.school = key;
        all.push_back(std::move(w));
    };
    const Working port = portWorking(c, f);
    school(port, "port");
    for (const PointFigure& p : f.points) {
        if (p.byDisplay)
            school(p.energy, "display");
        else if (p.point == path::Point::Meter)
            school(p.energy, "meter");
        else if (p.point == path::Point::Load)
            school(p.energy, "load");
    }
    Working counted = ledBy("measured_at", answerOf(c.setup.schools, "measured_at"), std::move(all));
    if (counted.school == "port") {
        f.figures.push_back(std::move(counted));
    } else { // the port's own figure keeps its name; the house's choice stands before it
        counted.key = key::countedWh;
        f.figures.push_back(std::move(counted));
        f.figures.push_back(port);
    }
    for (const LinkFigure& link : f.links) {
        if (link.ohms) {
            f.figures.push_back(*link.ohms);
            f.figures.back().key = "ohms:" + path::pointName(link.from);
        }
    }
    // Right beside the meter, with no cable between, there is nothing more to say.
    const bool nothingBetween = c.setup.farOhms && c.setup.farOhms->value() == 0.0;
    for (const PointFigure& p : f.points) {
        const bool beside =
            !p.read && nothingBetween && (p.point == path::Point::Load || p.point == path::Point::Charger);
        if (p.point != f.point && p.point != path::Point::BankOut && p.point != path::Point::BankIn && !beside)
            f.figures.push_back(p.energy);
    }
}

std::string shareWords(const std::string& share, bool printed, double wattHours) {
    return printed ? say("{} of the printed {} Wh", share, showNumber(wattHours))
                   : say("{} of the rated {} Wh", share, showNumber(wattHours));
}

Working timeWorking(const std::string& key, Spoken label, const Measured& seconds, Spoken note) {
    Working w;
    w.key = key;
    w.label = std::move(label).text();
    w.value = seconds;
    w.unit = Unit::Second;
    w.note = std::move(note).text();
    return w;
}

void addCommonFigures(const Context& c, Finding& f) {
    const std::string point = path::pointWords(f.point);
    const auto add = [&](const char* key, Spoken label, const Measured& value, Unit unit, Spoken formula,
                         Spoken note = {}) {
        Working w;
        w.key = key;
        w.label = std::move(label).text();
        w.value = value;
        w.unit = unit;
        w.formula = std::move(formula).text();
        w.point = point;
        w.note = std::move(note).text();
        w.parts = {samplesLeaf(c), accuracyLeaf(c)};
        f.figures.push_back(std::move(w));
    };
    f.figures.push_back(energyWorking(c, f));
    if (f.milliampHours) {
        add(key::chargeMah, "charge", *f.milliampHours, Unit::MilliampHour, "∫ I dt",
            say("at {}: mAh mean nothing without their voltage", showValue(*f.meanVolts, Unit::Volt)));
        add(key::meanVolts, "mean volts", *f.meanVolts, Unit::Volt,
            showValue(f.wattHours, Unit::WattHour) + " ÷ " + showValue(*f.milliampHours, Unit::MilliampHour));
    }
    add(key::meanWatts, "mean watts", f.meanWatts, Unit::Watt,
        showValue(f.meanWatts * Measured(f.onSeconds / 3600.0), Unit::WattHour) + " ÷ " + showDuration(f.onSeconds),
        "while power flowed");
    add("peak_watts", "peak watts", Measured(f.peakWatts), Unit::Watt, "greatest single sample",
        "a sample, not a level that holds");
    f.figures.back().partialDoubt = true;
    f.figures.push_back(timeWorking("duration_s", "length of the trace", measuredSpan(c, f.durationSeconds), ""));
}

} // namespace otterstone::kinds
