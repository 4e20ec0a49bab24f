#include "bench/profiles/role.h"

#include <algorithm>

namespace otterstone::bench {

std::span<const RoleRow> roles() {
    static constexpr RoleRow kAll[] = {{role::meter, Kind::Meter},           {role::inputMeter, Kind::Meter},
                                       {role::wallMeter, Kind::Meter},       {role::load, Kind::Load},
                                       {role::secondLoad, Kind::Load},       {role::trigger, Kind::Trigger},
                                       {role::secondTrigger, Kind::Trigger}, {role::thermometer, Kind::Thermometer}};
    return kAll;
}

const std::vector<std::string>& roleKeys() {
    static const std::vector<std::string> kKeys = [] {
        std::vector<std::string> all;
        for (const RoleRow& r : roles())
            all.emplace_back(r.key);
        return all;
    }();
    return kKeys;
}

const RoleRow* roleNamed(const std::string& key) {
    const auto all = roles();
    const auto at = std::find_if(all.begin(), all.end(), [&](const RoleRow& r) { return key == r.key; });
    return at == all.end() ? nullptr : &*at;
}

} // namespace otterstone::bench
