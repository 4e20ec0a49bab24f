// The live bench end to end: recipes on the stand-in over its real pseudo-terminal and TCP, every stop, and what is left in the book.
#include "bench_harness.h"

#include <QFile>

#include <atomic>
#include <cmath>

#include "book/capture.h"
#include "book/check.h"
#include "book/demo.h"

using namespace otterstone;
using namespace otterstone::testing;
using bench::StopKind;
using What = findings::Mark::What;

namespace {

std::atomic<double> slept{0.0};
const bench::SystemClocks kSleepy{bench::SystemClocks{}.awake, [] { return bench::SystemClocks{}.always() + slept.load(); }};

bool hasMark(const book::Run& run, What what, const char* words) {
    return std::any_of(run.marks.begin(), run.marks.end(), [&](const findings::Mark& m) { return m.what == what && m.text.find(words) != std::string::npos; });
}

QString allMarks(const book::Run& run) {
    QStringList all;
    for (const auto& m : run.marks)
        all << QStringLiteral("%1 %2 %3").arg(m.at).arg(QString::fromStdString(findings::markKey(m.what)), QString::fromStdString(m.text));
    return all.join(QLatin1Char('\n'));
}

// Times never step back, and no sample is one that was not there.
bool sound(const trace::Trace& t, double mostVolts = 5.3, double mostAmps = 1.1) {
    for (std::size_t k = 0; k < t.size(); ++k) {
        const bool flows = t.amps[k] > 0.05;
        if ((k > 0 && t.time[k] < t.time[k - 1]) || t.volts[k] > mostVolts || t.amps[k] > mostAmps || (flows && t.volts[k] < 4.5))
            return false;
    }
    return t.size() > 0;
}

constexpr const char* kSpeed = "5"; // five seconds of silence are one real one: time enough to come back

// The gentle drain without its long waits.
bench::Recipe quickDrain() {
    bench::Recipe r = recipe("gentle-drain");
    r.steps[1].seconds = 2.0;
    r.closingSeconds = 2.0;
    return r;
}

} // namespace

class RunnerTest : public QObject {
    Q_OBJECT

    // Started, and its load on.
    void started(bench::Session& session, const bench::Plan& plan, Standin& standin) {
        session.start(plan);
        QTRY_VERIFY_WITH_TIMEOUT(session.progress().loadOn && session.progress().amps > 0.5, 20000);
        QVERIFY(standin.truth().at("load_on").get<bool>());
    }

private Q_SLOTS:
    void init() { slept = 0.0; }

    void a_gentle_drain_finds_the_truth_by_itself() {
        Standin standin({"--speed", "20000", "--in-step", "--watchdog", "20000"});
        QVERIFY(standin.ok());
        OneBank one;
        bench::Session session;
        const auto outcome = runToEnd(session, planFor(recipe("gentle-drain"), one, standin));
        QVERIFY2(outcome.stop.kind == StopKind::CutOff, outcome.stop.why.c_str());
        QVERIFY(outcome.trueWattHours);
        const auto run = *one.book->run(outcome.run);
        QVERIFY(!run.open && run.stopped == outcome.stop.why);
        const auto finding = one.book->finding(outcome.run);
        QVERIFY(finding && finding->drain->endedBy == trace::EndedBy::CutOff);
        // No gear is stated here: at the meter it is lower by the cable, and within the meter's error.
        const double cable = 0.058 / 4.98;
        QVERIFY(std::fabs(finding->wattHours.value() / *outcome.trueWattHours - 1.0 + cable) < 0.006);
        QCOMPARE(standin.truth().at("load_on").get<bool>(), false);
        QVERIFY(book::checkBook(one.path)->faults.empty());
    }
    // Each recipe that ships runs to an orderly end by itself, with the stand-in's hands.
    void every_recipe_runs_to_an_orderly_end_data() {
        QTest::addColumn<QString>("key");
        QTest::addColumn<QString>("bank");
        QTest::addColumn<QStringList>("options");
        QTest::addColumn<int>("kind");
        const auto row = [](const char* key, const char* bank, const QStringList& options, StopKind kind) { QTest::newRow(key) << key << bank << options << int(kind); };
        row("top-tier-drain", "Cobble 10", {}, StopKind::CutOff);
        row("steady-power-drain", "Cobble 10", {}, StopKind::CutOff);
        row("recharge-to-taper", "Pebble 5", {"--empty", "--charger-watts", "10", "--charger-tiers", "5 V 2 A"}, StopKind::TaperEnd);
        row("load-staircase", "Cobble 10", {}, StopKind::CutOff);
        row("light-load-ladder", "Cobble 10", {}, StopKind::Done);
        row("pass-through", "Menhir 27", {"--charge", "0.5", "--charger-watts", "65", "--charger-tiers", "5 V 3 A, 9 V 3 A, 20 V 3 A"}, StopKind::Done);
        row("sharing-round", "Menhir 27", {}, StopKind::Done);
        row("heat-soak", "Cobble 10", {}, StopKind::Settled);
        row("device-charge", "Cobble 10", {}, StopKind::TaperEnd);
    }
    void every_recipe_runs_to_an_orderly_end() {
        QFETCH(QString, key);
        QFETCH(QString, bank);
        QFETCH(QStringList, options);
        QFETCH(int, kind);
        Standin standin(QStringList{"--speed", "20000", "--in-step", "--watchdog", "20000"} + options, bank);
        QVERIFY(standin.ok());
        OneBank one;
        bench::Session session;
        bench::Plan plan = planFor(recipe(key.toUtf8().constData()), one, standin);
        plan.label.ports.clear(); // what is printed on that bank
        const auto printed = book::demoTruth(bank.toStdString());
        for (const model::Port& p : printed->ports)
            plan.label.ports.push_back({p.name, p.direction, p.gives.empty() ? p.takes : p.gives, {}, {}});
        const auto outcome = runToEnd(session, plan, 90000);
        QVERIFY2(int(outcome.stop.kind) == kind, outcome.stop.why.c_str());
        QCOMPARE(standin.truth().at("load_on").get<bool>(), false);
        QCOMPARE(standin.truth().at("second_load_on").get<bool>(), false);
        const auto run = *one.book->run(outcome.run);
        QVERIFY(!run.open && hasMark(run, What::Stop, outcome.stop.why.c_str()));
        QVERIFY(one.book->trace(outcome.run).size() > 20);
        const auto finding = one.book->finding(outcome.run);
        QVERIFY2(finding.has_value(), finding ? "" : finding.error().sentence().c_str());
    }

    // A fault shorter than what stops a run leaves a mark and nothing else.
    void a_short_fault_is_marked_and_the_run_goes_on_data() {
        QTest::addColumn<QString>("fault");
        QTest::addColumn<QString>("mark");
        QTest::newRow("noise") << "noise 4" << "unreadable";
        QTest::newRow("silence") << "silence 4" << "no reading";
        QTest::newRow("no numbers") << "nan 4" << "unreadable";
        QTest::newRow("partial lines") << "partial 4" << "unreadable";
        QTest::newRow("unplugged") << "unplug 2" << "is gone";
        QTest::newRow("clock begins anew") << "restart" << "began anew";
        QTest::newRow("slow clock") << "slow-clock 0 0.7" << "% slow";
        QTest::newRow("wrong baud") << "wrong-baud 4" << "unreadable";
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
        QTRY_VERIFY_WITH_TIMEOUT(session.progress().elapsed > from + seconds || session.progress().phase == bench::Phase::Finished, 90000);
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
        QTest::newRow("silence") << "silence" << "silent";
        QTest::newRow("no numbers") << "nan" << "no reading of";
        QTest::newRow("unplugged") << "unplug" << "not connected";
        QTest::newRow("wrong baud") << "wrong-baud" << "baud rate";
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
        QCOMPARE(standin.say("FAULt " + fault.toUtf8()), QByteArray("done"));
        QVERIFY(ended.wait(20000));
        const auto outcome = qvariant_cast<bench::Outcome>(ended.first().first());
        QVERIFY2(outcome.stop.kind == StopKind::Silent, outcome.stop.why.c_str());
        QVERIFY2(QString::fromStdString(outcome.stop.why).contains(why), outcome.stop.why.c_str());
        const auto truth = standin.truth();
        QCOMPARE(truth.at("load_on").get<bool>(), false);
        const double after = truth.at("load_off_at").get<double>() - truth.at("fault_at").get<double>();
        QVERIFY2(after > 4.0 && after <= 6.0, qPrintable(QString::number(after)));
        QVERIFY(sound(one.book->trace(outcome.run)));
    }
    void too_hot_switches_the_load_off_within_a_second() {
        Standin standin({"--speed", "50", "--rate", "10"});
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
    void volts_out_of_their_window_switch_the_load_off_within_a_second() {
        Standin standin({"--speed", kSpeed, "--rate", "10"}, QStringLiteral("Cobble 10"));
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
    void it_waits_for_hands_when_there_are_real_ones() {
        Standin standin({"--speed", "1", "--rate", "20", "--empty"});
        OneBank one;
        bench::Session session;
        bench::Recipe r = recipe("recharge-to-taper");
        r.steps.front().seconds = 1.0;
        r.steps.back().ends = bench::Ends::AtTime;
        r.steps.back().seconds = 3.0;
        r.closingSeconds = 1.0;
        QSignalSpy ended(&session, &bench::Session::finished);
        session.start(planFor(r, one, standin, false)); // nobody moves a plug for us
        QTRY_VERIFY_WITH_TIMEOUT(session.progress().phase == bench::Phase::Waiting, 20000);
        QVERIFY(session.progress().toDo.find("charger") != std::string::npos);
        QTest::qWait(300);
        QVERIFY(session.progress().phase == bench::Phase::Waiting);
        QCOMPARE(standin.say("HANDs:CHARger IN"), QByteArray("done"));
        session.stamp({0.0, What::Percent, 1.0, ""});
        session.goOn();
        QVERIFY(ended.wait(20000));
        const auto outcome = qvariant_cast<bench::Outcome>(ended.first().first());
        QVERIFY2(outcome.stop.kind == StopKind::Done, outcome.stop.why.c_str());
        const auto run = *one.book->run(outcome.run);
        QVERIFY(hasMark(run, What::Plugged, "") && std::any_of(run.marks.begin(), run.marks.end(), [](const auto& m) { return m.what == What::Percent; }));
        QVERIFY(one.book->finding(outcome.run)->wattHours.value() > 0.001);
    }
    void a_load_that_measures_is_meter_enough() {
        Standin standin({"--speed", "20"});
        OneBank one;
        bench::Session session;
        bench::Plan plan = planFor(quickDrain(), one, standin);
        plan.instruments.erase("meter");
        started(session, plan, standin);
        QTRY_VERIFY_WITH_TIMEOUT(session.progress().elapsed > 60.0, 20000);
        QSignalSpy ended(&session, &bench::Session::finished);
        session.stop();
        QVERIFY(ended.wait(20000));
        const auto t = one.book->trace(qvariant_cast<bench::Outcome>(ended.first().first()).run);
        QVERIFY(t.size() > 30 && sound(t));
    }
    void without_its_instruments_no_run_is_made_data() {
        QTest::addColumn<QString>("role");
        QTest::addColumn<QString>("address");
        QTest::newRow("no such port") << "meter" << "/dev/there-is-no-such-meter";
        QTest::newRow("nobody listens") << "load" << "127.0.0.1:1";
    }
    void without_its_instruments_no_run_is_made() {
        QFETCH(QString, role);
        QFETCH(QString, address);
        Standin standin({"--speed", kSpeed});
        OneBank one;
        bench::Session session;
        bench::Plan plan = planFor(quickDrain(), one, standin);
        plan.instruments[role.toStdString()].address.text = address;
        const auto outcome = runToEnd(session, plan, 30000);
        QCOMPARE(outcome.run, 0LL);
        QVERIFY2(outcome.stop.kind == StopKind::InstrumentLost && !outcome.stop.why.empty(), outcome.stop.why.c_str());
        QVERIFY(one.book->runs(one.bank).empty());
    }
    void a_stand_in_that_dies_ends_the_run_and_leaves_it_whole() {
        auto standin = std::make_unique<Standin>(QStringList{"--speed", kSpeed, "--rate", "5"});
        OneBank one;
        bench::Session session;
        started(session, planFor(quickDrain(), one, *standin, false), *standin);
        QTRY_VERIFY_WITH_TIMEOUT(session.progress().elapsed > 8.0, 20000);
        QSignalSpy ended(&session, &bench::Session::finished);
        standin.reset();
        QVERIFY(ended.wait(30000));
        const auto outcome = qvariant_cast<bench::Outcome>(ended.first().first());
        QVERIFY(!bench::isOrderly(outcome.stop.kind) && !one.book->run(outcome.run)->open);
        QVERIFY(sound(one.book->trace(outcome.run)));
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
        QFile rescued(QString::fromStdString(outcome.rescued));
        QVERIFY(rescued.open(QIODevice::ReadOnly));
        QVERIFY(rescued.readLine().startsWith("time_s,volts_v,amps_a"));
        QVERIFY(rescued.readAll().count('\n') > 10);
        QVERIFY(QFile::rename(one.path + ".away", one.path)); // what was written before is whole
        QVERIFY(one.book->run(outcome.run)->open && sound(one.book->trace(outcome.run)));
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
        QVERIFY(hasMark(*one.book->run(qvariant_cast<bench::Outcome>(ended.first().first()).run), What::Instrument, "slept for 10 min"));
    }
    void a_window_that_closes_switches_off_and_keeps_all() {
        Standin standin({"--speed", "1", "--rate", "20", "--watchdog", "0"});
        OneBank one;
        double upTo = 0.0;
        {
            bench::Session session;
            started(session, planFor(quickDrain(), one, standin, false), standin);
            QTest::qWait(1000);
            upTo = session.progress().elapsed;
        }
        QTRY_VERIFY_WITH_TIMEOUT(!standin.truth().at("load_on").get<bool>(), 3000);
        const auto run = one.book->runs(one.bank).front();
        QVERIFY(!run.open && run.stopped == "the window was closed");
        QVERIFY(one.book->trace(run.id).time.back() >= upTo - 0.2);
    }
    void a_run_that_was_cut_off_is_gone_on_with() {
        Standin standin({"--speed", "1", "--rate", "20"});
        OneBank one;
        bench::Session session;
        bench::Recipe r = quickDrain();
        bench::Plan plan = planFor(r, one, standin, false);
        // A run as a crash leaves it.
        {
            auto capture = book::Capture::begin(one.path, plan.run, {{{path::Point::Meter, false, {}, "live"}, true, false}});
            book::Batch b;
            b.samples.resize(1);
            for (int k = 0; k < 200; ++k)
                b.samples[0].push_back({0.05 * k, 5.0, 1.0, 20.0});
            QVERIFY((*capture)->append(b));
            plan.run.id = (*capture)->run();
        }
        plan.breakSeconds = 90.0;
        started(session, plan, standin);
        QTest::qWait(1000);
        QSignalSpy ended(&session, &bench::Session::finished);
        session.stop();
        QVERIFY(ended.wait(20000));
        const auto run = *one.book->run(plan.run.id);
        QVERIFY(!run.open && hasMark(run, What::Instrument, "gone on with after a break of 1 min 30 s"));
        QCOMPARE(one.book->runs(one.bank).size(), 1u);
        const trace::Trace t = one.book->trace(run.id);
        QVERIFY(t.size() > 220);
        QVERIFY(t.time[200] - t.time[199] > 89.0 && t.time[200] - t.time[199] < 92.0);
        QVERIFY(sound(t));
    }
};

QTEST_GUILESS_MAIN(RunnerTest)
#include "runner_test.moc"
