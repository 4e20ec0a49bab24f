// What tests ask of a finding.
#pragma once

#include <algorithm>
#include <cmath>

#include "core/kinds/traced/finding.h"

namespace otterstone::testing {

inline bool about(double a, double b, double relative) { return std::fabs(a - b) <= relative * std::fabs(b); }

inline bool warns(const kinds::Finding& f, const char* code) {
    return std::any_of(f.warnings.begin(), f.warnings.end(), [&](const Warning& w) { return w.code == code; });
}

/// The figure at a point of the path; nothing when it is unknown there.
inline const kinds::PointFigure* at(const kinds::Finding& f, path::Point p) {
    for (const auto& x : f.points) {
        if (x.point == p)
            return &x;
    }
    return nullptr;
}

} // namespace otterstone::testing
