#include "book/records.h"

#include <array>

namespace otterstone::book {

namespace {
constexpr std::array<std::string_view, 4> kGearKeys = {"charger", "cable", "meter", "load"};
}

std::string gearKey(GearKind kind) { return std::string(kGearKeys[static_cast<std::size_t>(kind)]); }

std::optional<GearKind> gearFromKey(std::string_view key) {
    for (std::size_t k = 0; k < kGearKeys.size(); ++k) {
        if (kGearKeys[k] == key)
            return static_cast<GearKind>(k);
    }
    return std::nullopt;
}

} // namespace otterstone::book
