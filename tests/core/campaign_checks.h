// What a plan of a campaign must keep, written down once more from the rules themselves; campaigns drawn at random; and
// the best there is by trying all begins. Nothing here is the solver's.
#pragma once

#include <algorithm>
#include <array>
#include <cmath>
#include <functional>
#include <random>

#include <QString>

#include "core/plan/campaign/schedule.h"

namespace otterstone::testing {

using plan::campaign::Bank;
using plan::campaign::Hands;
using plan::campaign::Job;
using plan::campaign::LeftOut;
using plan::campaign::Need;
using plan::campaign::Placed;
using plan::campaign::Presence;
using plan::campaign::Problem;
using plan::campaign::Schedule;
using plan::campaign::Span;
using plan::campaign::State;
using plan::campaign::Unattended;

inline bool somebodyIsThere(const Problem& p, double from, double to, int people) {
    if (!p.hours)
        return people <= 1;
    // Walks the hours over [from, to] and counts who is there at each piece of it.
    double at = from;
    for (const Presence& h : *p.hours) {
        if (h.people < people || h.span.to < at - 1e-6 || h.span.from > at + 1e-6)
            continue;
        at = std::max(at, h.span.to);
        if (at >= to - 1e-6)
            return true;
    }
    return false;
}

inline bool within(const State& is, const State& wanted) {
    return is.low >= wanted.low - 1e-6 && is.high <= wanted.high + 1e-6;
}

inline Span handsOf(const Job& j, const Placed& a, std::size_t h) {
    const double from = a.from + (j.hands[h].at < 0.0 ? j.seconds + j.hands[h].at : j.hands[h].at);
    return {from, from + j.hands[h].seconds};
}

// What is wrong with one by itself.
inline const char* alone(const Problem& p, const Placed& a) {
    const Job& j = p.jobs[a.job];
    if (a.from < -1e-6 || std::fabs(a.to - a.from - j.seconds) > 1e-6)
        return "its time";
    if (j.pin && std::fabs(a.from - *j.pin) > 1e-6)
        return "its pin";
    if (p.until && a.to > *p.until + 1e-6)
        return "the window";
    if (a.pieces.size() != j.needs.size() || a.unit.size() != j.needs.size() || a.person.size() != j.hands.size())
        return "what it needs";
    for (std::size_t n = 0; n < j.needs.size(); ++n) {
        if (std::find(j.needs[n].anyOf.begin(), j.needs[n].anyOf.end(), a.pieces[n]) == j.needs[n].anyOf.end() ||
            a.unit[n] < 0 || a.unit[n] >= p.pieces[a.pieces[n]].count)
            return "a piece that cannot do it";
        for (std::size_t m = 0; m < n; ++m) {
            if (a.pieces[n] == a.pieces[m] && a.unit[n] == a.unit[m])
                return "one piece for two needs";
        }
    }
    const Unattended u = j.unattended.value_or(p.unattended);
    if (u == Unattended::Never && !somebodyIsThere(p, a.from, a.to, 1))
        return "unattended";
    if (u == Unattended::Stop && !(somebodyIsThere(p, a.from, a.from, 1) && somebodyIsThere(p, a.to, a.to, 1)))
        return "nobody at its begin or end";
    for (std::size_t h = 0; h < j.hands.size(); ++h) {
        const Span x = handsOf(j, a, h);
        if (!somebodyIsThere(p, x.from, x.to, a.person[h] + 1))
            return "hands that are not there";
        for (std::size_t g = 0; g < h; ++g) {
            const Span y = handsOf(j, a, g);
            if (a.person[h] == a.person[g] && x.from < y.to - 1e-6 && y.from < x.to - 1e-6)
                return "a person is in two places";
        }
    }
    return nullptr;
}

// What is wrong with two of them.
inline const char* together(const Problem& p, const Placed& a, const Placed& b) {
    const Job &j = p.jobs[a.job], &k = p.jobs[b.job];
    if (a.from < b.to - 1e-6 && b.from < a.to - 1e-6) {
        for (std::size_t n = 0; n < a.pieces.size(); ++n) {
            for (std::size_t m = 0; m < b.pieces.size(); ++m) {
                if (a.pieces[n] == b.pieces[m] && a.unit[n] == b.unit[m])
                    return "a piece is in two places";
            }
        }
    }
    for (std::size_t h = 0; h < a.person.size(); ++h) {
        for (std::size_t g = 0; g < b.person.size(); ++g) {
            const Span x = handsOf(j, a, h), y = handsOf(k, b, g);
            if (a.person[h] == b.person[g] && x.from < y.to - 1e-6 && y.from < x.to - 1e-6)
                return "a person is in two places";
        }
    }
    if ((std::count(j.after.begin(), j.after.end(), b.job) && a.from < b.to - 1e-6) ||
        (std::count(k.after.begin(), k.after.end(), a.job) && b.from < a.to - 1e-6))
        return "before what must be done first";
    if (j.bank && j.bank == k.bank && a.from < b.to + k.rest - 1e-6 && b.from < a.to + j.rest - 1e-6)
        return "its bank has not rested";
    for (const auto& [one, other] : p.apart) {
        const auto day = [&](double t) { return std::floor((t - p.midnight) / 86400.0); };
        if (((a.job == one && b.job == other) || (a.job == other && b.job == one)) && day(a.from) <= day(b.to - 1e-6) &&
            day(b.from) <= day(a.to - 1e-6))
            return "a day is shared";
    }
    return nullptr;
}

inline QString violation(const Problem& p, const Schedule& s) {
    const auto told = [&](const Placed& placed, const char* what) {
        return QString::fromStdString(p.jobs[placed.job].id) + " at " + QString::number(placed.from) + ": " + what;
    };
    std::vector<int> times(p.jobs.size(), 0);
    for (std::size_t k = 0; k < s.placed.size(); ++k) {
        const Placed& a = s.placed[k];
        ++times[a.job];
        if (const char* what = alone(p, a))
            return told(a, what);
        for (std::size_t n = 0; n < k; ++n) {
            if (const char* what = together(p, a, s.placed[n]))
                return told(a, what);
        }
        for (const std::size_t before : p.jobs[a.job].after) {
            if (std::none_of(s.placed.begin(), s.placed.end(), [&](const Placed& b) { return b.job == before; }))
                return told(a, "without what must be done first");
        }
    }
    for (std::size_t bank = 0; bank < p.banks.size(); ++bank) {
        std::vector<const Placed*> chain;
        for (const Placed& a : s.placed) {
            if (p.jobs[a.job].bank == bank)
                chain.push_back(&a);
        }
        std::sort(chain.begin(), chain.end(), [](const Placed* a, const Placed* b) { return a->from < b->from; });
        State is = p.banks[bank].now;
        for (const Placed* a : chain) {
            if (!within(is, p.jobs[a->job].begin))
                return told(*a, "its bank is in another state");
            is = p.jobs[a->job].end.value_or(State{std::max(0.0, is.low - p.jobs[a->job].uses), is.high});
        }
    }
    for (std::size_t k = 0; k < p.jobs.size(); ++k) {
        const bool out = std::any_of(s.leftOut.begin(), s.leftOut.end(), [&](const LeftOut& l) { return l.job == k; });
        if (!p.jobs[k].asNeeded && times[k] + (out ? 1 : 0) != 1)
            return "“" + QString::fromStdString(p.jobs[k].id) + "” stands or is left out, once";
    }
    return {};
}

// Of so many jobs; a small one has whole numbers of times, few pieces and few banks.
inline Problem drawn(std::mt19937& r, int jobs, bool small) {
    const auto any = [&](int low, int high) { return std::uniform_int_distribution(low, high)(r); };
    const auto chance = [&](double share) { return std::uniform_real_distribution(0.0, 1.0)(r) < share; };
    const double hour = small ? 1.0 : 3600.0;
    Problem p;
    for (int k = 0, most = small ? 3 : 8; k < most; ++k)
        p.pieces.push_back({"piece " + std::to_string(k), k % 2 ? "meter" : "load", chance(0.2) ? 2 : 1});
    const int banks = any(1, small ? 2 : 7);
    for (int k = 0; k < banks; ++k)
        p.banks.push_back({"bank " + std::to_string(k), chance(0.5) ? State::full() : State::empty()});
    const bool states = chance(0.6);
    for (int k = 0; k < jobs; ++k) {
        Job j;
        j.id = "job " + std::to_string(k);
        j.seconds = hour * any(1, small ? 3 : 9);
        j.value = any(1, 5);
        if (!small)
            j.spread = j.seconds * 0.1;
        for (int n = any(0, 2); n > 0; --n) {
            Need need{"", {}};
            for (std::size_t piece = 0; piece < p.pieces.size(); ++piece) {
                if (chance(0.4))
                    need.anyOf.push_back(piece);
            }
            if (need.anyOf.empty())
                need.anyOf.push_back(static_cast<std::size_t>(any(0, static_cast<int>(p.pieces.size()) - 1)));
            j.needs.push_back(need);
        }
        if (chance(0.8)) {
            j.bank = static_cast<std::size_t>(any(0, banks - 1));
            if (states) {
                const bool drain = chance(0.6);
                j.begin = drain ? State::full() : State::empty();
                j.end = drain ? State::empty() : State::full();
                if (chance(0.2)) { // a look at it, and what that uses
                    j.begin = {50.0, 100.0};
                    j.end.reset();
                    j.uses = any(0, 60);
                }
            }
            j.rest = chance(0.3) ? hour : 0.0;
        }
        if (k > 0 && chance(0.25))
            j.after.push_back(static_cast<std::size_t>(any(0, k - 1)));
        if (chance(0.5))
            j.hands.push_back({0.0, small ? 1.0 : 600.0, "plug in"});
        if (chance(0.3))
            j.hands.push_back({small ? -1.0 : -600.0, small ? 1.0 : 600.0, "take off"});
        if (!small && chance(0.05))
            j.pin = hour * any(0, 200);
        p.jobs.push_back(j);
    }
    for (int k = 0; states && k < banks; ++k) {
        for (const bool fills : {true, false}) {
            Job j;
            j.id = (fills ? "fill " : "empty ") + std::to_string(k);
            j.seconds = hour * any(1, small ? 2 : 4);
            j.bank = static_cast<std::size_t>(k);
            j.begin = State();
            j.end = fills ? State::full() : State::empty();
            j.asNeeded = true;
            p.jobs.push_back(j);
        }
    }
    p.unattended =
        std::array{Unattended::Never, Unattended::Stop, Unattended::Night}[static_cast<std::size_t>(any(0, 2))];
    if (chance(0.7)) {
        p.hours.emplace();
        for (int day = 0; day < (small ? 12 : 90); ++day) {
            const double from = small ? 6.0 * day : 86400.0 * day + 3600.0 * any(0, 9);
            p.hours->push_back({{from, from + (small ? 4.0 : 3600.0 * any(9, 12))}, any(1, 2)});
        }
    }
    if (!small && jobs > 2 && chance(0.3))
        p.apart.emplace_back(0, 1);
    if (chance(0.3))
        p.until = small ? any(3, 12) : hour * any(12, 24 * 20);
    return p;
}

// The jobs of each bank in each order that its states allow, with what must run between; those of no bank last, as they
// come. One row a way, and behind each job the seconds that its chain takes at the least from its own begin.
struct Way {
    std::vector<std::size_t> jobs;
    std::vector<double> chain;
};
inline std::vector<Way> waysOf(const Problem& p, double end) {
    std::vector<Way> ways{{}};
    for (std::size_t bank = 0; bank <= p.banks.size(); ++bank) { // the last: jobs of no bank
        const bool none = bank == p.banks.size();
        std::vector<std::size_t> mine;
        for (std::size_t k = 0; k < p.jobs.size(); ++k) {
            if (!p.jobs[k].asNeeded && p.jobs[k].bank == (none ? std::nullopt : std::optional(bank)))
                mine.push_back(k);
        }
        std::vector<Way> longer;
        do {
            Way way;
            State is = none ? State() : p.banks[bank].now;
            bool can = true;
            for (const std::size_t k : mine) {
                if (!within(is, p.jobs[k].begin)) {
                    const auto by = std::find_if(p.jobs.begin(), p.jobs.end(), [&](const Job& j) {
                        return j.asNeeded && j.bank == bank && within(*j.end, p.jobs[k].begin);
                    });
                    can = can && by != p.jobs.end();
                    if (can) {
                        way.jobs.push_back(static_cast<std::size_t>(by - p.jobs.begin()));
                        is = *by->end;
                    }
                }
                way.jobs.push_back(k);
                is = p.jobs[k].end.value_or(State{std::max(0.0, is.low - p.jobs[k].uses), is.high});
            }
            way.chain.resize(way.jobs.size());
            double takes = 0.0;
            for (std::size_t n = way.jobs.size(); n-- > 0;) {
                const Job& j = p.jobs[way.jobs[n]];
                takes = j.seconds + (none || n + 1 == way.jobs.size() ? 0.0 : j.rest + takes);
                way.chain[n] = takes;
            }
            if (!can || (!none && takes > end))
                continue;
            for (Way before : ways) {
                before.jobs.insert(before.jobs.end(), way.jobs.begin(), way.jobs.end());
                before.chain.insert(before.chain.end(), way.chain.begin(), way.chain.end());
                longer.push_back(std::move(before));
            }
        } while (!none && std::next_permutation(mine.begin(), mine.end()));
        ways = std::move(longer);
    }
    return ways;
}

// Whether all jobs can be done within [0, end], where all times are whole numbers: for each way, all begins, all
// pieces, all people are tried. Of units that are alike a further one is only tried where those before it are in use.
inline bool fitsWithin(const Problem& p, double end) {
    end = std::min(end, p.until.value_or(end));
    std::vector<Placed> stands;
    const Way* way = nullptr;
    std::function<bool(std::size_t)> place;
    const auto inUse = [&](std::size_t piece, int unit, const Placed& placed) {
        const auto uses = [&](const Placed& a) {
            for (std::size_t n = 0; n < a.pieces.size(); ++n) {
                if (a.pieces[n] == piece && a.unit[n] == unit)
                    return true;
            }
            return false;
        };
        return uses(placed) || std::any_of(stands.begin(), stands.end(), uses);
    };
    // The pieces of the need, then the person of the hands; then whether it stands beside what stands.
    const std::function<bool(Placed&, std::size_t)> choose = [&](Placed& placed, std::size_t n) -> bool {
        const Job& j = p.jobs[placed.job];
        if (n < j.needs.size()) {
            for (const std::size_t piece : j.needs[n].anyOf) {
                for (int unit = 0; unit < p.pieces[piece].count; ++unit) {
                    placed.pieces.resize(n);
                    placed.unit.resize(n);
                    if (unit > 0 && !inUse(piece, unit - 1, placed))
                        break;
                    placed.pieces.push_back(piece);
                    placed.unit.push_back(unit);
                    if (choose(placed, n + 1))
                        return true;
                }
            }
            return false;
        }
        if (const std::size_t h = n - j.needs.size(); h < j.hands.size()) {
            for (const int who : {0, 1}) {
                placed.person.resize(h);
                placed.person.push_back(who);
                if (choose(placed, n + 1))
                    return true;
            }
            return false;
        }
        if (alone(p, placed) || std::any_of(stands.begin(), stands.end(),
                                            [&](const Placed& other) { return together(p, placed, other) != nullptr; }))
            return false;
        stands.push_back(placed);
        const bool found = place(stands.size());
        stands.pop_back();
        return found;
    };
    place = [&](std::size_t n) {
        if (n == way->jobs.size())
            return true;
        const Job& j = p.jobs[way->jobs[n]];
        double from = 0.0; // jobs of one bank run as listed
        for (const Placed& before : stands) {
            if (j.bank && p.jobs[before.job].bank == j.bank)
                from = std::max(from, before.to + p.jobs[before.job].rest);
        }
        for (; from + way->chain[n] <= end; from += 1.0) {
            Placed placed{way->jobs[n], from, from + j.seconds, {}, {}, {}, {}, {}};
            if (choose(placed, 0))
                return true;
        }
        return false;
    };
    // What has no place even alone has none among others.
    const auto hasPlace = [&](std::size_t k) {
        Way one{{k}, {p.jobs[k].seconds}};
        way = &one;
        return place(0);
    };
    for (std::size_t k = 0; k < p.jobs.size(); ++k) {
        if (!p.jobs[k].asNeeded && !hasPlace(k))
            return false;
    }
    const std::vector<Way> ways = waysOf(p, end);
    return std::any_of(ways.begin(), ways.end(), [&](const Way& w) {
        way = &w;
        return place(0);
    });
}

// Without the jobs whose bit is not set; they are those that stand first.
inline Problem only(const Problem& p, unsigned in) {
    Problem part = p;
    part.jobs.clear();
    std::vector<std::size_t> now(p.jobs.size(), 0);
    for (std::size_t k = 0; k < p.jobs.size(); ++k) {
        if (!p.jobs[k].asNeeded && !((in >> k) & 1U))
            continue;
        now[k] = part.jobs.size();
        part.jobs.push_back(p.jobs[k]);
    }
    for (Job& j : part.jobs) {
        for (std::size_t& before : j.after)
            before = now[before];
    }
    return part;
}

} // namespace otterstone::testing
