// What a run really was, by script: a log is brought in, asks, is answered.
#include <cmath>

#include <QFile>
#include <QJsonArray>
#include <QJsonObject>
#include <QTemporaryDir>
#include <QTest>

#include "run_cli.h"

using otterstone::testing::cli;
using otterstone::testing::Run;

class RunsCliTest : public QObject {
    Q_OBJECT

    QTemporaryDir folder_;
    QString book_;
    [[nodiscard]] QString in(const char* name) const { return folder_.filePath(QLatin1String(name)); }

    // Four hours of 4 W, then the output goes off, or the load is taken away.
    void write(const char* name, const char* after) const {
        QFile log(in(name));
        QVERIFY(log.open(QIODevice::WriteOnly));
        log.write("time_s,volts,amps\n");
        for (int at = 0; at < 4 * 3600 + 600; at += 20)
            log.write(QByteArray::number(at) + (at < 4 * 3600 ? ",5.0,0.8\n" : after));
    }
    static QString asked(const QJsonObject& finding) {
        QStringList keys;
        for (const QJsonValue q : finding["questions"].toArray())
            keys << q.toObject()["key"].toString();
        return keys.join(',');
    }
    Run add(const char* log, const QStringList& more) {
        return cli(QStringList{"add-run", book_, in(log), "--bank", "Pebble 5", "--kind", "drain", "--json"} + more);
    }
    QJsonObject questionsOf(int run) {
        const Run listed = cli({"list", book_, "questions", "--json"});
        for (const QJsonValue q : listed.json()["questions"].toArray()) {
            if (q.toObject()["run"].toInt() == run)
                return q.toObject();
        }
        return {};
    }

private Q_SLOTS:
    void initTestCase() {
        write("off.csv", ",0.0,0.0\n");
        write("stood.csv", ",5.1,0.0\n");
        QCOMPARE(cli({"demo", folder_.filePath("demo.otterstone")}).code, 0);
    }
    void init() {
        static int n = 0;
        book_ = folder_.filePath(QString("book-%1.otterstone").arg(++n));
        QVERIFY(QFile::copy(folder_.filePath("demo.otterstone"), book_));
    }

    void a_log_is_brought_in_with_what_is_said_of_it() {
        const Run r = add("stood.csv", {"--began", "92%", "--ended", "unplugged at 40%", "--port", "A", "--meter",
                                        "Bench meter", "--cable", "Short black", "--load", "Load box 150", "--title",
                                        "By script", "--at", "2026-06-01T08:00:00", "--mark", "percent@2h=66"});
        QVERIFY2(r.code == 0, r.errors.toUtf8().constData());
        const QJsonObject j = r.json();
        QCOMPARE(j["began"].toObject()["percent_low"].toDouble(), 92.0);
        QCOMPARE(j["began"].toObject()["from"].toString(), QString("stated"));
        QCOMPARE(j["ended"].toObject()["percent_high"].toDouble(), 40.0);
        QCOMPARE(j["ending"].toString(), QString("unplugged"));
        QCOMPARE(j["ended_by"].toString(), QString("user"));
        QVERIFY(j["delivered_share"].isNull());
        // 16 Wh and what the cable lost, for 52 points.
        const double estimate = j["projected_wh"].toDouble();
        QVERIFY2(estimate > 16.0 / 0.52 && estimate < 16.5 / 0.52, qPrintable(QString::number(estimate)));
        QVERIFY(j["projected_u_wh"].toDouble() > 1.0);
        QVERIFY(j["sentence"].toString().contains("from 92 % until it was unplugged, with 40 % left"));
        const Run runs = cli({"list", book_, "runs", "--json"});
        bool found = false;
        for (const QJsonValue v : runs.json()["runs"].toArray()) {
            const QJsonObject run = v.toObject();
            found = found || (run["id"].toInt() == j["run"].toInt() && run["title"].toString() == "By script" &&
                              run["began"].toString() == "92 %" && run["ended"].toString() == "unplugged at 40 %");
        }
        QVERIFY(found);
    }

    // What the device had at both ends is kept with the run, and figures follow.
    void the_device_had_so_much() {
        const Run r = add("stood.csv", {"--began", "full", "--ended", "device full", "--device", "Field tablet",
                                        "--device-state", "20 % to full"});
        QVERIFY2(r.code == 0, r.errors.toUtf8().constData());
        QCOMPARE(r.json()["device_began"].toObject()["percent_low"].toDouble(), 20.0);
        QCOMPARE(r.json()["device_ended"].toObject()["from"].toString(), QString("stated"));
        QCOMPARE(cli({"export", book_, in("device")}).code, 0);
        QCOMPARE(cli({"import", in("device"), in("device.otterstone")}).code, 0);
        QCOMPARE(cli({"findings", in("device.otterstone"), "--json"}).out, cli({"findings", book_, "--json"}).out);
        // 80 % of its 26.4 Wh.
        QFile table(in("device/findings.csv"));
        QVERIFY(table.open(QIODevice::ReadOnly));
        QVERIFY(table.readAll().contains("Pebble 5," + QByteArray::number(r.json()["run"].toInt()) +
                                         ",drain,stored in Field tablet,21.12"));
    }

    void a_notebook_is_brought_in_and_says_how_often() {
        QFile csv(in("evening.csv"));
        QVERIFY(csv.open(QIODevice::WriteOnly));
        csv.write("time,Phone 12.9 Wh,bank,happened\n14:00,5,full,\n15:10,full,,\n15:15,3,,\n15:50,52,,died\n");
        csv.close();
        const QStringList all{"add-run",  book_,    in("evening.csv"), "--bank",
                              "Pebble 5", "--kind", "notebook",        "--json"};
        const Run r = cli(all);
        QVERIFY2(r.code == 0, r.errors.toUtf8().constData());
        QVERIFY2(
            r.json()["sentence"].toString().contains("From full to empty the bank charged Phone 1.440 ± 0.020 times."),
            r.out.constData());
        QVERIFY(cli({"observations", book_, "--bank", "Pebble 5"}).out.contains("charges Phone 1.440 ± 0.020 times"));
        // What its rows say no option says again; and nothing is kept of which nothing can be said.
        QCOMPARE(cli(all + QStringList{"--began", "full"}).code, 2);
        QVERIFY(csv.open(QIODevice::WriteOnly));
        csv.write("time,Phone\nsoon,x\n");
        csv.close();
        QCOMPARE(cli(all).code, 3);
    }

    // Volts and amps by hand are a drain of the bank as a log would be, at the command line as in the window.
    void a_notebook_with_a_meter_is_a_drain() {
        QFile csv(in("by-hand.csv"));
        QVERIFY(csv.open(QIODevice::WriteOnly));
        csv.write("time,v,a,bank,way\n0,5.1,1.6,full,out\n+1 h,5.05,1.6,50,\n2 h,5.0,1.6,,\n2 h 5 min,0,0,,\n");
        csv.close();
        const QStringList all{"add-run",  book_,    in("by-hand.csv"), "--bank",
                              "Pebble 5", "--kind", "notebook",        "--json"};
        const QJsonObject shown = cli(all + QStringList{"--display"}).json();
        QVERIFY2(shown["sentence"].toString().contains("came out by the bank's own display"),
                 qPrintable(shown["sentence"].toString()));
        QCOMPARE(shown["kind"].toString(), QString("drain"));
        // (5.1 + 5.05)/2 · 1.6 + (5.05 + 5.0)/2 · 1.6 + 8/2/12 = 16.49 Wh, of 18.5 Wh printed.
        QVERIFY(std::fabs(shown["energy_wh"].toDouble() - 16.493) < 0.002);
        QVERIFY(std::fabs(shown["delivered_share"].toDouble() - 16.493 / 18.5) < 0.001);
        const QJsonObject metered = cli(all + QStringList{"--meter", "Pocket meter"}).json();
        QVERIFY(metered["sentence"].toString().contains("reached the"));
        QVERIFY(cli({"observations", book_, "--bank", "Pebble 5"}).out.contains("by-hand"));
        QVERIFY(cli({"answer", book_, "--run", QString::number(metered["run"].toInt()), "began=90%"})
                    .out.contains("from 90 %"));
        QCOMPARE(cli(all + QStringList{"--display", "--point", "load"}).code, 2);
        // Its rows come out as they went in, and say the same once more.
        const Run rows = cli({"rows", book_, "--run", QString::number(shown["run"].toInt())});
        QVERIFY2(rows.code == 0 && rows.out.contains("'+1 h,5.05,1.6"), rows.out.constData());
        QVERIFY(csv.open(QIODevice::WriteOnly));
        csv.write(rows.out);
        csv.close();
        QCOMPARE(cli(all + QStringList{"--display"}).json()["sentence"], shown["sentence"]);
        QCOMPARE(cli({"rows", book_, "--run", "1"}).code, 3); // has a log
    }

    // What a notebook left in the bank the next run finds.
    void a_notebook_is_part_of_the_life_data() {
        QTest::addColumn<QByteArray>("rows");
        QTest::addColumn<QStringList>("stated"); ///< of the drain on the same day
        QTest::addColumn<QString>("began");      ///< where the state of its beginning is from; empty: not known
        QTest::addColumn<QString>("asks");
        QTest::addColumn<QByteArray>("line"); ///< of the life
        const auto row = [](const char* name, const char* rows, const QStringList& stated, const char* began,
                            const char* asks, const char* line) {
            QTest::newRow(name) << QByteArray(rows) << stated << QString(began) << QString(asks) << QByteArray(line);
        };
        row("filled by the clock, and nobody said how the drain began", "time,bank\n0,0\n3 h,full\n", {}, "chain", "",
            ": empty to full");
        row("charged up to 60 %, and the drain is said to begin full", "time,bank\n0,0\n2 h,60\n", {"--began", "full"},
            "", "began", ": empty to 60 %");
        row("a phone took half of it, then it was filled up, as everybody does",
            "time,Phone 12.9 Wh,bank\n0,20,full\n1 h,80,55\n", {"--began", "full"}, "stated", "", ": full to 55 %");
        row("a phone alone says nothing of the bank", "time,Phone 12.9 Wh\n0,20\n1 h,80\n", {}, "taken", "", "");
        row("the bank was looked at before the phone was done",
            "time,Phone 12.9 Wh,bank\n0,20,full\n30 min,50,80\n1 h,80,\n", {"--began", "full"}, "stated", "",
            ": full to ?");
    }
    void a_notebook_is_part_of_the_life() {
        QFETCH(QByteArray, rows);
        QFETCH(QStringList, stated);
        QFETCH(QString, began);
        QFETCH(QString, asks);
        QFETCH(QByteArray, line);
        QFile csv(in("before.csv"));
        QVERIFY(csv.open(QIODevice::WriteOnly));
        csv.write(rows);
        csv.close();
        const Run notebook = cli({"add-run", book_, in("before.csv"), "--bank", "Pebble 5", "--kind", "notebook",
                                  "--at", "2026-06-01T06:00:00", "--title", "The notebook", "--json"});
        QVERIFY2(notebook.code == 0, notebook.errors.toUtf8().constData());
        const Run drain = add("off.csv", QStringList{"--at", "2026-06-01T12:00:00"} + stated);
        QVERIFY2(drain.code == 0, drain.errors.toUtf8().constData());
        QCOMPARE(drain.json()["began"].toObject()["from"].toString(), began);
        QCOMPARE(asked(drain.json()), asks);
        const Run life = cli({"life", book_, "--bank", "Pebble 5"});
        QVERIFY2(life.out.contains("The notebook" + line + "\n"), life.out.constData());
    }

    void a_photograph_is_attached_listed_and_taken_out_again() {
        // One pixel, as a PNG (libpng's smallest, by hand).
        const QByteArray png = QByteArray::fromBase64(
            "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==");
        for (const auto& [name, bytes] : {std::pair("dot.png", png), {"manual.pdf", QByteArray("%PDF-1.4\n")}}) {
            QFile file(in(name));
            QVERIFY(file.open(QIODevice::WriteOnly));
            file.write(bytes);
        }
        const Run added =
            cli({"attach", book_, in("dot.png"), "--bank", "Pebble 5", "--caption", "a dot", "--on-sheet"});
        QVERIFY2(added.code == 0, added.errors.toUtf8().constData());
        QVERIFY(added.out.contains("1: dot.png, image/png") && added.out.contains("1 × 1 pixels"));
        QCOMPARE(cli({"attach", book_, in("manual.pdf"), "--bank", "Pebble 5"}).code, 0);
        QVERIFY(cli({"attach", book_, "--bank", "Pebble 5"}).out.contains("a dot\ton the sheet"));
        QCOMPARE(cli({"attach", book_, "--number", "2", "--save", in("again.pdf")}).code, 0);
        QFile again(in("again.pdf"));
        QVERIFY(again.open(QIODevice::ReadOnly));
        QCOMPARE(again.readAll(), QByteArray("%PDF-1.4\n"));
        QCOMPARE(cli({"attach", book_, in("manual.pdf"), "--bank", "Pebble 5", "--on-sheet"}).code, 2);
        QCOMPARE(cli({"attach", book_, in("nothing.png"), "--bank", "Pebble 5"}).code, 3);
        QCOMPARE(cli({"attach", book_, in("dot.png")}).code, 2);
        QCOMPARE(cli({"attach", book_, "--bank", "Pebble 5", "--caption", "of nothing"}).code, 2);
    }

    void a_run_asks_and_is_answered() {
        const Run r = add("off.csv", {"--began", "full", "--mark", "percent@4h=40"});
        QVERIFY2(r.code == 0, r.errors.toUtf8().constData());
        const QString run = QString::number(r.json()["run"].toInt());
        QCOMPARE(asked(r.json()), QString("ended"));
        QVERIFY(r.json()["delivered_share"].isNull());
        const QJsonObject question = questionsOf(run.toInt());
        QCOMPARE(question["text"].toString(), QString("When the output went off the display said 40 %. What was it?"));
        QVERIFY(question["answers"].toArray().size() >= 4);
        QVERIFY(cli({"findings", book_}).out.contains("asks: When the output went off"));
        const Run answer = cli({"answer", book_, "ended=cut-off", "--run", run});
        QVERIFY2(answer.code == 0, answer.errors.toUtf8().constData());
        QVERIFY(answer.out.contains("of the printed 18.5 Wh"));
        QVERIFY(questionsOf(run.toInt()).isEmpty());
        // The answer goes with the bundle.
        QCOMPARE(cli({"export", book_, in("bundle")}).code, 0);
        QCOMPARE(cli({"import", in("bundle"), in("back.otterstone")}).code, 0);
        QCOMPARE(cli({"findings", in("back.otterstone"), "--json"}).out, cli({"findings", book_, "--json"}).out);
        // Another answer takes its place.
        QVERIFY(cli({"answer", book_, "ended=heat", "--run", run}).out.contains("until heat stopped it"));
        QVERIFY(cli({"answer", book_, "ended=unknown", "--run", run}).out.contains("in 4 h"));
    }

    void what_nobody_said_is_taken_and_marked_until_all_are_answered_at_once() {
        const Run r = add("off.csv", {});
        const int run = r.json()["run"].toInt();
        QCOMPARE(r.json()["began"].toObject()["from"].toString(), QString("taken"));
        QVERIFY(r.json()["sentence"].toString().contains("if it began full"));
        QVERIFY(r.json()["delivered_share"].toDouble() > 0.8);
        const Run all = cli({"answer", book_, "began=usual", "--bank", "Pebble 5", "--json"});
        QCOMPARE(all.json()["runs"].toArray().size(), 1); // the others had said it
        QCOMPARE(all.json()["runs"].toArray()[0].toObject()["run"].toInt(), run);
        QVERIFY(!all.json()["runs"].toArray()[0].toObject()["sentence"].toString().contains("if it began"));
    }

    void counters_say_under_which_condition() {
        const QStringList counted{"counters", "--kind", "drain", "--wh", "33.1", "--rated-wh", "37", "--json"};
        const QJsonObject silent = cli(counted).json();
        QCOMPARE(asked(silent), QString("ended"));
        QVERIFY(silent["sentence"].toString().contains("if it began full and ran until it was empty"));
        const QJsonObject said = cli(counted + QStringList{"--began", "full", "--ended", "empty"}).json();
        QVERIFY(asked(said).isEmpty() && !said["sentence"].toString().contains(", if "));
        QVERIFY(cli(counted + QStringList{"--began", "50 %"}).json()["delivered_share"].isNull());
    }

    // What is known of a bank besides its runs is written down, told, kept in the bundle, and taken back.
    void the_life_of_a_bank() {
        const auto life = [&](const QStringList& more) { return cli(QStringList{"life", book_} + more); };
        const Run dolmen = life({"--bank", "Dolmen 50"});
        QVERIFY2(dolmen.code == 0, dolmen.errors.toUtf8().constData());
        for (const char* said :
             {"\t3 months of rest", "93 % to empty", "it went from full to 93 %, if nothing used it in between",
              "it counted 476 Wh out itself; 3 drains in the book gave", "health 99 %"})
            QVERIFY2(dolmen.out.contains(said), (said + ("\n" + dolmen.out)).constData());
        const Run older = life({"--bank", "Cobble 10, last year's"});
        QVERIFY2(older.out.contains("Beside “Cobble 10”, 12 months older, this one gives 9"), older.out.constData());
        // The truth of the demo: its cells hold 9.62 Ah of 10.05, with somewhat more resistance.
        const QJsonObject j = life({"--bank", "Cobble 10, last year's", "--json"}).json();
        const QJsonArray figures = j["specimens"].toArray()[0].toObject()["figures"].toArray();
        const double ratio = figures.last().toObject()["value"].toDouble();
        QVERIFY2(ratio > 0.94 && ratio < 9.62 / 10.05 + 0.005, qPrintable(QString::number(ratio)));

        const Run written =
            life({"--bank", "Pebble 5", "--came", "2026-03-30 at 61 %", "--counts",
                  "2026-03-31: 0 Wh out; 2026-05-01: 70 Wh out, 4 cycles", "--specimen-of", "Scree 15"});
        QVERIFY2(written.code == 0, written.errors.toUtf8().constData());
        for (const char* said :
             {"It came on 2026-03-30, at 61 %.", "On 2026-05-01 it counted 70 Wh out, 4 cycles itself.",
              "it counted 70 Wh out itself; 4 drains", "Beside “Scree 15”"})
            QVERIFY2(written.out.contains(said), (said + ("\n" + written.out)).constData());
        QCOMPARE(cli({"export", book_, in("lived")}).code, 0);
        QCOMPARE(cli({"import", in("lived"), in("lived.otterstone")}).code, 0);
        QCOMPARE(cli({"life", in("lived.otterstone"), "--bank", "Pebble 5"}).out, written.out);
        QCOMPARE(cli({"check", in("lived.otterstone")}).code, 0);
        // Named over another, and both ways round, they are one family.
        QCOMPARE(life({"--bank", "Scree 15", "--specimen-of", "Menhir 27"}).code, 0);
        QCOMPARE(life({"--bank", "Menhir 27", "--specimen-of", "Scree 15"}).code, 0);
        const QByteArray family = life({"--bank", "Pebble 5"}).out;
        QVERIFY2(family.contains("Beside “Scree 15”") && family.contains("Beside “Menhir 27”"), family.constData());
        const Run bought =
            life({"--bank", "Pebble 5", "--model", "PB-5 c", "--bought-at", "Harbour shop", "--ordered", "2026-03-28",
                  "--paid", "54.90 EUR", "--contents", "C cable 28 g; bag 12 g", "--markings", "UN 38.3"});
        QVERIFY2(bought.out.contains("It came on 2026-03-30, at 61 %, 2 days after it was ordered."),
                 bought.out.constData());
        QCOMPARE(cli({"report", book_, "--bank", "Pebble 5", "--out", in("bought.html")}).code, 0);
        QFile sheet(in("bought.html"));
        QVERIFY(sheet.open(QIODevice::ReadOnly));
        const QByteArray html = sheet.readAll();
        for (const char* said :
             {"PB-5 c", "UN 38.3", "Harbour shop, ordered on 2026-03-28, for 54.9 EUR, came on 2026-03-30, at 61 %",
              "C cable 28 g; bag 12 g (40 g in all)"})
            QVERIFY2(html.contains(said), said);
        const Run back = life({"--bank", "Pebble 5", "--came", "", "--counts", "", "--specimen-of", ""});
        QVERIFY2(!back.out.contains("It came") && !back.out.contains("itself") && !back.out.contains("Beside"),
                 back.out.constData());
    }

    void what_cannot_be_is_refused_in_words_data() {
        QTest::addColumn<QStringList>("arguments");
        QTest::addColumn<int>("code");
        QTest::addColumn<QString>("says");
        const auto row = [](const char* name, const QStringList& a, int code, const char* says) {
            QTest::newRow(name) << a << code << says;
        };
        row("no such bank", {"add-run", "BOOK", "LOG", "--bank", "Gravel", "--kind", "drain"}, 3, "no bank");
        row("a sheet's kind", {"add-run", "BOOK", "LOG", "--bank", "Pebble 5", "--kind", "survey"}, 2, "--kind");
        row("no such port", {"add-run", "BOOK", "LOG", "--bank", "Pebble 5", "--kind", "drain", "--port", "Z"}, 2,
            "no port “Z”");
        row("gear of another kind",
            {"add-run", "BOOK", "LOG", "--bank", "Pebble 5", "--kind", "drain", "--meter", "Short black"}, 2,
            "no meter “Short black”");
        row("no state", {"add-run", "BOOK", "LOG", "--bank", "Pebble 5", "--kind", "drain", "--began", "half"}, 2,
            "“half” is no state of a bank");
        row("no end", {"add-run", "BOOK", "LOG", "--bank", "Pebble 5", "--kind", "drain", "--ended", "bored"}, 2,
            "no end of a run");
        row("no day of arrival", {"life", "BOOK", "--bank", "Pebble 5", "--came", "in May"}, 2, "--came");
        row("no price", {"life", "BOOK", "--bank", "Pebble 5", "--paid", "much"}, 2, "--paid");
        row("a mass of nothing", {"life", "BOOK", "--bank", "Pebble 5", "--contents", "12 g"}, 2, "of what");
        row("no day of the order", {"life", "BOOK", "--bank", "Pebble 5", "--ordered", "May"}, 2, "--ordered");
        row("no count", {"life", "BOOK", "--bank", "Pebble 5", "--counts", "2026-04-02: much"}, 2, "“much”");
        row("a piece of itself", {"life", "BOOK", "--bank", "Pebble 5", "--specimen-of", "Pebble 5"}, 2, "of itself");
        row("of no bank", {"life", "BOOK", "--bank", "Pebble 5", "--specimen-of", "Gravel"}, 3, "no bank");
        row("the life of no bank", {"life", "BOOK", "--bank", "Gravel"}, 3, "no bank");
        row("half a device",
            {"add-run", "BOOK", "LOG", "--bank", "Pebble 5", "--kind", "drain", "--device-state", "20 %"}, 2,
            "20 % to full");
        row("no moment", {"add-run", "BOOK", "LOG", "--bank", "Pebble 5", "--kind", "drain", "--at", "May"}, 2,
            "is not a moment");
        row("no log", {"add-run", "BOOK", "/nowhere.csv", "--bank", "Pebble 5", "--kind", "drain"}, 3, "nowhere");
        row("no answer", {"answer", "BOOK", "began", "--run", "1"}, 2, "KEY=ANSWER");
        row("no question", {"answer", "BOOK", "colour=red", "--run", "1"}, 2, "no such question");
        row("no run", {"answer", "BOOK", "began=full", "--run", "9999"}, 3, "no drain or recharge");
        row("no number", {"answer", "BOOK", "began=full", "--run", "first"}, 2, "--run");
        row("neither run nor bank", {"answer", "BOOK", "began=full"}, 2, "--run");
        row("more than the usual for all", {"answer", "BOOK", "began=92", "--bank", "Pebble 5"}, 2, "began=usual");
        row("nothing to list", {"list", "BOOK", "colours"}, 2, "colours");
    }
    void what_cannot_be_is_refused_in_words() {
        QFETCH(QStringList, arguments);
        QFETCH(int, code);
        QFETCH(QString, says);
        arguments.replaceInStrings("BOOK", book_).replaceInStrings("LOG", in("off.csv"));
        const auto before = cli({"list", book_, "runs", "--json"}).json()["runs"].toArray().size();
        const Run r = cli(arguments);
        QVERIFY2(r.code == code, qPrintable(QString::number(r.code) + r.errors));
        QVERIFY2(QString(r.errors).contains(says), qPrintable(r.errors));
        QCOMPARE(cli({"list", book_, "runs", "--json"}).json()["runs"].toArray().size(), before);
    }
};

QTEST_GUILESS_MAIN(RunsCliTest)
#include "runs_cli_test.moc"
