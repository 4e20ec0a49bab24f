// What a drain saw of the port it drew from.
#include <algorithm>
#include <cmath>

#include "core/kinds/figure_keys.h"
#include "core/kinds/parts.h"
#include "core/kinds/traced/observers.h"
#include "core/label/port_rules.h"
#include "core/quantity/format.h"
#include "core/quantity/say.h"

namespace otterstone::kinds {

namespace {

using label::Way;

constexpr double kOneTier = 0.10; // of the plateau's volts: what a path and a sagging port may take on one tier

// The tier a load was on, by its volts; within a printed range and away from a fixed tier it was on the range.
double tierOf(const label::Label& l, const std::string& port, double volts) {
    const double nearest = nearestTier(volts);
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

} // namespace

// Its mean volts at the port are energy over charge.
void observeDrain(const label::Label& l, const RunEntry& r, std::vector<Observation>& all) {
    const Finding& f = r.finding;
    const Working* energy = figure(f, key::energyAtPortWh);
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
        w.key = key::tierVolts;
        w.label = r.title;
        w.value = f.portWattHours * Measured(1000.0) / *f.milliampHours;
        w.unit = Unit::Volt;
        w.point = say("bank out");
        w.formula =
            showValue(f.portWattHours, Unit::WattHour) + " ÷ " + showValue(*f.milliampHours, Unit::MilliampHour);
        w.note = say("mean of a drain at {} A", showNumber(f.plateauAmps, 3));
        w.partialDoubt = energy && energy->partialDoubt;
        o.level = std::move(w);
        Working watts;
        watts.key = key::watts;
        watts.label = r.title;
        watts.unit = Unit::Watt;
        watts.point = say("bank out");
        watts.value = f.portWattHours * Measured(loadOf(f) / f.portWattHours.value());
        watts.formula = say("mean of the drain while it was loaded");
        watts.partialDoubt = energy && energy->partialDoubt;
        o.value = std::move(watts);
        all.push_back(std::move(o));
    }
    for (const auto& [what, key] :
         {std::pair(What::DevicePace, key::devicePace), {What::DeviceTo80, key::deviceTo80}}) {
        const Working* w = figure(f, key);
        if (!w)
            continue;
        Observation o = ofRun(r, what, Way::Out);
        o.value = *w;
        o.device = r.device;
        o.deviceWattHours = r.deviceWattHours;
        all.push_back(std::move(o));
    }
    if (wholeDrain(r) && energy) {
        Observation o = ofRun(r, What::Energy, Way::Out);
        o.value = *energy;
        all.push_back(std::move(o));
    }
}

} // namespace otterstone::kinds
