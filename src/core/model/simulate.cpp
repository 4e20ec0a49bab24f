#include "core/model/simulate.h"

#include <algorithm>
#include <cmath>
#include <optional>

#include "core/model/bench.h"
#include "core/model/meter_errors.h"

namespace otterstone::model {

namespace {

constexpr double kThrottledWatts = 2.5;
constexpr double kLongestRun = 40.0 * 3600.0;
constexpr double kMainsVolts = 230.0;

// Writes what one meter shows, with errors fixed for the run.
class Recorder {
public:
    Recorder(const Reading& reading, const Station& station, std::uint64_t seed, trace::Trace& trace)
        : station_(station), digits_(digitsOf(reading, station)), errors_(station.meter, digits_, seed), trace_(trace) {
        trace_.voltsStep = digits_.volts;
        trace_.ampsStep = digits_.amps;
    }

    // What flows at the port; `towardsLoad` when the port gives.
    void record(double time, double portVolts, double amps, bool towardsLoad, double celsius, bool thermometer) {
        if (time < station_.startsAt)
            return;
        double volts = portVolts <= 0.0 ? 0.0 : portVolts + (towardsLoad ? -1.0 : 1.0) * amps * station_.ohms;
        if (station_.chargerEfficiency > 0.0) {
            amps = volts * amps / station_.chargerEfficiency / kMainsVolts;
            volts = kMainsVolts;
        }
        const auto shown = errors_.read(volts, amps);
        trace_.time.push_back((time - station_.startsAt) * station_.clockRuns);
        trace_.volts.push_back(shown.volts);
        trace_.amps.push_back(shown.amps);
        if (thermometer)
            trace_.temperature.push_back(rounded(celsius, 0.1));
    }

private:
    static Digits digitsOf(const Reading& reading, const Station& station) {
        if (station.chargerEfficiency > 0.0)
            return {0.1, 0.0001, reading.noiseVolts, 0.0};
        return {reading.voltsDigit, reading.ampsDigit, reading.noiseVolts, reading.noiseAmps};
    }

    const Station station_;
    const Digits digits_;
    MeterErrors errors_;
    trace::Trace& trace_;
};

// All meters of a run.
class Recorders {
public:
    Recorders(const Reading& reading, SimulatedRun& run, bool towardsLoad) : towardsLoad_(towardsLoad) {
        all_.reserve(1 + reading.also.size());
        all_.emplace_back(reading,
                          Station{path::Point::Meter, reading.meter, reading.pathOhms, 0.0, reading.clockRuns, 0.0},
                          reading.seed, run.trace);
        run.also.resize(reading.also.size());
        for (std::size_t k = 0; k < reading.also.size(); ++k)
            all_.emplace_back(reading, reading.also[k], reading.seed + 7919 * (k + 1), run.also[k]);
    }
    void record(double time, double portVolts, double amps, double celsius) {
        for (std::size_t k = 0; k < all_.size(); ++k)
            all_[k].record(time, portVolts, amps, towardsLoad_, celsius, k == 0);
    }

private:
    bool towardsLoad_;
    std::vector<Recorder> all_;
};

// The bank with one socket that gives or takes whatever volts the plan has.
Bench benchFor(Bank bank, double stateOfCharge, double ambient) {
    bank.ports = {Port{}};
    return {bank, stateOfCharge, ambient};
}

} // namespace

SimulatedRun drain(const Bank& bank, const DrainPlan& plan, const Reading& reading) {
    SimulatedRun run;
    Recorders meter(reading, run, true);
    Bench bench = benchFor(bank, plan.beginsAt, plan.ambient);
    const double dt = reading.sampleSeconds;
    double t = 0.0;
    for (; t < reading.idleBefore; t += dt)
        meter.record(t, plan.volts, 0.0, plan.ambient);

    const double started = t;
    const double stored = bench.bank().pack().storedWattHours();
    std::vector<std::pair<double, double>> display; // time, %
    bool byTester = false;
    run.truth.saidAtBegin = std::round(bench.bank().saysPercent());
    run.truth.beganAt = bench.bank().pack().stateOfCharge();
    const auto steps = static_cast<double>(plan.ampsSteps.size());
    bench.plugLoad(0, {0.0, 1e9}, {plan.volts, 1e9});
    for (; t - started < kLongestRun; t += dt) {
        // A device that fills takes less and less over its last third, and nothing below a tenth.
        const double left = plan.deviceTakes > 0.0 ? 1.0 - run.truth.portWattHours / plan.deviceTakes : 1.0;
        const double takes = std::clamp(3.0 * left, 0.0, 1.0);
        run.truth.deviceFull = takes < 0.1;
        byTester = (plan.stopAfter > 0.0 && t - started >= plan.stopAfter) || run.truth.deviceFull;
        if (byTester)
            break;
        const double amps = takes * (t - started < steps * plan.stepSeconds
                                         ? plan.ampsSteps[static_cast<std::size_t>((t - started) / plan.stepSeconds)]
                                         : plan.amps);
        bench.setLoad(0, {Load::Mode::ConstantCurrent, amps, true});
        const double celsius = bench.bank().heat().caseCelsius();
        const double says = bench.bank().saysPercent();
        bench.step(dt);
        run.truth.stoppedByHeat = bench.off(0) == Off::TooHot;
        const Flow& flow = bench.flow(0);
        if (flow.amps <= 0.0)
            break;
        meter.record(t, flow.portVolts, flow.amps, celsius);
        display.emplace_back(t, says);
        run.truth.portWattHours = bench.ledger().outOfPorts;
        run.truth.cellWattHours = stored - bench.bank().pack().storedWattHours();
        run.truth.lostWattHours = bench.bank().lostWattHours();
        run.truth.hottest = std::max(run.truth.hottest, bench.bank().heat().caseCelsius());
    }
    const double celsius = bench.bank().heat().caseCelsius();
    run.truth.seconds = t - started;
    run.truth.saidAtEnd = std::round(bench.bank().saysPercent());
    run.truth.endedAt = bench.bank().pack().stateOfCharge();
    using records::Mark;
    run.marks.push_back({started, Mark::What::Percent, run.truth.saidAtBegin, ""});
    for (double share : plan.percentMarksEvery) {
        const auto at = static_cast<std::size_t>(share * static_cast<double>(display.size()));
        if (at < display.size())
            run.marks.push_back({display[at].first, Mark::What::Percent, std::round(display[at].second), ""});
    }
    run.marks.push_back({t, Mark::What::Percent, run.truth.saidAtEnd, ""});
    if (run.truth.stoppedByHeat)
        run.marks.push_back({t, Mark::What::Trip, std::nullopt, "heat"});
    for (const double off = t; t < off + reading.idleAfter; t += dt)
        meter.record(t, byTester ? plan.volts : 0.0, 0.0, celsius);
    return run;
}

SimulatedRun recharge(const Bank& bank, const RechargePlan& plan, const Reading& reading) {
    SimulatedRun run;
    Recorders meter(reading, run, false);
    Bench bench = benchFor(bank, plan.beginsAt, plan.ambient);
    run.truth.beganAt = bench.bank().pack().stateOfCharge();
    run.truth.saidAtBegin = std::round(bench.bank().saysPercent());
    const double dt = reading.sampleSeconds;
    double t = 0.0;
    for (; t < reading.idleBefore; t += dt)
        meter.record(t, plan.volts, 0.0, plan.ambient);

    const double started = t;
    const double stored = bench.bank().pack().storedWattHours();
    Charger charger;
    charger.volts = plan.volts;
    charger.watts = plan.chargerWatts;
    bench.plugCharger(0, charger, {0.0, 1e9});
    bool gaveUp = false;
    std::optional<double> replugged;
    for (; t - started < kLongestRun; t += dt) {
        const double since = t - started;
        const bool throttled =
            plan.throttleFor > 0.0 && since >= plan.throttleFrom && since < plan.throttleFrom + plan.throttleFor;
        const double sinceError = plan.errorAfter > 0.0 ? since - plan.errorAfter : -1.0;
        if (sinceError >= 0.0 && !gaveUp) {
            gaveUp = true;
            bench.unplug(0);
        }
        if (gaveUp && !replugged) {
            if (plan.replugAfter <= 0.0)
                break;
            if (sinceError < plan.replugAfter) {
                bench.step(dt);
                meter.record(t, plan.volts, 0.0, bench.bank().heat().caseCelsius());
                continue;
            }
            bench.plugCharger(0, charger, {0.0, 1e9});
            replugged = t;
        }
        bench.limitCharger(0, throttled ? kThrottledWatts : 0.0);
        const double celsius = bench.bank().heat().caseCelsius();
        bench.step(dt);
        run.truth.full = bench.bank().full();
        if (run.truth.full)
            break;
        // The meters sit on the charger's side of the cable; the bank gets the tier's volts at its port.
        meter.record(t, plan.volts, bench.flow(0).amps, celsius);
        run.truth.portWattHours = bench.ledger().intoPorts;
        run.truth.cellWattHours = bench.bank().pack().storedWattHours() - stored;
        run.truth.lostWattHours = bench.bank().lostWattHours();
        run.truth.hottest = std::max(run.truth.hottest, bench.bank().heat().caseCelsius());
    }
    const double celsius = bench.bank().heat().caseCelsius();
    run.truth.seconds = t - started;
    using records::Mark;
    run.truth.endedAt = bench.bank().pack().stateOfCharge();
    run.truth.saidAtEnd = std::round(bench.bank().saysPercent());
    run.marks.push_back({started, Mark::What::Plugged, std::nullopt, ""});
    if (gaveUp)
        run.marks.push_back({started + plan.errorAfter, Mark::What::Trip, std::nullopt, "charger error"});
    if (replugged)
        run.marks.push_back({*replugged, Mark::What::Plugged, std::nullopt, "replug"});
    run.marks.push_back({t, Mark::What::Percent, run.truth.full ? 100.0 : run.truth.saidAtEnd, ""});
    for (const double done = t; t < done + reading.idleAfter; t += dt)
        meter.record(t, plan.volts, run.truth.full ? bank.idleInputWatts / plan.volts : 0.0, celsius);
    return run;
}

} // namespace otterstone::model
