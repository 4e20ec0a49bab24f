// A bank as the book holds it: its label, and what the tester weighed and measured.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "core/label/label.h"
#include "core/quantity/stated.h"
#include "core/records/past.h"

namespace otterstone::records {

using Id = long long;
inline constexpr Id kNew = 0;

/// Measured on a scale and with a rule, by the tester.
struct OnScale {
    std::optional<Stated> grams;
    std::optional<label::SizeMm> size; ///< good to half a millimetre each
    bool operator==(const OnScale&) const = default;
};

struct Bank {
    Id id = kNew;
    std::string name;
    label::Label label;
    OnScale scale; ///< what it really weighs and measures
    Past past;
    std::string notes;
    std::vector<std::string> tags = {}; ///< words by which it is grouped
    bool operator==(const Bank&) const = default;
};

} // namespace otterstone::records
