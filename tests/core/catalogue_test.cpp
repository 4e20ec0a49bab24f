// The catalogue of kinds: every row is whole, and a kind that is in none walks from its columns to a sentence and to
// what others ask of it.
#include <set>

#include <QtTest>

#include "core/evidence/observe.h"
#include "core/kinds/catalogue.h"
#include "core/kinds/columns.h"
#include "core/kinds/seen.h"
#include "core/label/port_rules.h"

using namespace otterstone;
using namespace otterstone::kinds;

namespace {

// A kind of its own: a lamp of known watts is plugged into a port, and shines or does not.
std::vector<Column> lampColumns() {
    return {ditto("port", "Port", "as printed"), number("watts", "W", "of the lamp"),
            oneOf("shines", "Shines", "yes or no", {"yes", "no"}), note()};
}

void beginLamp(Sheet& sheet, const label::Label& label) {
    for (const label::Port& p : label.ports)
        sheet.rows.push_back({p.name, "", "", ""});
}

Said judgeLamp(const Sheet& sheet, const Facts&) {
    Said said;
    std::size_t shone = 0;
    for (const auto& row : sheet.rows)
        shone += row[2] == "yes" ? 1 : 0;
    if (shone > 0)
        said.sentence = "A lamp shone at " + std::to_string(shone) + " of its ports.";
    return said;
}

void observeLamp(Seen& seen) {
    for (const auto& row : seen.of().sheet.rows) {
        if (row[2] == "yes")
            seen.add(seen.gave(row[0], 5.0, 5.0, std::stod(row[1]) / 5.0));
    }
}

const SheetKind kLamp{lampColumns, judgeLamp, beginLamp, observeLamp};

label::Label twoPorts() {
    label::Label l;
    for (const char* name : {"C1", "A"}) {
        label::Port p;
        p.name = name;
        p.tiers = *label::parseTiers("5 V 3 A; 9 V 2 A", "test");
        l.ports.push_back(p);
    }
    return l;
}

} // namespace

class CatalogueTest : public QObject {
    Q_OBJECT

private slots:
    void every_row_is_whole() {
        for (const records::KindName& named : records::kKinds) {
            const KindRow& row = of(named.kind);
            QCOMPARE(row.kind, named.kind);
            QVERIFY2(row.sheet.has_value() != row.trace.has_value(), named.key);
            QCOMPARE(row.sheet.has_value(), named.sheet);
            QCOMPARE(records::kindFromKey(named.key), std::optional(named.kind));
            if (row.trace)
                QVERIFY2(row.trace->observe, named.key);
            if (!row.sheet)
                continue;
            QVERIFY2(row.sheet->judge, named.key);
            const std::vector<Column>& columns = columnsOf(named.kind);
            QVERIFY2(columns.size() >= 3, named.key);
            QCOMPARE(columns.back().key, std::string("note")); // a tester can always say more
            std::set<std::string> keys;
            for (const Column& c : columns)
                QVERIFY2(keys.insert(c.key).second && !c.words.empty() && !c.hint.empty(), c.key.c_str());
        }
    }

    void a_sheet_begins_with_whole_rows_that_say_nothing() {
        for (const records::Kind kind : records::sheetKinds()) {
            const Sheet sheet = startingSheet(kind, twoPorts());
            for (const auto& row : sheet.rows)
                QCOMPARE(row.size(), columnsOf(kind).size());
            const auto said = judge(sheet, Facts{}); // no figure comes of nothing
            QVERIFY2(!said || said->figures.empty(), records::kindKey(kind).c_str());
        }
    }

    void an_empty_sheet_says_so_in_words() {
        for (const records::Kind kind : records::sheetKinds()) {
            const auto said = judge(Sheet{kind, {}}, Facts{});
            QVERIFY2(!said, records::kindKey(kind).c_str());
            QCOMPARE(said.error().code, std::string("nothing_yet"));
            QVERIFY(said.error().text.starts_with("nothing can be said from these rows yet: "));
        }
    }

    void a_kind_of_ones_own_walks_from_columns_to_what_was_seen() {
        SheetRun run;
        run.run = 7;
        run.title = "lamps";
        QCOMPARE(kLamp.columns().size(), std::size_t(4));
        kLamp.begin(run.sheet, twoPorts());
        QCOMPARE(run.sheet.rows.size(), std::size_t(2));
        QCOMPARE(judge(kLamp, run.sheet, run.facts).error().code, std::string("nothing_yet"));
        run.sheet.rows[0][1] = "9";
        run.sheet.rows[0][2] = "yes";
        run.sheet.rows[1][2] = "no";
        QCOMPARE(judge(kLamp, run.sheet, run.facts)->sentence, std::string("A lamp shone at 1 of its ports."));
        std::vector<Observation> all;
        observe(kLamp, run, all);
        QCOMPARE(all.size(), std::size_t(1));
        QCOMPARE(all[0].said(), std::string("gave 5 V 1.8 A at C1"));
        QCOMPARE(all[0].where(), std::string("lamps"));
        QCOMPARE(all[0].limited, LimitedBy::Nobody);
    }
};

QTEST_APPLESS_MAIN(CatalogueTest)
#include "catalogue_test.moc"
