// Works out cases given as JSON on standard input with our core, so that python can hold the results against other
// libraries.
#include <cmath>
#include <iostream>
#include <map>

#include <nlohmann/json.hpp>

#include "../core/sources.h"
#include "core/judgement/rank.h"
#include "core/judgement/verdict.h"
#include "core/kinds/traced/heat.h"
#include "core/path/cable.h"
#include "core/quantity/line.h"
#include "core/quantity/measured.h"
#include "core/quantity/repeats.h"
#include "core/together/usable.h"
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
    const auto inputs = correlated(values, u, matrix, otterstone::testing::source("case"));
    return {{"product", shown(inputs[0] * inputs[1])},
            {"quotient", shown(inputs[0] / inputs[1])},
            {"sum", shown(inputs[0] + inputs[1])}};
}

// Without what the samples themselves leave open, which no formula of gains and offsets knows
// (tests/reference/independent checks that).
Measured ofInstruments(const Measured& m) {
    Measured kept(m.value());
    for (const Contribution& part : m.contributions()) {
        if (part.source->scope != Scope::Run)
            kept = kept.with(part.source, part.u, part.dof);
    }
    return kept;
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
    auto f = trace::energyFigures(t, totals, trace::blocksOf(t, 1e9), {meter});
    for (Measured* m : {&f.wattHours, &f.ampHours, &f.squareAmpHours})
        *m = ofInstruments(*m);
    const Measured ohms(c.at("ohms").get<double>(), c.at("ohms_u").get<double>(), otterstone::testing::source("ohms"));
    return {{"energy", shown(f.wattHours)},
            {"charge", shown(f.ampHours)},
            {"mean_volts", shown(f.wattHours / f.ampHours)},
            {"port", shown(trace::referEnergy(f, ohms, +1))},
            {"share_of_itself", shown(trace::referEnergy(f, ohms, +1) / f.wattHours)}};
}

json repeats(const json& c) {
    return shown(Measured(c.at("mean").get<double>(), c.at("u").get<double>(), otterstone::testing::source("repeats"),
                          c.at("dof").get<double>()));
}

std::vector<double> list(const json& c, const char* key) { return c.at(key).get<std::vector<double>>(); }

json line(const json& c) {
    const auto x = list(c, "x"), y = list(c, "y"), u = list(c, "u");
    const auto l = fitLine(x, y, u);
    return {{"slope", l->slope},
            {"intercept", l->intercept},
            {"u_slope", l->uSlope},
            {"u_intercept", l->uIntercept},
            {"covariance", l->covariance}};
}

// D15: the fit that findHeat() makes.
json heat(const json& c) {
    const auto t = list(c, "time"), celsius = list(c, "celsius");
    const auto h = kinds::findHeat(t, celsius, {}, c.at("ambient").get<double>());
    return {
        {"rise", h->rise->value()}, {"u_rise", h->rise->u()}, {"tau", h->seconds->value()}, {"u_tau", h->seconds->u()}};
}

// D8: the curve through drains whose doubts are independent.
json usable(const json& c) {
    const auto watts = list(c, "watts"), energy = list(c, "wh"), u = list(c, "u");
    std::vector<together::UsablePoint> points;
    for (std::size_t k = 0; k < watts.size(); ++k)
        points.push_back({static_cast<long long>(k), "", watts[k],
                          Measured(energy[k], u[k], otterstone::testing::source("own/" + std::to_string(k)))});
    together::UsableKnown known;
    if (c.contains("put_in"))
        known.putInWattHours = c.at("put_in").get<double>();
    else
        known.ratedWattHours = c.at("rated").get<double>();
    if (c.contains("idle"))
        known.idleWatts = c.at("idle").get<double>();
    known.topWatts = c.at("top").get<double>();
    const auto curve = together::UsableCurve::fit(points, known);
    return {{"e0", curve->emptyLoadWattHours()},
            {"p0", curve->overheadWatts()},
            {"r", curve->resistance()},
            {"at", curve->at(c.at("asked")).value()},
            {"u_at", curve->at(c.at("asked")).from(ErrorSource::ofBank("", "the fitted curve"))}};
}

json mean(const json& c) {
    std::vector<Measured> values;
    for (double v : c.at("values"))
        values.emplace_back(v);
    const Repeats r = otterstone::repeats(values, otterstone::testing::source("repeats"));
    return {
        {"mean", r.mean.value()}, {"half", r.mean.expanded()}, {"slope", r.drift->perRun}, {"chance", r.drift->chance}};
}

// E2: banks by figure, each figure a value with the u of its own and of an instrument all share.
json rank(const json& c) {
    judgement::Comparison table;
    judgement::Purpose purpose;
    for (const json& s : c.at("scales"))
        purpose.scales.push_back({s.at("figure"), s.at("worst"), s.at("best"), s.at("weight")});
    for (const judgement::FigureKind& kind : judgement::figureKinds())
        table.rows.push_back({kind, {}});
    for (const json& bank : c.at("banks")) {
        table.banks.push_back(bank.at("name"));
        for (judgement::FigureRow& row : table.rows) {
            judgement::Cell cell;
            if (bank.contains(row.kind.key)) {
                const json& f = bank.at(row.kind.key);
                cell.value.emplace();
                cell.value->value = Measured(f.at("value").get<double>())
                                        .with(ErrorSource::ofBank("", "own"), f.at("own"), bank.value("dof", HUGE_VAL))
                                        .with(otterstone::testing::source("meter: gain"), f.at("shared"));
            }
            row.cells.push_back(std::move(cell));
        }
    }
    const auto ranking = judgement::rank(table, purpose, {100000, 10, 7});
    json chances = json::object(), scores = json::object();
    for (const judgement::Ranked& r : ranking.banks) {
        chances[table.banks[r.bank]] = r.chanceBest;
        scores[table.banks[r.bank]] = r.score.value();
    }
    return {{"chances", chances}, {"scores", scores}};
}

// E1: the chance that a claim holds, and the verdict.
json verdict(const json& c) {
    judgement::Limits limits;
    if (c.contains("low"))
        limits.low = c.at("low").get<double>();
    if (c.contains("high"))
        limits.high = c.at("high").get<double>();
    const auto d = judgement::decide(Measured(c.at("value").get<double>(), c.at("u").get<double>(),
                                              otterstone::testing::source("repeats"), c.value("dof", 1e9)),
                                     limits);
    return {{"chance", d.chance}, {"verdict", judgement::verdictWords(d.verdict)}};
}

json wire(const json& c) {
    return {{"ohms_per_metre", path::copperOhmsPerMetre(c.at("awg"))},
            {"millimetres", path::wireMillimetres(c.at("awg"))}};
}

json celsius(const json& c) { return {{"celsius", kinds::parseTemperature(c.at("text").get<std::string>()).value()}}; }

} // namespace

int main() {
    json results = json::array();
    for (const json& c : json::parse(std::cin)) {
        const std::string kind = c.at("kind");
        static const std::map<std::string, json (*)(const json&)> kKinds = {
            {"pair", pair},       {"integral", integral}, {"repeats", repeats}, {"line", line},
            {"heat", heat},       {"usable", usable},     {"mean", mean},       {"rank", rank},
            {"verdict", verdict}, {"wire", wire},         {"celsius", celsius}};
        results.push_back(kKinds.at(kind)(c));
    }
    std::cout << results.dump() << "\n";
}
