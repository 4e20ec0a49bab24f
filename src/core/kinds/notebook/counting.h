// What passed the meter of a notebook: by its readings of power, by its counter of Wh, or by mAh and volts.
#pragma once

#include "core/kinds/notebook/notebook.h"

namespace otterstone::kinds {

/// Counts into `f`, whose notes and flow are known: `counted` stays empty where nothing was measured.
void countMeter(NotebookFinding& f, const Facts& facts, trace::Between between);

/// Where somebody wrote, at `from` or later, that nothing flowed any more, and that it went on nowhere behind: the
/// output went, the plug was pulled, the bank was full or empty. Null where nobody did.
[[nodiscard]] const Entry* endOf(const NotebookFinding& f, double from);

} // namespace otterstone::kinds
