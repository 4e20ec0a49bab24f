#include "core/plan/campaign/sure.h"

#include <algorithm>
#include <cmath>
#include <random>

#include "core/plan/campaign/calendar.h"

namespace otterstone::plan::campaign {

namespace {

constexpr double kShortestShare = 0.1; // of the expected time: nothing takes less
constexpr double kFew = 0.1, kHalf = 0.5, kNearly = 0.9;

class Life {
public:
    Life(const Problem& problem, const Schedule& schedule) : p_(problem), s_(schedule) {
        int people = 1;
        for (const Placed& placed : s_.placed) {
            for (const int person : placed.person)
                people = std::max(people, person + 1);
        }
        for (int k = 1; k <= people; ++k)
            hours_.emplace_back(p_, k);
        for (const Piece& piece : p_.pieces) {
            firstUnit_.push_back(units_);
            units_ += static_cast<std::size_t>(piece.count);
        }
    }

    // The ends of all jobs of one life.
    const std::vector<double>& live(std::mt19937& random) {
        std::vector<double> unitFree(units_, 0.0), bankFree(p_.banks.size(), 0.0), jobEnd(p_.jobs.size(), 0.0);
        std::vector<Line> people(hours_.size());
        ends_.clear();
        for (const Placed& placed : s_.placed) { // in the order of their planned begins
            const Job& j = p_.jobs[placed.job];
            double from = j.pin.value_or(0.0);
            for (const std::size_t before : j.after)
                from = std::max(from, jobEnd[before]);
            if (j.bank)
                from = std::max(from, bankFree[*j.bank]);
            for (std::size_t n = 0; n < placed.pieces.size(); ++n)
                from = std::max(from, unitFree[lineOf(placed, n)]);
            from = whenPeopleAreThere(j, placed, from, people);
            const double takes = j.spread > 0.0 ? std::max(kShortestShare * j.seconds,
                                                           std::normal_distribution(j.seconds, j.spread)(random))
                                                : j.seconds;
            const double end = from + takes;
            double off = end; // when it is taken off
            for (std::size_t h = 0; h < placed.person.size(); ++h) {
                const auto who = static_cast<std::size_t>(placed.person[h]);
                const double length = j.hands[h].seconds;
                // Counted from the end it comes as that does, and at the end of the job wherever that is.
                const double wanted = j.hands[h].at < 0.0 ? end + j.hands[h].at : std::min(from + j.hands[h].at, end);
                const double at = free(who, people, std::max(from, wanted), length);
                people[who].take({at, at + length}, placed.job);
                off = std::max(off, at + length);
            }
            ends_.push_back(off);
            jobEnd[placed.job] = off;
            for (std::size_t n = 0; n < placed.pieces.size(); ++n)
                unitFree[lineOf(placed, n)] = off;
            if (j.bank)
                bankFree[*j.bank] = off + j.rest;
        }
        return ends_;
    }

private:
    [[nodiscard]] std::size_t lineOf(const Placed& placed, std::size_t need) const {
        return firstUnit_[placed.pieces[need]] + static_cast<std::size_t>(placed.unit[need]);
    }
    [[nodiscard]] double free(std::size_t who, const std::vector<Line>& people, double from, double seconds) const {
        double at = from;
        for (double before = -1.0; at != before;) {
            before = at;
            const double there = hours_[who].thereFrom(at, seconds);
            if (there == kNever)
                return at; // nobody comes again: it is done when it can be, after hours
            at = people[who].freeFrom(there, seconds);
        }
        return at;
    }
    // By what it is expected to take.
    [[nodiscard]] double whenPeopleAreThere(const Job& j, const Placed& placed, double from,
                                            const std::vector<Line>& people) const {
        const Unattended unattended = j.unattended.value_or(p_.unattended);
        for (double before = -1.0; before != from;) {
            before = from;
            const auto wait = [&](double at, double seconds) {
                const double there = hours_.front().thereFrom(from + at, seconds);
                if (there != kNever)
                    from = std::max(from, there - at);
            };
            if (unattended == Unattended::Never)
                wait(0.0, j.seconds);
            if (unattended == Unattended::Stop) {
                wait(0.0, 0.0);
                wait(j.seconds, 0.0);
            }
            for (std::size_t h = 0; h < placed.person.size(); ++h) {
                const Span s = j.hands[h].within(j.seconds);
                from = std::max(from,
                                free(static_cast<std::size_t>(placed.person[h]), people, from + s.from, s.to - s.from) -
                                    s.from);
            }
        }
        return from;
    }

    const Problem& p_;
    const Schedule& s_;
    std::vector<Hours> hours_;
    std::vector<std::size_t> firstUnit_;
    std::size_t units_ = 0;
    std::vector<double> ends_;
};

double quantile(std::vector<double>& sorted, double share) {
    const auto at = static_cast<std::size_t>(std::ceil(share * static_cast<double>(sorted.size())));
    return sorted.empty() ? 0.0 : sorted[std::clamp<std::size_t>(at, 1, sorted.size()) - 1];
}

} // namespace

Sure howSure(const Problem& problem, const Schedule& schedule, int lives, unsigned seed) {
    Life life(problem, schedule);
    std::mt19937 random(seed);
    std::vector<std::vector<double>> ends(schedule.placed.size());
    std::vector<double> last;
    double met = 0.0;
    for (int k = 0; k < lives; ++k) {
        const auto& of = life.live(random);
        double end = 0.0;
        for (std::size_t n = 0; n < of.size(); ++n) {
            ends[n].push_back(of[n]);
            end = std::max(end, of[n]);
        }
        last.push_back(end);
        met += problem.until && end <= *problem.until + kSameMoment ? 1.0 : 0.0;
    }
    std::sort(last.begin(), last.end());
    Sure sure;
    sure.half = quantile(last, kHalf);
    sure.nearly = quantile(last, kNearly);
    if (problem.until && lives > 0)
        sure.ofWindow = met / lives;
    for (auto& of : ends) {
        std::sort(of.begin(), of.end());
        sure.ends.push_back({quantile(of, kFew), quantile(of, kNearly)});
    }
    return sure;
}

} // namespace otterstone::plan::campaign
