// A plan that was agreed on, held against the runs that were made since.
#pragma once

#include <optional>
#include <span>
#include <string>
#include <vector>

#include "core/plan/campaign/wishes.h"

namespace otterstone::plan::campaign {

/// A run in the book.
struct RunSeen {
    long long run = 0, bank = 0;
    records::Kind kind = records::Kind::Drain;
    std::string recipe; ///< empty: not known
    std::string title;
    double from = 0.0, to = 0.0; ///< s since 1970
    std::optional<State> began, ended;
    std::optional<double> watts = {}; ///< that its recipe drew, where it says so
    bool notebook = false;            ///< written into one, whatever it serves as
};

/// What became of a job that was agreed on.
struct Lived {
    std::size_t job = 0;        ///< position among the kept
    std::optional<RunSeen> run; ///< that took its place
    bool due = false;           ///< it should have begun, and no run did
    double late = 0.0;          ///< s that its run began after its time, less than 0: before; while it is due, so far
};

/// A job's place is taken by the first run of its bank and kind, and of its recipe and watts (± 10 %) where both have
/// them, that began after the job was planned; each run takes one place. It is due ten minutes after its time. What was
/// only there to bring a bank into the state that another job wants is never due: another run may have done so.
[[nodiscard]] std::vector<Lived> livedThrough(const Kept& kept, std::span<const RunSeen> runs, double now);

/// "3 of 7 jobs are done. “Cobble 10: drain” is 38 min late." Empty when no plan was agreed on.
[[nodiscard]] std::string livedSentence(const Kept& kept, std::span<const Lived> lived);

} // namespace otterstone::plan::campaign
