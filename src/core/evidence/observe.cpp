#include "core/evidence/observe.h"

#include "core/kinds/catalogue.h"

namespace otterstone::evidence {

std::vector<kinds::Observation> observe(const Evidence& evidence) {
    std::vector<kinds::Observation> all;
    for (const kinds::RunEntry& r : evidence.runs) {
        if (const auto& trace = kinds::of(r.finding.kind).trace)
            trace->observe(evidence.label, r, all);
    }
    for (const kinds::SheetRun& s : evidence.sheets)
        kinds::observe(*kinds::of(s.sheet.kind).sheet, s, all);
    return all;
}

} // namespace otterstone::evidence
