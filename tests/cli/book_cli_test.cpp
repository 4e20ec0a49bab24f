// A whole book by script: made, filled with banks and gear, given a log, judged; and every command with an example that
// is an example.
#include <cmath>

#include <QFile>
#include <QJsonArray>
#include <QJsonObject>
#include <QProcess>
#include <QTemporaryDir>
#include <QTest>

#include "run_cli.h"

using otterstone::testing::cli;
using otterstone::testing::Run;

class BookCliTest : public QObject {
    Q_OBJECT

    QTemporaryDir folder_;
    QString book_;

private Q_SLOTS:
    void init() {
        static int n = 0;
        book_ = folder_.filePath(QString("book-%1.otterstone").arg(++n));
        QCOMPARE(cli({"new", book_}).code, 0);
    }

    // Banks that are lent out are judged by themselves.
    void tags_pick_banks() {
        for (const auto& [name, tags] : {std::pair("Pebble 5", "loan"), {"Cobble 10", "cabin; Loan"}, {"Scree 15", ""}})
            QCOMPARE(cli({"add-bank", book_, "--name", name, "--mah", "10000", "--cell-volts", "3.7", "--weight-g",
                          "200", "--tags", tags})
                         .code,
                     0);
        const auto list = cli({"list", book_, "banks", "--json"}).json()["banks"].toArray();
        QCOMPARE(list.at(1).toObject()["tags"].toArray(), (QJsonArray{"cabin", "Loan"}));
        QVERIFY(cli({"list", book_, "banks"}).out.contains("\tcabin; Loan\n"));
        const auto chosen = cli({"choose", book_, "--purpose", "plane", "--tag", "LOAN", "--json"});
        QCOMPARE(chosen.code, 0);
        QVERIFY(chosen.out.contains("Pebble 5") && chosen.out.contains("Cobble 10") && !chosen.out.contains("Scree"));
        const Run unknown = cli({"use", book_, "--need", "Camera 2 W 8 h", "--tag", "attic"});
        QCOMPARE(unknown.code, 2);
        QVERIFY(unknown.errors.contains("no bank in this book has the tag “attic”"));
    }

    // As a tester's script would: nothing is touched by hand between an empty folder and a verdict.
    void from_nothing_to_a_verdict() {
        const Run bank = cli({"add-bank",
                              book_,
                              "--name",
                              "Shingle 10",
                              "--mah",
                              "10000",
                              "--cell-volts",
                              "3,7",
                              "--port",
                              "C1 out 5Vx3A 9Vx2A 18W in 5Vx3A 9 V 2 A 18 W shared 15W",
                              "--port",
                              "A 1 out 5V 2.4A",
                              "--shared",
                              "C1 10W + A 1 10W",
                              "--total-watts",
                              "20",
                              "--recharge-hours",
                              "3h",
                              "--weight-g",
                              "210",
                              "--size-mm",
                              "106x68x25",
                              "--price",
                              "29.90 EUR",
                              "--charges",
                              "2 x 12.4 Wh tablet",
                              "--warranty-months",
                              "24",
                              "--pass-through",
                              "--json"});
        QCOMPARE(bank.code, 0);
        QVERIFY(bank.json()["bank"].toInt() > 0);
        QCOMPARE(cli({"add-gear", book_, "--kind", "meter", "--name", "Pocket meter", "--accuracy",
                      "volts 0.05%+2mV, amps 0.1%+3mA", "--clock-factor", "1h / 58m50s"})
                     .code,
                 0);
        QCOMPARE(
            cli({"add-gear", book_, "--kind", "cable", "--name", "Blue cable", "--ohms", "0.115±0.015", "--marked"})
                .code,
            0);
        QCOMPARE(cli({"add-gear", book_, "--kind", "charger", "--name", "Grey charger", "--watts", "20", "--tier",
                      "5Vx3A", "--tier", "9V 2.22A", "--efficiency", "87%"})
                     .code,
                 0);
        QFile log(folder_.filePath("drain.csv"));
        QVERIFY(log.open(QIODevice::WriteOnly));
        log.write("time_s,volts,amps\n");
        for (int at = 0; at < 6 * 3600 + 600; at += 20)
            log.write(QByteArray::number(at) + (at < 6 * 3600 ? ",5.0,1.0\n" : ",0.0,0.0\n"));
        log.close();
        const Run run =
            cli({"add-run", book_, log.fileName(), "--bank", "Shingle 10", "--kind", "drain", "--meter", "Pocket meter",
                 "--cable", "Blue cable", "--port", "A 1", "--began", "full", "--ended", "empty", "--json"});
        QCOMPARE(run.code, 0);
        // 30 Wh at the meter, 0.115 Ω × 1 A² × 6 h more at the port; the meter's clock ran 2 % slow.
        const double port = (30.0 + 0.115 * 6.0) * 60.0 / (58.0 + 50.0 / 60.0);
        QVERIFY2(std::fabs(run.json()["energy_at_port_wh"].toDouble() / port - 1.0) < 2e-3, run.out.constData());
        const Run claims = cli({"claims", book_, "--bank", "Shingle 10", "--json"});
        QCOMPARE(claims.code, 0);
        QVERIFY(claims.out.contains("C1 gives 9 V 2 A"));
        QVERIFY(claims.out.contains("A 1 gives 5 V 2.4 A"));
        QVERIFY(claims.out.contains("12.4 Wh tablet"));
        const Run listed = cli({"list", book_, "gear", "--json"});
        QCOMPARE(listed.json()["gear"].toArray().size(), 3);
    }

    void another_piece_takes_the_label_of_the_first() {
        QCOMPARE(cli({"add-bank", book_, "--name", "One", "--wh", "37", "--port", "C both 5Vx3A"}).code, 0);
        QCOMPARE(cli({"add-bank", book_, "--name", "Two", "--like", "One", "--weight-g", "201"}).code, 0);
        const Run claims = cli({"claims", book_, "--bank", "Two", "--json"});
        QVERIFY(claims.out.contains("C gives 5 V 3 A"));
        QVERIFY(claims.out.contains("37 Wh"));
        QVERIFY(claims.out.contains("201 g"));
    }

    void what_cannot_be_is_refused_and_nothing_is_kept_data() {
        QTest::addColumn<QStringList>("arguments"); // behind the book
        QTest::addColumn<int>("code");
        QTest::addColumn<QString>("said");
        QTest::newRow("a bank twice") << QStringList{"add-bank", "--name", "Old"} << 3 << "there is a bank “Old”";
        QTest::newRow("like none") << QStringList{"add-bank", "--name", "X", "--like", "Y"} << 3 << "no bank “Y”";
        QTest::newRow("a port without a way") << QStringList{"add-bank", "--name", "X", "--port", "C1 5Vx3A"} << 2
                                              << "neither what it gives (out) nor what it takes (in)";
        QTest::newRow("a port without a name")
            << QStringList{"add-bank", "--name", "X", "--port", "out 5Vx3A"} << 2 << "neither what it gives";
        QTest::newRow("a port both and out")
            << QStringList{"add-bank", "--name", "X", "--port", "C both 5Vx3A out 9Vx2A"} << 2 << "stands alone";
        QTest::newRow("a tier that is none")
            << QStringList{"add-bank", "--name", "X", "--port", "C out 5Vx3Q"} << 2 << "--port";
        QTest::newRow("two ports of a name")
            << QStringList{"add-bank", "--name", "X", "--port", "C out 5Vx3A", "--port", "c in 5Vx3A"} << 2
            << "two ports";
        QTest::newRow("shared without watts")
            << QStringList{"add-bank", "--name", "X", "--port", "C out 5Vx3A shared"} << 2 << "followed by watts";
        QTest::newRow("two sides") << QStringList{"add-bank", "--name", "X", "--size-mm", "10x20"} << 2
                                   << "three sides";
        QTest::newRow("an age of warranty")
            << QStringList{"add-bank", "--name", "X", "--warranty-months", "99999"} << 2 << "nobody grants that";
        QTest::newRow("less than nothing") << QStringList{"add-bank", "--name", "X", "--wh", "-5"} << 2 << "--wh";
        QTest::newRow("no kind of gear") << QStringList{"add-gear", "--kind", "lamp", "--name", "X"} << 2
                                         << "charger, cable, meter";
        QTest::newRow("a cable's accuracy")
            << QStringList{"add-gear", "--kind", "cable", "--name", "X", "--accuracy", "volts 1%"} << 2
            << "a cable has no such figure. It is of: meter, load";
        QTest::newRow("a meter's tiers") << QStringList{"add-gear", "--kind", "meter", "--name", "X", "--tier", "5Vx3A"}
                                         << 2 << "It is of: charger, trigger";
        QTest::newRow("a marked load") << QStringList{"add-gear", "--kind", "load", "--name", "X", "--marked"} << 2
                                       << "It is of: cable";
        QTest::newRow("more than all") << QStringList{"add-gear", "--kind",       "charger", "--name",
                                                      "X",        "--efficiency", "120"}
                                       << 2 << "more than 100 %";
        QTest::newRow("half a gauge") << QStringList{"add-gear", "--kind", "cable", "--name", "X", "--awg", "2"} << 2
                                      << "from 10 to 40";
    }
    void what_cannot_be_is_refused_and_nothing_is_kept() {
        QFETCH(QStringList, arguments);
        QFETCH(int, code);
        QFETCH(QString, said);
        QCOMPARE(cli({"add-bank", book_, "--name", "Old"}).code, 0);
        arguments.insert(1, book_);
        const Run r = cli(arguments);
        QCOMPARE(r.code, code);
        QVERIFY2(r.errors.contains(said), qPrintable(r.errors));
        QCOMPARE(cli({"list", book_, "banks", "--json"}).json()["banks"].toArray().size(), 1);
        QCOMPARE(cli({"list", book_, "gear", "--json"}).json()["gear"].toArray().size(), 0);
        QCOMPARE(cli({"new", book_}).code, 3);                              // a book that is there is not overwritten
        QCOMPARE(cli({"label", "--wh", "37", "--price", "5 EUR"}).code, 2); // no sum on a label uses it
    }

    // What takes over half a second says so on a terminal, and takes its line away; a file or a pipe hears nothing of
    // it.
    void a_terminal_sees_what_takes_long() {
        QProcess terminal;
        auto environment = QProcessEnvironment::systemEnvironment();
        environment.insert("TERM", "xterm");
        terminal.setProcessEnvironment(environment);
        const QString demo = folder_.filePath("on-a-terminal.otterstone");
        terminal.start("script", {"-qec", QString("'%1' demo '%2'").arg(otterstone::where::cli(), demo), "/dev/null"});
        QVERIFY(terminal.waitForFinished(60000));
        const QByteArray seen = terminal.readAll();
        QVERIFY2(seen.contains("Making the demo book …"), seen.constData());
        const auto last = seen.lastIndexOf("\r\x1b[K");
        QVERIFY2(last > seen.lastIndexOf("Making the demo book"), seen.constData());
        QVERIFY2(seen.mid(last).contains("banks"), seen.constData()); // what it says itself comes behind
        const Run piped = cli({"demo", folder_.filePath("on-a-pipe.otterstone")});
        QVERIFY(piped.code == 0 && !piped.errors.contains("Making") && !piped.out.contains('\x1b'));
    }

    // Each command's help ends with an example; those that need no instrument and no file of their own run as written.
    void every_command_has_an_example_that_runs() {
        QTemporaryDir here;
        const auto run = [&](const QString& line) {
            QProcess shell;
            shell.setWorkingDirectory(here.path());
            shell.start("sh", {"-c", QString(line).replace("otterstone-cli", otterstone::where::cli())});
            shell.waitForFinished(60000);
            return std::pair(shell.exitCode(), shell.readAllStandardError());
        };
        const QString help = QString::fromUtf8(cli({"--help"}).out);
        QStringList commands;
        bool list = false;
        for (const QString& line : help.split('\n')) {
            list = list || line.startsWith("Subcommands:");
            if (list && line.startsWith("  ") && line[2] != ' ')
                commands << line.trimmed().section(' ', 0, 0);
        }
        QVERIFY2(commands.size() > 25, qPrintable(help));
        QStringList runnable, without;
        for (const QString& command : std::as_const(commands)) {
            const QString said = QString::fromUtf8(cli({command, "--help"}).out);
            QStringList examples;
            for (const QString& line : said.split('\n')) {
                if (line.startsWith("  otterstone-cli "))
                    examples << line.trimmed();
            }
            if (examples.isEmpty() && command != "version" && command != "path")
                without << command;
            if (QStringList{"new", "add-bank", "add-gear", "label", "transfer", "device", "counters", "recipe",
                            "instrument", "demo", "check", "claims", "observations", "findings", "list"}
                    .contains(command))
                runnable += examples;
        }
        QVERIFY2(without.isEmpty(), qPrintable(without.join(", ")));
        // The book comes first, then what is put into it, then what is asked of it.
        std::stable_sort(runnable.begin(), runnable.end(), [](const QString& a, const QString& b) {
            const auto rank = [](const QString& l) { return l.contains(" new ") ? 0 : l.contains(" add-") ? 1 : 2; };
            return rank(a) < rank(b);
        });
        for (const QString& line : std::as_const(runnable)) {
            const auto [code, err] = run(line);
            QVERIFY2(code == 0, qPrintable(line + "\n" + err));
        }
        for (const char* line :
             {"otterstone-cli path resistance --awg 24 --metres 1", "otterstone-cli path watts 19.3 3.28 63.3"})
            QCOMPARE(run(QString::fromLatin1(line)).first, 0);
    }
};

QTEST_GUILESS_MAIN(BookCliTest)
#include "book_cli_test.moc"
