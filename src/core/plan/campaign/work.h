// What a run of each kind asks of its bank, of gear and of hands, when nothing better is known. Common practice, no
// published source.
#pragma once

#include <vector>

#include "core/plan/campaign/problem.h"
#include "core/records/gear.h"
#include "core/records/kind.h"

namespace otterstone::plan::campaign {

struct Work {
    records::Kind kind = records::Kind::Drain;
    State begin;                          ///< what it wants its bank to be in
    std::optional<State> end;             ///< what it leaves it in; nothing: what it was in, less what it uses
    std::vector<records::GearKind> needs; ///< one piece each
    double minutes = 30.0;                ///< where neither its energy nor a recipe tells
    double rest = 0.0;                    ///< minutes for which its bank cools
    bool byEnergy = false;                ///< it takes as long as a bank is filled or emptied
    double output = 0.0;                  ///< of all that the bank gives at once, for as long as it lasts
    bool last = false;                    ///< it may break the bank: after all others
    double looksEvery = 0.0;              ///< minutes between two looks, where hands write it down; 0: they stay by it
    const char* looks = "look and write down"; ///< what they do then
};
[[nodiscard]] const Work& workOf(records::Kind kind);

} // namespace otterstone::plan::campaign
