// Claims about one port: its tiers, what it gives and what it takes. They ask what was seen, whatever run saw it.
#include <algorithm>
#include <cmath>

#include "core/judgement/hold_parts.h"
#include "core/kinds/parts.h"
#include "core/quantity/format.h"
#include "core/quantity/parse.h"
#include "core/quantity/say.h"

namespace otterstone::judgement {

namespace {

using records::Kind;

constexpr double kCharger = 0.98; // of what is asked: a charger that can give so much is no bottleneck

std::string amps(double a) { return say("{} A", showNumber(a, 3)); }

// By name; where none is stated, only when no other port of the label could have been meant.
bool isAt(const Observation& o, const label::Label& l, const Claim& claim, Way way) {
    if (!o.port.empty())
        return lowered(o.port) == lowered(claim.port);
    if (way == Way::Out && o.tierVolts > 0.0) {
        const auto may = label::portsAt(l, way, o.tierVolts);
        return may.size() == 1 && may.front()->name == claim.port;
    }
    std::size_t ports = 0;
    for (const label::Port& p : l.ports)
        ports += p.goes(way) ? 1 : 0;
    return ports == 1;
}

// What its source can give; of a matrix through the cable of its row.
std::string atMost(const Observation& o) {
    return o.row ? say("charger and cable give at most {}", watts(*o.sourceWatts))
                 : say("the charger gives at most {}", watts(*o.sourceWatts));
}

void noteSeen(Held& row, const Observation& o, const std::string& why) {
    std::string seen = say("{}: {}", o.where(), o.said());
    if (!why.empty())
        seen = say("{}; {}", seen, why);
    row.seen.push_back(o.note.empty() ? seen : say("{} ({})", seen, o.note));
}

Verdict verdictOf(const Working& w, const Limits& limits) {
    return decide(withAssumedAccuracy(w).value, limits).verdict;
}

// What was seen of a tier, at one of its ends, sorted by what it can decide.
struct AtEnd {
    std::vector<const Observation*> held;    ///< the promised current, or more, within tolerance, or too close to call
    std::vector<const Observation*> failed;  ///< gone, or out of tolerance, at no more than the promised current
    std::vector<const Observation*> lighter; ///< within tolerance, below the promised current
    const Observation* refused = nullptr;
    const Observation* there = nullptr; ///< offered, nothing drawn
    std::string other;                  ///< what was seen under other conditions
};

AtEnd sortOut(const Case& c, Held& row, double volts, double promised, const Limits& limits) {
    AtEnd s;
    for (const Observation& o : c.seen) {
        if (o.way != Way::Out || !label::sameVolts(o.tierVolts, volts) || !isAt(o, c.e.label, row.claim, Way::Out) ||
            (o.what != What::Out && o.what != What::Trip && o.what != What::Tier))
            continue;
        const double drawn = o.amps.value_or(0.0);
        const bool within = drawn <= promised / label::kReached; // above what is promised it may give way
        if (o.what == What::Tier) {
            (*o.yes ? s.there : s.refused) = &o;
            noteSeen(row, o, *o.yes ? say("nothing was drawn from it") : "");
        } else if (!o.alone()) {
            s.other = say("{}: {}", o.where(), o.said());
            noteSeen(row, o, say("the claim is meant alone"));
        } else if (o.what == What::Trip ||
                   (o.level && limits.low && verdictOf(*o.level, limits) == Verdict::FallsShort)) {
            if (within)
                s.failed.push_back(&o);
            noteSeen(row, o, within ? "" : say("that is more than the promised {}", amps(promised)));
        } else if (drawn >= label::kReached * promised) {
            s.held.push_back(&o);
            noteSeen(row, o, "");
        } else {
            s.lighter.push_back(&o);
            noteSeen(row, o, say("{} of the promised {}: nobody asked for more", amps(drawn), amps(promised)));
        }
    }
    return s;
}

// The row of the worst of them, with the others beside it.
void decideByWorst(Held& row, const std::vector<const Observation*>& held) {
    const Observation* worst = nullptr;
    double least = 2.0;
    for (const Observation* o : held) {
        const double chance =
            row.claim.limits.low ? decide(withAssumedAccuracy(*o->level).value, row.claim.limits).chance : 1.0;
        if (chance < least) {
            least = chance;
            worst = o;
        }
    }
    if (!row.claim.limits.low)
        return decideRow(
            row, true,
            remark("seen", say("{}: {}; no standard has a tolerance for such a socket", worst->where(), worst->said())),
            worst->run);
    decideBy(row, *worst, *worst->level);
}

// One end of a tier; false when it is not settled.
bool decideEnd(const Case& c, Held& row, double volts) {
    const label::Port* port = label::portNamed(c.e.label, row.claim.port);
    const double promised = port ? label::promisedAmps(*port, Way::Out, volts).value_or(0.0) : 0.0;
    if (const auto window = label::toleranceAt(row.claim.port, volts))
        row.claim.limits = {window->low, window->high};
    const AtEnd s = sortOut(c, row, volts, promised, row.claim.limits);
    const std::string where = say("{} at {} V", row.claim.port, showNumber(volts));
    if (!s.failed.empty() && !s.held.empty()) {
        row.verdict = Verdict::TooClose;
        row.why = say("what was seen disagrees: {}: {}; {}: {}", s.held.front()->where(), s.held.front()->said(),
                      s.failed.front()->where(), s.failed.front()->said());
        row.finding = remark("seen", row.why);
        row.runs = {s.held.front()->run, s.failed.front()->run};
        row.next.words = say("Try {} once more with the promised current, and watch the cable.", where);
        return true;
    }
    if (!s.failed.empty()) {
        const Observation& o = *s.failed.front();
        if (o.level) {
            decideBy(row, o, *o.level);
        } else {
            decideRow(row, false, remark(where, say("{}: {}; {} are promised", o.where(), o.said(), amps(promised))),
                      o.run);
        }
        return true;
    }
    if (!s.held.empty()) {
        decideByWorst(row, s.held);
        return true;
    }
    if (s.refused && s.lighter.empty() && !s.there) {
        decideRow(row, false, remark(where, say("not offered: {}", s.refused->where())), s.refused->run);
        return true;
    }
    if (!s.lighter.empty()) {
        const Observation& most =
            **std::max_element(s.lighter.begin(), s.lighter.end(), [](const auto* a, const auto* b) {
                return a->amps.value_or(0.0) < b->amps.value_or(0.0);
            });
        row.runs = {most.run};
        notTested(row, say("{}: {} of the promised {} were drawn at {} V, nobody asked for more", most.where(),
                           amps(*most.amps), amps(promised), showNumber(volts)));
    } else if (s.there) {
        row.runs = {s.there->run};
        notTested(row, say("it is there, but nothing was drawn from it ({})", s.there->where()));
    } else if (!s.other.empty()) {
        notTested(row, say("it was tried only while something else was plugged in: {}", s.other));
    } else {
        notTested(row, say("nothing was drawn from {} yet", where));
    }
    return false;
}

} // namespace

// Volts at the port while the promised current is drawn. A tier that is not there, or whose output goes off below the
// promised current, falls short whatever the meter's accuracy. A programmable range is tried at both its ends.
void holdTier(const Case& c, Held& row) {
    row.next = {
        Kind::Survey, "port-survey",
        say("A survey of {} at {} V with the promised current drawn.", row.claim.port, showNumber(row.claim.volts))};
    if (!row.claim.lowVolts) {
        (void)decideEnd(c, row, row.claim.volts);
        return;
    }
    Held low = row;
    const bool lowSettled = decideEnd(c, low, *row.claim.lowVolts);
    const bool highSettled = decideEnd(c, row, row.claim.volts);
    row.seen.insert(row.seen.begin(), low.seen.begin(), low.seen.end());
    if (lowSettled && low.verdict != Verdict::Meets && (!highSettled || row.verdict == Verdict::Meets)) {
        low.seen = row.seen;
        row = std::move(low);
    } else if (highSettled && row.verdict == Verdict::Meets && !lowSettled) {
        row.finding.reset();
        row.chance.reset();
        row.next = {Kind::Survey, "port-survey",
                    say("A survey of {} at {} V with the promised current drawn.", row.claim.port,
                        showNumber(*low.claim.lowVolts))};
        notTested(row, say("it holds at {} V; at its lower end {}", showNumber(row.claim.volts), low.why));
    }
}

// The most that was drawn from the port within tolerance.
void holdPortWatts(const Case& c, Held& row) {
    row.next = {Kind::Survey, "port-survey",
                say("A survey of {} with the current its best tier promises.", row.claim.port)};
    const double least = *row.claim.limits.low;
    const label::Port* port = label::portNamed(c.e.label, row.claim.port);
    const Observation* best = nullptr;
    bool gaveWay = false; // it was asked for more than it gave
    for (const Observation& o : c.seen) {
        if (o.way != Way::Out || !isAt(o, c.e.label, row.claim, Way::Out))
            continue;
        if (o.what == What::Out) {
            const auto tolerance = label::toleranceAt(row.claim.port, o.tierVolts);
            if (!tolerance || !o.volts || tolerance->holds(*o.volts)) {
                if (!best || o.value->value.value() > best->value->value.value())
                    best = &o;
                noteSeen(row, o,
                         o.value->value.value() < least && o.limited == LimitedBy::Nobody && o.alone()
                             ? say("nobody asked for more")
                             : "");
            } else {
                gaveWay = gaveWay || (o.alone() && o.tierVolts * *o.amps >= least);
                noteSeen(row, o, say("out of tolerance"));
            }
        } else if (o.what == What::Trip) {
            gaveWay = gaveWay || (o.alone() && o.tierVolts * *o.amps >= least);
            noteSeen(row, o, "");
        } else if (o.what == What::Tier && !*o.yes && port) {
            const auto promised = label::promisedAmps(*port, Way::Out, o.tierVolts);
            gaveWay = gaveWay || (promised && o.tierVolts * *promised >= least);
            noteSeen(row, o, "");
        }
    }
    if (!best)
        return notTested(row, "nothing has been drawn from it yet");
    if (!gaveWay && verdictOf(*best->value, row.claim.limits) != Verdict::Meets) {
        row.runs = {best->run};
        const std::string roughly = showRoughly(best->value->value.value(), Unit::Watt);
        const std::string drawn =
            say("{}: {} of the promised {} were drawn", best->where(),
                best->atLeast ? say("at least {}", roughly) : roughly, watts(least / label::kPowerGiven));
        return notTested(row, best->alone()    ? say("{}, nobody asked for more", drawn)
                              : best->charging ? say("{}, while it was charged", drawn)
                                               : say("{}, while other outputs were in use", drawn));
    }
    decideBy(row, *best, *best->value);
}

// The most that went into the port. So much went in, whatever the charger is; that it takes no more only a charger
// which could give it can say.
void holdInput(const Case& c, Held& row) {
    const double asked = *row.claim.limits.low / label::kPowerGiven;
    row.next = {records::Kind::Recharge, "recharge-to-taper",
                say("A recharge into {} with a charger of {} or more.", row.claim.port, watts(asked))};
    const Observation* best = nullptr; // of all
    const Observation* fair = nullptr; // of those with a charger that could
    const Observation* refused = nullptr;
    for (const Observation& o : c.seen) {
        if (o.way != Way::In || !isAt(o, c.e.label, row.claim, Way::In))
            continue;
        if (o.what == What::Tier) {
            if (!*o.yes)
                refused = &o;
            noteSeen(row, o, "");
            continue;
        }
        if (o.what != What::In)
            continue;
        const double in = o.value->value.value();
        const bool could = o.sourceWatts && *o.sourceWatts >= kCharger * asked && o.alone();
        if (!best || in > best->value->value.value())
            best = &o;
        if (could && (!fair || in > fair->value->value.value()))
            fair = &o;
        noteSeen(row, o,
                 could           ? ""
                 : !o.alone()    ? say("while it gave")
                 : o.sourceWatts ? atMost(o)
                                 : say("what its charger can give is not stated"));
    }
    if (best && verdictOf(*best->value, row.claim.limits) == Verdict::Meets)
        return decideBy(row, *best, *best->value);
    if (fair)
        return decideBy(row, *fair, *fair->value);
    if (!best)
        return notTested(row, refused ? say("{}: it {}; no other tier was read", refused->where(), refused->said())
                                      : say("nothing has been put into it yet"));
    row.runs = {best->run};
    const std::string took = say("{}: {} of the printed {} went in", best->where(),
                                 showRoughly(best->value->value.value(), Unit::Watt), watts(asked));
    notTested(row, !best->alone()      ? say("{}, while it gave as well", took)
                   : best->sourceWatts ? say("{}, and {}", took, atMost(*best))
                                       : say("{}, and what its charger can give is not stated", took));
}

} // namespace otterstone::judgement
