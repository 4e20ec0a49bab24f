// Gear, runs and remembered mappings in the tables.
#include <nlohmann/json.hpp>

#include "book/json_records.h"
#include "book/record_store.h"

namespace otterstone::book {

namespace {

constexpr const char* kRunColumns =
    "SELECT id, bank_id, kind, title, started_at, from_s, to_s, log_name, skipped_lines, counter_wh, counter_ah, notes, settling,"
    " target_bank_id, details, charger_id, far_cable_id, cable_id, meter_id, load_id, trigger_id, thermometer_id, device_id,"
    " open, captured_at FROM run WHERE removed = 0";

std::optional<Id> optionalId(const QVariant& v) { return v.isNull() ? std::nullopt : std::optional<Id>(v.toLongLong()); }

// What a damaged cell holds is left out; a book with one is still worth reading.
nlohmann::json object(const QVariant& v) {
    auto j = nlohmann::json::parse(text(v), nullptr, false);
    return j.is_object() ? j : nlohmann::json::object();
}

Run readRun(Connection& c, const QSqlQuery& q) {
    Run r;
    int at = 0;
    const auto next = [&] { return q.value(at++); };
    r.id = next().toLongLong();
    r.bank = next().toLongLong();
    r.kind = findings::kindFromKey(text(next())).value_or(findings::Kind::Drain);
    r.title = text(next());
    r.startedAt = text(next());
    r.from = optionalDouble(next());
    r.to = optionalDouble(next());
    r.logName = text(next());
    r.skippedLines = static_cast<std::size_t>(next().toLongLong());
    r.counterWattHours = optionalDouble(next());
    r.counterAmpHours = optionalDouble(next());
    r.notes = text(next());
    r.settling = next().toBool();
    if (const auto target = optionalId(next()))
        r.target = Target{*target, {}, {}, {}};
    readDetails(object(next()), r);
    for (const Stretch& s : kStretches)
        r.*(s.piece) = optionalId(next());
    r.open = next().toBool();
    r.capturedAt = text(next());
    QSqlQuery t = c.run("SELECT point, gear_id, log_name FROM trace WHERE run_id = ? AND main = 0 AND removed = 0 ORDER BY id", r.id);
    while (t.next()) {
        std::string key = text(t.value(0));
        AlsoTrace also;
        also.byDisplay = key.ends_with(" (display)");
        if (also.byDisplay)
            key.resize(key.size() - std::string_view(" (display)").size());
        also.point = path::pointFromName(key).value_or(path::Point::BankOut);
        also.meter = optionalId(t.value(1));
        also.logName = text(t.value(2));
        r.also.push_back(std::move(also));
    }
    QSqlQuery w = c.run("SELECT code, text FROM log_warning WHERE run_id = ? ORDER BY position", r.id);
    while (w.next())
        r.logWarnings.emplace_back(text(w.value(0)), text(w.value(1)));
    QSqlQuery m = c.run("SELECT at_s, what, number, text FROM mark WHERE run_id = ? ORDER BY at_s, position", r.id);
    while (m.next())
        r.marks.push_back({m.value(0).toDouble(), findings::markFromKey(text(m.value(1))).value_or(findings::Mark::What::Note),
                           optionalDouble(m.value(2)), text(m.value(3))});
    return r;
}

} // namespace

std::vector<Gear> loadGear(Connection& c) {
    std::vector<Gear> all;
    QSqlQuery q = c.run("SELECT id, kind, name, details FROM gear WHERE removed = 0 ORDER BY id");
    while (q.next()) {
        nlohmann::json j = object(q.value(3));
        j["kind"] = text(q.value(1));
        j["name"] = text(q.value(2));
        Gear g = gearFromJson(j);
        g.id = q.value(0).toLongLong();
        all.push_back(std::move(g));
    }
    return all;
}

Id storeGear(Connection& c, const Gear& g) {
    nlohmann::json j = toJson(g);
    for (const char* column : {"id", "kind", "name"})
        j.erase(column);
    Id id = g.id;
    if (id == kNew)
        id = c.run("INSERT INTO gear (kind, name) VALUES (?, '')", gearKey(g.kind)).lastInsertId().toLongLong();
    c.run("UPDATE gear SET kind=?, name=?, details=? WHERE id=?", gearKey(g.kind), g.name, j.dump(), id);
    return id;
}

findings::Schools loadSchools(Connection& c) {
    findings::Schools schools;
    QSqlQuery q = c.run("SELECT question, answer FROM house");
    while (q.next()) {
        const std::string question = text(q.value(0));
        if (question == "other_cell_volts")
            schools.otherCellVolts = q.value(1).toDouble();
        else if (question == "full_share")
            schools.fullShare = q.value(1).toDouble();
        else if (question == "full_seconds")
            schools.fullSeconds = q.value(1).toDouble();
        else
            setAnswer(schools, question, text(q.value(1)));
    }
    return schools;
}

void storeSchools(Connection& c, const findings::Schools& schools) {
    const auto store = [&c](const std::string& question, const std::string& answer) {
        c.run("INSERT INTO house VALUES (?,?) ON CONFLICT (question) DO UPDATE SET answer = excluded.answer", question, answer);
    };
    for (const findings::Question& q : findings::questions())
        store(q.key, answerOf(schools, q.key));
    store("other_cell_volts", std::to_string(schools.otherCellVolts));
    store("full_share", std::to_string(schools.fullShare));
    store("full_seconds", std::to_string(schools.fullSeconds));
}

std::vector<Run> loadRuns(Connection& c, Id bank) {
    std::vector<Run> runs;
    QSqlQuery q = c.run((std::string(kRunColumns) + " AND bank_id = ? ORDER BY id").c_str(), bank);
    while (q.next())
        runs.push_back(readRun(c, q));
    return runs;
}

std::optional<Run> loadRun(Connection& c, Id id) {
    QSqlQuery q = c.run((std::string(kRunColumns) + " AND id = ?").c_str(), id);
    return q.next() ? std::optional(readRun(c, q)) : std::nullopt;
}

Id storeRun(Connection& c, const Run& r) {
    Id id = r.id;
    if (id == kNew)
        id = c.run("INSERT INTO run (bank_id, kind) VALUES (?, '')", r.bank).lastInsertId().toLongLong();
    c.run("UPDATE run SET bank_id=?, kind=?, title=?, started_at=?, from_s=?, to_s=?, log_name=?, skipped_lines=?, counter_wh=?,"
          " counter_ah=?, notes=?, settling=?, target_bank_id=?, details=?, charger_id=?, far_cable_id=?, cable_id=?, meter_id=?, load_id=?,"
          " trigger_id=?, thermometer_id=?, device_id=?, open=?, captured_at=? WHERE id=?",
          r.bank, findings::kindKey(r.kind), r.title, r.startedAt, r.from, r.to, r.logName, static_cast<long long>(r.skippedLines),
          r.counterWattHours, r.counterAmpHours, r.notes, r.settling, r.target ? std::optional(r.target->bank) : std::nullopt,
          detailsJson(r).dump(), r.charger, r.farCable, r.cable, r.meter, r.load, r.trigger, r.thermometer, r.device, r.open, r.capturedAt, id);
    for (const AlsoTrace& t : r.also)
        c.run("UPDATE trace SET gear_id = ?, log_name = ? WHERE run_id = ? AND point = ? AND main = 0", t.meter, t.logName, id, t.key());
    c.run("DELETE FROM mark WHERE run_id = ?", id);
    int position = 0;
    for (const findings::Mark& m : r.marks)
        c.run("INSERT INTO mark VALUES (?,?,?,?,?,?)", id, position++, m.at, findings::markKey(m.what), m.number, m.text);
    c.run("DELETE FROM log_warning WHERE run_id = ?", id);
    position = 0;
    for (const auto& [code, words] : r.logWarnings)
        c.run("INSERT INTO log_warning VALUES (?,?,?,?)", id, position++, code, words);
    return id;
}

std::optional<logs::Mapping> loadMapping(Connection& c, const std::string& header) {
    QSqlQuery q = c.run("SELECT json FROM log_mapping WHERE header = ?", header);
    if (!q.next())
        return std::nullopt;
    const auto json = nlohmann::json::parse(text(q.value(0)), nullptr, false);
    return mappingFromJson(json);
}

void storeMapping(Connection& c, const std::string& header, const logs::Mapping& mapping) {
    c.run("INSERT INTO log_mapping VALUES (?,?) ON CONFLICT (header) DO UPDATE SET json = excluded.json", header,
          toJson(mapping).dump());
}

} // namespace otterstone::book
