#include "core/plan/campaign/exact.h"

#include <algorithm>
#include <cmath>
#include <numeric>

#include "core/plan/campaign/bounds.h"
#include "core/plan/campaign/placer.h"
#include "core/quantity/say.h"

namespace otterstone::plan::campaign {

namespace {

constexpr long kMostNodes = 400'000; // of one campaign: then the search by orders goes on
constexpr long kAskEvery = 256;

// A later task begins so long after an earlier one began; with `nextDay`, also not on its last day.
struct Arc {
    std::size_t from, to;
    double lag;
    bool nextDay = false;
};

struct Task {
    std::size_t job;
    double from = 0.0;
    std::vector<int> unit, person; ///< lines, -1: not chosen yet
    State begin, end;
};

struct Node {
    std::vector<Task> tasks;
    std::vector<Arc> arcs;
    struct Chain {
        State now;
        std::size_t last = kNone;      ///< task
        std::vector<std::size_t> left; ///< jobs
    };
    std::vector<Chain> banks;
};

class Exact {
public:
    Exact(const Problem& problem, const std::vector<double>& weights, Schedule& best, const GoOn& goOn,
          const Answer& soFar)
        : p_(problem), weights_(weights), best_(best), goOn_(goOn), soFar_(soFar) {
        for (std::size_t k = 0; k < p_.pieces.size(); ++k) {
            for (int unit = 0; unit < p_.pieces[k].count; ++unit)
                lines_.push_back({k, unit});
        }
        people_ = 1;
        double horizon = 0.0;
        if (p_.hours) {
            for (const Presence& h : *p_.hours) {
                people_ = std::max(people_, h.people);
                horizon = std::max(horizon, h.span.to);
            }
        }
        for (int k = 1; k <= people_; ++k)
            hours_.emplace_back(p_, k);
        latest_ = horizon;
        for (const Job& j : p_.jobs) // each, and what brings its bank there, one after another
            latest_ += 3.0 * (j.seconds + j.rest) + (p_.apart.empty() ? 0.0 : kDay) + j.pin.value_or(0.0);
        if (p_.until)
            latest_ = *p_.until;
    }

    bool run() {
        std::vector<std::size_t> jobs;
        double all = 0.0, kept = 0.0;
        for (std::size_t k = 0; k < p_.jobs.size(); ++k) {
            if (p_.jobs[k].asNeeded)
                continue;
            jobs.push_back(k);
            all += weights_[k];
        }
        for (const Placed& placed : best_.placed)
            kept += p_.jobs[placed.job].asNeeded ? 0.0 : weights_[placed.job];
        lost_ = all - kept;
        // What is left out, the least first.
        std::vector<std::pair<double, unsigned>> sets;
        for (unsigned out = 0; out < 1U << jobs.size(); ++out) {
            double lost = 0.0;
            for (std::size_t n = 0; n < jobs.size(); ++n)
                lost += (out >> n) & 1U ? weights_[jobs[n]] : 0.0;
            if (lost <= lost_ + kSameMoment)
                sets.emplace_back(lost, out);
        }
        std::sort(sets.begin(), sets.end());
        for (const auto& [lost, out] : sets) {
            if (lost > lost_ + kSameMoment)
                break;
            std::vector<std::size_t> in;
            for (std::size_t n = 0; n < jobs.size(); ++n) {
                if (!((out >> n) & 1U))
                    in.push_back(jobs[n]);
            }
            const auto there = [&](std::size_t k) { return std::find(in.begin(), in.end(), k) != in.end(); };
            if (!std::all_of(in.begin(), in.end(), [&](std::size_t k) {
                    return std::all_of(p_.jobs[k].after.begin(), p_.jobs[k].after.end(), there);
                }))
                continue;
            losing_ = lost;
            begin(in);
            if (ended_)
                return false;
        }
        return true;
    }

private:
    struct LineName {
        std::size_t piece;
        int unit;
    };

    void begin(const std::vector<std::size_t>& in) {
        Node n;
        for (const Bank& b : p_.banks)
            n.banks.push_back({b.now, kNone, {}});
        std::vector<std::size_t> taskOf(p_.jobs.size(), kNone);
        for (const std::size_t k : in) {
            taskOf[k] = n.tasks.size();
            add(n, k);
            if (p_.jobs[k].bank)
                n.banks[*p_.jobs[k].bank].left.push_back(k);
        }
        for (const std::size_t k : in) {
            for (const std::size_t before : p_.jobs[k].after)
                n.arcs.push_back({taskOf[before], taskOf[k], p_.jobs[before].seconds});
        }
        taskOf_ = taskOf;
        // Its tails: what must still follow each job of this set.
        tail_.assign(p_.jobs.size(), 0.0);
        for (std::size_t round = 0; round < in.size(); ++round) {
            for (const std::size_t k : in) {
                for (const std::size_t before : p_.jobs[k].after)
                    tail_[before] = std::max(tail_[before], tail_[k] + p_.jobs[k].seconds);
            }
        }
        look(std::move(n));
    }
    void add(Node& n, std::size_t job) const {
        const Job& j = p_.jobs[job];
        n.tasks.push_back(
            {job, 0.0, std::vector<int>(j.needs.size(), -1), std::vector<int>(j.hands.size(), -1), {}, {}});
        if (people_ == 1)
            std::fill(n.tasks.back().person.begin(), n.tasks.back().person.end(), 0);
    }

    // The best makespan that would still be no gain.
    [[nodiscard]] double limit() const {
        if (losing_ < lost_ - kSameMoment)
            return kNever;
        return best_.makespan;
    }

    [[nodiscard]] double day(double at) const { return std::floor((at - p_.midnight) / kDay); }

    // All begins as early as what is decided lets them be; false when that is too late.
    [[nodiscard]] bool early(Node& n) const {
        for (bool moved = true; moved;) {
            moved = false;
            for (const Arc& a : n.arcs) {
                double from = n.tasks[a.from].from + a.lag;
                if (a.nextDay)
                    from = std::max(from, p_.midnight + (day(n.tasks[a.from].from + a.lag - kSameMoment) + 1.0) * kDay);
                if (from > n.tasks[a.to].from + kSameMoment) {
                    n.tasks[a.to].from = from;
                    moved = true;
                }
            }
            for (Task& t : n.tasks) {
                const Job& j = p_.jobs[t.job];
                const double from = whenSomebodyIsThere(j, t, std::max(t.from, j.pin.value_or(0.0)));
                if (from > latest_ - j.seconds + kSameMoment || (j.pin && from > *j.pin + kSameMoment) ||
                    from + j.seconds + tail_[t.job] >= limit() - kSameMoment)
                    return false;
                if (from > t.from + kSameMoment) {
                    t.from = from;
                    moved = true;
                }
            }
        }
        return true;
    }
    [[nodiscard]] double whenSomebodyIsThere(const Job& j, const Task& t, double from) const {
        const Unattended unattended = j.unattended.value_or(p_.unattended);
        for (double before = -1.0; before != from && from != kNever;) {
            before = from;
            const auto wait = [&](const Hours& hours, double at, double seconds) {
                if (from == kNever)
                    return;
                if (const double then = hours.thereFrom(from + at, seconds); then > from + at + kSameMoment)
                    from = then == kNever ? kNever : then - at;
            };
            if (unattended == Unattended::Never)
                wait(hours_.front(), 0.0, j.seconds);
            if (unattended == Unattended::Stop) {
                wait(hours_.front(), 0.0, 0.0);
                wait(hours_.front(), j.seconds, 0.0);
            }
            for (std::size_t h = 0; h < j.hands.size(); ++h) {
                const Span s = j.hands[h].within(j.seconds);
                const int person = std::max(0, t.person[h]); // the first is there whenever another is
                wait(hours_[static_cast<std::size_t>(person)], s.from, s.to - s.from);
            }
        }
        return from;
    }

    void look(Node n) {
        if (ended_)
            return;
        if (++nodes_ > kMostNodes || (nodes_ % kAskEvery == 0 && !goOn_(soFar_))) {
            ended_ = true;
            return;
        }
        if (!early(n) || nextOnBank(n) || nextUnit(n) || nextPerson(n) || nextConflict(n))
            return;
        keep(n);
    }

    // Which job of a bank comes next, and what brings it there.
    bool nextOnBank(const Node& n) {
        for (std::size_t b = 0; b < n.banks.size(); ++b) {
            if (n.banks[b].left.empty())
                continue;
            for (const std::size_t job : n.banks[b].left) {
                std::vector<std::size_t> chain;
                chains(b, n.banks[b].now, job, chain, n);
            }
            return true;
        }
        return false;
    }
    void chains(std::size_t bank, const State& is, std::size_t job, std::vector<std::size_t>& chain, const Node& n) {
        if (suits(p_.jobs[job].begin, is)) {
            Node next = n;
            Node::Chain& c = next.banks[bank];
            for (const std::size_t k : chain) {
                add(next, k);
                append(next, c, next.tasks.size() - 1);
            }
            append(next, c, taskOf_[job]);
            c.left.erase(std::find(c.left.begin(), c.left.end(), job));
            look(std::move(next));
            return;
        }
        for (std::size_t k = 0; k < p_.jobs.size() && chain.size() < 2; ++k) {
            const Job& j = p_.jobs[k];
            if (!j.asNeeded || j.bank != bank || !j.end || !suits(j.begin, is))
                continue;
            chain.push_back(k);
            chains(bank, *j.end, job, chain, n);
            chain.pop_back();
        }
    }
    void append(Node& n, Node::Chain& c, std::size_t task) const {
        const Job& j = p_.jobs[n.tasks[task].job];
        if (c.last != kNone) {
            const Job& before = p_.jobs[n.tasks[c.last].job];
            n.arcs.push_back({c.last, task, before.seconds + before.rest});
        }
        n.tasks[task].begin = c.now;
        n.tasks[task].end = leftBy(j, c.now);
        c.now = n.tasks[task].end;
        c.last = task;
    }

    // Which piece serves a need; of those that are the same, one that nobody uses is as good as another.
    bool nextUnit(const Node& n) {
        for (std::size_t t = 0; t < n.tasks.size(); ++t) {
            const Job& j = p_.jobs[n.tasks[t].job];
            for (std::size_t need = 0; need < j.needs.size(); ++need) {
                if (n.tasks[t].unit[need] >= 0)
                    continue;
                std::vector<bool> freshTried(p_.pieces.size(), false);
                for (std::size_t line = 0; line < lines_.size(); ++line) {
                    const std::size_t piece = lines_[line].piece;
                    const auto& anyOf = j.needs[need].anyOf;
                    const auto& mine = n.tasks[t].unit;
                    if (std::find(anyOf.begin(), anyOf.end(), piece) == anyOf.end() ||
                        std::find(mine.begin(), mine.end(), static_cast<int>(line)) != mine.end())
                        continue;
                    const bool used = std::any_of(n.tasks.begin(), n.tasks.end(), [&](const Task& other) {
                        return std::find(other.unit.begin(), other.unit.end(), static_cast<int>(line)) !=
                               other.unit.end();
                    });
                    if (!used && freshTried[piece])
                        continue;
                    freshTried[piece] = freshTried[piece] || !used;
                    Node next = n;
                    next.tasks[t].unit[need] = static_cast<int>(line);
                    look(std::move(next));
                }
                return true;
            }
        }
        return false;
    }
    bool nextPerson(const Node& n) {
        for (std::size_t t = 0; t < n.tasks.size(); ++t) {
            const auto& persons = n.tasks[t].person;
            const auto open = std::find(persons.begin(), persons.end(), -1);
            if (open == persons.end())
                continue;
            for (int person = 0; person < people_; ++person) {
                Node next = n;
                next.tasks[t].person[static_cast<std::size_t>(open - persons.begin())] = person;
                look(std::move(next));
            }
            return true;
        }
        return false;
    }

    static bool overlap(double from, double to, double otherFrom, double otherTo) {
        return from < otherTo - kSameMoment && otherFrom < to - kSameMoment && from < to - kSameMoment &&
               otherFrom < otherTo - kSameMoment;
    }
    // Both ways round of two that stand in one another's way.
    void bothWays(const Node& n, Arc one, Arc other) {
        for (const Arc& arc : {one, other}) {
            Node next = n;
            next.arcs.push_back(arc);
            look(std::move(next));
        }
    }
    bool nextConflict(const Node& n) {
        for (std::size_t a = 0; a < n.tasks.size(); ++a) {
            const Task& one = n.tasks[a];
            const Job& first = p_.jobs[one.job];
            for (std::size_t b = a; b < n.tasks.size(); ++b) {
                const Task& other = n.tasks[b];
                const Job& second = p_.jobs[other.job];
                const bool sameUnit =
                    a != b && std::any_of(one.unit.begin(), one.unit.end(), [&](int line) {
                        return std::find(other.unit.begin(), other.unit.end(), line) != other.unit.end();
                    });
                if (sameUnit && overlap(one.from, one.from + first.seconds, other.from, other.from + second.seconds)) {
                    bothWays(n, {a, b, first.seconds}, {b, a, second.seconds});
                    return true;
                }
                for (std::size_t h = 0; h < one.person.size(); ++h) {
                    for (std::size_t g = a == b ? h + 1 : 0; g < other.person.size(); ++g) {
                        const Span x = first.hands[h].within(first.seconds), y = second.hands[g].within(second.seconds);
                        if (one.person[h] != other.person[g] ||
                            !overlap(one.from + x.from, one.from + x.to, other.from + y.from, other.from + y.to))
                            continue;
                        if (a != b) // of one job they stand where they stand: one person cannot do both
                            bothWays(n, {a, b, x.to - y.from}, {b, a, y.to - x.from});
                        return true;
                    }
                }
                const bool apart = a != b && std::any_of(p_.apart.begin(), p_.apart.end(), [&](const auto& pair) {
                                       return (pair.first == one.job && pair.second == other.job) ||
                                              (pair.first == other.job && pair.second == one.job);
                                   });
                if (apart && day(one.from) <= day(other.from + second.seconds - kSameMoment) &&
                    day(other.from) <= day(one.from + first.seconds - kSameMoment)) {
                    bothWays(n, {a, b, first.seconds, true}, {b, a, second.seconds, true});
                    return true;
                }
            }
        }
        return false;
    }

    void keep(const Node& n) {
        Schedule s;
        for (const Task& t : n.tasks) {
            Placed placed{t.job, t.from, t.from + p_.jobs[t.job].seconds, {}, {}, t.person, t.begin, t.end};
            for (const int line : t.unit) {
                placed.pieces.push_back(lines_[static_cast<std::size_t>(line)].piece);
                placed.unit.push_back(lines_[static_cast<std::size_t>(line)].unit);
            }
            s.makespan = std::max(s.makespan, placed.to);
            s.value += p_.jobs[t.job].asNeeded ? 0.0 : p_.jobs[t.job].value;
            s.placed.push_back(std::move(placed));
        }
        for (std::size_t k = 0; k < p_.jobs.size(); ++k) {
            if (p_.jobs[k].asNeeded ||
                std::any_of(n.tasks.begin(), n.tasks.end(), [k](const Task& t) { return t.job == k; }))
                continue;
            const auto said =
                std::find_if(best_.leftOut.begin(), best_.leftOut.end(), [k](const LeftOut& l) { return l.job == k; });
            s.leftOut.push_back(
                {k, said == best_.leftOut.end() ? say("it makes room for what is worth more") : said->why});
        }
        best_ = std::move(s);
        lost_ = losing_;
    }

    const Problem& p_;
    const std::vector<double>& weights_;
    Schedule& best_;
    const GoOn& goOn_;
    const Answer& soFar_;
    std::vector<LineName> lines_;
    std::vector<Hours> hours_;
    int people_ = 1;
    double latest_ = 0.0, lost_ = 0.0, losing_ = 0.0;
    std::vector<std::size_t> taskOf_;
    std::vector<double> tail_;
    long nodes_ = 0;
    bool ended_ = false;
};

} // namespace

bool exactly(const Problem& problem, const std::vector<double>& weights, Schedule& best, const GoOn& goOn,
             const Answer& soFar) {
    return Exact(problem, weights, best, goOn, soFar).run();
}

} // namespace otterstone::plan::campaign
