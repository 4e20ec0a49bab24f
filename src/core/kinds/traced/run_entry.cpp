#include <algorithm>
#include <cmath>

#include "core/kinds/figure_keys.h"
#include "core/kinds/parts.h"
#include "core/kinds/traced/observers.h"

namespace otterstone::kinds {

bool saysNothingOfCharge(const Finding& f) { return hasSheet(f.kind) && !f.ends.began && !f.ends.ended; }

Kind wayOf(const Finding& f) { return f.kind == Kind::Recharge || f.fills ? Kind::Recharge : Kind::Drain; }

namespace {
bool accuracyUnknown(const Finding& f) {
    const Working* energy = figure(f, key::energyAtPortWh);
    return energy && energy->partialDoubt;
}
} // namespace

void markDoubt(Working& w, std::initializer_list<const Finding*> of) {
    w.partialDoubt = !mostlyKnown(w.value) &&
                     std::any_of(of.begin(), of.end(), [](const Finding* f) { return accuracyUnknown(*f); });
}

void markDoubt(Working& w, const std::vector<const RunEntry*>& of) {
    w.partialDoubt = !mostlyKnown(w.value) &&
                     std::any_of(of.begin(), of.end(), [](const RunEntry* r) { return accuracyUnknown(r->finding); });
}

double loadOf(const Finding& f) {
    return f.drain->activeSeconds > 0.0 ? f.portWattHours.value() * 3600.0 / f.drain->activeSeconds : f.plateauPower;
}

double repeatedAt(const Finding& f) { return f.drain ? loadOf(f) : f.plateauPower; }

bool alike(const RunEntry& one, const RunEntry& other) {
    const Finding &a = one.finding, &b = other.finding;
    const double here = repeatedAt(a), there = repeatedAt(b);
    return a.kind == b.kind && std::fabs(here - there) <= kSameLoad * there &&
           std::fabs(a.plateauVolts - b.plateauVolts) <= kSameLoad * b.plateauVolts &&
           records::sameConditions(one.conditions, other.conditions);
}

bool wholeDrain(const RunEntry& r) { return r.finding->drain && answers(r.finding, key::usableWh); }
bool wholeRecharge(const RunEntry& r) { return r.finding->recharge && answers(r.finding, key::putInWh); }

Observation ofRun(const RunEntry& r, What what, label::Way way) {
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

} // namespace otterstone::kinds
