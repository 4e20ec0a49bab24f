#include "book/demo/demo.h"

#include <cmath>
#include <map>

#include <QFile>
#include <nlohmann/json.hpp>

#include "book/demo/demo_scenario.h" // made by CMake from demo/scenario.json
#include "book/demo/demo_sheets.h"
#include "book/store/choices.h"
#include "book/store/json_records.h"
#include "core/kinds/rows.h"
#include "core/model/bank_json.h"

namespace otterstone::book {

namespace {

using nlohmann::json;

constexpr std::uint64_t kFirstSeed = 20260402;

const json& scenario() {
    static const json kScenario = json::parse(kScenarioText);
    return kScenario;
}

Run runOf(const json& j) {
    Run r = demoRunOf(j);
    if (j.contains("ambient"))
        r.ambient = j.at("ambient").get<double>();
    r.port = j.value("port", "");
    r.settling = j.value("settling", false);
    if (!j.contains("begins_at")) // else the display's stamp says it
        r.ends.began = records::usualBeginning(r.kind);
    for (const json& a : j.value("also", json::array())) {
        AlsoTrace also;
        also.point = path::pointFromName(a.at("point").get<std::string>()).value();
        also.meter = a.at("meter").get<Id>();
        r.also.push_back(also);
    }
    return r;
}

// What the device or the bank at the far end says in the end: as much as arrived.
double percentAfter(const json& j, double startPercent, double portWattHours, double wattHours) {
    return std::min(100.0,
                    std::round(startPercent + 100.0 * portWattHours * j.at("transfer").get<double>() / wattHours));
}

// Readings as someone beside a clock writes them down: two decimals, every so many minutes, and the moment it went off.
records::Sheet writtenDown(const model::SimulatedRun& run, double every) {
    records::Sheet sheet{records::Kind::Notebook, {}};
    const trace::Trace& t = run.trace;
    const auto text = [](double v) { return showNumber(std::round(v * 100.0) / 100.0); };
    std::size_t on = 0;
    while (on + 1 < t.size() && t.amps[on] <= 0.02)
        ++on;
    std::size_t off = t.size() - 1;
    while (off > on && t.amps[off] <= 0.02)
        --off;
    const std::string end = showNumber(std::round((t.time[off] - t.time[on]) / 60.0)) + " min";
    for (double at = 0.0;; at += every) {
        const bool first = sheet.rows.empty(), last = t.time[on] + at >= t.time[off];
        std::size_t k = on;
        while (k < off && t.time[k] < t.time[on] + at)
            ++k;
        kinds::addRow(sheet, {{"time", first  ? "0"
                                       : last ? end
                                              : "+" + showNumber(every / 60.0) + " min"},
                              {"v", text(t.volts[k])},
                              {"a", text(t.amps[k])},
                              {"bank", first ? "full" : ""},
                              {"way", first ? "out" : ""}});
        if (!last)
            continue;
        kinds::addRow(sheet, {{"time", end}, {"v", "0"}, {"a", "0"}, {"happened", "died"}});
        return sheet;
    }
}

model::SimulatedRun simulate(const model::Bank& bank, const json& j, records::Kind kind, model::Reading& reading) {
    if (kind == records::Kind::Drain) {
        model::DrainPlan plan;
        plan.volts = j.at("volts");
        plan.amps = j.at("amps");
        plan.ambient = j.value("ambient", 17.0);
        plan.ampsSteps = j.value("amps_steps", std::vector<double>{});
        plan.stopAfter = j.value("stop_after", 0.0);
        plan.beginsAt = j.value("begins_at", 1.0);
        plan.deviceTakes = j.value("device_takes", 0.0);
        plan.percentMarksEvery = {0.25, 0.5, 0.75, 0.9, 0.96};
        return model::drain(bank, plan, reading);
    }
    reading.idleAfter = 900.0; // long enough to see that the bank stays full
    model::RechargePlan plan;
    plan.volts = j.at("volts");
    plan.chargerWatts = j.at("charger_watts");
    plan.ambient = j.value("ambient", 17.0);
    plan.throttleFrom = j.value("throttle_from", 0.0);
    plan.throttleFor = j.value("throttle_for", 0.0);
    plan.beginsAt = j.value("begins_at", 0.0);
    plan.errorAfter = j.value("error_after", 0.0);
    plan.replugAfter = j.value("replug_after", 0.0);
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

namespace {

// Where the run's energy went, when that was a device or another bank; and what was written down by hand instead of
// logged.
void finish(DemoRun& d, const json& j, const std::vector<Gear>& gear) {
    const double portWattHours = d.simulated.truth.portWattHours;
    using records::Mark;
    if (const Gear* device = byId(gear, d.run.device)) {
        const double start = j.at("start_percent");
        const double end = percentAfter(j, start, portWattHours, device->battery->value);
        d.run.marks.push_back({d.simulated.trace.time.front(), Mark::What::DevicePercent, start, ""});
        d.run.marks.push_back({d.simulated.trace.time.back(), Mark::What::DevicePercent, end, ""});
    }
    if (j.contains("into")) {
        d.into = j.at("into");
        d.run.target = Target{kNew, 0.0, percentAfter(j, 0.0, portWattHours, j.at("into_wh").get<double>()),
                              Stated(j.at("transfer").get<double>())};
    }
    if (j.contains("by_hand_every")) {
        d.run.kind = records::Kind::Notebook;
        d.run.sheet = writtenDown(d.simulated, j.at("by_hand_every"));
        d.run.marks.clear();
        d.run.ends = {}; // it is all written there
    }
}

} // namespace

std::optional<model::Bank> demoTruth(std::string_view bank) {
    for (json j : scenario().at("banks")) {
        if (j.at("name") != bank)
            continue;
        j["id"] = kNew;
        json all = j.at("truth");
        all.update(j.value("behaviour", json::object()));
        model::Bank truth = model::bankFromJson(all).value();
        if (!all.contains("ports")) // what is printed on it, with the truth's limits
            truth.ports = model::bankFromLabel(bankFromJson(j).label).ports;
        return truth;
    }
    return std::nullopt;
}

std::vector<DemoRun> simulateDemo() {
    const std::vector<Gear> gear = demoGear();
    std::vector<DemoRun> runs;
    std::uint64_t seed = kFirstSeed;
    for (json bankJson : scenario().at("banks")) {
        bankJson["id"] = kNew;
        const model::Bank truth = model::bankFromJson(bankJson.at("truth")).value();
        for (const json& j : bankJson.at("runs")) {
            DemoRun d;
            d.bank = bankFromJson(bankJson);
            d.specimenOf = bankJson.value("specimen_of", "");
            d.run = runOf(j);
            d.reading.meter = byId(gear, d.run.meter)->meter;
            if (const Gear* cable = byId(gear, d.run.cable))
                d.reading.pathOhms =
                    j.contains("true_ohms") ? j.at("true_ohms").get<double>() : cable->ohms.value().value;
            d.reading.sampleSeconds = 2.0;
            d.reading.seed = j.contains("seed") ? j.at("seed").get<std::uint64_t>() : seed++;
            for (std::size_t k = 0; k < d.run.also.size(); ++k) {
                const json& a = j.at("also").at(k);
                d.reading.also.push_back({d.run.also[k].point, byId(gear, d.run.also[k].meter)->meter,
                                          a.value("ohms", 0.0), a.value("charger_efficiency", 0.0), 1.0,
                                          a.value("starts_at", 0.0)});
            }
            model::Bank bank = truth;
            bank.cells.ampHours *= j.value("capacity_factor", 1.0); // a bank that has not settled yet, or has aged
            d.simulated = simulate(bank, j, d.run.kind, d.reading);
            d.run.marks = d.simulated.marks;
            if (j.value("nobody_saw", false))
                std::erase_if(d.run.marks, [](const records::Mark& m) {
                    return m.what == records::Mark::What::Trip || m.what == records::Mark::What::Percent;
                });
            d.run.logName = "simulated bank, seed " + std::to_string(d.reading.seed);
            finish(d, j, gear);
            runs.push_back(std::move(d));
        }
    }
    return runs;
}

namespace {

// What hands found out about behaviour, bank by bank.
Result<void> addSheets(Book& book, const std::map<std::string, Id>& bankIds, const std::map<Id, Id>& gearIds) {
    const std::vector<Gear> gear = demoGear();
    for (json bankJson : scenario().at("banks")) {
        bankJson["id"] = kNew;
        const Bank bank = bankFromJson(bankJson);
        for (const json& j : bankJson.value("sheets", json::array())) {
            Run run = demoSheet(j, bank.label, *demoTruth(bank.name), gear,
                                [](const std::string& name) { return *demoTruth(name); });
            run.bank = bankIds.at(bank.name);
            for (const Stretch& s : kStretches) {
                if (run.*(s.piece))
                    run.*(s.piece) = gearIds.at(*(run.*(s.piece)));
            }
            const auto id = book.addRun(run, {});
            if (!id)
                return tl::unexpected(id.error());
            if (auto finding = book.finding(*id); !finding)
                return tl::unexpected(finding.error());
        }
    }
    return {};
}

} // namespace

namespace {

// The station's own campaign: its banks stand by name in the scenario.
Result<void> keepCampaign(Book& book, const std::map<std::string, Id>& bankIds) {
    json campaign = scenario().at("campaign");
    for (json& bank : campaign.at("banks"))
        bank = std::to_string(bankIds.at(bank.get<std::string>()));
    for (json& job : campaign.at("kept").at("jobs"))
        job["bank"] = bankIds.at(job.at("bank").get<std::string>());
    return book.setChoice(choice::campaign, campaign.dump());
}

Result<void> fill(Book& book) {
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
            if (!d.specimenOf.empty())
                d.bank.past.specimenOf = bankIds.at(d.specimenOf);
            const auto id = book.save(d.bank);
            if (!id)
                return tl::unexpected(id.error());
            bankIds[d.bank.name] = *id;
        }
        d.run.bank = bankIds[d.bank.name];
        for (const Stretch& s : kStretches) {
            if (d.run.*(s.piece))
                d.run.*(s.piece) = gearIds.at(*(d.run.*(s.piece)));
        }
        if (d.run.target)
            d.run.target->bank = bankIds.at(d.into);
        const auto id = book.addRun(d.run, d.simulated.trace);
        if (!id)
            return tl::unexpected(id.error());
        for (std::size_t k = 0; k < d.run.also.size(); ++k) {
            d.run.also[k].meter = gearIds.at(*d.run.also[k].meter);
            d.run.also[k].logName = d.run.logName;
            if (auto added = book.addTrace(*id, d.run.also[k], d.simulated.also[k]); !added)
                return tl::unexpected(added.error());
        }
        if (auto finding = book.finding(*id); !finding)
            return tl::unexpected(finding.error());
    }
    if (auto added = addSheets(book, bankIds, gearIds); !added)
        return tl::unexpected(added.error());
    if (auto kept = keepCampaign(book, bankIds); !kept)
        return kept;
    // What was worked out before its neighbours were there.
    for (const auto& [name, id] : bankIds) {
        for (const Run& r : book.runs(id)) {
            if (auto finding = book.finding(r.id); !finding)
                return tl::unexpected(finding.error());
        }
    }
    return {};
}

} // namespace

Result<std::unique_ptr<Book>> makeDemo(const QString& path) { return Book::createFilled(path, fill); }

} // namespace otterstone::book
