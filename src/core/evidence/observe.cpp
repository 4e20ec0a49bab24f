#include "core/evidence/observe.h"

#include <cmath>

#include "core/kinds/catalogue.h"
#include "core/quantity/parse.h"

namespace otterstone::evidence {

std::vector<kinds::Observation> observe(const Evidence& evidence) {
    std::vector<kinds::Observation> all;
    for (const kinds::RunEntry& r : evidence.runs) {
        if (const auto& trace = kinds::of(r.finding->kind).trace)
            trace->observe(evidence.label, r, all);
    }
    for (const kinds::SheetRun& s : evidence.sheets)
        kinds::observe(*kinds::of(s.sheet.kind).sheet, s, all);
    return all;
}

bool sameBattery(std::optional<double> a, std::optional<double> b) {
    return a && b && std::fabs(*a / *b - 1.0) <= 0.05;
}

bool isOf(const kinds::Observation& seen, const std::string& device, std::optional<double> wattHours) {
    return seen.deviceWattHours && wattHours ? sameBattery(seen.deviceWattHours, wattHours)
                                             : lowered(seen.device) == lowered(device);
}

} // namespace otterstone::evidence
