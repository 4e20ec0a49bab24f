// The live bench by the command line, as a script or a user without a window has it: recipes, instruments, listening,
// and whole runs.
#include <QTest>

#include <csignal>

#include <QJsonArray>
#include <QRegularExpression>

#include "../bench/bench_harness.h"
#include "run_cli.h"
#include "where.h"

using namespace otterstone;
using namespace otterstone::testing;

namespace {

QStringList keysIn(const char* folder) {
    QStringList keys;
    for (const QString& file : QDir(where::share(QLatin1String(folder))).entryList({"*.json"}))
        keys << file.chopped(5);
    return keys;
}

} // namespace

class LiveCliTest : public QObject {
    Q_OBJECT

    QTemporaryDir folder_;

    QString write(const QString& name, const QByteArray& text) {
        QFile file(folder_.filePath(name));
        return file.open(QIODevice::WriteOnly) && file.write(text) == text.size() ? file.fileName() : QString();
    }
    // A load from the first second on, without a look around before it.
    QString atOnce(int seconds) {
        return write(
            "at-once.json",
            R"({"format": "otterstone-recipe", "version": 1, "key": "at-once", "name": "At once", "kind": "drain", "needs": ["meter", "load"],
            "closing_s": 1, "steps": [{"do": "load", "amps": 1, "seconds": )" +
                QByteArray::number(seconds) + "}]}");
    }
    // What a drain on this stand-in takes on the command line.
    static QStringList drain(const OneBank& book, const Standin& standin, const QString& recipe,
                             const QString& meter = QStringLiteral("printing-meter")) {
        return {"live",      book.path,
                "--bank",    "Pebble 5",
                "--recipe",  recipe,
                "--meter",   meter + "@" + standin.at("meter").text,
                "--load",    "scpi-load@" + standin.at("load").text,
                "--checked", "--json"};
    }

    // What a run says when a signal ended it.
    static QJsonObject ended(QProcess& run, int signal) {
        const bool sent = ::kill(static_cast<pid_t>(run.processId()), signal) == 0;
        return sent && run.waitForFinished(20000) ? QJsonDocument::fromJson(run.readAllStandardOutput()).object()
                                                  : QJsonObject();
    }

private Q_SLOTS:
    void every_recipe_tells_its_steps_and_time_data() {
        QTest::addColumn<QString>("key");
        for (const QString& key : keysIn("recipes"))
            QTest::newRow(qPrintable(key)) << key;
    }
    void every_recipe_tells_its_steps_and_time() {
        QFETCH(QString, key);
        const QStringList bank{"--wh", "14", "--tier", "5Vx3A", "--tier", "9Vx2A", "--input-watts", "15"};
        const Run r = cli(QStringList{"recipe", key, "--json"} + bank);
        QVERIFY2(r.code == 0, qPrintable(r.errors));
        const QJsonObject j = r.json();
        QCOMPARE(j["key"].toString(), key);
        QVERIFY(!j["steps"].toArray().isEmpty());
        QVERIFY(!j["needs"].toArray().isEmpty());
        const Run text = cli(QStringList{"recipe", key} + bank);
        for (const auto& step : j["steps"].toArray())
            QVERIFY2(QString::fromUtf8(text.out).contains(step.toString()), text.out.constData());
        // Its file says the same as its name.
        QCOMPARE(cli(QStringList{"recipe", where::share("recipes/") + key + ".json", "--json"} + bank).out, r.out);
    }
    void a_drain_takes_as_long_as_its_energy_lasts() {
        // 20 s of rest, 14 Wh at 1 A of 5 V, 60 s afterwards.
        const double expected = 20.0 + 14.0 / 5.0 * 3600.0 + 60.0;
        const double seconds = cli({"recipe", "gentle-drain", "--wh", "14", "--json"}).json()["seconds"].toDouble();
        QVERIFY2(std::abs(seconds - expected) < 1.0, qPrintable(QString::number(seconds)));
        QVERIFY(cli({"recipe", "gentle-drain", "--json"}).json()["seconds"].isNull()); // nothing to reckon with
        QVERIFY(cli({"recipe", "gentle-drain"}).out.contains("cannot be told without --wh"));
    }

    void every_instrument_is_printed_whole_data() {
        QTest::addColumn<QString>("key");
        for (const QString& key : keysIn("instruments"))
            QTest::newRow(qPrintable(key)) << key;
    }
    void every_instrument_is_printed_whole() {
        QFETCH(QString, key);
        const Run r = cli({"instrument", key});
        QCOMPARE(r.code, 0);
        QCOMPARE(r.json()["key"].toString(), key);
        QCOMPARE(cli({"instrument", write("again.json", r.out)}).out, r.out); // what is printed is read back unchanged
    }
    void the_worked_examples_of_the_manual_hold() {
        QFile manual(where::share("../../docs/live-bench.md"));
        QVERIFY(manual.open(QIODevice::ReadOnly));
        // Indented blocks that begin with a brace.
        static const QRegularExpression block(QStringLiteral("(?m)^    \\{(?:.*\\n)(?:    .*\\n)*"));
        int instruments = 0, recipes = 0;
        for (auto all = block.globalMatch(QString::fromUtf8(manual.readAll())); all.hasNext();) {
            const QString text = all.next().captured();
            const bool recipe = text.contains(QStringLiteral("otterstone-recipe"));
            if (!recipe && !text.contains(QStringLiteral("otterstone-instrument")))
                continue;
            const Run r = cli({recipe ? "recipe" : "instrument", write("example.json", text.toUtf8())});
            QVERIFY2(r.code == 0, qPrintable(r.errors + text));
            ++(recipe ? recipes : instruments);
        }
        QVERIFY(instruments >= 2);
        QVERIFY(recipes >= 1);
    }

    void what_is_wrong_is_told_with_its_place_data() {
        QTest::addColumn<QByteArray>("file");
        QTest::addColumn<QStringList>("arguments");
        QTest::addColumn<int>("code");
        QTest::addColumn<QString>("says");
        const QByteArray none;
        QTest::newRow("no such recipe") << none << QStringList{"recipe", "juggle"} << 3 << "gentle-drain";
        QTest::newRow("no such instrument")
            << none << QStringList{"instrument", "crystal-ball"} << 3 << "printing-meter";
        QTest::newRow("no JSON") << QByteArray("{") << QStringList{"recipe", "FILE"} << 3 << "wrong.json";
        QTest::newRow("an instrument is no recipe")
            << QByteArray(R"({"format": "otterstone-instrument", "version": 1})") << QStringList{"recipe", "FILE"} << 3
            << "otterstone-recipe";
        QTest::newRow("from a later version") << QByteArray(R"({"format": "otterstone-recipe", "version": 99})")
                                              << QStringList{"recipe", "FILE"} << 3 << "newer Otterstone";
        QTest::newRow("a step nobody knows")
            << QByteArray(
                   R"({"format": "otterstone-recipe", "version": 1, "key": "x", "name": "X", "kind": "drain", "needs": ["load"], "steps": [{"do": "dance"}]})")
            << QStringList{"recipe", "FILE"} << 3 << "dance";
        QTest::newRow("hands that do what nobody knows")
            << QByteArray(
                   R"({"format": "otterstone-recipe", "version": 1, "key": "x", "name": "X", "kind": "drain", "needs": ["load"], "steps": [{"do": "tell", "text": "Now", "hands": "wave"}]})")
            << QStringList{"recipe", "FILE"} << 3 << "wave";
        QTest::newRow("a step without an end")
            << QByteArray(
                   R"({"format": "otterstone-recipe", "version": 1, "key": "x", "name": "X", "kind": "drain", "needs": ["load"], "steps": [{"do": "load", "amps": 1}]})")
            << QStringList{"recipe", "FILE"} << 3 << "step";
        QTest::newRow("a meter without columns")
            << QByteArray(
                   R"({"format": "otterstone-instrument", "version": 1, "key": "x", "name": "X", "kind": "meter", "connection": {"serial": {"baud": 9600}}})")
            << QStringList{"instrument", "FILE"} << 3 << "lines";
        QTest::newRow("a word nobody knows")
            << QByteArray(
                   R"({"format": "otterstone-instrument", "version": 1, "key": "x", "name": "X", "kind": "load", "connection": {"tcp": {"port": 5025}}, "scpi": {}, "spci": {}})")
            << QStringList{"instrument", "FILE"} << 3 << "spci";
        QTest::newRow("wrong watt-hours") << none << QStringList{"recipe", "gentle-drain", "--wh", "-3"} << 2 << "--wh";
        QTest::newRow("wrong tier") << none << QStringList{"recipe", "gentle-drain", "--tier", "much"} << 2 << "much";
        QTest::newRow("no such port") << none << QStringList{"listen", "/dev/there-is-no-such-port"} << 3
                                      << "/dev/there-is-no-such-port";
        QTest::newRow("nobody at that address") << none << QStringList{"listen", "127.0.0.1:1"} << 3 << "127.0.0.1:1";
        QTest::newRow("wrong baud") << none << QStringList{"listen", "/dev/null", "--baud", "fast"} << 2 << "--baud";
    }
    void what_is_wrong_is_told_with_its_place() {
        QFETCH(QByteArray, file);
        QFETCH(QStringList, arguments);
        QFETCH(int, code);
        QFETCH(QString, says);
        if (!file.isEmpty())
            arguments.replaceInStrings("FILE", write("wrong.json", file));
        const Run r = cli(arguments);
        QVERIFY2(r.code == code, qPrintable(QString::number(r.code) + r.errors));
        QVERIFY2(r.errors.contains(says), qPrintable(r.errors));
        QVERIFY(r.out.isEmpty());
    }

    void a_run_that_cannot_begin_says_why_and_leaves_no_trace_data() {
        QTest::addColumn<QStringList>("arguments");
        QTest::addColumn<int>("code");
        QTest::addColumn<QString>("says");
        const QStringList usual{"--bank",   "Pebble 5",
                                "--recipe", "gentle-drain",
                                "--meter",  "printing-meter@/dev/none",
                                "--load",   "scpi-load@127.0.0.1:1"};
        const auto but = [&](const QString& what, const QString& value) {
            QStringList l = usual;
            l[l.indexOf(what) + 1] = value;
            return l << "--checked";
        };
        QTest::newRow("nobody looked at the bench") << usual << 2 << "Lithium cells burn";
        QTest::newRow("no such bank") << but("--bank", "Granite") << 2 << "Granite";
        QTest::newRow("no such recipe") << but("--recipe", "juggle") << 2 << "juggle";
        QTest::newRow("no address") << but("--load", "scpi-load") << 2 << "PROFILE@ADDRESS";
        QTest::newRow("no such profile") << but("--meter", "crystal-ball@/dev/none") << 2 << "crystal-ball";
        QTest::newRow("no load") << QStringList{"--bank",       "Pebble 5", "--recipe",
                                                "gentle-drain", "--meter",  "printing-meter@/dev/none",
                                                "--checked"}
                                 << 2 << "--load";
        QTest::newRow("no temperature") << (but("--bank", "Pebble 5") << "--celsius"
                                                                      << "warm")
                                        << 2 << "--celsius";
        QTest::newRow("nothing left open")
            << QStringList{"--go-on", "--recipe", "gentle-drain", "--checked"} << 2 << "left open";
        QTest::newRow("no stand-in") << (but("--bank", "Pebble 5") << "--rehearse"
                                                                   << "127.0.0.1")
                                     << 2 << "HOST:PORT@SPEED";
        QTest::newRow("nobody answers") << but("--bank", "Pebble 5") << 3 << "does not answer";
    }
    void a_run_that_cannot_begin_says_why_and_leaves_no_trace() {
        QFETCH(QStringList, arguments);
        QFETCH(int, code);
        QFETCH(QString, says);
        OneBank one;
        one.book.reset();
        const Run r = cli(QStringList{"live", one.path} + arguments);
        QVERIFY2(r.code == code, qPrintable(QString::number(r.code) + r.errors));
        QVERIFY2(r.errors.contains(says), qPrintable(r.errors));
        auto book = book::Book::open(one.path);
        QVERIFY(book);
        QVERIFY((*book)->runs(one.bank).empty());
    }

    void a_drain_runs_to_cut_off_and_finds_the_truth() {
        Standin standin({"--speed", "2000", "--rate", "1", "--in-step", "--seed",
                         "7"}); // whose errors lie well within its accuracy; ± is for 95 %
        QVERIFY(standin.ok());
        OneBank one;
        records::Gear meter;
        meter.kind = records::GearKind::Meter;
        meter.name = "Bench meter";
        meter.meter =
            path::parseMeter("volts 0.05%+2mV, amps 0.1%+3mA, clock 50ppm", "meter").value(); // the stand-in's own
        records::Gear cable;
        cable.kind = records::GearKind::Cable;
        cable.name = "Short black";
        cable.ohms = Stated(0.058, 0.001); // the stand-in's own, too
        QVERIFY(one.book->save(meter) && one.book->save(cable));
        one.book.reset();
        const Run r = cli(drain(one, standin, "gentle-drain") << "--meter-gear"
                                                              << "Bench meter"
                                                              << "--cable-gear"
                                                              << "Short black"
                                                              << "--title"
                                                              << "from a script"
                                                              << "--rehearse" << standin.at("control").text + "@2000");
        QVERIFY2(r.code == 0, qPrintable(r.errors));
        const QJsonObject j = r.json();
        QVERIFY2(j["orderly"].toBool(), r.out.constData());
        QVERIFY(j["ended_by"].toString().contains("switched its output off"));
        auto book = book::Book::open(one.path);
        QVERIFY(book);
        const auto run = (*book)->run(j["run"].toInteger());
        QVERIFY(run && !run->open);
        QCOMPARE(run->title, std::string("from a script"));
        const auto finding = (*book)->finding(run->id);
        QVERIFY(finding);
        QCOMPARE(QString::fromStdString(finding->sentence), j["sentence"].toString());
        const Measured& port = finding->portWattHours;
        const double truth = j["true_wh"].toDouble();
        QVERIFY2(std::abs(port.value() - truth) <= port.expanded(),
                 qPrintable(QStringLiteral("%1 ± %2, truth %3").arg(port.value()).arg(port.expanded()).arg(truth)));
        QVERIFY(port.expanded() < 0.01 * truth); // and says something
        QVERIFY(truth > 0.8 * 18.5);             // to the bank's own end, not to that of its load's patience
        QVERIFY(!standin.truth().at("load_on").get<bool>());
    }
    void an_interrupt_switches_the_load_off_and_keeps_the_run_data() {
        QTest::addColumn<int>("signal");
        QTest::newRow("Ctrl+C") << SIGINT;
        QTest::newRow("told to end") << SIGTERM;
        QTest::newRow("its terminal closes") << SIGHUP;
        QTest::newRow("Ctrl+backslash") << SIGQUIT;
    }
    void an_interrupt_switches_the_load_off_and_keeps_the_run() {
        QFETCH(int, signal);
        Standin standin({"--speed", "20", "--rate", "1"});
        QVERIFY(standin.ok());
        OneBank one;
        one.book.reset();
        QProcess p;
        p.start(where::cli(), drain(one, standin, atOnce(3600)));
        QTRY_VERIFY_WITH_TIMEOUT(standin.truth().at("load_on").get<bool>(), 20000);
        QTest::qWait(500);
        const QJsonObject j = ended(p, signal);
        QCOMPARE(p.exitCode(), 0);
        QVERIFY(!standin.truth().at("load_on").get<bool>());
        QVERIFY(!j["ended_by"].toString().isEmpty());
        auto book = book::Book::open(one.path);
        QVERIFY(book);
        const auto run = (*book)->run(j["run"].toInteger());
        QVERIFY(run && !run->open);
        QVERIFY((*book)->trace(run->id).size() > 5);
    }
    // A swapping computer, a paused virtual machine: the meter went on, and what it said lies in the line.
    void a_program_that_stood_still_loses_nothing() {
        Standin standin({"--speed", "1", "--rate", "20"});
        QVERIFY(standin.ok());
        OneBank one;
        one.book.reset();
        QProcess p;
        p.start(where::cli(), drain(one, standin, atOnce(3600)));
        QTRY_VERIFY_WITH_TIMEOUT(standin.truth().at("load_on").get<bool>(), 20000);
        QTest::qWait(1500);
        QCOMPARE(::kill(static_cast<pid_t>(p.processId()), SIGSTOP), 0);
        QTest::qWait(7000); // longer than a meter may be silent, and than a load may take to answer
        QCOMPARE(::kill(static_cast<pid_t>(p.processId()), SIGCONT), 0);
        QTest::qWait(3000);
        QVERIFY(standin.truth().at("load_on").get<bool>());
        const QJsonObject j = ended(p, SIGINT);
        QVERIFY(p.readAllStandardError().contains("stood still for"));
        QCOMPARE(j["ended_by"].toString(), QString("the tester stopped it"));
        auto book = book::Book::open(one.path);
        QVERIFY(book);
        const auto trace = (*book)->trace(j["run"].toInteger());
        QVERIFY(trace.size() > 200);
        for (std::size_t k = 1; k < trace.size(); ++k)
            QVERIFY2(trace.time[k] - trace.time[k - 1] < 0.06, qPrintable(QString::number(trace.time[k])));
    }
    // What the manual says of the stand-in by hand, word for word, at another speed each.
    void the_manuals_bench_works_as_it_is_written_data() {
        QTest::addColumn<QString>("speed");
        QTest::addColumn<QByteArray>("until"); // this is told
        QTest::newRow("at real time") << "1" << QByteArray("running: ");
        QTest::newRow("ten times as fast") << "10" << QByteArray("Draw 1 A");
        QTest::newRow("500 times as fast") << "500" << QByteArray("Draw 1 A");
    }
    void the_manuals_bench_works_as_it_is_written() {
        QFETCH(QString, speed);
        QFETCH(QByteArray, until);
        QFile manual(where::share("../../docs/live-bench.md"));
        QVERIFY(manual.open(QIODevice::ReadOnly));
        QString bench, run;
        for (const QString& line : QString::fromUtf8(manual.readAll()).split('\n')) {
            if (line.startsWith("    otterstone-standin --demo"))
                bench = line.trimmed();
            if (line.startsWith("    otterstone-cli live BOOK"))
                run = line.trimmed();
        }
        QVERIFY(bench.contains("--speed 10 --folder /tmp") && run.contains("@/tmp/meter") && run.contains(":40119"));
        QStringList words = QProcess::splitCommand(
            bench.replace("--speed 10", "--speed " + speed).replace("--folder /tmp", "--folder " + folder_.path()));
        QProcess standin, live;
        standin.start(where::standin(), words.mid(1));
        QVERIFY(standin.waitForReadyRead(10000));
        const auto where = QJsonDocument::fromJson(standin.readLine()).object();
        QVERIFY(where.contains("load"));
        OneBank one;
        records::Bank bank = *one.book->bank(one.bank);
        bank.name = "Cobble 10";
        bank.label.energy = WattHours(37.0);
        QVERIFY(one.book->save(bank));
        one.book.reset(); // the command writes it
        run.replace("BOOK", one.path).replace("/tmp/meter", where.value("meter").toString());
        run.replace(":40119", ":" + QString::number(where.value("load").toInt()));
        live.start(where::cli(), QProcess::splitCommand(run).mid(1));
        QByteArray told;
        QTRY_VERIFY2_WITH_TIMEOUT((told += live.readAllStandardError()).contains(until), told.constData(), 60000);
        QTest::qWait(3000);
        QCOMPARE(live.state(), QProcess::Running);
        QCOMPARE(::kill(static_cast<pid_t>(live.processId()), SIGINT), 0);
        QVERIFY(live.waitForFinished(30000));
        QCOMPARE(live.exitCode(), 0);
        const QByteArray said = live.readAllStandardOutput();
        QVERIFY2(said.startsWith("the tester stopped it"), said.constData());
        QVERIFY((*book::Book::open(one.path))->trace(1).size() > 3);
        standin.terminate();
        QVERIFY(standin.waitForFinished(5000));
    }
    void what_was_heard_can_be_run_with() {
        Standin standin({"--speed", "20", "--rate", "2"});
        QVERIFY(standin.ok());
        const Run heard = cli({"listen", standin.at("meter").text});
        QVERIFY2(heard.code == 0, qPrintable(heard.errors));
        QVERIFY(heard.errors.contains("heard: "));
        const QString profile = write("heard.json", heard.out);
        QCOMPARE(cli({"instrument", profile}).code, 0);
        OneBank one;
        one.book.reset();
        const Run r =
            cli(drain(one, standin, atOnce(60), profile) << "--rehearse" << standin.at("control").text + "@20");
        QVERIFY2(r.code == 0, qPrintable(r.errors));
        auto book = book::Book::open(one.path);
        QVERIFY(book);
        const auto trace = (*book)->trace(r.json()["run"].toInteger());
        QVERIFY(trace.size() >= 40);
        int drawing = 0;
        for (std::size_t k = 0; k < trace.size(); ++k) {
            QVERIFY(trace.volts[k] >= 0.0 && trace.volts[k] < 6.0);
            drawing += std::abs(trace.amps[k] - 1.0) < 0.05 ? 1 : 0;
        }
        QVERIFY(drawing >= 30);
    }
};

QTEST_GUILESS_MAIN(LiveCliTest)
#include "live_cli_test.moc"
