#include "core/plan/campaign/placer.h"

#include <algorithm>
#include <cmath>
#include <numeric>

#include "core/quantity/say.h"

namespace otterstone::plan::campaign {

namespace {

constexpr std::size_t kLongestChain = 2; // of jobs run as needed before one that is wanted
constexpr double kSamePercent = 1e-9;

// The quickest of the chains that go on from here; `chain` is what was run before.
void lookFurther(const Problem& p, std::size_t bank, const State& is, const State& wanted,
                 std::vector<std::size_t>& chain, double seconds, double& least,
                 std::optional<std::vector<std::size_t>>& best) {
    if (suits(wanted, is)) {
        if (seconds < least) {
            least = seconds;
            best = chain;
        }
        return;
    }
    if (chain.size() == kLongestChain)
        return;
    for (std::size_t k = 0; k < p.jobs.size(); ++k) {
        const Job& job = p.jobs[k];
        if (!job.asNeeded || job.bank != bank || !job.end || !suits(job.begin, is))
            continue;
        chain.push_back(k);
        lookFurther(p, bank, *job.end, wanted, chain, seconds + job.seconds + job.rest, least, best);
        chain.pop_back();
    }
}

} // namespace

bool suits(const State& wanted, const State& is) {
    return is.low >= wanted.low - kSamePercent && is.high <= wanted.high + kSamePercent;
}

std::optional<std::vector<std::size_t>> bringing(const Problem& problem, std::size_t bank, const State& from,
                                                 const State& wanted) {
    std::vector<std::size_t> chain;
    std::optional<std::vector<std::size_t>> best;
    double least = kNever;
    lookFurther(problem, bank, from, wanted, chain, 0.0, least, best);
    return best;
}

Placer::Placer(const Problem& problem) : problem_(problem), apart_(problem.jobs.size()) {
    std::size_t units = 0;
    for (const Piece& p : problem.pieces) {
        firstUnit_.push_back(units);
        units += static_cast<std::size_t>(p.count);
    }
    units_.resize(units);
    int people = 1;
    if (problem.hours) {
        for (const Presence& p : *problem.hours)
            people = std::max(people, p.people);
    }
    people_.resize(static_cast<std::size_t>(people));
    for (int k = 1; k <= people; ++k)
        hours_.emplace_back(problem, k);
    for (const Job& job : problem.jobs) {
        std::vector<std::size_t>& turn = needsInTurn_.emplace_back(job.needs.size());
        std::iota(turn.begin(), turn.end(), std::size_t{0});
        std::stable_sort(turn.begin(), turn.end(), [&job](std::size_t a, std::size_t b) {
            return job.needs[a].anyOf.size() < job.needs[b].anyOf.size();
        });
    }
    for (const auto& [one, other] : problem.apart) {
        apart_[one].push_back(other);
        apart_[other].push_back(one);
    }
}

bool Placer::someUnits(const Job& job, double& from, Where& where) const {
    std::vector<std::size_t> taken; // a job with two cables has two
    for (const std::size_t n : needsInTurn_[where.placed.job]) {
        double first = kNever;
        std::size_t line = kNone, held = kNone;
        for (const std::size_t piece : job.needs[n].anyOf) {
            for (int unit = 0; unit < problem_.pieces[piece].count; ++unit) {
                const std::size_t here = firstUnit_[piece] + static_cast<std::size_t>(unit);
                if (std::find(taken.begin(), taken.end(), here) != taken.end())
                    continue;
                std::size_t by = kNone;
                const double at = units_[here].freeFrom(from, job.seconds, &by);
                if (at >= first)
                    continue;
                first = at;
                line = here;
                held = by;
                where.placed.pieces[n] = piece;
                where.placed.unit[n] = unit;
            }
        }
        if (line == kNone) {
            where.why = "there are not enough pieces that can do it";
            return true;
        }
        taken.push_back(line);
        if (first > from + kSameMoment) {
            from = first;
            where.heldBy = held;
            return false;
        }
    }
    return true;
}

bool Placer::somePeople(const Job& job, double& from, Where& where) const {
    const auto wait = [&](double until) {
        if (until == kNever)
            where.why = "nobody is there when it wants hands";
        else
            from = until;
        return until == kNever;
    };
    const Unattended unattended = job.unattended.value_or(problem_.unattended);
    if (unattended == Unattended::Never) {
        if (const double at = hours_.front().thereFrom(from, job.seconds); at > from + kSameMoment)
            return wait(at);
    } else if (unattended == Unattended::Stop) {
        if (const double at = hours_.front().thereFrom(from, 0.0); at > from + kSameMoment)
            return wait(at);
        if (const double at = hours_.front().thereFrom(from + job.seconds, 0.0); at > from + job.seconds + kSameMoment)
            return wait(at - job.seconds);
    }
    for (std::size_t h = 0; h < job.hands.size(); ++h) {
        const Span want = job.hands[h].within(job.seconds);
        double first = kNever;
        std::size_t held = kNone;
        for (std::size_t p = 0; p < people_.size(); ++p) {
            bool busyWithIt = false;
            for (std::size_t other = 0; other < h; ++other) {
                const Span o = job.hands[other].within(job.seconds);
                busyWithIt = busyWithIt || (where.placed.person[other] == static_cast<int>(p) &&
                                            o.from < want.to - kSameMoment && want.from < o.to - kSameMoment);
            }
            if (busyWithIt)
                continue;
            std::size_t by = kNone;
            double at = from + want.from;
            for (double before = -1.0; at != before && at != kNever;) {
                before = at;
                at = hours_[p].thereFrom(at, want.to - want.from);
                if (at != kNever)
                    at = people_[p].freeFrom(at, want.to - want.from, &by);
            }
            if (at >= first)
                continue;
            first = at;
            held = by;
            where.placed.person[h] = static_cast<int>(p);
        }
        if (first > from + want.from + kSameMoment) {
            where.heldBy = held == kNone ? where.heldBy : held;
            return wait(first == kNever ? kNever : first - want.from);
        }
    }
    return true;
}

bool Placer::onDaysOfTheirOwn(std::size_t job, double& from, Where& where) const {
    const auto day = [&](double at) { return std::floor((at - problem_.midnight) / kDay); };
    for (const std::size_t other : apart_[job]) {
        if (fate_[other] != Fate::Stands)
            continue;
        const double to = from + problem_.jobs[job].seconds;
        if (day(from) > day(at_[other].to - kSameMoment) || day(to - kSameMoment) < day(at_[other].from))
            continue;
        from = problem_.midnight + (day(at_[other].to - kSameMoment) + 1.0) * kDay;
        where.heldBy = other;
        return false;
    }
    return true;
}

Placer::Where Placer::find(std::size_t job, double from, std::size_t heldBy) const {
    const Job& j = problem_.jobs[job];
    Where where;
    where.heldBy = heldBy;
    where.placed.job = job;
    where.placed.pieces.resize(j.needs.size());
    where.placed.unit.resize(j.needs.size());
    where.placed.person.resize(j.hands.size());
    if (j.pin)
        from = std::max(from, *j.pin);
    // Each of the three moves `from` on until all of them are content, or says that it never will be.
    for (;;) {
        const double before = from;
        if (!someUnits(j, from, where))
            continue;
        if (!where.why && from == before)
            (void)somePeople(j, from, where);
        if (!where.why && from == before)
            (void)onDaysOfTheirOwn(job, from, where);
        if (where.why || from == before)
            break;
    }
    where.placed.from = from;
    where.placed.to = from + j.seconds;
    if (!where.why && j.pin && from > *j.pin + kSameMoment)
        where.why = "it cannot begin where it is pinned";
    if (!where.why && problem_.until && where.placed.to > *problem_.until + kSameMoment)
        where.why = "it does not fit into the window";
    return where;
}

void Placer::eachLine(const Placed& placed, const std::function<void(Line&, Span)>& of) {
    const Job& job = problem_.jobs[placed.job];
    for (std::size_t n = 0; n < placed.pieces.size(); ++n)
        of(units_[firstUnit_[placed.pieces[n]] + static_cast<std::size_t>(placed.unit[n])], {placed.from, placed.to});
    for (std::size_t h = 0; h < placed.person.size(); ++h) {
        const Span s = job.hands[h].within(job.seconds);
        of(people_[static_cast<std::size_t>(placed.person[h])], {placed.from + s.from, placed.from + s.to});
    }
}

const char* Placer::tryJob(std::size_t job) {
    const Job& j = problem_.jobs[job];
    double from = 0.0;
    std::size_t held = kNone;
    for (const std::size_t before : j.after) {
        if (fate_[before] == Fate::Out)
            return "what must be done before it is left out";
        if (at_[before].to > from) {
            from = at_[before].to;
            held = before;
        }
    }
    std::vector<std::size_t> chain;
    BankNow* bank = j.bank ? &banks_[*j.bank] : nullptr;
    BankNow now = bank ? *bank : BankNow();
    if (bank) {
        auto found = bringing(problem_, *j.bank, now.state, j.begin);
        if (!found)
            return "nothing brings its bank into the state that it wants";
        chain = std::move(*found);
    }
    chain.push_back(job);
    const std::size_t stood = schedule_.placed.size();
    for (const std::size_t k : chain) {
        const Job& step = problem_.jobs[k];
        double at = k == job ? from : 0.0;
        std::size_t by = k == job ? held : kNone;
        if (bank && now.freeFrom > at) {
            at = now.freeFrom;
            by = now.last;
        }
        Where where = find(k, at, by);
        if (where.why) {
            while (schedule_.placed.size() > stood) {
                eachLine(schedule_.placed.back(), [job](Line& line, Span span) { line.giveBack(span, job); });
                schedule_.placed.pop_back();
            }
            return where.why;
        }
        where.placed.begin = now.state;
        where.placed.end = leftBy(step, now.state);
        now = {where.placed.end, where.placed.to + step.rest, job};
        eachLine(where.placed, [job](Line& line, Span span) { line.take(span, job); });
        if (k == chain.front() || where.heldBy != job)
            heldBy_[job] = where.heldBy;
        schedule_.placed.push_back(std::move(where.placed));
    }
    if (bank)
        *bank = now;
    at_[job] = {schedule_.placed.back().from, schedule_.placed.back().to};
    return nullptr;
}

const Schedule& Placer::place(const std::vector<std::size_t>& order) {
    for (Line& line : units_)
        line.clear();
    for (Line& line : people_)
        line.clear();
    schedule_ = {};
    banks_.clear();
    for (const Bank& b : problem_.banks)
        banks_.push_back({b.now, 0.0, kNone});
    at_.assign(problem_.jobs.size(), {});
    fate_.assign(problem_.jobs.size(), Fate::Waits);
    heldBy_.assign(problem_.jobs.size(), kNone);
    std::vector<std::size_t> left = order, waiting;
    while (!left.empty()) {
        waiting.clear();
        for (const std::size_t job : left) {
            const Job& j = problem_.jobs[job];
            if (std::any_of(j.after.begin(), j.after.end(),
                            [&](std::size_t before) { return fate_[before] == Fate::Waits; })) {
                waiting.push_back(job);
                continue;
            }
            if (const char* why = tryJob(job)) {
                fate_[job] = Fate::Out;
                schedule_.leftOut.push_back({job, sayAsItStands(why)});
                continue;
            }
            fate_[job] = Fate::Stands;
            schedule_.value += j.value;
        }
        left.swap(waiting);
    }
    for (const Placed& p : schedule_.placed)
        schedule_.makespan = std::max(schedule_.makespan, p.to);
    return schedule_;
}

} // namespace otterstone::plan::campaign
