// What no run exceeds, whoever wrote its recipe or its profiles: the house's own limits, and what load, port and cable
// can bear.
#pragma once

#include <map>

#include "bench/runner/plan.h"

namespace otterstone::bench {

/// A staircase looks for the current at which a port gives up; beyond twice what is printed it has long done so, or
/// never will. Nothing printed: 3 A.
inline constexpr double kPortTimes = 2.0;

/// The limits a run really has: those given, none missing, none beyond the house's.
[[nodiscard]] Limits houseLimits(Limits given);
/// Whether the limit on temperature is one of a run: kLeastCelsius to kMostCelsius. The problem names `place`.
[[nodiscard]] Result<void> checkCelsius(double celsius, const std::string& place);

/// What would show that a load says "off" and is on, where nothing would: in words, to be said before a run begins.
/// Empty where a meter stands on its path, or there is no load.
[[nodiscard]] std::string missingWitness(const Plan& plan);
/// The window of volts for a tier: the recipe's, where it has one; for a load that nobody else watches never wider than
/// a port of this tier gives.
[[nodiscard]] Limits windowFor(const Plan& plan, const label::Tier& tier);

/// The first step that asks for more than the load, the port or the cable takes, as a problem; nothing when none does.
/// The recipe is written out (expand).
[[nodiscard]] std::optional<Problem> asksTooMuch(const Plan& plan);

} // namespace otterstone::bench
