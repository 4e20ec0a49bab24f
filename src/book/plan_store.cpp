#include "book/plan_store.h"

namespace otterstone::book {

std::vector<PlannedRun> loadPlanned(Connection& c) {
    std::vector<PlannedRun> all;
    QSqlQuery q = c.run("SELECT planned.id, bank_id, kind, recipe, claim, words, done FROM planned JOIN bank ON bank.id = bank_id"
                        " WHERE planned.removed = 0 AND bank.removed = 0 ORDER BY planned.id");
    while (q.next()) {
        const auto kind = findings::kindFromKey(text(q.value(2)));
        if (kind)
            all.push_back({q.value(0).toLongLong(), q.value(1).toLongLong(), *kind, text(q.value(3)), text(q.value(4)), text(q.value(5)), q.value(6).toBool()});
    }
    return all;
}

Id storePlanned(Connection& c, const PlannedRun& p) {
    Id id = p.id;
    if (id == kNew)
        id = c.run("INSERT INTO planned (bank_id, kind) VALUES (?, ?)", p.bank, findings::kindKey(p.kind)).lastInsertId().toLongLong();
    c.run("UPDATE planned SET bank_id = ?, kind = ?, recipe = ?, claim = ?, words = ?, done = ? WHERE id = ?", p.bank, findings::kindKey(p.kind), p.recipe, p.claim, p.words, p.done, id);
    return id;
}

std::vector<Publication> loadPublications(Connection& c, const std::string& scope) {
    std::vector<Publication> all;
    QSqlQuery q = c.run("SELECT id, scope, at, method, json FROM published WHERE scope = ? ORDER BY id DESC", scope);
    while (q.next())
        all.push_back({q.value(0).toLongLong(), text(q.value(1)), text(q.value(2)), q.value(3).toInt(), text(q.value(4))});
    return all;
}

Id storePublication(Connection& c, const Publication& p) {
    return c.run("INSERT INTO published (scope, at, method, json) VALUES (?, ?, ?, ?)", p.scope, p.at, p.method, p.json).lastInsertId().toLongLong();
}

std::string loadChoice(Connection& c, const std::string& key) {
    QSqlQuery q = c.run("SELECT json FROM choice WHERE key = ?", key);
    return q.next() ? text(q.value(0)) : std::string();
}

void storeChoice(Connection& c, const std::string& key, const std::string& json) { c.run("INSERT OR REPLACE INTO choice (key, json) VALUES (?, ?)", key, json); }

} // namespace otterstone::book
