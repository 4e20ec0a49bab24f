#include "core/plan/campaign/bounds.h"

#include <algorithm>
#include <functional>
#include <map>

#include "core/plan/campaign/placer.h"

namespace otterstone::plan::campaign {

namespace {

struct Ends {
    std::vector<double> head, tail; ///< s before a job can begin, and after it has ended
};

Ends endsOf(const Problem& p) {
    Ends e{std::vector<double>(p.jobs.size(), 0.0), std::vector<double>(p.jobs.size(), 0.0)};
    for (std::size_t k = 0; k < p.jobs.size(); ++k)
        e.head[k] = p.jobs[k].pin.value_or(0.0);
    for (bool moved = true; moved;) { // no circles: it ends
        moved = false;
        for (std::size_t k = 0; k < p.jobs.size(); ++k) {
            for (const std::size_t before : p.jobs[k].after) {
                const double head = e.head[before] + p.jobs[before].seconds;
                const double tail = e.tail[k] + p.jobs[k].seconds;
                moved = moved || head > e.head[k] || tail > e.tail[before];
                e.head[k] = std::max(e.head[k], head);
                e.tail[before] = std::max(e.tail[before], tail);
            }
        }
    }
    return e;
}

// One thing at a time, each may be broken off: the job with the longest tail first (Jackson). No schedule of whole jobs
// is better.
double jackson(const Problem& p, const Ends& e, const std::vector<std::size_t>& jobs) {
    std::vector<double> left;
    left.reserve(jobs.size());
    for (const std::size_t k : jobs)
        left.push_back(p.jobs[k].seconds);
    double now = 0.0, last = 0.0;
    for (;;) {
        std::size_t best = kNone;
        double next = kNever;
        for (std::size_t n = 0; n < jobs.size(); ++n) {
            if (left[n] <= 0.0)
                continue;
            if (e.head[jobs[n]] > now)
                next = std::min(next, e.head[jobs[n]]);
            else if (best == kNone || e.tail[jobs[n]] > e.tail[jobs[best]])
                best = n;
        }
        if (best == kNone && next == kNever)
            return last;
        if (best == kNone) {
            now = next;
            continue;
        }
        const double step = std::min(left[best], next - now);
        left[best] -= step;
        now += step;
        if (left[best] <= 0.0)
            last = std::max(last, now + e.tail[jobs[best]]);
    }
}

// When so many seconds of presence have passed since `from`.
double presenceFrom(const Problem& p, double from, double seconds, bool ofEachPerson) {
    if (!p.hours)
        return from + seconds;
    for (const Presence& h : *p.hours) {
        const double begin = std::max(from, h.span.from), rate = ofEachPerson ? h.people : 1;
        if (h.people < 1 || h.span.to <= begin)
            continue;
        if (seconds <= rate * (h.span.to - begin) + kSameMoment)
            return seconds <= 0.0 ? from : begin + seconds / rate;
        seconds -= rate * (h.span.to - begin);
    }
    if (seconds > 0.0)
        return kNever;
    return from;
}
double presenceUntil(const Problem& p, double from, double until) {
    if (!p.hours)
        return std::max(0.0, until - from);
    double sum = 0.0;
    for (const Presence& h : *p.hours)
        sum += h.people < 1 ? 0.0 : std::max(0.0, std::min(until, h.span.to) - std::max(from, h.span.from));
    return sum;
}

bool attended(const Problem& p, const Job& j) { return j.unattended.value_or(p.unattended) == Unattended::Never; }

// Jobs that share so many pieces, or a bank.
struct Shared {
    std::vector<std::size_t> jobs;
    double lines = 1.0;
    double between = 0.0; ///< s that must pass after each but the last
    double more = 0.0;    ///< s of jobs run as needed
};

std::vector<Shared> sharedOf(const Problem& p) {
    std::vector<Shared> all;
    std::map<std::vector<std::size_t>, bool> sets;
    for (const Job& j : p.jobs) {
        for (const Need& n : j.needs) {
            auto of = n.anyOf;
            std::sort(of.begin(), of.end());
            sets[of] = true;
        }
    }
    for (const auto& [pieces, there] : sets) {
        Shared s;
        s.lines = 0.0;
        for (const std::size_t piece : pieces)
            s.lines += p.pieces[piece].count;
        for (std::size_t k = 0; k < p.jobs.size(); ++k) {
            const auto within = [&pieces = pieces](const Need& n) {
                return std::all_of(n.anyOf.begin(), n.anyOf.end(), [&](std::size_t piece) {
                    return std::find(pieces.begin(), pieces.end(), piece) != pieces.end();
                });
            };
            if (!p.jobs[k].asNeeded && std::any_of(p.jobs[k].needs.begin(), p.jobs[k].needs.end(), within))
                s.jobs.push_back(k);
        }
        all.push_back(std::move(s));
    }
    return all;
}

// So many jobs of a bank find no other that leaves it as they want it: a largest pairing of jobs with the one before.
std::size_t unledJobs(const Problem& p, std::size_t bank, const std::vector<std::size_t>& jobs) {
    const bool someLeaveIt =
        std::any_of(jobs.begin(), jobs.end(), [&](std::size_t k) { return !p.jobs[k].end.has_value(); });
    if (someLeaveIt)
        return 0;                                           // what they leave is what they found: any may lead any
    std::vector<std::size_t> leads(jobs.size() + 1, kNone); // the last: how the bank is now
    std::vector<char> seen;
    const std::function<bool(std::size_t)> pair = [&](std::size_t n) {
        for (std::size_t before = 0; before <= jobs.size(); ++before) {
            const State& left = before == jobs.size() ? p.banks[bank].now : *p.jobs[jobs[before]].end;
            if (before == n || seen[before] || !suits(p.jobs[jobs[n]].begin, left))
                continue;
            seen[before] = 1;
            if (leads[before] == kNone || pair(leads[before])) {
                leads[before] = n;
                return true;
            }
        }
        return false;
    };
    std::size_t paired = 0;
    for (std::size_t n = 0; n < jobs.size(); ++n) {
        seen.assign(jobs.size() + 1, 0);
        paired += pair(n) ? 1 : 0;
    }
    return jobs.size() - paired;
}

Shared ofBank(const Problem& p, std::size_t bank) {
    Shared s;
    double shortest = kNever;
    s.between = kNever;
    for (std::size_t k = 0; k < p.jobs.size(); ++k) {
        const Job& j = p.jobs[k];
        if (j.bank != bank)
            continue;
        s.between = std::min(s.between, j.rest);
        if (j.asNeeded)
            shortest = std::min(shortest, j.seconds);
        else
            s.jobs.push_back(k);
    }
    if (const std::size_t unled = s.jobs.empty() ? 0 : unledJobs(p, bank, s.jobs); unled > 0 && shortest < kNever)
        s.more = static_cast<double>(unled) * (shortest + s.between);
    return s;
}

double least(const std::vector<double>& of, const std::vector<std::size_t>& jobs) {
    double low = kNever;
    for (const std::size_t k : jobs)
        low = std::min(low, of[k]);
    return jobs.empty() ? 0.0 : low;
}

double makespanOf(const Problem& p, const Ends& e, const Shared& s) {
    if (s.jobs.empty() || s.lines <= 0.0)
        return 0.0;
    double sum = s.between * static_cast<double>(s.jobs.size() - 1), withSomebody = 0.0;
    for (const std::size_t k : s.jobs) {
        sum += p.jobs[k].seconds;
        withSomebody += attended(p, p.jobs[k]) ? p.jobs[k].seconds : 0.0;
    }
    const double head = least(e.head, s.jobs), tail = least(e.tail, s.jobs);
    // What brings a bank where a job wants it may run before that could.
    double bound =
        std::max({head + sum / s.lines, sum / s.lines + s.more, presenceFrom(p, head, withSomebody / s.lines, false)}) +
        tail;
    if (s.lines == 1.0)
        bound = std::max(bound, jackson(p, e, s.jobs));
    return bound;
}

double valueOf(const Problem& p, const Ends& e, const Shared& s) {
    double value = 0.0;
    for (const Job& j : p.jobs)
        value += j.asNeeded ? 0.0 : j.value;
    if (s.jobs.empty())
        return value;
    const double head = least(e.head, s.jobs);
    double room = s.lines * std::max(0.0, *p.until - head);
    const bool all = std::all_of(s.jobs.begin(), s.jobs.end(), [&](std::size_t k) { return attended(p, p.jobs[k]); });
    if (all)
        room = std::min(room, s.lines * presenceUntil(p, head, *p.until));
    auto jobs = s.jobs;
    std::sort(jobs.begin(), jobs.end(), [&](std::size_t a, std::size_t b) {
        return p.jobs[a].value * p.jobs[b].seconds > p.jobs[b].value * p.jobs[a].seconds;
    });
    for (const std::size_t k : jobs) {
        const double part = std::clamp(room / p.jobs[k].seconds, 0.0, 1.0);
        value -= (1.0 - part) * p.jobs[k].value;
        room -= part * p.jobs[k].seconds;
    }
    return value;
}

} // namespace

Bounds boundsOf(const Problem& p) {
    const Ends e = endsOf(p);
    Bounds b;
    std::vector<Shared> all = sharedOf(p);
    for (std::size_t bank = 0; bank < p.banks.size(); ++bank)
        all.push_back(ofBank(p, bank));
    double hands = 0.0;
    for (std::size_t k = 0; k < p.jobs.size(); ++k) {
        if (p.jobs[k].asNeeded)
            continue;
        all.push_back({{k}, 1.0, 0.0, 0.0}); // the chains
        for (const Hands& h : p.jobs[k].hands)
            hands += h.seconds;
        b.value += p.jobs[k].value;
    }
    b.makespan = presenceFrom(p, 0.0, hands, true);
    for (const Shared& s : all)
        b.makespan = std::max(b.makespan, makespanOf(p, e, s));
    if (p.until) {
        for (const Shared& s : all)
            b.value = std::min(b.value, valueOf(p, e, s));
    }
    return b;
}

} // namespace otterstone::plan::campaign
