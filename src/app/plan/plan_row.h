// The rows of the list below the tide, and the campaign's wishes in words.
#pragma once

#include <array>

#include <QString>

#include "app/plan/planner.h"

namespace otterstone::app {

enum PlanColumn { kWhen, kBank, kRun, kOn, kWhatFor, kPlanColumns };

struct PlanRow {
    enum class Strength { Plain, Faint, Warn };
    std::array<QString, kPlanColumns> cells;
    Strength strength = Strength::Plain;
    plan::campaign::JobKey key;
    std::optional<std::size_t> job;    ///< of the problem
    std::optional<std::size_t> placed; ///< of the schedule
};

/// What is done or late, what is planned, what is left out.
[[nodiscard]] std::vector<PlanRow> rowsOf(const Plan& plan);

/// "To be known: what the labels claim · daily 8-22 · nothing goes on alone · until Fri 11 Sep 2026 18:00 (the boat)".
[[nodiscard]] QString wishesInWords(const plan::campaign::Wishes& wishes);

} // namespace otterstone::app
