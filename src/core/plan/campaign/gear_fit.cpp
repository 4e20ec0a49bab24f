#include "core/plan/campaign/gear_fit.h"

#include <algorithm>
#include <cmath>

namespace otterstone::plan::campaign {

namespace {

using records::GearKind;
using records::Kind;

constexpr double kGentleAsked = 5.0, kUsual = 10.0; // W
constexpr double kUnmarked = 3.0;                   // A
constexpr double kFiveVolts = 5.5;                  // V, with what a 5 V port may give
constexpr double kNear = 1.001;                     // figures are printed rounded
constexpr double kAsFast = 0.8;

std::optional<label::Tier> strongest(const label::Label& label, label::Way way) {
    std::vector<label::Tier> all;
    for (const label::Port& port : label.ports) {
        if (way == label::Way::Out ? !port.gives() : !port.takes())
            continue;
        const auto tiers = port.tiersFor(way);
        all.insert(all.end(), tiers.begin(), tiers.end());
    }
    return label::bestTier(all);
}

Demand of(const label::Tier& tier) { return {tier.high.value, tier.amps.value, tier.watts().value, {}}; }

} // namespace

Demand demandOf(const Want& want, const label::Label& label) {
    const auto out = strongest(label, label::Way::Out);
    const std::string& recipe = want.key.recipe;
    switch (want.key.kind) {
    case Kind::Recharge:
    case Kind::Matrix: {
        const auto in = strongest(label, label::Way::In);
        return in ? of(*in) : Demand{};
    }
    case Kind::Drain:
        if (recipe.empty())
            return {5.0, kUsual / 5.0, kUsual, {}};
        if (recipe == "gentle-drain")
            return {5.0, 1.0, kGentleAsked, "CC"};
        break;
    case Kind::LightLoad: return {5.0, 1.0, kGentleAsked, "CC"};
    case Kind::Survey:
    case Kind::Staircase:
    case Kind::Sharing:
    case Kind::PassThrough: break;
    default: return {};
    }
    Demand demand = out ? of(*out) : Demand{};
    if (want.watts) {
        demand.watts = *want.watts;
        demand.amps = out && demand.volts > 0.0 ? *want.watts / demand.volts : 0.0;
    }
    demand.mode = recipe == "steady-power-drain" ? "CP" : "CC";
    return demand;
}

Demand secondDemandOf(const label::Label& label) {
    std::vector<label::Tier> best;
    for (const label::Port& port : label.ports) {
        if (const auto tier = label::bestTier(port.tiersFor(label::Way::Out)); port.gives() && tier)
            best.push_back(*tier);
    }
    std::sort(best.begin(), best.end(),
              [](const label::Tier& a, const label::Tier& b) { return a.watts() > b.watts(); });
    return best.size() > 1 ? of(best[1]) : Demand{};
}

bool canDo(const records::Gear& g, const Demand& d) {
    const auto enough = [](const std::optional<double>& has, double wants) { return !has || wants <= *has * kNear; };
    switch (g.kind) {
    case GearKind::Load:
        return enough(g.watts, d.watts) && enough(g.maxVolts, d.volts) && enough(g.maxAmps, d.amps) &&
               (d.mode.empty() || g.modes.empty() || g.modes.find(d.mode) != std::string::npos);
    case GearKind::Cable:
        return (g.marked || d.amps <= kUnmarked * kNear) &&
               (d.volts <= kFiveVolts || g.ends.find('A') == std::string::npos);
    case GearKind::Trigger:
        return g.tiers.empty() || std::any_of(g.tiers.begin(), g.tiers.end(), [&](const label::Tier& t) {
                   return t.low.value <= d.volts * kNear && d.volts <= t.high.value * kNear;
               });
    default: return true;
    }
}

std::vector<std::size_t> quickChargers(const std::vector<records::Gear>& gear, double inputWatts) {
    const auto gives = [&](const records::Gear& g) { return std::min(g.watts.value_or(inputWatts), inputWatts); };
    double best = 0.0;
    for (const records::Gear& g : gear)
        best = g.kind == GearKind::Charger ? std::max(best, gives(g)) : best;
    std::vector<std::size_t> all;
    for (std::size_t k = 0; k < gear.size(); ++k) {
        if (gear[k].kind == GearKind::Charger && gives(gear[k]) >= kAsFast * best)
            all.push_back(k);
    }
    return all;
}

} // namespace otterstone::plan::campaign
