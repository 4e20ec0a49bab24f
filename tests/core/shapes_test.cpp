// Phases and times of many shapes of traces, at many sampling rates and with noise, against their closed forms.
#include <QTest>

#include <cmath>
#include <random>

#include "core/kinds/traced/finding.h"
#include "traces.h"

using namespace otterstone;
using namespace otterstone::testing;
using records::Kind;
using trace::Trace;

namespace {

// Bulk at `watts` for `bulk` seconds, then a taper with time constant `tau`, all at 9 V; noise on the amps.
struct Shape {
    double watts = 18.0;
    double bulk = 3600.0;
    double tau = 1200.0;
    double step = 1.0;
    double noise = 0.0;

    [[nodiscard]] Trace trace() const {
        std::mt19937 random(7);
        std::normal_distribution<double> error(0.0, 1.0);
        Trace t;
        const auto piece = [&](double seconds, auto amps) {
            add(
                t, seconds, step, [](double) { return 9.0; },
                [&](double x) { return std::max(0.0, amps(x) * (1.0 + noise * error(random))); });
        };
        piece(bulk, [&](double) { return watts / 9.0; });
        piece(4.0 * tau, [&](double x) { return watts / 9.0 * std::exp(-x / tau); });
        piece(900.0, [](double) { return 0.005; });
        return t;
    }
    // The taper falls below 5 % after τ·ln 20.
    [[nodiscard]] double end() const { return bulk + tau * std::log(20.0); }
    [[nodiscard]] double energy() const { return (watts * bulk + watts * tau * 0.95) / 3600.0; }
    // When a share of that energy is in: within the bulk, or after it from the closed form of the taper.
    [[nodiscard]] double timeTo(double share) const {
        const double ws = share * energy() * 3600.0;
        if (ws <= watts * bulk)
            return ws / watts;
        return bulk - tau * std::log(1.0 - (ws - watts * bulk) / (watts * tau));
    }
};

} // namespace

class ShapesTest : public QObject {
    Q_OBJECT

private Q_SLOTS:
    void recharges_of_all_shapes_data() {
        QTest::addColumn<double>("watts");
        QTest::addColumn<double>("bulk");
        QTest::addColumn<double>("tau");
        QTest::addColumn<double>("step");
        QTest::addColumn<double>("noise");
        const auto row = [](const char* name, double watts, double bulk, double tau, double step, double noise) {
            QTest::newRow(name) << watts << bulk << tau << step << noise;
        };
        row("plain", 18, 3600, 1200, 1, 0);
        row("ten a second", 18, 1800, 600, 0.1, 0);
        row("one every ten seconds", 18, 3600, 1200, 10, 0);
        row("one a minute", 10, 7200, 2400, 60, 0);
        row("strong", 100, 2400, 900, 1, 0);
        row("weak", 5, 14400, 1800, 5, 0);
        row("short bulk, long taper", 18, 1200, 2400, 1, 0);
        row("long bulk, short taper", 18, 10800, 300, 1, 0);
        row("a little noise", 18, 3600, 1200, 1, 0.005);
        row("much noise", 18, 3600, 1200, 1, 0.02);
    }
    void recharges_of_all_shapes() {
        QFETCH(double, watts);
        QFETCH(double, bulk);
        QFETCH(double, tau);
        QFETCH(double, step);
        QFETCH(double, noise);
        const Shape shape{watts, bulk, tau, step, noise};
        const auto f = kinds::analyse(shape.trace(), Kind::Recharge, {});
        QVERIFY(f.has_value());
        const auto& r = *f->recharge;
        // Noise may end a stretch early by what it moves the crossing: Δt = τ·Δp/p.
        const double slack = 2.0 * step + 5.0 * noise * tau + 1.0;
        QVERIFY2(std::fabs(r.plateauWatts.value() - watts) < watts * (0.002 + noise),
                 qPrintable(QString::number(r.plateauWatts.value())));
        QVERIFY(r.endOfCharge.has_value());
        QVERIFY2(std::fabs(*r.endOfCharge - shape.end()) < slack,
                 qPrintable(QString::number(*r.endOfCharge - shape.end())));
        QVERIFY2(std::fabs(r.timeTo50->value() - shape.timeTo(0.5)) < slack,
                 qPrintable(QString::number(r.timeTo50->value())));
        QVERIFY2(std::fabs(r.timeTo80->value() - shape.timeTo(0.8)) < slack,
                 qPrintable(QString::number(r.timeTo80->value())));
        QVERIFY2(std::fabs(r.timeTo100->value() - shape.end()) < slack,
                 qPrintable(QString::number(r.timeTo100->value())));
        // Bulk lasts until 90 %: τ·ln(1/0.9) into the taper.
        QVERIFY2(std::fabs(r.bulkSeconds - (bulk + tau * std::log(1.0 / 0.9))) < slack + 0.1 * tau * (noise > 0.0),
                 qPrintable(QString::number(r.bulkSeconds)));
        QVERIFY(r.throttles.empty());
        double sum = 0.0;
        for (const auto& p : f->phases)
            sum += p.wattHours;
        QVERIFY(std::fabs(sum - f->wattHours.value()) < 1e-9 * sum);
        for (std::size_t k = 1; k < f->phases.size(); ++k)
            QCOMPARE(f->phases[k].from, f->phases[k - 1].to); // they touch
    }

    void drains_of_all_shapes_data() {
        QTest::addColumn<double>("volts");
        QTest::addColumn<double>("amps");
        QTest::addColumn<double>("seconds");
        QTest::addColumn<double>("step");
        QTest::newRow("gentle") << 5.0 << 1.0 << 20000.0 << 1.0;
        QTest::newRow("top tier") << 20.0 << 5.0 << 3000.0 << 1.0;
        QTest::newRow("light load") << 5.0 << 0.05 << 30000.0 << 10.0;
        QTest::newRow("fast log") << 9.0 << 2.0 << 600.0 << 0.05;
        QTest::newRow("by hand") << 5.0 << 2.0 << 9000.0 << 900.0;
    }
    void drains_of_all_shapes() {
        QFETCH(double, volts);
        QFETCH(double, amps);
        QFETCH(double, seconds);
        QFETCH(double, step);
        Trace t;
        addLevel(t, seconds, volts, amps, step);
        addLevel(t, std::max(60.0, 3.0 * step), 0.0, 0.0, step);
        const auto f = kinds::analyse(t, Kind::Drain, {});
        QVERIFY(f.has_value());
        QCOMPARE(f->drain->endedBy, trace::EndedBy::CutOff);
        QVERIFY(std::fabs(f->drain->activeSeconds - seconds) <= step + 1e-6);
        // The last step falls to zero: half of it counts.
        QVERIFY(std::fabs(f->wattHours.value() - volts * amps * (seconds - step / 2.0) / 3600.0) <
                1e-9 * f->wattHours.value() + 1e-12);
        QVERIFY(std::fabs(f->meanVolts->value() - volts) < 1e-9);
        QVERIFY(f->drain->interruptions.empty());
    }
    void a_restart_is_an_interruption_and_the_run_goes_on() {
        Trace t;
        for (int k = 0; k < 4; ++k) {
            addLevel(t, 600, 5.0, 2.0);
            addLevel(t, 20, 0.0, 0.0);
        }
        const auto f = kinds::analyse(t, Kind::Drain, {});
        QCOMPARE(f->drain->interruptions.size(), std::size_t(3));
        QVERIFY(std::fabs(f->drain->activeSeconds - 2400.0) <= 4.0);
        QStringList names;
        for (const auto& p : f->phases)
            names << QString::fromStdString(trace::phaseName(p.kind));
        QCOMPARE(names.join(' '), QStringLiteral("steady off steady off steady off steady off"));
    }
    void a_bank_that_tops_off_is_full_all_the_same() {
        Trace t = Shape{}.trace();
        for (int k = 0; k < 3; ++k) {
            addLevel(t, 20, 9.0, 0.3); // a top-off
            addLevel(t, 900, 9.0, 0.005);
        }
        const auto f = kinds::analyse(t, Kind::Recharge, {});
        QVERIFY(std::fabs(*f->recharge->endOfCharge - Shape{}.end()) < 3.0);
    }
    void a_pause_in_the_middle_is_no_end() {
        Trace t;
        addLevel(t, 1800, 9.0, 2.0);
        addLevel(t, 1200, 0.0, 0.0); // unplugged for twenty minutes
        addLevel(t, 1800, 9.0, 2.0);
        add(
            t, 4800, 1.0, [](double) { return 9.0; }, [](double x) { return 2.0 * std::exp(-x / 1200.0); });
        addLevel(t, 900, 9.0, 0.005);
        const auto f = kinds::analyse(t, Kind::Recharge, {});
        QVERIFY(*f->recharge->endOfCharge > 4800.0 + 3000.0);
        QVERIFY(f->recharge->throttles.empty()); // unplugged, not throttled
        bool off = false;
        for (const auto& p : f->phases)
            off |= p.kind == trace::PhaseKind::Off && std::fabs(p.to - p.from - 1200.0) <= 2.0;
        QVERIFY(off);
    }
    void the_full_rule_can_be_set() {
        setup::Setup s;
        s.full = {0.20, 60.0};
        const auto f = kinds::analyse(Shape{}.trace(), Kind::Recharge, s);
        QVERIFY(std::fabs(*f->recharge->endOfCharge - (3600.0 + 1200.0 * std::log(5.0))) < 3.0);
    }
    void a_window_cuts_energy_and_times() {
        setup::Setup s;
        s.from = 600.0;
        s.to = 1800.5;
        Trace t;
        addLevel(t, 3600, 5.0, 2.0);
        const auto f = kinds::analyse(t, Kind::Drain, s);
        QVERIFY(std::fabs(f->wattHours.value() - 10.0 * 1200.5 / 3600.0) < 1e-9);
        QVERIFY(std::fabs(f->durationSeconds - 1200.5) < 1e-9);
    }
    void a_given_gap_length_is_used() {
        Trace t;
        addLevel(t, 100, 5.0, 2.0);
        t.time.push_back(t.time.back() + 4.0); // below the rule's 5 s
        t.volts.push_back(5.0);
        t.amps.push_back(2.0);
        QVERIFY(kinds::analyse(t, Kind::Drain, {})->gaps.empty());
        setup::Setup s;
        s.maxGap = 2.0;
        const auto f = kinds::analyse(t, Kind::Drain, s);
        QCOMPARE(f->gaps.size(), std::size_t(1));
        QVERIFY(std::fabs(f->wattHours.value() - 10.0 * 103.0 / 3600.0) <
                1e-9); // what flowed in it is counted; steady as it is, it leaves nothing open
    }
};

QTEST_APPLESS_MAIN(ShapesTest)
#include "shapes_test.moc"
