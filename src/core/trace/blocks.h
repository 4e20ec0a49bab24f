// A trace cut into stretches that are short enough to be told by their means: what it leaves open between its samples
// (C6) and below its last digit (C8), for any sum that weighs one part of it other than the rest.
#pragma once

#include <array>
#include <limits>
#include <vector>

#include "core/trace/sampling.h"
#include "core/trace/trace.h"

namespace otterstone::trace {

/// Sums of squared changes, each change times its step: (W·h)² or (A·h)². A change that stands alone, with quiet steps
/// around it, happened once; of the others those over one, two and four steps.
struct Changes {
    double firsts = 0.0; ///< over every step
    double alone = 0.0;  ///< of these, the ones that stand alone
    std::array<double, 3> over = {};
    double steps = 0.0, windows = 0.0; ///< how many steps there are, and how many that `over` counts
    Changes& operator+=(const Changes& o);
};

struct Block {
    double from = 0.0, to = 0.0; ///< s
    double hours = 0.0;          ///< without gaps
    double volts = 0.0, voltsSpread = 0.0, amps = 0.0,
           ampsSpread = 0.0; ///< means and standard deviations of the readings
    Changes power, current;
    double watts = 0.0, amperes = 0.0; ///< means over `seen` neighbouring samples
    std::size_t seen = 0;
};

/// At most 256 blocks of at least 16 samples, of a short trace of four. Of a long block a part is looked at, and its
/// sums are scaled.
[[nodiscard]] std::vector<Block> blocksOf(const Trace& trace, double gapSeconds);

/// How much each part of a trace weighs in a sum. An energy weighs all alike; a moment at which a share is in weighs
/// what comes before it other than what comes after.
struct Weighing {
    double before = 1.0, after = 1.0;
    double at = std::numeric_limits<double>::infinity(); ///< s
    [[nodiscard]] double of(const Block& b) const { return (b.from + b.to) / 2.0 <= at ? before : after; }
    [[nodiscard]] double of(double moment) const { return moment <= at ? before : after; }
};

/// Standard uncertainties, in Wh and Ah times the weights.
struct LeftOpen {
    double betweenWattHours = 0.0, betweenAmpHours = 0.0;
    double voltsDigitsWattHours = 0.0, ampsDigitsWattHours = 0.0, ampsDigitsAmpHours = 0.0;
};

/// C6: the variance of a step's trapezoid is k·(ΔP·Δt)². k lies between 1/12 (each change happened once, anywhere
/// within its step) and 1/2 (each sample is a draw of its own: pulses shorter than the step, or noise), and is told
/// from how the changes over one, two and four steps compare: twice the square over twice the time are lasting changes,
/// the same square is noise, four times is a slow trend, which trapezoids follow. Of changes that stand alone, and of
/// fewer than 24 steps, 1/12 is taken; readings held until the next have 1/3 (the change came anywhere, and is counted
/// late). Derivation and figures: docs/decisions. C8: readings that stand on one digit share its rounding (digits.h);
/// those on other digits have their own.
[[nodiscard]] LeftOpen leftOpen(const std::vector<Block>& blocks, double voltsStep, double ampsStep, Between between,
                                const Weighing& weighing = {});

/// The factor k of C6 for the changes that do not stand alone.
/// `longRun` is what the means of neighbouring blocks make of it, in the unit of
/// `over`: no rhythm of the load leaves more open.
[[nodiscard]] double shareOfChanges(const Changes& c, double longRun);

} // namespace otterstone::trace
