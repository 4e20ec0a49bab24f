#include "core/trace/counters.h"

#include <algorithm>
#include <cmath>
#include <vector>

namespace otterstone::trace {

namespace {
constexpr double kNothing = 0.05; // of what was counted before: a counter that begins anew
constexpr double kSteps = 1.5;    // usual moves: less than that is no reset, but a counter near its beginning
} // namespace

std::optional<double> counted(const Column& counter) {
    // A reset falls by far more than the counter ever moves from row to row.
    std::vector<double> moves;
    double before = std::nan("");
    for (const double value : counter) {
        if (!std::isnan(before) && !std::isnan(value) && value != before)
            moves.push_back(std::fabs(value - before));
        before = std::isnan(value) ? before : value;
    }
    const auto middle = moves.begin() + static_cast<std::ptrdiff_t>(moves.size() / 2);
    std::nth_element(moves.begin(), middle, moves.end());
    const double usual = moves.empty() ? 0.0 : *middle;
    double sum = 0.0;
    double previous = 0.0;
    std::size_t seen = 0;
    for (double value : counter) {
        if (std::isnan(value))
            continue;
        if (seen++ > 0)
            sum += std::fabs(value) < kNothing * std::fabs(previous) && std::fabs(previous) > kSteps * usual
                       ? value
                       : value - previous;
        previous = value;
    }
    return seen < 2 ? std::nullopt : std::optional(sum);
}

} // namespace otterstone::trace
