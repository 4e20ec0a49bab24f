// Gear, runs and remembered mappings in the tables.
#include <algorithm>
#include <map>
#include <set>

#include "book/store/json_put.h"
#include "book/store/json_records.h"
#include "book/store/older_runs.h"
#include "book/store/record_store.h"
#include "core/quantity/format.h"
#include "core/quantity/json_text.h"
#include "core/quantity/parse.h"
#include "core/quantity/say.h"

namespace otterstone::book {

using nlohmann::json;

namespace {

constexpr const char* kRunColumns =
    "SELECT id, bank_id, kind, title, started_at, from_s, to_s, log_name, skipped_lines, counter_wh, counter_ah, notes, settling,"
    " target_bank_id, details, charger_id, far_cable_id, cable_id, meter_id, load_id, trigger_id, thermometer_id, device_id,"
    " open, captured_at FROM run WHERE removed = 0";

json detailsAt(const Row& row, int at) { return objectIn(row.text(at), "details"); }

Run readRun(Connection& c, const Row& row) {
    Run r;
    r.id = row.whole(0);
    r.bank = row.whole(1);
    const auto kind = records::kindFromKey(row.text(2));
    if (!kind)
        throw Damage("kind", "there is no such kind of run");
    r.kind = *kind;
    r.title = row.text(3);
    r.startedAt = row.text(4);
    r.from = row.maybe(5);
    r.to = row.maybe(6);
    r.logName = row.text(7);
    r.skippedLines = static_cast<std::size_t>(std::max(0LL, row.whole(8)));
    r.counterWattHours = row.maybe(9);
    r.counterAmpHours = row.maybe(10);
    r.notes = row.text(11);
    r.settling = row.flag(12);
    if (const auto target = row.maybeWhole(13))
        r.target = Target{*target, {}, {}, {}};
    const json details = detailsAt(row, 14);
    readDetails(details, r);
    if (r.target && row.empty(13))
        throw Damage("details", "it was poured into a bank that is not named");
    int at = 15;
    for (const Stretch& s : kStretches)
        r.*(s.piece) = row.maybeWhole(at++);
    r.open = row.flag(at++);
    r.capturedAt = row.text(at);
    Answer t = c.run(
        "SELECT point, gear_id, log_name FROM trace WHERE run_id = ? AND main = 0 AND removed = 0 ORDER BY id", r.id);
    const Row trace(t);
    while (t.next()) {
        std::string key = trace.text(0);
        AlsoTrace also;
        also.byDisplay = key.ends_with(" (display)");
        if (also.byDisplay)
            key.resize(key.size() - std::string_view(" (display)").size());
        const auto point = path::pointFromName(key);
        if (!point)
            throw Damage("trace: point", "there is no such point on a path");
        also.point = *point;
        also.meter = trace.maybeWhole(1);
        also.logName = trace.text(2);
        r.also.push_back(std::move(also));
    }
    Answer w = c.run("SELECT code, text FROM log_warning WHERE run_id = ? ORDER BY position", r.id);
    const Row warning(w);
    while (w.next())
        r.logWarnings.emplace_back(warning.text(0), warning.text(1));
    Answer m = c.run("SELECT at_s, what, number, text FROM mark WHERE run_id = ? ORDER BY at_s, position", r.id);
    const Row mark(m);
    while (m.next())
        r.marks.push_back({mark.number(0), records::markFromKey(mark.text(1)).value_or(records::Mark::What::Note),
                           mark.maybe(2), mark.text(3)});
    bringUpToDate(details, r);
    return r;
}

} // namespace

std::vector<Gear> loadGear(Connection& c) {
    std::vector<Gear> all;
    Answer q = c.run("SELECT id, kind, name, details FROM gear WHERE removed = 0 ORDER BY id");
    const Row row(q);
    while (q.next()) {
        try {
            json j = detailsAt(row, 3);
            j["kind"] = row.text(1);
            j["name"] = row.text(2);
            j["id"] = row.whole(0);
            all.push_back(gearFromJson(j));
        } catch (const Damage& damage) {
            c.passOver(say("gear “{}”", inShort(q.value(2))), damage);
        }
    }
    return all;
}

std::map<Id, int> loadGearUses(Connection& c) {
    std::map<Id, std::set<Id>> runs;
    Answer along = c.run(
        "SELECT run.id, charger_id, far_cable_id, cable_id, meter_id, load_id, trigger_id, thermometer_id, device_id"
        " FROM run JOIN bank ON bank.id = bank_id WHERE run.removed = 0 AND bank.removed = 0");
    while (along.next()) {
        for (int k = 1; k <= static_cast<int>(std::size(kStretches)); ++k) {
            if (!along.value(k).isNull())
                runs[along.value(k).whole()].insert(along.value(0).whole());
        }
    }
    Answer also =
        c.run("SELECT run.id, gear_id FROM trace JOIN run ON run.id = run_id JOIN bank ON bank.id = bank_id"
              " WHERE main = 0 AND gear_id IS NOT NULL AND trace.removed = 0 AND run.removed = 0 AND bank.removed = 0");
    while (also.next())
        runs[also.value(1).whole()].insert(also.value(0).whole());
    std::map<Id, int> uses;
    for (const auto& [piece, of] : runs)
        uses[piece] = static_cast<int>(of.size());
    return uses;
}

Id storeGear(Connection& c, const Gear& g) {
    json j = toJson(g);
    for (const char* column : {"id", "kind", "name"})
        j.erase(column);
    Id id = g.id;
    if (id == kNew)
        id = c.run("INSERT INTO gear (kind, name) VALUES (?, '')", gearKey(g.kind)).lastInsertId();
    c.run("UPDATE gear SET kind=?, name=?, details=? WHERE id=?", gearKey(g.kind), g.name, jsonText(j), id);
    return id;
}

setup::Schools loadSchools(Connection& c) {
    setup::Schools schools;
    Answer q = c.run("SELECT question, answer FROM house");
    const Row row(q);
    while (q.next()) {
        try {
            const std::string question = row.text(0), answer = row.text(1);
            const auto* figure = std::find_if(std::begin(setup::kSchoolFigures), std::end(setup::kSchoolFigures),
                                              [&](const auto& f) { return f.key == question; });
            if (figure == std::end(setup::kSchoolFigures)) {
                setAnswer(schools, question, answer);
                continue;
            }
            const auto number = parseNumber(answer);
            if (!number || *number < figure->least || *number > figure->most)
                throw Damage(question, say("no house means “{}”", answer));
            schools.*(figure->figure) = *number;
        } catch (const Damage& damage) {
            c.passOver(say("the house"), damage);
        }
    }
    return schools;
}

void storeSchools(Connection& c, const setup::Schools& schools) {
    const auto store = [&c](const std::string& question, const std::string& answer) {
        c.run("INSERT INTO house VALUES (?,?) ON CONFLICT (question) DO UPDATE SET answer = excluded.answer", question,
              answer);
    };
    for (const setup::Question& q : setup::questions())
        store(q.key, answerOf(schools, q.key));
    for (const setup::SchoolFigure& f : setup::kSchoolFigures)
        store(std::string(f.key), plainDigits(schools.*(f.figure), 9));
}

namespace {

// Those that can be read; the others are told.
std::vector<Run> readRuns(Connection& c, Answer q) {
    std::vector<Run> runs;
    const Row row(q);
    while (q.next()) {
        try {
            runs.push_back(readRun(c, row));
        } catch (const Damage& damage) {
            Answer of = c.run("SELECT bank.name FROM bank JOIN run ON bank.id = run.bank_id WHERE run.id = ?",
                              q.value(0).whole());
            c.passOver(say("run {} of “{}” ({})", q.value(0).text(), (of.next() ? inShort(of.value(0)) : std::string()),
                           inShort(q.value(3))),
                       damage);
        }
    }
    return runs;
}

} // namespace

std::vector<Run> loadRuns(Connection& c, Id bank) {
    return readRuns(c, c.run((std::string(kRunColumns) + " AND bank_id = ? ORDER BY id").c_str(), bank));
}

std::vector<Run> loadOpenRuns(Connection& c) {
    return readRuns(c,
                    c.run((std::string(kRunColumns) +
                           " AND open = 1 AND bank_id IN (SELECT id FROM bank WHERE removed = 0) ORDER BY bank_id, id")
                              .c_str()));
}

std::optional<Run> loadRun(Connection& c, Id id) {
    Answer q = c.run((std::string(kRunColumns) + " AND id = ?").c_str(), id);
    const Row row(q);
    return q.next() ? std::optional(readRun(c, row)) : std::nullopt;
}

Id storeRun(Connection& c, const Run& r) {
    Id id = r.id;
    if (id == kNew)
        id = c.run("INSERT INTO run (bank_id, kind) VALUES (?, '')", r.bank).lastInsertId();
    c.run(
        "UPDATE run SET bank_id=?, kind=?, title=?, started_at=?, from_s=?, to_s=?, log_name=?, skipped_lines=?, counter_wh=?,"
        " counter_ah=?, notes=?, settling=?, target_bank_id=?, details=?, charger_id=?, far_cable_id=?, cable_id=?, meter_id=?, load_id=?,"
        " trigger_id=?, thermometer_id=?, device_id=?, open=?, captured_at=? WHERE id=?",
        r.bank, records::kindKey(r.kind), r.title, r.startedAt, r.from, r.to, r.logName,
        static_cast<long long>(r.skippedLines), r.counterWattHours, r.counterAmpHours, r.notes, r.settling,
        r.target ? std::optional(r.target->bank) : std::nullopt, jsonText(detailsJson(r)), r.charger, r.farCable,
        r.cable, r.meter, r.load, r.trigger, r.thermometer, r.device, r.open, r.capturedAt, id);
    for (const AlsoTrace& t : r.also)
        c.run("UPDATE trace SET gear_id = ?, log_name = ? WHERE run_id = ? AND point = ? AND main = 0", t.meter,
              t.logName, id, t.key());
    c.run("DELETE FROM mark WHERE run_id = ?", id);
    int position = 0;
    for (const records::Mark& m : r.marks)
        c.run("INSERT INTO mark VALUES (?,?,?,?,?,?)", id, position++, m.at, records::markKey(m.what), m.number,
              m.text);
    c.run("DELETE FROM log_warning WHERE run_id = ?", id);
    position = 0;
    for (const auto& [code, words] : r.logWarnings)
        c.run("INSERT INTO log_warning VALUES (?,?,?,?)", id, position++, code, words);
    return id;
}

std::optional<logs::Mapping> loadMapping(Connection& c, const std::string& header) {
    Answer q = c.run("SELECT json FROM log_mapping WHERE header = ?", header);
    if (!q.next())
        return std::nullopt;
    const auto read = parseJson(q.value(0).text(), "mapping");
    return read ? mappingFromJson(*read) : std::nullopt;
}

void storeMapping(Connection& c, const std::string& header, const logs::Mapping& mapping) {
    c.run("INSERT INTO log_mapping VALUES (?,?) ON CONFLICT (header) DO UPDATE SET json = excluded.json", header,
          jsonText(toJson(mapping)));
}

} // namespace otterstone::book
