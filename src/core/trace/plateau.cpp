#include "core/trace/plateau.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <vector>

namespace otterstone::trace {

namespace {

constexpr std::size_t kBins = 4096;
constexpr double kEnergyAbove = 0.25;
constexpr double kBand = 0.10;

} // namespace

Plateau findPlateau(const Trace& trace, double gapSeconds) {
    Plateau p;
    const std::size_t n = trace.size();
    for (std::size_t k = 0; k < n; ++k)
        p.peakWatts = std::max(p.peakWatts, trace.power(k));
    if (p.peakWatts <= 0.0 || n < 2) {
        p.watts = p.peakWatts;
        return p;
    }
    std::vector<double> energy(kBins, 0.0);
    const double perWatt = static_cast<double>(kBins - 1) / p.peakWatts;
    double total = 0.0;
    for (std::size_t k = 0; k + 1 < n; ++k) {
        const double dt = trace.time[k + 1] - trace.time[k];
        const double w = trace.power(k);
        if (dt > gapSeconds || w <= 0.0)
            continue;
        energy[static_cast<std::size_t>(w * perWatt)] += w * dt;
        total += w * dt;
    }
    double above = 0.0;
    std::size_t bin = kBins - 1;
    while (bin > 0 && above + energy[bin] < kEnergyAbove * total)
        above += energy[bin--];
    const double reference = (static_cast<double>(bin) + 0.5) / perWatt;

    double time = 0.0;
    double wattSeconds = 0.0;
    double ampSeconds = 0.0;
    double voltSeconds = 0.0;
    const bool current = trace.hasCurrent();
    for (std::size_t k = 0; k + 1 < n; ++k) {
        const double dt = trace.time[k + 1] - trace.time[k];
        const double w = trace.power(k);
        if (dt > gapSeconds || std::fabs(w - reference) > kBand * reference + 1.0 / perWatt)
            continue;
        time += dt;
        wattSeconds += w * dt;
        if (current) {
            ampSeconds += trace.amps[k] * dt;
            voltSeconds += trace.volts[k] * dt;
        }
    }
    if (time > 0.0) {
        p.watts = wattSeconds / time;
        p.amps = ampSeconds / time;
        p.volts = voltSeconds / time;
    } else {
        p.watts = reference;
    }
    p.onAmps = std::max(0.020, 0.02 * p.amps);
    p.onWatts = 0.02 * p.watts;
    return p;
}

} // namespace otterstone::trace
