// The plan on paper: what hands do, day by day, with the gear to lay out.
#pragma once

#include <string>

#include "core/plan/campaign/draw_up.h"
#include "core/plan/campaign/told.h"

namespace otterstone::plan::campaign {

/// One HTML page: the sentence, what comes now, each day's moments of hands with boxes to tick, what is left out, the
/// cautions. `beginsAt` in s since 1970.
[[nodiscard]] std::string daySheetOf(const DrawnUp& drawn, const Told& told, double beginsAt);

/// "Mon 09:10", with the day of the month where more than a week lies between: "Mon 14 Sep 09:10".
[[nodiscard]] std::string dayAndTime(double at, double now);
/// "Mon 14 Sep 2026".
[[nodiscard]] std::string dayWords(double at);
/// "09:10".
[[nodiscard]] std::string clockWords(double at);

/// "Now: Cobble 10: recharge, on Hut socket 20, Grey 1 m and Pocket meter. Next, at Mon 12:40: …".
[[nodiscard]] std::string nowAndNext(const Problem& problem, const Schedule& schedule, double beginsAt);

/// "Load box 150, Bench meter and Grey 1 m".
[[nodiscard]] std::string gearWords(const Problem& problem, const Placed& placed);

} // namespace otterstone::plan::campaign
