#include "core/plan/own_devices.h"

namespace otterstone::plan {

std::vector<Need> withOwnDevices(std::vector<Need> needs, const std::vector<records::Gear>& gear) {
    for (Need& n : needs) {
        for (const records::Gear& g : gear) {
            if (g.kind == records::GearKind::Device && g.name == n.name && g.efficiency)
                n.efficiency = g.efficiency;
        }
    }
    return needs;
}

} // namespace otterstone::plan
