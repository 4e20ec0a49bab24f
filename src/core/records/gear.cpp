#include "core/records/gear.h"

#include <array>

namespace otterstone::records {

namespace {

constexpr std::array<std::pair<GearKind, std::string_view>, 7> kGear = {{{GearKind::Charger, "charger"},
                                                                         {GearKind::Cable, "cable"},
                                                                         {GearKind::Meter, "meter"},
                                                                         {GearKind::Load, "load"},
                                                                         {GearKind::Trigger, "trigger"},
                                                                         {GearKind::Thermometer, "thermometer"},
                                                                         {GearKind::Device, "device"}}};

} // namespace

std::string gearKey(GearKind kind) { return std::string(kGear[static_cast<std::size_t>(kind)].second); }

std::optional<GearKind> gearFromKey(std::string_view key) {
    for (const auto& [kind, name] : kGear) {
        if (name == key)
            return kind;
    }
    return std::nullopt;
}

const std::vector<GearKind>& gearKinds() {
    static const std::vector<GearKind> kAll = [] {
        std::vector<GearKind> all;
        all.reserve(std::size(kGear));
        for (const auto& [kind, name] : kGear)
            all.push_back(kind);
        return all;
    }();
    return kAll;
}

} // namespace otterstone::records
