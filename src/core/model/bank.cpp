#include "core/model/bank.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace otterstone::model {

namespace {

// Shapes typical of the chemistry at 25 °C, in steps of 10 %; from memory, only the shape matters here.
constexpr std::array<double, 11> kNmc = {3.00, 3.45, 3.56, 3.62, 3.66, 3.72, 3.80, 3.90, 3.99, 4.08, 4.20};
constexpr std::array<double, 11> kLfp = {2.60, 3.15, 3.22, 3.25, 3.28, 3.29, 3.30, 3.32, 3.33, 3.34, 3.45};

double interpolate(const double* table, std::size_t points, double x) {
    const double at = std::clamp(x, 0.0, 1.0) * static_cast<double>(points - 1);
    const auto below = std::min(static_cast<std::size_t>(at), points - 2);
    return table[below] + (table[below + 1] - table[below]) * (at - static_cast<double>(below));
}

} // namespace

double Cells::openCircuitVolts(double soc) const {
    const auto& table = chemistry == Chemistry::Nmc ? kNmc : kLfp;
    return series * (openCircuit.empty() ? interpolate(table.data(), table.size(), soc)
                                         : interpolate(openCircuit.data(), openCircuit.size(), soc));
}

double Gauge::says(double soc) const {
    const double visible = std::clamp((soc - hiddenShare) / (1.0 - hiddenShare), 0.0, 1.0);
    const double bulge = 4.0 * visible * (1.0 - visible); // 0 at both ends, 1 half way
    return std::clamp(100.0 * visible + errorPoints * bulge, 0.0, 100.0);
}

} // namespace otterstone::model
