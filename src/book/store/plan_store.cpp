#include "book/store/plan_store.h"

#include <algorithm>

#include "core/quantity/say.h"

namespace otterstone::book {

std::vector<PlannedRun> loadPlanned(Connection& c) {
    std::vector<PlannedRun> all;
    Answer q =
        c.run("SELECT planned.id, bank_id, kind, recipe, claim, words, done FROM planned JOIN bank ON bank.id = bank_id"
              " WHERE planned.removed = 0 AND bank.removed = 0 ORDER BY planned.id");
    const Row row(q);
    while (q.next()) {
        try {
            if (const auto kind = records::kindFromKey(row.text(2)))
                all.push_back({row.whole(0), row.whole(1), *kind, row.text(3), row.text(4), row.text(5), row.flag(6)});
        } catch (const Damage& damage) {
            c.passOver(say("planned run {}", q.value(0).text()), damage);
        }
    }
    return all;
}

Id storePlanned(Connection& c, const PlannedRun& p) {
    Id id = p.id;
    if (id == kNew)
        id =
            c.run("INSERT INTO planned (bank_id, kind) VALUES (?, ?)", p.bank, records::kindKey(p.kind)).lastInsertId();
    c.run("UPDATE planned SET bank_id = ?, kind = ?, recipe = ?, claim = ?, words = ?, done = ? WHERE id = ?", p.bank,
          records::kindKey(p.kind), p.recipe, p.claim, p.words, p.done, id);
    return id;
}

std::vector<Publication> loadPublications(Connection& c, const std::string& scope) {
    std::vector<Publication> all;
    Answer q = c.run("SELECT id, scope, at, method, json FROM published WHERE scope = ? ORDER BY id DESC", scope);
    const Row row(q);
    while (q.next()) {
        try {
            all.push_back({row.whole(0), row.text(1), row.text(2),
                           static_cast<int>(std::clamp(row.whole(3), 0LL, 1'000'000LL)), row.text(4)});
        } catch (const Damage& damage) {
            c.passOver(say("published sheet {}", q.value(0).text()), damage);
        }
    }
    return all;
}

Id storePublication(Connection& c, const Publication& p) {
    return c.run("INSERT INTO published (scope, at, method, json) VALUES (?, ?, ?, ?)", p.scope, p.at, p.method, p.json)
        .lastInsertId();
}

std::string loadChoice(Connection& c, const std::string& key) {
    Answer q = c.run("SELECT json FROM choice WHERE key = ?", key);
    return q.next() ? q.value(0).text() : std::string();
}

std::string loadReadable(Connection& c, const ChoiceKind& kind) {
    std::string text = loadChoice(c, kind.key);
    if (text.empty())
        return text;
    const auto readable = kind.check(text, sayAsItStands(kind.words));
    if (readable)
        return text;
    c.passOver(readable.error().sentence());
    return {};
}

void storeChoice(Connection& c, const std::string& key, const std::string& value) {
    c.run("INSERT OR REPLACE INTO choice (key, json) VALUES (?, ?)", key, value);
}

} // namespace otterstone::book
