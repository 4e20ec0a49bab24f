// A plan told: as JSON for other programs, and in sentences.
#pragma once

#include <string>
#include <vector>

#include <nlohmann/json_fwd.hpp>

#include "core/plan/campaign/scarce.h"
#include "core/plan/campaign/sure.h"

namespace otterstone::plan::campaign {

/// All that is known of a plan.
struct Told {
    Answer answer;
    Sure sure;
    std::vector<Busy> scarce;
    std::vector<OneMore> oneMore;
};

/// How sure it is, and what is scarce; what one more piece would save is searched for besides (oneMoreOf).
[[nodiscard]] Told tell(const Problem& problem, Answer answer);

/// Why a job begins no earlier: "when Cobble 10 has rested", "when load 1 is free", "when somebody is there"; empty
/// where nothing holds it.
[[nodiscard]] std::string whyThen(const Problem& problem, const Schedule& schedule, const Placed& placed);

/// A state as it is typed; "unknown" where it may be any.
[[nodiscard]] std::string stateTold(const State& state);

/// "All 7 jobs in 2 d 3 h; nothing ends earlier." What is proved, and how sure it is, stand in it.
[[nodiscard]] std::string sentenceOf(const Problem& problem, const Told& told);
/// The cautions that go with what is left unattended.
[[nodiscard]] std::vector<std::string> cautionsOf(const Problem& problem, const Schedule& schedule);

/// The keys are those of docs/file-formats.md; times in s from the campaign's beginning.
[[nodiscard]] nlohmann::json toldJson(const Problem& problem, const Told& told);

} // namespace otterstone::plan::campaign
