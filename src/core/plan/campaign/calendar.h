// When somebody is there, and what is free: all pieces and people as lines of time on which one thing goes on at once.
#pragma once

#include <limits>
#include <vector>

#include "core/plan/campaign/problem.h"

namespace otterstone::plan::campaign {

inline constexpr double kNever = std::numeric_limits<double>::infinity();
/// Moments that differ by less are one, s.
inline constexpr double kSameMoment = 1e-6;

/// One piece, or one person: what keeps it busy, in the order of time.
class Line {
public:
    /// The first moment from `from` on at which it is free for `seconds`; `by` is set to the job that kept it until
    /// then.
    [[nodiscard]] double freeFrom(double from, double seconds, std::size_t* by = nullptr) const;
    void take(Span span, std::size_t by);
    void giveBack(Span span, std::size_t by); ///< what was taken
    void clear() { busy_.clear(); }

private:
    struct Busy {
        Span span;
        std::size_t by;
        bool operator==(const Busy&) const = default;
    };
    std::vector<Busy> busy_;
};

/// The stretches in which enough people are there, merged where they touch.
class Hours {
public:
    Hours() = default;
    /// With at least so many people.
    Hours(const Problem& problem, int people);
    /// The first moment from `from` on from which they are there for `seconds`; kNever when there is none.
    [[nodiscard]] double thereFrom(double from, double seconds) const;

private:
    bool always_ = true;
    std::vector<Span> spans_;
};

} // namespace otterstone::plan::campaign
