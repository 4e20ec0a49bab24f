// All that is known of one bank when it is judged: its label, its runs with their findings, its sheets, and what a
// scale and a rule said.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/behaviour/judge.h"
#include "core/findings/bank_findings.h"
#include "core/label/label.h"
#include "core/quantity/stated.h"

namespace otterstone::evidence {

/// A run that is a sheet, with what it is held against.
struct SheetRun {
    long long run = 0;
    std::string title;
    behaviour::Sheet sheet;
    behaviour::Facts facts;
};

/// Measured on a scale and with a rule, by the tester.
struct OnScale {
    std::optional<Stated> grams;
    std::optional<label::SizeMm> size; ///< good to half a millimetre each
    bool operator==(const OnScale&) const = default;
};

struct Evidence {
    long long bank = 0;
    std::string name;
    label::Label label;
    OnScale scale;
    std::vector<findings::RunEntry> runs; ///< drains and recharges
    std::vector<SheetRun> sheets;
    findings::BankFindings together;
};

} // namespace otterstone::evidence
