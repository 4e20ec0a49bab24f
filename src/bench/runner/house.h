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
/// The window around so many volts: the recipe's, where it has one; with a load never wider than a port that is asked
/// for them gives.
[[nodiscard]] Limits windowFor(const Plan& plan, double volts);
/// What an output that reads so many volts was meant to give, where nothing was asked for: the printed tier that is
/// next to it, and 5 V where none is near. A socket of 12 V is none of 5 V, and 30 V at a port of 5 V are 5 V gone
/// wrong.
[[nodiscard]] double meantVolts(const label::Label& label, double reads);

/// The first step that asks for more than the load, the port or the cable takes, as a problem; nothing when none does.
/// The recipe is written out (expand).
[[nodiscard]] std::optional<Problem> asksTooMuch(const Plan& plan);

} // namespace otterstone::bench
