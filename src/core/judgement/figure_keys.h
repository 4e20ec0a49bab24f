// The names of a bank's figures, by which purposes, plans and sheets ask for them; figureKinds() has their words.
#pragma once

#include "core/kinds/figure_keys.h"

namespace otterstone::fig {

inline constexpr const char* usableGentle = "usable_gentle";
inline constexpr const char* usableNearFull = "usable_near_full";
inline constexpr const char* deliveredShare = key::deliveredShare;
inline constexpr const char* roundTrip = key::roundTrip;
inline constexpr const char* recharge80 = "recharge_80";
inline constexpr const char* recharge100 = "recharge_100";
inline constexpr const char* deviceTo80 = key::deviceTo80;
inline constexpr const char* devicePace = key::devicePace;
inline constexpr const char* deviceCharges = key::deviceCharges;
inline constexpr const char* deviceHeat = key::deviceHeat;
inline constexpr const char* wattsAlone = "watts_alone";
inline constexpr const char* wattsShared = "watts_shared";
inline constexpr const char* passThrough = key::passThrough;
inline constexpr const char* tripMargin = "trip_margin";
inline constexpr const char* heat25 = "heat_25";
inline constexpr const char* gaugeError = key::gaugeError;
inline constexpr const char* weight = "weight";
inline constexpr const char* whPerKg = "wh_per_kg";
inline constexpr const char* whPerLitre = "wh_per_litre";
inline constexpr const char* pricePerWh = "price_per_wh";
inline constexpr const char* warranty = "warranty";
inline constexpr const char* flight = "flight";

} // namespace otterstone::fig
