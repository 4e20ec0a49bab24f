#include "book/finding_store.h"

#include <QCryptographicHash>
#include <nlohmann/json.hpp>

#include "book/json_records.h"
#include "book/trace_store.h"
#include "core/findings/json.h"

namespace otterstone::book {

namespace {

const Gear* find(const std::vector<Gear>& gear, std::optional<Id> id) {
    for (const Gear& g : gear) {
        if (id && g.id == *id)
            return &g;
    }
    return nullptr;
}

} // namespace

findings::Setup setupOf(const Bank& bank, const Run& run, const std::vector<Gear>& gear) {
    findings::Setup s;
    s.rating = label::ratedEnergy(bank.label);
    s.cellVolts = bank.label.cellVolts;
    s.claimedRecharge = bank.label.rechargeTime;
    s.claimedInput = bank.label.inputWatts;
    if (const Gear* meter = find(gear, run.meter)) {
        s.meter = meter->meter;
        s.clock = meter->clockExpanded ? Measured(meter->clockFactor, *meter->clockExpanded / 2.0, meter->name + ": clock comparison")
                                       : Measured(meter->clockFactor);
    }
    if (const Gear* cable = find(gear, run.cable); cable && cable->ohms)
        s.pathOhms = cable->ohmsExpanded ? Measured(*cable->ohms, *cable->ohmsExpanded / 2.0, cable->name + ": resistance")
                                         : Measured(*cable->ohms);
    if (const Gear* charger = find(gear, run.charger); charger && charger->watts)
        s.chargerWatts = Watts(*charger->watts);
    s.from = run.from;
    s.to = run.to;
    s.marks = run.marks;
    s.logName = run.logName;
    s.skippedLines = run.skippedLines;
    s.counterWattHours = run.counterWattHours;
    s.counterAmpHours = run.counterAmpHours;
    return s;
}

std::string cacheKey(const Bank& bank, const Run& run, const std::vector<Gear>& gear) {
    nlohmann::json all{{"method", findings::kMethodVersion}, {"bank", toJson(bank)}, {"run", toJson(run)}};
    for (const std::optional<Id>& id : {run.charger, run.cable, run.meter, run.load}) {
        if (const Gear* g = find(gear, id))
            all["gear"].push_back(toJson(*g));
    }
    // Titles and notes are no part of any sum.
    for (const char* words : {"title", "notes"})
        all["run"].erase(words);
    all["bank"].erase("notes");
    const std::string text = all.dump();
    return QCryptographicHash::hash(QByteArray::fromStdString(text), QCryptographicHash::Sha256).toHex().toStdString();
}

std::optional<findings::Finding> cachedFinding(Connection& c, const Bank& bank, const Run& run, const std::vector<Gear>& gear) {
    QSqlQuery q = c.run("SELECT json FROM finding WHERE run_id = ? AND key = ?", run.id, cacheKey(bank, run, gear));
    if (!q.next())
        return std::nullopt;
    const auto json = nlohmann::json::parse(text(q.value(0)), nullptr, false);
    return json.is_discarded() ? std::nullopt : findings::fromCache(json);
}

Result<findings::Finding> workOut(Connection& c, const Bank& bank, const Run& run, const std::vector<Gear>& gear) {
    auto finding = findings::analyse(loadTrace(c, run.id), run.kind, setupOf(bank, run, gear));
    if (finding) {
        std::vector<Warning> fromLog;
        for (const auto& [code, words] : run.logWarnings)
            fromLog.push_back({code, words});
        finding->warnings.insert(finding->warnings.begin(), fromLog.begin(), fromLog.end());
    }
    return finding;
}

void storeFinding(Connection& c, Id run, const std::string& key, const findings::Finding& finding) {
    c.run("INSERT INTO finding VALUES (?,?,?) ON CONFLICT (run_id) DO UPDATE SET key = excluded.key, json = excluded.json", run, key,
          findings::toCache(finding).dump());
}

} // namespace otterstone::book
