// The runner's safety invariants (bench/runner.h), by a bench that is not the shipped one: each instrument fails in
// each way while the load is on, with and without a bank that gets too hot at that moment. Whatever happens: the load
// is off in time, or the run says that it is not, and nothing that was not said true is written down.
#include <QPointer>

#include "bench/instruments/scpi_device.h"
#include "book/store/check.h"
#include "trial.h"

using namespace otterstone;
using namespace otterstone::testing;

namespace {

const char* kInstruments[] = {"meter", "asked meter", "load", "thermometer", "trigger"};
const std::pair<const char*, Fault> kFaults[] = {{"silent", Fault::Silent},
                                                 {"deaf", Fault::Deaf},
                                                 {"mute", Fault::Mute},
                                                 {"NaN", Fault::NotANumber},
                                                 {"infinite", Fault::Infinite},
                                                 {"stuck", Fault::Stuck},
                                                 {"wrong range", Fault::WrongRange},
                                                 {"words", Fault::Words},
                                                 {"refuses", Fault::Refuses},
                                                 {"slow", Fault::Slow},
                                                 {"closes", Fault::Closes},
                                                 {"reconnects", Fault::Reconnects}};

// Within what the load is off, or is said to be on, ms. A bank that is too hot: a second from when a sensor that works
// says so; where none works, when that lasted.
qint64 within(const QString& instrument, const QString& fault, bool hot) {
    const auto broken = static_cast<qint64>(kSilent * 1000.0);
    const bool slow = fault == "slow";
    if (instrument == "load") // off is told at once; what cannot obey is said to be on after two seconds more
        return hot ? 3000 : (fault == "stuck" || slow || fault == "refuses" ? -1 : broken + 5000);
    if (hot)
        return 1000 + (instrument == "asked meter" && slow ? 1000 : 0) +
               (instrument == "thermometer" && slow ? 100 : 0) + (instrument == "asked meter" ? 500 : 0);
    // The run may go on: nothing is lost with a trigger; what is late, or stands still while all is steady, says
    // nothing wrong. One that is back after two seconds may have been missed or not.
    if (instrument == "trigger" || slow || fault == "reconnects" || (fault == "stuck" && instrument != "meter"))
        return -1;
    return broken + 3500;
}

} // namespace

class SafetyTest : public QObject {
    Q_OBJECT

    // All trials of a kind at once: they are independent, and each takes seconds of waiting.
    std::map<QString, std::unique_ptr<Trial>> hot_, cool_;

    void runAll(std::map<QString, std::unique_ptr<Trial>>& all, bool hot) {
        constexpr std::size_t kAtOnce = 15;
        std::vector<std::tuple<QString, QString, Fault>> cases;
        for (const char* instrument : kInstruments) {
            for (const auto& [name, fault] : kFaults)
                cases.emplace_back(QString::fromLatin1(instrument), QString::fromLatin1(name), fault);
        }
        for (std::size_t first = 0; first < cases.size(); first += kAtOnce) {
            const std::size_t end = std::min(first + kAtOnce, cases.size());
            std::vector<std::pair<Trial*, std::size_t>> now;
            const auto begin = [&](std::size_t k) {
                auto& trial = all[std::get<0>(cases[k]) + ", " + std::get<1>(cases[k])];
                trial = std::make_unique<Trial>(std::get<0>(cases[k]) != "asked meter");
                return trial.get();
            };
            for (std::size_t k = first; k < end; ++k)
                now.emplace_back(begin(k), k);
            // A machine that stands still for seconds stops a run by its silence, before anything is wrong with it:
            // that one is begun once more.
            constexpr int kMostBegins = 5;
            for (int begun = 0, stopped = 1; stopped > 0 && begun < kMostBegins; ++begun) {
                QTRY_VERIFY_WITH_TIMEOUT(
                    std::all_of(now.begin(), now.end(),
                                [](const auto& t) { return t.first->flows() || t.first->endedAt >= 0; }),
                    20000);
                QTest::qWait(1200); // thermometer and load were polled
                stopped = 0;
                for (auto& [trial, k] : now) {
                    if (trial->endedAt < 0)
                        continue;
                    trial = begin(k);
                    ++stopped;
                }
            }
            for (const auto& [trial, k] : now) {
                trial->instrument(std::get<0>(cases[k])).fail(std::get<2>(cases[k]));
                if (hot)
                    trial->bench.celsius = 46.0;
                trial->hurtAt = trial->bench.clock.elapsed();
            }
            const qint64 longest = 8500;
            QElapsedTimer waited, step;
            waited.start();
            qint64 lost = 0;
            while (waited.elapsed() < longest && !std::all_of(now.begin(), now.end(), [](const auto& t) {
                       return t.first->endedAt >= 0 || t.first->saidOnAt >= 0;
                   })) {
                constexpr int kStep = 50;
                step.start();
                QTest::qWait(kStep);
                lost += std::max<qint64>(0, step.elapsed() - kStep - 10);
            }
            // What was seen by then counts. Then all is mended, and each run is ended.
            for (const auto& [trial, k] : now) {
                trial->lost = lost;
                trial->seen = {trial->safeAfter(), trial->bench.on, trial->session.progress().doing};
                trial->mend();
                trial->session.stop();
            }
            waited.restart();
            while (waited.elapsed() < 15000 &&
                   !std::all_of(now.begin(), now.end(), [](const auto& t) { return t.first->endedAt >= 0; }))
                QTest::qWait(50);
            for (const auto& [trial, k] : now) {
                trial->session.end(); // its threads
                trial->bench.rest();
            }
        }
    }
    static void everyFault() {
        QTest::addColumn<QString>("instrument");
        QTest::addColumn<QString>("fault");
        for (const char* instrument : kInstruments) {
            for (const auto& [name, fault] : kFaults)
                QTest::newRow(qPrintable(QStringLiteral("%1, %2").arg(QLatin1String(instrument), QLatin1String(name))))
                    << QString::fromLatin1(instrument) << QString::fromLatin1(name);
        }
    }
    void check(std::map<QString, std::unique_ptr<Trial>>& all, bool hot) {
        QFETCH(QString, instrument);
        QFETCH(QString, fault);
        if (all.empty())
            runAll(all, hot);
        Trial& t = *all.at(instrument + ", " + fault);
        const qint64 bound = within(instrument, fault, hot);
        const auto safe = t.seen.safe;
        const QString words =
            QStringLiteral("load %1, off or said after %2 ms (%3 lost); %4; %5")
                .arg(t.seen.on ? "on" : "off")
                .arg(safe ? *safe : -1)
                .arg(t.lost)
                .arg(QString::fromStdString(t.outcome.stop.why), QString::fromStdString(t.seen.doing));
        if (bound >= 0)
            QVERIFY2(safe && *safe <= bound + kSlack + t.lost, qPrintable(words)); // invariants 1, 2, 5, 6, 8
        QVERIFY2(!t.claimedFalsely, qPrintable(words));                            // invariant 3
        QVERIFY(t.bench.mostAsked <= 1.0);                                         // invariant 7
        QVERIFY2(t.endedAt >= 0, qPrintable(words));                               // once it was mended
        QVERIFY(!t.bench.on && t.outcome.stillOn.empty());
        const trace::Trace samples = t.book.book->trace(t.outcome.run); // invariants 6, 9
        QVERIFY2(samples.size() > 1 && !trace::unsound(samples),        // a busy machine asks a meter less often
                 qPrintable(QStringLiteral("%1 samples").arg(samples.size())));
        for (std::size_t k = 0; k < samples.size(); ++k)
            QVERIFY2(std::fabs(samples.volts[k] - 5.0) < 0.01 && samples.amps[k] < 1.01,
                     qPrintable(QStringLiteral("%1 V %2 A at %3 s")
                                    .arg(samples.volts[k])
                                    .arg(samples.amps[k])
                                    .arg(samples.time[k])));
        QVERIFY(book::checkBook(t.book.path)->faults.empty());
    }

private Q_SLOTS:
    void a_bank_too_hot_while_an_instrument_fails_data() { everyFault(); }
    void a_bank_too_hot_while_an_instrument_fails() { check(hot_, true); }
    void an_instrument_that_fails_data() { everyFault(); }
    void an_instrument_that_fails() { check(cool_, false); }

    // Invariant 4: what cannot be relied on is not begun with.
    void nothing_begins_without_data() {
        QTest::addColumn<QString>("instrument");
        QTest::addColumn<int>("fault");
        QTest::addColumn<QString>("says");
        QTest::newRow("a load that refuses to be off") << "load" << int(Fault::Refuses) << "does not switch off";
        QTest::newRow("a thermometer that says nothing") << "thermometer" << int(Fault::Silent) << "thermometer";
        QTest::newRow("a thermometer that says NaN") << "thermometer" << int(Fault::NotANumber) << "thermometer";
        QTest::newRow("a thermometer of -1e300 degrees") << "thermometer" << int(Fault::WrongRange) << "thermometer";
        QTest::newRow("a meter of infinite volts") << "meter" << int(Fault::Infinite) << "meter";
    }
    void nothing_begins_without() {
        QFETCH(QString, instrument);
        QFETCH(int, fault);
        QFETCH(QString, says);
        Trial t(true, {}, [&](FakeBench& b) {
            b.on = instrument == "load"; // left on by somebody
            b.amps = 1.0;
            (instrument == "load"    ? b.load
             : instrument == "meter" ? b.meter
                                     : b.thermometer)
                .fail(static_cast<Fault>(fault));
        });
        QTRY_VERIFY_WITH_TIMEOUT(t.endedAt >= 0, 20000);
        QCOMPARE(t.outcome.run, 0LL);
        QVERIFY2(QString::fromStdString(t.outcome.stop.why).contains(says), t.outcome.stop.why.c_str());
        QVERIFY(t.outcome.stillOn.empty() != t.bench.on);
    }
    // Invariant 3: it is told to be off twice a second; between that and its answer it is no less on than before. A run
    // that ended just then said nothing of a load that was on.
    void a_load_that_refuses_is_on_at_every_moment() {
        FakeBench b;
        b.on = true;
        b.amps = 1.0;
        b.load.fail(Fault::Refuses);
        const bench::Instrument load = b.instruments().at("load");
        bench::ScpiDevice device(load.profile, load.address);
        device.link().open();
        QTRY_VERIFY_WITH_TIMEOUT(device.saysOn() && device.whyNotOff().contains("refuses"), 5000);
        int looks = 0;
        const auto look = [&] {
            ++looks;
            QVERIFY(device.saysOn() && !device.isOff());
            QVERIFY2(device.whyNotOff().contains("refuses"), qPrintable(device.whyNotOff()));
        };
        // At each turn of the loop, and as soon as it is told once more.
        QTimer turns;
        turns.start(50);
        QElapsedTimer waited;
        waited.start();
        while (waited.elapsed() < 2500 && !QTest::currentTestFailed()) {
            QCoreApplication::processEvents(QEventLoop::WaitForMoreEvents);
            look();
        }
        QVERIFY(looks > 20);
        b.load.fail(Fault::None);
        QTRY_VERIFY_WITH_TIMEOUT(device.isOff() && !device.saysOn(), 3000);
        QVERIFY(!b.on);
    }
    // On a busy computer an answer is always on its way, and the load that was off was never asked.
    void a_load_that_is_read_all_the_time_is_asked_whether_it_is_off() {
        FakeBench b;
        b.on = true;
        const bench::Instrument load = b.instruments().at("load");
        bench::ScpiDevice device(load.profile, load.address);
        device.link().open();
        QTRY_VERIFY_WITH_TIMEOUT(device.isOff(), 5000); // it was found on
        int answers = 0;
        std::function<void()> read = [&] {
            device.ask("volts", [&](std::optional<double> volts) {
                ++answers;
                if (volts && read)
                    read();
            });
        };
        read();
        device.set("on");
        QTRY_VERIFY_WITH_TIMEOUT(b.on, 5000);
        QVERIFY(device.waiting() > 0);
        device.switchOff();
        QTRY_VERIFY_WITH_TIMEOUT(device.isOff(), 5000);
        QVERIFY(!b.on && answers > 0);
        read = nullptr;
    }
    void a_load_that_was_left_on_is_switched_off_before_anything_begins() {
        Trial t(true, {}, [](FakeBench& b) { b.on = true; });
        QTRY_VERIFY_WITH_TIMEOUT(t.bench.offAt >= 0, 5000); // it may be on again at once: the run begins
        QTRY_VERIFY_WITH_TIMEOUT(t.flows(), 10000);
        t.session.stop();
        QTRY_VERIFY_WITH_TIMEOUT(t.endedAt >= 0, 10000);
        QVERIFY(!t.bench.on);
    }
    void a_load_that_cannot_be_asked_for_its_input_is_off_by_its_amperes() {
        Trial t(true, {}, [](FakeBench& b) { b.knowsState = false; });
        QTRY_VERIFY_WITH_TIMEOUT(t.flows(), 15000);
        t.session.stop();
        QTRY_VERIFY_WITH_TIMEOUT(t.endedAt >= 0, 10000);
        QVERIFY(!t.bench.on && t.outcome.stillOn.empty() && !t.claimedFalsely);
    }
    void a_load_that_says_little_is_off_by_what_it_says_data() {
        QTest::addColumn<QStringList>("without");
        QTest::addColumn<bool>("knowsState");
        QTest::newRow("its input alone") << QStringList{"volts", "amps"} << true;
        QTest::newRow("its amperes alone") << QStringList{"volts", "state"} << false;
        QTest::newRow("only what it complains of") << QStringList{"volts", "amps", "state"} << false;
        QTest::newRow("nothing at all") << QStringList{"volts", "amps", "state", "error"} << false;
    }
    void a_load_that_says_little_is_off_by_what_it_says() {
        QFETCH(QStringList, without);
        QFETCH(bool, knowsState);
        Trial t(
            true,
            [&](bench::Plan& p) {
                for (const QString& action : without)
                    p.instruments.at("load").profile.scpi[action.toStdString()] = "";
            },
            [&](FakeBench& b) { b.knowsState = knowsState; });
        QTRY_VERIFY_WITH_TIMEOUT(t.flows(), 15000);
        QTest::qWait(6000); // longer than a load may be unheard that can be asked
        QVERIFY2(t.endedAt < 0, t.outcome.stop.why.c_str());
        t.session.stop();
        QTRY_VERIFY_WITH_TIMEOUT(t.endedAt >= 0, 10000);
        QVERIFY(!t.bench.on && t.outcome.stillOn.empty() && !t.claimedFalsely);
    }
    // Invariant 3: told again until it obeys, and the run is over only then.
    void a_load_that_refuses_is_told_until_it_obeys() {
        Trial t;
        QTRY_VERIFY_WITH_TIMEOUT(t.flows(), 15000);
        t.bench.load.fail(Fault::Refuses);
        t.session.stop();
        QTRY_VERIFY_WITH_TIMEOUT(t.saidOnAt >= 0, 6000);
        QVERIFY(QString::fromStdString(t.session.progress().doing).contains("STILL ON"));
        QTest::qWait(3000); // all was written down long ago
        QVERIFY(t.endedAt < 0 && t.bench.on);
        t.bench.load.fail(Fault::None);
        QTRY_VERIFY_WITH_TIMEOUT(t.endedAt >= 0, 5000);
        QVERIFY(!t.bench.on && t.outcome.stillOn.empty());
        const auto marks = t.book.book->run(t.outcome.run)->marks;
        QVERIFY(std::any_of(marks.begin(), marks.end(),
                            [](const auto& m) { return m.text.find("the load is still on") != std::string::npos; }));
    }
    void a_program_that_must_end_says_that_the_load_is_on() {
        auto t = std::make_unique<Trial>();
        QTRY_VERIFY_WITH_TIMEOUT(t->flows(), 15000);
        t->bench.load.fail(Fault::Refuses);
        QElapsedTimer took;
        took.start();
        t->session.end();
        QVERIFY(took.elapsed() < 4000);
        QVERIFY(t->book.book->run(1)->stopped.size() > 0);
    }
    // Invariant 5, for sensors that speak.
    void a_thermometer_that_jumps_down_stops_the_run() {
        Trial t(true, {}, [](FakeBench& b) { b.meterSaysHeat = false; });
        QTRY_VERIFY_WITH_TIMEOUT(t.flows(), 15000);
        QTest::qWait(1500);
        t.bench.celsius = 2.0; // its plug hangs loose
        t.hurtAt = t.bench.clock.elapsed();
        QTRY_VERIFY_WITH_TIMEOUT(t.endedAt >= 0, 10000);
        QVERIFY2(t.outcome.stop.kind == bench::StopKind::SensorLost, t.outcome.stop.why.c_str());
        QVERIFY2(QString::fromStdString(t.outcome.stop.why).contains("jumped"), t.outcome.stop.why.c_str());
        QVERIFY(*t.safeAfter() <= static_cast<qint64>(kSilent * 1000.0) + 2000);
    }
    void without_any_thermometer_it_is_said() {
        Trial t(
            true, [](bench::Plan& p) { p.instruments.erase("thermometer"); },
            [](FakeBench& b) { b.meterSaysHeat = false; });
        QTRY_VERIFY_WITH_TIMEOUT(t.flows(), 15000);
        t.session.stop();
        QTRY_VERIFY_WITH_TIMEOUT(t.endedAt >= 0, 10000);
        const auto marks = t.book.book->run(t.outcome.run)->marks;
        QVERIFY(std::any_of(marks.begin(), marks.end(),
                            [](const auto& m) { return m.text.find("limit is not watched") != std::string::npos; }));
    }
    // Invariant 7: a stranger's recipe.
    void what_load_port_and_cable_bear_is_not_exceeded_data() {
        QTest::addColumn<double>("amps");
        QTest::addColumn<double>("loadMost");
        QTest::addColumn<double>("cable");
        QTest::addColumn<QString>("says"); // empty: it begins
        QTest::newRow("as printed") << 2.4 << 30.0 << 3.0 << "";
        QTest::newRow("twice as printed") << 4.8 << 30.0 << 5.0 << "";
        QTest::newRow("fifty amperes") << 50.0 << 30.0 << 5.0 << "the load bears 30 A";
        QTest::newRow("more than the port") << 6.0 << 30.0 << 10.0 << "prints 2.4 A";
        QTest::newRow("more than the load") << 2.4 << 2.0 << 5.0 << "the load bears 2 A";
        QTest::newRow("more than the cable") << 3.5 << 30.0 << 3.0 << "the cable bears 3 A";
    }
    void what_load_port_and_cable_bear_is_not_exceeded() {
        QFETCH(double, amps);
        QFETCH(double, loadMost);
        QFETCH(double, cable);
        QFETCH(QString, says);
        Trial t(true, [&](bench::Plan& p) {
            p.recipe.steps.front().level = amps;
            p.instruments.at("load").profile.most.amps = loadMost;
            p.cableAmps = cable;
        });
        if (says.isEmpty()) {
            QTRY_VERIFY_WITH_TIMEOUT(t.flows(), 15000);
            return;
        }
        QTRY_VERIFY_WITH_TIMEOUT(t.endedAt >= 0, 15000);
        QVERIFY2(QString::fromStdString(t.outcome.stop.why).contains(says), t.outcome.stop.why.c_str());
        QCOMPARE(t.bench.mostAsked.load(), 0.0);
    }
    void limits_that_are_missing_or_wild_are_the_house_s() {
        Trial t(true, [](bench::Plan& p) {
            p.limits.celsius = 1e9;
            p.limits.seconds = HUGE_VAL;
            p.limits.silentSeconds = 1e9;
        });
        QTRY_VERIFY_WITH_TIMEOUT(t.flows(), 15000);
        t.bench.celsius = 91.0;
        t.hurtAt = t.bench.clock.elapsed();
        QTRY_VERIFY_WITH_TIMEOUT(!t.bench.on, 3000);
        QVERIFY(*t.safeAfter() <= 1000 + kSlack);
    }
    // Invariant 8.
    void a_meter_and_a_load_that_disagree_stop_the_run() {
        Trial t(false, [](bench::Plan& p) {
            p.instruments.erase("thermometer");
        }); // a meter that is asked has no clock of its own
        QTRY_VERIFY_WITH_TIMEOUT(t.flows(), 15000);
        QTest::qWait(1000);
        t.bench.meter.fail(Fault::Stuck);
        QTest::qWait(500);
        t.bench.amps = 0.0; // the bank gives no more
        t.hurtAt = t.bench.clock.elapsed();
        QTRY_VERIFY_WITH_TIMEOUT(t.endedAt >= 0, 30000);
        QVERIFY2(QString::fromStdString(t.outcome.stop.why).contains("not what the load draws"),
                 t.outcome.stop.why.c_str());
    }
};

QTEST_GUILESS_MAIN(SafetyTest)
#include "safety_test.moc"
