#include "core/model/bank.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <span>

namespace otterstone::model {

namespace {

// Shapes typical of the chemistry at 25 °C, in steps of 10 %; from memory, only the shape matters here.
constexpr std::array<double, 11> kNmc = {3.00, 3.45, 3.56, 3.62, 3.66, 3.72, 3.80, 3.90, 3.99, 4.08, 4.20};
constexpr std::array<double, 11> kLfp = {2.60, 3.15, 3.22, 3.25, 3.28, 3.29, 3.30, 3.32, 3.33, 3.34, 3.45};

std::span<const double> tableOf(const Cells& cells) {
    if (!cells.openCircuit.empty())
        return cells.openCircuit;
    return cells.chemistry == Chemistry::Nmc ? std::span<const double>(kNmc) : std::span<const double>(kLfp);
}

struct Place {
    std::size_t below;
    double beyond; ///< 0 … 1 towards the next point
};

Place placeIn(std::span<const double> table, double x) {
    const double at = std::clamp(x, 0.0, 1.0) * static_cast<double>(table.size() - 1);
    const auto below = std::min(static_cast<std::size_t>(at), table.size() - 2);
    return {below, at - static_cast<double>(below)};
}

} // namespace

Cells Cells::of(const Cells& cell, int series, int parallel) {
    Cells pack = cell;
    const double ratio = static_cast<double>(series) / parallel;
    pack.series = series;
    pack.ampHours = cell.ampHours * parallel;
    pack.ohms = cell.ohms * ratio;
    pack.slowOhms = cell.slowOhms * ratio;
    return pack;
}

double Cells::openCircuitVolts(double soc) const {
    const auto table = tableOf(*this);
    const auto [k, beyond] = placeIn(table, soc);
    return series * (table[k] + (table[k + 1] - table[k]) * beyond);
}

double Cells::storedWattHours(double soc) const {
    const auto table = tableOf(*this);
    const auto [below, beyond] = placeIn(table, soc);
    double volts = 0.0; // in table steps
    for (std::size_t k = 0; k < below; ++k)
        volts += (table[k] + table[k + 1]) / 2.0;
    volts += beyond * (table[below] + (table[below + 1] - table[below]) * beyond / 2.0);
    double share = volts / static_cast<double>(table.size() - 1);
    // Beyond the table the volts stay as they are at its end.
    share += table.front() * std::min(0.0, soc) + table.back() * std::max(0.0, soc - 1.0);
    return share * series * ampHours;
}

double Converter::inputFor(double watts, double volts) const {
    // w − idle − perAmp·w/V − ohms·(w/V)² = watts, the smaller root.
    const double need = watts + idle;
    const double linear = 1.0 - perAmp / volts;
    const double square = ohms / (volts * volts);
    if (square <= 0.0)
        return need / linear;
    const double root = linear * linear - 4.0 * square * need;
    return root <= 0.0 ? linear / (2.0 * square) : (linear - std::sqrt(root)) / (2.0 * square);
}

double Gauge::says(double soc) const {
    const double visible = std::clamp((soc - hiddenShare) / (1.0 - hiddenShare), 0.0, 1.0);
    const double bulge = 4.0 * visible * (1.0 - visible); // 0 at both ends, 1 half way
    return std::clamp(100.0 * visible + errorPoints * bulge, 0.0, 100.0);
}

int Gauge::lit(double percent) const {
    return std::clamp(static_cast<int>(std::ceil(percent / 100.0 * leds)), 0, leds);
}

} // namespace otterstone::model
