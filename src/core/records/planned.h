// What is still to be done for a bank, and what was published of it.
#pragma once

#include <string>

#include "core/records/bank.h"
#include "core/records/kind.h"

namespace otterstone::records {

/// A run that is still to be made: what would settle a claim, or what the tester wrote down.
struct PlannedRun {
    Id id = kNew;
    Id bank = kNew;
    Kind kind = Kind::Drain;
    std::string recipe; ///< key of one that ships; empty: by hand
    std::string claim;  ///< key of the claim it would settle; may be empty
    std::string words;
    bool done = false;
    bool operator==(const PlannedRun&) const = default;
};

/// A sheet that was published: what it said, and by what means, so that the next one can say what changed.
struct Publication {
    Id id = kNew;
    std::string scope; ///< the bank's name, or "comparison"
    std::string at;    ///< ISO 8601
    int method = 0;    ///< setup::kMethodVersion
    std::string json;  ///< figures and means (report/history.h)
    bool operator==(const Publication&) const = default;
};

} // namespace otterstone::records
