// D18: what several runs of one thing say together.
#pragma once

#include <optional>
#include <span>

#include "core/quantity/measured.h"

namespace otterstone {

struct Repeats {
    std::size_t count = 0;
    Measured mean; ///< carries the common errors of its values, and the scatter, as its own source, with count − 1
                   ///< degrees of freedom
    double spread = 0.0; ///< s, the standard deviation of a single value
    /// Change from one to the next by a straight line, and how likely so steep a line is by chance (two-sided); from
    /// three values on.
    struct Drift {
        double perRun = 0.0;
        double chance = 1.0;
        [[nodiscard]] bool seen() const { return chance < 0.05; }
    };
    std::optional<Drift> drift;
};

/// At least one value. One alone has no scatter, so its doubt is its own. Source: JCGM 100:2008, 4.2 (type A) and G.3
/// (Student's t); the drift test is the t-test of a slope, any textbook of regression; checked against scipy.stats.
[[nodiscard]] Repeats repeats(std::span<const Measured> values, const ErrorSource& scatter);

} // namespace otterstone
