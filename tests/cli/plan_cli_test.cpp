// Campaigns from the command line: the documented example as it is written, its JSON, and what is refused.
#include <QTest>

#include <QFile>
#include <QJsonArray>
#include <QRegularExpression>
#include <QTemporaryDir>

#include <map>

#include "run_cli.h"
#include "where.h"

using namespace otterstone;
using namespace otterstone::testing;

class PlanCliTest : public QObject {
    Q_OBJECT

    QTemporaryDir folder_;
    QString example_;

    [[nodiscard]] QString write(const QString& name, const QByteArray& text) const {
        QFile file(folder_.filePath(name));
        return file.open(QIODevice::WriteOnly) && file.write(text) == text.size() ? file.fileName() : QString();
    }

private Q_SLOTS:
    void initTestCase() {
        QFile page(where::share("../../docs/file-formats.md"));
        QVERIFY(page.open(QIODevice::ReadOnly));
        const QByteArray text = page.readAll();
        const auto from = text.indexOf("    {\"pieces\""), to = text.indexOf("\n\n", from);
        QVERIFY(from > 0 && to > from);
        example_ = write("example.json", text.mid(from, to - from));
    }

    void the_documented_example_is_planned() {
        const Run told = cli({"plan", "--problem", example_, "--seconds", "5"});
        QVERIFY2(told.code == 0, qPrintable(told.errors));
        for (const char* said : {"All 3 jobs, with 2 more to bring banks into the states they need, take ",
                                 "nothing ends earlier", "Half of the times it ends within", "The window is met with",
                                 "drain P, Pebble 5: full → empty, on Load", "survey C, Cobble 10: full → 50 to 95 %",
                                 "when somebody is there and free for it", "Busiest: ", "Lithium cells can burn"})
            QVERIFY2(told.out.contains(said), (said + ("\n" + told.out)).constData());
        const QJsonObject j = cli({"plan", "--problem", example_, "--seconds", "5", "--json"}).json();
        QVERIFY(j["optimal"].toBool() && j["left_out"].toArray().isEmpty());
        QVERIFY(j["makespan_s"].toDouble() >= j["lower_bound_s"].toDouble());
        // Cobble 10 is filled twice, before its survey and after it; then its drain would end after hours, at 9.5 h,
        // and waits for the second day: 24 + 4 h.
        QCOMPARE(j["jobs"].toArray().size(), 5);
        QCOMPARE(j["makespan_s"].toDouble(), 28.0 * 3600.0);
        double last = 0.0;
        for (const QJsonValue job : j["jobs"].toArray()) {
            const double starts = job["starts"].toDouble(), ends = job["ends"].toDouble();
            QVERIFY(starts < ends && starts >= 0.0 && ends <= 118800.0);
            QVERIFY(job["ends_between"].toArray()[0].toDouble() <= job["ends_between"].toArray()[1].toDouble());
            last = std::max(last, ends);
        }
        QCOMPARE(last, j["makespan_s"].toDouble());
        QCOMPARE(j["sentence"].toString() + "\n", QString::fromUtf8(told.out.left(told.out.indexOf('\n') + 1)));
    }

    // The demo's own campaign: what is open of two banks, in the hours of a hut.
    void a_book_is_planned() {
        const QString book = folder_.filePath("demo.otterstone");
        QCOMPARE(cli({"demo", book}).code, 0);
        const QStringList asked{"plan",      book,         "--bank",       "Scree 15",
                                "--bank",    "Dolmen 50",  "--from",       "2026-09-07T09:00:00",
                                "--hours",   "daily 8-22", "--unattended", "stop",
                                "--seconds", "3"};
        const Run run = cli(asked + QStringList{"--json", "--csv", folder_.filePath("plan.csv")});
        QVERIFY2(run.code == 0, qPrintable(run.errors));
        const QJsonObject j = run.json();
        QVERIFY(j["jobs"].toArray().size() > 2);
        std::map<QString, std::vector<std::pair<QString, QString>>> busy; // by piece and by bank
        std::map<QString, QString> state;
        QStringList claims;
        for (const QJsonValue job : j["jobs"].toArray()) {
            const QString from = job["starts"].toString(), to = job["ends"].toString(), bank = job["bank"].toString();
            QVERIFY2(from >= "2026-09-07T09:00:00" && from < to && from.size() == 19, qPrintable(from));
            for (const QString& moment : {from, to}) // somebody is there
                QVERIFY2(moment.mid(11) >= "08:00:00" && moment.mid(11) <= "22:00:00", qPrintable(moment));
            QStringList lines{bank};
            for (const QJsonValue piece : job["gear"].toArray())
                lines << piece.toString();
            for (const QString& line : lines) {
                for (const auto& [begun, ended] : busy[line])
                    QVERIFY2(to <= begun || ended <= from, qPrintable(line));
                busy[line].emplace_back(from, to);
            }
            if (state.count(bank))
                QCOMPARE(job["begin_state"].toString(), state[bank]);
            state[bank] = job["end_state"].toString();
            if (job["kind"] == "drain")
                QVERIFY(job["as_needed"].toBool() || job["begin_state"] == "full");
            for (const QJsonValue claim : job["claims"].toArray())
                claims << bank + ": " + claim.toString();
        }
        for (const QJsonValue out : j["left_out"].toArray()) {
            QVERIFY(!out["why"].toString().isEmpty());
            for (const QJsonValue claim : out["claims"].toArray())
                claims << out["bank"].toString() + ": " + claim.toString();
        }
        // Nothing that is open was forgotten.
        for (const char* bank : {"Scree 15", "Dolmen 50"}) {
            const QJsonObject held = cli({"claims", book, "--bank", bank, "--json"}).json();
            int open = 0;
            for (const QJsonValue row : held["claims"].toArray()) {
                if (row["recipe"].toString().isEmpty())
                    continue;
                ++open;
                QVERIFY2(claims.contains(bank + QStringLiteral(": ") + row["claim"].toString()),
                         qPrintable(row["claim"].toString() + "\n" + claims.join("\n")));
            }
            QVERIFY2(open > 0, bank);
        }
        const Run told = cli(asked);
        QVERIFY2(told.out.contains("2026-09-07 09:00 to ") && told.out.contains("Lithium cells can burn"),
                 told.out.constData());
        QFile csv(folder_.filePath("plan.csv"));
        QVERIFY(csv.open(QIODevice::ReadOnly));
        QCOMPARE(csv.readAll().count('\n'), j["jobs"].toArray().size() + 1);
        // What is late, and what the book's own campaign wishes.
        const QJsonObject own = cli({"plan", book, "--seconds", "2", "--json"}).json();
        QVERIFY(own["sentence"].toString().contains("of 15 jobs"));
        QCOMPARE(own["lived"].toArray().size(), 3);
        QCOMPARE(own["lived"][0]["late_s"].toDouble(), 900.0);
        QVERIFY(own["lived"][0]["run"].toInt() > 0);
        QCOMPARE(own["lived"][1]["late_s"].toDouble(), 9600.0);
        QVERIFY(own["lived"][2]["late_s"].isNull());
        QVERIFY(own["chance_of_window"].toDouble() > 0.5);
        // Figures of a purpose, loads and repeats; the day sheet.
        const Run more = cli({"plan", book, "--bank", "Dolmen 50", "--for", "claims", "--loads", "2", "--repeats", "2",
                              "--seconds", "1", "--sheet", folder_.filePath("day.html"), "--json"});
        QVERIFY2(more.code == 0, qPrintable(more.errors));
        QStringList ids;
        for (const char* list : {"jobs", "left_out"}) {
            for (const QJsonValue job : more.json()[list].toArray())
                ids << job["id"].toString();
        }
        QVERIFY2(ids.filter("time 2").size() > 0, qPrintable(ids.join("\n")));
        QFile sheet(folder_.filePath("day.html"));
        QVERIFY(sheet.open(QIODevice::ReadOnly));
        const QByteArray html = sheet.readAll();
        QVERIFY(html.contains("Day sheet from Fri 7 Aug 2026, 10:40") && html.contains("lay out, plug in, start"));
        QCOMPARE(cli({"plan", book, "--from", "2026-09-07 9:00", "--until", "2026-09-09", "--seconds", "1"}).code, 0);
        for (const QStringList& wrong : {QStringList{"--loads", "2.5"},
                                         {"--repeats", "0"},
                                         {"--for", "fun"},
                                         {"--hours", "mon 25-26"},
                                         {"--from", "soon"}})
            QCOMPARE(cli(QStringList{"plan", book} + wrong).code, 2);
        QCOMPARE(cli({"plan", book, "--until", "2026-08-01"}).code, 3);
        // Alone always, there is no room for a recharge by night.
        const QJsonObject careful = cli({"plan", book, "--bank", "Dolmen 50", "--from", "2026-09-07T09:00:00",
                                         "--hours", "mon-fri 9-12", "--seconds", "1", "--json"})
                                        .json();
        QVERIFY(!careful["left_out"].toArray().isEmpty());
    }

    void a_job_shop_runs_as_it_is() {
        // Two jobs over two machines: 3 then 2, and 2 then 4: by hand, 7.
        const QString shop = write("shop.json", R"({"pieces": [{"id": "m"}, {"id": "n"}], "jobs": [
            {"id": "a1", "seconds": 3, "needs": [{"any_of": ["m"]}]},
            {"id": "a2", "seconds": 2, "needs": [{"any_of": ["n"]}], "after": ["a1"]},
            {"id": "b1", "seconds": 2, "needs": [{"any_of": ["n"]}]},
            {"id": "b2", "seconds": 4, "needs": [{"any_of": ["m"]}], "after": ["b1"]}]})");
        const QJsonObject j = cli({"plan", "--problem", shop, "--json"}).json();
        QCOMPARE(j["makespan_s"].toDouble(), 7.0);
        QVERIFY(j["optimal"].toBool());
    }

    void what_cannot_be_is_refused_in_words_data() {
        QTest::addColumn<QByteArray>("text");
        QTest::addColumn<QStringList>("more");
        QTest::addColumn<int>("code");
        QTest::addColumn<QString>("says");
        QTest::newRow("no JSON") << QByteArray("[") << QStringList() << 3 << "not JSON";
        QTest::newRow("a slip") << QByteArray(R"({"jobs": [{"id": "a", "secs": 3}]})") << QStringList() << 3
                                << "jobs[1].seconds";
        QTest::newRow("a problem's days") << QByteArray("{}") << QStringList{"--from", "2026-09-07"} << 2 << "--from";
        QTest::newRow("a problem's hands")
            << QByteArray("{}") << QStringList{"--unattended", "night"} << 2 << "--unattended";
        QTest::newRow("no time") << QByteArray("{}") << QStringList{"--seconds", "soon"} << 2 << "--seconds";
    }
    void what_cannot_be_is_refused_in_words() {
        QFETCH(QByteArray, text);
        QFETCH(QStringList, more);
        QFETCH(int, code);
        QFETCH(QString, says);
        const Run run = cli(QStringList{"plan", "--problem", write("wrong.json", text)} + more);
        QCOMPARE(run.code, code);
        QVERIFY2(run.errors.contains(says), qPrintable(run.errors));
    }
    void no_file_and_nothing_to_do() {
        QCOMPARE(cli({"plan", "--problem", folder_.filePath("none.json")}).code, 2);
        QCOMPARE(cli({"plan"}).code, 2);
        const Run nothing = cli({"plan", "--problem", write("nothing.json", "{}")});
        QCOMPARE(nothing.code, 0);
        QVERIFY(nothing.out.startsWith("There is nothing to do."));
    }
};

QTEST_GUILESS_MAIN(PlanCliTest)
#include "plan_cli_test.moc"
