#include "core/trace/counters.h"

#include <algorithm>
#include <cmath>
#include <vector>

namespace otterstone::trace {

namespace {
constexpr double kNothing = 0.05; // of what was counted before: a counter that begins anew
constexpr double kSteps = 1.5;    // usual moves: less than that is no reset, but a counter near its beginning

bool isNothing(double value, double before) { return std::fabs(value) < kNothing * std::fabs(before); }

// Whether it falls to next to nothing anywhere; only then its usual moves matter.
bool falls(const Readings& counter) {
    double before = 0.0;
    for (std::size_t k = 0; k < counter.size(); ++k) {
        const double value = counter[k];
        if (std::isnan(value))
            continue;
        if (isNothing(value, before))
            return true;
        before = value;
    }
    return false;
}

// A reset falls by far more than the counter ever moves from row to row.
double usualMove(const Readings& counter) {
    std::vector<double> moves;
    double before = std::nan("");
    for (std::size_t k = 0; k < counter.size(); ++k) {
        const double value = counter[k];
        if (!std::isnan(before) && !std::isnan(value) && value != before)
            moves.push_back(std::fabs(value - before));
        before = std::isnan(value) ? before : value;
    }
    const auto middle = moves.begin() + static_cast<std::ptrdiff_t>(moves.size() / 2);
    std::nth_element(moves.begin(), middle, moves.end());
    return moves.empty() ? 0.0 : *middle;
}

} // namespace

std::optional<double> counted(const Readings& counter) {
    const std::optional<double> usual = falls(counter) ? std::optional(usualMove(counter)) : std::nullopt;
    double sum = 0.0;
    double previous = 0.0;
    std::size_t seen = 0;
    for (std::size_t k = 0; k < counter.size(); ++k) {
        const double value = counter[k];
        if (std::isnan(value))
            continue;
        if (seen++ > 0)
            sum +=
                usual && isNothing(value, previous) && std::fabs(previous) > kSteps * *usual ? value : value - previous;
        previous = value;
    }
    return seen < 2 ? std::nullopt : std::optional(sum);
}

} // namespace otterstone::trace
