// When a run stops, where its readings stand in time, and when it is predicted to end: the live bench's judgement
// without instruments.
#include <QTest>

#include <cmath>

#include "bench/runner/bench_clock.h"
#include "bench/runner/progress.h"
#include "bench/runner/stops.h"
#include "bench/runner/time_keeper.h"

using namespace otterstone;
using namespace otterstone::bench;

namespace {

double awakeNow = 100.0, alwaysNow = 500.0;
const SystemClocks kFake{[] { return awakeNow; }, [] { return alwaysNow; }};

Limits limits() {
    Limits l;
    l.lowVolts = 4.0;
    l.highVolts = 5.75;
    return l;
}

} // namespace

class StopsTest : public QObject {
    Q_OBJECT

private Q_SLOTS:
    // A thermometer on a bank that warms from 25 °C by half a kelvin a minute, asked every second; from a moment on it
    // says something else. When does the run stop, and what is said of it?
    void a_thermometer_that_guards_no_more_data() {
        QTest::addColumn<double>("digit"); // of its display
        QTest::addColumn<double>("watts");
        QTest::addColumn<double>("from");    // s
        QTest::addColumn<double>("says");    // from then on; NaN: nothing; 0: what it last said; else °C
        QTest::addColumn<double>("stopsAt"); // -1: never, in three hours
        QTest::addColumn<QString>("because");
        const double nothing = std::nan("");
        const auto row = [](const char* name, double digit, double watts, double from, double says, double at,
                            const char* why) {
            QTest::newRow(name) << digit << watts << from << says << at << QString::fromUtf8(why);
        };
        row("all well", 0.1, 5.0, 1e9, 0.0, -1.0, "");
        row("it falls silent", 0.1, 5.0, 600.0, nothing, 604.0, "has said nothing for");
        row("it falls silent while nothing flows", 0.1, 0.0, 600.0, nothing, 604.0, "has said nothing for");
        row("its plug hangs loose: 0.2 °C", 0.1, 5.0, 600.0, 0.2, 601.0, "jumped from");
        row("it fell off: 16 K at once", 0.1, 5.0, 1920.0, 25.0, 1921.0, "jumped from");
        row("it jumps by 11 K", 0.1, 5.0, 60.0, 36.5, 61.0, "jumped from");
        row("it is laid on better: 6 K at once", 0.1, 5.0, 60.0, 31.5, -1.0, ""); // believed
        row("hundredths that stand still", 0.01, 5.0, 600.0, 0.0, 1199.0, "stuck");
        row("hundredths that stand still, nothing flows", 0.01, 0.0, 600.0, 0.0, -1.0, "");
        row("tenths that stand still after they moved", 0.1, 5.0, 600.0, 0.0, -1.0,
            ""); // a bank that has settled looks so
        row("it never moved at all", 0.1, 5.0, 0.0, 25.0, 3600.0, "stuck");
        row("it never moved, nothing flows", 0.1, 0.0, 0.0, 25.0, -1.0, "");
    }
    void a_thermometer_that_guards_no_more() {
        QFETCH(double, digit);
        QFETCH(double, watts);
        QFETCH(double, from);
        QFETCH(double, says);
        QFETCH(double, stopsAt);
        QFETCH(QString, because);
        HeatWatch watch;
        watch.expect("the thermometer", 0.0, 5.0);
        double stopped = -1.0, last = 25.0;
        std::string why;
        for (double t = 0.0; t <= 10'800.0 && stopped < 0.0; t += 1.0) {
            watch.flowing(watts, t);
            if (t < from)
                last = std::round((25.0 + t / 120.0) / digit) * digit;
            const double said = t < from || says == 0.0 ? last : says;
            if (!std::isnan(said))
                (void)watch.believable("the thermometer", said, t);
            if (const auto broken = watch.broken(t)) {
                stopped = t;
                why = *broken;
            }
        }
        QVERIFY2(std::abs(stopped - stopsAt) <= 2.0, qPrintable(QString::number(stopped) + why.c_str()));
        QVERIFY2(QString::fromStdString(why).contains(because), why.c_str());
    }
    // One load of 1 A at 5 V; from t = 10 on something else is read every second. When is it stopped, and why?
    void readings_stop_a_run_data() {
        QTest::addColumn<double>("volts");
        QTest::addColumn<double>("amps");
        QTest::addColumn<double>("celsius");
        QTest::addColumn<double>("stopsAt"); // -1: never
        QTest::addColumn<int>("kind");
        const auto row = [](const char* name, double v, double i, double c, double at, StopKind kind) {
            QTest::newRow(name) << v << i << c << at << int(kind);
        };
        row("all well", 4.95, 1.0, 30.0, -1.0, StopKind::Done);
        row("off", 0.0, 0.0, 30.0, 13.0, StopKind::CutOff);                               // invariant 3: three seconds
        row("volts stay, current gone", 4.9, 0.01, 30.0, 13.0, StopKind::InstrumentLost); // invariant 4
        row("a little less current", 4.9, 0.8, 30.0, -1.0, StopKind::Done);
        row("too hot, at once", 4.95, 1.0, 60.0, 10.0, StopKind::Temperature); // invariant 1
        row("hot, but below", 4.95, 1.0, 59.9, -1.0, StopKind::Done);
        row("sags out of the window", 3.9, 1.0, 30.0, 10.0, StopKind::VoltageWindow);
        row("rises out of the window", 9.0, 1.0, 30.0, 10.0, StopKind::VoltageWindow);
        row("rises out of the window with nothing drawn", 30.0, 0.0, 30.0, 10.0, StopKind::VoltageWindow);
        row("at the window's edge", 4.0, 1.0, 30.0, -1.0, StopKind::Done);
        row("hot and off: heat first", 0.0, 0.0, 61.0, 10.0, StopKind::Temperature);
    }
    void readings_stop_a_run() {
        QFETCH(double, volts);
        QFETCH(double, amps);
        QFETCH(double, celsius);
        QFETCH(double, stopsAt);
        QFETCH(int, kind);
        Stops stops(limits(), "cut-off");
        stops.start(0.0);
        stops.expect(1.0, 0.0);
        stops.watchFor(true, false, false, 0.0);
        std::optional<Stop> stop;
        double t = 0.0;
        for (; t < 100.0 && !stop; t += 1.0)
            stop = t < 10.0 ? stops.reading({4.95, 1.0, 25.0}, t) : stops.reading({volts, amps, celsius}, t);
        QCOMPARE(stop.has_value(), stopsAt >= 0.0);
        if (stop) {
            QCOMPARE(t - 1.0, stopsAt);
            QCOMPARE(int(stop->kind), kind);
            QVERIFY(!stop->why.empty() && !stop->why.ends_with('.'));
        }
    }
    // Where no window is set: how many volts may stay for it to be the bank that ended it?
    void what_is_left_tells_the_bank_from_its_load_data() {
        QTest::addColumn<double>("volts");
        QTest::addColumn<int>("kind");
        QTest::newRow("nothing") << 0.0 << int(StopKind::CutOff);
        QTest::newRow("what a capacitor holds") << 1.4 << int(StopKind::CutOff);
        QTest::newRow("just below") << 0.79 * 9.0 << int(StopKind::CutOff);
        QTest::newRow("just above") << 0.81 * 9.0 << int(StopKind::InstrumentLost);
        QTest::newRow("more than under load") << 9.2 << int(StopKind::InstrumentLost);
    }
    void what_is_left_tells_the_bank_from_its_load() {
        QFETCH(double, volts);
        QFETCH(int, kind);
        Stops stops(Limits{}, "cut-off");
        stops.start(0.0);
        stops.expect(2.0, 0.0);
        stops.watchFor(true, false, false, 0.0);
        std::optional<Stop> stop;
        for (double t = 0.0; t < 60.0 && !stop; t += 1.0)
            stop = t < 20.0 ? stops.reading({9.0, 2.0, {}}, t) : stops.reading({volts, 0.0, {}}, t);
        QVERIFY(stop);
        QCOMPARE(int(stop->kind), kind);
        QCOMPARE(isOrderly(stop->kind), kind == int(StopKind::CutOff));
    }
    void a_pause_of_the_socket_is_no_cut_off() {
        Stops stops(limits(), "cut-off");
        stops.start(0.0);
        stops.expect(1.0, 0.0);
        stops.watchFor(true, false, false, 0.0);
        for (double t = 0.0; t < 60.0; t += 0.5) {
            const bool pause = std::fmod(t, 10.0) >= 7.5; // 2.5 s of every 10
            QVERIFY(!stops.reading({pause ? 0.0 : 5.0, pause ? 0.0 : 1.0, {}}, t));
        }
    }
    void nothing_is_judged_while_nothing_is_drawn() {
        Stops stops(limits(), "cut-off");
        stops.start(0.0);
        stops.watchFor(true, false, false, 0.0);
        for (double t = 0.0; t < 60.0; t += 1.0)
            QVERIFY(!stops.reading({0.0, 0.0, {}}, t));
    }
    void a_load_that_never_drew_is_not_taken_for_an_empty_bank() {
        Stops stops(limits(), "cut-off");
        stops.start(0.0);
        stops.expect(1.0, 0.0);
        stops.watchFor(true, false, false, 0.0);
        std::optional<Stop> stop;
        for (double t = 0.0; t < 60.0 && !stop; t += 1.0)
            stop = stops.reading({5.1, 0.0, {}}, t);
        QVERIFY(stop && stop->kind == StopKind::InstrumentLost);
    }
    // A staircase trips at a step that never drew: what flowed on the step before counts.
    void a_load_that_is_raised_until_it_trips_has_tripped() {
        bench::Stops stops({}, "trip");
        stops.start(0.0);
        stops.watchFor(true, false, false, 0.0);
        stops.expect(3.0, 0.0);
        for (double t = 1.0; t < 10.0; t += 1.0)
            QVERIFY(!stops.reading({5.0, 3.0, {}}, t));
        stops.expect(3.2, 10.0);
        std::optional<bench::Stop> stop;
        for (double t = 10.5; t < 20.0 && !stop; t += 1.0)
            stop = stops.reading({0.0, 0.0, {}}, t);
        QVERIFY(stop && stop->kind == bench::StopKind::CutOff);
    }
    void it_is_called_what_the_recipe_calls_it_data() {
        QTest::addColumn<QString>("means");
        QTest::addColumn<QString>("says");
        QTest::newRow("cut-off") << "cut-off"
                                 << "switched its output off";
        QTest::newRow("trip") << "trip"
                              << "tripped";
        QTest::newRow("auto-off") << "auto-off"
                                  << "at this small load";
    }
    void it_is_called_what_the_recipe_calls_it() {
        QFETCH(QString, means);
        QFETCH(QString, says);
        Stops stops(limits(), means.toStdString());
        stops.start(0.0);
        stops.expect(1.0, 0.0);
        stops.watchFor(true, false, false, 0.0);
        std::optional<Stop> stop;
        for (double t = 0.0; t < 60.0 && !stop; t += 1.0)
            stop = stops.reading({t < 20.0 ? 5.0 : 0.0, t < 20.0 ? 1.0 : 0.0, {}}, t);
        QVERIFY(stop && QString::fromStdString(stop->why).contains(says));
    }
    void silence_and_time_stop_it() {
        Stops stops(limits(), "cut-off");
        stops.start(0.0);
        (void)stops.reading({5.0, 0.0, {}}, 10.0);
        QVERIFY(!stops.tick(14.9));
        const auto silent = stops.tick(15.0); // invariant 2
        QVERIFY(silent && silent->kind == StopKind::Silent);
        stops.listenAnew(15.0);
        QVERIFY(!stops.tick(19.9) && stops.tick(20.0));
        Limits l = limits();
        l.seconds = 100.0;
        Stops timed(l, "cut-off");
        timed.start(0.0);
        (void)timed.reading({5.0, 0.0, {}}, 99.5);
        QVERIFY(!timed.tick(99.9));
        QVERIFY(timed.tick(100.0)->kind == StopKind::Time);
    }
    // The house's school: below 5 % of the peak for ten minutes.
    void a_taper_ends_when_it_stayed_low_data() {
        QTest::addColumn<double>("share");
        QTest::addColumn<double>("endsAfter"); // seconds from the fall; -1: never
        QTest::newRow("4 %") << 0.04 << 600.0;
        QTest::newRow("6 %") << 0.06 << -1.0;
    }
    void a_taper_ends_when_it_stayed_low() {
        QFETCH(double, share);
        QFETCH(double, endsAfter);
        Stops stops(limits(), "cut-off");
        stops.start(0.0);
        stops.watchFor(false, true, false, 0.0);
        std::optional<Stop> stop;
        double t = 0.0;
        for (; t < 4000.0 && !stop; t += 1.0) {
            const bool blip = t > 1200.0 && t < 1210.0; // comes back once: the ten minutes begin anew
            const double amps = t < 1000.0 || blip ? 2.0 : 2.0 * share;
            stop = stops.reading({5.0, amps, {}}, t);
        }
        QCOMPARE(stop.has_value(), endsAfter >= 0.0);
        if (stop) {
            QVERIFY(stop->kind == StopKind::TaperEnd);
            QCOMPARE(t - 1.0, 1210.0 + endsAfter);
        }
    }
    void a_temperature_has_settled_when_it_hardly_moves() {
        Stops stops(limits(), "cut-off");
        stops.start(0.0);
        stops.watchFor(false, false, true, 0.0);
        double at = -1.0;
        for (double t = 0.0; t < 20000.0 && at < 0.0; t += 5.0) {
            if (const auto stop = stops.temperature(20.0 + 12.0 * (1.0 - std::exp(-t / 900.0)), t)) {
                QVERIFY(stop->kind == StopKind::Settled);
                at = t;
            }
        }
        // 12·e^(−t/900)·(1 − e^(−600/900)) = 0.5 a window's length earlier: t = 900·ln(12·0.4866/0.5) + 600.
        QVERIFY2(std::fabs(at - (900.0 * std::log(12.0 * (1.0 - std::exp(-600.0 / 900.0)) / 0.5) + 600.0)) < 15.0,
                 qPrintable(QString::number(at)));
    }

    void a_meters_clock_is_laid_onto_the_run() {
        TimeKeeper k;
        QCOMPARE(k.place(1000.0, 50.0)->time, 0.0);
        QCOMPARE(k.place(1001.0, 51.2)->time, 1.0);
        QCOMPARE(k.place(1002.0, 51.3)->time,
                 2.0); // lines come in bursts: the meter's clock counts, not the moment they arrive
        QCOMPARE(k.at(51.8), 2.5);
    }
    void a_meter_without_a_clock_gets_the_benchs() {
        TimeKeeper k(7.0);
        QCOMPARE(k.place({}, 50.0)->time, 7.0);
        QCOMPARE(k.place({}, 51.5)->time, 8.5);
    }
    void a_clock_that_begins_anew_is_bridged_and_told() {
        TimeKeeper k;
        (void)k.place(500.0, 0.0);
        (void)k.place(501.0, 1.0);
        QVERIFY(!k.place(0.0, 3.0)); // alone it could be a spoiled line
        const auto second = k.place(1.0, 4.0);
        QVERIFY(second);
        QCOMPARE(second->time, 4.0);
        QVERIFY(!second->remark.empty());
        QCOMPARE(k.place(2.0, 5.0)->time, 5.0);
    }
    void one_spoiled_time_stamp_is_left_out() {
        TimeKeeper k;
        (void)k.place(500.0, 0.0);
        QVERIFY(!k.place(9501.0, 1.0));
        QCOMPARE(k.place(502.0, 2.0)->time, 2.0);
        QVERIFY(!k.place(2.0, 3.0));
        QCOMPARE(k.place(504.0, 4.0)->time, 4.0);
    }
    void a_slow_clock_is_told_once() {
        TimeKeeper k;
        int told = 0;
        for (double t = 0.0; t < 1000.0; t += 1.0) {
            const auto placed = k.place(0.94 * t, t);
            QVERIFY(placed);
            QCOMPARE(placed->time, 0.94 * t); // not corrected here: the gear's clock factor does that, for all its runs
            told += !placed->remark.empty();
        }
        QCOMPARE(told, 1);
    }
    void times_never_step_back_whatever_comes() {
        TimeKeeper k;
        unsigned seed = 1;
        double last = -1.0;
        for (int n = 0; n < 20000; ++n) {
            seed = seed * 1664525u + 1013904223u;
            const double stamp = seed % 7 == 0 ? static_cast<double>(seed % 100000) : n;
            if (const auto placed = k.place(stamp, n)) {
                QVERIFY(placed->time >= last);
                last = placed->time;
            }
        }
        QVERIFY(last > 0.0);
    }

    void a_sleeping_computer_is_noticed() {
        BenchClock clock(1.0, kFake);
        const double start = clock.now();
        awakeNow += 10.0;
        alwaysNow += 10.0;
        QCOMPARE(clock.now() - start, 10.0);
        QCOMPARE(clock.sleptSince(), 0.0);
        alwaysNow += 720.0; // asleep for 12 min: only one of the two goes on
        QCOMPARE(clock.now() - start, 730.0);
        QCOMPARE(clock.sleptSince(), 720.0);
        QCOMPARE(clock.sleptSince(), 0.0);
    }
    void a_rehearsals_clock_follows_its_bench_and_never_steps_back() {
        BenchClock clock(100.0, kFake);
        clock.sync(1000.0);
        awakeNow += 1.0;
        alwaysNow += 1.0;
        QCOMPARE(clock.now(), 1100.0);
        clock.sync(1050.0); // the bench was slower than promised
        QCOMPARE(clock.now(), 1100.0);
        awakeNow += 1.0;
        alwaysNow += 1.0;
        QCOMPARE(clock.now(), 1150.0);
    }

    void the_end_is_predicted_three_ways() {
        Forecast f(true, 15.0);
        for (double t = 0.0; t <= 3600.0; t += 1.0)
            f.reading(t, 5.0, t < 60.0 ? 0.0 : 1.0);
        QVERIFY(std::fabs(f.wattHours() - 5.0 * 3540.5 / 3600.0) < 1e-9);
        // 15 Wh at 5 W: three hours from the onset.
        QVERIFY(std::fabs(*f.ownEnd() - (60.0 + 3.0 * 3600.0)) < 2.0);
        QVERIFY(!f.displayEnd());
        f.mark({3660.0, records::Mark::What::Percent, 75.0, ""}); // a quarter in an hour: four hours in all
        QVERIFY(std::fabs(*f.displayEnd() - (60.0 + 4.0 * 3600.0)) < 2.0);
        f.mark({3660.0, records::Mark::What::Estimate, 7200.0, ""});
        QCOMPARE(*f.displayEnd(), 3660.0 + 7200.0);
        Forecast unknown(true, {});
        unknown.reading(0.0, 5.0, 1.0);
        QVERIFY(!unknown.ownEnd());
    }
};

QTEST_APPLESS_MAIN(StopsTest)
#include "stops_test.moc"
