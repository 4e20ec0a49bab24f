// C2, C5, C6, C8, D15 and the shared errors of two figures: what a log leaves open, told from the log itself.
#include <QTest>

#include <cmath>
#include <random>

#include "core/kinds/traced/finding.h"
#include "core/path/meter_errors.h"
#include "core/together/bank_findings.h"
#include "core/trace/blocks.h"
#include "core/trace/counters.h"
#include "core/trace/digits.h"
#include "core/trace/gaps.h"
#include "sources.h"
#include "traces.h"

using namespace otterstone;
using namespace otterstone::testing;
using records::Kind;
using setup::Setup;
using trace::Trace;

namespace {

Setup by(const char* accuracy, const char* run) {
    Setup s;
    s.meter = *path::parseMeter(accuracy, "");
    s.run = run;
    return s;
}

double betweenSamples(const Trace& t) {
    return trace::leftOpen(trace::blocksOf(t, 1e9), 0.0, 0.0, trace::Between::Joined).betweenWattHours;
}

bool about(double a, double b, double relative) { return std::fabs(a - b) <= relative * std::fabs(b); }

} // namespace

class DoubtTest : public QObject {
    Q_OBJECT

private Q_SLOTS:
    // Whose error it is.
    void errors_of_independent_runs_never_cancel() {
        Trace slow;
        addLevel(slow, 3600, 5.0, 2.0, 60.0);
        const auto a = kinds::analyse(slow, Kind::Drain, by("volts 0%, amps 0%", "1"));
        const auto b = kinds::analyse(slow, Kind::Drain, by("volts 0%, amps 0%", "2"));
        slow.amps = trace::Readings(slow.amps.part(0, slow.size()));
        Trace moving;
        addLevel(moving, 1800, 5.0, 2.0, 60.0);
        addLevel(moving, 1800, 5.0, 1.0, 60.0);
        const auto c = kinds::analyse(moving, Kind::Drain, by("volts 0%, amps 0%", "1"));
        const auto d = kinds::analyse(moving, Kind::Drain, by("volts 0%, amps 0%", "2"));
        QVERIFY(a && b && c && d);
        QVERIFY(c->wattHours.u() > 0.0);
        QVERIFY(
            about((c->wattHours / d->wattHours).u(), std::sqrt(2.0) * c->wattHours.u() / c->wattHours.value(), 1e-9));
        QVERIFY((c->wattHours / c->wattHours).u() < 1e-12); // one run's own errors do
    }
    void one_instrument_far_apart_shares_half_data() {
        QTest::addColumn<double>("volts");
        QTest::addColumn<double>("amps");
        QTest::addColumn<bool>("into");
        QTest::addColumn<double>("left"); // of one gain's u, in the ratio of both figures
        QTest::newRow("the same point") << 5.0 << 1.0 << false << 0.0;
        QTest::newRow("a little more current") << 5.02 << 1.1 << false << 0.0;
        QTest::newRow("three amperes at 20 V") << 20.0 << 3.0 << false << 1.0;
        QTest::newRow("charge against discharge") << 5.0 << 1.0 << true << 1.0;
    }
    void one_instrument_far_apart_shares_half() {
        QFETCH(double, volts);
        QFETCH(double, amps);
        QFETCH(bool, into);
        QFETCH(double, left);
        const Measured here = path::withInstrument(10.0, "meter", "amps gain", 0.05, {5.0, 1.0, false});
        const Measured there = path::withInstrument(10.0, "meter", "amps gain", 0.05, {volts, amps, into});
        QVERIFY(about(here.u(), 0.05, 1e-12) && about(there.u(), 0.05, 1e-12));
        QVERIFY(std::fabs((here / there).u() - left * 0.005) < 1e-12); // half of two equal variances is left: √(2·½)
        const Measured other = path::withInstrument(10.0, "other meter", "amps gain", 0.05, {volts, amps, into});
        QVERIFY(about((here / other).u(), 0.005 * std::sqrt(2.0), 1e-12));
        QCOMPARE(here.budget().size(), std::size_t(1)); // one line for a reader
    }
    void a_round_trip_through_one_meter_does_not_cancel() {
        Trace out, in = recharge();
        addLevel(out, 20, 5.1, 0.0);
        addLevel(out, 7200, 5.0, 1.5);
        addLevel(out, 60, 0.0, 0.0);
        const auto drained = kinds::analyse(out, Kind::Drain, by("volts 0.5%, amps 0.5%", "1"));
        const auto filled = kinds::analyse(in, Kind::Recharge, by("volts 0.5%, amps 0.5%", "2"));
        const Working trip = together::roundTripWorking(drained->portWattHours, filled->recharge->untilEndWattHours);
        const double gain = std::sqrt(2.0) * 0.005 / std::sqrt(3.0); // both gains, on either energy
        QVERIFY2(about(trip.value.u() / trip.value.value(), gain, 0.05),
                 qPrintable(QString::number(trip.value.u() / trip.value.value())));
        QVERIFY2(trip.note.find("half of the variance") != std::string::npos, trip.note.c_str());
        const auto extreme = [&](Common common) {
            return (asIf(drained->portWattHours, common, "out") /
                    asIf(filled->recharge->untilEndWattHours, common, "in"))
                .u();
        };
        QVERIFY(extreme(Common::All) < 0.1 * trip.value.u());
        QVERIFY(about(extreme(Common::None), std::sqrt(2.0) * gain * trip.value.value(), 0.05));
    }

    // C6.
    void a_steady_log_leaves_nothing_between_its_samples() {
        Trace t;
        addLevel(t, 3600, 5.0, 2.0, 10.0);
        QVERIFY(betweenSamples(t) < 1e-12);
    }
    void a_trend_leaves_next_to_nothing() {
        Trace t;
        add(
            t, 7200, 60.0, [](double) { return 9.0; }, [](double x) { return 2.0 * std::exp(-x / 1800.0); });
        QVERIFY2(betweenSamples(t) < 0.01, qPrintable(QString::number(betweenSamples(t)))); // of 8.8 Wh
    }
    void a_change_happened_once_within_its_step() {
        Trace t;
        addLevel(t, 3600, 5.0, 2.0, 60.0);
        addLevel(t, 3600, 5.0, 1.0, 60.0);
        QVERIFY(about(betweenSamples(t), 5.0 * 60.0 / 3600.0 / std::sqrt(12.0), 1e-6));
    }
    void noise_is_a_draw_a_sample() {
        std::mt19937 random(3);
        std::normal_distribution<double> scatter(2.0, 0.4);
        Trace t;
        add(
            t, 20000, 10.0, [](double) { return 5.0; }, [&](double) { return scatter(random); });
        const double expected = 5.0 * 0.4 * 10.0 / 3600.0 * std::sqrt(2000.0); // √n of them
        QVERIFY2(about(betweenSamples(t), expected, 0.15), qPrintable(QString::number(betweenSamples(t) / expected)));
    }

    // C8: digits.
    void readings_that_stand_share_their_rounding() {
        QVERIFY(about(trace::standingRounding(0.01, 0.0), 0.01 / std::sqrt(12.0), 1e-12));
        QVERIFY(trace::standingRounding(0.01, 0.005) < 1e-9);
        QVERIFY(trace::standingRounding(0.01, 0.003) < trace::standingRounding(0.01, 0.001));
    }
    void digits_count_on_a_steady_log() {
        Trace t;
        addLevel(t, 3600, 5.0, 1.0);
        t.voltsStep = t.ampsStep = 0.01;
        const auto f = kinds::analyse(t, Kind::Drain, by("volts 0%, amps 0%", "1"));
        QVERIFY(about(f->wattHours.u(), std::hypot(1.0, 5.0) * 0.01 / std::sqrt(12.0), 1e-3));
        const auto plus = kinds::analyse(t, Kind::Drain, by("volts 0%+2 digits, amps 0%+3 digits", "1"));
        QVERIFY(about(plus->wattHours.u(),
                      std::sqrt(26.0 * 1e-4 / 12.0 + std::pow(0.02 / std::sqrt(3.0), 2) +
                                std::pow(5.0 * 0.03 / std::sqrt(3.0), 2)),
                      1e-3));
    }
    void the_last_digit_is_seen_or_written_data() {
        QTest::addColumn<QList<double>>("readings");
        QTest::addColumn<double>("written");
        QTest::addColumn<double>("digit");
        QTest::newRow("it moves") << QList<double>{5.01, 5.02, 5.03, 5.04, 5.05, 5.06, 5.07, 5.08, 5.09} << 0.001
                                  << 0.01;
        QTest::newRow("it stands") << QList<double>{5.02, 5.02, 5.02} << 0.01 << 0.01;
        QTest::newRow("it stands on a nought") << QList<double>{5.0, 5.0} << 0.01 << 0.01;
        QTest::newRow("all end in nought") << QList<double>{5.01, 5.02, 5.03} << 0.001 << 0.01;
        QTest::newRow("two digits, one of them written") << QList<double>{5.02, 5.03} << 0.01 << 0.01;
        QTest::newRow("written without its noughts") << QList<double>{5.0, 5.0} << 1.0 << 0.0;
        QTest::newRow("nobody wrote it down") << QList<double>{5.02, 5.02} << 0.0 << 0.01;
        QTest::newRow("no digit at all") << QList<double>{std::sqrt(2.0), std::sqrt(3.0)} << 0.0 << 0.0;
    }
    void the_last_digit_is_seen_or_written() {
        QFETCH(QList<double>, readings);
        QFETCH(double, written);
        QFETCH(double, digit);
        trace::Column column;
        for (const double v : readings)
            column.push_back(v);
        QVERIFY(std::fabs(trace::resolutionOf(trace::Readings(column), written) - digit) < 1e-9);
    }

    // C2.
    void a_gap_in_a_steady_stretch_is_worth_little() {
        Trace t;
        std::mt19937 random(5);
        std::normal_distribution<double> scatter(2.0, 0.002);
        add(
            t, 3600, 1.0, [](double) { return 5.0; }, [&](double) { return scatter(random); });
        Trace cut;
        for (std::size_t k = 0; k < t.size(); ++k) {
            if (k > 1500 && k < 1800)
                continue;
            cut.time.push_back(t.time[k]);
            cut.volts.push_back(t.volts[k]);
            cut.amps.push_back(t.amps[k]);
        }
        const trace::Gap g = trace::GapEstimator(cut, 5.0).estimate(1500);
        QVERIFY(about(g.wattHours, 10.0 * 300.0 / 3600.0, 1e-3));
        QVERIFY(g.uWattHours < 0.001 * g.wattHours);
    }
    void a_gap_over_a_change_of_load_has_the_whole_range() {
        Trace t;
        addLevel(t, 1800, 5.0, 2.0);
        const std::size_t last = t.size() - 1;
        t.time.push_back(t.time.back() + 600.0);
        t.volts.push_back(5.0);
        t.amps.push_back(1.0);
        addLevel(t, 1800, 5.0, 1.0);
        const trace::Gap g = trace::GapEstimator(t, 5.0).estimate(last);
        QVERIFY(about(g.wattHours, 7.5 * 600.0 / 3600.0, 1e-6));
        QVERIFY(about(g.uWattHours, 2.5 / std::sqrt(3.0) * 600.0 / 3600.0, 1e-3));
    }
    void a_house_may_leave_gaps_out() {
        Trace t;
        addLevel(t, 1800, 5.0, 2.0);
        t.time.push_back(t.time.back() + 600.0);
        t.volts.push_back(5.0);
        t.amps.push_back(2.0);
        addLevel(t, 600, 5.0, 2.0);
        Setup s;
        QVERIFY(setAnswer(s.schools, "gaps", "leave_out"));
        const auto without = kinds::analyse(t, Kind::Drain, s), with = kinds::analyse(t, Kind::Drain, {});
        QVERIFY(about(with->wattHours.value() - without->wattHours.value(), 10.0 * 600.0 / 3600.0, 1e-3));
        QVERIFY(with->gaps.front().bridged && !without->gaps.front().bridged);
        bool told = false;
        for (const Warning& w : without->warnings)
            told = told || (w.code == "gap_left_out" && w.text.find("at least") != std::string::npos);
        QVERIFY(told);
    }

    // C5.
    void counters_data() {
        QTest::addColumn<QList<double>>("readings");
        QTest::addColumn<double>("counted");
        QTest::newRow("it counts on") << QList<double>{0.0, 1.0, 2.0, 3.5} << 3.5;
        QTest::newRow("it began elsewhere") << QList<double>{10.0, 11.0, 13.0} << 3.0;
        QTest::newRow("reset in the middle") << QList<double>{0.0, 4.0, 8.0, 0.0, 4.0} << 12.0;
        QTest::newRow("reset between two rows") << QList<double>{0.0, 4.0, 8.0, 0.2, 4.0} << 12.0;
        QTest::newRow("the last digit steps back") << QList<double>{0.0, 0.5, 1.0, 0.999, 1.001, 1.5} << 1.5;
        QTest::newRow("it steps back at the very beginning") << QList<double>{0.001, 0.0, 0.001, 0.002, 0.5} << 0.499;
        QTest::newRow("a net counter falls") << QList<double>{0.0, 2.0, 4.0, 3.0, 1.5, 0.5} << 0.5;
        QTest::newRow("a net counter runs below nothing") << QList<double>{0.0, 1.0, 0.0, -1.0, -2.0} << -2.0;
    }
    void counters() {
        QFETCH(QList<double>, readings);
        QFETCH(double, counted);
        trace::Readings column;
        for (const double v : readings)
            column.push_back(v);
        const auto c = trace::counted(column);
        QVERIFY2(c && std::fabs(*c - counted) < 1e-9, qPrintable(QString::number(c.value_or(-99.0))));
    }

    // D15.
    void the_taper_says_nothing_of_the_heat() {
        std::vector<double> time, celsius;
        for (double t = 0.0; t <= 10800.0; t += 60.0) { // two hours under power, then it cools while the power falls
            time.push_back(t);
            const double at = std::min(t, 7200.0);
            const double warm = 20.0 + 18.0 * (1.0 - std::exp(-at / 1500.0));
            celsius.push_back(t <= 7200.0 ? warm : 20.0 + (warm - 20.0) * std::exp(-(t - 7200.0) / 1500.0));
        }
        const auto whole = kinds::findHeat(time, celsius, {0.0}, 20.0),
                   steady = kinds::findHeat(time, celsius, {0.0, 7200.0}, 20.0);
        QVERIFY(steady && steady->rise && about(steady->rise->value(), 18.0, 0.01));
        QVERIFY(!whole->rise || std::fabs(whole->rise->value() - 18.0) > 1.0);
        QVERIFY(about(steady->hottest, 38.0, 0.02));
    }
    void a_first_reading_of_a_warm_bank_is_no_ambient() {
        std::vector<double> time, celsius;
        for (double t = 0.0; t <= 7200.0; t += 60.0) {
            time.push_back(t);
            celsius.push_back(20.0 + 18.0 * (1.0 - std::exp(-(t + 1800.0) / 1500.0)));
        }
        const auto late = kinds::findHeat(time, celsius, {-1800.0}, {});
        QVERIFY(late && !late->ambient && !late->rise);
        QVERIFY(kinds::findHeat(time, celsius, {-1800.0}, 20.0)->rise.has_value());
        const auto cold = kinds::findHeat(std::vector<double>{0, 600, 1200, 1800, 2400},
                                          std::vector<double>{20, 24, 27, 29, 30.5}, {0.0}, {});
        QVERIFY(cold && cold->ambient && !cold->ambientStated);
    }

    // One figure at one point is one figure.
    void the_meters_own_draw_stands_in_every_figure_of_the_port() {
        Trace t;
        addLevel(t, 20, 5.1, 0.0);
        addLevel(t, 14400, 5.0, 0.2);
        addLevel(t, 60, 0.0, 0.0);
        Setup s = by("volts 0.05%+2mV, amps 0.1%+1mA", "1");
        s.ownDraw = path::OwnDraw{0.006, 5.0};
        s.pathOhms = Measured(0.05, 0.002, source("cable"));
        const auto f = kinds::analyse(t, Kind::Drain, s);
        const auto ribbon = std::find_if(f->points.begin(), f->points.end(),
                                         [](const auto& p) { return p.point == path::Point::BankOut; });
        QVERIFY(ribbon != f->points.end());
        QVERIFY(f->portWattHours.value() > f->wattHours.value() + 0.1); // 6 mA at 5 V for four hours
        QCOMPARE(ribbon->energy.shown(), show(f->portWattHours, Unit::WattHour));
        QCOMPARE(kinds::figure(*f, "energy_at_port_wh")->shown(), ribbon->energy.shown());
        QVERIFY2(f->sentence.find(ribbon->energy.shown()) != std::string::npos, f->sentence.c_str());
        s.pathOhms.reset(); // the cable is not known: its loss is missing, and it says so
        const auto plain = kinds::analyse(t, Kind::Drain, s);
        QVERIFY(plain->portWattHours.value() > plain->wattHours.value() + 0.1);
        QVERIFY(std::any_of(plain->warnings.begin(), plain->warnings.end(),
                            [](const Warning& w) { return w.code == "cable_unknown"; }));
    }
    void mean_watts_are_those_while_it_was_on() {
        Trace t;
        addLevel(t, 1800, 5.1, 0.0);
        addLevel(t, 3600, 5.0, 2.0);
        addLevel(t, 1800, 0.0, 0.0);
        QVERIFY(about(kinds::analyse(t, Kind::Drain, {})->meanWatts.value(), 10.0, 1e-3));
    }
    void watts_taken_are_those_at_the_port() {
        Setup s = by("volts 0.1%, amps 0.1%", "1");
        s.pathOhms = Measured(0.25, 0.01, source("cable"));
        const auto f = kinds::analyse(recharge(), Kind::Recharge, s);
        QVERIFY(about(f->recharge->plateauWatts.value(), 18.0 - 0.25 * 4.0, 1e-3));
        QVERIFY(f->recharge->plateauWatts.u() > 0.04); // 0.01 Ω on 4 A²
        Trace watts; // a log of watts alone: the gains are on its level as on its energy
        const Trace t = recharge();
        for (std::size_t k = 0; k < t.size(); ++k) {
            watts.time.push_back(t.time[k]);
            watts.watts.push_back(t.power(k));
        }
        const auto alone = kinds::analyse(watts, Kind::Recharge, by("volts 0.1%, amps 0.1%", "1"));
        QVERIFY(alone->recharge->plateauWatts.u() >= 18.0 * 0.001 * std::sqrt(2.0 / 3.0) * 0.99);
    }
};

QTEST_APPLESS_MAIN(DoubtTest)
#include "doubt_test.moc"
