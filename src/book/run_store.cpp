// Gear, runs and remembered mappings in the tables.
#include <nlohmann/json.hpp>

#include "book/json_records.h"
#include "book/record_store.h"

namespace otterstone::book {

namespace {

constexpr const char* kRunColumns =
    "SELECT id, bank_id, kind, title, started_at, charger_id, cable_id, meter_id, load_id, from_s, to_s, log_name, skipped_lines,"
    " counter_wh, counter_ah, notes FROM run WHERE removed = 0";

std::optional<Id> optionalId(const QVariant& v) { return v.isNull() ? std::nullopt : std::optional<Id>(v.toLongLong()); }

Run readRun(Connection& c, const QSqlQuery& q) {
    Run r;
    r.id = q.value(0).toLongLong();
    r.bank = q.value(1).toLongLong();
    r.kind = findings::kindFromKey(text(q.value(2))).value_or(findings::Kind::Drain);
    r.title = text(q.value(3));
    r.startedAt = text(q.value(4));
    r.charger = optionalId(q.value(5));
    r.cable = optionalId(q.value(6));
    r.meter = optionalId(q.value(7));
    r.load = optionalId(q.value(8));
    r.from = optionalDouble(q.value(9));
    r.to = optionalDouble(q.value(10));
    r.logName = text(q.value(11));
    r.skippedLines = static_cast<std::size_t>(q.value(12).toLongLong());
    r.counterWattHours = optionalDouble(q.value(13));
    r.counterAmpHours = optionalDouble(q.value(14));
    r.notes = text(q.value(15));
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
    QSqlQuery q = c.run("SELECT id, kind, name, watts, ohms, ohms_expanded, accuracy, clock_factor, clock_expanded FROM gear"
                        " WHERE removed = 0 ORDER BY id");
    while (q.next()) {
        Gear g;
        g.kind = gearFromKey(text(q.value(1))).value_or(GearKind::Meter);
        g.name = text(q.value(2));
        g.watts = optionalDouble(q.value(3));
        g.ohms = optionalDouble(q.value(4));
        g.ohmsExpanded = optionalDouble(q.value(5));
        g.meter = path::parseMeter(text(q.value(6)), g.name).value_or(path::Meter{});
        if (g.kind == GearKind::Meter)
            g.meter.name = g.name;
        g.clockFactor = q.value(7).toDouble();
        g.clockExpanded = optionalDouble(q.value(8));
        g.id = q.value(0).toLongLong();
        all.push_back(std::move(g));
    }
    return all;
}

Id storeGear(Connection& c, const Gear& g) {
    Id id = g.id;
    if (id == kNew)
        id = c.run("INSERT INTO gear (kind, name) VALUES (?, '')", gearKey(g.kind)).lastInsertId().toLongLong();
    c.run("UPDATE gear SET kind=?, name=?, watts=?, ohms=?, ohms_expanded=?, accuracy=?, clock_factor=?, clock_expanded=? WHERE id=?",
          gearKey(g.kind), g.name, g.watts, g.ohms, g.ohmsExpanded, path::showMeter(g.meter), g.clockFactor, g.clockExpanded, id);
    return id;
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
    c.run("UPDATE run SET bank_id=?, kind=?, title=?, started_at=?, charger_id=?, cable_id=?, meter_id=?, load_id=?, from_s=?, to_s=?,"
          " log_name=?, skipped_lines=?, counter_wh=?, counter_ah=?, notes=? WHERE id=?",
          r.bank, findings::kindKey(r.kind), r.title, r.startedAt, r.charger, r.cable, r.meter, r.load, r.from, r.to, r.logName,
          static_cast<long long>(r.skippedLines), r.counterWattHours, r.counterAmpHours, r.notes, id);
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
