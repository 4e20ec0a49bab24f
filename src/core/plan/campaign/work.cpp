#include "core/plan/campaign/work.h"

#include <array>

namespace otterstone::plan::campaign {

namespace {

using records::GearKind;
using records::Kind;

constexpr State kHalfAtLeast{50.0, 100.0}; // a bank that is nearly empty says less than it promises
constexpr State kAnywhere{0.0, 100.0};     // nobody knows what is left
constexpr State kNotFull{0.0, 80.0};       // a bank that is nearly full takes less than it could
constexpr double kCools = 30.0;            // minutes
constexpr double kLooks = 30.0;            // minutes between two looks
constexpr double kRow = 5.0;               // minutes until a charger and a cable have settled

} // namespace

const Work& workOf(Kind kind) {
    using G = GearKind;
    // In the order of the enumeration.
    static const std::array<Work, records::kKinds.size()> kAll{
        {{Kind::Drain,
          State::full(),
          State::empty(),
          {G::Load, G::Meter, G::Cable},
          240.0,
          kCools,
          true,
          0.0,
          false,
          kLooks},
         {Kind::Recharge,
          State::empty(),
          State::full(),
          {G::Charger, G::Meter, G::Cable},
          180.0,
          kCools,
          true,
          0.0,
          false,
          kLooks},
         {Kind::Notebook,
          State::full(),
          State::empty(),
          {G::Device, G::Cable},
          480.0,
          kCools,
          true,
          0.0,
          false,
          kLooks},
         {Kind::Survey, kHalfAtLeast, {}, {G::Load, G::Meter, G::Trigger, G::Cable}, 30.0, 0.0, false, 0.6},
         {Kind::Staircase, State::full(), kAnywhere, {G::Load, G::Meter, G::Cable}, 60.0, kCools, false, 1.0, true},
         {Kind::Sharing, kHalfAtLeast, {}, {G::Load, G::Load, G::Meter, G::Cable, G::Cable}, 40.0, 0.0, false, 1.0},
         {Kind::PassThrough,
          kHalfAtLeast,
          {},
          {G::Load, G::Charger, G::Meter, G::Cable, G::Cable},
          45.0,
          0.0,
          false,
          0.5},
         {Kind::LightLoad, kHalfAtLeast, {}, {G::Load, G::Meter, G::Cable}, 60.0, 0.0, false, 0.05},
         {Kind::Matrix,
          kNotFull,
          kAnywhere,
          {G::Charger, G::Meter, G::Cable},
          60.0,
          0.0,
          false,
          0.0,
          false,
          kRow,
          "write it down, plug the next pair in"},
         {Kind::Directions, kHalfAtLeast, {}, {G::Device, G::Cable}, 15.0, 0.0, false, 0.3},
         {Kind::Cells, kHalfAtLeast, {}, {}, 15.0}}};
    return kAll[static_cast<std::size_t>(kind)];
}

} // namespace otterstone::plan::campaign
