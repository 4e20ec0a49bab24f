// F: the simulated bench conserves energy whatever hangs on it, follows the closed forms, and keeps its firmware's
// rules.
#include <QTest>

#include <cmath>

#include <nlohmann/json.hpp>

#include "core/model/bank_json.h"
#include "core/model/bench.h"

using namespace otterstone;
using namespace otterstone::model;

namespace {

std::vector<label::Tier> tiers(const char* text) { return *label::parseTiers(text, "test"); }

Bank dualPort(Sharing sharing = {}) {
    Bank b;
    b.ports = {Port{"C1", label::Direction::Both, tiers("5 V 3 A, 9 V 3 A, 20 V 2.25 A"), tiers("5 V 3 A, 9 V 2 A"),
                    45.0, 0.0},
               Port{"A", label::Direction::Out, tiers("5 V 3 A, 9 V 2 A"), {}, 18.0, 0.0}};
    b.overCurrentAmps = 4.0;
    b.sharing = sharing;
    return b;
}

Charger socket(double watts = 27.0) {
    Charger c;
    c.tiers = tiers("5 V 3 A, 9 V 3 A");
    c.watts = watts;
    return c;
}

Load amps(double a) { return {Load::Mode::ConstantCurrent, a, true}; }

void run(Bench& bench, double seconds, double dt = 0.1) {
    for (double t = 0.0; t < seconds - dt / 2.0; t += dt)
        bench.step(dt);
}

double stored(const Bench& b) {
    double all = b.bank().pack().storedWattHours();
    for (std::size_t k = 0; k < b.ports(); ++k)
        all += b.device(k) ? b.device(k)->pack().storedWattHours() : 0.0;
    return all;
}

double lost(const Bench& b) {
    double all = b.bank().lostWattHours() + b.ledger().inCables;
    for (std::size_t k = 0; k < b.ports(); ++k)
        all += b.device(k) ? b.device(k)->lostWattHours() : 0.0;
    return all;
}

} // namespace

class SimulatedBenchTest : public QObject {
    Q_OBJECT

private Q_SLOTS:
    void energy_is_conserved_data() {
        QTest::addColumn<QString>("what");
        QTest::addColumn<double>("step");
        for (const char* what : {"load", "power", "resistance", "charge", "both", "device", "bank", "phosphate"}) {
            for (const double step : {0.1, 1.0})
                QTest::addRow("%s %.1f s", what, step) << what << step;
        }
    }
    // What came in = what went out + what was lost + what is stored, to 1e-6 of what flowed; also over kinks of the
    // volts' table.
    void energy_is_conserved() {
        QFETCH(QString, what);
        QFETCH(double, step);
        Bank b = dualPort();
        b.cells.slowOhms = 0.02;
        b.standbyWatts = 0.01;
        b.thermal.coreKelvinPerWatt = 2.0;
        if (what == QStringLiteral("phosphate"))
            b.cells.chemistry = Chemistry::Lfp;
        const bool fromEmpty = what == QStringLiteral("charge") || what == QStringLiteral("both");
        Bench bench(b, fromEmpty ? 0.05 : 1.0, 20.0);
        const Cable cable{0.12, 3.0};
        if (fromEmpty)
            bench.plugCharger(0, socket(), cable);
        if (what == QStringLiteral("device") || what == QStringLiteral("bank")) {
            Bank device = dualPort();
            device.cells.ampHours = 2.0;
            device.useWatts = what == QStringLiteral("device") ? 1.5 : 0.0;
            bench.plugDevice(1, device, 0.1, cable);
        } else {
            bench.plugLoad(1, cable, {9.0, 3.0});
        }
        bench.setLoad(1, what == QStringLiteral("power")        ? Load{Load::Mode::ConstantPower, 12.0, true}
                         : what == QStringLiteral("resistance") ? Load{Load::Mode::ConstantResistance, 7.0, true}
                         : what == QStringLiteral("charge")     ? Load{}
                                                                : amps(0.8));
        const double before = stored(bench);
        run(bench, 7200.0, step);
        const Ledger& l = bench.ledger();
        const double flowed = l.fromChargers + l.toLoads + std::fabs(stored(bench) - before) + lost(bench);
        QVERIFY2(flowed > 3.0, qPrintable(QString::number(flowed)));
        const double missing = l.fromChargers - l.toLoads - lost(bench) - (stored(bench) - before);
        QVERIFY2(std::fabs(missing) <= 1e-6 * flowed, qPrintable(QString::number(missing)));
    }
    void linear_cells_follow_their_closed_form_data() {
        QTest::addColumn<double>("step");
        QTest::newRow("0.1 s") << 0.1;
        QTest::newRow("1 s") << 1.0;
        QTest::newRow("10 s") << 10.0;
    }
    // At constant cell current i the terminal volts are V₀ − s·i·t − i·R − i·R₁(1 − e^(−t/τ)): Kirchhoff's rules, no
    // other source.
    void linear_cells_follow_their_closed_form() {
        QFETCH(double, step);
        Cells cells;
        cells.openCircuit = {3.0, 4.2};
        cells.ampHours = 5.0;
        cells.ohms = 0.04;
        cells.slowOhms = 0.03;
        cells.slowSeconds = 45.0;
        Pack pack(cells, 0.9);
        const double i = 2.0;
        double t = 0.0;
        for (; t < 120.0 - step / 2.0; t += step)
            (void)pack.advance(i, step);
        const double shortly = 1e-6;
        const double expected =
            3.0 + 1.2 * (0.9 - i * t / 3600.0 / 5.0) - i * 0.04 - i * 0.03 * (1.0 - std::exp(-t / 45.0));
        QVERIFY2(std::fabs(pack.voltsUnder(i, shortly) - expected) < 1e-7,
                 qPrintable(QString::number(pack.voltsUnder(i, shortly) - expected)));
        // Left alone, the slow part relaxes with its own time constant.
        const double at = pack.voltsUnder(0.0, shortly);
        (void)pack.advance(0.0, 45.0);
        const double rest = pack.voltsUnder(0.0, shortly);
        const double slow = i * 0.03 * (1.0 - std::exp(-t / 45.0));
        QVERIFY(std::fabs(rest - at - slow * (1.0 - std::exp(-1.0))) < 1e-7);
    }
    // One store: ΔT(1 − e^(−t/τ)). Two: core settles at P·(R₁ + R₂), case at P·R₂ (Fourier's law in steady state).
    void heat_settles_as_it_must() {
        Heat one({6.0, 600.0, 1000.0, 0.0, 0.0, 0.6}, 20.0);
        for (int k = 0; k < 600; ++k)
            one.step(2.0, 1.0);
        QVERIFY(std::fabs(one.caseCelsius() - 20.0 - 12.0 * (1.0 - std::exp(-1.0))) < 1e-9);
        Heat two({6.0, 600.0, 1000.0, 0.0, 3.0, 0.6}, 20.0);
        for (int k = 0; k < 100000; ++k)
            two.step(2.0, 1.0);
        QVERIFY(std::fabs(two.caseCelsius() - 32.0) < 1e-6 && std::fabs(two.coreCelsius() - 38.0) < 1e-6);
    }
    void heat_trips_and_restarts() {
        Bank b;
        b.thermal = {20.0, 60.0, 60.0, 45.0, 2.0, 0.5};
        Bench bench(b, 1.0, 20.0);
        bench.plugLoad(0, {0.0, 9.0}, {9.0, 9.0});
        bench.setLoad(0, amps(3.0));
        int trips = 0;
        bool hot = false;
        for (int k = 0; k < 36000; ++k) {
            bench.step(0.1);
            QVERIFY(bench.bank().heat().coreCelsius() < 61.0);
            if (hot && bench.off(0) == Off::TooHot)
                QCOMPARE(bench.flow(0).amps, 0.0);
            trips += !hot && bench.off(0) == Off::TooHot;
            hot = bench.off(0) == Off::TooHot;
        }
        QVERIFY2(trips >= 3, qPrintable(QString::number(trips)));
    }
    void charging_holds_then_tapers_then_tops_off() {
        Bank b = dualPort();
        b.standbyWatts = 0.3;
        b.topOffBelow = 0.95;
        b.chargeAmps = 7.0; // not what decides at 18 W
        Bench bench(b, 0.0, 20.0);
        bench.plugCharger(0, socket(), {0.0, 3.0});
        run(bench, 60.0, 1.0);
        QCOMPARE(bench.flow(0).tierVolts, 9.0);
        QVERIFY(std::fabs(bench.flow(0).amps * 9.0 - 18.0) < 1e-6); // inputWatts
        double t = 0.0;
        for (; !bench.bank().full() && t < 1e5; ++t)
            bench.step(1.0);
        QVERIFY(bench.bank().full() && bench.bank().pack().stateOfCharge() > 0.96);
        run(bench, 10.0, 1.0);
        QVERIFY(bench.flow(0).amps * 9.0 < 0.1);
        int again = 0;
        for (int k = 0; k < 40000; ++k) { // its own draw empties it until it begins anew
            bench.step(1.0);
            again += bench.flow(0).amps > 0.5;
        }
        QVERIFY(again > 100 && bench.bank().full());
    }
    void loads_draw_what_they_are_set_to_data() {
        QTest::addColumn<int>("mode");
        QTest::addColumn<double>("level");
        QTest::newRow("current") << 0 << 1.5;
        QTest::newRow("power") << 1 << 10.0;
        QTest::newRow("resistance") << 2 << 6.0;
        QTest::newRow("power beyond reach") << 1 << 1000.0;
    }
    void loads_draw_what_they_are_set_to() {
        QFETCH(int, mode);
        QFETCH(double, level);
        const Load load{static_cast<Load::Mode>(mode), level, true};
        const double i = load.amps(9.0, 0.2);
        const double far = 9.0 - 0.2 * i; // Ohm
        if (level > 100.0)
            QCOMPARE(i, 9.0 / 0.4); // the most a resistance passes is at half the volts (maximum power transfer)
        else
            QVERIFY(std::fabs((mode == 0 ? i : mode == 1 ? far * i : far / i) - level) < 1e-9);
        QCOMPARE((Load{load.mode, level, false}).amps(9.0, 0.2), 0.0);
    }
    void tiers_are_agreed_on_data() {
        QTest::addColumn<double>("askVolts");
        QTest::addColumn<double>("cable");
        QTest::addColumn<double>("volts");
        QTest::addColumn<double>("most");
        QTest::newRow("what it has") << 9.0 << 5.0 << 9.0 << 3.0;
        QTest::newRow("what it has not") << 12.0 << 5.0 << 5.0 << 3.0;
        QTest::newRow("a range") << 20.0 << 5.0 << 20.0 << 2.25;
        QTest::newRow("a thin cable") << 9.0 << 1.0 << 9.0 << 1.0;
    }
    void tiers_are_agreed_on() {
        QFETCH(double, askVolts);
        QFETCH(double, cable);
        QFETCH(double, volts);
        QFETCH(double, most);
        const auto got = agreed(dualPort().ports[0].gives, {askVolts, cable}, 45.0);
        QCOMPARE(got.volts, volts);
        QVERIFY(std::fabs(got.amps - most) < 1e-9);
    }
    void sharing_follows_its_policy_data() {
        QTest::addColumn<int>("policy");
        QTest::addColumn<double>("first");
        QTest::addColumn<double>("second");
        using P = Sharing::Policy;
        QTest::newRow("independent") << int(P::Independent) << 9.0 << 9.0;
        QTest::newRow("all fall back") << int(P::FallBackToFive) << 5.0 << 5.0;
        QTest::newRow("the first keeps") << int(P::FirstKeeps) << 9.0 << 5.0;
        QTest::newRow("split amps") << int(P::SplitAmps) << 5.0 << 5.0;
    }
    void sharing_follows_its_policy() {
        QFETCH(int, policy);
        QFETCH(double, first);
        QFETCH(double, second);
        Bank b = dualPort({static_cast<Sharing::Policy>(policy), 30.0, 3.6});
        b.renegotiateSeconds = 1.0;
        Bench bench(b, 1.0, 20.0);
        bench.plugLoad(0, {0.0, 5.0}, {9.0, 5.0});
        bench.setLoad(0, amps(1.0));
        run(bench, 5.0);
        QCOMPARE(bench.flow(0).tierVolts, 9.0); // alone it always has its tier
        bench.plugLoad(1, {0.0, 5.0}, {9.0, 5.0});
        bench.setLoad(1, amps(1.0));
        bench.step(0.1);
        QCOMPARE(bench.flow(0).amps, 0.0); // plugging the second resets the first
        run(bench, 5.0);
        QCOMPARE(bench.flow(0).tierVolts, first);
        QCOMPARE(bench.flow(1).tierVolts, second);
        bench.unplug(1);
        run(bench, 5.0);
        QCOMPARE(bench.flow(0).tierVolts, 9.0);
    }
    // 3.6 A over three devices gives each 1.2 A (sums D10).
    void a_total_current_is_split_evenly() {
        Bank b = dualPort({Sharing::Policy::SplitAmps, 0.0, 3.6});
        b.ports.push_back(b.ports[1]);
        Bench bench(b, 1.0, 20.0);
        Bank device;
        device.inputWatts = 15.0;
        for (std::size_t k = 0; k < 3; ++k)
            bench.plugDevice(k, device, 0.2, {0.0, 5.0}, true);
        run(bench, 2.0);
        for (std::size_t k = 0; k < 3; ++k)
            QVERIFY2(std::fabs(bench.flow(k).amps - 1.2) < 1e-6, qPrintable(QString::number(bench.flow(k).amps)));
    }
    void pass_through_follows_its_policy_data() {
        QTest::addColumn<int>("policy");
        QTest::addColumn<double>("in");
        QTest::addColumn<double>("out");
        QTest::newRow("refuses") << int(PassThrough::Refuses) << 9.0 << 0.0;
        QTest::newRow("source first") << int(PassThrough::SourceFirst) << 9.0 << 5.0;
        QTest::newRow("load first") << int(PassThrough::LoadFirst) << 5.0 << 9.0;
        QTest::newRow("shares") << int(PassThrough::Shares) << 9.0 << 9.0;
        QTest::newRow("slows both") << int(PassThrough::SlowsBoth) << 5.0 << 5.0;
    }
    void pass_through_follows_its_policy() {
        QFETCH(int, policy);
        QFETCH(double, in);
        QFETCH(double, out);
        Bank b = dualPort();
        b.passThrough = static_cast<PassThrough>(policy);
        Bench bench(b, 0.5, 20.0);
        bench.plugLoad(1, {0.0, 5.0}, {9.0, 5.0});
        bench.setLoad(1, amps(1.0));
        run(bench, 2.0);
        QCOMPARE(bench.flow(1).tierVolts, 9.0);
        bench.plugCharger(0, socket(), {0.0, 3.0});
        run(bench, 2.0);
        QCOMPARE(bench.flow(0).tierVolts, in);
        QCOMPARE(bench.flow(1).tierVolts, out);
        bench.unplug(0);
        run(bench, 2.0);
        QCOMPARE(bench.flow(1).tierVolts, 9.0);
    }
    void an_overload_trips_and_comes_back_as_its_class_says_data() {
        QTest::addColumn<int>("how");
        QTest::newRow("by itself") << int(Recovery::How::ByItself);
        QTest::newRow("replug") << int(Recovery::How::Replug);
        QTest::newRow("button") << int(Recovery::How::Button);
        QTest::newRow("wait, then replug") << int(Recovery::How::WaitThenReplug);
    }
    void an_overload_trips_and_comes_back_as_its_class_says() {
        QFETCH(int, how);
        using How = Recovery::How;
        Bank b = dualPort();
        b.recovery = {static_cast<How>(how), 20.0};
        b.overCurrentSeconds = 0.5;
        Bench bench(b, 1.0, 20.0);
        const auto plug = [&] { bench.plugLoad(0, {0.0, 9.0}, {9.0, 9.0}); };
        plug();
        bench.setLoad(0, amps(3.9));
        run(bench, 5.0);
        QVERIFY(bench.flow(0).amps > 3.0); // at 3.9 of 4.0 A
        bench.setLoad(0, amps(4.1));
        run(bench, 0.3);
        QVERIFY(bench.flow(0).amps > 3.0); // not before half a second
        run(bench, 1.0);
        QVERIFY(bench.off(0) == Off::Tripped);
        bench.setLoad(0, amps(1.0));
        const auto on = [&] {
            run(bench, 0.5);
            return bench.flow(0).amps > 0.5;
        };
        QCOMPARE(on(), false);
        bench.pressButton();
        QCOMPARE(on(), how == int(How::Button));
        plug();
        QCOMPARE(on(), how == int(How::Button) || how == int(How::Replug));
        run(bench, 21.0);
        QCOMPARE(on(), how != int(How::WaitThenReplug));
        plug();
        QVERIFY(on());
    }
    void a_light_load_is_dropped_unless_the_low_current_mode_holds_it() {
        Bank b;
        b.lightLoad = {0.06, 30.0, 600.0};
        Bench bench(b, 1.0, 20.0);
        bench.plugLoad(0, {0.0, 5.0}, {5.0, 5.0});
        bench.setLoad(0, amps(0.07));
        run(bench, 100.0);
        QVERIFY(bench.off(0) == Off::No);
        bench.setLoad(0, amps(0.05));
        run(bench, 29.0);
        QVERIFY(bench.off(0) == Off::No);
        run(bench, 2.0);
        QVERIFY(bench.off(0) == Off::Asleep);
        bench.setLowCurrentMode(true);
        bench.pressButton();
        run(bench, 590.0);
        QVERIFY(bench.off(0) == Off::No);
        run(bench, 60.0);
        QVERIFY(bench.off(0) == Off::Asleep);
    }
    void two_dual_role_sockets_agree_on_a_direction_data() {
        QTest::addColumn<bool>("takesFirst");
        QTest::addColumn<bool>("forced");
        QTest::addColumn<bool>("in");
        QTest::newRow("gives") << false << false << false;
        QTest::newRow("takes") << true << false << true;
        QTest::newRow("takes, but forced") << true << true << false;
    }
    void two_dual_role_sockets_agree_on_a_direction() {
        QFETCH(bool, takesFirst);
        QFETCH(bool, forced);
        QFETCH(bool, in);
        Bank b = dualPort();
        b.dualRole = takesFirst ? DualRole::TakesFirst : DualRole::GivesFirst;
        Bench bench(b, 0.5, 20.0);
        bench.plugDevice(0, dualPort(), 0.5, {0.1, 3.0}, forced);
        const double before = bench.bank().pack().storedWattHours();
        const double total = stored(bench);
        run(bench, 60.0);
        QCOMPARE(bench.flow(0).in, in);
        QCOMPARE(bench.bank().pack().storedWattHours() > before, in);
        QVERIFY(std::fabs(total - stored(bench) - lost(bench)) < 1e-6 * total);
    }
    void an_empty_bank_stays_off_until_it_is_charged() {
        Bank b = dualPort();
        b.cells.ampHours = 0.2;
        Bench bench(b, 0.3, 20.0);
        bench.plugLoad(1, {0.0, 5.0}, {5.0, 5.0});
        bench.setLoad(1, amps(1.0));
        run(bench, 3600.0);
        QVERIFY(bench.off(1) == Off::Empty && bench.flow(1).amps == 0.0);
        bench.setLoad(1, amps(0.05)); // its volts recover: it must not come back for a lighter load
        run(bench, 60.0);
        QCOMPARE(bench.flow(1).amps, 0.0);
        bench.plugCharger(0, socket(), {0.0, 3.0});
        run(bench, 60.0);
        QVERIFY(bench.flow(1).amps > 0.0);
    }
    void cells_add_up_in_series_and_parallel() {
        Cells cell;
        cell.ampHours = 2.5;
        cell.ohms = 0.04;
        cell.slowOhms = 0.02;
        const Cells pack = Cells::of(cell, 4, 2);
        QCOMPARE(pack.ampHours, 5.0);
        QCOMPARE(pack.ohms, 0.08);
        QCOMPARE(pack.slowOhms, 0.04);
        QVERIFY(std::fabs(pack.storedWattHours(1.0) - 8.0 * cell.storedWattHours(1.0)) < 1e-9);
    }
    void leds_go_out_one_by_one() {
        Gauge g;
        g.leds = 4;
        QCOMPARE(g.lit(100.0), 4);
        QCOMPARE(g.lit(75.0), 3);
        QCOMPARE(g.lit(75.1), 4);
        QCOMPARE(g.lit(0.5), 1);
        QCOMPARE(g.lit(0.0), 0);
    }
    void a_bank_survives_json_and_says_what_is_wrong_in_one() {
        Bank b = dualPort({Sharing::Policy::FirstKeeps, 30.0, 0.0});
        b.passThrough = PassThrough::LoadFirst;
        b.recovery = {Recovery::How::Button, 3.0};
        b.cells.openCircuit = {3.0, 3.7, 4.2};
        const auto json = toJson(b);
        const auto again = bankFromJson(json);
        QVERIFY(again);
        QCOMPARE(toJson(*again).dump(), json.dump());
        QCOMPARE(again->ports[1].gives.size(), b.ports[1].gives.size());
        for (const auto& [text, place] : {std::pair(R"({"cells":{"ah":-1}})", "truth.cells.ah"),
                                          {R"({"pass_through":"maybe"})", "truth.pass_through"},
                                          {R"({"ports":[{"gives":"9 x"}]})", "truth.ports[0].gives"},
                                          {R"({"ports":{}})", "truth.ports"},
                                          {R"({"cells":7})", "truth.cells"},
                                          {R"([])", "truth"}}) {
            const auto wrong = bankFromJson(nlohmann::json::parse(text));
            QVERIFY2(!wrong, text);
            QCOMPARE(wrong.error().place, std::string(place));
        }
    }
    void a_bank_made_from_its_label_holds_what_is_printed() {
        label::Label l;
        l.energy = WattHours(74.0);
        l.totalWatts = Watts(45.0);
        l.ports = {{"C1", label::Direction::Both, tiers("5 V 3 A, 9 V 3 A"), {}, {}}};
        const Bank b = bankFromLabel(l);
        QVERIFY(std::fabs(b.cells.storedWattHours(1.0) - 74.0) < 1e-9);
        QCOMPARE(b.ports.size(), 1u);
        QVERIFY(b.overCurrentAmps > 3.0);
    }
};

QTEST_APPLESS_MAIN(SimulatedBenchTest)
#include "simulated_bench_test.moc"
