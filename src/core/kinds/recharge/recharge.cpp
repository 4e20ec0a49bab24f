// D5: what a recharge says about the bank.
#include "core/kinds/traced/context.h"

#include <algorithm>
#include <array>
#include <cmath>

#include "core/kinds/figure_keys.h"
#include "core/kinds/parts.h"
#include "core/path/meter_errors.h"
#include "core/quantity/say.h"

namespace otterstone::kinds {

namespace {

// How far the errors of the meter move the moment at which the power falls below what counts as full, in s: a flat
// taper crosses it late or early.
double endSlip(const Context& c, double end) {
    const double level = c.setup.full.share * c.plateau.watts;
    if (c.setup.full.at || !c.trace.hasCurrent())
        return 0.0;
    const auto moment = [&](double share, bool last) { // last above, or first below, that share of the level
        const auto from = static_cast<std::size_t>(std::lower_bound(c.trace.time.begin(), c.trace.time.end(), end) -
                                                   c.trace.time.begin());
        std::size_t k = std::min(from, c.trace.size() - 1);
        if (last) {
            while (k > 0 && c.trace.power(k) < share * level)
                --k;
        } else {
            while (k + 1 < c.trace.size() && c.trace.power(k) > share * level)
                ++k;
        }
        return c.trace.time[k];
    };
    const double wide = moment(0.7, false) - moment(1.3, true);
    const auto amps = c.setup.meter.ampsUpTo(c.plateau.amps);
    const double offset = std::hypot(amps ? rectangular(amps->offset + amps->digits * c.trace.ampsStep) : 0.0,
                                     c.trace.ampsStep / std::sqrt(12.0));
    return wide * c.plateau.volts * offset / (0.6 * level);
}

double sumOf(const std::vector<trace::Phase>& phases, trace::PhaseKind kind) {
    double seconds = 0.0;
    for (const trace::Phase& p : phases)
        seconds += p.kind == kind ? p.to - p.from : 0.0;
    return seconds;
}

// Watts that the bank takes, at its port where the cable is known.
Measured wattsTaken(const Context& c, const Finding& f) {
    const Setup& s = c.setup;
    const path::OperatingPoint at{c.plateau.volts, c.plateau.amps, true};
    Measured watts = f.wattHours * Measured(c.plateau.watts /
                                            f.wattHours.value()); // of watts alone the gains are known, and weigh alike
    if (c.trace.hasCurrent()) {
        const auto volts = s.meter.voltsUpTo(c.plateau.volts), amps = s.meter.ampsUpTo(c.plateau.amps);
        // A level stands on one digit for long, unless it moves: at most half a digit, and it is a level, so that
        // counts.
        const Measured v =
            path::withAccuracy(c.plateau.volts, path::Quantity::Volts, volts, c.trace.voltsStep, s.meter.name, at)
                .with(ErrorSource::ofRun(s.run, "volts digits of the level"), c.trace.voltsStep / std::sqrt(12.0));
        const Measured i =
            path::withAccuracy(c.plateau.amps, path::Quantity::Amps, amps, c.trace.ampsStep, s.meter.name, at)
                .with(ErrorSource::ofRun(s.run, "amps digits of the level"), c.trace.ampsStep / std::sqrt(12.0));
        watts = combine(c.plateau.watts, std::array{Sensitivity{&v, c.plateau.amps}, Sensitivity{&i, c.plateau.volts}});
        if (s.pathOhms && s.point == path::Point::Meter)
            watts = watts - *s.pathOhms * i * i;
    }
    return watts;
}

// The moment at which a share was in, from the start of charging. `byPower`: its end was told by the power that fell.
Measured timeTo(const Context& c, const trace::RechargePhases& phases, const trace::RechargePhases::Reached& reached,
                bool byPower) {
    const double end = phases.end.value_or(c.trace.time.back());
    const std::size_t k =
        std::min(static_cast<std::size_t>(std::lower_bound(c.trace.time.begin(), c.trace.time.end(), reached.at) -
                                          c.trace.time.begin()),
                 c.trace.size() - 1);
    Measured span = reached.at - *phases.start;
    if (reached.share < 1.0)
        span = shareSpan(
            {*phases.start, reached.at, end, reached.share, std::max(c.trace.power(k), 0.05 * c.plateau.watts)},
            c.trace, c.totals, c.blocks, readOf(c.setup, Kind::Recharge));
    else
        span =
            span.with(ErrorSource::ofRun(c.setup.run, "the end of charge"),
                      phases.end ? std::hypot(phases.uEnd, byPower ? endSlip(c, end) : 0.0) : c.step / std::sqrt(12.0));
    // Who writes by hand begins with the first row; a log may begin about a step late.
    const bool asWritten = c.setup.hand && *phases.start == c.trace.time.front();
    return onTrueClock(
        c, span.with(ErrorSource::ofRun(c.setup.run, "the start of charging"), asWritten ? 0.0 : phases.uStart));
}

// The claim is held against the time only if the charger could give what the claim needs.
void holdAgainstClaim(const Context& c, Finding& f) {
    const Setup& s = c.setup;
    RechargeFinding& r = *f.recharge;
    if (!s.claimedRecharge)
        return;
    Working w;
    w.key = key::againstClaim;
    const std::string claim = showDuration(s.claimedRecharge->value * 3600.0);
    const auto notTested = [&](std::string why) {
        r.claimNotTested = std::move(why);
        w = remark("against the claim", say("not tested: {}", r.claimNotTested));
        w.key = key::againstClaim;
    };
    const double claimed = s.claimedRecharge->value * 3600.0;
    double stopped = 0.0;
    for (const trace::Stretch& stop : r.stops)
        stopped += stop.length();
    if (!r.endOfCharge || !r.timeTo100) {
        notTested(say("the end of charge was not seen, so {} can be neither met nor missed", claim));
    } else if (const auto excuse = chargerExcuse(*r.timeTo100, claimed,
                                                 s.chargerWatts ? std::optional(s.chargerWatts->value) : std::nullopt,
                                                 s.claimedInput)) {
        notTested(excuse->words);
        if (excuse->tooSmall)
            f.warnings.push_back(
                {"charger_too_small",
                 say("The charger was too small for the claimed recharge time; the claim is not tested.")});
    } else if (stopped > 0.0 && r.timeTo100->value() > claimed) {
        notTested(
            say("it stood still for {} on its way, and took longer than {} with that", showDuration(stopped), claim));
    } else {
        r.claimTested = true;
        r.againstClaim = r.timeTo100->value() / claimed;
        w.label = say("time against the claim");
        w.value = *r.timeTo100 / Measured(claimed);
        w.unit = Unit::Share;
        w.formula = showValue(*r.timeTo100, Unit::Second) + " ÷ " + claim;
        w.note = say("100 % is just what is printed");
    }
    f.figures.push_back(std::move(w));
}

// The pieces of its sentence.
SaidOfRun saidOf(const Setup& setup, const Finding& f) {
    const RechargeFinding& r = *f.recharge;
    const auto [counted, where] = countedEnergy(setup, f);
    SaidOfRun s;
    const std::string wh = quoted(setup, counted, Unit::WattHour);
    s.amount = s.amountInWh =
        where.empty() ? say("{} went in by the bank's own display", wh) : say("{} went into {}", wh, where);
    if (r.endOfCharge && r.timeTo100)
        s.time = showValue(*r.timeTo100, Unit::Second);
    else if (f.durationSeconds > 0.0)
        s.time = showDuration(r.brokeOff ? f.onSeconds : f.durationSeconds);
    if (r.timeTo80 && setup.schools.speedTo == SpeedTo::Eighty)
        s.timeTo80 = showValue(*r.timeTo80, Unit::Second);
    if (!setup.meter.accuracyKnown() && !setup.byDisplay)
        s.restsOn = say(" The meter's accuracy is not stated.");
    return s;
}

// When the bank is full, as the other schools have it.
std::optional<double> displaySaysFull(const Context& c) {
    for (std::size_t k = 0; k < c.trace.percent.size(); ++k) {
        if (c.trace.percent[k] >= 100.0)
            return c.trace.time[k];
    }
    for (const Mark& m : c.setup.marks) {
        if (m.what == Mark::What::Percent && m.number && *m.number >= 100.0)
            return m.at * c.setup.clock.value();
    }
    return std::nullopt;
}

// The first moment after which ten minutes bring less than 0.2 % more.
std::optional<double> energyStopsGrowing(const Context& c) {
    constexpr double kWait = 600.0, kShare = 0.002;
    // Both moments only go forward: each walks through the samples once.
    struct Walk {
        const Context& c;
        std::size_t k;
        double energy = c.running.upTo(k);
        double to(double t) { // within a step, which may be longer than the wait, power is a line
            for (; k + 1 < c.trace.size() && c.trace.time[k + 1] <= t; ++k)
                energy += c.running.step(k);
            const double dt = k + 1 < c.trace.size() ? c.trace.time[k + 1] - c.trace.time[k] : 0.0;
            const double x = dt > 0.0 ? std::max(0.0, t - c.trace.time[k]) / dt : 0.0;
            if (x <= 0.0)
                return energy;
            const double from = c.trace.power(k), by = c.trace.power(k + 1) - from;
            return energy + (from + by * x / 2.0) * x * dt / 3600.0;
        }
    };
    // Not before half of it is in: a slow start is no end.
    double at = c.running.momentOf(c.totals.wattHours / 2.0);
    const auto after = std::upper_bound(c.trace.time.begin(), c.trace.time.end(), at) - c.trace.time.begin();
    const auto half = static_cast<std::size_t>(std::max<std::ptrdiff_t>(0, after - 1));
    Walk here{c, half}, later{c, half};
    for (; at + kWait <= c.trace.time.back(); at += std::max(30.0, c.step)) {
        const double now = here.to(at);
        if (later.to(at + kWait) - now < kShare * now)
            return at;
    }
    return std::nullopt;
}

Working fullAfter(const Finding& f, const Measured& span, const char* school, std::string formula,
                  const std::string& note) {
    Working w = timeWorking(key::timeTo100, say("time to full"), span, note);
    w.formula = std::move(formula);
    w.point = path::pointWords(f.point);
    w.school = school;
    return w;
}

// B3 beside what was measured.
void holdAgainstPrediction(const Context& c, Finding& f) {
    if (!c.setup.predicted)
        return;
    Working w = c.setup.predicted->working;
    const auto why = whyBelow(Watts(f.recharge->plateauWatts.value()), *c.setup.predicted);
    if (!why.empty()) {
        std::string text =
            say("Measured {} W where charger, cable and bank can agree on {} W: why?",
                showNumber(f.recharge->plateauWatts.value(), 3), showNumber(c.setup.predicted->best.watts().value, 3));
        for (const std::string& question : why)
            text += " " + question;
        f.warnings.push_back({"below_predicted", text});
        w.note = say("{}; measured {} W, which asks why", w.note, showNumber(f.recharge->plateauWatts.value(), 3));
    }
    f.figures.push_back(std::move(w));
}

} // namespace

void findRecharge(const Context& c, Finding& f) {
    // When is it full: the rule of power is always worked out, the house may go by another.
    const trace::RechargePhases byPower = rechargePhases(c.trace, c.plateau, c.running, c.setup.full);
    const auto said = displaySaysFull(c);
    const auto stops = energyStopsGrowing(c);
    trace::FullRule rule = c.setup.full;
    if (c.setup.schools.fullWhen == FullWhen::GaugeSays)
        rule.at = said;
    else if (c.setup.schools.fullWhen == FullWhen::EnergyStops)
        rule.at = stops;
    // Some stop charging all at once: then the tester's word stands, that it was full when the power went.
    const StatedEnds& stated = c.setup.ends;
    const bool full = stated.ending == Ending::Full ||
                      (!stated.ending && stated.ended && stated.ended->state && stated.ended->state->isFull());
    const bool bySchool = rule.at.has_value(), byWord = full && !bySchool && !byPower.end;
    double unseen = 0.0; // s, between the last reading with power, by hand, and the moment at which it was said
    if (byWord) {
        rule.at = byPower.brokeOff.value_or(c.trace.time.back());
        std::size_t k = c.trace.size() - 1;
        while (k > 0 && (c.trace.time[k] >= *rule.at || c.trace.power(k) < rule.share * c.plateau.watts))
            --k;
        unseen = c.setup.hand ? *rule.at - c.trace.time[k] : 0.0;
    }
    const trace::RechargePhases phases = rule.at ? rechargePhases(c.trace, c.plateau, c.running, rule) : byPower;
    RechargeFinding& r = f.recharge.emplace();
    f.phases = phases.phases;
    f.tierChanges = phases.tierChanges;
    r.bulkSeconds = sumOf(phases.phases, trace::PhaseKind::Bulk);
    r.taperSeconds = sumOf(phases.phases, trace::PhaseKind::Taper);
    r.endOfCharge = phases.end;
    r.brokeOff = phases.brokeOff;
    r.throttles = phases.throttles;
    r.stops = phases.stops;
    for (const trace::Stretch& stop : r.stops)
        r.restarts.push_back(restartOf(c, stop));
    const double begun = phases.start.value_or(c.trace.time.front());
    f.seen.began = signNear(c, begun, false);
    const double last = phases.end.value_or(byPower.brokeOff.value_or(c.trace.time.back()));
    f.seen.ended = signNear(c, last, true);
    f.seen.ending = byPower.end || (bySchool && phases.end) ? Ending::Full
                    : byPower.brokeOff                      ? Ending::SourceGone
                                                            : Ending::LogEnds;
    if (byPower.brokeOff && phases.start)
        f.seen.brokeOffAfter = *byPower.brokeOff - *phases.start;
    // A bank that is full says so by its taper; what is stamped then is what was done to it.
    if (const auto stamped = stampedEnding(c, last); stamped && f.seen.ending != Ending::Full) {
        f.seen.ending = *stamped == Ending::DeviceFull ? Ending::Full : *stamped;
        f.seen.stamped = true;
    }
    r.plateauWatts = wattsTaken(c, f);
    if (phases.start) {
        for (const auto& reached : phases.reached)
            (reached.share < 0.6   ? r.timeTo50
             : reached.share < 0.9 ? r.timeTo80
                                   : r.timeTo100) = timeTo(c, phases, reached, !rule.at);
        if (unseen > 0.0 && r.timeTo100)
            r.timeTo100 = (*r.timeTo100 - Measured(unseen / 2.0))
                              .with(ErrorSource::ofRun(c.setup.run, "between the readings: the bank full"),
                                    rectangular(unseen / 2.0));
        const double until = phases.end.value_or(phases.brokeOff.value_or(c.trace.time.back()));
        if (until > *phases.start)
            setMeanWatts(c, f, f.wattHours * Measured(phases.wattHoursUntilEnd / c.totals.wattHours),
                         until - *phases.start);
    }

    const std::string of = phases.end ? say("of the energy put in until the end of charge")
                                      : say("of the energy put in until the log ended: the end of charge was not seen");
    const double untilEnd = phases.wattHoursUntilEnd / c.totals.wattHours;
    r.untilEndWattHours = f.portWattHours * Measured(untilEnd);
    for (const PointFigure& p : f.points) {
        if (p.point == path::Point::Wall)
            r.wallWattHours = p.energy.value * Measured(untilEnd);
    }
    if (phases.end && c.trace.time.back() - *phases.end >= 60.0)
        r.idleWatts = phases.phases.back().wattHours * 3600.0 / (c.trace.time.back() - *phases.end);

    addEnergyFigures(c, f);
    const auto time = [&](const char* key, Spoken label, const std::optional<Measured>& t) {
        if (!t)
            return;
        Working w = timeWorking(key, std::move(label), *t, of);
        w.formula = say("moment at which that share of {} Wh was in", showNumber(phases.wattHoursUntilEnd, 4));
        w.point = path::pointWords(f.point);
        w.parts = {energyWorking(c, f)};
        f.figures.push_back(std::move(w));
    };
    time(key::timeTo80, "time to 80 %", r.timeTo80);
    time(key::timeTo100, phases.end ? "time to full" : "time to the end of the log", r.timeTo100);
    if (byWord && r.timeTo100) {
        f.figures.back().formula = say("when it was said to be full");
    } else if (phases.end && phases.start) {
        std::vector<Working> all;
        if (byPower.end)
            all.push_back(fullAfter(f, rule.at ? measuredSpan(c, *byPower.end - *phases.start) : *r.timeTo100,
                                    "power_low",
                                    say("power below {} % of the plateau for {}",
                                        showNumber(c.setup.full.share * 100.0), showDuration(c.setup.full.seconds)),
                                    of));
        if (said && *said > *phases.start)
            all.push_back(fullAfter(f, measuredSpan(c, *said - *phases.start), "gauge_says",
                                    say("the display first said 100 %"), say("the display is itself under test")));
        if (stops && *stops > *phases.start)
            all.push_back(fullAfter(f, measuredSpan(c, *stops - *phases.start), "energy_stops",
                                    say("the next ten minutes bring less than 0.2 % more"), of));
        if (!all.empty()) {
            for (Working& w : all)
                w.parts = {energyWorking(c, f)};
            f.figures.back() = ledBy("full_when", answerOf(c.setup.schools, "full_when"), std::move(all));
        }
    }
    // Which of both a house compares by.
    if (r.timeTo80 && r.timeTo100) {
        const auto to80 =
            std::find_if(f.figures.begin(), f.figures.end(), [](const Working& w) { return w.key == key::timeTo80; });
        Working eighty = *to80, hundred = f.figures.back();
        eighty.school = "80";
        hundred.others.clear();
        hundred.school = "100";
        Working speed = ledBy("speed_to", answerOf(c.setup.schools, "speed_to"), {eighty, hundred});
        speed.key = key::chargeSpeed;
        speed.label = say("charge speed: {}", speed.label);
        f.figures.insert(to80, std::move(speed));
    }
    time(key::timeTo50, "time to 50 %", r.timeTo50);
    Working plateau;
    plateau.key = key::plateauWatts;
    plateau.label = say("plateau watts");
    plateau.value = r.plateauWatts;
    plateau.unit = Unit::Watt;
    plateau.point = c.setup.pathOhms && c.setup.point == path::Point::Meter && c.trace.hasCurrent()
                        ? path::pointWords(path::Point::BankIn)
                        : path::pointWords(f.point);
    plateau.formula = say("mean of the readings at the level above which a quarter of the energy flowed") +
                      std::string(plateau.point == path::pointWords(f.point) ? "" : " − R·I²");
    f.figures.push_back(plateau);
    f.figures.push_back(timeWorking("bulk_s", say("bulk"), measuredSpan(c, r.bulkSeconds),
                                    "power at 90 % of the plateau or more, throttled stretches not counted"));
    if (!r.stops.empty() && phases.start) {
        double stopped = 0.0;
        for (const trace::Stretch& stop : r.stops)
            stopped += stop.length();
        f.figures.push_back(timeWorking("charging_s", say("time it charged"), measuredSpan(c, f.onSeconds - stopped),
                                        say("without the {} in which it stood still", showDuration(stopped))));
        std::string text = say("It stood still {}{}", std::to_string(r.stops.size()),
                               (r.stops.size() == 1 ? say(" time and went on:") : say(" times and went on:")));
        for (std::size_t k = 0; k < r.stops.size() && k < 5; ++k)
            text = say("{}{}for {} after {}{}", text, (k == 0 ? " " : "; "), showDuration(r.stops[k].length()),
                       showDuration(r.stops[k].from - *phases.start),
                       (r.restarts[k].empty() ? "" : " (" + r.restarts[k] + ")"));
        f.warnings.push_back({"stood_still", text + "."});
    }
    f.figures.push_back(
        timeWorking("taper_s", say("taper"), measuredSpan(c, r.taperSeconds), "from the end of bulk until full"));
    if (r.idleWatts) {
        Working w;
        w.key = key::idleWatts;
        w.label = say("drawn when full");
        w.value = Measured(*r.idleWatts);
        w.partialDoubt = true; // few samples of a small current: the meter's offset is most of its doubt
        w.unit = Unit::Watt;
        w.point = path::pointWords(f.point);
        w.formula = say("{} Wh ÷ {}", showNumber(phases.phases.back().wattHours, 3),
                        showDuration(c.trace.time.back() - *phases.end));
        w.note = say("mean from the end of charge to the end of the log");
        f.figures.push_back(std::move(w));
    }
    holdAgainstClaim(c, f);
    if (r.endOfCharge)
        r.againstDisplay = addTimeLeft(c, f, *r.endOfCharge);
    holdAgainstPrediction(c, f);
    const double start = phases.start.value_or(c.trace.time.front());
    addGauge(c, f, start, phases.end.value_or(c.trace.time.back()), phases.end.has_value());
    addHeat(c, f, start, phases.end.value_or(c.trace.time.back()),
            phases.taperStart.value_or(phases.end.value_or(c.trace.time.back())));

    if (phases.brokeOff)
        f.warnings.push_back({"broke_off", say("The power broke off at {} from its full level, without a taper.",
                                               showDuration(*phases.brokeOff - phases.start.value_or(0.0)))});
    else if (!phases.end)
        f.warnings.push_back({"end_of_charge_not_seen",
                              say("The record ends before the power stayed below {} % of the plateau for {}.",
                                  showNumber(c.setup.full.share * 100.0), showDuration(c.setup.full.seconds))});
    const auto slowed =
        static_cast<std::size_t>(std::count_if(r.throttles.begin(), r.throttles.end(), [&](const trace::Stretch& t) {
            return std::none_of(r.stops.begin(), r.stops.end(),
                                [&](const trace::Stretch& s) { return s.from < t.to && t.from < s.to; });
        }));
    if (slowed > 0)
        f.warnings.push_back(
            {"throttled", say("The power dropped and came back {} while in bulk.", counted(slowed, "time", "times"))});
    f.said = saidOf(c.setup, f);
}

} // namespace otterstone::kinds
