#include <algorithm>
#include <cmath>

#include "core/kinds/figure_keys.h"
#include "core/quantity/say.h"
#include "core/together/parts.h"

namespace otterstone::together {

using namespace kinds;

namespace {

constexpr double kSoon = 2.0; // days: what it loses while it rests is nothing beside a display's doubt. Common practice

Contradiction moreCameOut(const RunEntry& drain, const RunEntry& recharge) {
    return {
        {drain.run, recharge.run},
        say("“{}” gave {}, which is more than the {} that “{}” put in: one of them did not begin or end as it is taken for, or a meter reads wrong. No round trip is told.",
            drain.title, showValue(drain.finding->portWattHours, Unit::WattHour),
            showValue(recharge.finding->recharge->untilEndWattHours, Unit::WattHour), recharge.title)};
}

} // namespace

std::vector<Pair> partTripsOf(const std::vector<RunEntry>& runs, const life::Life& life,
                              std::vector<Contradiction>& contradictions) {
    std::vector<Pair> trips;
    const auto entry = [&](const life::Passage& p) -> const RunEntry* {
        const RunEntry& r = runs[p.entry];
        return p.asks > 0 || r.settling || records::hasSheet(p.kind) ? nullptr : &r;
    };
    for (std::size_t k = 1; k < life.passages.size(); ++k) {
        const life::Passage &before = life.passages[k - 1], &after = life.passages[k];
        const RunEntry *first = entry(before), *second = entry(after);
        const bool drained = before.kind == Kind::Drain;
        if (!first || !second || before.kind == after.kind || !after.joined || *after.restDays >= kSoon)
            continue;
        // Both ends of the trip are the same: full, or empty; and it turned somewhere between.
        const auto is = [drained](const std::optional<KnownState>& s) {
            return s && s->from != StateFrom::Taken && (drained ? s->state.isFull() : s->state.isEmpty());
        };
        if (!is(before.began) || !is(after.ended) || before.ended->state.isEmpty() || before.ended->state.isFull())
            continue;
        const RunEntry &drain = drained ? *first : *second, &recharge = drained ? *second : *first;
        Pair p;
        p.drain = drain.run;
        p.recharge = recharge.run;
        Working trip = roundTripWorking(drain.finding->portWattHours, recharge.finding->recharge->untilEndWattHours);
        if (trip.value.value() >= 1.0) {
            contradictions.push_back(moreCameOut(drain, recharge));
            continue;
        }
        p.roundTrip = trip.value;
        markDoubt(trip, {&*drain.finding, &*recharge.finding});
        trip.key = "round_trip_part";
        trip.label = say("round trip over a part");
        trip.note = say("“{}” right after “{}”, {}: what one moved the other moved back, if nothing used it in between",
                        second->title, first->title,
                        (drained ? say("from full and full again") : say("from empty and empty again")));
        const double share = std::fabs(before.began->state.middle() - before.ended->state.middle());
        p.sentence = say("{}{} round trip over about {} % of its charge, if nothing used it in between.",
                         (drained ? say("Right after “{}” {} filled it up again: ", first->title,
                                        showValue(recharge.finding->recharge->untilEndWattHours, Unit::WattHour))
                                  : say("Right after “{}” {} came out until it was empty: ", first->title,
                                        showValue(drain.finding->portWattHours, Unit::WattHour))),
                         trip.shown(), showNumber(share, 2));
        p.figures = {trip};
        trips.push_back(std::move(p));
    }
    return trips;
}

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
        const RechargeFinding& in = *recharge->finding->recharge;
        Pair p;
        p.drain = runs[k].run;
        p.recharge = recharge->run;
        Working trip = roundTripWorking(out.portWattHours, in.untilEndWattHours);
        trip.note = say("{} after {}", runs[k].title, recharge->title);
        p.roundTrip = trip.value;
        if (trip.value.value() >= 1.0) {
            contradictions.push_back(moreCameOut(runs[k], *recharge));
            continue;
        }
        markDoubt(trip, {&out, &*recharge->finding});
        Working extra = extraFromGrid(trip.value);
        p.sentence = say("{} of what went in came out again", showValue(trip.value, Unit::Share));
        if (in.wallWattHours) {
            p.wallToPort = out.portWattHours / *in.wallWattHours;
            Working wall;
            wall.key = key::wallToPort;
            wall.label = say("wall to port");
            wall.value = *p.wallToPort;
            wall.unit = Unit::Share;
            wall.point = say("wall to bank out");
            wall.formula =
                showValue(out.portWattHours, Unit::WattHour) + " ÷ " + showValue(*in.wallWattHours, Unit::WattHour);
            markDoubt(wall, {&out, &*recharge->finding});
            extra = extraFromGrid(wall.value);
            p.sentence = say("{}, and {} of what the wall gave", p.sentence, showValue(wall.value, Unit::Share));
            p.figures.push_back(wall);
            if (const Working* stored = figure(out, key::storedWh)) {
                p.wallToDevice = stored->value / *in.wallWattHours;
                Working device = wall;
                device.key = key::wallToDevice;
                device.label = say("wall to device");
                device.value = *p.wallToDevice;
                device.point = say("wall to the device's battery");
                device.formula =
                    showValue(stored->value, Unit::WattHour) + " ÷ " + showValue(*in.wallWattHours, Unit::WattHour);
                p.figures.push_back(device);
            }
        }
        p.sentence = say("{}: 1 Wh used costs {} more.", p.sentence, showValue(extra.value, Unit::Share));
        markDoubt(extra, {&out, &*recharge->finding});
        p.figures.insert(p.figures.begin(), trip);
        p.figures.push_back(extra);
        pairs.push_back(std::move(p));
    }
    return pairs;
}

Working roundTripWorking(const Measured& out, const Measured& in) {
    Working w;
    w.key = key::roundTrip;
    w.label = say("round trip");
    w.value = out / in;
    w.unit = Unit::Share;
    w.point = say("bank in to bank out");
    w.formula = showValue(out, Unit::WattHour) + " ÷ " + showValue(in, Unit::WattHour);
    w.note = say("matched runs of one bank: filled from empty, drained from full");
    const auto instrument = [](const Contribution& c) { return c.source->scope == Scope::Instrument; };
    const auto& o = out.contributions();
    const auto& i = in.contributions();
    if (std::any_of(o.begin(), o.end(), [&](const Contribution& c) {
            return instrument(c) &&
                   std::any_of(i.begin(), i.end(), [&](const Contribution& d) { return d.source->id == c.source->id; });
        })) {
        const auto if_ = [&](Common common) {
            return showNumber((asIf(out, common, "out") / asIf(in, common, "in")).expanded() * 100.0, 2);
        };
        w.note = say(
            "{}; one instrument read both at unlike loads: half of the variance of its errors is taken as common to both (± {} points if all of it were, ± {} if none)",
            w.note, if_(Common::All), if_(Common::None));
    }
    return w;
}

Working extraFromGrid(const Measured& efficiency) {
    Working w;
    w.key = "extra_energy";
    w.label = say("extra energy for each Wh used");
    w.value = Measured(1.0) / efficiency - Measured(1.0);
    w.unit = Unit::Share;
    w.formula = "1 ÷ " + showValue(efficiency, Unit::Share) + " − 1";
    const double lost = 1.0 - efficiency.value();
    w.note = say("not {} %: that is the share lost of what goes in; what must go in on top is more",
                 showNumber(lost * 100.0, 2));
    return w;
}

Working cycleCount(const Measured& putIn, double rated) {
    Working w;
    w.key = "cycles";
    w.label = say("full cycles so far");
    w.value = putIn / Measured(rated);
    w.formula = say("{} ÷ {} Wh", showValue(putIn, Unit::WattHour), showNumber(rated));
    // A millionth below a whole one is a whole one that rounding took.
    const double whole = std::floor(w.value.value() + 1e-6);
    w.note = say("{}{}, in the recharges that are in this book", showNumber(whole),
                 (whole == 1.0 ? say(" whole one") : say(" whole ones")));
    return w;
}

} // namespace otterstone::together
