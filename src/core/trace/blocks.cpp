#include "core/trace/blocks.h"

#include <algorithm>
#include <cmath>
#include <map>

#include "core/quantity/halves.h"
#include "core/quantity/wide.h"
#include "core/trace/digits.h"
#include "core/trace/gaps.h"

namespace otterstone::trace {

namespace {

constexpr std::size_t kMostBlocks = 256;
constexpr std::size_t kLeastSamples = 16, kLeastOfShort = 4, kShort = 128;
constexpr std::size_t kLookedAt = 128;                     // neighbouring samples of a block, for its changes
constexpr std::size_t kSpread = 64;                        // samples of it from end to end, for its means
constexpr std::size_t kManySamples = std::size_t(1) << 18; // from which on a second core helps
constexpr std::size_t kBlocksForRhythm = 8;
constexpr double kLeastSteps = 24.0; // from which on the kind of changes can be told
constexpr double kQuiet = 0.2;       // of a change: steps around it that change by less leave it alone
constexpr std::size_t kAround = 3;
constexpr double kChance = 3.0; // ÷ √steps: what chance makes of the ratio of two sums of squares
constexpr double kOnce = 1.0 / 12.0, kLate = 1.0 / 3.0, kEach = 0.5;

// `change` has kAround noughts on either side. The largest neighbour decides: without a branch the compiler does
// several at once.
OTTERSTONE_WIDE void markAlone(const double* values, std::size_t count, double* change, char* alone) {
    for (std::size_t k = 0; k < count; ++k)
        change[k] = std::fabs(values[k + 1] - values[k]);
    const auto larger = [](double a, double b) { return a > b ? a : b; };
    for (std::size_t k = 0; k < count; ++k) {
        const double* const c = change + k;
        const double around = larger(larger(larger(c[-3], c[-2]), c[-1]), larger(larger(c[1], c[2]), c[3]));
        alone[k] = static_cast<char>(c[0] > 0.0 && around < kQuiet * c[0]);
    }
}
static_assert(kAround == 3);

// Some neighbouring samples, with the few around them that tell whether a change stands alone: their steps once, and
// one series of readings after the other; for one block after the other.
class BlockSteps {
public:
    void takeSteps(const Trace& t, std::size_t first, std::size_t last, double gapSeconds) {
        first_ = first;
        from_ = first > kAround ? first - kAround : 0;
        end_ = std::min(last + kAround + 2, t.size());
        steps_.resize(std::min(last, t.size() - 1) - first); // after the last sample of all there is none
        for (std::size_t k = first; k < first + steps_.size(); ++k) {
            const double step = t.time[k + 1] - t.time[k];
            Step& s = steps_[k - first];
            s.gap = step > gapSeconds;
            // A jump at one moment ends the held step before it.
            s.hours = (step > 0.0 || k == 0 ? step : t.time[k] - t.time[k - 1]) / 3600.0;
            s.fourFollow = k + 4 < t.size() && t.time[k + 4] - t.time[k] <= 4.0 * gapSeconds;
        }
    }
    void takePower(const Trace& t) {
        if (!t.watts.empty()) {
            values_.assign(t.watts.begin() + static_cast<std::ptrdiff_t>(from_),
                           t.watts.begin() + static_cast<std::ptrdiff_t>(end_));
        } else {
            volts_.resize(end_ - from_);
            t.volts.decode(from_, volts_.size(), volts_.data());
            decode(t.amps);
            for (std::size_t k = 0; k < values_.size(); ++k)
                values_[k] *= volts_[k];
        }
        findAlone();
    }
    void takeCurrent(const Trace& t) {
        decode(t.amps);
        findAlone();
    }
    [[nodiscard]] double at(std::size_t k) const { return values_[k - from_]; }

    // The changes of the series, each times its step in hours; looks ahead over the end where samples are there.
    [[nodiscard]] Changes changes() const {
        Changes c;
        for (std::size_t j = 0; j < steps_.size(); ++j) {
            const Step& step = steps_[j];
            if (step.gap)
                continue;
            const std::size_t k = first_ - from_ + j;
            const auto squared = [&](std::size_t m) {
                const double change = (values_[k + m] - values_[k]) * step.hours;
                return change * change;
            };
            const double once = squared(1);
            c.firsts += once;
            c.steps += 1.0;
            if (alone_[k]) {
                c.alone += once;
            } else if (step.fourFollow && !alone_[k + 1] && !alone_[k + 2] && !alone_[k + 3]) {
                c.over[0] += once;
                c.over[1] += squared(2);
                c.over[2] += squared(4);
                c.windows += 1.0;
            }
        }
        return c;
    }

private:
    struct Step {
        double hours;
        bool gap, fourFollow;
    };
    void decode(const Readings& readings) {
        values_.resize(end_ - from_);
        readings.decode(from_, values_.size(), values_.data());
    }
    // Which changes have quiet steps around them. Where there is no neighbour stands none: it is quiet.
    void findAlone() {
        const std::size_t count = values_.size() - 1;
        change_.assign(count + 2 * kAround, 0.0);
        alone_.resize(count);
        markAlone(values_.data(), count, change_.data() + kAround, alone_.data());
    }

    std::size_t first_ = 0, from_ = 0, end_ = 0;
    std::vector<Step> steps_;
    std::vector<double> values_, volts_, change_;
    std::vector<char> alone_;
};

Changes scaled(Changes c, double factor) {
    for (double* v : {&c.firsts, &c.alone, &c.over[0], &c.over[1], &c.over[2], &c.steps, &c.windows})
        *v *= factor;
    return c;
}

struct Mean {
    double sum = 0.0, squares = 0.0, n = 0.0, origin = 0.0;
    void add(double v) {
        if (n == 0.0)
            origin = v; // squares of small differences, not of large readings
        sum += v - origin;
        squares += (v - origin) * (v - origin);
        n += 1.0;
    }
    [[nodiscard]] double mean() const { return n > 0.0 ? origin + sum / n : 0.0; }
    [[nodiscard]] double spread() const {
        return n > 1.0 ? std::sqrt(std::max(0.0, squares / n - sum / n * (sum / n))) : 0.0;
    }
};

// Samples [first, last) with the step to the next block. `steps`: what it works with, one for block after block.
Block blockOf(const Trace& t, std::size_t first, std::size_t last, double gapSeconds, BlockSteps& steps) {
    const std::size_t end = std::min(last, t.size() - 1);
    Block block;
    block.from = t.time[first];
    block.to = t.time[end];
    block.seen = std::min(last - first, kLookedAt);
    const double scale = static_cast<double>(last - first) / static_cast<double>(block.seen);
    const auto look = [&](Changes& changes, double& mean) {
        changes = scaled(steps.changes(), scale);
        for (std::size_t k = first; k < first + block.seen; ++k)
            mean += steps.at(k) / static_cast<double>(block.seen);
    };
    steps.takeSteps(t, first, first + block.seen, gapSeconds);
    steps.takePower(t);
    look(block.power, block.watts);
    if (t.hasCurrent()) {
        steps.takeCurrent(t);
        look(block.current, block.amperes);
        Mean volts, amps;
        const std::size_t stride = std::max<std::size_t>(1, (last - first) / kSpread);
        for (std::size_t k = first; k < last; k += stride) {
            volts.add(t.volts[k]);
            amps.add(t.amps[k]);
        }
        block.volts = volts.mean();
        block.voltsSpread = volts.spread();
        block.amps = amps.mean();
        block.ampsSpread = amps.spread();
    }
    block.hours = (block.to - block.from - secondsOfGaps(t.time.data() + first, end - first + 1, gapSeconds)) / 3600.0;
    return block;
}

// coth(x/2) − 2/x: what a step of x correlation times leaves open, in the variance of one sample.
double openShare(double x) { return x < 1e-3 ? x / 6.0 : 1.0 / std::tanh(x / 2.0) - 2.0 / x; }

// Variance left open by a step, in the unit of c.over, if the power forgets its past within some steps and nothing else
// is there.
double asForgetting(double once, double twice) {
    const double kept = std::clamp(twice / once - 1.0, 1e-6, 1.0 - 1e-9);
    return once / (1.0 - kept) / 2.0 * openShare(-std::log(kept));
}

} // namespace

Changes& Changes::operator+=(const Changes& o) {
    firsts += o.firsts;
    alone += o.alone;
    for (std::size_t k = 0; k < over.size(); ++k)
        over[k] += o.over[k];
    steps += o.steps;
    windows += o.windows;
    return *this;
}

std::vector<Block> blocksOf(const Trace& t, double gapSeconds) {
    const std::size_t n = t.size();
    if (n < 2)
        return {};
    std::vector<Block> blocks(
        std::clamp<std::size_t>(n / (n < kShort ? kLeastOfShort : kLeastSamples), 1, kMostBlocks));
    const std::size_t worth = n < kManySamples ? blocks.size() + 1 : 1;
    inHalves(blocks.size(), worth, [&](std::size_t, std::size_t from, std::size_t to) {
        BlockSteps steps;
        for (std::size_t b = from; b < to; ++b)
            blocks[b] = blockOf(t, n * b / blocks.size(), n * (b + 1) / blocks.size(), gapSeconds, steps);
    });
    return blocks;
}

double shareOfChanges(const Changes& c, double longRun) {
    const auto [once, twice, four] = c.over;
    if (c.steps < kLeastSteps || !(once > 0.0))
        return kOnce;
    double open = once / 2.0; // noise: each sample a draw of its own
    if (twice > once) {
        const double growth = (four - twice) / (twice - once);
        if (growth >= 2.0) {
            // once = noise + jumps + trend, and over twice the time noise, twice the jumps, four times the trend.
            const double trend = std::max(0.0, (four - 3.0 * twice + 2.0 * once) / 6.0);
            const double jumps = std::clamp(twice - once - 3.0 * trend, 0.0, once);
            open = std::max(0.0, once - jumps - trend) / 2.0 + jumps * kOnce;
        } else {
            // once = noise + level·(1 − kept), and so on with kept² and kept⁴.
            const double kept =
                std::clamp((std::sqrt(1.0 + 4.0 * std::max(0.0, growth)) - 1.0) / 2.0, 1e-6, 1.0 - 1e-9);
            const double changing = std::min(once, (twice - once) / kept);
            const double mixed = (once - changing) / 2.0 + changing / (1.0 - kept) / 2.0 * openShare(-std::log(kept));
            // Noise shows in that the power remembers longer than one that simply forgets; from few changes that cannot
            // be told.
            const double forgotten = asForgetting(once, twice), remembered = twice / once - 1.0;
            const double longer = std::max(0.0, four / twice - 1.0 - remembered * remembered),
                         chance = kChance / std::sqrt(c.steps);
            open = forgotten + (mixed - forgotten) * longer * longer / (longer * longer + chance * chance);
        }
    }
    return std::clamp(std::min(open, std::max(longRun, once * kOnce)) / once, 0.0, kEach);
}

namespace {

// The variance that sums of the samples show over many steps, in the unit of `changes.over`: less than single draws
// would where the load has a rhythm.
double longRun(const std::vector<Block>& blocks, const Changes& changes, double Block::*mean) {
    double squares = 0.0, pairs = 0.0, hours = 0.0;
    for (std::size_t b = 0; b < blocks.size(); ++b) {
        hours += blocks[b].hours;
        if (b == 0)
            continue;
        const double difference = blocks[b].*mean - blocks[b - 1].*mean;
        squares += difference * difference * static_cast<double>(blocks[b].seen) / 2.0;
        pairs += 1.0;
    }
    if (pairs < static_cast<double>(kBlocksForRhythm))
        return std::numeric_limits<double>::infinity();
    const double step = changes.steps > 0.0 ? hours / changes.steps : 0.0;
    return squares / pairs * step * step * changes.windows;
}

} // namespace

LeftOpen leftOpen(const std::vector<Block>& blocks, double voltsStep, double ampsStep, Between between,
                  const Weighing& weighing) {
    Changes power, current;
    for (const Block& b : blocks) {
        power += b.power;
        current += b.current;
    }
    const double once = between == Between::Held ? kLate : kOnce;
    const double ofPower =
        between == Between::Held ? kLate : shareOfChanges(power, longRun(blocks, power, &Block::watts));
    const double ofCurrent =
        between == Between::Held ? kLate : shareOfChanges(current, longRun(blocks, current, &Block::amperes));
    LeftOpen open;
    std::map<long long, double> voltsOn, ampsOn,
        ampsOnAlone; // by the digit that is read: what stands on it carries one error
    for (const Block& b : blocks) {
        const double w = weighing.of(b);
        open.betweenWattHours += w * w * (once * b.power.alone + ofPower * (b.power.firsts - b.power.alone));
        open.betweenAmpHours += w * w * (once * b.current.alone + ofCurrent * (b.current.firsts - b.current.alone));
        if (voltsStep > 0.0)
            voltsOn[std::llround(b.volts / voltsStep)] +=
                w * b.amps * b.hours * standingRounding(voltsStep, b.voltsSpread);
        if (ampsStep > 0.0) {
            const double u = standingRounding(ampsStep, b.ampsSpread);
            ampsOn[std::llround(b.amps / ampsStep)] += w * b.volts * b.hours * u;
            ampsOnAlone[std::llround(b.amps / ampsStep)] += w * b.hours * u;
        }
    }
    const auto combined = [](const std::map<long long, double>& on) {
        double squares = 0.0;
        for (const auto& [digit, u] : on)
            squares += u * u;
        return std::sqrt(squares);
    };
    open.betweenWattHours = std::sqrt(open.betweenWattHours);
    open.betweenAmpHours = std::sqrt(open.betweenAmpHours);
    open.voltsDigitsWattHours = combined(voltsOn);
    open.ampsDigitsWattHours = combined(ampsOn);
    open.ampsDigitsAmpHours = combined(ampsOnAlone);
    return open;
}

} // namespace otterstone::trace
