// B5: volts, amps and watts written down that do not multiply, and the slips of the pen that would explain it.
#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "core/quantity/problem.h"

namespace otterstone::path {

enum class Written { Volts, Amps, Watts };

struct Slip {
    Written which = Written::Watts;
    std::string instead; ///< "2.28"
    double off = 0.0;    ///< how far V·A is from W with it, as a fraction of W
};

struct WattsCheck {
    double product = 0.0; ///< V·A
    double off = 0.0;     ///< product ÷ W − 1
    bool agrees = true;   ///< within 3 %
    std::vector<Slip>
        slips; ///< at most three, the likeliest first: one digit misread, two swapped, or the point misplaced
    std::string sentence; ///< "19.3 V × 3.28 A is 63.3 W, not 44. 2.28 A would make 44.0 W."; empty when it agrees
};

/// The three figures as they were written. A problem when one is not a number above 0. Common practice, no published
/// source.
[[nodiscard]] Result<WattsCheck> checkWatts(std::string_view volts, std::string_view amps, std::string_view watts);

} // namespace otterstone::path
