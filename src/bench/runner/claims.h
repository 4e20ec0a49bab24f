// What a run has to itself while it goes: its bank, the pieces of gear on its path, the places where its instruments
// are connected. A second run that wants one of them is told which.
#pragma once

#include <optional>
#include <set>
#include <string>

#include "bench/runner/plan.h"

namespace otterstone::bench {

struct Claim {
    records::Id bank = records::kNew;
    std::set<records::Id> gear;
    std::map<std::string, Role> places; ///< where, in one spelling, and the role of what is there
};

/// Of a rehearsal: nothing, its bench is simulated.
[[nodiscard]] Claim claimOf(const Plan& plan);

/// One spelling for a place, however it was typed: links are followed, "localhost" is 127.0.0.1, a port that is not
/// named is the profile's.
[[nodiscard]] std::string placeOf(const Instrument& instrument);

/// What both want.
struct Clash {
    enum class What { Bank, Gear, Place } what = What::Bank;
    records::Id gear = records::kNew;
    Role role; ///< of the asking run, for a place
    std::string place;
};
[[nodiscard]] std::optional<Clash> clashOf(const Claim& asking, const Claim& holding);

} // namespace otterstone::bench
