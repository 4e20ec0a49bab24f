// What a corrected figure does to a finding: the figures that read differently afterwards.
#pragma once

#include <string>
#include <vector>

#include "core/together/bank_findings.h"

namespace otterstone::together {

struct FigureChange {
    std::string label, before, after;
    bool operator==(const FigureChange&) const = default;
};

/// The figures of a run whose shown text changed, in the finding's order. One that is new or gone reads "unknown" on
/// that side.
[[nodiscard]] std::vector<FigureChange> changesBetween(const kinds::Finding& before, const kinds::Finding& after);
/// As above for what the runs of a bank say together.
[[nodiscard]] std::vector<FigureChange> changesBetween(const BankFindings& before, const BankFindings& after);

} // namespace otterstone::together
