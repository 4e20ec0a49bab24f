#include "core/trace/plateau.h"

#include <algorithm>
#include <bit>
#include <cmath>
#include <cstdint>
#include <vector>

namespace otterstone::trace {

namespace {

// Bins follow the bits of the power as a double: the exponent and the first eight bits behind it, so a bin is at most
// 0.4 % wide wherever it lies, and one pass needs no scale.
constexpr int kMantissaBits = 8;
constexpr std::uint64_t kShift = 52 - kMantissaBits;
constexpr double kLeastWatts = 1e-6;
constexpr double kMostWatts = 1e6;
constexpr double kEnergyAbove = 0.25;
constexpr double kBand = 0.10;
constexpr double kMedianBand = 0.01; // smooths noise around the median
constexpr std::size_t kSamplesLookedAt = 60'000;

std::size_t binOf(double watts) {
    static const std::uint64_t kFirst = std::bit_cast<std::uint64_t>(kLeastWatts) >> kShift;
    const std::uint64_t bits = std::bit_cast<std::uint64_t>(std::clamp(watts, kLeastWatts, kMostWatts)) >> kShift;
    return static_cast<std::size_t>(bits - kFirst);
}

constexpr double kOnAmps = 0.020;
constexpr double kSmallLoad = 1.5; // times that: a load that hardly stands out

// What is read with nothing drawn: the median of the readings below half of the load; 0 where there are none.
double idleAmps(const Trace& trace, std::size_t stride, double load) {
    std::vector<double> idle;
    for (std::size_t k = 0; k < trace.size(); k += stride) {
        if (trace.amps[k] < load / 2.0)
            idle.push_back(trace.amps[k]);
    }
    if (idle.empty())
        return 0.0;
    const auto middle = idle.begin() + static_cast<std::ptrdiff_t>(idle.size() / 2);
    std::nth_element(idle.begin(), middle, idle.end());
    return std::max(0.0, *middle);
}

struct Bin {
    double time = 0.0;
    double wattSeconds = 0.0;
    double ampSeconds = 0.0;
    double voltSeconds = 0.0;
};

} // namespace

Plateau findPlateau(const Trace& trace, double gapSeconds) {
    Plateau p;
    const bool current = trace.hasCurrent();
    double total = 0.0;
    const std::size_t stride = std::max<std::size_t>(1, trace.size() / kSamplesLookedAt);
    std::vector<Bin> bins;
    double most = kLeastWatts;
    for (std::size_t k = 0; k < trace.size(); k += stride) {
        const double volts = current ? trace.volts[k] : 0.0;
        const double amps = current ? trace.amps[k] : 0.0;
        const double watts = trace.watts.empty() ? volts * amps : trace.watts[k];
        const double dt = k + 1 < trace.size() ? trace.time[k + 1] - trace.time[k] : 0.0;
        if (dt > gapSeconds || !(watts > kLeastWatts))
            continue;
        if (watts > most || bins.empty()) { // up to the largest power, and as far above it as a band around it reaches
            most = std::max(most, watts);
            bins.resize(binOf(most * (1.0 + 2.0 * kBand)) + 1);
        }
        Bin& bin = bins[binOf(watts)];
        bin.time += dt;
        bin.wattSeconds += watts * dt;
        bin.ampSeconds += amps * dt;
        bin.voltSeconds += volts * dt;
        total += watts * dt;
    }
    if (total <= 0.0)
        return p;
    double above = 0.0;
    std::size_t at = bins.size() - 1;
    while (at > 0 && above + bins[at].wattSeconds < kEnergyAbove * total)
        above += bins[at--].wattSeconds;
    const double reference = bins[at].wattSeconds / bins[at].time;
    const auto sumOver = [&](double watts, double band) {
        Bin sum;
        for (std::size_t k = binOf(watts * (1.0 - band)); k <= binOf(watts * (1.0 + band)); ++k) {
            sum.time += bins[k].time;
            sum.wattSeconds += bins[k].wattSeconds;
            sum.ampSeconds += bins[k].ampSeconds;
            sum.voltSeconds += bins[k].voltSeconds;
        }
        return sum;
    };
    // The median of the time near the reference, not its mean: the top of a taper would drag a mean down.
    const double half = sumOver(reference, kBand).time / 2.0;
    std::size_t middle = binOf(reference * (1.0 - kBand));
    for (double time = bins[middle].time; time < half; time += bins[middle].time)
        ++middle;
    const double median = bins[middle].wattSeconds / bins[middle].time;
    // A level between two digits is read as both: what is worth one and a half of them is one level.
    double band = kMedianBand;
    if (current && bins[middle].ampSeconds > 0.0) {
        const double amps = bins[middle].ampSeconds / bins[middle].time,
                     volts = bins[middle].voltSeconds / bins[middle].time;
        band = std::clamp(1.5 * std::hypot(trace.ampsStep / amps, trace.voltsStep / volts), kMedianBand, kBand);
    }
    const Bin level = sumOver(median, band);
    p.watts = level.wattSeconds / level.time;
    p.amps = level.ampSeconds / level.time;
    p.volts = level.voltSeconds / level.time;
    p.onAmps = std::max(kOnAmps, 0.02 * p.amps);
    if (current && p.amps < kSmallLoad * kOnAmps)
        p.onAmps = (idleAmps(trace, stride, p.amps) + p.amps) / 2.0;
    p.onWatts = 0.02 * p.watts;
    return p;
}

} // namespace otterstone::trace
