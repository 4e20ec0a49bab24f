#include "core/plan/campaign/search.h"

#include <algorithm>
#include <numeric>
#include <random>

#include "core/plan/campaign/bounds.h"
#include "core/plan/campaign/exact.h"
#include "core/plan/campaign/placer.h"

namespace otterstone::plan::campaign {

namespace {

constexpr std::size_t kMemory = 200;   // late acceptance: a change is held against what stood so many steps ago
constexpr long kStale = 20'000;        // steps without a better one, then it begins again from the best
constexpr long kOrdersBetween = 8;     // orders between two questions whether to go on
constexpr double kCriticalShare = 0.6; // of the changes begin with what holds up the end
constexpr double kSame = 1e-6;

// What is left out counts before when all ends, and that before when each ends.
struct Cost {
    double lost = 0.0, makespan = 0.0, ends = 0.0;
    [[nodiscard]] bool below(const Cost& o) const {
        if (lost < o.lost - kSame || lost > o.lost + kSame)
            return lost < o.lost;
        if (makespan < o.makespan - kSame || makespan > o.makespan + kSame)
            return makespan < o.makespan;
        return ends < o.ends - kSame;
    }
    [[nodiscard]] bool notAbove(const Cost& o) const { return !o.below(*this); }
};

class Search {
public:
    Search(const Problem& problem, unsigned seed) : p_(problem), placer_(problem), random_(seed) {
        for (std::size_t k = 0; k < p_.jobs.size(); ++k) {
            if (p_.jobs[k].asNeeded)
                continue;
            jobs_.push_back(k);
            all_ += weight(k);
        }
        answer_.bounds = boundsOf(p_);
    }

    Answer run(const GoOn& goOn) {
        begin();
        if (jobs_.size() < 2 || proved())
            return finished();
        if (jobs_.size() <= kExactJobs) {
            if (!goOn(answer_))
                return finished();
            std::vector<double> weights(p_.jobs.size());
            for (const std::size_t k : jobs_)
                weights[k] = weight(k);
            Schedule best = answer_.schedule;
            answer_.optimal = exactly(p_, weights, best, goOn, answer_);
            answer_.schedule = std::move(best);
            if (answer_.optimal)
                return finished();
            bestCost_ = costOf(answer_.schedule); // better than any order so far, or as good
        }
        std::vector<Cost> before(kMemory, costNow_);
        long since = 0;
        for (long step = 0; !proved(); ++step) {
            if (step % kOrdersBetween == 0 && !goOn(answer_))
                break;
            const auto kept = order_;
            change();
            const Cost cost = look();
            Cost& late = before[static_cast<std::size_t>(step) % kMemory];
            if (cost.notAbove(late) || cost.notAbove(costNow_)) {
                if (cost.below(costNow_))
                    since = 0;
                costNow_ = cost;
                held_ = placer_.heldBy();
                last_ = lastEnd_;
            } else {
                order_ = kept;
            }
            if (costNow_.below(late))
                late = costNow_;
            if (++since > kStale) { // begins again from the best, shaken
                since = 0;
                order_ = best_;
                for (std::size_t k = 0; k < 3 + jobs_.size() / 10; ++k)
                    moveAny();
                costNow_ = look();
                held_ = placer_.heldBy();
                last_ = lastEnd_;
                before.assign(kMemory, costNow_);
            }
        }
        return finished();
    }

private:
    [[nodiscard]] double weight(std::size_t job) const {
        constexpr double kPinned = 1e6; // a pin is kept before anything is gained
        return p_.jobs[job].value + kSame + (p_.jobs[job].pin ? kPinned : 0.0);
    }
    [[nodiscard]] bool proved() const {
        return answer_.schedule.leftOut.empty() && answer_.schedule.makespan <= answer_.bounds.makespan + kSame;
    }
    Answer finished() {
        std::stable_sort(answer_.schedule.placed.begin(), answer_.schedule.placed.end(),
                         [](const Placed& a, const Placed& b) { return a.from < b.from; });
        answer_.optimal = answer_.optimal || proved();
        return answer_;
    }

    [[nodiscard]] Cost costOf(const Schedule& s) {
        Cost c;
        c.makespan = s.makespan;
        double kept = 0.0;
        lastEnd_ = kNone;
        double latest = -1.0;
        for (const Placed& placed : s.placed) {
            if (p_.jobs[placed.job].asNeeded)
                continue;
            kept += weight(placed.job);
            c.ends += placed.to;
            if (placed.to > latest) {
                latest = placed.to;
                lastEnd_ = placed.job;
            }
        }
        c.lost = all_ - kept;
        return c;
    }
    // Places the order; the best so far is kept.
    Cost look() {
        const Schedule& s = placer_.place(order_);
        ++answer_.tried;
        const Cost c = costOf(s);
        if (best_.empty() || c.below(bestCost_)) {
            bestCost_ = c;
            best_ = order_;
            answer_.schedule = s;
        }
        return c;
    }

    // Some orders that make sense, and the best of them.
    void begin() {
        std::vector<double> tail(p_.jobs.size(), 0.0), onBank(p_.banks.size(), 0.0);
        for (std::size_t round = 0; round < jobs_.size(); ++round) {
            bool moved = false;
            for (const std::size_t k : jobs_) {
                for (const std::size_t before : p_.jobs[k].after) {
                    const double t = tail[k] + p_.jobs[k].seconds;
                    moved = moved || t > tail[before];
                    tail[before] = std::max(tail[before], t);
                }
            }
            if (!moved)
                break;
        }
        for (const std::size_t k : jobs_) {
            if (p_.jobs[k].bank)
                onBank[*p_.jobs[k].bank] += p_.jobs[k].seconds;
        }
        const auto bankOf = [&](std::size_t k) { return p_.jobs[k].bank ? onBank[*p_.jobs[k].bank] : 0.0; };
        const auto tailOf = [&](std::size_t k) { return tail[k] + p_.jobs[k].seconds; };
        const auto density = [&](std::size_t k) { return p_.jobs[k].value / p_.jobs[k].seconds; };
        const auto try_ = [&](auto more) {
            order_ = jobs_;
            std::stable_sort(order_.begin(), order_.end(),
                             [&](std::size_t a, std::size_t b) { return more(a) > more(b); });
            pinsFirst();
            withoutNeedlessWays();
            (void)look();
        };
        try_([](std::size_t) { return 0.0; });
        try_(tailOf);
        try_([&](std::size_t k) { return bankOf(k) + tailOf(k); });
        if (p_.until)
            try_(density);
        order_ = best_;
        costNow_ = look();
        held_ = placer_.heldBy();
        last_ = lastEnd_;
    }
    void pinsFirst() {
        std::stable_sort(order_.begin(), order_.end(), [&](std::size_t a, std::size_t b) {
            return p_.jobs[a].pin.value_or(kNever) < p_.jobs[b].pin.value_or(kNever);
        });
    }
    // A job whose bank is not as it wants it waits for one that leaves it so, where there is one.
    void withoutNeedlessWays() {
        std::vector<State> now;
        for (const Bank& b : p_.banks)
            now.push_back(b.now);
        std::vector<std::size_t> left = order_, chained;
        while (!left.empty()) {
            const auto fits = [&](std::size_t k) {
                const Job& j = p_.jobs[k];
                return !j.bank || suits(j.begin, now[*j.bank]);
            };
            auto next = left.begin();
            if (!fits(*next)) {
                const auto better = std::find_if(left.begin(), left.end(), [&](std::size_t k) {
                    return p_.jobs[k].bank == p_.jobs[*next].bank && fits(k);
                });
                if (better != left.end())
                    next = better;
            }
            const Job& j = p_.jobs[*next];
            if (j.bank)
                now[*j.bank] = leftBy(j, now[*j.bank]);
            chained.push_back(*next);
            left.erase(next);
        }
        order_ = std::move(chained);
    }

    std::size_t any(std::size_t below) { return std::uniform_int_distribution<std::size_t>(0, below - 1)(random_); }
    double chance() { return std::uniform_real_distribution<double>(0.0, 1.0)(random_); }
    [[nodiscard]] std::size_t placeOf(std::size_t job) const {
        return static_cast<std::size_t>(std::find(order_.begin(), order_.end(), job) - order_.begin());
    }
    void moveTo(std::size_t from, std::size_t to) {
        const auto at = [&](std::size_t n) { return order_.begin() + static_cast<std::ptrdiff_t>(n); };
        if (from < to)
            std::rotate(at(from), at(from + 1), at(to + 1));
        else
            std::rotate(at(to), at(from), at(from + 1));
    }
    void moveAny() { moveTo(any(order_.size()), any(order_.size())); }

    void change() {
        // What holds up the end: from the job that ends last to the one that kept it from beginning, and on.
        if (last_ != kNone && chance() < kCriticalShare) {
            std::vector<std::size_t> chain;
            for (std::size_t k = last_; k != kNone && chain.size() < jobs_.size(); k = held_[k])
                chain.push_back(k);
            if (chain.size() > 1) {
                const std::size_t n = any(chain.size() - 1);
                const std::size_t late = placeOf(chain[n]), early = placeOf(chain[n + 1]);
                if (chance() < 0.5)
                    moveTo(late, early); // before what held it
                else
                    moveTo(early, late); // what held it, after it
                return;
            }
        }
        if (chance() < 0.5) {
            std::swap(order_[any(order_.size())], order_[any(order_.size())]);
            return;
        }
        moveAny();
    }

    const Problem& p_;
    Placer placer_;
    std::mt19937 random_;
    std::vector<std::size_t> jobs_, order_, best_, held_;
    double all_ = 0.0;
    Cost costNow_, bestCost_;
    std::size_t lastEnd_ = kNone, last_ = kNone;
    Answer answer_;
};

} // namespace

Answer solve(const Problem& problem, const GoOn& goOn, unsigned seed) { return Search(problem, seed).run(goOn); }

} // namespace otterstone::plan::campaign
