// Every figure of a piece of gear, once, with its name in files.
#pragma once

#include <concepts>
#include <type_traits>

#include "core/records/gear.h"

namespace otterstone::records {

/// Calls visit(name in files, member) for all but its number, kind and name, and what only an instrument that reads
/// has: its accuracy and its clock. A member that is added to Gear does not compile until it stands here.
template<class G, class Visit>
requires std::same_as<std::remove_const_t<G>, Gear>
void eachMember(G& gear, Visit&& visit) {
    auto& [id, kind, name, notes, price, currency, watts, tiers, efficiency, ohms, metres, awg, marked, ends, meter,
           ownDraw, clock, clockComparison, modes, maxVolts, maxAmps, kelvin, battery] = gear;
    visit("notes", notes);
    visit("price", price);
    visit("currency", currency);
    visit("watts", watts);
    visit("tiers", tiers);
    visit("efficiency", efficiency);
    visit("ohms", ohms);
    visit("metres", metres);
    visit("awg", awg);
    visit("marked", marked);
    visit("ends", ends);
    visit("own_draw", ownDraw);
    visit("clock_comparison", clockComparison);
    visit("modes", modes);
    visit("max_volts", maxVolts);
    visit("max_amps", maxAmps);
    visit("kelvin", kelvin);
    visit("battery_wh", battery);
}

} // namespace otterstone::records
