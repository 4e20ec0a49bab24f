// D13: what a bank does for a device. D4: what arrives when one bank is emptied into another. D17: how long it runs a
// load.
#pragma once

#include <optional>
#include <string>

#include "core/kinds/names.h"
#include "core/quantity/stated.h"
#include "core/quantity/working.h"
#include "core/setup/device.h"

namespace otterstone::kinds {

/// Stored in the device: Δ% × its battery's energy. `fromPercent` < `toPercent`, both by the device's display, good to
/// ± 1 point each (rectangular).
[[nodiscard]] Working storedInDevice(const Device& device, double fromPercent, double toPercent,
                                     const std::string& run);
/// Stored ÷ energy out of the port. Common practice, no published source.
[[nodiscard]] Working transferShare(const Working& stored, const Measured& portWattHours);
/// Full charges of the device one bank gives: usable ÷ (energy out of the port per 100 % of the device).
[[nodiscard]] Working chargesPerBank(const Measured& usableWattHours, const Measured& portWattHours, double fromPercent,
                                     double toPercent, const std::string& device);

enum class InUse { Charging, Holding, SlowerLoss };
[[nodiscard]] std::string inUseWords(InUse u);
struct UseBalance {
    InUse what = InUse::Holding;
    double netWatts = 0.0; ///< into the device's battery
    std::optional<double>
        hoursOfBattery; ///< until full when charging, until empty when losing; needs the battery's energy
    Working working;
};
/// A device in use while it is supplied: supply × charging efficiency − use, holding within ± 5 % of the use. Common
/// practice, no published source.
[[nodiscard]] UseBalance balanceInUse(const Device& device, const Measured& supplyWatts);

/// D4: share of the target that was filled × its rating ÷ rating of the source: a lower bound, since the target loses
/// some too. With the target's charging efficiency the best estimate hangs below it. Common practice, no published
/// source: a good bank reaches 80 %.
[[nodiscard]] Working intoBank(double filledShare, double targetWattHours, double sourceWattHours,
                               const std::optional<Stated>& targetEfficiency, const std::string& run);

/// D17: hours a load of `watts` runs: usable ÷ watts.
[[nodiscard]] Working runtime(const Measured& usableWattHours, double watts, const std::string& note);

} // namespace otterstone::kinds
