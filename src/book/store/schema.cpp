#include "book/store/schema.h"

#include <algorithm>
#include <array>
#include <map>
#include <mutex>
#include <vector>

#include "core/quantity/say.h"

namespace otterstone::book {

namespace {

constexpr std::array kFirst = {
    R"(CREATE TABLE bank (
        id INTEGER PRIMARY KEY, name TEXT NOT NULL, notes TEXT NOT NULL DEFAULT '',
        capacity_ah REAL, cell_volts REAL, energy_wh REAL, output_capacity_ah REAL, output_volts REAL,
        also_printed TEXT NOT NULL DEFAULT '', total_watts REAL, total_amps REAL,
        weight_g REAL, length_mm REAL, width_mm REAL, height_mm REAL,
        recharge_h REAL, input_watts REAL, price REAL, currency TEXT NOT NULL DEFAULT '', warranty_months INTEGER,
        claims_pass_through INTEGER NOT NULL DEFAULT 0, claims_low_current INTEGER NOT NULL DEFAULT 0,
        removed INTEGER NOT NULL DEFAULT 0))",
    R"(CREATE TABLE port (
        id INTEGER PRIMARY KEY, bank_id INTEGER NOT NULL REFERENCES bank(id) ON DELETE CASCADE,
        position INTEGER NOT NULL, name TEXT NOT NULL, direction TEXT NOT NULL CHECK (direction IN ('in','out','both')),
        watts REAL, shared_watts REAL))",
    R"(CREATE TABLE tier (
        port_id INTEGER NOT NULL REFERENCES port(id) ON DELETE CASCADE, position INTEGER NOT NULL,
        low_volts REAL NOT NULL, high_volts REAL NOT NULL, amps REAL NOT NULL, PRIMARY KEY (port_id, position)) WITHOUT ROWID)",
    R"(CREATE TABLE gear (
        id INTEGER PRIMARY KEY, kind TEXT NOT NULL CHECK (kind IN ('charger','cable','meter','load')), name TEXT NOT NULL,
        watts REAL, ohms REAL, ohms_expanded REAL, accuracy TEXT NOT NULL DEFAULT '',
        clock_factor REAL NOT NULL DEFAULT 1, clock_expanded REAL, removed INTEGER NOT NULL DEFAULT 0))",
    R"(CREATE TABLE run (
        id INTEGER PRIMARY KEY, bank_id INTEGER NOT NULL REFERENCES bank(id) ON DELETE CASCADE,
        kind TEXT NOT NULL, title TEXT NOT NULL DEFAULT '', started_at TEXT NOT NULL DEFAULT '',
        charger_id INTEGER REFERENCES gear(id), cable_id INTEGER REFERENCES gear(id),
        meter_id INTEGER REFERENCES gear(id), load_id INTEGER REFERENCES gear(id),
        from_s REAL, to_s REAL, log_name TEXT NOT NULL DEFAULT '', skipped_lines INTEGER NOT NULL DEFAULT 0,
        counter_wh REAL, counter_ah REAL, notes TEXT NOT NULL DEFAULT '', removed INTEGER NOT NULL DEFAULT 0))",
    "CREATE INDEX run_of_bank ON run(bank_id)",
    R"(CREATE TABLE log_warning (
        run_id INTEGER NOT NULL REFERENCES run(id) ON DELETE CASCADE, position INTEGER NOT NULL,
        code TEXT NOT NULL, text TEXT NOT NULL, PRIMARY KEY (run_id, position)) WITHOUT ROWID)",
    R"(CREATE TABLE mark (
        run_id INTEGER NOT NULL REFERENCES run(id) ON DELETE CASCADE, position INTEGER NOT NULL,
        at_s REAL NOT NULL, what TEXT NOT NULL, number REAL, text TEXT NOT NULL DEFAULT '',
        PRIMARY KEY (run_id, position)) WITHOUT ROWID)",
    R"(CREATE TABLE trace (
        id INTEGER PRIMARY KEY, run_id INTEGER NOT NULL REFERENCES run(id) ON DELETE CASCADE,
        point TEXT NOT NULL, samples INTEGER NOT NULL, volts_step REAL NOT NULL, amps_step REAL NOT NULL,
        UNIQUE (run_id, point)))",
    // The summaries come before the blobs, so that reading them never touches the blobs' overflow pages.
    R"(CREATE TABLE chunk (
        trace_id INTEGER NOT NULL REFERENCES trace(id) ON DELETE CASCADE, seq INTEGER NOT NULL,
        first_s REAL NOT NULL, last_s REAL NOT NULL, samples INTEGER NOT NULL, energy_wh REAL NOT NULL, charge_ah REAL NOT NULL,
        volts_min REAL, volts_max REAL, amps_min REAL, amps_max REAL, watts_min REAL, watts_max REAL,
        temperature_min REAL, temperature_max REAL,
        time_s BLOB NOT NULL, volts_v BLOB, amps_a BLOB, watts_w BLOB, temperature_c BLOB, percent BLOB,
        PRIMARY KEY (trace_id, seq)))",
    "CREATE TABLE finding (run_id INTEGER PRIMARY KEY REFERENCES run(id) ON DELETE CASCADE, key TEXT NOT NULL, json TEXT NOT NULL)",
    R"(CREATE VIEW run_overview AS
        SELECT run.id AS run, bank.name AS bank, run.kind, run.title, run.started_at, trace.point, trace.samples,
               (SELECT max(last_s) - min(first_s) FROM chunk WHERE trace_id = trace.id) AS duration_s,
               (SELECT sum(energy_wh) FROM chunk WHERE trace_id = trace.id) AS energy_wh,
               (SELECT sum(charge_ah) * 1000 FROM chunk WHERE trace_id = trace.id) AS charge_mah
        FROM run JOIN bank ON bank.id = run.bank_id LEFT JOIN trace ON trace.run_id = run.id
        WHERE run.removed = 0 AND bank.removed = 0)",
};

constexpr std::array kSecond = {
    "CREATE TABLE log_mapping (header TEXT PRIMARY KEY, json TEXT NOT NULL)",
};

// Gear's figures become one JSON object with the bundle's keys: seven kinds share few of them.
constexpr std::array kThird = {
    R"(CREATE TABLE gear_anew (
        id INTEGER PRIMARY KEY,
        kind TEXT NOT NULL CHECK (kind IN ('charger','cable','meter','load','trigger','thermometer','device')),
        name TEXT NOT NULL, details TEXT NOT NULL DEFAULT '{}', removed INTEGER NOT NULL DEFAULT 0))",
    R"(INSERT INTO gear_anew SELECT id, kind, name, json_object('watts', watts, 'ohms', ohms, 'ohms_expanded', ohms_expanded,
        'accuracy', accuracy, 'clock_factor', clock_factor, 'clock_expanded', clock_expanded), removed FROM gear)",
    "DROP TABLE gear",
    "ALTER TABLE gear_anew RENAME TO gear",
    "ALTER TABLE run ADD COLUMN far_cable_id INTEGER REFERENCES gear(id)",
    "ALTER TABLE run ADD COLUMN trigger_id INTEGER REFERENCES gear(id)",
    "ALTER TABLE run ADD COLUMN thermometer_id INTEGER REFERENCES gear(id)",
    "ALTER TABLE run ADD COLUMN device_id INTEGER REFERENCES gear(id)",
    "ALTER TABLE run ADD COLUMN target_bank_id INTEGER REFERENCES bank(id)",
    "ALTER TABLE run ADD COLUMN settling INTEGER NOT NULL DEFAULT 0",
    "ALTER TABLE run ADD COLUMN details TEXT NOT NULL DEFAULT '{}'",
    "ALTER TABLE trace ADD COLUMN main INTEGER NOT NULL DEFAULT 1",
    "ALTER TABLE trace ADD COLUMN gear_id INTEGER REFERENCES gear(id)",
    "ALTER TABLE trace ADD COLUMN log_name TEXT NOT NULL DEFAULT ''",
    "ALTER TABLE trace ADD COLUMN removed INTEGER NOT NULL DEFAULT 0",
    "CREATE TABLE house (question TEXT PRIMARY KEY, answer TEXT NOT NULL) WITHOUT ROWID",
    "DELETE FROM finding",
};

// Runs that are captured while they go.
constexpr std::array kFourth = {
    "ALTER TABLE run ADD COLUMN open INTEGER NOT NULL DEFAULT 0",
    "ALTER TABLE run ADD COLUMN captured_at TEXT NOT NULL DEFAULT ''",
};

// What ports promise together; sheets lie in a run's details.
constexpr std::array kFifth = {
    "ALTER TABLE bank ADD COLUMN shared TEXT NOT NULL DEFAULT ''",
    "DELETE FROM finding",
};

// What a scale and a rule say of a bank, how often it is said to charge a device; runs to be made; sheets that were
// published.
constexpr std::array kSixth = {
    "ALTER TABLE bank ADD COLUMN charges TEXT NOT NULL DEFAULT ''",
    "ALTER TABLE bank ADD COLUMN measured_g REAL",
    "ALTER TABLE bank ADD COLUMN measured_g_expanded REAL",
    "ALTER TABLE bank ADD COLUMN measured_length_mm REAL",
    "ALTER TABLE bank ADD COLUMN measured_width_mm REAL",
    "ALTER TABLE bank ADD COLUMN measured_height_mm REAL",
    R"(CREATE TABLE planned (
        id INTEGER PRIMARY KEY, bank_id INTEGER NOT NULL REFERENCES bank(id) ON DELETE CASCADE,
        kind TEXT NOT NULL, recipe TEXT NOT NULL DEFAULT '', claim TEXT NOT NULL DEFAULT '', words TEXT NOT NULL DEFAULT '',
        done INTEGER NOT NULL DEFAULT 0, removed INTEGER NOT NULL DEFAULT 0))",
    "CREATE TABLE published (id INTEGER PRIMARY KEY, scope TEXT NOT NULL, at TEXT NOT NULL, method INTEGER NOT NULL, json TEXT NOT NULL)",
    "CREATE TABLE choice (key TEXT PRIMARY KEY, json TEXT NOT NULL) WITHOUT ROWID",
};

// A port both ways may print what it takes by itself.
constexpr std::array kSeventh = {
    "ALTER TABLE port ADD COLUMN in_tiers TEXT NOT NULL DEFAULT ''",
    "ALTER TABLE port ADD COLUMN in_watts REAL",
};

// How runs began and ended lies in their details; findings are worked out anew with it, and say how much they ask.
constexpr std::array kEighth = {
    "DELETE FROM finding",
    "ALTER TABLE finding ADD COLUMN asks INTEGER NOT NULL DEFAULT 0",
};

// How a bank came, whose specimen it is, what it counts itself.
constexpr std::array kNinth = {
    "ALTER TABLE bank ADD COLUMN past TEXT NOT NULL DEFAULT '{}'",
};

// Photographs and files. What they hold lies in a table of its own, so that a list of them reads none of it.
constexpr std::array kTenth = {
    R"(CREATE TABLE attachment (
        id INTEGER PRIMARY KEY, bank_id INTEGER REFERENCES bank(id) ON DELETE CASCADE,
        run_id INTEGER REFERENCES run(id) ON DELETE CASCADE, name TEXT NOT NULL, caption TEXT NOT NULL DEFAULT '',
        type TEXT NOT NULL, width INTEGER NOT NULL DEFAULT 0, height INTEGER NOT NULL DEFAULT 0, size INTEGER NOT NULL,
        added_at TEXT NOT NULL DEFAULT '', on_sheet INTEGER NOT NULL DEFAULT 0, removed INTEGER NOT NULL DEFAULT 0,
        sum TEXT NOT NULL, thumbnail BLOB))",
    "CREATE TABLE attachment_bytes (attachment_id INTEGER PRIMARY KEY REFERENCES attachment(id) ON DELETE CASCADE, bytes BLOB NOT NULL)",
    "CREATE INDEX attachment_of_bank ON attachment(bank_id)",
    "CREATE INDEX attachment_of_run ON attachment(run_id)",
    "DELETE FROM finding", // drains into a device say how fast it charged
};

// Words by which banks are grouped.
constexpr std::array kEleventh = {
    "ALTER TABLE bank ADD COLUMN tags TEXT NOT NULL DEFAULT ''",
};

const std::array kMigrations = {Migration{1, kFirst},   Migration{2, kSecond},   Migration{3, kThird},
                                Migration{4, kFourth},  Migration{5, kFifth},    Migration{6, kSixth},
                                Migration{7, kSeventh}, Migration{8, kEighth},   Migration{9, kNinth},
                                Migration{10, kTenth},  Migration{11, kEleventh}};

// Everything a schema holds by type and name, tables with their columns, a view with its text.
using Schema = std::map<std::pair<std::string, std::string>, std::string>;

std::string wordsOf(const Schema::key_type& thing) { return say("{} “{}”", thing.first, thing.second); }

Schema schemaOf(Connection& c) {
    Schema all;
    Answer q = c.run("SELECT type, name, coalesce(sql, '') FROM sqlite_master");
    std::vector<std::string> tables;
    while (q.next()) {
        std::string type = q.value(0).text();
        const std::string name = q.value(1).text(), sql = q.value(2).text();
        if (name.starts_with("sqlite_") && type != "trigger" && type != "view")
            continue; // SQLite's own
        if (type == "table" &&
            QString::fromStdString(sql).trimmed().startsWith(QLatin1String("CREATE VIRTUAL"), Qt::CaseInsensitive))
            type = "virtual table";
        all[{type, name}] = type == "view" ? sql : std::string();
        if (type == "table")
            tables.push_back(name);
    }
    for (const std::string& table : tables) {
        std::string columns;
        Answer x = c.run("SELECT name, hidden FROM pragma_table_xinfo(?)", table);
        while (x.next())
            columns += x.value(0).text() + (x.value(1).whole() != 0 ? " (computed) " : " ");
        all[{"table", table}] = columns;
    }
    return all;
}

// Grown once in memory and kept: each opening and each look through a book asks for it, on several threads.
Schema schemaOfVersion(int version) {
    static std::mutex one;
    static std::map<int, Schema> known;
    const std::lock_guard lock(one);
    if (const auto at = known.find(version); at != known.end())
        return at->second;
    Connection ours(QStringLiteral(":memory:"), Connection::Mode::ReadWrite);
    const auto later = std::ranges::find_if(kMigrations, [&](const Migration& m) { return m.version > version; });
    migrate(ours, std::span(kMigrations.begin(), later));
    return known.emplace(version, schemaOf(ours)).first->second;
}

} // namespace

std::optional<std::string> foreignIn(Connection& connection, int version) {
    const Schema expected = schemaOfVersion(version), found = schemaOf(connection);
    for (const auto& [thing, columns] : found) {
        const auto at = expected.find(thing);
        if (at == expected.end())
            return say("it holds a {}, which no book has", wordsOf(thing));
        if (at->second != columns)
            return say("its {} is not as a book has it", wordsOf(thing));
    }
    for (const auto& [thing, columns] : expected) {
        if (!found.contains(thing))
            return say("it has no {}", wordsOf(thing));
    }
    return std::nullopt;
}

std::span<const Migration> migrations() { return kMigrations; }

int currentVersion() { return kMigrations.back().version; }

void migrate(Connection& connection, std::span<const Migration> steps) {
    Answer query = connection.run("PRAGMA user_version");
    query.next();
    const int version = static_cast<int>(query.value(0).whole());
    query.finish();
    // A table that others refer to is made anew only with their references switched off
    // (sqlite.org/lang_altertable.html, 7); they are checked before the step is kept.
    connection.run("PRAGMA foreign_keys = OFF");
    for (const Migration& step : steps) {
        if (step.version <= version)
            continue;
        Transaction all(connection);
        for (const char* sql : step.statements)
            connection.run(sql);
        connection.run(QStringLiteral("PRAGMA user_version = %1").arg(step.version).toUtf8().constData());
        if (version == 0 && step.version == steps.front().version)
            connection.run(QStringLiteral("PRAGMA application_id = %1").arg(kApplicationId).toUtf8().constData());
        Answer broken = connection.run("PRAGMA foreign_key_check");
        if (broken.next())
            throw SqlError(say("table {} refers to something that is not there", broken.value(0).text()));
        broken.finish();
        all.commit();
    }
    connection.run("PRAGMA foreign_keys = ON");
}

} // namespace otterstone::book
