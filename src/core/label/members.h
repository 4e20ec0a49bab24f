// Every member of what is printed on a bank, once, with its name in files: what books, bundles and options go through.
#pragma once

#include <concepts>
#include <type_traits>

#include "core/label/label.h"

namespace otterstone::label {

/// Calls visit(name in files, member) for all of a label but its ports. A member that is added to Label does not
/// compile until it stands here.
template<class L, class Visit>
requires std::same_as<std::remove_const_t<L>, Label>
void eachMember(L& printed, Visit&& visit) {
    auto& [capacity, cellVolts, energy, outputCapacity, outputVolts, alsoPrinted, ports, shared, totalWatts, totalAmps,
           weightGrams, size, rechargeTime, inputWatts, price, currency, warrantyMonths, passThrough, lowCurrent,
           charges] = printed;
    visit("capacity_ah", capacity);
    visit("cell_volts", cellVolts);
    visit("energy_wh", energy);
    visit("output_capacity_ah", outputCapacity);
    visit("output_volts", outputVolts);
    visit("also_printed", alsoPrinted);
    visit("shared", shared);
    visit("total_watts", totalWatts);
    visit("total_amps", totalAmps);
    visit("weight_g", weightGrams);
    visit("size_mm", size);
    visit("recharge_h", rechargeTime);
    visit("input_watts", inputWatts);
    visit("price", price);
    visit("currency", currency);
    visit("warranty_months", warrantyMonths);
    visit("claims_pass_through", passThrough);
    visit("claims_low_current", lowCurrent);
    visit("charges", charges);
}

/// The same for a port, but its name, way and the tiers that it gives.
template<class P, class Visit>
requires std::same_as<std::remove_const_t<P>, Port>
void eachMember(P& printed, Visit&& visit) {
    auto& [name, direction, tiers, watts, sharedWatts, inTiers, inWatts] = printed;
    visit("watts", watts);
    visit("shared_watts", sharedWatts);
    visit("in_tiers", inTiers);
    visit("in_watts", inWatts);
}

} // namespace otterstone::label
