// What goes wrong while a run goes: each fault of the stand-in, heat, volts, silence, a vanished disk, a computer that
// sleeps.
#include "book/exchange/rescue.h"
#include "book/store/check.h"
#include "runner_harness.h"

using namespace otterstone;
using namespace otterstone::testing;

class FaultsTest : public QObject {
    Q_OBJECT

private Q_SLOTS:
    void init() { slept = 0.0; }

    // A fault shorter than what stops a run leaves a mark and nothing else.
    void a_short_fault_is_marked_and_the_run_goes_on_data() {
        QTest::addColumn<QString>("fault");
        QTest::addColumn<QString>("mark");
        QTest::newRow("noise") << "noise 4"
                               << "unreadable";
        QTest::newRow("silence") << "silence 4"
                                 << "no reading";
        QTest::newRow("no numbers") << "nan 4"
                                    << "unreadable";
        QTest::newRow("partial lines") << "partial 4"
                                       << "unreadable";
        QTest::newRow("unplugged") << "unplug 2"
                                   << "is gone";
        QTest::newRow("clock begins anew") << "restart"
                                           << "began anew";
        QTest::newRow("slow clock") << "slow-clock 0 0.7"
                                    << "% slow";
        QTest::newRow("wrong baud") << "wrong-baud 4"
                                    << "unreadable";
    }
    void a_short_fault_is_marked_and_the_run_goes_on() {
        QFETCH(QString, fault);
        QFETCH(QString, mark);
        const bool slow = fault.startsWith(QStringLiteral("slow")); // shows after a while only
        Standin standin({"--speed", slow ? "50" : kSpeed, "--rate", "5"});
        QVERIFY(standin.ok());
        OneBank one;
        bench::Session session;
        started(session, planFor(quickDrain(), one, standin), standin);
        QTRY_VERIFY_WITH_TIMEOUT(session.progress().elapsed > 8.0, 20000);
        QCOMPARE(standin.say("FAULt " + fault.toUtf8()), QByteArray("done"));
        const double seconds = slow ? 150.0 : 20.0;
        const double from = session.progress().elapsed;
        QTRY_VERIFY_WITH_TIMEOUT(
            session.progress().elapsed > from + seconds || session.progress().phase == bench::Phase::Finished, 90000);
        QVERIFY2(session.progress().phase == bench::Phase::Running, session.progress().doing.c_str());
        QSignalSpy ended(&session, &bench::Session::finished);
        session.stop();
        QVERIFY(ended.wait(20000));
        const auto id = qvariant_cast<bench::Outcome>(ended.first().first()).run;
        const auto run = *one.book->run(id);
        QVERIFY2(hasMark(run, What::Instrument, mark.toUtf8().constData()), qPrintable(allMarks(run)));
        QVERIFY(hasMark(run, What::Stop, "tester"));
        const trace::Trace t = one.book->trace(id);
        QVERIFY(sound(t));
        QVERIFY2(t.time.back() > from + 0.6 * seconds, qPrintable(QString::number(t.time.back()))); // it was sampled on
        QVERIFY(one.book->finding(id));
        QVERIFY(book::checkBook(one.path)->faults.empty());
    }
    // A fault that lasts is silence in the end: the load goes off within a second after the five.
    void a_lasting_fault_switches_the_load_off_data() {
        QTest::addColumn<QString>("fault");
        QTest::addColumn<QString>("why");
        QTest::newRow("silence") << "silence"
                                 << "silent";
        QTest::newRow("no numbers") << "nan"
                                    << "no reading of";
        QTest::newRow("unplugged") << "unplug"
                                   << "not connected";
        QTest::newRow("wrong baud") << "wrong-baud"
                                    << "baud rate";
    }
    void a_lasting_fault_switches_the_load_off() {
        QFETCH(QString, fault);
        QFETCH(QString, why);
        Standin standin({"--speed", kSpeed, "--rate", "5", "--watchdog", "0"}); // nobody else switches it off
        QVERIFY(standin.ok());
        OneBank one;
        bench::Session session;
        started(session, planFor(quickDrain(), one, standin), standin);
        QTRY_VERIFY_WITH_TIMEOUT(session.progress().elapsed > 8.0, 20000);
        QSignalSpy ended(&session, &bench::Session::finished);
        const HeldUp heldUp;
        QCOMPARE(standin.say("FAULt " + fault.toUtf8()), QByteArray("done"));
        QVERIFY(ended.wait(20000));
        const auto outcome = qvariant_cast<bench::Outcome>(ended.first().first());
        QVERIFY2(outcome.stop.kind == StopKind::Silent, outcome.stop.why.c_str());
        QVERIFY2(QString::fromStdString(outcome.stop.why).contains(why), outcome.stop.why.c_str());
        const auto truth = standin.truth();
        QCOMPARE(truth.at("load_on").get<bool>(), false);
        const double after = truth.at("load_off_at").get<double>() - truth.at("fault_at").get<double>();
        const double late = heldUp.seconds() * QByteArray(kSpeed).toDouble(); // of the bench's time
        QVERIFY2(after > 4.0 && after <= 6.0 + late, qPrintable(QString::number(after)));
        QVERIFY(sound(one.book->trace(outcome.run)));
    }
    void too_hot_switches_the_load_off_within_a_second_data() {
        QTest::addColumn<QString>("speed");
        QTest::newRow("fast") << "50";
        QTest::newRow("as fast as it goes") << "5000";
    }
    void too_hot_switches_the_load_off_within_a_second() {
        QFETCH(QString, speed);
        Standin standin({"--speed", speed, "--rate", "10", "--in-step"});
        OneBank one;
        bench::Session session;
        bench::Plan plan = planFor(quickDrain(), one, standin);
        plan.instruments.erase("thermometer"); // the meter's own column
        plan.limits.celsius = 20.6;
        QSignalSpy ended(&session, &bench::Session::finished);
        session.start(plan);
        QVERIFY(ended.wait(60000));
        const auto outcome = qvariant_cast<bench::Outcome>(ended.first().first());
        QVERIFY2(outcome.stop.kind == StopKind::Temperature, outcome.stop.why.c_str());
        const trace::Trace t = one.book->trace(outcome.run);
        double over = -1.0, last = -1.0;
        for (std::size_t k = 0; k < t.size(); ++k) {
            if (over < 0.0 && t.temperature[k] >= 20.6)
                over = t.time[k];
            if (t.amps[k] > 0.5)
                last = t.time[k];
        }
        QVERIFY2(over > 0.0 && last - over <= 1.0, qPrintable(QStringLiteral("%1 s").arg(last - over)));
    }
    void the_thermometer_stops_it_as_well() {
        Standin standin({"--speed", "50", "--rate", "10"});
        OneBank one;
        bench::Session session;
        bench::Plan plan = planFor(quickDrain(), one, standin);
        plan.limits.celsius = 20.6;
        const auto outcome = runToEnd(session, plan);
        QVERIFY2(outcome.stop.kind == StopKind::Temperature, outcome.stop.why.c_str());
    }
    void volts_out_of_their_window_switch_the_load_off_within_a_second_data() {
        QTest::addColumn<QString>("speed");
        QTest::newRow("slow") << kSpeed;
        QTest::newRow("as fast as it goes") << "500"; // there are hours in this bank, not days
    }
    void volts_out_of_their_window_switch_the_load_off_within_a_second() {
        QFETCH(QString, speed);
        Standin standin({"--speed", speed, "--rate", "10", "--in-step"}, QStringLiteral("Cobble 10"));
        OneBank one;
        bench::Session session;
        bench::Plan plan = planFor(quickDrain(), one, standin);
        started(session, plan, standin);
        QTRY_VERIFY_WITH_TIMEOUT(session.progress().elapsed > 8.0, 20000);
        QSignalSpy ended(&session, &bench::Session::finished);
        QTcpSocket someoneElse; // turns the trigger to 9 V
        someoneElse.connectToHost(QStringLiteral("127.0.0.1"), standin.at("trigger").text.section(':', 1).toUShort());
        QVERIFY(someoneElse.waitForConnected(3000));
        someoneElse.write("SOUR:VOLT 9\n");
        QVERIFY(someoneElse.waitForBytesWritten(3000));
        QVERIFY(ended.wait(20000));
        const auto outcome = qvariant_cast<bench::Outcome>(ended.first().first());
        QVERIFY2(outcome.stop.kind == StopKind::VoltageWindow, outcome.stop.why.c_str());
        const trace::Trace t = one.book->trace(outcome.run);
        int over = 0;
        for (std::size_t k = 0; k < t.size(); ++k)
            over += t.volts[k] > 5.75 && t.amps[k] > 0.5;
        QVERIFY2(over >= 1 && over <= 10, qPrintable(QString::number(over))); // ten readings a second
    }
    void a_vanished_disk_that_comes_back_costs_nothing() {
        Standin standin({"--speed", kSpeed, "--rate", "5"});
        OneBank one;
        bench::Session session;
        started(session, planFor(quickDrain(), one, standin), standin);
        QTRY_VERIFY_WITH_TIMEOUT(session.progress().elapsed > 8.0, 20000);
        QVERIFY(QFile::rename(one.path, one.path + ".away"));
        QTRY_VERIFY_WITH_TIMEOUT(!session.progress().bookTrouble.empty(), 10000);
        QTest::qWait(500);
        QVERIFY(QFile::rename(one.path + ".away", one.path));
        QTRY_VERIFY_WITH_TIMEOUT(session.progress().bookTrouble.empty(), 10000);
        QSignalSpy ended(&session, &bench::Session::finished);
        session.stop();
        QVERIFY(ended.wait(20000));
        const auto outcome = qvariant_cast<bench::Outcome>(ended.first().first());
        QVERIFY(hasMark(*one.book->run(outcome.run), What::Instrument, "nothing is missing"));
        const trace::Trace t = one.book->trace(outcome.run);
        double widest = 0.0;
        for (std::size_t k = 1; k < t.size(); ++k)
            widest = std::max(widest, t.time[k] - t.time[k - 1]);
        QVERIFY2(widest < 0.5, qPrintable(QString::number(widest))); // five readings a second, all there
    }
    void a_disk_that_stays_away_stops_the_run_and_rescues_what_it_can() {
        Standin standin({"--speed", kSpeed, "--rate", "5"});
        OneBank one;
        bench::Session session;
        bench::Plan plan = planFor(quickDrain(), one, standin);
        plan.giveUpAfter = 1.0;
        started(session, plan, standin);
        QTRY_VERIFY_WITH_TIMEOUT(session.progress().elapsed > 8.0, 20000);
        QSignalSpy ended(&session, &bench::Session::finished);
        QVERIFY(QFile::rename(one.path, one.path + ".away"));
        QVERIFY(ended.wait(30000));
        const auto outcome = qvariant_cast<bench::Outcome>(ended.first().first());
        QVERIFY2(outcome.stop.kind == StopKind::BookLost, outcome.stop.why.c_str());
        QCOMPARE(standin.truth().at("load_on").get<bool>(), false);
        const QString file = QString::fromStdString(outcome.rescued);
        QVERIFY(book::isRescue(file));
        QVERIFY(QFile::rename(one.path + ".away", one.path)); // what was written before is whole
        QVERIFY(one.book->run(outcome.run)->open && sound(one.book->trace(outcome.run)));
        const trace::Trace before = one.book->trace(outcome.run);
        const auto rest = book::readRescue(file);
        QVERIFY2(rest.has_value(), rest ? "" : rest.error().sentence().c_str());
        QVERIFY(rest->batch.samples.front().size() > 10);
        // One action, and the run is as if the disk had never been away: every column, the stamps, why it ended.
        const auto in = book::bringIn(one.path, file);
        QVERIFY2(in.has_value(), in ? "" : in.error().sentence().c_str());
        QCOMPARE(*in, outcome.run);
        const trace::Trace after = one.book->trace(outcome.run);
        QCOMPARE(after.size(), before.size() + rest->batch.samples.front().size());
        for (std::size_t k = 1; k < after.size(); ++k)
            QVERIFY2(after.time[k] - after.time[k - 1] < 0.5, qPrintable(QString::number(after.time[k])));
        QCOMPARE(after.temperature.size(), before.temperature.empty() ? std::size_t{0} : after.size());
        const auto run = one.book->run(outcome.run);
        QVERIFY(!run->open);
        QVERIFY2(QString::fromStdString(run->stopped).contains("could not be written"), run->stopped.c_str());
        QVERIFY(hasMark(*run, What::Stop, "could not be written"));
        // Twice changes nothing; the command line says so, too.
        const auto again = book::bringIn(one.path, file);
        QVERIFY(!again && again.error().code == "already_in");
        one.book.reset();
        QProcess cli;
        cli.start(where::cli(), {"bring-in", one.path, file});
        QVERIFY(cli.waitForFinished(20000));
        QCOMPARE(cli.exitCode(), 3);
        QVERIFY(cli.readAllStandardError().contains("holds this already"));
        one.book = std::move(*book::Book::open(one.path));
        QCOMPARE(one.book->trace(outcome.run).size(), after.size());
        QVERIFY(book::checkBook(one.path)->faults.empty());
    }
    void a_computer_that_slept_with_a_load_on_stops_the_run() {
        Standin standin({"--speed", kSpeed, "--rate", "5"});
        OneBank one;
        bench::Session session(nullptr, kSleepy);
        started(session, planFor(quickDrain(), one, standin, false), standin);
        QSignalSpy ended(&session, &bench::Session::finished);
        slept = 720.0;
        QVERIFY(ended.wait(20000));
        const auto outcome = qvariant_cast<bench::Outcome>(ended.first().first());
        QVERIFY2(outcome.stop.kind == StopKind::Slept, outcome.stop.why.c_str());
        QVERIFY(hasMark(*one.book->run(outcome.run), What::Instrument, "slept for 12 min"));
        QCOMPARE(standin.truth().at("load_on").get<bool>(), false);
    }
    void a_recharge_goes_on_after_a_sleep() {
        Standin standin({"--speed", "1", "--rate", "20", "--empty"});
        OneBank one;
        bench::Session session(nullptr, kSleepy);
        bench::Recipe r = recipe("recharge-to-taper");
        r.steps.front().seconds = 1.0;
        session.start(planFor(r, one, standin, false));
        QTRY_VERIFY_WITH_TIMEOUT(session.progress().phase == bench::Phase::Waiting, 20000);
        (void)standin.say("HANDs:CHARger IN");
        session.goOn();
        QTRY_VERIFY_WITH_TIMEOUT(session.progress().amps > 0.5, 20000);
        slept = 600.0;
        QTest::qWait(1500);
        QVERIFY(session.progress().phase == bench::Phase::Running);
        QSignalSpy ended(&session, &bench::Session::finished);
        session.stop();
        QVERIFY(ended.wait(20000));
        QVERIFY(hasMark(*one.book->run(qvariant_cast<bench::Outcome>(ended.first().first()).run), What::Instrument,
                        "slept for 10 min"));
    }
};

QTEST_GUILESS_MAIN(FaultsTest)
#include "faults_test.moc"
