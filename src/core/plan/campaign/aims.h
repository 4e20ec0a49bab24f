// From what a tester wants to know of a bank to the runs that would tell it.
#pragma once

#include <span>

#include "core/evidence/evidence.h"
#include "core/plan/campaign/wishes.h"

namespace otterstone::plan::campaign {

/// A run that the tester put into the plan.
struct OwnEntry {
    long long id = 0, bank = 0;
    records::Kind kind = records::Kind::Drain;
    std::string recipe; ///< empty: by hand
    std::string words;
};

/// A run that is to be made, and what for.
struct Want {
    JobKey key;
    std::string words; ///< "drain", "drain at 12 W"
    double value = 0.0;
    std::vector<std::string> settles; ///< claims and figures, as they are printed
    std::optional<double> watts;      ///< out of the bank, where that is what it is about
    long long own = 0;                ///< the entry of the tester's; 0: none
};

/// Each run once, however much it would tell; what was taken out is not among them. A claim's value is its weight:
/// energy and rated output 3, recharge, sharing and pass-through 2, others 1; a figure of a purpose, a load of the
/// usable curve and an own entry 1 each; the second of the same is worth half, the third a third. Common practice, no
/// published source.
[[nodiscard]] std::vector<Want> wantsOf(const evidence::Evidence& evidence, const Wishes& wishes,
                                        std::span<const OwnEntry> own);

/// The runs from which a figure of the comparison comes (judgement::figureKinds()): kind and recipe.
[[nodiscard]] std::span<const std::pair<records::Kind, const char*>> runsFor(std::string_view figure);

} // namespace otterstone::plan::campaign
