// What passed the meter of a notebook, judged as a drain or a recharge is: by its readings of power, or by its
// counters.
#pragma once

#include "core/kinds/notebook/notebook.h"
#include "core/kinds/traced/finding.h"

namespace otterstone::kinds {

/// Whether anything stands in the columns of a meter.
[[nodiscard]] bool hasReadings(const Sheet& sheet);
/// A drain or a recharge where it was measured and it is known which way energy went; else a notebook.
[[nodiscard]] Kind servesAs(const Sheet& sheet);

/// The drain or the recharge that was measured, with what else the notebook says behind it. Displays that were read are
/// its stamps, and what was written of its ends is stated, but for what `setup` states. Nothing where nothing was
/// measured, or nobody can tell which way it went; a problem where its counters contradict each other.
[[nodiscard]] std::optional<Result<Finding>> measuredIn(const Sheet& sheet, const Facts& facts, Setup setup);

/// Whether the bank was looked at when what was measured began, or before.
[[nodiscard]] bool saysBegan(const Sheet& sheet);
/// The readings as they stand, as a trace, with a reading of nothing where somebody wrote that it ended.
[[nodiscard]] trace::Trace readingsOf(const Sheet& sheet);

} // namespace otterstone::kinds
