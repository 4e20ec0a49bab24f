#include "core/together/bank_findings.h"

#include <algorithm>
#include <cmath>

#include "core/kinds/figure_keys.h"
#include "core/kinds/needs.h"
#include "core/quantity/say.h"
#include "core/together/parts.h"

namespace otterstone::together {

using namespace kinds;

namespace {

constexpr double kOneAmpAtFive = 5.0; // W: the gentle drain
constexpr double kGentleWatts = 7.5;  // and what is still taken for one

std::vector<InputRow> inputsOf(const std::vector<RunEntry>& runs) {
    std::vector<InputRow> rows;
    for (const RunEntry& r : runs) {
        if (!r.finding->recharge)
            continue;
        InputRow row{r.run, r.title, r.charger, r.cable, {}, {}, {}, {}, {}, {}};
        const auto take = [&](const char* key) -> std::optional<Working> {
            const Working* w = figure(r.finding, key);
            return w && !w->isText ? std::optional(*w) : std::nullopt;
        };
        row.plateau = take(key::plateauWatts);
        row.to80 = take(key::timeTo80);
        row.full = wholeRecharge(r) ? take(key::timeTo100) : std::nullopt;
        row.energy = take(key::energyAtPortWh);
        row.idle = take(key::idleWatts);
        if (const Working* claim = figure(r.finding, key::againstClaim))
            row.claim = claim->isText ? claim->note : say("{} of the claimed time", claim->shown());
        else if (std::any_of(r.finding->withheld.begin(), r.finding->withheld.end(),
                             [](const Withheld& w) { return w.figure.key == key::againstClaim; }))
            row.claim = say("not tested: {}", whyNot(r.finding->kind, r.finding->ends, key::againstClaim));
        rows.push_back(std::move(row));
    }
    return rows;
}

// What else the bank's runs say of it, for the curve.
UsableKnown knownOf(const std::vector<RunEntry>& runs, const std::vector<RunEntry>& sheets,
                    const std::optional<double>& rated, const std::string& bank) {
    UsableKnown k;
    k.bank = bank;
    k.ratedWattHours = rated;
    for (const RunEntry& r : runs) {
        if (wholeRecharge(r))
            k.putInWattHours = std::max(k.putInWattHours.value_or(0.0), r.finding->recharge->untilEndWattHours.value());
    }
    for (const RunEntry& r : sheets) {
        for (const Working& w : r.finding->figures) {
            if (w.key == key::idleBank)
                k.idleWatts = w.value.value();
            else if (w.key.starts_with("output_ohms:") && w.key.ends_with(":5"))
                k.outputOhms = w.value.value();
        }
    }
    return k;
}

// Converter losses follow the output current, so loads at one voltage make a better curve than all voltages mixed.
void fitUsable(const std::vector<UsablePoint>& points, const UsableKnown& known, BankFindings& b) {
    constexpr double kSameTier = 0.1;
    std::vector<UsablePoint> best;
    std::size_t most = 0;
    for (const UsablePoint& p : points) {
        std::vector<UsablePoint> tier;
        std::vector<double> loads;
        for (const UsablePoint& q : points) {
            if (std::fabs(q.volts - p.volts) > kSameTier * p.volts)
                continue;
            tier.push_back(q);
            if (std::none_of(loads.begin(), loads.end(),
                             [&](double w) { return std::fabs(q.watts - w) <= kSameLoad * w; }))
                loads.push_back(q.watts);
        }
        if (loads.size() > most) {
            most = loads.size();
            best = std::move(tier);
        }
    }
    if (best.empty())
        return;
    const double volts = best.front().volts;
    b.usableTier = showNumber(std::round(volts), 2) + " V";
    for (const UsablePoint& p : points) {
        if (std::fabs(p.volts - volts) > kSameTier * volts)
            b.otherDrains.push_back(p);
    }
    b.usable = UsableCurve::fit(std::move(best), known);
}

std::optional<Working> usableOf(const std::vector<RunEntry>& runs, const Schools& schools) {
    const RunEntry* gentle = nullptr;
    const RunEntry* hard = nullptr;
    const RunEntry* device = nullptr;
    const RunEntry* bank = nullptr;
    for (const RunEntry& r : runs) {
        if (!wholeDrain(r) || r.settling)
            continue;
        if (r.intoDevice)
            device = &r;
        else if (r.intoBank)
            bank = &r;
        else if (!gentle ||
                 std::fabs(loadOf(r.finding) - kOneAmpAtFive) < std::fabs(loadOf(gentle->finding) - kOneAmpAtFive))
            gentle = &r;
        if (!r.intoDevice && !r.intoBank && (!hard || loadOf(r.finding) > loadOf(hard->finding)))
            hard = &r;
    }
    std::vector<Working> all;
    const auto add = [&](const RunEntry* r, const char* school) {
        if (!r)
            return;
        Working w = *figure(r->finding, key::energyAtPortWh);
        w.key = key::usableWh;
        w.label = say("usable energy");
        w.note = r->title + ", " + showNumber(loadOf(r->finding), 3) + " W";
        w.question.clear();
        w.others.clear();
        w.school = school;
        all.push_back(std::move(w));
    };
    if (gentle && loadOf(gentle->finding) > kGentleWatts)
        gentle = nullptr;
    if (hard == gentle)
        hard = nullptr;
    if (gentle && hard) {
        Working both = *figure(gentle->finding, key::energyAtPortWh);
        both.key = key::usableWh;
        both.label = say("usable energy, gentle and near full");
        both.value = (gentle->finding->portWattHours + hard->finding->portWattHours) / Measured(2.0);
        both.formula = "(" + showValue(gentle->finding->portWattHours, Unit::WattHour) + " + " +
                       showValue(hard->finding->portWattHours, Unit::WattHour) + ") ÷ 2";
        both.note = say("the mean of the gentle and the near-full drain; the curve says what any one load gets");
        both.question.clear();
        both.others.clear();
        both.parts = {*figure(gentle->finding, key::energyAtPortWh), *figure(hard->finding, key::energyAtPortWh)};
        both.school = "gentle_and_near_full";
        all.push_back(std::move(both));
    }
    add(gentle, "gentle");
    add(hard, "near_full");
    add(device, "devices");
    add(bank, "into_bank");
    if (all.empty())
        return std::nullopt;
    return ledBy("drain_by", answerOf(schools, "drain_by"), std::move(all));
}

std::optional<Working> efficiencyOf(const BankFindings& b, const std::vector<RunEntry>& runs, const Schools& schools) {
    std::vector<Working> all;
    for (const RunEntry& r : runs) {
        const Working* share = figure(r.finding, key::deliveredShare);
        if (share && wholeDrain(r) && !r.settling) {
            all.push_back(*share);
            all.back().others.clear();
            all.back().school = "label";
            break;
        }
    }
    if (!b.pairs.empty()) {
        all.push_back(b.pairs.front().figures.front());
        all.back().school = "put_in";
        for (const Working& w : b.pairs.front().figures) {
            if (w.key == key::wallToPort) {
                all.push_back(w);
                all.back().school = "wall";
            }
        }
    }
    if (all.empty())
        return std::nullopt;
    Working w = ledBy("against", answerOf(schools, "against"), std::move(all));
    w.key = "efficiency";
    return w;
}

void sayWhatIsMissing(BankFindings& b, const std::vector<RunEntry>& runs) {
    const bool drained = std::any_of(runs.begin(), runs.end(), wholeDrain);
    const bool filled = std::any_of(runs.begin(), runs.end(), wholeRecharge);
    if (!drained)
        b.missing.emplace_back(say("A drain from full to the bank's cut-off would say how much is usable."));
    if (!filled)
        b.missing.emplace_back(say("A recharge from empty until the power stays low would give the round trip."));
    if (b.usable && b.usable->loads() == 1)
        b.missing.emplace_back(say("A drain at another load would narrow the usable energy at any load."));
    else if (b.usable && b.usable->loads() == 2)
        b.missing.emplace_back(say("A drain at a third load would tell the fixed loss from the resistive one."));
    if (drained && b.repeats.empty())
        b.missing.emplace_back(say("No run has been repeated: one run is an anecdote."));
    if (!b.pairs.empty() && !b.pairs.front().wallToPort)
        b.missing.emplace_back(say(
            "A wall meter, or the charger's efficiency in the gear drawer, would bring the efficiency to the wall."));
}

} // namespace

BankFindings judgeTogether(std::vector<RunEntry> runs, std::optional<double> rated, const Schools& schools,
                           const std::string& bank, const records::Past& past) {
    // Undated runs have no place between dated ones; then the book's own order stands.
    if (std::none_of(runs.begin(), runs.end(), [](const RunEntry& r) { return r.startedAt.empty(); }))
        std::stable_sort(runs.begin(), runs.end(),
                         [](const RunEntry& a, const RunEntry& b) { return a.startedAt < b.startedAt; });
    BankFindings b;
    b.life = life::lifeOf(runs, past, rated);
    b.partTrips = partTripsOf(runs, b.life, b.contradictions);
    for (const Kind kind : sheetKinds()) {
        for (const RunEntry& r : runs) {
            if (r.finding->kind == kind)
                b.behaviours.push_back({r.run, kind, r.title, r.finding->sentence});
        }
    }
    std::vector<RunEntry> sheets;
    std::copy_if(runs.begin(), runs.end(), std::back_inserter(sheets),
                 [](const RunEntry& r) { return hasSheet(r.finding->kind); });
    std::erase_if(runs, [](const RunEntry& r) { return hasSheet(r.finding->kind); });
    b.pairs = pairsOf(runs, b.contradictions);
    b.repeats = repeatGroupsOf(runs, schools.repeating);
    std::vector<UsablePoint> points;
    Measured putIn(0.0);
    std::vector<const RunEntry*> recharges;
    for (const RunEntry& r : runs) {
        if (wholeDrain(r) && !r.settling)
            points.push_back({r.run, r.title, loadOf(r.finding), r.finding->portWattHours, r.finding->plateauVolts});
        if (r.finding->recharge) {
            putIn = putIn + r.finding->recharge->untilEndWattHours;
            recharges.push_back(&r);
        }
    }
    fitUsable(points, knownOf(runs, sheets, rated, bank), b);
    if (!recharges.empty() && rated && *rated > 0.0) {
        b.cycles = cycleCount(putIn, *rated);
        markDoubt(*b.cycles, recharges);
    }
    b.usableFigure = usableOf(runs, schools);
    b.efficiency = efficiencyOf(b, runs, schools);
    b.inputs = inputsOf(runs);
    sayWhatIsMissing(b, runs);
    return b;
}

} // namespace otterstone::together
