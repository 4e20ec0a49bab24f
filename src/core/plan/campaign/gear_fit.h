// Which piece of the drawer can do what a run asks of it.
#pragma once

#include "core/label/label.h"
#include "core/plan/campaign/aims.h"
#include "core/records/gear.h"

namespace otterstone::plan::campaign {

/// What flows at the most while a run goes; 0 where nothing is known.
struct Demand {
    double volts = 0.0, amps = 0.0, watts = 0.0; ///< between bank and load, or charger and bank
    std::string mode;                            ///< of the load: "CC", "CP"; empty: any will do
};

/// Out of the bank by the recipe (1 A at 5 V for a gentle drain, its strongest tier where the recipe asks for that), or
/// into it by the strongest input. What brings a bank down as needed takes 10 W at 5 V.
[[nodiscard]] Demand demandOf(const Want& want, const label::Label& label);

/// Out of the second of two outputs at once: what the second strongest gives, in any mode.
[[nodiscard]] Demand secondDemandOf(const label::Label& label);

/// A piece of which nothing is written down may be anything, and can do it. A load must take volts, amps and watts in
/// that mode; a cable of over 3 A carries a marker, and over 5 V has no A end (USB Type-C 2.x: 5 A only over a marked
/// cable; USB PD speaks over CC, which an A plug has not; from memory); a trigger must ask for the tier.
[[nodiscard]] bool canDo(const records::Gear& gear, const Demand& demand);

/// The chargers that fill a bank of so many watts of input about as fast as the best of the drawer does, within a
/// fifth; common practice, no published source.
[[nodiscard]] std::vector<std::size_t> quickChargers(const std::vector<records::Gear>& gear, double inputWatts);

} // namespace otterstone::plan::campaign
