#include "core/kinds/observation.h"

#include <array>

#include "core/kinds/figure_keys.h"
#include "core/kinds/parts.h"
#include "core/quantity/format.h"
#include "core/quantity/say.h"

namespace otterstone::kinds {

namespace {

struct Named {
    What what;
    const char* key;
    const char* words;
};
constexpr std::array<Named, std::size(kAllWhats)> kNames{
    {{What::Tier, "tier", "tier"},
     {What::Out, "out", "gave"},
     {What::Trip, "trip", "gave way"},
     {What::In, "in", "took"},
     {What::Together, "together", "gave in all"},
     {What::PassThrough, key::passThrough, "source and load at once"},
     {What::AutoOff, "auto_off", "goes to sleep"},
     {What::LowMode, "low_mode", "low-current mode"},
     {What::TimeTo80, key::timeTo80, "was at 80 % after"},
     {What::TimeTo100, key::timeTo100, "was full after"},
     {What::Energy, "energy", "gave"},
     {What::Charges, "charges", "charges"},
     {What::DeviceTo80, key::deviceTo80, "brings to 80 %"},
     {What::DevicePace, key::devicePace, "charges by points an hour"},
     {What::DeviceHeat, key::deviceHeat, "warms the back of"}}};
constexpr bool inOrder() {
    for (std::size_t k = 0; k < kNames.size(); ++k) {
        if (kNames[k].what != kAllWhats[k] || static_cast<std::size_t>(kAllWhats[k]) != k)
            return false;
    }
    return true;
}
static_assert(inOrder(), "each kind of observation has its row, in the order of What");

std::string voltsAndAmps(const Observation& o) {
    std::string s;
    if (o.volts)
        s += showNumber(*o.volts, 4) + " V";
    if (o.amps)
        s += (s.empty() ? "" : " ") + showNumber(*o.amps, 3) + " A";
    return s;
}

std::string tierWords(const Observation& o) {
    return o.tierVolts > 0.0 && !(o.volts && label::sameVolts(*o.volts, o.tierVolts))
               ? say(" ({} V tier)", showNumber(o.tierVolts))
               : "";
}

} // namespace

std::string whatKey(What what) { return kNames[static_cast<std::size_t>(what)].key; }
std::string whatWords(What what) { return sayAsItStands(kNames[static_cast<std::size_t>(what)].words); }

std::string limitedWords(LimitedBy by) {
    switch (by) {
    case LimitedBy::Unknown: return "";
    case LimitedBy::Nobody: return say("nobody asked for more");
    case LimitedBy::Bank: return say("it gave no more");
    case LimitedBy::Source: return say("the charger gives no more");
    }
    return {};
}

std::string Observation::where() const { return title + (row ? say(", row {}", std::to_string(*row + 1)) : ""); }

std::string Observation::said() const {
    const std::string at = port.empty() ? "" : say(" at {}", port);
    std::string s;
    switch (what) {
    case What::Tier:
        s = showNumber(tierVolts) + " V " + (yes.value_or(false) ? say("was there") : say("was not there")) + at;
        break;
    case What::Out:
    case What::In:
        s = whatWords(what) + " " + (atLeast && value ? say("at least {}", value->shown()) : voltsAndAmps(*this)) +
            tierWords(*this) + at;
        break;
    case What::Trip:
        s = (amps.value_or(0.0) > 0.0 ? say("gave way at {} A", showNumber(*amps, 3))
                                      : std::string(say("gave nothing"))) +
            at + (tierVolts > 0.0 ? say(" on the {} V tier", showNumber(tierVolts)) : "");
        break;
    case What::Together:
        s = say("gave {} in all from {}", (value ? value->shown() : say("power")), listed(others));
        return s;
    case What::PassThrough: s = whatWords(what) + ": " + words; break;
    case What::LowMode:
        s = yes.value_or(false) ? say("the low-current mode keeps it on")
                                : say("the low-current mode does not keep it on");
        break;
    case What::AutoOff: s = say("went to sleep at {} mA", showNumber(amps.value_or(0.0) * 1000.0, 3)); break;
    case What::TimeTo80:
    case What::TimeTo100:
    case What::Energy: s = whatWords(what) + " " + (value ? value->shown() : std::string("something")) + at; break;
    case What::Charges: return say("charges {} {} times", device, (value ? value->shown() : say("some")));
    case What::DeviceTo80:
        s = say("brings {} to 80 % in {}{}", device, (value ? value->shown() : say("some time")), at);
        break;
    case What::DevicePace:
        s = say("charges {} by {} an hour{}", device, (value ? value->shown() : say("some points")), at);
        break;
    case What::DeviceHeat: s = say("warms {} to {}{}", device, (value ? value->shown() : say("something")), at); break;
    }
    if (!others.empty())
        s = say("{} with {} in use", s, listed(others));
    if (charging)
        s = say("{} while it was charged", s);
    return s;
}

Working voltsWorking(const Facts& facts, const std::string& label, double volts, double amps) {
    Working w;
    w.key = key::tierVolts;
    w.label = label;
    w.value = meteredVolts(volts, 0.0, facts);
    if (facts.pathOhms) // the volts are at the port already; the path's doubt is theirs
        w.value = w.value + Measured(amps) * (*facts.pathOhms - Measured(facts.pathOhms->value()));
    w.unit = Unit::Volt;
    w.point = facts.pathOhms ? say("bank out") : "meter";
    w.formula = say("read at {} A", showNumber(amps, 3));
    w.partialDoubt = !w.value.hasDoubt();
    return w;
}

Working wattsWorking(const Facts& facts, const std::string& label, double volts, double amps) {
    Working w;
    w.key = key::watts;
    w.label = label;
    w.value = meteredVolts(volts, 0.0, facts) * meteredAmps(amps, 0.0, facts);
    w.unit = Unit::Watt;
    w.point = say("bank out");
    w.formula = showNumber(volts, 4) + " V × " + showNumber(amps, 3) + " A";
    w.partialDoubt = !w.value.hasDoubt();
    return w;
}

LimitedBy limitedBySource(const Observation& o) {
    return o.sourceWatts && o.value->value.value() >= label::kPowerGiven * *o.sourceWatts ? LimitedBy::Source
                                                                                          : LimitedBy::Unknown;
}

std::optional<ChargerExcuse> chargerExcuse(const Measured& took, double claimed, std::optional<double> chargerWatts,
                                           std::optional<Watts> needed) {
    constexpr double kNearly = 0.98; // of what is needed: chargers print round figures
    const std::string claim = showDuration(claimed);
    if (took.value() + took.expanded() <= claimed)
        return std::nullopt;
    if (!chargerWatts)
        return ChargerExcuse{
            false, say("what the charger can give is not stated, and the claim of {} needs a fitting one", claim)};
    if (needed && *chargerWatts < kNearly * needed->value)
        return ChargerExcuse{
            true, say("the claim of {} needs {} W and the charger gives at most {} W; the charger is the bottleneck",
                      claim, showNumber(needed->value, 3), showNumber(*chargerWatts, 3))};
    return std::nullopt;
}

} // namespace otterstone::kinds
