#include "core/label/conflicts.h"

#include <algorithm>
#include <cmath>

#include "core/label/decoder.h"
#include "core/label/port_rules.h"
#include "core/label/rating.h"
#include "core/quantity/format.h"

namespace otterstone::label {

namespace {

constexpr double kEnergyTolerance = 0.01;
constexpr double kLeastOutputShare = 0.50;
constexpr double kMostOutputShare = 0.95;
constexpr double kMostWhPerKg = 250.0;
constexpr double kMostWhPerLitre = 600.0;
// Printed watts are rounded (5 V × 2.4 A = 12 W, 11 V × 5 A = "55 W"); half a watt or 2 % is no contradiction.
double wattsSlack(double watts) { return std::max(0.5, 0.02 * watts); }

std::string wh(double v) { return showNumber(v, 4) + " Wh"; }
std::string watts(double v) { return showNumber(v, 4) + " W"; }

void checkEnergy(const Label& l, std::vector<Conflict>& out) {
    if (l.energy && l.capacity && l.cellVolts) {
        const WattHours product = *l.capacity * *l.cellVolts;
        if (std::fabs(l.energy->value - product.value) > kEnergyTolerance * l.energy->value)
            out.push_back({"energy_mismatch", "The label says " + wh(l.energy->value) + ", but " +
                                                  showNumber(l.capacity->value * 1000.0, 7) + " mAh × " +
                                                  showNumber(l.cellVolts->value) + " V is " + wh(product.value) + "."});
    }
    const auto implied = impliedCellVolts(l);
    if (implied && cellKind(*implied) == CellKind::None && seriesCount(*implied) == 0)
        out.push_back({"implied_volts_implausible", "The printed Wh and mAh imply " + showNumber(implied->value, 3) +
                                                        " V per cell, which no lithium cell or series pack has."});
}

void checkPorts(const Label& l, std::vector<Conflict>& out) {
    double shared = 0.0;
    for (const Port& p : l.ports) {
        const std::string name = p.name.empty() ? "the port" : "port " + p.name;
        for (const Way way : {Way::Out, Way::In}) {
            const auto limit = p.wattsFor(way);
            for (const Tier& t : p.tiersFor(way)) {
                if (!limit || t.programmable()) // a range's top corner is not promised at full current
                    continue;
                if (way == Way::In && p.direction == Direction::Both && p.inTiers.empty())
                    continue; // said of the same tiers the other way
                if (t.watts().value > limit->value + wattsSlack(limit->value))
                    out.push_back({"tier_above_port", "Tier " + showTier(t) + " is " + watts(t.watts().value) +
                                                          ", more than " + name + "'s " + watts(limit->value) +
                                                          (way == Way::In && p.gives() ? " in." : ".")});
            }
        }
        if (!p.gives())
            continue;
        const auto most = mostWatts(p, Way::Out);
        const double alone = p.watts ? p.watts->value : most ? most->value : 0.0;
        if (l.totalWatts && alone > l.totalWatts->value + wattsSlack(l.totalWatts->value))
            out.push_back({"port_above_total", "The " + watts(alone) + " of " + name + " alone exceed the total of " +
                                                   watts(l.totalWatts->value) + "."});
        const auto amps = std::max_element(p.tiers.begin(), p.tiers.end(),
                                           [](const Tier& a, const Tier& b) { return a.amps < b.amps; });
        if (l.totalAmps && amps != p.tiers.end() && amps->amps.value > l.totalAmps->value * 1.01)
            out.push_back({"current_above_total", "The " + showNumber(amps->amps.value) + " A of " + name +
                                                      " exceed the total of " + showNumber(l.totalAmps->value) +
                                                      " A."});
        if (p.sharedWatts)
            shared += p.sharedWatts->value;
    }
    if (l.totalWatts && shared > l.totalWatts->value + wattsSlack(l.totalWatts->value))
        out.push_back({"shares_above_total", "The ports' shares when used together add up to " + watts(shared) +
                                                 ", more than the total of " + watts(l.totalWatts->value) + "."});
}

void checkCombinations(const Label& l, std::vector<Conflict>& out) {
    for (const SharedLimit& limit : l.shared) {
        const std::string words = showShared({limit});
        if (l.totalWatts && limit.total().value > l.totalWatts->value + wattsSlack(l.totalWatts->value))
            out.push_back({"combination_above_total", words + " add up to " + watts(limit.total().value) +
                                                          ", more than the total of " + watts(l.totalWatts->value) +
                                                          "."});
        for (const SharedLimit::Part& part : limit.parts) {
            const Port* port = portNamed(l, part.port);
            if (!port || !port->gives()) {
                out.push_back({"combination_unknown_port", words + ": the label has no output " + part.port + "."});
                continue;
            }
            const auto alone = port->watts ? port->watts : mostWatts(*port, Way::Out);
            if (alone && part.watts.value > alone->value + wattsSlack(alone->value))
                out.push_back({"combination_above_port", words + ": port " + part.port + " would give more than the " +
                                                             watts(alone->value) + " it gives alone."});
        }
    }
}

void checkPlausible(const Label& l, WattHours rated, std::vector<Conflict>& out) {
    if (l.outputCapacity) {
        const Volts at = l.outputVolts.value_or(Volts(5.0));
        const double share = (*l.outputCapacity * at) / rated;
        if (share < kLeastOutputShare || share > kMostOutputShare)
            out.push_back({"output_share_implausible",
                           "The rated output of " + showNumber(l.outputCapacity->value * 1000.0, 7) + " mAh at " +
                               showNumber(at.value) + " V would be " + showNumber(share * 100.0, 3) + " % of " +
                               wh(rated.value) + "; 50 to 95 % is possible."});
    }
    if (l.weightGrams && *l.weightGrams > 0.0) {
        const double density = rated.value / (*l.weightGrams / 1000.0);
        if (density > kMostWhPerKg)
            out.push_back({"density_implausible", wh(rated.value) + " in " + showNumber(*l.weightGrams) + " g is " +
                                                      showNumber(density, 3) + " Wh/kg; a whole bank reaches at most " +
                                                      showNumber(kMostWhPerKg) + "."});
    }
    if (l.size && l.size->litres() > 0.0) {
        const double density = rated.value / l.size->litres();
        if (density > kMostWhPerLitre)
            out.push_back({"density_implausible", wh(rated.value) + " in " + showNumber(l.size->litres(), 3) +
                                                      " L is " + showNumber(density, 3) +
                                                      " Wh/L; a whole bank reaches at most " +
                                                      showNumber(kMostWhPerLitre) + "."});
    }
    std::optional<double> input;
    if (l.inputWatts)
        input = l.inputWatts->value;
    for (const Port& p : l.ports) {
        if (const auto most = mostWatts(p, Way::In))
            input = std::max(input.value_or(0.0), most->value);
    }
    if (l.rechargeTime && input && *input > 0.0) {
        const Hours least = rated / Watts(*input);
        if (*l.rechargeTime < least)
            out.push_back({"recharge_too_fast", "A recharge in " + showDuration(l.rechargeTime->value * 3600.0) +
                                                    " is promised, but " + wh(rated.value) + " at " + watts(*input) +
                                                    " take at least " + showDuration(least.value * 3600.0) + "."});
    }
}

} // namespace

std::vector<Conflict> conflicts(const Label& label) {
    std::vector<Conflict> out;
    checkEnergy(label, out);
    checkPorts(label, out);
    checkCombinations(label, out);
    if (const auto rating = ratedEnergy(label); rating && rating->energy.value > 0.0)
        checkPlausible(label, rating->energy, out);
    return out;
}

} // namespace otterstone::label
