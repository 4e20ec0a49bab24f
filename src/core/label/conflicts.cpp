#include "core/label/conflicts.h"

#include <algorithm>
#include <cmath>

#include "core/label/decoder.h"
#include "core/label/port_rules.h"
#include "core/label/rating.h"
#include "core/quantity/format.h"
#include "core/quantity/say.h"

namespace otterstone::label {

namespace {

constexpr double kEnergyTolerance = 0.01;
constexpr double kLeastOutputShare = 0.50;
constexpr double kMostOutputShare = 0.95;
constexpr double kMostWhPerKg = 250.0;
constexpr double kMostWhPerLitre = 600.0;
// Printed watts are rounded (5 V × 2.4 A = 12 W, 11 V × 5 A = "55 W"); half a watt or 2 % is no contradiction.
double wattsSlack(double watts) { return std::max(0.5, 0.02 * watts); }

std::string wh(double v) { return say("{} Wh", showNumber(v, 4)); }
std::string watts(double v) { return showNumber(v, 4) + " W"; }

void checkEnergy(const Label& l, std::vector<Conflict>& out) {
    if (l.energy && l.capacity && l.cellVolts) {
        const WattHours product = *l.capacity * *l.cellVolts;
        if (std::fabs(l.energy->value - product.value) > kEnergyTolerance * l.energy->value)
            out.push_back({"energy_mismatch", say("The label says {}, but {} mAh × {} V is {}.", wh(l.energy->value),
                                                  showNumber(l.capacity->value * 1000.0, 7),
                                                  showNumber(l.cellVolts->value), wh(product.value))});
    }
    const auto implied = impliedCellVolts(l);
    if (implied && cellKind(*implied) == CellKind::None && seriesCount(*implied) == 0)
        out.push_back({"implied_volts_implausible",
                       say("The printed Wh and mAh imply {} V per cell, which no lithium cell or series pack has.",
                           showNumber(implied->value, 3))});
}

void checkPorts(const Label& l, std::vector<Conflict>& out) {
    double shared = 0.0;
    for (const Port& p : l.ports) {
        const std::string name = p.name.empty() ? say("the port") : say("port {}", p.name);
        for (const Way way : {Way::Out, Way::In}) {
            const auto limit = p.wattsFor(way);
            for (const Tier& t : p.tiersFor(way)) {
                if (!limit || t.programmable()) // a range's top corner is not promised at full current
                    continue;
                if (way == Way::In && p.direction == Direction::Both && p.inTiers.empty())
                    continue; // said of the same tiers the other way
                if (t.watts().value > limit->value + wattsSlack(limit->value))
                    out.push_back({"tier_above_port",
                                   say("Tier {} is {}, more than {}'s {}{}", showTier(t), watts(t.watts().value), name,
                                       watts(limit->value), (way == Way::In && p.gives() ? say(" in.") : "."))});
            }
        }
        if (!p.gives())
            continue;
        const auto most = mostWatts(p, Way::Out);
        const double alone = p.watts ? p.watts->value : most ? most->value : 0.0;
        if (l.totalWatts && alone > l.totalWatts->value + wattsSlack(l.totalWatts->value))
            out.push_back({"port_above_total", say("The {} of {} alone exceed the total of {}.", watts(alone), name,
                                                   watts(l.totalWatts->value))});
        const auto amps = std::max_element(p.tiers.begin(), p.tiers.end(),
                                           [](const Tier& a, const Tier& b) { return a.amps < b.amps; });
        if (l.totalAmps && amps != p.tiers.end() && amps->amps.value > l.totalAmps->value * 1.01)
            out.push_back(
                {"current_above_total", say("The {} A of {} exceed the total of {} A.", showNumber(amps->amps.value),
                                            name, showNumber(l.totalAmps->value))});
        if (p.sharedWatts)
            shared += p.sharedWatts->value;
    }
    if (l.totalWatts && shared > l.totalWatts->value + wattsSlack(l.totalWatts->value))
        out.push_back(
            {"shares_above_total", say("The ports' shares when used together add up to {}, more than the total of {}.",
                                       watts(shared), watts(l.totalWatts->value))});
}

void checkCombinations(const Label& l, std::vector<Conflict>& out) {
    for (const SharedLimit& limit : l.shared) {
        const std::string words = showShared({limit});
        if (l.totalWatts && limit.total().value > l.totalWatts->value + wattsSlack(l.totalWatts->value))
            out.push_back({"combination_above_total", say("{} add up to {}, more than the total of {}.", words,
                                                          watts(limit.total().value), watts(l.totalWatts->value))});
        for (const SharedLimit::Part& part : limit.parts) {
            const Port* port = portNamed(l, part.port);
            if (!port || !port->gives()) {
                out.push_back({"combination_unknown_port", say("{}: the label has no output {}.", words, part.port)});
                continue;
            }
            const auto alone = port->watts ? port->watts : mostWatts(*port, Way::Out);
            if (alone && part.watts.value > alone->value + wattsSlack(alone->value))
                out.push_back({"combination_above_port", say("{}: port {} would give more than the {} it gives alone.",
                                                             words, part.port, watts(alone->value))});
        }
    }
}

void checkPlausible(const Label& l, WattHours rated, std::vector<Conflict>& out) {
    if (l.outputCapacity) {
        const Volts at = l.outputVolts.value_or(Volts(5.0));
        const double share = (*l.outputCapacity * at) / rated;
        if (share < kLeastOutputShare || share > kMostOutputShare)
            out.push_back({"output_share_implausible",
                           say("The rated output of {} mAh at {} V would be {} % of {}; 50 to 95 % is possible.",
                               showNumber(l.outputCapacity->value * 1000.0, 7), showNumber(at.value),
                               showNumber(share * 100.0, 3), wh(rated.value))});
    }
    if (l.weightGrams && *l.weightGrams > 0.0) {
        const double density = rated.value / (*l.weightGrams / 1000.0);
        if (density > kMostWhPerKg)
            out.push_back({"density_implausible",
                           say("{} in {} g is {} Wh/kg; a whole bank reaches at most {}.", wh(rated.value),
                               showNumber(*l.weightGrams), showNumber(density, 3), showNumber(kMostWhPerKg))});
    }
    if (l.size && l.size->litres() > 0.0) {
        const double density = rated.value / l.size->litres();
        if (density > kMostWhPerLitre)
            out.push_back({"density_implausible",
                           say("{} in {} L is {} Wh/L; a whole bank reaches at most {}.", wh(rated.value),
                               showNumber(l.size->litres(), 3), showNumber(density, 3), showNumber(kMostWhPerLitre))});
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
            out.push_back({"recharge_too_fast", say("A recharge in {} is promised, but {} at {} take at least {}.",
                                                    showDuration(l.rechargeTime->value * 3600.0), wh(rated.value),
                                                    watts(*input), showDuration(least.value * 3600.0))});
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
