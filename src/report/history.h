// What a published sheet said and by what means, kept so that the next one tells what changed.
#pragma once

#include "report/material.h"

namespace otterstone::report {

/// All figures of the sheet, by names that stay: "Gentle, 1 A: energy out of the port"; and the means they rest on.
[[nodiscard]] Published whatIsSaid(const Material& material, const Content& content);
[[nodiscard]] std::string toJson(const Published& published);
/// Nothing when it was not written by toJson.
[[nodiscard]] std::optional<Published> fromJson(const std::string& json, const std::string& at, int method);

struct Change {
    std::string what, before, after; ///< "unknown" where it was not there
    bool operator==(const Change&) const = default;
};
struct Changes {
    std::vector<Change> means;   ///< what was corrected
    std::vector<Change> figures; ///< what reads differently since
};
[[nodiscard]] Changes changesBetween(const Published& before, const Published& now);

} // namespace otterstone::report
