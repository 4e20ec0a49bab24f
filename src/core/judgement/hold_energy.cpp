// Claims about energy and time: what is in the cells, what comes out, how fast it goes in, how often it charges a
// device.
#include <algorithm>
#include <cmath>

#include "core/judgement/hold_parts.h"
#include "core/quantity/format.h"

namespace otterstone::judgement {

namespace {

using findings::figure;
using findings::RunEntry;

const RunEntry* runOf(const Evidence& e, long long id) {
    const auto at = std::find_if(e.runs.begin(), e.runs.end(), [&](const RunEntry& r) { return r.run == id; });
    return at == e.runs.end() ? nullptr : &*at;
}

} // namespace

// No meter reaches the cells. What leaves the port is less than they held, what entered is more; where between the two
// they lie depends on how the losses divide between charging and giving. Equal parts are the best guess, a quarter to
// three quarters the bounds (rectangular): common practice, no published source. Of several drains the gentlest count:
// they lose least.
void holdEnergy(const Evidence& e, Held& row) {
    double gentlest = std::numeric_limits<double>::infinity();
    for (const findings::Pair& p : e.together.pairs) {
        if (const RunEntry* r = runOf(e, p.drain))
            gentlest = std::min(gentlest, loadOf(*r));
    }
    std::vector<Sample> samples;
    for (const findings::Pair& p : e.together.pairs) {
        const RunEntry* out = runOf(e, p.drain);
        const RunEntry* in = runOf(e, p.recharge);
        if (!out || !in || loadOf(*out) > 1.05 * gentlest)
            continue;
        const Measured& given = out->finding.portWattHours;
        const Measured& taken = in->finding.recharge->untilEndWattHours;
        if (!(given.value() > 0.0) || !(taken.value() > given.value()))
            continue;
        const double value = std::sqrt(given.value() * taken.value());
        Working w;
        w.key = "cells_wh";
        w.label = "energy of the cells";
        w.unit = Unit::WattHour;
        w.point = "cells";
        w.value = combine(value, std::array{Sensitivity{&given, value / given.value() / 2.0},
                                            Sensitivity{&taken, value / taken.value() / 2.0}})
                      .with(ErrorSource::ofBank("", "how the losses divide"),
                            value * rectangular(0.25) * std::log(taken.value() / given.value()));
        w.formula = "√(" + showValue(given, Unit::WattHour) + " × " + showValue(taken, Unit::WattHour) + ")";
        w.note =
            "half of the round trip's loss (as a ratio) is taken to fall on charging, half on giving, each good from a quarter to three quarters";
        w.parts = {*figure(out->finding, "energy_at_port_wh"), *figure(in->finding, "energy_at_port_wh")};
        w.partialDoubt = w.parts[0].partialDoubt || w.parts[1].partialDoubt;
        samples.push_back({std::move(w), p.drain});
        row.runs.push_back(p.recharge);
    }
    row.next = {findings::Kind::Recharge, "recharge-to-taper",
                "A recharge from empty until the power stays low, beside a complete gentle drain."};
    if (!samples.empty())
        return decideRow(row, pool(samples));
    std::vector<Sample> drains;
    for (const RunEntry& r : e.runs) {
        if (completeDrain(r) && !r.settling)
            drains.push_back({*figure(r.finding, "energy_at_port_wh"), r.run});
    }
    if (drains.empty()) {
        row.next = {findings::Kind::Drain, "gentle-drain",
                    "A gentle drain from full until it shuts off, and a recharge beside it."};
        return notTested(row, "no complete drain");
    }
    // More came out than is printed: then that much was in, whatever was lost.
    const auto most = std::max_element(drains.begin(), drains.end(), [](const Sample& a, const Sample& b) {
        return a.working.value.value() < b.working.value.value();
    });
    if (decide(withAssumedAccuracy(most->working).value, row.claim.limits).verdict == Verdict::Meets)
        return decideRow(row, pool({*most}));
    notTested(row, showValue(most->working.value, Unit::WattHour) +
                       " came out, but no recharge tells what was lost on the way");
}

// Charge through the port on the printed voltage, of the gentlest drains there.
void holdRatedOutput(const Evidence& e, Held& row) {
    double gentlest = std::numeric_limits<double>::infinity();
    bool elsewhere = false;
    const auto there = [&](const RunEntry& r) {
        return std::fabs(r.finding.plateauVolts - row.claim.volts) <= 0.1 * row.claim.volts;
    };
    for (const RunEntry& r : e.runs) {
        if (!completeDrain(r) || r.settling)
            continue;
        elsewhere = elsewhere || !there(r);
        if (there(r) && r.finding.milliampHours)
            gentlest = std::min(gentlest, loadOf(r));
    }
    std::vector<Sample> samples;
    for (const RunEntry& r : e.runs) {
        if (!completeDrain(r) || r.settling || !there(r) || !r.finding.milliampHours || loadOf(r) > 1.05 * gentlest)
            continue;
        Working w;
        w.key = "charge_mah";
        w.label = "charge out of the port";
        w.value = *r.finding.milliampHours;
        w.unit = Unit::MilliampHour;
        w.point = "bank out";
        w.formula = "∫ I dt at " + showNumber(r.finding.plateauVolts, 3) + " V";
        w.partialDoubt = figure(r.finding, "energy_at_port_wh")->partialDoubt;
        samples.push_back({std::move(w), r.run});
    }
    row.next = {findings::Kind::Drain, "gentle-drain",
                "A gentle drain at " + showNumber(row.claim.volts) + " V from full until it shuts off."};
    if (samples.empty())
        return notTested(row, elsewhere ? "the complete drains were at other voltages, and mAh hold only at theirs"
                                        : "no complete drain");
    decideRow(row, pool(samples));
}

// Time to full of the recharges whose charger could give what the claim needs.
void holdRecharge(const Evidence& e, Held& row) {
    std::vector<Sample> samples;
    std::string why = "no recharge";
    for (const RunEntry& r : e.runs) {
        if (!r.finding.recharge || r.settling)
            continue;
        if (r.finding.recharge->claimTested && r.finding.recharge->timeTo100) {
            samples.push_back({*figure(r.finding, "time_to_100"), r.run});
            samples.back().working.value = *r.finding.recharge->timeTo100;
        } else if (const Working* said = figure(r.finding, "against_claim");
                   said && said->note.starts_with("not tested: ")) {
            why = r.title + ": " + said->note.substr(12);
        }
    }
    row.next = {findings::Kind::Recharge, "recharge-to-taper",
                "A recharge from empty" +
                    (e.label.inputWatts ? ", with a charger of " + showNumber(e.label.inputWatts->value) + " W or more"
                                        : std::string()) +
                    ", until the power stays low."};
    if (samples.empty())
        return notTested(row, why);
    decideRow(row, pool(samples));
}

// Usable energy × what of it arrived in such a device ÷ the battery the claim names.
void holdCharges(const Evidence& e, Held& row) {
    const label::ChargesClaim& claim = *e.label.charges;
    row.next = {findings::Kind::Drain, "device-charge",
                "Charge the device (" + showNumber(claim.deviceWattHours, 4) +
                    " Wh) from the full bank, with its display's percent at start and end."};
    std::vector<Sample> samples;
    for (const RunEntry& r : e.runs) {
        const Working* transfer = figure(r.finding, "transfer");
        if (!transfer || !r.deviceWattHours || std::fabs(*r.deviceWattHours / claim.deviceWattHours - 1.0) > 0.05 ||
            !e.together.usableFigure)
            continue;
        Working w;
        w.key = "device_charges";
        w.label = "full charges";
        w.value = e.together.usableFigure->value * transfer->value / Measured(claim.deviceWattHours);
        w.formula = showValue(e.together.usableFigure->value, Unit::WattHour) + " × " +
                    showValue(transfer->value, Unit::Share) + " ÷ " + showNumber(claim.deviceWattHours, 4) + " Wh";
        w.point = "the device's battery";
        w.parts = {*e.together.usableFigure, *transfer};
        w.partialDoubt = transfer->partialDoubt || e.together.usableFigure->partialDoubt;
        samples.push_back({std::move(w), r.run});
    }
    if (!samples.empty())
        return decideRow(row, pool(samples));
    std::string why = "no run into a device of that battery";
    if (e.together.usableFigure)
        why += "; by sum about " +
               showNumber(e.together.usableFigure->value.value() * 0.85 / claim.deviceWattHours, 2) +
               " charges, if 85 % arrive";
    notTested(row, why);
}

} // namespace otterstone::judgement
