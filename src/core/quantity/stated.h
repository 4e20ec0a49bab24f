// A figure as a person states it in a field: a value and, if known, its ± (k = 2).
#pragma once

#include <optional>
#include <string>

#include "core/quantity/measured.h"

namespace otterstone {

struct Stated {
    double value = 0.0;
    std::optional<double> expanded; ///< k = 2; nothing: not stated

    Stated() = default;
    Stated(double v, std::optional<double> e = std::nullopt)
        : value(v), expanded(e) {} // NOLINT: a bare number is a statement too
    /// What parseMeasured understood.
    [[nodiscard]] static Stated of(const Measured& m) {
        return {m.value(), m.hasDoubt() ? std::optional(2.0 * m.u()) : std::nullopt};
    }
    /// `source` names the doubt.
    [[nodiscard]] Measured measured(const ErrorSource& source) const {
        return expanded ? Measured(value, *expanded / 2.0, source) : Measured(value);
    }
    bool operator==(const Stated&) const = default;
};

} // namespace otterstone
