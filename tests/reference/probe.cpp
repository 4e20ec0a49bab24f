// Works out cases given as JSON on standard input with our core, so that python can hold the results against other libraries.
#include <iostream>

#include <nlohmann/json.hpp>

#include "core/quantity/measured.h"
#include "core/trace/energy.h"

using namespace otterstone;
using nlohmann::json;

namespace {

json shown(const Measured& m) { return {{"value", m.value()}, {"u", m.u()}, {"expanded", m.expanded()}}; }

json pair(const json& c) {
    const std::vector<double> values = c.at("values");
    const std::vector<double> u = c.at("u");
    const double r = c.at("r");
    const std::vector<double> matrix = {1.0, r, r, 1.0};
    const auto inputs = correlated(values, u, matrix, "case");
    return {{"product", shown(inputs[0] * inputs[1])}, {"quotient", shown(inputs[0] / inputs[1])}, {"sum", shown(inputs[0] + inputs[1])}};
}

json integral(const json& c) {
    trace::Trace t;
    for (double x : c.at("time"))
        t.time.push_back(x);
    for (double x : c.at("volts"))
        t.volts.push_back(x);
    for (double x : c.at("amps"))
        t.amps.push_back(x);
    path::Meter meter;
    meter.volts = path::Accuracy{c.at("volts_gain"), c.at("volts_offset")};
    meter.amps = path::Accuracy{c.at("amps_gain"), c.at("amps_offset")};
    meter.clock = c.at("clock").get<double>();
    const auto plateau = trace::findPlateau(t, 1e9);
    const auto totals = trace::integrate(t, plateau, 1e9);
    const auto f = trace::energyFigures(t, totals, meter, Measured(1.0));
    const Measured ohms(c.at("ohms").get<double>(), c.at("ohms_u").get<double>(), "ohms");
    return {{"energy", shown(f.wattHours)}, {"charge", shown(f.ampHours)}, {"mean_volts", shown(f.wattHours / f.ampHours)},
            {"port", shown(trace::referEnergy(f, ohms, +1))}, {"share_of_itself", shown(trace::referEnergy(f, ohms, +1) / f.wattHours)}};
}

json repeats(const json& c) {
    return shown(Measured(c.at("mean").get<double>(), c.at("u").get<double>(), "repeats", c.at("dof").get<double>()));
}

} // namespace

int main() {
    json results = json::array();
    for (const json& c : json::parse(std::cin)) {
        const std::string kind = c.at("kind");
        results.push_back(kind == "pair" ? pair(c) : kind == "integral" ? integral(c) : repeats(c));
    }
    std::cout << results.dump() << "\n";
}
