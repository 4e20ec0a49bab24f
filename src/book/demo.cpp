#include "book/demo.h"

#include <map>

#include <QFile>
#include <nlohmann/json.hpp>

#include "book/demo_scenario.h" // made by CMake from demo/scenario.json
#include "book/json_records.h"

namespace otterstone::book {

namespace {

using nlohmann::json;

constexpr std::uint64_t kFirstSeed = 20260402;

const json& scenario() {
    static const json kScenario = json::parse(kScenarioText);
    return kScenario;
}

model::Converter converter(const json& j) {
    model::Converter c;
    c.idle = j.value("idle", c.idle);
    c.perAmp = j.value("per_amp", c.perAmp);
    c.ohms = j.value("ohms", c.ohms);
    return c;
}

model::Bank truthOf(const json& truth) {
    model::Bank b;
    const json& cells = truth.at("cells");
    b.cells.series = cells.at("series");
    b.cells.ampHours = cells.at("ah");
    b.cells.ohms = cells.at("ohms");
    b.output = converter(truth.value("output", json::object()));
    b.input = converter(truth.value("input", json::object()));
    const json thermal = truth.value("thermal", json::object());
    b.thermal.kelvinPerWatt = thermal.value("kelvin_per_watt", b.thermal.kelvinPerWatt);
    b.thermal.seconds = thermal.value("seconds", b.thermal.seconds);
    b.thermal.tripCelsius = thermal.value("trip_celsius", b.thermal.tripCelsius);
    const json gauge = truth.value("gauge", json::object());
    b.gauge.errorPoints = gauge.value("error_points", b.gauge.errorPoints);
    b.gauge.hiddenShare = gauge.value("hidden_share", b.gauge.hiddenShare);
    b.gauge.lagSeconds = gauge.value("lag_seconds", b.gauge.lagSeconds);
    b.inputWatts = truth.at("input_watts");
    b.chargeAmps = truth.at("charge_amps");
    b.overCurrentAmps = truth.at("over_current_amps");
    return b;
}

Run runOf(const json& j) {
    Run r;
    r.kind = findings::kindFromKey(j.at("kind").get<std::string>()).value();
    r.title = j.at("title");
    r.startedAt = j.at("started_at");
    const auto gear = [&](const char* key) { return j.contains(key) ? std::optional(j.at(key).get<Id>()) : std::nullopt; };
    r.charger = gear("charger");
    r.cable = gear("cable");
    r.meter = gear("meter");
    r.load = gear("load");
    return r;
}

model::SimulatedRun simulate(const model::Bank& bank, const json& j, findings::Kind kind, model::Reading& reading) {
    if (kind == findings::Kind::Drain) {
        model::DrainPlan plan;
        plan.volts = j.at("volts");
        plan.amps = j.at("amps");
        plan.ambient = 17.0;
        plan.percentMarksEvery = {0.25, 0.5, 0.75, 0.9};
        return model::drain(bank, plan, reading);
    }
    reading.idleAfter = 900.0; // long enough to see that the bank stays full
    model::RechargePlan plan;
    plan.volts = j.at("volts");
    plan.chargerWatts = j.at("charger_watts");
    plan.ambient = 17.0;
    plan.throttleFrom = j.value("throttle_from", 0.0);
    plan.throttleFor = j.value("throttle_for", 0.0);
    return model::recharge(bank, plan, reading);
}

template<class T>
const T* byId(const std::vector<T>& all, std::optional<Id> id) {
    for (const T& t : all) {
        if (id && t.id == *id)
            return &t;
    }
    return nullptr;
}

} // namespace

std::vector<Gear> demoGear() {
    std::vector<Gear> all;
    for (const json& g : scenario().at("gear"))
        all.push_back(gearFromJson(g));
    return all;
}

std::vector<DemoRun> simulateDemo() {
    const std::vector<Gear> gear = demoGear();
    std::vector<DemoRun> runs;
    std::uint64_t seed = kFirstSeed;
    for (json bankJson : scenario().at("banks")) {
        bankJson["id"] = kNew;
        const model::Bank truth = truthOf(bankJson.at("truth"));
        for (const json& j : bankJson.at("runs")) {
            DemoRun d;
            d.bank = bankFromJson(bankJson);
            d.run = runOf(j);
            d.reading.meter = byId(gear, d.run.meter)->meter;
            d.reading.pathOhms = byId(gear, d.run.cable)->ohms.value_or(0.0);
            d.reading.sampleSeconds = 2.0;
            d.reading.seed = seed++;
            d.simulated = simulate(truth, j, d.run.kind, d.reading);
            d.run.marks = d.simulated.marks;
            d.run.logName = "simulated bank, seed " + std::to_string(d.reading.seed);
            runs.push_back(std::move(d));
        }
    }
    return runs;
}

Result<std::unique_ptr<Book>> makeDemo(const QString& path) {
    auto created = Book::create(path);
    if (!created)
        return created;
    Book& book = **created;
    std::map<Id, Id> gearIds; // the scenario's to the book's
    for (Gear g : demoGear()) {
        const Id old = std::exchange(g.id, kNew);
        const auto id = book.save(g);
        if (!id)
            return tl::unexpected(id.error());
        gearIds[old] = *id;
    }
    std::map<std::string, Id> bankIds;
    for (DemoRun& d : simulateDemo()) {
        if (!bankIds.contains(d.bank.name)) {
            const auto id = book.save(d.bank);
            if (!id)
                return tl::unexpected(id.error());
            bankIds[d.bank.name] = *id;
        }
        d.run.bank = bankIds[d.bank.name];
        for (std::optional<Id> Run::*gear : {&Run::charger, &Run::cable, &Run::meter, &Run::load}) {
            if (d.run.*gear)
                d.run.*gear = gearIds.at(*(d.run.*gear));
        }
        const auto id = book.addRun(d.run, d.simulated.trace);
        if (!id)
            return tl::unexpected(id.error());
        if (auto finding = book.finding(*id); !finding)
            return tl::unexpected(finding.error());
    }
    return created;
}

} // namespace otterstone::book
