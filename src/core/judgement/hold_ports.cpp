// Claims about ports: their tiers, their watts alone and together.
#include <algorithm>
#include <cmath>

#include "core/behaviour/parts.h"
#include "core/behaviour/sharing.h"
#include "core/behaviour/staircase.h"
#include "core/behaviour/survey.h"
#include "core/judgement/hold_parts.h"
#include "core/quantity/format.h"

namespace otterstone::judgement {

namespace {

using namespace behaviour;
using findings::Kind;

constexpr double kSameVolts = 0.3; // V
constexpr double kReached = 0.97;  // of the promised current, for a load's own steps

// The later sheet of a kind counts; what it does not say an earlier one may.
template<class F>
void eachOf(const Evidence& e, Kind kind, F f) {
    for (auto at = e.sheets.rbegin(); at != e.sheets.rend(); ++at) {
        if (at->sheet.kind == kind)
            f(*at);
    }
}

Working voltsWorking(const Facts& facts, const std::string& where, double volts, double amps) {
    Working w;
    w.key = "tier_volts";
    w.label = where;
    w.value = meteredVolts(volts, 0.0, facts);
    if (facts.pathOhms)
        w.value = w.value + Measured(amps) * (*facts.pathOhms -
                                              Measured(facts.pathOhms->value())); // the volts are at the port already
    w.unit = Unit::Volt;
    w.point = facts.pathOhms ? "bank out" : "meter";
    w.formula = "read at " + showNumber(amps, 3) + " A";
    w.partialDoubt = !w.value.hasDoubt();
    return w;
}

Working wattsWorking(const Facts& facts, const std::string& where, double volts, double amps) {
    Working w;
    w.key = "watts";
    w.label = where;
    w.value = meteredVolts(volts, 0.0, facts) * meteredAmps(amps, 0.0, facts);
    w.unit = Unit::Watt;
    w.point = "bank out";
    w.formula = showNumber(volts, 4) + " V × " + showNumber(amps, 3) + " A";
    w.partialDoubt = !w.value.hasDoubt();
    return w;
}

} // namespace

namespace {

// A whole drain on the tier with the promised current: its mean volts at the port are energy over charge. Where no port
// is stated, only one may have the tier.
bool holdByDrains(const Evidence& e, Held& row) {
    const auto gives = [&](const label::Port& p) {
        return p.gives() && std::any_of(p.tiers.begin(), p.tiers.end(), [&](const label::Tier& t) {
                   return std::fabs(t.high.value - row.claim.volts) <= kSameVolts;
               });
    };
    const auto with = std::count_if(e.label.ports.begin(), e.label.ports.end(), gives);
    const label::Port* port = label::portNamed(e.label, row.claim.port);
    if (!port)
        return false;
    double promised = 0.0;
    for (const label::Tier& t : port->tiers) {
        if (std::fabs(t.high.value - row.claim.volts) <= kSameVolts)
            promised = port->watts ? std::min(t.amps.value, port->watts->value / t.high.value) : t.amps.value;
    }
    std::vector<Sample> samples;
    for (const findings::RunEntry& r : e.runs) {
        const findings::Finding& f = r.finding;
        if (!f.drain || !f.milliampHours || !(f.milliampHours->value() > 0.0) ||
            (r.port.empty() ? with != 1 : r.port != row.claim.port) ||
            std::fabs(f.plateauVolts - row.claim.volts) > 0.1 * row.claim.volts || f.plateauAmps < kReached * promised)
            continue;
        Working w;
        w.key = "tier_volts";
        w.label = row.claim.port + " at " + showNumber(row.claim.volts) + " V, " + r.title;
        w.value = f.portWattHours * Measured(1000.0) / *f.milliampHours;
        w.unit = Unit::Volt;
        w.point = "bank out";
        w.formula =
            showValue(f.portWattHours, Unit::WattHour) + " ÷ " + showValue(*f.milliampHours, Unit::MilliampHour);
        w.note = "mean of a drain at " + showNumber(f.plateauAmps, 3) + " A";
        const Working* energy = findings::figure(f, "energy_at_port_wh");
        w.partialDoubt = energy && energy->partialDoubt;
        samples.push_back({std::move(w), r.run});
    }
    if (samples.empty())
        return false;
    decideRow(row, pool(samples));
    return true;
}

} // namespace

// Volts at the port while the promised current is drawn (97 % of it counts as reached, for a load's own steps). A tier
// that is not there, or whose output goes off below the promised current, falls short whatever the meter's accuracy.
// Without a survey a drain that drew the current says it too.
void holdTier(const Evidence& e, Held& row) {
    row.next = {Kind::Survey, "port-survey",
                "A survey of " + row.claim.port + " at " + showNumber(row.claim.volts) +
                    " V with the promised current drawn."};
    bool done = false;
    std::string why = "no survey has tried it";
    eachOf(e, Kind::Survey, [&](const SheetRun& s) {
        if (done)
            return;
        const SurveyFinding f = survey(s.sheet, s.facts);
        for (const SurveyCell& c : f.cells) {
            if (done || c.in || c.port != row.claim.port || std::fabs(c.tierVolts - row.claim.volts) > kSameVolts)
                continue;
            const std::string where = c.port + " at " + showNumber(c.tierVolts) + " V";
            if (c.state == TierState::NotOffered) {
                decideRow(row, false, remark(where, "not offered when asked for"), s.run);
                done = true;
            } else if (c.volts && c.amps && (c.state == TierState::Holds || c.state == TierState::Sags)) {
                if (*c.volts < 1.0)
                    decideRow(row, false, remark(where, "goes off at " + showNumber(*c.amps, 3) + " A"), s.run);
                else
                    decideRow(row, pool({{voltsWorking(s.facts, where, *c.volts, *c.amps), s.run}}));
                done = true;
            } else if (c.state == TierState::HoldsPartly || c.state == TierState::Offered) {
                why = "it is there, but was drawn with " +
                      (c.amps ? showNumber(*c.amps, 3) + " A" : std::string("no load")) + " only";
                row.runs = {s.run};
            }
        }
    });
    if (!done)
        done = holdByDrains(e, row);
    if (!done)
        notTested(row, why);
}

// The most a survey or a staircase drew from the port within tolerance.
void holdPortWatts(const Evidence& e, Held& row) {
    row.next = {Kind::Survey, "port-survey",
                "A survey of " + row.claim.port + " with the current its best tier promises."};
    std::optional<Sample> best;
    bool gaveWay = false; // it was asked for more than it gave
    const auto offer = [&](const SheetRun& s, double volts, double amps) {
        Working w = wattsWorking(s.facts, row.claim.port + " alone", volts, amps);
        if (!best || w.value.value() > best->working.value.value())
            best = Sample{std::move(w), s.run};
    };
    eachOf(e, Kind::Survey, [&](const SheetRun& s) {
        const SurveyFinding f = survey(s.sheet, s.facts);
        for (const SurveyCell& c : f.cells) {
            if (c.in || c.port != row.claim.port || !c.volts || !c.amps)
                continue;
            if (c.state == TierState::Holds || c.state == TierState::HoldsPartly)
                offer(s, *c.volts, *c.amps);
            gaveWay = gaveWay || (c.state == TierState::Sags && c.tierVolts * *c.amps >= *row.claim.limits.low);
            if (c.state == TierState::NotOffered && c.promisedAmps &&
                c.tierVolts * *c.promisedAmps >= *row.claim.limits.low)
                gaveWay = true;
        }
    });
    eachOf(e, Kind::Staircase, [&](const SheetRun& s) {
        const StaircaseFinding f = staircase(s.sheet, s.facts);
        for (const Stair& stair : f.stairs) {
            if (stair.port != row.claim.port)
                continue;
            for (const Step& step : stair.steps) {
                if (step.on && (!stair.sagsAtAmps || step.amps < *stair.sagsAtAmps))
                    offer(s, step.volts, step.amps);
                else
                    gaveWay = gaveWay || stair.tierVolts * step.amps >= *row.claim.limits.low;
            }
        }
    });
    if (!best)
        return notTested(row, "nothing has been drawn from it yet");
    if (!gaveWay && decide(withAssumedAccuracy(best->working).value, row.claim.limits).verdict != Verdict::Meets) {
        row.runs = {best->run};
        return notTested(row,
                         "only " + showRoughly(best->working.value.value(), Unit::Watt) + " have been asked of it");
    }
    decideRow(row, pool({*best}));
}

// The most of a sharing round, if its loads could have drawn the total.
void holdTotal(const Evidence& e, Held& row) {
    row.next = {Kind::Sharing, "sharing-round", "A sharing round whose loads ask for at least the total."};
    std::optional<Sample> best;
    double asked = 0.0;
    eachOf(e, Kind::Sharing, [&](const SheetRun& s) {
        const SharingFinding f = sharing(s.sheet, s.facts);
        for (const Round& r : f.rounds) {
            asked = std::max(asked, r.aloneWatts);
            Working w;
            w.key = "together_watts";
            w.label = "all together";
            w.unit = Unit::Watt;
            w.point = "bank out";
            w.value = Measured(0.0);
            bool whole = !r.ports.empty();
            for (const SharedPort& p : r.ports) {
                whole = whole && p.togetherWatts && p.togetherVolts;
                if (!whole)
                    break;
                if (*p.togetherVolts > 0.5)
                    w.value = w.value + meteredVolts(*p.togetherVolts, 0.0, s.facts) *
                                            meteredAmps(*p.togetherWatts / *p.togetherVolts, 0.0, s.facts);
                w.formula += (w.formula.empty() ? "" : " + ") + showNumber(*p.togetherWatts, 3) + " W";
            }
            w.partialDoubt = !w.value.hasDoubt();
            if (whole && r.aloneWatts >= *row.claim.limits.low &&
                (!best || w.value.value() > best->working.value.value()))
                best = Sample{std::move(w), s.run};
        }
    });
    if (!best)
        return notTested(row, asked > 0.0 ? "the loads of the sharing rounds asked for " +
                                                showRoughly(asked, Unit::Watt) + " at most"
                                          : "no sharing round");
    decideRow(row, pool({*best}));
}

// The port of a combination that comes nearest to breaking its promise.
void holdTogether(const Evidence& e, Held& row) {
    const label::SharedLimit& promised = e.label.shared[row.claim.combination];
    row.next = {Kind::Sharing, "sharing-round", "A sharing round with exactly these ports in use."};
    struct Worst {
        Sample sample;
        double promise = 0.0, share = 0.0;
    };
    std::optional<Worst> worst;
    std::string why = "no sharing round with exactly these ports";
    eachOf(e, Kind::Sharing, [&](const SheetRun& s) {
        const SharingFinding f = sharing(s.sheet, s.facts);
        for (const Round& r : f.rounds) {
            const auto in = [&](const std::string& port) {
                return std::find_if(r.ports.begin(), r.ports.end(),
                                    [&](const SharedPort& p) { return p.port == port; });
            };
            if (r.ports.size() != promised.parts.size() ||
                std::any_of(promised.parts.begin(), promised.parts.end(),
                            [&](const auto& part) { return in(part.port) == r.ports.end(); }))
                continue;
            for (const auto& part : promised.parts) {
                const SharedPort& p = *in(part.port);
                if (!p.togetherWatts || !p.togetherVolts)
                    continue;
                const double share = *p.togetherWatts / part.watts.value;
                if (share < kPowerGiven && p.aloneWatts.value_or(0.0) < kPowerGiven * part.watts.value) {
                    why = part.port + " was asked for " + showRoughly(p.aloneWatts.value_or(0.0), Unit::Watt) + " only";
                    continue;
                }
                if (!worst || share < worst->share) {
                    const double volts = std::max(*p.togetherVolts, 1e-9);
                    worst = Worst{
                        {wattsWorking(s.facts, part.port + " of promised " + showNumber(part.watts.value, 3) + " W",
                                      *p.togetherVolts, *p.togetherWatts / volts),
                         s.run},
                        part.watts.value,
                        share};
                }
            }
        }
    });
    if (!worst)
        return notTested(row, why);
    row.claim.limits = {kPowerGiven * worst->promise, {}};
    decideRow(row, pool({worst->sample}));
}

} // namespace otterstone::judgement
