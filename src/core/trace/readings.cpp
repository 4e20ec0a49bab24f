#include "core/trace/readings.h"

#include "core/trace/wide.h"

namespace otterstone::trace {

OTTERSTONE_WIDE void divideDigits(const std::int32_t* digits, double divisor, std::size_t count, double* out) {
    for (std::size_t k = 0; k < count; ++k)
        out[k] = readingOf(digits[k], divisor);
}

} // namespace otterstone::trace
