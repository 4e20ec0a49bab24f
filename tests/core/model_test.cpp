// F, first version: the simulated bank keeps its energy, tapers as it must, and is the same at every run.
#include <QTest>

#include <cmath>

#include "core/kinds/traced/finding.h"
#include "core/model/simulate.h"

using namespace otterstone;
using model::Bank;

namespace {

const Bank kOrdinary;

model::Reading perfect() {
    model::Reading r;
    r.noiseVolts = r.noiseAmps = 0.0;
    r.voltsDigit = r.ampsDigit = 1e-7;
    return r;
}

} // namespace

class ModelTest : public QObject {
    Q_OBJECT

private Q_SLOTS:
    void energy_is_conserved_data() {
        QTest::addColumn<bool>("isDrain");
        QTest::addColumn<int>("series");
        QTest::newRow("drain 1S") << true << 1;
        QTest::newRow("drain 4S") << true << 4;
        QTest::newRow("recharge 1S") << false << 1;
        QTest::newRow("recharge 4S") << false << 4;
    }
    void energy_is_conserved() {
        QFETCH(bool, isDrain);
        QFETCH(int, series);
        Bank bank;
        bank.cells.series = series;
        bank.cells.ampHours = 10.0 / series;
        const auto run =
            isDrain ? model::drain(bank, {9.0, 2.0, 20.0, {}}, perfect()) : model::recharge(bank, {}, perfect());
        const auto& t = run.truth;
        const double from = isDrain ? t.cellWattHours : t.portWattHours;
        const double into = isDrain ? t.portWattHours : t.cellWattHours;
        QVERIFY(into > 0.0 && t.lostWattHours > 0.0);
        QVERIFY2(std::fabs(from - into - t.lostWattHours) <= 1e-6 * from,
                 qPrintable(QString::number(from - into - t.lostWattHours)));
    }
    // Every station along the path reads what is there: volts fall by I·R towards the load, rise by it towards the
    // charger.
    void stations_read_the_path_where_they_sit_data() {
        QTest::addColumn<bool>("isDrain");
        QTest::addColumn<double>("ohms");
        QTest::newRow("drain, at the port") << true << 0.0;
        QTest::newRow("drain, a cable away") << true << 0.08;
        QTest::newRow("recharge, at the port") << false << 0.0;
        QTest::newRow("recharge, two cables away") << false << 0.25;
    }
    void stations_read_the_path_where_they_sit() {
        QFETCH(bool, isDrain);
        QFETCH(double, ohms);
        model::Reading r = perfect();
        model::Station station;
        station.ohms = ohms;
        station.startsAt = 100.0;
        station.clockRuns = 0.9;
        r.also = {station};
        model::DrainPlan plan;
        plan.amps = 2.0;
        const auto run = isDrain ? model::drain(kOrdinary, plan, r) : model::recharge(kOrdinary, {}, r);
        const trace::Trace& t = run.also.front();
        QVERIFY(t.size() > 500 && t.temperature.empty());
        QCOMPARE(t.time[0], 0.0);
        QVERIFY(std::fabs(t.time[10] - 9.0) < 1e-9); // its slow clock
        for (const std::size_t k : {std::size_t(50), std::size_t(400)}) {
            const double main = run.trace.volts[k + 100], here = t.volts[k], amps = t.amps[k];
            QVERIFY2(std::fabs(here - main - (isDrain ? -1.0 : 1.0) * amps * ohms) < 1e-6,
                     qPrintable(QStringLiteral("%1 %2").arg(here).arg(main)));
            QVERIFY(std::fabs(run.trace.amps[k + 100] - amps) < 1e-6);
        }
    }
    void a_wall_station_sees_the_chargers_loss() {
        model::Reading r = perfect();
        r.sampleSeconds = 5.0;
        model::Station wall;
        wall.point = path::Point::Wall;
        wall.chargerEfficiency = 0.8;
        r.also = {wall};
        const auto run = model::recharge(kOrdinary, {}, r);
        const double at = 300;
        const auto k = static_cast<std::size_t>(at);
        QVERIFY(std::fabs(run.also.front().power(k) * 0.8 / run.trace.power(k) - 1.0) <
                0.002); // its amps have four decimals
    }
    void the_tester_may_stop_it_and_step_the_load() {
        model::DrainPlan plan;
        plan.amps = 2.0;
        plan.ampsSteps = {0.5, 1.0};
        plan.stepSeconds = 30.0;
        plan.stopAfter = 300.0;
        const auto run = model::drain(kOrdinary, plan, perfect());
        QVERIFY(std::fabs(run.truth.seconds - 300.0) < 1.5);
        QVERIFY(std::fabs(run.trace.amps[30] - 0.5) < 1e-6 && std::fabs(run.trace.amps[60] - 1.0) < 1e-6 &&
                std::fabs(run.trace.amps[120] - 2.0) < 1e-6);
        QVERIFY(run.trace.volts.back() > 4.0); // the port keeps its volts
        QCOMPARE(kinds::analyse(run.trace, records::Kind::Drain, {})->drain->endedBy, trace::EndedBy::User);
    }
    void a_linear_cell_tapers_exponentially() {
        // Closed form: i = (V_full − OCV) / R, dOCV/dt = s·i / 3600 with s in V/Ah, so i decays with τ = 3600·R / s.
        Bank bank;
        bank.cells.ampHours = 5.0;
        bank.cells.ohms = 0.1;
        bank.cells.openCircuit = {3.0, 4.2};
        bank.input = {0.0, 0.0, 0.0, 0.0};
        bank.inputWatts = 1000.0;
        bank.chargeAmps = 4.0;
        bank.endOfChargeShare = 0.02;
        model::Reading r = perfect();
        r.idleBefore = 0.0;
        const auto run = model::recharge(bank, {5.0, 1000.0, 20.0, 0.0, 0.0}, r);
        const double tau = 3600.0 * 0.1 / ((4.2 - 3.0) / 5.0);
        // Cell current from the meter's: cells at 4.2 V take i·4.2 W from 5 V × meter amps.
        const auto amps = [&](std::size_t k) { return run.trace.amps[k] * 5.0 / 4.2; };
        std::size_t start = 0;
        while (amps(start) > 3.0 || run.trace.time[start] < 600.0)
            ++start;
        const auto later = start + static_cast<std::size_t>(tau);
        QVERIFY(std::fabs(amps(later) / amps(start) -
                          std::exp(-(run.trace.time[later] - run.trace.time[start]) / tau)) < 1e-3);
    }
    void the_same_seed_gives_the_same_trace() {
        const Bank bank;
        model::Reading r;
        r.meter = *path::parseMeter("volts 0.1%+1mV, amps 0.1%+1mA", "");
        const auto a = model::drain(bank, {}, r);
        const auto b = model::drain(bank, {}, r);
        r.seed = 2;
        const auto c = model::drain(bank, {}, r);
        QCOMPARE(a.trace.size(), b.trace.size());
        bool same = true;
        bool other = false;
        for (std::size_t k = 0; k < std::min(a.trace.size(), c.trace.size()); ++k) {
            same &= a.trace.amps[k] == b.trace.amps[k] && a.trace.volts[k] == b.trace.volts[k];
            other |= a.trace.amps[k] != c.trace.amps[k];
        }
        QVERIFY(same && other);
    }
    void a_finding_holds_the_truth_within_its_uncertainty() {
        // 200 meters of one kind, each erring within its accuracy: about 95 % of the k = 2 intervals hold the truth.
        Bank bank;
        bank.cells.ampHours = 1.0;
        setup::Setup s;
        s.meter = *path::parseMeter("volts 0.2%+5mV, amps 0.3%+4mA", "");
        s.pathOhms = Measured(0.1);
        int held = 0;
        for (int k = 0; k < 200; ++k) {
            model::Reading r;
            r.meter = s.meter;
            r.pathOhms = 0.1;
            r.sampleSeconds = 10.0;
            r.seed = 1000 + static_cast<std::uint64_t>(k);
            const auto run = model::drain(bank, {}, r);
            const auto f = kinds::analyse(run.trace, records::Kind::Drain, s);
            // The state of a sample lasts until the next in the truth, a trapezoid in the finding: half a step at
            // either end.
            held += std::fabs(f->portWattHours.value() - run.truth.portWattHours) <=
                    f->portWattHours.expanded() + 5.0 * 10.0 / 3600.0 / 2.0;
        }
        QVERIFY2(held >= 184,
                 qPrintable(QString::number(held))); // 92 %: three standard deviations below 95 % of 200 is 90.4 %
    }
    void heat_stops_a_bank_that_cannot_shed_it() {
        Bank bank;
        bank.thermal = {30.0, 600.0, 50.0};
        const auto run = model::drain(bank, {9.0, 2.0, 20.0, {}}, perfect());
        QVERIFY(run.truth.stoppedByHeat);
        QVERIFY(run.truth.saidAtEnd > 10.0);
    }
    void a_gauge_can_hide_a_reserve() {
        const model::Gauge g{0.0, -8.0, 0.1};
        QCOMPARE(g.says(1.0), 100.0);
        QCOMPARE(g.says(0.1), 0.0);
        QCOMPARE(g.says(0.05), 0.0);
        QVERIFY(g.says(0.55) < 50.0);
    }
};

QTEST_APPLESS_MAIN(ModelTest)
#include "model_test.moc"
