// E2: banks ranked for a purpose, with the chance that each is the best, what each scale contributes, and how much
// hangs on the weights.
#pragma once

#include <cstdint>

#include "core/judgement/purpose.h"

namespace otterstone::judgement {

/// What one scale adds to a bank's score.
struct Contributed {
    std::string figure;
    double weight = 0.0;  ///< as a share of all weights
    double placed = 0.0;  ///< 0 … 1 between the anchors; 0.5 for an unknown figure
    bool unknown = false; ///< anywhere between the anchors, all places alike
    bool unlike = false;  ///< found under another condition than most of its row: weighed all the same, and marked
    [[nodiscard]] double points() const { return 100.0 * weight * placed; }
};

struct Ranked {
    std::size_t bank = 0;               ///< index into the comparison
    std::vector<std::string> stoppedBy; ///< gates it does not pass, with what it has
    std::vector<std::string> notKnown;  ///< gates of which nothing decides whether it passes: it stays in, marked
    Measured score;                     ///< 0 … 100
    std::vector<Contributed> parts;     ///< by scale of the purpose
    double chanceBest = 0.0;            ///< among those that pass the gates
    double leadsUnderWeights = 0.0;     ///< share of changed weightings under which its score is the highest
    [[nodiscard]] bool passes() const { return stoppedBy.empty(); }
    /// Share of all weights of which nothing is known.
    [[nodiscard]] double unknownWeight() const;
};

/// How far one weight may move, the others staying, before another bank leads.
struct Turning {
    std::string figure;
    std::optional<double> below,
        above; ///< factors on the weight, 0 … 1 and 1 … 10; nothing: no change as far as was looked
    std::string leaderBelow, leaderAbove;
};

struct Ranking {
    std::vector<Ranked> banks; ///< passing ones first, by score
    std::vector<Turning> turnings;
    std::string sentence; ///< "Menhir 27 is the best for a computer day with a chance of 97 %; …"
    [[nodiscard]] Working working(std::size_t place, const Comparison& comparison, const Purpose& purpose) const;
};

struct Draw {
    int trials = 20000;
    int weightings = 2000;
    std::uint64_t seed = 20260401;
};

/// Weighted sum of scales. The chance of being best: Monte Carlo over the figures' uncertainties. Errors of one
/// instrument (sources named "piece: what") are drawn once for all banks, so that two banks measured with one meter are
/// not told apart by its doubt; all other sources are drawn for each bank. Normal distributions, Student's t below 30
/// degrees of freedom (JCGM 101:2008, 6.4.9). Weightings: each weight times 2^u, u uniform in −1 … 1. Common practice,
/// no published source for the weighted sum; the chances are checked against an independent Monte Carlo with scipy.
[[nodiscard]] Ranking rank(const Comparison& comparison, const Purpose& purpose, const Draw& draw = {});

/// Does a cell pass the gate? Only what decides it stops a bank: a bound, a figure found elsewhere or one whose doubt
/// holds the limit do not. `why` says what it has.
enum class Passes { Yes, No, NotKnown };
[[nodiscard]] Passes passes(const Gate& gate, const Cell& cell, std::string& why);

} // namespace otterstone::judgement
