// What a campaign's plan says: what runs when on what, what is left out, and how near that is to the best there is.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/plan/campaign/problem.h"

namespace otterstone::plan::campaign {

/// One job in its place. Of a job run as needed there may be several, or none.
struct Placed {
    std::size_t job = 0; ///< position in the problem
    double from = 0.0, to = 0.0;
    std::vector<std::size_t> pieces; ///< one for each need
    std::vector<int> unit;           ///< which of the same pieces, from 0
    std::vector<int> person;         ///< for each moment of hands, from 0
    State begin, end;                ///< of its bank
};

struct LeftOut {
    std::size_t job = 0;
    std::string why;
};

/// What a job wants of a kind at once, and what of that there is.
struct Lack {
    std::string kind;
    int wanted = 0, there = 0;
    std::vector<std::size_t> pieces; ///< that can do it
};
/// The first kind of which there is less than the job wants at once, whatever else goes on; nothing where all is there.
[[nodiscard]] std::optional<Lack> lackOf(const Problem& problem, const Job& job);
/// Why it is left out, with what is missing by name.
[[nodiscard]] std::string whyLeftOut(const Problem& problem, const LeftOut& out);

struct Schedule {
    std::vector<Placed> placed; ///< in the order of their begins
    std::vector<LeftOut> leftOut;
    double makespan = 0.0; ///< s from 0 to the last end; a bank's rest does not count
    double value = 0.0;    ///< of the jobs placed
};

/// Seconds for which a schedule cannot be better, and value that no schedule exceeds.
struct Bounds {
    double makespan = 0.0; ///< of a schedule with all jobs
    double value = 0.0;
};

} // namespace otterstone::plan::campaign
