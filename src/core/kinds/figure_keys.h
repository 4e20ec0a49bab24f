// The names of a run's figures that more than one place asks for, as they stand in --json and in a bundle. Those that
// one place makes and nobody asks for by name are named where they are made.
#pragma once

namespace otterstone::key {

// what flowed
inline constexpr const char* energyWh = "energy_wh"; ///< at the meter
inline constexpr const char* energyAtPortWh = "energy_at_port_wh";
inline constexpr const char* countedWh = "counted_wh"; ///< by the meter's own counter
inline constexpr const char* chargeMah = "charge_mah";
inline constexpr const char* meanVolts = "mean_volts";
inline constexpr const char* meanWatts = "mean_watts";
inline constexpr const char* watts = "watts";
inline constexpr const char* tierVolts = "tier_volts";

// of a drain
inline constexpr const char* deliveredShare = "delivered_share";
inline constexpr const char* capacity = "capacity";
inline constexpr const char* equivalentMah = "equivalent_mah";
inline constexpr const char* projectedWh = "projected_wh"; ///< for a full drain, from a part of one
inline constexpr const char* usableWh = "usable_wh";       ///< from full to empty
inline constexpr const char* labelWh = "label_wh";         ///< what may be held against the label
inline constexpr const char* roundTrip = "round_trip";     ///< with a recharge
inline constexpr const char* wallToPort = "wall_to_port";
inline constexpr const char* wallToDevice = "wall_to_device";

// of a recharge
inline constexpr const char* chargeSpeed = "charge_speed";
inline constexpr const char* timeFrom = "time_from"; ///< from where it began
inline constexpr const char* timeTo50 = "time_to_50";
inline constexpr const char* timeTo80 = "time_to_80";
inline constexpr const char* timeTo100 = "time_to_100";
inline constexpr const char* putInWh = "put_in_wh"; ///< from empty to full
inline constexpr const char* plateauWatts = "plateau_watts";
inline constexpr const char* idleWatts = "idle_watts";
inline constexpr const char* againstClaim = "against_claim";

// of a display and of heat
inline constexpr const char* gaugeError = "gauge_error";
inline constexpr const char* reserveWh = "reserve_wh"; ///< what came after 0 %
inline constexpr const char* againstDisplay = "against_display";
inline constexpr const char* heatRiseK = "heat_rise_k";
inline constexpr const char* heatAt25C = "heat_at_25_c";

// of devices
inline constexpr const char* storedWh = "stored_wh";
inline constexpr const char* transfer = "transfer";
inline constexpr const char* transferredShare = "transferred_share";
inline constexpr const char* arrivedShare = "arrived_share";
inline constexpr const char* inUseWatts = "in_use_watts";
inline constexpr const char* pointsAnHour = "points_an_hour";
inline constexpr const char* deviceTo80 = "device_to_80";
inline constexpr const char* devicePace = "device_pace";
inline constexpr const char* deviceHeat = "device_heat";
inline constexpr const char* deviceCharges = "device_charges";
inline constexpr const char* chargesPerBank = "charges_per_bank";

// of a bank that gives little
inline constexpr const char* autoOffAmps = "auto_off_amps";
inline constexpr const char* idleBank = "idle_bank";

// of source and load at once
inline constexpr const char* passThrough = "pass_through";

} // namespace otterstone::key
