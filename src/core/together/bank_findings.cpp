#include "core/together/bank_findings.h"

#include <algorithm>
#include <cmath>

#include "core/kinds/needs.h"

namespace otterstone::together {

using namespace kinds;

namespace {

constexpr double kSameLoad = 0.05;
constexpr double kOneAmpAtFive = 5.0; // W: the gentle drain
constexpr double kGentleWatts = 7.5;  // and what is still taken for one
constexpr std::size_t kSettlingRuns = 2;

std::vector<Pair> pairsOf(const std::vector<RunEntry>& runs, std::vector<Contradiction>& contradictions) {
    std::vector<Pair> pairs;
    for (std::size_t k = 0; k < runs.size(); ++k) {
        if (!wholeDrain(runs[k]) || runs[k].settling)
            continue;
        // The recharge before it, or else the first after it: the drain of one is as full as the recharge of another.
        const RunEntry* recharge = nullptr;
        for (std::size_t j = 0; j < runs.size(); ++j) {
            if (wholeRecharge(runs[j]) && !runs[j].settling && (j < k || !recharge))
                recharge = &runs[j];
        }
        if (!recharge)
            continue;
        const Finding& out = runs[k].finding;
        const RechargeFinding& in = *recharge->finding.recharge;
        Pair p;
        p.drain = runs[k].run;
        p.recharge = recharge->run;
        Working trip = roundTripWorking(out.portWattHours, in.untilEndWattHours);
        trip.note = runs[k].title + " after " + recharge->title;
        p.roundTrip = trip.value;
        if (trip.value.value() >= 1.0) {
            contradictions.push_back(
                {{p.drain, p.recharge},
                 "“" + runs[k].title + "” gave " + showValue(out.portWattHours, Unit::WattHour) +
                     ", which is more than the " + showValue(in.untilEndWattHours, Unit::WattHour) + " that “" +
                     recharge->title +
                     "” put in: one of them did not begin or end as it is taken for, or a meter reads wrong. No round "
                     "trip is told."});
            continue;
        }
        Working extra = extraFromGrid(trip.value);
        p.sentence = showValue(trip.value, Unit::Share) + " of what went in came out again";
        if (in.wallWattHours) {
            p.wallToPort = out.portWattHours / *in.wallWattHours;
            Working wall;
            wall.key = "wall_to_port";
            wall.label = "wall to port";
            wall.value = *p.wallToPort;
            wall.unit = Unit::Share;
            wall.point = "wall to bank out";
            wall.formula =
                showValue(out.portWattHours, Unit::WattHour) + " ÷ " + showValue(*in.wallWattHours, Unit::WattHour);
            extra = extraFromGrid(wall.value);
            p.sentence += ", and " + showValue(wall.value, Unit::Share) + " of what the wall gave";
            p.figures.push_back(wall);
            if (const Working* stored = figure(out, "stored_wh")) {
                p.wallToDevice = stored->value / *in.wallWattHours;
                Working device = wall;
                device.key = "wall_to_device";
                device.label = "wall to device";
                device.value = *p.wallToDevice;
                device.point = "wall to the device's battery";
                device.formula =
                    showValue(stored->value, Unit::WattHour) + " ÷ " + showValue(*in.wallWattHours, Unit::WattHour);
                p.figures.push_back(device);
            }
        }
        p.sentence += ": 1 Wh used costs " + showValue(extra.value, Unit::Share) + " more.";
        p.figures.insert(p.figures.begin(), trip);
        p.figures.push_back(extra);
        pairs.push_back(std::move(p));
    }
    return pairs;
}

Working repeatsWorking(const std::string& what, const Repeats& r, const std::vector<const RunEntry*>& of, Unit unit) {
    Working w;
    w.key = "repeats";
    w.label = "mean of " + std::to_string(r.count) + ": " + what;
    w.value = r.mean;
    w.unit = unit;
    w.formula = r.count > 1 ? "Σ ÷ " + std::to_string(r.count) + ", s = " + showNumber(r.spread, 2) + " " + symbol(unit)
                            : "one run alone";
    w.note = r.count > 1 ? "± for about 95 % by Student's t with " + std::to_string(r.count - 1) +
                               " degrees of freedom where the scatter dominates"
                         : "one run is an anecdote: repeat it";
    if (r.drift)
        w.note += r.drift->seen()
                      ? "; it drifts by " + showNumber(r.drift->perRun, 2) + " " + symbol(unit) +
                            " from run to run (chance " + showNumber(r.drift->chance * 100.0, 2) + " %): not settled"
                      : "; no drift can be told";
    for (const RunEntry* e : of)
        w.parts.push_back(remark(e->title, e->finding.sentence));
    return w;
}

// The groups of runs that repeat one another. `value` is what is compared, `load` what makes them alike.
template<class Take, class Value, class Load>
void addRepeats(const std::vector<RunEntry>& runs, Repeating school, const char* kind, Take take, Value value,
                Load load, std::vector<RepeatGroup>& out) {
    std::vector<bool> used(runs.size(), false);
    for (std::size_t k = 0; k < runs.size(); ++k) {
        if (used[k] || !take(runs[k]))
            continue;
        std::vector<const RunEntry*> all, kept;
        RepeatGroup g;
        for (std::size_t j = k; j < runs.size(); ++j) {
            if (used[j] || !take(runs[j]) || std::fabs(load(runs[j]) / load(runs[k]) - 1.0) > kSameLoad ||
                std::fabs(runs[j].finding.plateauVolts - runs[k].finding.plateauVolts) >
                    kSameLoad * runs[k].finding.plateauVolts)
                continue;
            used[j] = true;
            (runs[j].settling ? g.leftOut : g.runs).push_back(runs[j].run);
            if (!runs[j].settling)
                all.push_back(&runs[j]);
        }
        if (all.size() + g.leftOut.size() < 2 || all.empty())
            continue;
        g.what = std::string(kind) + " at " + showNumber(load(runs[k]), 2) + " W";
        std::vector<Working> schools;
        const auto as = [&](const char* key, std::vector<const RunEntry*> of) {
            if (of.empty())
                return;
            std::vector<Measured> values;
            std::string ids;
            for (const RunEntry* e : of) {
                values.push_back(value(*e));
                ids += std::to_string(e->run) + " ";
            }
            const Repeats r = repeats(values, ErrorSource::scatterOf(ids));
            if (schools.empty() || answerOf(Schools{.repeating = school}, "repeats") == key) {
                g.repeats = r;
                kept = of;
            }
            schools.push_back(repeatsWorking(g.what, r, of, Unit::WattHour));
            schools.back().school = key;
        };
        as("mean", all);
        as("once", {all.front()});
        if (all.size() + g.leftOut.size() > kSettlingRuns)
            as("settled",
               {all.begin() + static_cast<std::ptrdiff_t>(
                                  std::min(all.size() - 1, kSettlingRuns - std::min(kSettlingRuns, g.leftOut.size()))),
                all.end()});
        g.working = ledBy("repeats", answerOf(Schools{.repeating = school}, "repeats"), std::move(schools));
        g.sentence = show(g.repeats.mean, Unit::WattHour) + " in " + std::to_string(g.repeats.count) +
                     (g.repeats.count == 1 ? " run" : " runs") + " (" + g.what + ")" +
                     (g.leftOut.empty() ? "" : ", " + std::to_string(g.leftOut.size()) + " settling left out") + ".";
        out.push_back(std::move(g));
    }
}

std::vector<InputRow> inputsOf(const std::vector<RunEntry>& runs) {
    std::vector<InputRow> rows;
    for (const RunEntry& r : runs) {
        if (!r.finding.recharge)
            continue;
        InputRow row{r.run, r.title, r.charger, r.cable, {}, {}, {}, {}, {}, {}};
        const auto take = [&](const char* key) -> std::optional<Working> {
            const Working* w = figure(r.finding, key);
            return w && !w->isText ? std::optional(*w) : std::nullopt;
        };
        row.plateau = take("plateau_watts");
        row.to80 = take("time_to_80");
        row.full = wholeRecharge(r) ? take("time_to_100") : std::nullopt;
        row.energy = take("energy_at_port_wh");
        row.idle = take("idle_watts");
        if (const Working* claim = figure(r.finding, "against_claim"))
            row.claim = claim->isText ? claim->note : claim->shown() + " of the claimed time";
        else if (std::any_of(r.finding.withheld.begin(), r.finding.withheld.end(),
                             [](const Withheld& w) { return w.figure.key == "against_claim"; }))
            row.claim = "not tested: " + whyNot(r.finding.kind, r.finding.ends, "against_claim");
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
            k.putInWattHours = std::max(k.putInWattHours.value_or(0.0), r.finding.recharge->untilEndWattHours.value());
    }
    for (const RunEntry& r : sheets) {
        for (const Working& w : r.finding.figures) {
            if (w.key == "idle_bank")
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
        Working w = *figure(r->finding, "energy_at_port_wh");
        w.key = "usable_wh";
        w.label = "usable energy";
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
        Working both = *figure(gentle->finding, "energy_at_port_wh");
        both.key = "usable_wh";
        both.label = "usable energy, gentle and near full";
        both.value = (gentle->finding.portWattHours + hard->finding.portWattHours) / Measured(2.0);
        both.formula = "(" + showValue(gentle->finding.portWattHours, Unit::WattHour) + " + " +
                       showValue(hard->finding.portWattHours, Unit::WattHour) + ") ÷ 2";
        both.note = "the mean of the gentle and the near-full drain; the curve says what any one load gets";
        both.question.clear();
        both.others.clear();
        both.parts = {*figure(gentle->finding, "energy_at_port_wh"), *figure(hard->finding, "energy_at_port_wh")};
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
        const Working* share = figure(r.finding, "delivered_share");
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
            if (w.key == "wall_to_port") {
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
        b.missing.emplace_back("A drain from full to the bank's cut-off would say how much is usable.");
    if (!filled)
        b.missing.emplace_back("A recharge from empty until the power stays low would give the round trip.");
    if (b.usable && b.usable->loads() == 1)
        b.missing.emplace_back("A drain at another load would narrow the usable energy at any load.");
    else if (b.usable && b.usable->loads() == 2)
        b.missing.emplace_back("A drain at a third load would tell the fixed loss from the resistive one.");
    if (drained && b.repeats.empty())
        b.missing.emplace_back("No run has been repeated: one run is an anecdote.");
    if (!b.pairs.empty() && !b.pairs.front().wallToPort)
        b.missing.emplace_back(
            "A wall meter, or the charger's efficiency in the gear drawer, would bring the efficiency to the wall.");
}

} // namespace

Working roundTripWorking(const Measured& out, const Measured& in) {
    Working w;
    w.key = "round_trip";
    w.label = "round trip";
    w.value = out / in;
    w.unit = Unit::Share;
    w.point = "bank in to bank out";
    w.formula = showValue(out, Unit::WattHour) + " ÷ " + showValue(in, Unit::WattHour);
    w.note = "matched runs of one bank: filled from empty, drained from full";
    const auto instrument = [](const Contribution& c) { return c.source.scope == Scope::Instrument; };
    const auto& o = out.contributions();
    const auto& i = in.contributions();
    if (std::any_of(o.begin(), o.end(), [&](const Contribution& c) {
            return instrument(c) &&
                   std::any_of(i.begin(), i.end(), [&](const Contribution& d) { return d.source.id == c.source.id; });
        })) {
        const auto if_ = [&](Common common) {
            return showNumber((asIf(out, common, "out") / asIf(in, common, "in")).expanded() * 100.0, 2);
        };
        w.note +=
            "; one instrument read both at unlike loads: half of the variance of its errors is taken as common to both (± " +
            if_(Common::All) + " points if all of it were, ± " + if_(Common::None) + " if none)";
    }
    return w;
}

Working extraFromGrid(const Measured& efficiency) {
    Working w;
    w.key = "extra_energy";
    w.label = "extra energy for each Wh used";
    w.value = Measured(1.0) / efficiency - Measured(1.0);
    w.unit = Unit::Share;
    w.formula = "1 ÷ " + showValue(efficiency, Unit::Share) + " − 1";
    const double lost = 1.0 - efficiency.value();
    w.note = "not " + showNumber(lost * 100.0, 2) +
             " %: that is the share lost of what goes in; what must go in on top is more";
    return w;
}

Working cycleCount(const Measured& putIn, double rated) {
    Working w;
    w.key = "cycles";
    w.label = "full cycles so far";
    w.value = putIn / Measured(rated);
    w.formula = showValue(putIn, Unit::WattHour) + " ÷ " + showNumber(rated) + " Wh";
    // A millionth below a whole one is a whole one that rounding took.
    const double whole = std::floor(w.value.value() + 1e-6);
    w.note =
        showNumber(whole) + (whole == 1.0 ? " whole one" : " whole ones") + ", in the recharges that are in this book";
    return w;
}

BankFindings judgeTogether(std::vector<RunEntry> runs, std::optional<double> rated, const Schools& schools,
                           const std::string& bank) {
    // Undated runs have no place between dated ones; then the book's own order stands.
    if (std::none_of(runs.begin(), runs.end(), [](const RunEntry& r) { return r.startedAt.empty(); }))
        std::stable_sort(runs.begin(), runs.end(),
                         [](const RunEntry& a, const RunEntry& b) { return a.startedAt < b.startedAt; });
    BankFindings b;
    for (const Kind kind : sheetKinds()) {
        for (const RunEntry& r : runs) {
            if (r.finding.kind == kind)
                b.behaviours.push_back({r.run, kind, r.title, r.finding.sentence});
        }
    }
    std::vector<RunEntry> sheets;
    std::copy_if(runs.begin(), runs.end(), std::back_inserter(sheets),
                 [](const RunEntry& r) { return hasSheet(r.finding.kind); });
    std::erase_if(runs, [](const RunEntry& r) { return hasSheet(r.finding.kind); });
    b.pairs = pairsOf(runs, b.contradictions);
    addRepeats(
        runs, schools.repeating, "drain", wholeDrain, [](const RunEntry& r) { return r.finding.portWattHours; },
        [](const RunEntry& r) { return loadOf(r.finding); }, b.repeats);
    addRepeats(
        runs, schools.repeating, "recharge", wholeRecharge,
        [](const RunEntry& r) { return r.finding.recharge->untilEndWattHours; },
        [](const RunEntry& r) { return r.finding.plateauPower; }, b.repeats);
    std::vector<UsablePoint> points;
    Measured putIn(0.0);
    bool any = false;
    for (const RunEntry& r : runs) {
        if (wholeDrain(r) && !r.settling)
            points.push_back({r.run, r.title, loadOf(r.finding), r.finding.portWattHours, r.finding.plateauVolts});
        if (r.finding.recharge) {
            putIn = putIn + r.finding.recharge->untilEndWattHours;
            any = true;
        }
    }
    fitUsable(points, knownOf(runs, sheets, rated, bank), b);
    if (any && rated && *rated > 0.0)
        b.cycles = cycleCount(putIn, *rated);
    b.usableFigure = usableOf(runs, schools);
    b.efficiency = efficiencyOf(b, runs, schools);
    b.inputs = inputsOf(runs);
    sayWhatIsMissing(b, runs);
    return b;
}

} // namespace otterstone::together
