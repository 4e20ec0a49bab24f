// The command line's contract: keys, exit codes, and where its output goes.
#include <QTest>

#include <QFile>
#include <QJsonArray>
#include <QTemporaryDir>

#include <cmath>

#include "run_cli.h"
#include "where.h"

using namespace otterstone;
using namespace otterstone::testing;

namespace {

bool near(double a, double b, double relative = 1e-6) { return std::fabs(a - b) <= relative * std::fabs(b); }

} // namespace

class CliTest : public QObject {
    Q_OBJECT

private Q_SLOTS:
    void initTestCase() {
        write("constant.csv", 3601, [](int) {
            return QStringLiteral("5.00000,2.00000");
        }); // of a fine meter: the last digit counts on a steady log
        write("ramp.csv", 3601, [](int k) { return QStringLiteral("5.0,%1").arg(1.0 + k / 3600.0, 0, 'g', 15); });
        write("taper.csv", 7201,
              [](int k) { return QStringLiteral("9.0,%1").arg(2.0 * std::exp(-k / 1800.0), 0, 'g', 15); });
        write("recharge.csv", 9000, [](int k) {
            const double amps = k < 3600 ? 2.0 : k < 7200 ? 2.0 * std::exp(-(k - 3600) / 1200.0) : 0.01;
            return QStringLiteral("9.0,%1").arg(amps, 0, 'g', 15);
        });
        QVERIFY(cli({"demo", in("demo.otterstone")}).code == 0);
    }

    void a_constant_hour_gives_ten_watt_hours() {
        const Run r = cli({"analyse", in("constant.csv"), "--kind", "drain", "--rated-wh", "18,5", "--json"});
        QCOMPARE(r.code, 0);
        const QJsonObject j = r.json();
        QVERIFY(near(j["energy_wh"].toDouble(), 10.0, 1e-9));
        QVERIFY(near(j["charge_mah"].toDouble(), 2000.0, 1e-9));
        QCOMPARE(j["ended_by"].toString(), QStringLiteral("unknown"));
        QCOMPARE(j["ending"].toString(), QStringLiteral("log ends"));
        QVERIFY(j["delivered_share"].isNull()); // it went on when the log ended
        const QJsonObject ended = cli({"analyse", in("constant.csv"), "--kind", "drain", "--rated-wh", "18,5",
                                       "--began", "full", "--ended", "empty", "--json"})
                                      .json();
        QVERIFY(near(ended["delivered_share"].toDouble(), 10.0 / 18.5, 1e-9)); // a fraction
        QCOMPARE(ended["ended_by"].toString(), QStringLiteral("cutoff"));
        QCOMPARE(ended["began"].toObject()["from"].toString(), QStringLiteral("stated"));
        const Run text = cli({"analyse", in("constant.csv"), "--kind", "drain", "--meter", "volts 0.01%, amps 0.01%"});
        QVERIFY(text.out.startsWith("10.0000 ± 0.0016 Wh reached the meter"));
    }
    void closed_forms_hold_through_the_command_line() {
        QVERIFY(
            near(cli({"analyse", in("ramp.csv"), "--kind", "drain", "--json"}).json()["energy_wh"].toDouble(), 7.5));
        QVERIFY(near(cli({"analyse", in("taper.csv"), "--kind", "recharge", "--json"}).json()["energy_wh"].toDouble(),
                     9.0 * (1.0 - std::exp(-4.0))));
    }
    void every_key_of_the_contract_is_there_data() {
        QTest::addColumn<QString>("kind");
        QTest::addColumn<QString>("keys");
        const QString common =
            "kind samples skipped_lines duration_s energy_wh energy_u_wh charge_mah mean_volts mean_watts peak_watts point gaps phases "
            "warnings energy_at_port_wh energy_at_port_u_wh rated_wh ";
        QTest::newRow("drain")
            << "drain" << common + "delivered_share delivered_share_u equivalent_mah ended_by interruptions active_s";
        QTest::newRow("recharge") << "recharge"
                                  << common + "time_to_s bulk_s taper_s end_of_charge_s plateau_watts throttles";
    }
    void every_key_of_the_contract_is_there() {
        QFETCH(QString, kind);
        QFETCH(QString, keys);
        const QJsonObject j = cli({"analyse", in("recharge.csv"), "--kind", kind, "--rated-mah", "10000",
                                   "--cell-volts", "3.7", "--json"})
                                  .json();
        for (const QString& key : keys.split(' ', Qt::SkipEmptyParts))
            QVERIFY2(j.contains(key), qPrintable(key));
        for (const QJsonValue phase : j["phases"].toArray())
            for (const char* key : {"name", "from_s", "to_s", "energy_wh"})
                QVERIFY(phase.toObject().contains(QLatin1String(key)));
        if (kind == "recharge") {
            for (const char* share : {"50", "80", "100"})
                QVERIFY(j["time_to_s"].toObject()[QLatin1String(share)].isDouble());
            QVERIFY(std::fabs(j["end_of_charge_s"].toDouble() - (3600 + 3594.9)) < 2.0);
        }
    }
    void options_reach_the_sum() {
        const auto energy = [&](const QStringList& more) {
            const Run r = cli(QStringList{"analyse", in("constant.csv"), "--kind", "drain", "--json"} + more);
            return r.code == 0 ? r.json() : QJsonObject();
        };
        QVERIFY(near(energy({"--clock-factor", "0.94"})["energy_wh"].toDouble(), 9.4));
        QVERIFY(near(energy({"--clock-factor", "60 min / 50 min"})["energy_wh"].toDouble(), 12.0));
        QVERIFY(near(energy({"--from", "600", "--to", "30 min"})["energy_wh"].toDouble(), 10.0 / 3.0));
        QVERIFY(near(energy({"--unit", "volts=mV"})["energy_wh"].toDouble(), 0.01));
        QVERIFY(near(energy({"--column", "volts=amps", "--column", "amps=2"})["mean_volts"].toDouble(), 2.0));
        const QJsonObject port = energy({"--path-ohms", "0.1+-0.01"});
        QVERIFY(near(port["energy_at_port_wh"].toDouble(), 10.4));
        QVERIFY(near(port["energy_at_port_u_wh"].toDouble(), 0.04)); // ± is expanded on both sides
        const QJsonObject meter = energy({"--meter", "volts 0.05%+2mV, amps 0.1%+3mA, clock 50ppm"});
        const double u = 2.0 / std::sqrt(3.0) *
                         std::sqrt(std::pow(0.005, 2) + std::pow(0.01, 2) + std::pow(0.004, 2) + std::pow(0.015, 2) +
                                   std::pow(0.0005, 2));
        QVERIFY(near(meter["energy_u_wh"].toDouble(), u, 1e-6));
    }
    void the_label_answers() {
        const Run r = cli({"label", "--mah", "20,000", "--cell-volts", "3.7", "--printed", "15.4V 18.5Wh", "--tier",
                           "15Vx2A", "--tier", "20Vx1.25A", "--json"});
        const QJsonObject j = r.json();
        QCOMPARE(j["rated_wh"].toDouble(), 74.0);
        QVERIFY(j["implied_cell_volts"].isNull());
        QCOMPARE(j["flight_class"].toString(), QStringLiteral("carry-on"));
        QCOMPARE(j["best_tier"].toObject()["watts"].toDouble(), 30.0);
        QVERIFY(QString::fromUtf8(r.out).contains("consistent"));
        QVERIFY(j["conflicts"].toArray().isEmpty());
        const QJsonObject bad = cli({"label", "--mah", "20000", "--cell-volts", "3.7", "--wh", "80", "--json"}).json();
        QCOMPARE(bad["conflicts"].toArray()[0].toObject()["code"].toString(), QStringLiteral("energy_mismatch"));
        QCOMPARE(bad["implied_cell_volts"].toDouble(), 4.0);
    }

    void exit_codes_tell_what_went_wrong_data() {
        QTest::addColumn<QStringList>("arguments");
        QTest::addColumn<int>("code");
        QTest::addColumn<QString>("says");
        const QString log = in("constant.csv");
        QTest::newRow("version") << QStringList{"version"} << 0 << "";
        QTest::newRow("help") << QStringList{"--help"} << 0 << "";
        QTest::newRow("nothing") << QStringList{} << 2 << "subcommand";
        QTest::newRow("unknown command") << QStringList{"frob"} << 2 << "";
        QTest::newRow("unknown option") << QStringList{"analyse", log, "--kind", "drain", "--frob"} << 2 << "frob";
        QTest::newRow("no kind") << QStringList{"analyse", log} << 2 << "--kind";
        QTest::newRow("wrong kind") << QStringList{"analyse", log, "--kind", "nap"} << 2 << "nap";
        QTest::newRow("no number") << QStringList{"analyse", log, "--kind", "drain", "--rated-wh", "lots"} << 2
                                   << "--rated-wh";
        QTest::newRow("mAh alone") << QStringList{"analyse", log, "--kind", "drain", "--rated-mah", "10000"} << 2
                                   << "--cell-volts";
        QTest::newRow("wrong meter") << QStringList{"analyse", log, "--kind", "drain", "--meter", "good"} << 2
                                     << "--meter";
        QTest::newRow("wrong role") << QStringList{"analyse", log, "--kind", "drain", "--column", "smell=1"} << 2
                                    << "smell";
        QTest::newRow("window backwards")
            << QStringList{"analyse", log, "--kind", "drain", "--from", "9", "--to", "5"} << 2 << "before it begins";
        QTest::newRow("missing log") << QStringList{"analyse", "nowhere.csv", "--kind", "drain"} << 3 << "nowhere.csv";
        QTest::newRow("unknown column") << QStringList{"analyse", log, "--kind", "drain", "--column", "volts=VBUS"} << 3
                                        << "VBUS";
        QTest::newRow("label without figures") << QStringList{"label"} << 2 << "nothing to work with";
        QTest::newRow("check of a log") << QStringList{"check", log} << 3 << "not an Otterstone book";
        QTest::newRow("check of the demo") << QStringList{"check", in("demo.otterstone")} << 0 << "";
        QTest::newRow("demo over a file") << QStringList{"demo", in("demo.otterstone")} << 4 << "already";
        QTest::newRow("export into a full folder")
            << QStringList{"export", in("demo.otterstone"), folder_.path()} << 4 << "not empty";
        QTest::newRow("import of nothing")
            << QStringList{"import", in("nothing"), in("x.otterstone")} << 3 << "no such";
    }
    void exit_codes_tell_what_went_wrong() {
        QFETCH(QStringList, arguments);
        QFETCH(int, code);
        QFETCH(QString, says);
        const Run r = cli(arguments);
        QVERIFY2(r.code == code, qPrintable(QString::number(r.code) + r.errors));
        QVERIFY2(r.errors.contains(says), qPrintable(r.errors));
        if (code != 0)
            QVERIFY2(r.out.isEmpty(), r.out.constData());
    }
    void a_result_that_cannot_be_written_is_told() {
        QProcess p;
        p.setStandardOutputFile(QStringLiteral("/dev/full"));
        p.start(where::cli(), {"analyse", in("constant.csv"), "--kind", "drain", "--json"});
        QVERIFY(p.waitForFinished());
        QCOMPARE(p.exitCode(), 4);
    }
    void demo_export_import_and_findings_agree() {
        QCOMPARE(cli({"export", in("demo.otterstone"), in("bundle")}).code, 0);
        QCOMPARE(cli({"import", in("bundle"), in("again.otterstone")}).code, 0);
        const Run a = cli({"findings", in("demo.otterstone"), "--json"});
        const Run b = cli({"findings", in("again.otterstone"), "--json"});
        QCOMPARE(a.json()["runs"].toArray().size(), 56);
        QVERIFY(a.json()["house"].toString().contains("Reference energy: printed Wh")); // the schools are named
        QCOMPARE(a.out, b.out);
        QVERIFY(QFile::exists(in("bundle/findings.csv")));
    }

    void sheets_data() {
        QTest::addColumn<QString>("kind");
        QTest::addColumn<QByteArray>("rows");
        QTest::addColumn<QStringList>("options");
        QTest::addColumn<QString>("says");
        const auto row = [](const char* kind, const char* rows, const QStringList& options, const char* says) {
            QTest::newRow(kind) << kind << QByteArray(rows) << options << says;
        };
        row("survey", "port,asked_v,offered,amps,volts\nC1,5,yes,3,5.02\nC1,9,no,,\n",
            {"--tier", "C1 5Vx3A", "--tier", "C1 9Vx2A"}, "Not offered: C1 at 9 V");
        row("staircase", "port,amps,volts,state,back\nC1,3,4.95,holds,\nC1,3.2,4.94,holds,\nC1,3.4,0,tripped,replug\n",
            {"--tier", "C1 5Vx3A"},
            "trips between 3.2 and 3.4 A (+6.7 % to +13 % over the printed 3 A) and comes back when replugged");
        row("sharing", "round;port;alone_v;alone_a;together_v;together_a\n1;C1;9,0;2,0;5,0;1,8\n;A;5,0;1,0;5,0;1,0\n",
            {}, "With both outputs in use, C1 fell from 9 V 18 W to 5 V 9 W and A kept 5 V 5 W.");
        row("pass-through", "corner,in_v,in_a,out_v,out_a\nin alone,9,2,,\nout alone,,,9,1\nboth,9,2,5,1\n", {},
            "the output falls from 9 V 9 W to 5 V 5 W");
        row("light load", "what,amps,state,after\nload,0.05,goes off,40 s\nload,0.06,stays on,2 min\n", {},
            "goes off at 50 mA after 40 s and stays on at 60 mA");
        row("matrix", "charger,cable,port,volts,amps\nhut,grey,C1,9,2\nhut,white,C1,5,2\n", {},
            "Most comes in with hut + grey into C1: 9 V 18 W");
        row("notebook", "time,Torch,bank,way\n0,20,100,pad\n1 h,40,90,\n2 h,20,100,wire\n3 h,60,90,\n", {},
            "times as much of the bank");
        row("directions", "port,other,how,result\nC1,tablet,as it comes,takes\nC1,tablet,forced,gives\n", {},
            "Joined C1 to tablet, this bank takes; forced it gives");
        row("cells", "cell,volts,amps\n1,4.0,1\n2,4.0,1\ninput,9,1\n", {},
            "2 cells take 8 W: 88.9 % of the 9 W that come in");
    }
    void sheets() {
        QFETCH(QString, kind);
        QFETCH(QByteArray, rows);
        QFETCH(QStringList, options);
        QFETCH(QString, says);
        QFile file(in("sheet.csv"));
        QVERIFY(file.open(QIODevice::WriteOnly));
        file.write(rows);
        file.close();
        const Run plain = cli(QStringList{"behaviour", kind, in("sheet.csv")} + options);
        QCOMPARE(plain.code, 0);
        QVERIFY2(plain.out.contains(says.toUtf8()), plain.out.constData());
        const Run asJson = cli(QStringList{"behaviour", kind, in("sheet.csv"), "--json"} + options);
        QVERIFY2(asJson.json()["sentence"].toString().contains(says), asJson.out.constData());
        QVERIFY(cli({"behaviour", kind}).out.contains("note: ")); // what its columns are
        QCOMPARE(cli({"behaviour", kind, in("nowhere.csv")}).code, 3);
        QCOMPARE(cli({"behaviour", "smell", in("sheet.csv")}).code, 2);
        // Kept in a book, it reads the same there.
        const Run kept = cli(QStringList{"behaviour", kind, in("sheet.csv"), "--book", in("demo.otterstone"), "--bank",
                                         "Dolmen 50", "--title", "kept " + kind, "--keep"});
        QCOMPARE(kept.code, 0);
        QVERIFY(
            cli({"findings", in("demo.otterstone")}).out.contains(kind.toUtf8() + ", kept " + kind.toUtf8() + ": "));
    }
    void path_sums_data() {
        QTest::addColumn<QStringList>("arguments");
        QTest::addColumn<QString>("key");
        QTest::addColumn<double>("value");
        QTest::addColumn<double>("tolerance");
        QTest::newRow("two readings") << QStringList{"path",  "resistance", "--near", "5,10",
                                                     "--far", "4.95",       "--amps", "1.5"}
                                      << "value" << 0.1 << 1e-9;
        QTest::newRow("gauge") << QStringList{"path", "resistance", "--awg", "28", "--metres", "1"} << "value"
                               << 2 * 0.2129161 + 0.02 << 1e-6;
        QTest::newRow("tier") << QStringList{"path", "predict", "--charger", "5V 3A; 9V 2A", "--bank", "5V 3A; 9V 3A"}
                              << "value" << 18.0 << 1e-9;
        QTest::newRow("watts") << QStringList{"path", "watts", "19.3", "3.28", "44"} << "product_w" << 19.3 * 3.28
                               << 1e-9;
        QTest::newRow("own draw") << QStringList{"path",    "own-draw", "--amps", "0.004", "--at-volts", "5",
                                                 "--volts", "14.19",    "--time", "1h",    "--energy",   "27.6"}
                                  << "value" << (0.004 * 14.19 + 0.02) / 2 << 1e-9;
        QTest::newRow("counters") << QStringList{"counters", "--kind",       "drain", "--mah",
                                                 "5407",     "--mean-volts", "14.19"}
                                  << "energy_wh" << 76.7253 << 1e-4;
        QTest::newRow("bank into bank") << QStringList{"transfer", "--filled",    "89",  "--target-wh",
                                                       "92.5",     "--source-wh", "99.9"}
                                        << "value" << 0.89 * 25.0 / 27.0 << 1e-9;
        QTest::newRow("device") << QStringList{"device", "--battery-wh", "12.4",     "--from", "11",
                                               "--to",   "100",          "--energy", "14.52"}
                                << "value" << 0.76 << 1e-3;
        QTest::newRow("device in use") << QStringList{"device", "--use-watts",  "10", "--supply-watts",
                                                      "4",      "--battery-wh", "48"}
                                       << "value" << -6.0 << 1e-9;
    }
    void path_sums() {
        QFETCH(QStringList, arguments);
        QFETCH(QString, key);
        QFETCH(double, value);
        QFETCH(double, tolerance);
        const Run r = cli(arguments + QStringList{"--json"});
        QVERIFY2(r.code == 0, qPrintable(r.errors));
        QVERIFY2(near(r.json()[key].toDouble(), value, tolerance), r.out.constData());
        const Run text = cli(arguments);
        QVERIFY(text.code == 0 && !text.out.isEmpty());
    }
    void wrong_sums_are_wrong_usage_data() {
        QTest::addColumn<QStringList>("arguments");
        QTest::addColumn<int>("code");
        QTest::newRow("no current") << QStringList{"path", "resistance", "--near", "5", "--far", "4", "--amps", "0"}
                                    << 2;
        QTest::newRow("no gauge") << QStringList{"path", "resistance", "--awg", "99", "--metres", "1"} << 2;
        QTest::newRow("strangers") << QStringList{"path", "predict", "--charger", "20V 1A", "--bank", "5V 3A"} << 3;
        QTest::newRow("counters disagree")
            << QStringList{"counters", "--kind", "drain", "--wh", "50", "--mah", "5407", "--mean-volts", "14.19"} << 3;
        QTest::newRow("the device lost") << QStringList{"device", "--battery-wh", "12",       "--from", "80",
                                                        "--to",   "20",           "--energy", "5"}
                                         << 2;
        QTest::newRow("no such bank") << QStringList{"bank", "DEMO", "--bank", "Nobody"} << 3;
        QTest::newRow("no such piece") << QStringList{"gear", "DEMO", "--piece", "Nothing", "--ohms", "1"} << 3;
        QTest::newRow("no such school") << QStringList{"analyse", "LOG", "--kind", "drain", "--school", "weather=fine"}
                                        << 2;
        QTest::newRow("no such stamp") << QStringList{"analyse", "LOG", "--kind", "drain", "--mark", "smile@3=1"} << 2;
        QTest::newRow("no such point") << QStringList{"analyse", "LOG", "--kind", "drain", "--point", "moon"} << 2;
        QTest::newRow("by hand how") << QStringList{"analyse", "LOG", "--kind", "drain", "--hand", "guessed"} << 2;
    }
    void wrong_sums_are_wrong_usage() {
        QFETCH(QStringList, arguments);
        QFETCH(int, code);
        arguments.replaceInStrings("DEMO", in("demo.otterstone")).replaceInStrings("LOG", in("constant.csv"));
        const Run r = cli(arguments);
        QVERIFY2(r.code == code, qPrintable(QString::number(r.code) + r.errors));
        QVERIFY(r.out.isEmpty() && !r.errors.isEmpty());
    }
    void stamps_schools_and_hand_rows_reach_the_finding() {
        const Run stamped = cli({"analyse", in("constant.csv"), "--kind", "drain", "--mark", "percent@0=100", "--mark",
                                 "percent@1h=50", "--json"});
        QVERIFY(near(stamped.json()["projected_wh"].toDouble(), 20.0, 1e-6));
        for (const char* text : {"leds@30min=2 of 4", "leds@30min=2/4"}) {
            const Run leds = cli({"analyse", in("recharge.csv"), "--kind", "recharge", "--mark", text, "--json"});
            const QJsonArray points = leds.json()["gauge"].toObject()["points"].toArray();
            QCOMPARE(points.size(), 1);
            QCOMPARE(points[0].toObject()["said_low"].toDouble(), 25.0);
            QCOMPARE(points[0].toObject()["said_high"].toDouble(), 50.0);
        }
        const Run full = cli({"analyse", in("recharge.csv"), "--kind", "recharge", "--mark", "percent@1h=100",
                              "--school", "full_when=gauge_says", "--json"});
        QVERIFY(near(full.json()["end_of_charge_s"].toDouble(), 3600.0, 1e-6));
        QFile hand(in("hand.tsv"));
        QVERIFY(hand.open(QIODevice::WriteOnly));
        hand.write("Time;V;A\n0;5;2\n+60;5;1\n+60;5;0\n");
        hand.close();
        QVERIFY(near(cli({"analyse", in("hand.tsv"), "--kind", "drain", "--hand", "held", "--json"})
                         .json()["energy_wh"]
                         .toDouble(),
                     15.0, 1e-9));
        QVERIFY(near(cli({"analyse", in("hand.tsv"), "--kind", "drain", "--hand", "joined", "--json"})
                         .json()["energy_wh"]
                         .toDouble(),
                     10.0, 1e-9));
    }
    void two_logs_around_a_cable_give_its_resistance() {
        write("near.csv", 3601, [](int k) { return QStringLiteral("5.2,%1").arg(k < 60 ? 0.0 : 2.0); });
        write("far.csv", 3601,
              [](int k) { return QStringLiteral("%1,%2").arg(k < 60 ? 5.2 : 5.0).arg(k < 60 ? 0.0 : 2.0); });
        const Run r =
            cli({"analyse", in("far.csv"), "--kind", "drain", "--also", "bank out=" + in("near.csv"), "--json"});
        QVERIFY2(r.code == 0, qPrintable(r.errors));
        QVERIFY(near(r.json()["links"].toArray()[0].toObject()["ohms"].toDouble(), 0.1, 1e-6));
        QVERIFY(r.json()["energy_at_port_wh"].toDouble() > r.json()["energy_wh"].toDouble());
    }
    void a_banks_runs_together_and_a_corrected_clock() {
        QVERIFY(QFile::copy(in("demo.otterstone"), in("clock.otterstone")));
        const Run bank = cli({"bank", in("clock.otterstone"), "--bank", "Cobble 10", "--load-watts", "7",
                              "--battery-wh", "12", "--json"});
        QVERIFY2(bank.code == 0, qPrintable(bank.errors));
        const QJsonObject curve = bank.json()["usable_curve"].toObject();
        const double e0 = curve["e0_wh"].toDouble(), p0 = curve["p0_w"].toDouble(), r = curve["r_per_w"].toDouble();
        QVERIFY(near(bank.json()["runtime"].toObject()["value"].toDouble(), e0 / (7 + p0 + r * 49) * 3600.0, 1e-9));
        const QJsonObject charges = bank.json()["charges"].toObject();
        QVERIFY2(charges["label"].toString().contains("charges of 12 Wh"), qPrintable(charges["label"].toString()));
        QVERIFY(charges["value"].toDouble() > 1.5 && charges["value"].toDouble() < 0.85 * e0 / 12.0);
        QVERIFY(bank.json()["pairs"].toArray().size() >= 2);
        const Run gear =
            cli({"gear", in("clock.otterstone"), "--piece", "Pocket meter", "--clock-factor", "0.94", "--json"});
        QVERIFY2(gear.code == 0, qPrintable(gear.errors));
        QVERIFY(gear.json()["changed"].toArray().size() >= 4);
        QVERIFY(cli({"check", in("clock.otterstone")}).code == 0);
    }

private:
    [[nodiscard]] QString in(const QString& name) const { return folder_.filePath(name); }
    template<class F>
    void write(const QString& name, int rows, F line) {
        QFile file(in(name));
        QVERIFY(file.open(QIODevice::WriteOnly));
        QByteArray text = "time_s,volts,amps\n";
        for (int k = 0; k < rows; ++k)
            text += QByteArray::number(k) + ',' + line(k).toLatin1() + '\n';
        file.write(text);
    }
    QTemporaryDir folder_;
};

QTEST_GUILESS_MAIN(CliTest)
#include "cli_test.moc"
