// One extractor for each kind of run whose findings are asked for.
#include <algorithm>
#include <cmath>

#include "core/behaviour/light_load.h"
#include "core/behaviour/matrix.h"
#include "core/behaviour/parts.h"
#include "core/behaviour/pass_through.h"
#include "core/behaviour/sharing.h"
#include "core/behaviour/staircase.h"
#include "core/behaviour/survey.h"
#include "core/evidence/observation.h"
#include "core/path/bottleneck.h"
#include "core/quantity/format.h"

namespace otterstone::evidence {

namespace {

using findings::figure;
using findings::Kind;
using findings::RunEntry;
using label::Way;

constexpr double kLittle = 0.02;  // A: less says nothing about a tier
constexpr double kOneTier = 0.10; // of the plateau's volts: what a path and a sagging port may take on one tier

// Whether it was the source of an input that could give no more.
LimitedBy limitedBySource(const Observation& o) {
    return o.sourceWatts && o.value->value.value() >= label::kPowerGiven * *o.sourceWatts ? LimitedBy::Source
                                                                                          : LimitedBy::Unknown;
}

class OfSheet {
public:
    OfSheet(const SheetRun& sheet, std::vector<Observation>& all) : sheet_(sheet), all_(all) {}

    void observe() {
        switch (sheet_.sheet.kind) {
        case Kind::Survey: return survey();
        case Kind::Staircase: return staircase();
        case Kind::Sharing: return sharing();
        case Kind::PassThrough: return passThrough();
        case Kind::LightLoad: return lightLoad();
        case Kind::Matrix: return matrix();
        default: return; // a pad, directions and cells say nothing that is asked yet
        }
    }

private:
    Observation blank(What what, std::string port, double tierVolts, Way way = Way::Out) const {
        Observation o;
        o.what = what;
        o.way = way;
        o.port = std::move(port);
        o.tierVolts = tierVolts;
        o.run = sheet_.run;
        o.title = sheet_.title;
        return o;
    }
    // A port that gave, or gave way.
    Observation gave(const std::string& port, double tierVolts, double volts, double amps) const {
        Observation o = blank(label::outputGone(volts) ? What::Trip : What::Out, port, tierVolts);
        o.amps = amps;
        o.asked = amps;
        if (o.what == What::Trip) {
            o.limited = LimitedBy::Bank;
            return o;
        }
        o.volts = volts;
        o.limited = LimitedBy::Nobody;
        const std::string at = (port.empty() ? "" : port + " at ") + showNumber(tierVolts) + " V";
        o.level = voltsWorking(sheet_.facts, at, volts, amps);
        o.value = wattsWorking(sheet_.facts, at, volts, amps);
        return o;
    }
    // The same of a row that has its volts as the meter read them, behind the path.
    Observation gaveAsRead(const std::string& port, double volts, double amps) const {
        const bool gone = label::outputGone(volts);
        const double atPort = !gone && sheet_.facts.pathOhms ? volts + amps * sheet_.facts.pathOhms->value() : volts;
        return gave(port, gone ? 0.0 : behaviour::nearestTier(atPort), atPort, amps);
    }
    Observation took(const std::string& port, std::optional<double> volts, double watts) const {
        Observation o = blank(What::In, port, volts ? behaviour::nearestTier(*volts) : 0.0, Way::In);
        o.volts = volts;
        if (volts && *volts > 0.0) {
            o.amps = watts / *volts;
            o.value = wattsWorking(sheet_.facts, port, *volts, *o.amps);
        } else {
            Working w;
            w.unit = Unit::Watt;
            w.value = Measured(watts);
            w.partialDoubt = true;
            o.value = std::move(w);
        }
        o.value->key = "watts_in";
        o.value->point = "bank in";
        return o;
    }
    void add(Observation o) { all_.push_back(std::move(o)); }

    void survey() {
        for (const behaviour::SurveyCell& c : behaviour::survey(sheet_.sheet, sheet_.facts).cells) {
            for (const behaviour::Try& t : c.tries) {
                Observation o;
                if (t.state == behaviour::TierState::NotTried)
                    continue;
                if (t.volts && t.amps && *t.amps >= kLittle) {
                    o = c.in ? took(c.port, *t.volts, *t.volts * *t.amps)
                             : gave(c.port, c.tierVolts, *t.volts, *t.amps);
                    o.tierVolts = c.tierVolts;
                } else {
                    o = blank(What::Tier, c.port, c.tierVolts, c.way());
                    o.volts = t.volts;
                    o.yes = t.state != behaviour::TierState::NotOffered;
                }
                o.row = t.row;
                o.note = t.note;
                add(std::move(o));
            }
        }
    }
    void staircase() {
        for (const behaviour::Stair& stair : behaviour::staircase(sheet_.sheet, sheet_.facts).stairs) {
            for (const behaviour::Step& step : stair.steps) {
                Observation o = gave(stair.port, stair.tierVolts, step.on ? step.volts : 0.0, step.amps);
                o.row = step.row;
                add(std::move(o));
            }
        }
    }
    void sharing() {
        for (const behaviour::Round& r : behaviour::sharing(sheet_.sheet, sheet_.facts).rounds) {
            Observation sum = blank(What::Together, {}, 0.0);
            Working total;
            total.key = "together_watts";
            total.label = "all together";
            total.unit = Unit::Watt;
            total.point = "bank out";
            total.value = Measured(0.0);
            bool whole = !r.ports.empty(), allAlone = true, allKept = true;
            for (const behaviour::SharedPort& p : r.ports) {
                sum.others.push_back(p.port);
                if (p.aloneVolts && p.aloneWatts && *p.aloneVolts > 0.0)
                    add(gaveAsRead(p.port, *p.aloneVolts, *p.aloneWatts / *p.aloneVolts));
                allAlone = allAlone && p.aloneWatts;
                allKept = allKept && p.kept().value_or(0.0) >= label::kPowerGiven;
                whole = whole && p.togetherWatts && p.togetherVolts;
                if (!p.togetherWatts || !p.togetherVolts)
                    continue;
                const double volts = *p.togetherVolts, amps = volts > 0.0 ? *p.togetherWatts / volts : 0.0;
                Observation o = gaveAsRead(p.port, volts, amps);
                o.asked = p.aloneWatts && p.aloneVolts ? std::optional(*p.aloneWatts / *p.aloneVolts) : std::nullopt;
                o.limited = p.kept() && *p.kept() < label::kPowerGiven ? LimitedBy::Bank : LimitedBy::Nobody;
                if (o.value)
                    total.value = total.value + o.value->value;
                total.formula +=
                    (total.formula.empty() ? "" : " + ") + showNumber(o.value ? o.value->value.value() : 0.0, 3) + " W";
                for (const behaviour::SharedPort& other : r.ports) {
                    if (other.port != p.port)
                        o.others.push_back(other.port);
                }
                add(std::move(o));
            }
            if (!whole)
                continue;
            if (allAlone) {
                sum.asked = r.aloneWatts;
                sum.limited = allKept ? LimitedBy::Nobody : LimitedBy::Bank;
            }
            total.partialDoubt = !total.value.hasDoubt();
            sum.value = std::move(total);
            add(std::move(sum));
        }
    }
    // The sheet names no port.
    void passThrough() {
        const auto f = behaviour::passThrough(sheet_.sheet, sheet_.facts);
        const auto corner = [&](const behaviour::Corner& c, bool charging) {
            if (c.outVolts && c.outWatts && *c.outVolts > 0.0) {
                Observation o = gaveAsRead({}, *c.outVolts, *c.outWatts / *c.outVolts);
                o.charging = charging;
                add(std::move(o));
            }
            if (c.inVolts && c.inWatts && *c.inVolts > 0.0) {
                Observation o = took({}, *c.inVolts, *c.inWatts);
                if (charging)
                    o.others = {"an output"};
                add(std::move(o));
            }
        };
        corner(f.inAlone, false);
        corner(f.outAlone, false);
        corner(f.both, true);
        if (f.what == behaviour::PassClass::Unknown)
            return;
        Observation o = blank(What::PassThrough, {}, 0.0);
        o.yes = behaviour::passesThrough(f.what);
        o.words = behaviour::passClassWords(f.what);
        add(std::move(o));
    }
    void lightLoad() {
        const auto f = behaviour::lightLoad(sheet_.sheet, sheet_.facts);
        if (f.plain.offAt) {
            Observation o = blank(What::AutoOff, {}, 0.0);
            o.amps = f.plain.offAt;
            for (const Working& w : f.said.figures) {
                if (w.key == "auto_off_amps")
                    o.value = w;
            }
            add(std::move(o));
        }
        if (f.lowModeHelps) {
            Observation o = blank(What::LowMode, {}, 0.0);
            o.yes = *f.lowModeHelps;
            add(std::move(o));
        }
    }
    void matrix() {
        for (const behaviour::MatrixCell& c : behaviour::matrix(sheet_.sheet, sheet_.facts).cells) {
            if (!c.computer.empty())
                continue; // those watts went into the computer
            Observation o = took(c.port, c.volts, *c.watts);
            o.charger = c.charger;
            o.cable = c.cable;
            o.row = c.row;
            for (const behaviour::Source& s : sheet_.facts.chargers) {
                if (s.name == c.charger)
                    o.sourceWatts = path::mostWatts(s.side);
            }
            // The charger through this cable, at a tier both know.
            if (c.predicted && c.predicted->best.binding != path::Binding::Bank)
                o.sourceWatts = c.predicted->best.watts().value;
            o.limited = limitedBySource(o);
            add(std::move(o));
        }
    }

    const SheetRun& sheet_;
    std::vector<Observation>& all_;
};

Observation ofRun(const RunEntry& r, What what, Way way) {
    Observation o;
    o.what = what;
    o.way = way;
    o.port = r.port;
    o.run = r.run;
    o.title = r.title;
    o.charger = r.charger;
    o.cable = r.cable;
    return o;
}

// The tier a load was on, by its volts; within a printed range and away from a fixed tier it was on the range.
double tierOf(const label::Label& l, const std::string& port, double volts) {
    const double nearest = behaviour::nearestTier(volts);
    const auto ranged = [&](const label::Port& p) {
        const auto all = p.tiersFor(Way::Out);
        return (port.empty() || p.name == port) && std::any_of(all.begin(), all.end(), [&](const label::Tier& t) {
                   return t.programmable() && volts >= t.low.value && volts <= t.high.value;
               });
    };
    return !label::toleranceOf(nearest).holds(volts) && std::any_of(l.ports.begin(), l.ports.end(), ranged)
               ? std::round(volts * 10.0) / 10.0
               : nearest;
}

// Its mean volts at the port are energy over charge.
void observeDrain(const label::Label& l, const RunEntry& r, std::vector<Observation>& all) {
    const findings::Finding& f = r.finding;
    const Working* energy = figure(f, "energy_at_port_wh");
    const double mean = f.milliampHours && f.milliampHours->value() > 0.0
                            ? f.portWattHours.value() * 1000.0 / f.milliampHours->value()
                            : 0.0;
    // A mean over two tiers is of neither.
    if (f.plateauAmps > 0.0 && mean > 0.0 && std::fabs(mean - f.plateauVolts) <= kOneTier * f.plateauVolts) {
        Observation o = ofRun(r, What::Out, Way::Out);
        o.volts = mean;
        o.amps = f.plateauAmps;
        o.tierVolts = tierOf(l, r.port, f.plateauVolts);
        o.limited = LimitedBy::Nobody;
        o.asked = f.plateauAmps;
        Working w;
        w.key = "tier_volts";
        w.label = r.title;
        w.value = f.portWattHours * Measured(1000.0) / *f.milliampHours;
        w.unit = Unit::Volt;
        w.point = "bank out";
        w.formula =
            showValue(f.portWattHours, Unit::WattHour) + " ÷ " + showValue(*f.milliampHours, Unit::MilliampHour);
        w.note = "mean of a drain at " + showNumber(f.plateauAmps, 3) + " A";
        w.partialDoubt = energy && energy->partialDoubt;
        o.level = std::move(w);
        Working watts;
        watts.key = "watts";
        watts.label = r.title;
        watts.unit = Unit::Watt;
        watts.point = "bank out";
        watts.value = f.portWattHours * Measured(findings::loadOf(f) / f.portWattHours.value());
        watts.formula = "mean of the drain while it was loaded";
        watts.partialDoubt = energy && energy->partialDoubt;
        o.value = std::move(watts);
        all.push_back(std::move(o));
    }
    if (f.drain->complete() && energy) {
        Observation o = ofRun(r, What::Energy, Way::Out);
        o.value = *energy;
        all.push_back(std::move(o));
    }
}

void observeRecharge(const RunEntry& r, std::vector<Observation>& all) {
    if (const Working* plateau = figure(r.finding, "plateau_watts")) {
        Observation o = ofRun(r, What::In, Way::In);
        o.value = *plateau;
        o.sourceWatts = r.chargerWatts;
        o.limited = limitedBySource(o);
        if (r.finding.plateauVolts > 0.0) {
            o.volts = r.finding.plateauVolts;
            o.amps = plateau->value.value() / r.finding.plateauVolts;
            o.tierVolts = behaviour::nearestTier(r.finding.plateauVolts);
        }
        all.push_back(std::move(o));
    }
    for (const auto& [what, key, time] : {std::tuple(What::TimeTo80, "time_to_80", &r.finding.recharge->timeTo80),
                                          std::tuple(What::TimeTo100, "time_to_100", &r.finding.recharge->timeTo100)}) {
        const Working* w = figure(r.finding, key);
        if (!w || !*time)
            continue;
        Observation o = ofRun(r, what, Way::In);
        o.value = *w;
        o.sourceWatts = r.chargerWatts;
        all.push_back(std::move(o));
    }
}

} // namespace

std::vector<Observation> observe(const Evidence& evidence) {
    std::vector<Observation> all;
    for (const RunEntry& r : evidence.runs) {
        if (r.finding.drain)
            observeDrain(evidence.label, r, all);
        else if (r.finding.recharge)
            observeRecharge(r, all);
    }
    for (const SheetRun& s : evidence.sheets)
        OfSheet(s, all).observe();
    return all;
}

} // namespace otterstone::evidence
