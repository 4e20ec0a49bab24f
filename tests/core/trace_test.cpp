// C1, C2, C4, C5, C7: integrals, gaps, clocks, counters and phases.
#include <QTest>

#include <algorithm>
#include <cmath>

#include "core/trace/clock.h"
#include "core/trace/counters.h"
#include "core/trace/phases.h"
#include "traces.h"

using namespace otterstone;
using namespace otterstone::testing;
using trace::Trace;

namespace {

struct Worked {
    trace::Plateau plateau;
    double gap;
    trace::Totals totals;
};

Worked work(const Trace& t) {
    Worked w;
    w.gap = trace::gapThreshold(trace::medianStep(t.time));
    w.plateau = trace::findPlateau(t, w.gap);
    w.totals = trace::integrate(t, w.plateau, w.gap);
    return w;
}

trace::DrainPhases drainOf(const Trace& t) {
    const Worked w = work(t);
    return trace::drainPhases(t, w.plateau, {t, w.gap, w.totals});
}

trace::RechargePhases rechargeOf(const Trace& t) {
    const Worked w = work(t);
    return trace::rechargePhases(t, w.plateau, {t, w.gap, w.totals});
}

bool near(double a, double b, double relative = 1e-6) { return std::fabs(a - b) <= relative * std::fabs(b); }

} // namespace

class TraceTest : public QObject {
    Q_OBJECT

private Q_SLOTS:
    // Closed forms: integrals any calculus text gives.
    void a_constant_hour_is_exact() {
        Trace t;
        addLevel(t, 3601, 5.0, 2.0);
        const Worked w = work(t);
        QVERIFY(near(w.totals.wattHours, 10.0, 1e-12));
        QVERIFY(near(w.totals.ampHours, 2.0, 1e-12));
        QVERIFY(near(w.plateau.watts, 10.0, 1e-12));
    }
    void a_ramp_agrees_with_its_closed_form() {
        Trace t;
        add(
            t, 3601, 1.0, [](double) { return 5.0; }, [](double x) { return 1.0 + x / 3600.0; });
        QVERIFY(near(work(t).totals.wattHours, 7.5));
        Trace both; // volts and amps both ramp: ∫(5 − x)(1 + x) dx over an hour = 5 + 2 − 1/3
        add(
            both, 3601, 1.0, [](double x) { return 5.0 - x / 3600.0; }, [](double x) { return 1.0 + x / 3600.0; });
        QVERIFY(near(work(both).totals.wattHours, 5.0 + 2.0 - 1.0 / 3.0));
    }
    void an_exponential_taper_agrees_with_its_closed_form() {
        Trace t;
        add(
            t, 7201, 1.0, [](double) { return 9.0; }, [](double x) { return 2.0 * std::exp(-x / 1800.0); });
        QVERIFY(near(work(t).totals.wattHours, 9.0 * 2.0 * 0.5 * (1.0 - std::exp(-4.0))));
    }
    void uneven_steps_agree_with_the_closed_form() {
        Trace t;
        double x = 0.0;
        for (int k = 0; x < 3600.0; ++k, x += 0.2 + 0.15 * (k % 5)) {
            t.time.push_back(x);
            t.volts.push_back(5.0);
            t.amps.push_back(2.0 + std::sin(x / 600.0));
        }
        const double end = t.time.back();
        const double exact = 5.0 * (2.0 * end + 600.0 * (1.0 - std::cos(end / 600.0))) / 3600.0;
        QVERIFY(near(work(t).totals.wattHours, exact));
    }
    // Rows enough that a second core takes half of them: 100 times 50 minutes at 5 V 2 A and 10 minutes of nothing, a
    // reading of 4 A and a gap of 100 s, in either half. Sums of rectangles and of triangles at their ends, by hand.
    void many_rows_are_summed_as_few_are_data() {
        QTest::addColumn<int>("odd");
        QTest::newRow("in the first half") << 7;
        QTest::newRow("in the second half") << 93;
    }
    void many_rows_are_summed_as_few_are() {
        QFETCH(int, odd);
        constexpr std::size_t kOn = 6000, kOff = 1200;
        Trace t;
        for (int k = 0; k < 100; ++k) {
            for (std::size_t row = 0; row < kOn + kOff; ++row) {
                const bool jumps = k == odd && row == 3000;
                t.time.push_back(t.time.empty() ? 0.0 : t.time.back() + (jumps ? 100.0 : 0.5));
                t.volts.push_back(5.0);
                t.amps.push_back(row >= kOn ? 0.0 : k == odd && row == 1000 ? 4.0 : 2.0);
            }
        }
        const Worked w = work(t);
        const double steady = 100.0 * (kOn - 1) * 0.5 * 10.0, edges = 199.0 * 0.5 * 5.0;
        QVERIFY(near(w.totals.wattHours, (steady + edges + 0.5 * 10.0 + 99.5 * 10.0) / 3600.0, 1e-9));
        QVERIFY(near(w.totals.squareAmpHours,
                     (100.0 * (kOn - 1) * 0.5 * 4.0 + 199.0 * 0.5 * 2.0 + 0.5 * 12.0 + 99.5 * 4.0) / 3600.0, 1e-9));
        QVERIFY(near(w.totals.hours, t.span() / 3600.0, 1e-9));
        QCOMPARE(w.totals.peakWatts, 20.0);
        QCOMPARE(w.totals.gaps.size(), std::size_t(1));
        QCOMPARE(w.totals.switches.size(), std::size_t(200));
        for (std::size_t k = 0; k < 200; ++k)
            QCOMPARE(w.totals.switches[k], k / 2 * (kOn + kOff) + (k % 2) * kOn);
    }
    void squares_are_not_the_mean_squared() {
        Trace t; // B2: ∫I² dt of half an hour at 1 A and half at 3 A is 5 A²h, not the mean's 4
        addLevel(t, 1800, 5.0, 1.0);
        addLevel(t, 1801, 5.0, 3.0);
        QVERIFY(near(work(t).totals.squareAmpHours, 5.0, 1e-3));
    }

    void a_gap_of_a_minute_is_estimated_from_both_sides_data() {
        QTest::addColumn<double>("after"); // amps after the gap
        QTest::newRow("same level") << 2.0;
        QTest::newRow("within 20 %") << 1.7;
        QTest::newRow("beyond 20 %") << 1.5;
        QTest::newRow("off on the other side") << 0.0;
    }
    void a_gap_of_a_minute_is_estimated_from_both_sides() {
        QFETCH(double, after);
        Trace t;
        addLevel(t, 600, 5.0, 2.0);
        const double gapFrom = t.time.back();
        for (int k = 0; k < 600; ++k) {
            t.time.push_back(gapFrom + 60.0 + k);
            t.volts.push_back(5.0);
            t.amps.push_back(after);
        }
        const Worked w = work(t);
        QCOMPARE(w.totals.gaps.size(), std::size_t(1));
        QCOMPARE(w.totals.gaps[0].from, gapFrom);
        QCOMPARE(w.totals.gaps[0].to, gapFrom + 60.0);
        QVERIFY(w.totals.gaps[0].bridged);
        const double across = 5.0 * (2.0 + after) / 2.0 * 60.0 / 3600.0;
        QVERIFY(near(w.totals.gaps[0].wattHours, across, 1e-9));
        const double without = 5.0 * (2.0 + after) * 599.0 / 3600.0;
        QVERIFY(near(w.totals.wattHours, without + across, 1e-9));
        QVERIFY(std::fabs(w.totals.gaps[0].uWattHours - 5.0 * (2.0 - after) / 2.0 / std::sqrt(3.0) * 60.0 / 3600.0) <
                1e-9); // the whole range between the sides
    }
    void steps_up_to_five_medians_are_no_gap() {
        Trace t;
        addLevel(t, 6000, 5.0, 2.0, 60.0); // one sample a minute
        QVERIFY(work(t).totals.gaps.empty());
    }

    void a_clock_that_steps_back_is_mended() {
        trace::Column time;
        for (int k = 0; k < 50; ++k)
            time.push_back(k);
        for (int k = 0; k < 50; ++k)
            time.push_back(10.0 + k); // 40 s lost
        const auto repairs = trace::repairClock(time);
        QVERIFY(repairs.has_value());
        QCOMPARE(repairs->size(), std::size_t(1));
        QCOMPARE((*repairs)[0].row, std::size_t(50));
        for (std::size_t k = 0; k < time.size(); ++k)
            QCOMPARE(time[k], static_cast<double>(k));
    }
    // Readings that share their second have no step: what is mended begins where the row before stands, to the last
    // digit.
    void a_mended_clock_never_falls_short_by_a_rounding() {
        for (int k = 1; k < 400; ++k) {
            trace::Column time;
            for (const double at : {0.1 * k, 0.137 * k, 0.33 * std::fmod(0.1 * k, 7.0)})
                time.insert(time.end(), 4, at);
            if (const auto repairs = trace::repairClock(time); repairs && !repairs->empty())
                QVERIFY2(std::ranges::is_sorted(time), qPrintable(QString::number(k)));
        }
    }
    void a_shuffled_clock_is_refused_and_left_alone() {
        trace::Column time;
        for (int k = 0; k < 100; ++k)
            time.push_back((k * 37) % 100);
        const trace::Column before = time;
        QVERIFY(!trace::repairClock(time).has_value());
        QVERIFY(time == before);
    }
    void a_step_back_without_rhythm_is_refused() {
        trace::Column time = {0, 1, 2, 3, 4, 5, 1};
        QVERIFY(!trace::repairClock(time).has_value());
    }

    void a_clock_is_compared_with_a_stopwatch_data() {
        QTest::addColumn<QString>("text");
        QTest::addColumn<double>("factor"); // 0: refused
        QTest::addColumn<double>("u");
        QTest::newRow("factor") << "0.94" << 0.94 << 0.0;
        QTest::newRow("factor with its interval") << "1,06 ± 0,002" << 1.06 << 0.001;
        QTest::newRow("interval in ASCII") << "1.06 +/- 0.002" << 1.06 << 0.001;
        QTest::newRow("both spans") << "1h / 56 min 36 s" << 3600.0 / 3396.0 << 0.3 * std::sqrt(2.0) / 3396.0;
        QTest::newRow("in seconds") << "600/590" << 600.0 / 590.0 << 0.3 * std::sqrt(2.0) / 590.0;
        QTest::newRow("zero") << "0" << 0.0 << 0.0;
        QTest::newRow("divided by nothing") << "600/0" << 0.0 << 0.0;
        QTest::newRow("words") << "slow" << 0.0 << 0.0;
    }
    void a_clock_is_compared_with_a_stopwatch() {
        QFETCH(QString, text);
        QFETCH(double, factor);
        QFETCH(double, u);
        const auto read = trace::parseClockFactor(text.toStdString(), "clock",
                                                  ErrorSource::ofInstrument("meter", "clock comparison"));
        QCOMPARE(read.has_value(), factor > 0.0);
        if (read) {
            QVERIFY(std::fabs(read->value() - factor) < 1e-12);
            QVERIFY(std::fabs(read->u() - u) < 1e-12);
        }
    }

    void counters_know_resets() {
        QCOMPARE(*trace::counted({0.0, 1.0, 2.0, 2.5}), 2.5);
        QCOMPARE(*trace::counted({5.0, 6.0, 0.0, 1.5}), 2.5); // reset to zero, then 1.5 more
        QCOMPARE(*trace::counted({5.0, NAN, 6.0}), 1.0);
        QVERIFY(!trace::counted({5.0}).has_value());
    }

    void phases_of_a_recharge() {
        const Trace t = recharge();
        const auto p = rechargeOf(t);
        QVERIFY(std::fabs(*p.start - 19.5) < 1e-9); // somewhere in the step before the first reading of power
        // The taper crosses 90 % at 1200·ln(1/0.9) = 126.4 s, and 5 % at 1200·ln 20 = 3594.9 s.
        QVERIFY(std::fabs(*p.taperStart - (20 + 3600 + 126.4)) < 2.0);
        QVERIFY(std::fabs(*p.end - (20 + 3600 + 3594.9)) < 2.0);
        QStringList names;
        double sum = 0.0;
        for (const auto& phase : p.phases) {
            names << QString::fromStdString(trace::phaseName(phase.kind));
            sum += phase.wattHours;
        }
        QCOMPARE(names, QStringList({"idle", "bulk", "taper", "idle"}));
        QVERIFY(near(sum, work(t).totals.wattHours, 1e-9)); // the phases hold all of it
        // Half of 18 + 18/3·(1 − e^(−2.9958)) = 23.7 Wh is in after 11.85/18 h.
        QVERIFY(std::fabs(p.reached[0].at - (20 + 3600 * 11.85 / 18.0)) < 2.0);
    }
    void a_spike_is_no_plateau() {
        Trace t = recharge();
        trace::Column amps = t.amps.part(0, t.size());
        for (std::size_t k = 100; k < 120; ++k)
            amps[k] = 6.0;
        t.amps = trace::Readings(amps);
        QVERIFY(near(work(t).plateau.watts, 18.0, 1e-3));
        QVERIFY(near(work(t).totals.peakWatts, 54.0));
    }
    void a_throttle_is_named_and_no_taper() {
        Trace t;
        addLevel(t, 1800, 9.0, 2.0);
        addLevel(t, 90, 9.0, 0.3);
        addLevel(t, 1800, 9.0, 2.0);
        add(
            t, 3600, 1.0, [](double) { return 9.0; }, [](double x) { return 2.0 * std::exp(-x / 1200.0); });
        addLevel(t, 900, 9.0, 0.01);
        const auto p = rechargeOf(t);
        QCOMPARE(p.throttles.size(), std::size_t(1));
        QVERIFY(std::fabs(p.throttles[0].from - 1800.0) < 2.0);
        QVERIFY(std::fabs(p.throttles[0].length() - 90.0) < 2.0);
        QVERIFY(*p.taperStart > 3600.0);
    }
    void a_log_that_stops_in_the_taper_has_no_end() {
        Trace t;
        addLevel(t, 1800, 9.0, 2.0);
        add(
            t, 900, 1.0, [](double) { return 9.0; }, [](double x) { return 2.0 * std::exp(-x / 1200.0); });
        QVERIFY(!rechargeOf(t).end.has_value());
    }

    void how_a_drain_ended_data() {
        QTest::addColumn<double>("lastAmps");
        QTest::addColumn<double>("voltsAfter"); // negative: the log ends under load
        QTest::addColumn<int>("ended");
        QTest::newRow("volts gone: cut-off") << 2.0 << 0.0 << static_cast<int>(trace::EndedBy::CutOff);
        QTest::newRow("volts still there: the tester") << 2.0 << 5.1 << static_cast<int>(trace::EndedBy::User);
        QTest::newRow("more current, then nothing") << 3.2 << 0.0 << static_cast<int>(trace::EndedBy::OverCurrent);
        QTest::newRow("the log ends") << 2.0 << -1.0 << static_cast<int>(trace::EndedBy::Unknown);
    }
    void how_a_drain_ended() {
        QFETCH(double, lastAmps);
        QFETCH(double, voltsAfter);
        QFETCH(int, ended);
        Trace t;
        addLevel(t, 30, 5.1, 0.0);
        addLevel(t, 3600, 5.0, 2.0);
        addLevel(t, 5, 4.95, lastAmps);
        if (voltsAfter >= 0.0)
            addLevel(t, 60, voltsAfter, 0.0);
        const auto d = drainOf(t);
        QCOMPARE(static_cast<int>(d.endedBy), ended);
        QCOMPARE(*d.on, 30.0);
        QCOMPARE(d.off.has_value(), voltsAfter >= 0.0);
        QVERIFY(std::fabs(d.activeSeconds - 3605.0) <= 1.0);
    }
    void interruptions_longer_than_a_second_are_listed() {
        Trace t;
        addLevel(t, 600, 5.0, 2.0, 0.5);
        addLevel(t, 0.5, 5.0, 0.0, 0.5); // a blink
        addLevel(t, 600, 5.0, 2.0, 0.5);
        addLevel(t, 30, 0.0, 0.0, 0.5);
        addLevel(t, 600, 5.0, 2.0, 0.5);
        const auto d = drainOf(t);
        QCOMPARE(d.interruptions.size(), std::size_t(1));
        QVERIFY(std::fabs(d.interruptions[0].length() - 30.0) <= 1.0);
    }
    void a_lasting_step_of_the_volts_is_a_tier_change() {
        Trace t;
        addLevel(t, 300, 9.0, 2.0);
        addLevel(t, 3, 5.0, 2.0); // a glitch
        addLevel(t, 300, 9.0, 2.0);
        addLevel(t, 300, 5.0, 2.0);
        const auto changes = drainOf(t).tierChanges;
        QCOMPARE(changes.size(), std::size_t(1));
        QVERIFY(std::fabs(changes[0].at - 603.0) <= 1.0);
        QVERIFY(near(changes[0].fromVolts, 9.0, 0.01) && near(changes[0].toVolts, 5.0, 0.01));
    }

    void a_crop_interpolates_its_ends() {
        Trace t;
        add(
            t, 11, 1.0, [](double) { return 5.0; }, [](double x) { return x; });
        const Trace part = trace::cropped(t, 2.5, 7.25);
        QCOMPARE(part.time.front(), 2.5);
        QCOMPARE(part.amps[0], 2.5);
        QCOMPARE(part.time.back(), 7.25);
        QCOMPARE(part.amps.back(), 7.25);
        QCOMPARE(trace::cropped(t, 3.2, 3.7).size(), std::size_t(2)); // between two samples
        QCOMPARE(trace::cropped(t, 50.0, 60.0).size(), std::size_t(0));
    }
    // Of ten thousand readings one is none: it is found wherever it stands, in digits as in doubles, and named.
    void what_no_bench_reads_is_named_data() {
        QTest::addColumn<QString>("column");
        QTest::addColumn<double>("reading");
        QTest::addColumn<QString>("said");
        QTest::newRow("sound") << "volts" << 5.1 << QString();
        QTest::newRow("no volts") << "volts" << qQNaN() << "no bench reads such volts";
        QTest::newRow("endless volts") << "volts" << qInf() << "no bench reads such volts";
        QTest::newRow("a million volts can be written") << "volts" << 1e6 << QString();
        QTest::newRow("more cannot be") << "volts" << -1.1e6 << "no bench reads such volts";
        QTest::newRow("no digits") << "digits" << qQNaN() << "no bench reads such amperes";
        QTest::newRow("digits of a million amperes") << "digits" << 1e6 << QString();
        QTest::newRow("digits of more") << "digits" << 2e6 << "no bench reads such amperes";
        QTest::newRow("digits of more, backwards") << "digits" << -2e6 << "no bench reads such amperes";
        QTest::newRow("no time") << "time" << qQNaN() << "its time is none";
        QTest::newRow("time steps back") << "time" << -1.0 << "time steps back";
        QTest::newRow("times at one moment") << "same time" << 0.0 << QString();
    }
    void what_no_bench_reads_is_named() {
        QFETCH(QString, column);
        QFETCH(double, reading);
        QFETCH(QString, said);
        constexpr std::size_t kCount = 10'000;
        for (const std::size_t at : {std::size_t(1), std::size_t(4095), std::size_t(4096), kCount - 1}) {
            Trace t;
            trace::Column volts(kCount, 5.0);
            trace::Digits amps(kCount, 1500);
            for (std::size_t k = 0; k < kCount; ++k)
                t.time.push_back(0.1 * static_cast<double>(k));
            if (column == "volts")
                volts[at] = reading;
            else if (column == "digits")
                amps[at] = std::isnan(reading) ? trace::kNoDigits : static_cast<std::int32_t>(reading * 1e3);
            else
                t.time[at] = column == "time" ? reading : t.time[at - 1];
            t.volts = trace::Readings(std::move(volts));
            t.amps = trace::Readings(std::move(amps), 1e3);
            const auto odd = trace::unsound(t);
            QCOMPARE(odd.has_value(), !said.isEmpty());
            const auto row = QStringLiteral("row %1 of the trace: ").arg(at + 1);
            QVERIFY2(!odd || QString::fromStdString(*odd) == row + said, odd ? odd->c_str() : "");
        }
    }
    void digits_and_doubles_read_alike() {
        trace::Digits digits;
        trace::Readings doubles;
        for (int k = -50; k < 50; ++k) {
            digits.push_back(k * 7919);
            doubles.push_back(static_cast<double>(k * 7919) / 1e4);
        }
        trace::Readings compact(std::move(digits), 1e4);
        for (std::size_t k = 0; k < compact.size(); ++k)
            QCOMPARE(compact[k], doubles[k]);
        compact.negate();
        QCOMPARE(compact[3], -doubles[3]);
        compact.push_back(0.123456789); // has too many digits: all become doubles, none changes
        QCOMPARE(compact[3], -doubles[3]);
        QCOMPARE(compact.back(), 0.123456789);
    }
};

QTEST_APPLESS_MAIN(TraceTest)
#include "trace_test.moc"
