#include "core/trace/counters.h"

#include <cmath>

namespace otterstone::trace {

std::optional<double> counted(const Column& counter) {
    double sum = 0.0;
    double previous = 0.0;
    std::size_t seen = 0;
    for (double value : counter) {
        if (std::isnan(value))
            continue;
        if (seen++ > 0)
            sum += value >= previous ? value - previous : value;
        previous = value;
    }
    return seen < 2 ? std::nullopt : std::optional(sum);
}

} // namespace otterstone::trace
