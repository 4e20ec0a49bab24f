// Claims about energy and time: what is in the cells, what comes out, how fast it goes in, how often it charges a
// device.
#include <algorithm>
#include <cmath>

#include "core/evidence/observe.h"
#include "core/judgement/hold_parts.h"
#include "core/kinds/figure_keys.h"
#include "core/kinds/needs.h"
#include "core/quantity/format.h"
#include "core/quantity/say.h"

namespace otterstone::judgement {

namespace {

using kinds::figure;
using kinds::RunEntry;

const RunEntry* runOf(const Evidence& e, long long id) {
    const auto at = std::find_if(e.runs.begin(), e.runs.end(), [&](const RunEntry& r) { return r.run == id; });
    return at == e.runs.end() ? nullptr : &*at;
}

// Of which a verdict may be given.
bool counts(const RunEntry& r) { return r.finding->drain && kinds::answers(r.finding, key::labelWh) && !r.settling; }

std::vector<Sample> completeDrains(const Evidence& e) {
    std::vector<Sample> drains;
    for (const RunEntry& r : e.runs) {
        if (counts(r))
            drains.push_back({*figure(r.finding, key::energyAtPortWh), r.run});
    }
    return drains;
}

// Why no drain counts: what keeps the last of them from it.
std::string noWholeDrain(const Evidence& e) {
    std::string why = say("no complete drain");
    for (const RunEntry& r : e.runs) {
        if (const std::string not_ = kinds::whyNot(r.finding->kind, r.finding->ends, key::labelWh);
            r.finding->drain && !not_.empty())
            why = say("{}: {}", r.title, not_);
    }
    return why;
}

// Those within 5 % of the load at which most came out: very light loads lose by the bank's own draw, heavy ones by
// resistance.
std::vector<Sample> bestDrains(const Evidence& e) {
    std::vector<Sample> drains = completeDrains(e);
    const auto most = std::max_element(drains.begin(), drains.end(), [](const Sample& a, const Sample& b) {
        return a.working.value.value() < b.working.value.value();
    });
    if (most == drains.end())
        return drains;
    const double load = loadOf(*runOf(e, most->run));
    std::erase_if(drains, [&](const Sample& s) { return std::fabs(loadOf(*runOf(e, s.run)) / load - 1.0) > 0.05; });
    return drains;
}

// No meter reaches the cells. What leaves the port is less than they held, what entered is more; where between the two
// they lie depends on how the losses divide between charging and giving. Equal parts are the best guess, a quarter to
// three quarters the bounds (rectangular): common practice, no published source. Of several drains the gentlest count:
// they lose least.
void byCells(const Case& c, Held& row) {
    const Evidence& e = c.e;
    double gentlest = std::numeric_limits<double>::infinity();
    for (const together::Pair& p : e.together.pairs) {
        if (const RunEntry* r = runOf(e, p.drain); r && counts(*r))
            gentlest = std::min(gentlest, loadOf(*r));
    }
    std::vector<Sample> samples;
    for (const together::Pair& p : e.together.pairs) {
        const RunEntry* out = runOf(e, p.drain);
        const RunEntry* in = runOf(e, p.recharge);
        if (!out || !in || !counts(*out) || !kinds::answers(in->finding, key::againstClaim) ||
            loadOf(*out) > 1.05 * gentlest)
            continue;
        const Measured& given = out->finding->portWattHours;
        const Measured& taken = in->finding->recharge->untilEndWattHours;
        if (!(given.value() > 0.0) || !(taken.value() > given.value()))
            continue;
        const double value = std::sqrt(given.value() * taken.value());
        Working w;
        w.key = "cells_wh";
        w.label = say("energy of the cells");
        w.unit = Unit::WattHour;
        w.point = say("cells");
        w.value = combine(value, std::array{Sensitivity{&given, value / given.value() / 2.0},
                                            Sensitivity{&taken, value / taken.value() / 2.0}})
                      .with(ErrorSource::ofBank("", "how the losses divide"),
                            value * rectangular(0.25) * std::log(taken.value() / given.value()));
        w.formula = say("√({} × {})", showValue(given, Unit::WattHour), showValue(taken, Unit::WattHour));
        w.note = say(
            "half of the round trip's loss (as a ratio) is taken to fall on charging, half on giving, each good from a quarter to three quarters");
        w.parts = {*figure(out->finding, key::energyAtPortWh), *figure(in->finding, key::energyAtPortWh)};
        w.partialDoubt = w.parts[0].partialDoubt || w.parts[1].partialDoubt;
        samples.push_back({std::move(w), p.drain});
        row.runs.push_back(p.recharge);
    }
    row.next = {records::Kind::Recharge, "recharge-to-taper",
                say("A recharge from empty until the power stays low, beside a complete gentle drain.")};
    if (!samples.empty())
        return decideRow(row, pool(samples));
    const std::vector<Sample> drains = completeDrains(e);
    if (drains.empty()) {
        row.next = {records::Kind::Drain, "gentle-drain",
                    say("A gentle drain from full until it shuts off, and a recharge beside it.")};
        return notTested(row, noWholeDrain(c.e));
    }
    // More came out than is printed: then that much was in, whatever was lost.
    const auto most = std::max_element(drains.begin(), drains.end(), [](const Sample& a, const Sample& b) {
        return a.working.value.value() < b.working.value.value();
    });
    if (decide(withAssumedAccuracy(most->working).value, row.claim.limits).verdict == Verdict::Meets)
        return decideRow(row, pool({*most}));
    notTested(row, say("{} came out, but no recharge tells what was lost on the way",
                       showValue(most->working.value, Unit::WattHour)));
}

// What came out of the port, full to empty, as if nothing might be lost on the way.
void byCameOut(const Case& c, Held& row) {
    row.next = {records::Kind::Drain, "gentle-drain", say("A gentle drain from full until it shuts off.")};
    const std::vector<Sample> drains = bestDrains(c.e);
    if (drains.empty())
        return notTested(row, noWholeDrain(c.e));
    decideRow(row, pool(drains));
}

// The label's Wh are taken as kept as far as its own promise for the port is: charge out ÷ rated output × Wh.
void byRatedOutput(const Case& c, Held& row) {
    const label::Label& l = c.e.label;
    if (!l.outputCapacity || !l.outputVolts)
        return notTested(row, "the label states no rated output");
    const double rated = *row.claim.limits.low;
    Held output;
    output.claim.volts = l.outputVolts->value;
    output.claim.limits = {l.outputCapacity->value * 1000.0, {}};
    output.claim.unit = Unit::MilliampHour;
    holdRatedOutput(c, output);
    if (!output.finding) {
        row.next = output.next;
        return notTested(row, output.why);
    }
    Working w = *output.finding;
    w.formula = say("{} Wh × {} ÷ {} mAh", showNumber(rated, 4), showValue(w.value, Unit::MilliampHour),
                    showNumber(*output.claim.limits.low, 6));
    w.value = w.value * Measured(rated / *output.claim.limits.low);
    w.unit = Unit::WattHour;
    w.key = "by_rated_output_wh";
    w.label = say("energy by the rated output");
    w.parts = {*output.finding};
    decideRow(row, {std::move(w), std::nullopt, output.runs});
}

// The usable curve at no load: what would come out if nothing were lost in giving.
void byEmptyLoad(const Case& c, Held& row) {
    row.next = {records::Kind::Drain, "gentle-drain", say("Complete drains at two loads or more.")};
    const auto& curve = c.e.together.usable;
    if (!curve)
        return notTested(row, noWholeDrain(c.e));
    if (curve->loads() < 2)
        return notTested(row, "the usable curve rests on one load alone");
    // Without a recharge above it the curve leans on the label's own Wh, and would be held against itself.
    if (std::none_of(c.e.runs.begin(), c.e.runs.end(), [&](const RunEntry& r) {
            return kinds::wholeRecharge(r) &&
                   r.finding->recharge->untilEndWattHours.value() >= (1.0 - 1e-9) * curve->most();
        })) {
        row.next = {records::Kind::Recharge, "recharge-to-taper",
                    say("A recharge from empty until the power stays low.")};
        return notTested(row, "no recharge bounds the usable curve, which then leans on the label itself");
    }
    Working w;
    w.key = "empty_load_wh";
    w.label = say("E₀ of the usable curve");
    w.value = curve->emptyLoad();
    w.unit = Unit::WattHour;
    w.point = say("bank out, at no load");
    w.formula = curve->inWords();
    Pooled found{std::move(w), std::nullopt, {}};
    for (const together::UsablePoint& p : curve->points())
        found.runs.push_back(p.run);
    decideRow(row, found);
}

} // namespace

// Testers differ on what the label's Wh are held against: the house's school decides, the others are told beside it.
void holdEnergy(const Case& c, Held& row) {
    static constexpr void (*kBy[])(const Case&, Held&) = {byCells, byCameOut, byRatedOutput, byEmptyLoad};
    const setup::Question& question = setup::question("label_by");
    const auto chosen = static_cast<std::size_t>(c.e.schools.labelBy);
    std::vector<Held> all(question.answers.size(), row);
    for (std::size_t k = 0; k < all.size(); ++k) {
        kBy[k](c, all[k]);
        if (all[k].finding) {
            all[k].finding->question = question.key;
            all[k].finding->school = question.answers[k].key;
        }
    }
    row = all[chosen];
    if (chosen != 0) { // another school does not speak of the cells
        row.claim.condition = say("by {}", question.answers[chosen].words);
        row.claim.words = say("{} Wh, {}", showNumber(*row.claim.limits.low, 4), row.claim.condition);
    }
    for (std::size_t k = 0; k < all.size(); ++k) {
        if (k == chosen || !all[k].finding)
            continue;
        row.seen.push_back(say("by {}: {}, {}", question.answers[k].words, all[k].why, verdictWords(all[k].verdict)));
        if (row.finding)
            row.finding->others.push_back(*all[k].finding);
    }
}

// Charge through the port on the printed voltage, of the gentlest drains there.
void holdRatedOutput(const Case& c, Held& row) {
    const Evidence& e = c.e;
    double gentlest = std::numeric_limits<double>::infinity();
    bool elsewhere = false;
    const auto there = [&](const RunEntry& r) {
        return std::fabs(r.finding->plateauVolts - row.claim.volts) <= 0.1 * row.claim.volts;
    };
    for (const RunEntry& r : e.runs) {
        if (!counts(r))
            continue;
        elsewhere = elsewhere || !there(r);
        if (there(r) && r.finding->milliampHours)
            gentlest = std::min(gentlest, loadOf(r));
    }
    std::vector<Sample> samples;
    for (const RunEntry& r : e.runs) {
        if (!counts(r) || !there(r) || !r.finding->milliampHours || loadOf(r) > 1.05 * gentlest)
            continue;
        Working w;
        w.key = key::chargeMah;
        w.label = say("charge out of the port");
        w.value = *r.finding->milliampHours;
        w.unit = Unit::MilliampHour;
        w.point = say("bank out");
        w.formula = say("∫ I dt at {} V", showNumber(r.finding->plateauVolts, 3));
        w.partialDoubt = figure(r.finding, key::energyAtPortWh)->partialDoubt;
        samples.push_back({std::move(w), r.run});
    }
    row.next = {records::Kind::Drain, "gentle-drain",
                say("A gentle drain at {} V from full until it shuts off.", showNumber(row.claim.volts))};
    if (samples.empty())
        return notTested(row, elsewhere ? say("the complete drains were at other voltages, and mAh hold only at theirs")
                                        : noWholeDrain(e));
    decideRow(row, pool(samples));
}

// Time to full of the recharges whose charger could give what the claim needs.
void holdRecharge(const Case& c, Held& row) {
    const Evidence& e = c.e;
    const std::optional<Watts> needed = label::inputNeeded(e.label);
    std::vector<Sample> samples;
    std::string why = say("no recharge");
    for (const RunEntry& r : e.runs) {
        if (!r.finding->recharge || r.settling)
            continue;
        if (r.finding->recharge->claimTested && r.finding->recharge->timeTo100) {
            samples.push_back({*figure(r.finding, key::timeTo100), r.run});
            samples.back().working.value = *r.finding->recharge->timeTo100;
        } else if (const std::string not_ = kinds::whyNot(r.finding->kind, r.finding->ends, key::againstClaim);
                   !not_.empty()) {
            why = say("{}: {}", r.title, not_);
        } else if (!r.finding->recharge->claimNotTested.empty()) {
            why = say("{}: {}", r.title, r.finding->recharge->claimNotTested);
        }
    }
    // Notebooks: by the clock alone.
    for (const Observation& o : c.seen) {
        if (o.what != What::TimeTo100 || !o.value || runOf(e, o.run))
            continue;
        if (const auto excuse = kinds::chargerExcuse(o.value->value, *row.claim.limits.high, o.sourceWatts, needed))
            why = say("{}: {}", o.title, excuse->words);
        else
            samples.push_back({*o.value, o.run});
    }
    row.next = {records::Kind::Recharge, "recharge-to-taper",
                needed ? say("A recharge from empty, with a charger of {} W or more, until the power stays low.",
                             showNumber(needed->value, 3))
                       : say("A recharge from empty, until the power stays low.")};
    if (samples.empty())
        return notTested(row, why);
    decideRow(row, pool(samples));
}

namespace {

// Usable energy × what of it arrived in such a device ÷ the battery the claim names.
std::vector<Sample> chargesBySum(const Evidence& e, const label::ChargesClaim& claim) {
    std::vector<Sample> samples;
    for (const RunEntry& r : e.runs) {
        const Working* transfer = figure(r.finding, key::transfer);
        if (!transfer || !evidence::sameBattery(r.deviceWattHours, claim.deviceWattHours) || !e.together.usableFigure)
            continue;
        Working w;
        w.key = key::deviceCharges;
        w.label = say("full charges");
        w.value = e.together.usableFigure->value * transfer->value / Measured(*claim.deviceWattHours);
        w.formula = say("{} × {} ÷ {} Wh", showValue(e.together.usableFigure->value, Unit::WattHour),
                        showValue(transfer->value, Unit::Share), showNumber(*claim.deviceWattHours, 4));
        w.point = say("the device's battery");
        w.parts = {*e.together.usableFigure, *transfer};
        w.partialDoubt = transfer->partialDoubt || e.together.usableFigure->partialDoubt;
        samples.push_back({std::move(w), r.run});
    }
    return samples;
}

} // namespace

// What notebooks counted of that device, the surest of them; else the sum.
void holdCharges(const Case& c, Held& row) {
    const Evidence& e = c.e;
    const label::ChargesClaim& claim = e.label.charges[row.claim.combination];
    const std::string device = claim.device.empty() ? say("the device") : claim.device;
    row.next = {records::Kind::Notebook, "",
                say("Charge {} from the full bank until that is empty, and write down its percent at the start and the "
                    "end of each charge.",
                    claim.deviceWattHours ? say("{} ({} Wh)", device, showNumber(*claim.deviceWattHours, 4)) : device)};
    const Observation* best = nullptr;
    for (const Observation& o : c.seen) {
        if (o.what != What::Charges || !o.value || !evidence::isOf(o, claim.device, claim.deviceWattHours))
            continue;
        if (!best || o.value->value.u() < best->value->value.u())
            best = &o;
    }
    if (best)
        return decideBy(row, *best, *best->value);
    if (const auto samples = chargesBySum(e, claim); !samples.empty())
        return decideRow(row, pool(samples));
    if (e.together.usableFigure && claim.deviceWattHours)
        return notTested(row, say("no run into a device of that battery; by sum about {} charges, if {} % arrive",
                                  showNumber(e.together.usableFigure->value.value() * together::kArrivesInDevice /
                                                 *claim.deviceWattHours,
                                             2),
                                  showNumber(100.0 * together::kArrivesInDevice)));
    notTested(row, claim.deviceWattHours ? say("no run into a device of that battery") : say("no run into {}", device));
}

} // namespace otterstone::judgement
