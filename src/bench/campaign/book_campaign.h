// A book's own campaign: its wishes, its runs, its drawer and its recipes become a problem to be solved, and the plan
// that was agreed on is held against what was run since.
#pragma once

#include <QString>

#include "book/store/together.h"
#include "core/plan/campaign/draw_up.h"
#include "core/plan/campaign/lived.h"
#include "core/plan/campaign/schedule.h"

namespace otterstone::bench {

struct BookCampaign {
    plan::campaign::Wishes wishes;
    double begins = 0.0; ///< from when it is planned, s since 1970 on the tester's own clock
    plan::campaign::DrawnUp drawn;
    std::vector<plan::campaign::RunSeen> seen; ///< the dated runs of the banks in it
    std::vector<plan::campaign::Lived> lived;
    std::vector<book::FreshFinding> fresh; ///< findings that were not in the cache
};

/// What the book says of its campaign; the usual wishes where it says nothing. Problems: those of wishesFromText.
[[nodiscard]] Result<plan::campaign::Wishes> wishesOf(const book::Book& book);

/// Draws it up as of `now`, or as of the beginning that the wishes name. On connections of its own, for a worker's
/// thread. Problems: of a book that cannot be read; bad_value for an end that is not after the beginning.
[[nodiscard]] Result<BookCampaign> drawCampaign(const QString& path, const plan::campaign::Wishes& wishes, double now);

/// The dated runs of the banks of a plan, as far as their begins go: their findings are not asked for.
[[nodiscard]] std::vector<plan::campaign::RunSeen> runsMade(const book::Book& book, const plan::campaign::Kept& kept);

/// The tester's clock, s since 1970 as if it were UTC, on the full minute.
[[nodiscard]] double clockNow();

/// What a plan says, to be agreed on: what was done keeps its place.
[[nodiscard]] plan::campaign::Kept agreedOn(const BookCampaign& campaign, const plan::campaign::Schedule& schedule);

} // namespace otterstone::bench
