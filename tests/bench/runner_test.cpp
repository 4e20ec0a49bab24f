// The live bench end to end: recipes on the stand-in over its real pseudo-terminal and TCP, every stop, and what is
// left in the book.
#include "runner_harness.h"

using namespace otterstone;
using namespace otterstone::testing;

class RunnerTest : public QObject {
    Q_OBJECT

private Q_SLOTS:
    void init() { slept = 0.0; }

    void a_gentle_drain_finds_the_truth_by_itself() {
        Standin standin({"--speed", "20000", "--in-step"});
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
        const auto row = [](const char* key, const char* bank, const QStringList& options, StopKind kind) {
            QTest::newRow(key) << key << bank << options << int(kind);
        };
        row("top-tier-drain", "Cobble 10", {}, StopKind::CutOff);
        row("steady-power-drain", "Cobble 10", {}, StopKind::CutOff);
        row("recharge-to-taper", "Pebble 5", {"--empty", "--charger-watts", "10", "--charger-tiers", "5 V 2 A"},
            StopKind::TaperEnd);
        row("load-staircase", "Cobble 10", {}, StopKind::CutOff);
        row("light-load-ladder", "Cobble 10", {}, StopKind::CutOff);
        row("pass-through", "Menhir 27",
            {"--charge", "0.5", "--charger-watts", "65", "--charger-tiers", "5 V 3 A, 9 V 3 A, 20 V 3 A"},
            StopKind::Done);
        row("sharing-round", "Menhir 27", {}, StopKind::Done);
        row("heat-soak", "Cobble 10", {}, StopKind::Settled);
        row("device-charge", "Cobble 10", {}, StopKind::TaperEnd);
    }
    void every_recipe_runs_to_an_orderly_end() {
        QFETCH(QString, key);
        QFETCH(QString, bank);
        QFETCH(QStringList, options);
        QFETCH(int, kind);
        Standin standin(QStringList{"--speed", "20000", "--in-step"} + options, bank);
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
        QVERIFY(hasMark(run, What::Plugged, "") &&
                std::any_of(run.marks.begin(), run.marks.end(), [](const auto& m) { return m.what == What::Percent; }));
        QVERIFY(one.book->finding(outcome.run)->wattHours.value() > 0.001);
    }
    // A machine that is held up for seconds loses the load, rightly: that one is begun once more.
    void a_load_that_measures_is_meter_enough() {
        constexpr int kMostBegins = 3;
        std::string lost;
        for (int begun = 0; begun < kMostBegins; ++begun) {
            Standin standin({"--speed", "20"});
            OneBank one;
            bench::Session session;
            bench::Plan plan = planFor(quickDrain(), one, standin);
            plan.instruments.erase("meter");
            QSignalSpy ended(&session, &bench::Session::finished);
            started(session, plan, standin);
            QTRY_VERIFY_WITH_TIMEOUT(session.progress().elapsed > 60.0 || !ended.empty(), 60000);
            if (!ended.empty()) {
                const auto stop = qvariant_cast<bench::Outcome>(ended.first().first()).stop;
                QVERIFY2(stop.kind == StopKind::InstrumentLost || stop.kind == StopKind::Silent, stop.why.c_str());
                lost = stop.why;
                continue;
            }
            session.stop();
            QVERIFY(ended.wait(20000));
            const auto t = one.book->trace(qvariant_cast<bench::Outcome>(ended.first().first()).run);
            QVERIFY(t.size() > 30 && sound(t));
            return;
        }
        QFAIL(lost.c_str());
    }
    void a_meter_that_is_asked_measures_as_well() {
        Standin standin({"--speed", "1"});
        OneBank one;
        bench::Session session;
        bench::Plan plan = planFor(quickDrain(), one, standin, false);
        const auto asked = bench::profileFromJson(
            R"({"format": "otterstone-instrument", "version": 1, "key": "bench-meter", "name": "Bench meter", "kind": "meter",
            "connection": {"tcp": {"port": 5025}}, "scpi": {}})",
            "meter");
        QVERIFY2(asked, asked ? "" : asked.error().sentence().c_str());
        plan.instruments["meter"] = {*asked, standin.at("load")}; // it sits at the load's terminals
        started(session, plan, standin);
        QTest::qWait(2500);
        QSignalSpy ended(&session, &bench::Session::finished);
        session.stop();
        QVERIFY(ended.wait(20000));
        const auto outcome = qvariant_cast<bench::Outcome>(ended.first().first());
        const auto t = one.book->trace(outcome.run);
        QVERIFY(t.size() > 10 && sound(t));
        int drawing = 0;
        for (std::size_t k = 0; k < t.size(); ++k)
            drawing += std::fabs(t.amps[k] - 1.0) < 0.01 ? 1 : 0;
        QVERIFY(drawing > 5);
        QCOMPARE(one.book->run(outcome.run)->stopped, std::string("the tester stopped it"));
    }
    // Its watchdog, heat, a finger on its key: whatever it was, the bank was not empty.
    void a_load_that_switches_itself_off_is_not_the_banks_end() {
        Standin standin({"--speed", "20", "--rate", "2"});
        OneBank one;
        bench::Session session;
        started(session, planFor(quickDrain(), one, standin), standin);
        QSignalSpy ended(&session, &bench::Session::finished);
        QCOMPARE(standin.say("INPut OFF\nINPut?", "load"), QByteArray("0"));
        QVERIFY(ended.wait(20000));
        const auto outcome = qvariant_cast<bench::Outcome>(ended.first().first());
        QVERIFY2(outcome.stop.kind == StopKind::InstrumentLost &&
                     outcome.stop.why.find("still holds") != std::string::npos,
                 outcome.stop.why.c_str());
        const auto finding = one.book->finding(outcome.run);
        QVERIFY(finding && finding->drain && !kinds::answers(*finding, "usable_wh"));
    }
    void without_its_instruments_no_run_is_made_data() {
        QTest::addColumn<QString>("role");
        QTest::addColumn<QString>("address");
        QTest::newRow("no such port") << "meter"
                                      << "/dev/there-is-no-such-meter";
        QTest::newRow("nobody listens") << "load"
                                        << "127.0.0.1:1";
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
            auto capture =
                book::Capture::begin(one.path, plan.run, {{{path::Point::Meter, false, {}, "live"}, true, false}});
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
