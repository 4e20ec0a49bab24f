// From an order of jobs to a schedule: each is put, one after another, where it can begin first beside what stands
// already (a serial schedule generation).
#pragma once

#include <functional>

#include "core/plan/campaign/calendar.h"
#include "core/plan/campaign/schedule.h"

namespace otterstone::plan::campaign {

inline constexpr std::size_t kNone = static_cast<std::size_t>(-1);

/// The jobs that bring a bank from one state to where a job wants it, the quickest ones; nothing when none do.
[[nodiscard]] std::optional<std::vector<std::size_t>> bringing(const Problem& problem, std::size_t bank,
                                                               const State& from, const State& wanted);
/// What a job wants holds for a bank in this state.
[[nodiscard]] bool suits(const State& wanted, const State& is);

class Placer {
public:
    explicit Placer(const Problem& problem);

    /// `order`: each job that is not run as needed, once; one that must wait for another is taken up after it. A job
    /// that cannot be placed is left out, with the reason. It holds until the next call.
    const Schedule& place(const std::vector<std::size_t>& order);
    /// Of each job of the last order: the one that ended last of those without which it had begun earlier; kNone.
    [[nodiscard]] const std::vector<std::size_t>& heldBy() const { return heldBy_; }

private:
    struct Where {
        Placed placed;
        std::size_t heldBy = kNone;
        const char* why = nullptr; ///< it cannot be placed
    };
    struct BankNow {
        State state;
        double freeFrom = 0.0;
        std::size_t last = kNone; ///< job
    };

    [[nodiscard]] Where find(std::size_t job, double from, std::size_t heldBy) const;
    [[nodiscard]] bool someUnits(const Job& job, double& from, Where& where) const;
    [[nodiscard]] bool somePeople(const Job& job, double& from, Where& where) const;
    [[nodiscard]] bool onDaysOfTheirOwn(std::size_t job, double& from, Where& where) const;
    /// What a placed job keeps busy: its pieces, and the people of its moments.
    void eachLine(const Placed& placed, const std::function<void(Line&, Span)>& of);
    /// Nothing, or why not.
    const char* tryJob(std::size_t job);

    const Problem& problem_;
    std::vector<std::size_t> firstUnit_; ///< of each piece among the lines
    std::vector<Line> units_, people_;
    std::vector<Hours> hours_; ///< of the first, the second … person
    std::vector<std::vector<std::size_t>> apart_;
    /// Of each job its needs, those for which fewest pieces do first: a cable that does for both ends is not taken from
    /// the end for which no other does.
    std::vector<std::vector<std::size_t>> needsInTurn_;

    Schedule schedule_;
    std::vector<BankNow> banks_;
    std::vector<Span> at_; ///< of each job that is placed
    enum class Fate { Waits, Stands, Out };
    std::vector<Fate> fate_;
    std::vector<std::size_t> heldBy_;
};

} // namespace otterstone::plan::campaign
