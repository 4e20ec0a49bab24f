// E1: a finding held against a claim, with a guard band as wide as the finding's own uncertainty.
#pragma once

#include <optional>
#include <string>
#include <string_view>

#include "core/quantity/measured.h"

namespace otterstone::judgement {

enum class Verdict { Meets, FallsShort, TooClose, NotTested };
/// "meets", "falls short", "too close to call", "not tested": fixed words, in files and for scripts.
[[nodiscard]] std::string verdictKey(Verdict v);
/// The same in the reader's language.
[[nodiscard]] std::string verdictWords(Verdict v);

/// What a claim lets a quantity be, in the quantity's own unit.
struct Limits {
    std::optional<double> low = {};  ///< it claims at least this
    std::optional<double> high = {}; ///< it claims at most this
    [[nodiscard]] bool holds(double value) const { return (!low || value >= *low) && (!high || value <= *high); }
    bool operator==(const Limits&) const = default;
};

struct Decision {
    Verdict verdict = Verdict::TooClose;
    double chance = 0.5;  ///< that the claim holds, by the finding's distribution
    double nearest = 0.0; ///< the limit that decided it
};

/// meets: value ± U lies wholly within the limits. falls short: wholly outside. Else too close to call. U is the
/// expanded uncertainty (k = 2, or t). Precondition: at least one limit. Source: JCGM 106:2012, 8.3.2 (guarded
/// acceptance with w = U) and 8.3.3 (guarded rejection); the chance is the conformance probability of 7.2 to 7.4 for a
/// normal distribution, or Student's t where repeats dominate. A finding without doubt decides sharply.
[[nodiscard]] Decision decide(const Measured& finding, const Limits& claim);

/// A chance as it is written everywhere: whole percent, "under 1 %" and "over 99 %" where rounding would make it a
/// certainty.
[[nodiscard]] std::string chanceWords(double chance);

/// What it would take to settle a finding that is too close to call.
struct Settling {
    std::optional<int> repeats; ///< runs in all; nothing: no number of them is enough
    bool another = false;       ///< one run that leaves less open by itself (between looks, samples, steps) can do it
    std::string words;
};

/// `spread` is the standard deviation of a single run, `count` the runs behind the finding. The common errors stay,
/// what is of each run alone and the scatter shrink by √n, and the t-factor by its degrees of freedom; at most 100 runs
/// are thought of. Source: JCGM 100:2008, 4.2.3 and G.3.
[[nodiscard]] Settling whatWouldSettle(const Measured& finding, const Limits& claim, std::optional<double> spread,
                                       std::size_t count);

} // namespace otterstone::judgement
