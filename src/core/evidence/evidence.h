// All that is known of one bank when it is judged: its label, its runs with their findings, its sheets, and what a
// scale and a rule said.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/kinds/judge.h"
#include "core/label/label.h"
#include "core/records/bank.h"
#include "core/setup/prices.h"
#include "core/setup/schools.h"
#include "core/together/bank_findings.h"

namespace otterstone::evidence {

struct Evidence {
    long long bank = 0;
    std::string name;
    label::Label label;
    records::OnScale scale;
    records::Bought bought;
    setup::Prices prices; ///< the house's
    setup::Schools schools;
    std::vector<kinds::RunEntry> runs; ///< drains and recharges
    std::vector<kinds::SheetRun> sheets;
    together::BankFindings together;
};

} // namespace otterstone::evidence
