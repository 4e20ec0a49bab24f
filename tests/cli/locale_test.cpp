// Decimal commas, right-to-left, a Turkish i: what is computed, printed for scripts and said to instruments is the same
// everywhere.
#include <QTemporaryDir>
#include <QTest>

#include <csignal>

#include "../bench/bench_harness.h"
#include "run_cli.h"
#include "where.h"

using namespace otterstone;
using namespace otterstone::testing;

class LocaleTest : public QObject {
    Q_OBJECT

    QTemporaryDir folder_;

    void everyLocale() {
        QTest::addColumn<QString>("locale");
        for (const char* name : {"de_DE", "tr_TR", "ar_EG", "fa_IR", "ja_JP"})
            QTest::newRow(name) << QString::fromLatin1(name);
    }
    // Made here, as a machine for building has none.
    void use(const QString& locale) {
        if (!QFileInfo::exists(folder_.filePath(locale + ".UTF-8")))
            QCOMPARE(QProcess::execute("localedef", {"-i", locale, "-f", "UTF-8", "--no-archive",
                                                     folder_.filePath(locale + ".UTF-8")}),
                     0);
        qputenv("LOCPATH", folder_.path().toUtf8());
        qputenv("LC_ALL", (locale + ".UTF-8").toUtf8());
    }

private Q_SLOTS:
    void cleanup() {
        qunsetenv("LOCPATH");
        qputenv("LC_ALL", "C.UTF-8");
    }
    void what_is_worked_out_is_the_same_data() { everyLocale(); }
    void what_is_worked_out_is_the_same() {
        QFETCH(QString, locale);
        const QString log = where::data("logs/semicolon_comma.csv");
        const QList<QStringList> commands{
            {"analyse", log, "--kind", "drain", "--json", "--meter", "volts 0.05%+2mV, amps 0.1%+3mA"},
            {"recipe", "load-staircase", "--tier", "9Vx2.5A"},
            {"instrument", "scpi-load"},
            {"label", "--mah", "5000", "--cell-volts", "3,7", "--wh", "18.5", "--tier", "9Vx2,22A", "--json"},
            {"behaviour", "--kind", "light load"}};
        for (const QStringList& command : commands) {
            cleanup();
            const Run plain = cli(command);
            use(locale);
            const Run there = cli(command);
            QCOMPARE(there.code, plain.code);
            QCOMPARE(there.out, plain.out);
            QCOMPARE(there.errors, plain.errors);
        }
    }
    // Instruments hear points, and theirs are read.
    void a_run_is_made_there_data() { everyLocale(); }
    void a_run_is_made_there() {
        QFETCH(QString, locale);
        use(locale);
        Standin standin({"--speed", "20", "--rate", "1"});
        QVERIFY(standin.ok());
        OneBank one;
        one.book.reset();
        QFile recipe(folder_.filePath("short.json"));
        QVERIFY(recipe.open(QIODevice::WriteOnly));
        recipe.write(
            R"({"format": "otterstone-recipe", "version": 1, "key": "short", "name": "Short", "kind": "drain", "needs": ["meter", "load"], "closing_s": 1, "steps": [{"do": "load", "amps": 1.25, "seconds": 60}]})");
        recipe.close();
        const Run r =
            cli({"live", one.path, "--bank", "Pebble 5", "--recipe", recipe.fileName(), "--meter",
                 "printing-meter@" + standin.at("meter").text, "--load", "scpi-load@" + standin.at("load").text,
                 "--rehearse", standin.at("control").text + "@20", "--checked", "--json"});
        QVERIFY2(r.code == 0, qPrintable(r.errors));
        auto book = book::Book::open(one.path);
        QVERIFY(book);
        const trace::Trace t = (*book)->trace(r.json()["run"].toInteger());
        QVERIFY(t.size() > 30);
        QVERIFY(std::fabs(t.amps[t.size() / 2] - 1.25) < 0.05);
        QCOMPARE(cli({"check", one.path}).code, 0);
    }
    void a_home_that_is_not_there_and_odd_names_do_no_harm() {
        const QString odd = folder_.filePath(QString::fromUtf8("a b\nח ü 電池"));
        QVERIFY(QDir().mkpath(odd));
        const QByteArray home = qgetenv("HOME");
        qputenv("HOME", "/nonexistent");
        const QString path = odd + "/demo book.otterstone";
        const Run made = cli({"demo", path});
        const Run checked = cli({"check", path});
        const Run exported = cli({"export", path, odd + "/out"});
        const Run imported = cli({"import", odd + "/out", odd + "/again.otterstone"});
        qputenv("HOME", home);
        for (const Run* r : {&made, &checked, &exported, &imported})
            QVERIFY2(r->code == 0, qPrintable(r->errors));
    }
};

QTEST_GUILESS_MAIN(LocaleTest)
#include "locale_test.moc"
