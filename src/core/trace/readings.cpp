#include "core/trace/readings.h"

#include <cmath>

#include "core/quantity/wide.h"

namespace otterstone::trace {

OTTERSTONE_WIDE void divideDigits(const std::int32_t* digits, double divisor, std::size_t count, double* out) {
    for (std::size_t k = 0; k < count; ++k)
        out[k] = readingOf(digits[k], divisor);
}

// Counted rather than searched: a count is what the compiler turns into wide instructions.
OTTERSTONE_WIDE bool allWithin(const Column& column, double most) {
    const double* const values = column.data();
    std::int64_t odd = 0;
    for (std::size_t k = 0; k < column.size(); ++k)
        odd += !(std::fabs(values[k]) <= most);
    return odd == 0;
}

namespace {

OTTERSTONE_WIDE bool digitsWithin(const Digits& column, std::int32_t most) {
    const std::int32_t* const digits = column.data();
    std::int32_t odd = 0; // bits, not a count: no column is too long for them
    for (std::size_t k = 0; k < column.size(); ++k)
        odd |= static_cast<std::int32_t>(digits[k] > most) | static_cast<std::int32_t>(digits[k] < -most);
    return odd == 0;
}

} // namespace

bool allWithin(const Readings& r, double most) {
    if (r.divisor_ == 0.0)
        return allWithin(r.doubles_, most);
    // Every digit but kNoDigits lies within the largest whole number.
    const double largest = std::numeric_limits<std::int32_t>::max();
    return digitsWithin(r.digits_, static_cast<std::int32_t>(std::min(most * std::fabs(r.divisor_), largest)));
}

} // namespace otterstone::trace
