#include "core/model/simulate.h"

#include <algorithm>
#include <cmath>
#include <random>

namespace otterstone::model {

namespace {

constexpr double kThrottledWatts = 2.5;
constexpr double kLongestRun = 40.0 * 3600.0;
constexpr double kHeatCapacityFloor = 1.0; // seconds; keeps the explicit heat step stable

// Cell current that takes (or, charging, gives) `watts` at the terminals. Discharging: i·(ocv − i·R) = watts.
double dischargeAmps(double ocv, double ohms, double watts) {
    const double root = ocv * ocv - 4.0 * ohms * watts;
    return root <= 0.0 ? ocv / (2.0 * ohms) : (ocv - std::sqrt(root)) / (2.0 * ohms);
}

double chargeAmps(double ocv, double ohms, double watts) {
    return (std::sqrt(ocv * ocv + 4.0 * ohms * watts) - ocv) / (2.0 * ohms);
}

constexpr double kMainsVolts = 230.0;

// Writes what one meter shows, with errors fixed for the run.
class Recorder {
public:
    Recorder(const Reading& reading, const Station& station, std::uint64_t seed, trace::Trace& trace)
        : reading_(reading), station_(station), trace_(trace), random_(seed) {
        const auto within = [this](double half) { return std::uniform_real_distribution<double>(-half, half)(random_); };
        const path::Meter& meter = station.meter;
        if (meter.volts) {
            voltsGain_ = within(meter.volts->gain);
            voltsOffset_ = within(meter.volts->offset);
        }
        if (meter.amps) {
            ampsGain_ = within(meter.amps->gain);
            ampsOffset_ = within(meter.amps->offset);
        }
        trace_.voltsStep = wall() ? 0.1 : reading.voltsDigit;
        trace_.ampsStep = wall() ? 0.0001 : reading.ampsDigit;
    }

    // What flows at the port; `towardsLoad` when the port gives.
    void record(double time, double portVolts, double amps, bool towardsLoad, double celsius, bool thermometer) {
        if (time < station_.startsAt)
            return;
        double volts = portVolts + (towardsLoad ? -1.0 : 1.0) * amps * station_.ohms;
        if (portVolts <= 0.0)
            volts = 0.0;
        if (wall()) {
            amps = volts * amps / station_.chargerEfficiency / kMainsVolts;
            volts = kMainsVolts;
        }
        std::normal_distribution<double> noise;
        const double v = volts * (1.0 + voltsGain_) + (volts > 0.0 ? voltsOffset_ : 0.0) + noise(random_) * reading_.noiseVolts;
        const double i = amps * (1.0 + ampsGain_) + (amps > 0.0 ? ampsOffset_ : 0.0) + noise(random_) * (wall() ? 0.0 : reading_.noiseAmps);
        trace_.time.push_back((time - station_.startsAt) * station_.clockRuns);
        trace_.volts.push_back(digit(std::max(0.0, v), trace_.voltsStep));
        trace_.amps.push_back(digit(std::max(0.0, i), trace_.ampsStep));
        if (thermometer)
            trace_.temperature.push_back(digit(celsius, 0.1));
    }

private:
    [[nodiscard]] bool wall() const { return station_.chargerEfficiency > 0.0; }
    // Decimal digits as a log has them: 5.123, not the nearest multiple of a binary 0.001.
    static double digit(double value, double step) { return std::round(value / step) / std::round(1.0 / step); }

    const Reading& reading_;
    const Station station_;
    trace::Trace& trace_;
    std::mt19937_64 random_;
    double voltsGain_ = 0.0, voltsOffset_ = 0.0, ampsGain_ = 0.0, ampsOffset_ = 0.0;
};

// All meters of a run.
class Recorders {
public:
    Recorders(const Reading& reading, SimulatedRun& run, bool towardsLoad) : towardsLoad_(towardsLoad) {
        all_.reserve(1 + reading.also.size());
        all_.emplace_back(reading, Station{path::Point::Meter, reading.meter, reading.pathOhms, 0.0, reading.clockRuns, 0.0}, reading.seed, run.trace);
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

class Heat {
public:
    Heat(const Thermal& thermal, double ambient) : thermal_(thermal), ambient_(ambient), celsius_(ambient) {}
    void step(double watts, double dt) {
        const double settled = ambient_ + watts * thermal_.kelvinPerWatt;
        celsius_ += (settled - celsius_) * (1.0 - std::exp(-dt / std::max(kHeatCapacityFloor, thermal_.seconds)));
    }
    [[nodiscard]] double celsius() const { return celsius_; }

private:
    const Thermal& thermal_;
    double ambient_;
    double celsius_;
};

} // namespace

SimulatedRun drain(const Bank& bank, const DrainPlan& plan, const Reading& reading) {
    SimulatedRun run;
    Recorders meter(reading, run, true);
    Heat heat(bank.thermal, plan.ambient);
    const double dt = reading.sampleSeconds;
    const Cells& cells = bank.cells;
    double soc = 1.0;
    double shown = bank.gauge.says(1.0);
    std::vector<std::pair<double, double>> display; // time, %
    double t = 0.0;
    for (; t < reading.idleBefore; t += dt)
        meter.record(t, plan.volts, 0.0, heat.celsius());

    const double started = t;
    bool byTester = false;
    const auto steps = static_cast<double>(plan.ampsSteps.size());
    while (t - started < kLongestRun && plan.amps <= bank.overCurrentAmps) {
        if (plan.stopAfter > 0.0 && t - started >= plan.stopAfter) {
            byTester = true;
            break;
        }
        const double load = t - started < steps * plan.stepSeconds
                                ? plan.ampsSteps[static_cast<std::size_t>((t - started) / plan.stepSeconds)]
                                : plan.amps;
        const double portVolts = plan.volts - bank.output.outputOhms * load;
        const double portWatts = portVolts * load;
        const double converterLoss = bank.output.loss(load);
        const double ocv = cells.openCircuitVolts(soc);
        const double amps = dischargeAmps(ocv, cells.ohms, portWatts + converterLoss);
        run.truth.stoppedByHeat = heat.celsius() >= bank.thermal.tripCelsius;
        if (run.truth.stoppedByHeat || soc <= 0.0 || ocv - amps * cells.ohms < cells.cutOffVolts * cells.series)
            break;
        meter.record(t, portVolts, load, heat.celsius());
        display.emplace_back(t, shown);
        const double lost = converterLoss + amps * amps * cells.ohms;
        run.truth.portWattHours += portWatts * dt / 3600.0;
        run.truth.cellWattHours += ocv * amps * dt / 3600.0;
        run.truth.lostWattHours += lost * dt / 3600.0;
        soc -= amps * dt / 3600.0 / cells.ampHours;
        heat.step(lost, dt);
        shown += (bank.gauge.says(soc) - shown) * (1.0 - std::exp(-dt / std::max(dt, bank.gauge.lagSeconds)));
        run.truth.hottest = std::max(run.truth.hottest, heat.celsius());
        t += dt;
    }
    run.truth.seconds = t - started;
    run.truth.saidAtEnd = std::round(shown);
    using findings::Mark;
    run.marks.push_back({started, Mark::What::Percent, 100.0, ""});
    for (double share : plan.percentMarksEvery) {
        const auto at = static_cast<std::size_t>(share * static_cast<double>(display.size()));
        if (at < display.size())
            run.marks.push_back({display[at].first, Mark::What::Percent, std::round(display[at].second), ""});
    }
    run.marks.push_back({t, Mark::What::Percent, run.truth.saidAtEnd, ""});
    if (run.truth.stoppedByHeat)
        run.marks.push_back({t, Mark::What::Trip, std::nullopt, "heat"});
    for (const double off = t; t < off + reading.idleAfter; t += dt)
        meter.record(t, byTester ? plan.volts : 0.0, 0.0, heat.celsius());
    return run;
}

SimulatedRun recharge(const Bank& bank, const RechargePlan& plan, const Reading& reading) {
    SimulatedRun run;
    Recorders meter(reading, run, false);
    Heat heat(bank.thermal, plan.ambient);
    const double dt = reading.sampleSeconds;
    const Cells& cells = bank.cells;
    double soc = 0.0;
    double t = 0.0;
    for (; t < reading.idleBefore; t += dt)
        meter.record(t, plan.volts, 0.0, heat.celsius());

    const double started = t;
    const double full = cells.fullVolts * cells.series;
    const double greatest = std::min(plan.chargerWatts, bank.inputWatts);
    while (t - started < kLongestRun) {
        const double since = t - started;
        const bool throttled = plan.throttleFor > 0.0 && since >= plan.throttleFrom && since < plan.throttleFrom + plan.throttleFor;
        double input = throttled ? kThrottledWatts : greatest;
        const double ocv = cells.openCircuitVolts(soc);
        double lost = bank.input.loss(input / plan.volts);
        double amps = std::min(bank.chargeAmps, chargeAmps(ocv, cells.ohms, std::max(0.0, input - lost)));
        const bool constantVolts = ocv + amps * cells.ohms > full;
        if (constantVolts)
            amps = std::max(0.0, (full - ocv) / cells.ohms);
        if (soc >= 1.0 || (!throttled && constantVolts && amps < bank.endOfChargeShare * bank.chargeAmps))
            break;
        // What the cells take plus the converter's loss at the current that draws; a few rounds settle it.
        const double atCells = amps * (ocv + amps * cells.ohms);
        for (int round = 0; round < 40; ++round)
            lost = bank.input.loss((atCells + lost) / plan.volts);
        input = atCells + lost;
        const double inputAmps = input / plan.volts;
        // The meters sit on the charger's side of the cable; the bank gets the tier's volts at its port.
        meter.record(t, plan.volts, inputAmps, heat.celsius());
        run.truth.portWattHours += input * dt / 3600.0;
        run.truth.cellWattHours += ocv * amps * dt / 3600.0;
        run.truth.lostWattHours += (lost + amps * amps * cells.ohms) * dt / 3600.0;
        soc += amps * dt / 3600.0 / cells.ampHours;
        heat.step(lost + amps * amps * cells.ohms, dt);
        run.truth.hottest = std::max(run.truth.hottest, heat.celsius());
        t += dt;
    }
    run.truth.seconds = t - started;
    using findings::Mark;
    run.marks.push_back({started, Mark::What::Plugged, std::nullopt, ""});
    run.marks.push_back({t, Mark::What::Percent, 100.0, ""});
    for (const double done = t; t < done + reading.idleAfter; t += dt)
        meter.record(t, plan.volts, bank.idleInputWatts / plan.volts, heat.celsius());
    return run;
}

} // namespace otterstone::model
