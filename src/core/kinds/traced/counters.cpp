// A run of which nothing but the meter's counters was kept.
#include <cmath>

#include "core/kinds/figure_keys.h"
#include "core/kinds/traced/context.h"
#include "core/path/meter_errors.h"
#include "core/quantity/say.h"

namespace otterstone::kinds {

namespace {

constexpr double kAgreement = 0.03;

// Half of the last digit that was written cannot be told here, so only gains weigh; offsets need the time, which may be
// kept.
Measured withMeter(double wattHours, const Counters& n, const Setup& s, Kind kind) {
    Measured m(wattHours);
    const std::string& name = s.meter.name;
    const path::OperatingPoint at{n.meanVolts.value_or(0.0),
                                  n.milliampHours && n.seconds && *n.seconds > 0.0 ? *n.milliampHours * 3.6 / *n.seconds
                                                                                   : 0.0,
                                  kind == Kind::Recharge};
    const auto meters = [&](const char* what, double u) { m = path::withInstrument(m, name, what, u, at); };
    if (const auto volts = s.meter.voltsUpTo(n.meanVolts.value_or(0.0))) {
        meters("volts gain", wattHours * rectangular(volts->gain));
        if (n.milliampHours)
            meters("volts offset", *n.milliampHours / 1000.0 * rectangular(volts->offset));
    }
    if (const auto amps = s.meter.ampsUpTo(0.0)) {
        meters("amps gain", wattHours * rectangular(amps->gain));
        if (n.seconds && n.meanVolts)
            meters("amps offset", *n.meanVolts * *n.seconds / 3600.0 * rectangular(amps->offset));
    }
    if (s.meter.clock)
        m = m.with(ErrorSource::ofInstrument(name, "clock"), wattHours * rectangular(*s.meter.clock));
    for (const Contribution& c : s.clock.contributions())
        m = m.with(c.source, wattHours * c.u / s.clock.value());
    return m;
}

} // namespace

Result<Finding> analyseCounters(const Counters& n, Kind kind, const Setup& s) {
    const char* mend = "Write down Wh, or mAh and the mean volts; a figure that was not read stays empty.";
    std::optional<double> product;
    if (n.milliampHours && n.meanVolts)
        product = *n.milliampHours / 1000.0 * *n.meanVolts;
    if (!n.wattHours && !product)
        return problem("too_few_counters", s.logName, "energy cannot be told from these counters.", mend);
    if (n.wattHours.value_or(1.0) <= 0.0 || n.milliampHours.value_or(1.0) <= 0.0 || n.meanVolts.value_or(1.0) <= 0.0)
        return problem("counters_not_positive", s.logName, "a counter must be above 0.", mend);
    if (n.wattHours && product && std::fabs(*product / *n.wattHours - 1.0) > kAgreement)
        return problem("counters_disagree", s.logName,
                       say("{} mAh × {} V is {} Wh, not {}.", showNumber(*n.milliampHours), showNumber(*n.meanVolts),
                           showNumber(*product, 4), showNumber(*n.wattHours)),
                       "One of the three was misread; or the volts are not the mean, which is Wh ÷ Ah.");
    const double clock = s.clock.value(); // energy and charge grow with the time that truly passed
    Finding f;
    f.kind = kind;
    f.point = s.point;
    f.durationSeconds = n.seconds.value_or(0.0) * clock;
    f.wattHours = withMeter(n.wattHours.value_or(product.value_or(0.0)) * clock, n, s, kind);
    if (n.milliampHours)
        f.milliampHours = Measured(*n.milliampHours * clock);
    if (n.meanVolts || n.milliampHours)
        f.meanVolts = Measured(n.meanVolts ? *n.meanVolts : *n.wattHours / *n.milliampHours * 1000.0);
    f.onSeconds = f.durationSeconds;
    if (n.seconds && *n.seconds > 0.0)
        f.meanWatts = f.wattHours * Measured(3600.0 / f.durationSeconds);
    f.plateauPower = f.meanWatts.value();
    f.plateauVolts = f.meanVolts ? f.meanVolts->value() : 0.0;
    f.plateauAmps = f.plateauVolts > 0.0 ? f.plateauPower / f.plateauVolts : 0.0;

    Working read;
    read.key = key::energyWh;
    read.label = say("energy at the {}", path::pointWords(f.point));
    read.value = f.wattHours;
    read.unit = Unit::WattHour;
    read.point = path::pointWords(f.point);
    read.formula = n.wattHours ? std::string(say("the counter's own Wh"))
                               : say("{} mAh × {} V ÷ 1000", showNumber(*n.milliampHours), showNumber(*n.meanVolts));
    if (clock != 1.0)
        read.formula = say("{} × {} for the clock", read.formula, showNumber(clock, 6));
    read.note = say("counters alone: phases, interruptions and the end of the run are unknown");
    const std::string accuracy = path::showMeter(s.meter);
    read.parts = {remark("accuracy of the meter", accuracy.empty() ? say("not stated") : accuracy)};

    f.portWattHours = f.wattHours;
    const bool drain = kind == Kind::Drain;
    if (s.pathOhms && s.point == path::Point::Meter && f.meanVolts && n.seconds && *n.seconds > 0.0) {
        // Without samples the mean current stands in for ∫I² dt, which is at least that: a loss is understated, never
        // overstated.
        const double hours = f.durationSeconds / 3600.0;
        const double amps = f.wattHours.value() / f.meanVolts->value() / hours;
        const Measured loss = *s.pathOhms * Measured(amps * amps * hours);
        f.portWattHours = drain ? f.wattHours + loss : f.wattHours - loss;
        f.referred = true;
    }
    Working port = read;
    port.key = key::energyAtPortWh;
    port.label = drain ? say("energy out of the port") : say("energy into the port");
    port.value = f.portWattHours;
    port.point = drain ? say("bank out") : say("bank in");
    port.formula = f.referred ? say("counted, and the cable's loss at the mean current")
                              : say("as read at the {}", path::pointWords(f.point));
    port.parts = {read};
    f.figures.push_back(port);
    f.points.push_back({f.point, true, s.byDisplay, read});

    const auto [counted, where] = countedEnergy(s, f);
    f.seen.stated = s.ends;
    f.seen.run = s.run;
    f.seen.counters = true;
    f.said.amount = f.said.amountInWh =
        quoted(s, counted, Unit::WattHour) + (where.empty() ? (drain ? say(" came out by the bank's own display")
                                                                     : say(" went in by the bank's own display"))
                                              : drain       ? say(" reached {}", where)
                                                            : say(" went into {}", where));
    if (s.rating)
        f.ratedWattHours = s.rating->energy.value;
    if (drain) {
        DrainFinding& d = f.drain.emplace();
        d.activeSeconds = f.durationSeconds;
        if (s.rating) {
            d.deliveredShare = counted / Measured(s.rating->energy.value);
            Working w;
            w.key = key::deliveredShare;
            w.label = say("delivered share");
            w.value = *d.deliveredShare;
            w.unit = Unit::Share;
            w.point = say("bank out");
            w.formula = say("{} ÷ {} Wh", showValue(counted, Unit::WattHour), showNumber(s.rating->energy.value));
            w.parts = {port, s.rating->working};
            f.figures.push_back(w);
            f.said.share = shareWords(showRoughly(d.deliveredShare->value(), Unit::Share), s.rating->printed,
                                      s.rating->energy.value);
        }
    } else {
        RechargeFinding& r = f.recharge.emplace();
        r.untilEndWattHours = f.portWattHours;
        r.plateauWatts = f.meanWatts;
    }
    if (f.durationSeconds > 0.0)
        f.said.time = showDuration(f.durationSeconds);
    f.said.restsOn = say(" From the meter's counters.");
    f.figures.push_back(read);
    const auto add = [&f](const char* key, Spoken label, const Measured& value, Unit unit, Spoken note = {}) {
        Working w;
        w.key = key;
        w.label = std::move(label).text();
        w.value = value;
        w.unit = unit;
        w.point = path::pointWords(f.point);
        w.note = std::move(note).text();
        f.figures.push_back(std::move(w));
    };
    if (f.milliampHours)
        add(key::chargeMah, "charge", *f.milliampHours, Unit::MilliampHour,
            say("at {}: mAh mean nothing without their voltage", showRoughly(f.meanVolts->value(), Unit::Volt)));
    if (f.meanVolts)
        add(key::meanVolts, "mean volts", *f.meanVolts, Unit::Volt);
    if (n.seconds)
        add(key::meanWatts, "mean watts", f.meanWatts, Unit::Watt);
    if (f.recharge)
        add(key::plateauWatts, "mean watts", f.meanWatts, Unit::Watt);
    f.warnings.push_back(
        {"counters_only", say("Only counters were kept: how the run went, and how it ended, is unknown.")});
    if (!s.meter.accuracyKnown()) {
        f.warnings.push_back({"meter_accuracy_unknown",
                              say("The meter's accuracy is not stated, so the uncertainty holds only what is known.")});
        markWithoutAccuracy(f);
    }
    return settled(std::move(f));
}

} // namespace otterstone::kinds
