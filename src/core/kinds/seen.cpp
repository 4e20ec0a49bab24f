#include "core/kinds/seen.h"

#include "core/kinds/parts.h"
#include "core/label/port_rules.h"
#include "core/quantity/format.h"
#include "core/quantity/say.h"

namespace otterstone::kinds {

Observation Seen::blank(What what, std::string port, double tierVolts, label::Way way) const {
    Observation o;
    o.what = what;
    o.way = way;
    o.port = std::move(port);
    o.tierVolts = tierVolts;
    o.run = sheet_.run;
    o.title = sheet_.title;
    return o;
}

Observation Seen::gave(const std::string& port, double tierVolts, double volts, double amps) const {
    Observation o = blank(label::outputGone(volts) ? What::Trip : What::Out, port, tierVolts);
    o.amps = amps;
    o.asked = amps;
    if (o.what == What::Trip) {
        o.limited = LimitedBy::Bank;
        return o;
    }
    o.volts = volts;
    o.limited = LimitedBy::Nobody;
    const std::string at = (port.empty() ? "" : say("{} at ", port)) + showNumber(tierVolts) + " V";
    o.level = voltsWorking(sheet_.facts, at, volts, amps);
    o.value = wattsWorking(sheet_.facts, at, volts, amps);
    return o;
}

Observation Seen::gaveAsRead(const std::string& port, double volts, double amps) const {
    const bool gone = label::outputGone(volts);
    const double atPort = !gone && sheet_.facts.pathOhms ? volts + amps * sheet_.facts.pathOhms->value() : volts;
    return gave(port, gone ? 0.0 : nearestTier(atPort), atPort, amps);
}

Observation Seen::took(const std::string& port, std::optional<double> volts, double watts) const {
    Observation o = blank(What::In, port, volts ? nearestTier(*volts) : 0.0, label::Way::In);
    o.volts = volts;
    if (volts && *volts > 0.0) {
        o.amps = watts / *volts;
        o.value = wattsWorking(sheet_.facts, port, *volts, *o.amps);
    } else {
        Working w;
        w.unit = Unit::Watt;
        w.value = Measured(watts);
        w.partialDoubt = true;
        o.value = std::move(w);
    }
    o.value->key = "watts_in";
    o.value->point = say("bank in");
    return o;
}

} // namespace otterstone::kinds
