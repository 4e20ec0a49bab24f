// Claims about several things at once: outputs together, source and load at once, and loads so small that it sleeps.
#include <algorithm>

#include "core/judgement/hold_parts.h"
#include "core/kinds/parts.h"
#include "core/quantity/format.h"
#include "core/quantity/parse.h"
#include "core/quantity/say.h"

namespace otterstone::judgement {

namespace {

using records::Kind;

bool meets(const Working& w, const Limits& limits) {
    return decide(withAssumedAccuracy(w).value, limits).verdict == Verdict::Meets;
}

// Promises that were kept or not, all of one kind; when they disagree that is told.
void decideByAll(Held& row, const std::vector<const Observation*>& all, const std::string& words) {
    const Observation& last = *all.back();
    for (const Observation* o : all)
        row.seen.push_back(say("{}: {}", o->where(), o->said()));
    const auto other = std::find_if(all.begin(), all.end(), [&](const Observation* o) { return *o->yes != *last.yes; });
    if (other != all.end()) {
        row.verdict = Verdict::TooClose;
        row.why = say("what was seen disagrees: {}: {}; {}: {}", (*other)->where(), (*other)->said(), last.where(),
                      last.said());
        row.finding = remark("seen", row.why);
        row.runs = {(*other)->run, last.run};
        return;
    }
    decideRow(row, *last.yes, remark(words, last.words.empty() ? last.said() : last.words), last.run);
}

std::vector<const Observation*> allOf(const Case& c, What what) {
    std::vector<const Observation*> all;
    for (const Observation& o : c.seen) {
        if (o.what == what)
            all.push_back(&o);
    }
    return all;
}

} // namespace

// The most of all outputs together, or of one of them alone, which is as much.
void holdTotal(const Case& c, Held& row) {
    row.next = {Kind::Sharing, "sharing-round", say("A sharing round whose loads ask for at least the total.")};
    const double least = *row.claim.limits.low;
    const Observation* best = nullptr;
    const Observation* fair = nullptr; // of those that were asked for the total
    std::optional<double> asked;
    double most = 0.0; // of the rounds
    for (const Observation& o : c.seen) {
        const bool together = o.what == What::Together;
        if (!o.value || o.charging || (!together && o.what != What::Out))
            continue;
        const double given = o.value->value.value();
        if (!best || given > best->value->value.value())
            best = &o;
        if (!together)
            continue;
        if (o.asked)
            asked = std::max(asked.value_or(0.0), *o.asked);
        most = std::max(most, given);
        const bool enough = o.asked.value_or(0.0) >= least;
        if (enough && (!fair || given > fair->value->value.value()))
            fair = &o;
        row.seen.push_back(enough || given >= least ? say("{}: {}", o.where(), o.said())
                           : o.asked ? say("{}: {}; asked for {} alone", o.where(), o.said(), watts(*o.asked))
                                     : say("{}: {}; what each gives alone is not written down", o.where(), o.said()));
    }
    if (best && meets(*best->value, row.claim.limits))
        return decideBy(row, *best, *best->value);
    if (fair)
        return decideBy(row, *fair, *fair->value);
    notTested(row, asked        ? say("the loads of the sharing rounds asked for {} at most", watts(*asked))
                   : most > 0.0 ? say("the outputs gave {} together, and what each gives alone was not written down",
                                      watts(most))
                   : best       ? say("one output gave {}; several at once were not tried",
                                      showRoughly(best->value->value.value(), Unit::Watt))
                                : say("no sharing round"));
}

// The port of a combination that comes nearest to breaking its promise.
void holdTogether(const Case& c, Held& row) {
    const label::SharedLimit& promised = c.e.label.shared[row.claim.combination];
    row.next = {Kind::Sharing, "sharing-round", say("A sharing round with exactly these ports in use.")};
    const auto same = [](const std::string& a, const std::string& b) { return lowered(a) == lowered(b); };
    struct Worst {
        const Observation* o = nullptr;
        double promise = 0.0, share = 0.0;
    };
    std::optional<Worst> worst;
    std::string why;
    bool tried = false;
    for (const label::SharedLimit::Part& part : promised.parts) {
        bool read = false;
        for (const Observation& o : c.seen) {
            const bool these = (o.what == What::Out || o.what == What::Trip) && !o.charging &&
                               same(o.port, part.port) && o.others.size() + 1 == promised.parts.size() &&
                               std::all_of(o.others.begin(), o.others.end(), [&](const std::string& other) {
                                   return std::any_of(promised.parts.begin(), promised.parts.end(),
                                                      [&](const auto& p) { return same(p.port, other); });
                               });
            if (!these)
                continue;
            tried = true;
            const double given = o.value ? o.value->value.value() : 0.0;
            const double share = given / part.watts.value;
            // Asked for: what it gives alone.
            std::optional<double> alone;
            for (const Observation& a : c.seen) {
                if (a.run == o.run && a.what == What::Out && a.alone() && same(a.port, part.port))
                    alone = std::max(alone.value_or(0.0), a.value->value.value());
            }
            const bool enough =
                share >= label::kPowerGiven || alone.value_or(0.0) >= label::kPowerGiven * part.watts.value;
            const std::string because = enough  ? ""
                                        : alone ? say("{} was asked for {} only", part.port, watts(*alone))
                                                : say("what {} gives alone was not written down", part.port);
            row.seen.push_back(because.empty() ? say("{}: {}", o.where(), o.said())
                                               : say("{}: {}; {}", o.where(), o.said(), because));
            if (!enough) {
                why = because;
                continue;
            }
            read = true;
            if (!worst || share < worst->share)
                worst = Worst{&o, part.watts.value, share};
        }
        if (tried && !read && why.empty())
            why = say("{} was not read in that round", part.port);
    }
    // One that breaks its share breaks the promise; that all keep theirs must have been read of each.
    const bool broken = worst && worst->share < label::kPowerGiven;
    if (!worst || (!why.empty() && !broken))
        return notTested(row, !why.empty() ? why : say("no sharing round with exactly these ports"));
    row.claim.limits = {label::kPowerGiven * worst->promise, {}};
    if (!worst->o->value)
        return decideRow(row, false, remark(worst->o->port, say("{}: {}", worst->o->where(), worst->o->said())),
                         worst->o->run);
    Working w = *worst->o->value;
    w.label = say("{} of promised {}", worst->o->port, watts(worst->promise));
    decideRow(row, pool({{std::move(w), worst->o->run}}));
}

void holdPassThrough(const Case& c, Held& row) {
    row.next = {records::Kind::PassThrough, "pass-through",
                say("The four corners: source alone, load alone, both, and the source taken away.")};
    const auto all = allOf(c, What::PassThrough);
    all.empty() ? notTested(row, "no run with source and load at once") : decideByAll(row, all, "class");
}

void holdLowCurrent(const Case& c, Held& row) {
    row.next = {records::Kind::LightLoad, "light-load-ladder",
                say("The ladder of light loads, plain and with the mode switched on.")};
    const auto all = allOf(c, What::LowMode);
    if (!all.empty())
        return decideByAll(row, all, say("low-current mode"));
    const bool sleeps = !allOf(c, What::AutoOff).empty();
    const bool ladder = std::any_of(c.e.sheets.begin(), c.e.sheets.end(),
                                    [](const SheetRun& s) { return s.sheet.kind == Kind::LightLoad; });
    notTested(row, sleeps   ? say("the mode was not tried")
                   : ladder ? say("no current was found that lets it sleep")
                            : say("no ladder of light loads"));
}

} // namespace otterstone::judgement
