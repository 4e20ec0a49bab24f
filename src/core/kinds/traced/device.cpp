#include "core/kinds/traced/device.h"
#include "core/kinds/figure_keys.h"
#include "core/quantity/say.h"

#include <cmath>

namespace otterstone::kinds {

namespace {

constexpr double kDeviceDisplayPoints = 1.0;
constexpr double kHoldingShare = 0.05;

Working shareWorking(const char* key, Spoken label, const Measured& value, std::string formula, Spoken note) {
    Working w;
    w.key = key;
    w.label = std::move(label).text();
    w.formula = std::move(formula);
    w.value = value;
    w.unit = Unit::Share;
    w.note = std::move(note).text();
    return w;
}

} // namespace

Working storedInDevice(const Device& device, double fromPercent, double toPercent, const std::string& run) {
    Working w;
    w.key = key::storedWh;
    w.label = say("stored in {}", device.name);
    w.unit = Unit::WattHour;
    w.point = say("the device's battery");
    const Measured share = Measured((toPercent - fromPercent) / 100.0)
                               .with(ErrorSource::ofRun(run, "the device's display"),
                                     rectangular(kDeviceDisplayPoints / 100.0) * std::sqrt(2.0));
    const Measured battery = device.batteryWattHours
                                 ? device.batteryWattHours->measured(ErrorSource::ofBench(device.name, "battery"))
                                 : Measured(0.0);
    w.value = share * battery;
    w.formula = say("{} % × {} Wh", showNumber(toPercent - fromPercent), showNumber(battery.value()));
    w.note = say("from {} to {} % on the device's own display, each good to a point", showNumber(fromPercent),
                 showNumber(toPercent));
    return w;
}

Working transferShare(const Working& stored, const Measured& portWattHours) {
    Working w = shareWorking(key::transfer, "port to device", stored.value / portWattHours,
                             showValue(stored.value, Unit::WattHour) + " ÷ " + showValue(portWattHours, Unit::WattHour),
                             "what the device stored of what left the port");
    w.point = say("bank out to the device's battery");
    w.parts = {stored};
    return w;
}

Working chargesPerBank(const Measured& usable, const Measured& portWattHours, double fromPercent, double toPercent,
                       const std::string& device) {
    const Measured perCharge = portWattHours / Measured((toPercent - fromPercent) / 100.0);
    Working w;
    w.key = key::deviceCharges;
    w.label = say("charges of {}", device);
    w.value = usable / perCharge;
    w.formula = say("{} ÷ {} for 0 to 100 %", showValue(usable, Unit::WattHour), showValue(perCharge, Unit::WattHour));
    w.point = say("bank out");
    w.note = say("from the energy this run took per percent");
    return w;
}

std::string inUseWords(InUse u) {
    return u == InUse::Charging ? say("charging") : u == InUse::Holding ? say("holding") : say("losing more slowly");
}

UseBalance balanceInUse(const Device& device, const Measured& supplyWatts) {
    UseBalance b;
    const double use = device.inUseWatts.value_or(0.0);
    const Measured efficiency =
        device.chargingEfficiency
            ? device.chargingEfficiency->measured(ErrorSource::ofBench(device.name, "charging efficiency"))
            : Measured(1.0);
    // What the device burns comes first; only the rest passes its charging losses.
    const Measured rest = supplyWatts - Measured(use);
    const Measured net = rest.value() > 0.0 ? rest * efficiency : rest;
    b.netWatts = net.value();
    b.what = std::fabs(rest.value()) <= kHoldingShare * use ? InUse::Holding
             : rest.value() > 0.0                           ? InUse::Charging
                                                            : InUse::SlowerLoss;
    if (device.batteryWattHours && b.what != InUse::Holding)
        b.hoursOfBattery = device.batteryWattHours->value / std::fabs(b.netWatts);
    Working& w = b.working;
    w.key = key::inUseWatts;
    w.label = say("{} in use: {}", device.name, inUseWords(b.what));
    w.value = net;
    w.unit = Unit::Watt;
    w.point = say("the device's battery");
    w.formula =
        "(" + showValue(supplyWatts, Unit::Watt) + " − " + showNumber(use) + " W)" +
        (rest.value() > 0.0 && device.chargingEfficiency ? " × " + showNumber(100.0 * efficiency.value(), 3) + " %"
                                                         : "");
    w.note = b.what == InUse::Holding ? say("within 5 % of what it burns")
             : b.hoursOfBattery
                 ? std::string(b.what == InUse::Charging ? "0 to 100 % in " : "100 to 0 % in ") +
                       showDuration(*b.hoursOfBattery * 3600.0) +
                       (b.what == InUse::SlowerLoss && use > 0.0
                            ? say(" instead of {}", showDuration(device.batteryWattHours->value / use * 3600.0))
                            : "")
                 : say("the device's battery is not stated, so no time can be given");
    return b;
}

Working intoBank(double filledShare, double targetWattHours, double sourceWattHours,
                 const std::optional<Stated>& targetEfficiency, const std::string& run) {
    const Measured filled =
        Measured(filledShare)
            .with(ErrorSource::ofRun(run, "the target's display"), rectangular(kDeviceDisplayPoints / 100.0));
    Working w = shareWorking(
        key::transferredShare, "bank into bank, at least", filled * Measured(targetWattHours / sourceWattHours),
        say("{} % × {} ÷ {} Wh", showNumber(filledShare * 100.0, 3), showNumber(targetWattHours),
            showNumber(sourceWattHours)),
        "a lower bound: the receiving bank loses some too, and that loss is not the giving bank's. Rule of thumb: a good one "
        "reaches 80 % (common practice)");
    w.point = say("from rating to rating");
    if (targetEfficiency) {
        Working best = shareWorking(
            "transferred_estimate", "best estimate",
            w.value / targetEfficiency->measured(ErrorSource::ofBench("target", "the target's charging efficiency")),
            showValue(w.value, Unit::Share) + " ÷ " + showNumber(targetEfficiency->value * 100.0, 3) + " %",
            "an estimate: with the receiving bank's own loss taken out");
        w.parts.push_back(best);
    }
    return w;
}

Working runtime(const Measured& usable, double watts, const std::string& note) {
    Working w;
    w.key = "runtime_s";
    w.label = say("runs {} W for", showNumber(watts));
    w.value = usable * Measured(3600.0 / watts);
    w.unit = Unit::Second;
    w.formula = showValue(usable, Unit::WattHour) + " ÷ " + showNumber(watts) + " W";
    w.point = say("bank out");
    w.note = note;
    return w;
}

} // namespace otterstone::kinds
