#include "core/model/socket.h"

#include <algorithm>
#include <cmath>

namespace otterstone::model {

namespace {

constexpr double kSame = 0.3; // volts: 20 V asked of a tier printed as 20.3 V is the same tier

const label::Tier* tierAt(const std::vector<label::Tier>& tiers, double volts) {
    for (const label::Tier& t : tiers) {
        if (volts >= t.low.value - kSame && volts <= t.high.value + kSame)
            return &t;
    }
    return nullptr;
}

} // namespace

double Load::amps(double volts, double ohms) const {
    if (!on || volts <= 0.0 || level <= 0.0)
        return 0.0;
    switch (mode) {
    case Mode::ConstantCurrent: return ohms > 0.0 ? std::min(level, volts / ohms) : level;
    case Mode::ConstantPower: {
        const double root = volts * volts - 4.0 * ohms * level;
        return root <= 0.0 ? volts / (2.0 * ohms) : 2.0 * level / (volts + std::sqrt(root));
    }
    case Mode::ConstantResistance: return volts / (ohms + level);
    }
    return 0.0;
}

Ask agreed(const std::vector<label::Tier>& gives, Ask asked, double watts) {
    Ask got = asked;
    if (!gives.empty()) {
        const label::Tier* tier = tierAt(gives, asked.volts);
        if (!tier) {
            got.volts = 5.0;
            tier = tierAt(gives, 5.0);
        }
        if (!tier)
            return {5.0, 0.0};
        got.amps = std::min(asked.amps, tier->amps.value);
    }
    if (watts > 0.0)
        got.amps = std::min(got.amps, watts / got.volts);
    return got;
}

Ask bestAgreed(const std::vector<label::Tier>& gives, const std::vector<label::Tier>& takes, double cableAmps,
               Ask any) {
    if (gives.empty() && takes.empty())
        return {any.volts, std::min(any.amps, cableAmps)};
    Ask best{5.0, 0.0};
    for (const label::Tier& t : gives.empty() ? takes : gives) {
        const label::Tier* other = gives.empty() || takes.empty() ? &t : tierAt(takes, t.high.value);
        if (!other)
            continue;
        const Ask here{t.high.value, std::min({t.amps.value, other->amps.value, cableAmps})};
        if (here.volts * here.amps > best.volts * best.amps + 1e-9)
            best = here;
    }
    return best;
}

} // namespace otterstone::model
