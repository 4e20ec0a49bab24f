#include "core/judgement/claims.h"

#include <algorithm>
#include <cmath>

#include "core/kinds/figure_keys.h"
#include "core/label/port_rules.h"
#include "core/label/rating.h"
#include "core/quantity/format.h"
#include "core/quantity/say.h"

namespace otterstone::judgement {

namespace {

std::string labelWatts(double w) { return showNumber(w, 4) + " W"; }

void addTier(const label::Port& port, const label::Tier& t, std::vector<Claim>& all) {
    const auto at = [&](double volts) {
        const auto window = label::toleranceAt(port.name, volts);
        const double amps = label::promisedAmps(port, label::Way::Out, volts).value_or(t.amps.value);
        const std::string range = window ? say("from {} to {} V", showNumber(window->low), showNumber(window->high))
                                         : say("as the label says, no standard has a tolerance for it,");
        return std::pair(window, window ? say("volts at the port {} while {} A are drawn", range, showNumber(amps, 3))
                                        : say("volts {} while {} A are drawn", range, showNumber(amps, 3)));
    };
    const double volts = t.high.value;
    Claim c{ClaimKind::Tier,
            "gives:" + port.name + ":" + showNumber(volts),
            say("{} gives {}", port.name, label::showTier(t)),
            {},
            {},
            Unit::Volt,
            port.name,
            volts};
    const auto [window, condition] = at(volts);
    c.condition = condition;
    if (window)
        c.limits = {window->low, window->high};
    if (t.programmable()) {
        c.key = "gives:" + port.name + ":" + showNumber(t.low.value) + "-" + showNumber(volts);
        c.lowVolts = t.low.value;
        c.condition = say("at both its ends: {}", condition);
    }
    all.push_back(std::move(c));
}

void addPort(const label::Port& port, const std::optional<Watts>& input, std::vector<Claim>& all) {
    for (const label::Tier& t : port.tiersFor(label::Way::Out))
        addTier(port, t, all);
    if (port.gives() && port.watts)
        all.push_back({ClaimKind::PortWatts,
                       "watts:" + port.name,
                       say("{} gives {}", port.name, labelWatts(port.watts->value)),
                       say("alone; 95 % of it, as a tier may stand 5 % low"),
                       {label::kPowerGiven * port.watts->value, {}},
                       Unit::Watt,
                       port.name});
    if (const auto most = label::mostWatts(port, label::Way::In); most && !port.tiersFor(label::Way::In).empty()) {
        const double takes =
            input ? std::min(most->value, input->value) : most->value; // the input has a figure of its own
        all.push_back({ClaimKind::InputWatts,
                       "takes:" + port.name,
                       say("{} takes {}", port.name, labelWatts(takes)),
                       say("from a charger that can give it; 95 % of it counts"),
                       {label::kPowerGiven * takes, {}},
                       Unit::Watt,
                       port.name});
    }
}

} // namespace

std::vector<Claim> claimsOf(const label::Label& l) {
    std::vector<Claim> all;
    if (const auto rated = label::ratedEnergy(l))
        all.push_back({ClaimKind::Energy,
                       "energy",
                       say("{} Wh in the cells", showNumber(rated->energy.value, 4)),
                       say("between what goes in and what comes out"),
                       {rated->energy.value, {}},
                       Unit::WattHour});
    if (l.outputCapacity && l.outputVolts)
        all.push_back({ClaimKind::RatedOutput,
                       "rated_output",
                       say("{} mAh out at {} V", showNumber(l.outputCapacity->value * 1000.0, 6),
                           showNumber(l.outputVolts->value)),
                       say("drained at {} V until it shuts off", showNumber(l.outputVolts->value)),
                       {l.outputCapacity->value * 1000.0, {}},
                       Unit::MilliampHour,
                       {},
                       l.outputVolts->value});
    for (const label::Port& port : l.ports)
        addPort(port, l.inputWatts, all);
    for (std::size_t k = 0; k < l.shared.size(); ++k) {
        std::string key = "together:";
        for (const auto& part : l.shared[k].parts)
            key += (key.back() == ':' ? "" : "+") + part.port;
        all.push_back({ClaimKind::Together,
                       key,
                       say("{} at once", label::showShared({l.shared[k]})),
                       say("each port asked for its share; 95 % of it counts"),
                       {0.0, {}},
                       Unit::Watt,
                       {},
                       0.0,
                       k});
    }
    const auto outputs = std::count_if(l.ports.begin(), l.ports.end(), [](const label::Port& p) { return p.gives(); });
    if (l.totalWatts && outputs > 1)
        all.push_back({ClaimKind::TotalWatts,
                       "total_watts",
                       say("{} in all", labelWatts(l.totalWatts->value)),
                       say("outputs together asked for at least that; 95 % of it counts"),
                       {label::kPowerGiven * l.totalWatts->value, {}},
                       Unit::Watt});
    const std::optional<Watts> needed = label::inputNeeded(l);
    if (l.rechargeTime)
        all.push_back(
            {ClaimKind::RechargeTime,
             "recharge_time",
             say("full in {}", showDuration(l.rechargeTime->value * 3600.0)),
             needed ? say("from empty, with a charger of {} or more", labelWatts(needed->value)) : say("from empty"),
             {{}, l.rechargeTime->value * 3600.0},
             Unit::Second});
    if (l.claimsPassThrough)
        all.push_back({ClaimKind::PassThrough, key::passThrough, say("gives while it is charged"),
                       say("source and load at once")});
    if (l.claimsLowCurrentMode)
        all.push_back({ClaimKind::LowCurrent, "low_current", say("low-current mode"),
                       say("a load that lets it sleep stays on in the mode")});
    for (std::size_t k = 0; k < l.charges.size(); ++k) {
        Claim claim{ClaimKind::DeviceCharges,
                    k == 0 ? "charges" : "charges:" + std::to_string(k + 1),
                    say("charges {}", label::showCharges(l.charges[k])),
                    say("usable energy, and what arrives in that device"),
                    {l.charges[k].times, {}}};
        claim.combination = k;
        all.push_back(std::move(claim));
    }
    if (l.weightGrams)
        all.push_back({ClaimKind::Weight,
                       "weight",
                       showNumber(*l.weightGrams) + " g",
                       say("on a scale; half a gram for the printed digit"),
                       {{}, *l.weightGrams + 0.5},
                       Unit::Gram});
    if (l.size)
        all.push_back(
            {ClaimKind::Size,
             "size",
             say("{} × {} × {} mm", showNumber(l.size->length), showNumber(l.size->width), showNumber(l.size->height)),
             say("each side; a millimetre over is taken for rounding"),
             {{}, 0.0},
             Unit::Millimetre});
    return all;
}

} // namespace otterstone::judgement
