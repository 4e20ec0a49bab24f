#include "core/judgement/chances.h"

#include <algorithm>
#include <array>
#include <atomic>
#include <cmath>
#include <future>
#include <map>
#include <random>
#include <thread>

#include <boost/random/mersenne_twister.hpp>
#include <boost/random/normal_distribution.hpp>
#include <boost/random/uniform_01.hpp>

#include "core/quantity/wide.h"

namespace otterstone::judgement {

namespace {

constexpr int kParts = 16;               // of the trials
constexpr std::size_t kAtOnce = 32;      // trials side by side: each step of a sum is made for all of them
constexpr double kAsGoodAsNormal = 30.0; // degrees of freedom

using Random = boost::random::mt19937_64;

using Trials = std::array<double, kAtOnce>;

// A figure of a bank with its sources as indices into the draws.
struct Drawn {
    bool known = false;
    double value = 0.0;
    std::vector<std::pair<std::size_t, double>> parts;
    std::size_t unknown = 0; ///< its place among those that are not known, and lie anywhere
};

// Student's t by the polar method of R. W. Bailey, Mathematics of Computation 62 (1994) 779 (quoted from memory,
// checked against scipy): one power a draw, where Boost's takes a tangent, a logarithm and an exponential several
// times.
double studentT(Random& random, double dof) {
    boost::random::uniform_01<double> anywhere;
    for (;;) {
        const double u = 2.0 * anywhere(random) - 1.0, v = 2.0 * anywhere(random) - 1.0, w = u * u + v * v;
        if (w > 0.0 && w < 1.0)
            return u * std::sqrt(dof * (std::pow(w, -2.0 / dof) - 1.0) / w);
    }
}

// Draws each source once a trial, for all that share it.
class Sources {
public:
    std::size_t index(const std::string& bank, const Contribution& c) {
        const auto [at, fresh] =
            index_.emplace(std::pair(c.source->sharedBetweenBanks() ? std::string() : bank, *c.source), dof_.size());
        if (fresh)
            dof_.push_back(c.dof);
        return at->second;
    }
    [[nodiscard]] std::size_t size() const { return dof_.size(); }
    /// All of them, for the first trials side by side.
    void draw(Random& random, std::vector<Trials>& into, std::size_t trials) const {
        boost::random::normal_distribution<double> normal;
        for (std::size_t k = 0; k < dof_.size(); ++k) {
            const bool few = dof_[k] < kAsGoodAsNormal;
            std::generate_n(into[k].begin(), trials,
                            [&] { return few ? studentT(random, std::max(1.0, dof_[k])) : normal(random); });
        }
    }

private:
    std::map<std::pair<std::string, ErrorSource>, std::size_t> index_;
    std::vector<double> dof_;
};

struct Field {
    std::vector<std::vector<Drawn>> figures; ///< by bank and scale
    Sources sources;
    std::size_t unknown = 0; ///< figures that are not known
};

Field fieldOf(const Comparison& c, const Purpose& p) {
    Field f;
    for (std::size_t b = 0; b < c.banks.size(); ++b) {
        std::vector<Drawn> mine;
        for (const Scale& s : p.scales) {
            Drawn d;
            if (const FigureRow* row = c.row(s.figure); row && row->cells[b].known() && !row->cells[b].value->isText) {
                const Measured& m = row->cells[b].value->value;
                d.known = true;
                d.value = m.value();
                for (const Contribution& part : m.contributions())
                    d.parts.emplace_back(f.sources.index(c.banks[b], part), part.u);
            } else {
                d.unknown = f.unknown++;
            }
            mine.push_back(std::move(d));
        }
        f.figures.push_back(std::move(mine));
    }
    return f;
}

// What a bank's figure adds to its score in each of the trials.
OTTERSTONE_WIDE void addScores(const Drawn& d, const Scale& scale, double share, const std::vector<Trials>& z,
                               Trials& score) {
    Trials value;
    value.fill(d.value);
    for (const auto& [source, u] : d.parts) {
        const Trials& drawn = z[source];
        for (std::size_t trial = 0; trial < kAtOnce; ++trial)
            value[trial] += u * drawn[trial];
    }
    for (std::size_t trial = 0; trial < kAtOnce; ++trial)
        score[trial] += share * placed(scale, value[trial]);
}

// Of one part of the trials.
struct Counted {
    std::vector<int> best;
    std::vector<double> sum, squares;
};

Counted countedOf(const Field& field, const Purpose& p, const std::vector<double>& shares,
                  const std::vector<bool>& mayLead, int trials, std::uint64_t seed) {
    const std::size_t banks = field.figures.size();
    Counted all{std::vector<int>(banks), std::vector<double>(banks), std::vector<double>(banks)};
    Random random(seed);
    boost::random::uniform_01<double> anywhere;
    std::vector<Trials> z(field.sources.size()), unknown(field.unknown), scores(banks);
    for (int done = 0; done < trials; done += static_cast<int>(kAtOnce)) {
        const auto now = std::min(kAtOnce, static_cast<std::size_t>(trials - done));
        field.sources.draw(random, z, now);
        for (Trials& figure : unknown)
            std::generate_n(figure.begin(), now, [&] { return anywhere(random); });
        for (std::size_t b = 0; b < banks; ++b) {
            Trials& score = scores[b];
            score.fill(0.0);
            for (std::size_t k = 0; k < shares.size(); ++k) {
                const Drawn& d = field.figures[b][k];
                if (d.known) {
                    addScores(d, p.scales[k], shares[k], z, score);
                    continue;
                }
                for (std::size_t trial = 0; trial < kAtOnce; ++trial)
                    score[trial] += shares[k] * unknown[d.unknown][trial];
            }
            for (std::size_t trial = 0; trial < now; ++trial) {
                all.sum[b] += score[trial];
                all.squares[b] += score[trial] * score[trial];
            }
        }
        for (std::size_t trial = 0; trial < now; ++trial) {
            std::size_t best = banks;
            double most = -1.0;
            for (std::size_t b = 0; b < banks; ++b) {
                if (mayLead[b] && scores[b][trial] > most) {
                    most = scores[b][trial];
                    best = b;
                }
            }
            if (best < banks)
                ++all.best[best];
        }
    }
    return all;
}

} // namespace

std::vector<Chance> chancesOf(const Comparison& c, const Purpose& p, const std::vector<double>& shares,
                              const std::vector<bool>& mayLead, const Draw& draw) {
    const Field field = fieldOf(c, p);
    std::vector<Counted> parts(kParts);
    std::vector<std::uint64_t> seeds(std::size_t(2) * kParts);
    std::seed_seq{draw.seed & 0xffffffffU, draw.seed >> 32}.generate(seeds.begin(), seeds.end());
    std::atomic<int> next{0};
    const auto work = [&] {
        for (int part = next++; part < kParts; part = next++) {
            const auto at = static_cast<std::size_t>(part);
            const int trials = draw.trials * (part + 1) / kParts - draw.trials * part / kParts;
            parts[at] = countedOf(field, p, shares, mayLead, trials, seeds[2 * at] << 32 | seeds[2 * at + 1]);
        }
    };
    std::vector<std::future<void>> others;
    for (unsigned k = 1; k < std::min<unsigned>(std::thread::hardware_concurrency(), kParts); ++k)
        others.push_back(std::async(std::launch::async, work));
    work();
    for (auto& other : others)
        other.get();
    std::vector<Chance> all(c.banks.size());
    for (std::size_t b = 0; b < all.size(); ++b) {
        double sum = 0.0, squares = 0.0;
        int best = 0;
        for (const Counted& part : parts) {
            sum += part.sum[b];
            squares += part.squares[b];
            best += part.best[b];
        }
        const double mean = sum / draw.trials;
        all[b] = {static_cast<double>(best) / draw.trials,
                  std::sqrt(std::max(0.0, squares / draw.trials - mean * mean))};
    }
    return all;
}

} // namespace otterstone::judgement
