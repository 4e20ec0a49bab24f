// B1, B3, B4, B5: cables, bottlenecks, a meter's own draw, slips of the pen.
#include <QTest>

#include <cmath>

#include "core/path/bottleneck.h"
#include "core/path/cable.h"
#include "core/path/meter.h"
#include "core/path/own_draw.h"
#include "core/path/slips.h"
#include "sources.h"

using namespace otterstone;
using namespace otterstone::path;

namespace {

bool near(double a, double b, double relative) { return std::fabs(a - b) <= relative * std::fabs(b); }

label::Tier fixed(double volts, double amps) { return {Volts(volts), Volts(volts), Amps(amps)}; }

} // namespace

class PathTest : public QObject {
    Q_OBJECT

private Q_SLOTS:
    // Loop figures per metre at 20 °C as in common wire tables; GNU units computes the same in tests/reference.
    void copper_by_gauge_data() {
        QTest::addColumn<int>("awg");
        QTest::addColumn<double>("milliohmsPerMetre");
        QTest::newRow("28") << 28 << 212.9;
        QTest::newRow("26") << 26 << 133.9;
        QTest::newRow("24") << 24 << 84.2;
        QTest::newRow("22") << 22 << 53.0;
        QTest::newRow("20") << 20 << 33.3;
    }
    void copper_by_gauge() {
        QFETCH(int, awg);
        QFETCH(double, milliohmsPerMetre);
        QVERIFY(near(copperOhmsPerMetre(awg) * 1000.0, milliohmsPerMetre, 1.5e-3));
        QVERIFY(near(copperOhmsPerMetre(awg, 30.0) / copperOhmsPerMetre(awg), 1.0393, 1e-9));
    }
    void a_gauge_is_a_diameter() {
        QVERIFY(near(wireMillimetres(36), 0.127, 1e-12)); // by definition
        QVERIFY(near(wireMillimetres(0), 8.2515, 1e-5));  // 0000 is 0.46 inch, 0 is 0.3249 inch
    }
    void an_estimate_says_how_little_it_knows() {
        const Working w = estimatedLoop(28, 1.0);
        QVERIFY(near(w.value.value(), 2 * 0.2129 + 0.020, 2e-3));
        QVERIFY(w.value.expanded() > 0.05); // a tenth and more
        QVERIFY(w.note.find("estimated") != std::string::npos);
    }

    void resistance_from_one_load() {
        const Working w = loopResistance(Measured(5.10, 0.002, otterstone::testing::source("near")),
                                         Measured(4.95, 0.002, otterstone::testing::source("far")),
                                         Measured(1.5, 0.003, otterstone::testing::source("amps")));
        QVERIFY(near(w.value.value(), 0.1, 1e-12));
        // Closed form: u² = 2·(0.002/1.5)² + (0.15·0.003/1.5²)².
        QVERIFY(near(w.value.u(), std::sqrt(2 * std::pow(0.002 / 1.5, 2) + std::pow(0.15 * 0.003 / 2.25, 2)), 1e-9));
    }
    void resistance_from_several_loads_leaves_out_what_the_meters_differ_by() {
        std::vector<LoadPoint> loads;
        for (double i : {0.0, 0.5, 1.0, 2.0, 3.0})
            loads.push_back({i, 0.004 + 0.085 * i, 0.0005});
        const auto fit = loopResistance(loads, {}, otterstone::testing::source("straight line"));
        QVERIFY(fit.has_value());
        QVERIFY(near(fit->ohms.value(), 0.085, 1e-9));
        QVERIFY(near(fit->offsetVolts, 0.004, 1e-9));
        // u(slope) = u / √Σ(x − x̄)², here 0.0005 / √5.8.
        QVERIFY(near(fit->ohms.u(), 0.0005 / std::sqrt(5.8), 1e-9));
        QVERIFY(!loopResistance(std::span(loads).first(1), {}, otterstone::testing::source("straight line")));
    }
    void a_current_read_too_large_makes_the_resistance_too_small() {
        const std::vector<LoadPoint> loads = {{0.0, 0.0, 1e-5}, {2.0, 0.2, 1e-5}};
        const auto fit = loopResistance(loads, {{{otterstone::testing::source("meter: amps gain"), 0.01}}, {}},
                                        otterstone::testing::source("straight line"));
        QVERIFY(near(fit->ohms.from(otterstone::testing::source("meter: amps gain")), -0.001, 1e-9));
    }

    void the_least_of_three_decides_data() {
        QTest::addColumn<double>("cableAmps");
        QTest::addColumn<QString>("charger");
        QTest::addColumn<QString>("bank");
        QTest::addColumn<double>("volts");
        QTest::addColumn<double>("watts");
        QTest::addColumn<QString>("binding");
        QTest::newRow("bank takes less") << 3.0 << "5V 3A, 9V 3A, 15V 3A, 20V 3.25A"
                                         << "5V 3A, 9V 2A" << 9.0 << 18.0 << "bank";
        QTest::newRow("charger lacks the voltage") << 3.0 << "5V 3A"
                                                   << "5V 3A, 9V 3A, 20V 3A" << 5.0 << 15.0 << "charger";
        QTest::newRow("charger is weak at the top") << 3.0 << "5V 3A, 9V 2.22A, 20V 1A"
                                                    << "5V 3A, 9V 3A, 20V 3A" << 20.0 << 20.0 << "charger";
        QTest::newRow("cable without a marker") << 3.0 << "20V 5A"
                                                << "20V 5A" << 20.0 << 60.0 << "cable";
        QTest::newRow("cable with a marker") << 5.0 << "20V 5A"
                                             << "20V 5A" << 20.0 << 100.0 << "bank";
        QTest::newRow("of equal watts the lower voltage") << 3.0 << "15V 2A, 20V 1.5A"
                                                          << "15V 2A, 20V 1.5A" << 15.0 << 30.0 << "bank";
        QTest::newRow("a range meets a fixed tier") << 3.0 << "3.3-11V 3A"
                                                    << "9V 2A" << 9.0 << 18.0 << "bank";
        QTest::newRow("two ranges meet at the lower top") << 3.0 << "3.3-11V 3A"
                                                          << "5-20V 3A" << 11.0 << 33.0 << "charger";
    }
    void the_least_of_three_decides() {
        QFETCH(double, cableAmps);
        QFETCH(QString, charger);
        QFETCH(QString, bank);
        QFETCH(double, volts);
        QFETCH(double, watts);
        QFETCH(QString, binding);
        const auto p = predictTier({*label::parseTiers(charger.toStdString(), "charger"), {}}, {Amps(cableAmps)},
                                   {*label::parseTiers(bank.toStdString(), "bank"), {}});
        QVERIFY(p.has_value());
        QCOMPARE(p->best.volts.value, volts);
        QVERIFY(near(p->best.watts().value, watts, 1e-9));
        QCOMPARE(QString::fromStdString(bindingName(p->best.binding)), binding);
        QVERIFY(p->working.parts.size() == p->meetings.size());
    }
    void a_ports_own_limit_counts() {
        const auto p = predictTier({{fixed(20, 5)}, Watts(65)}, {Amps(5)}, {{fixed(20, 5)}, Watts(45)});
        QVERIFY(near(p->best.watts().value, 45, 1e-9));
    }
    void strangers_share_no_voltage() { QVERIFY(!predictTier({{fixed(20, 1)}, {}}, {}, {{fixed(5, 3)}, {}})); }

    // USB PD power rules, from memory.
    void power_rules_data() {
        QTest::addColumn<double>("watts");
        QTest::addColumn<QString>("tiers");
        QTest::newRow("15") << 15.0 << "5 V 3 A";
        QTest::newRow("18") << 18.0 << "5 V 3 A; 9 V 2 A";
        QTest::newRow("27") << 27.0 << "5 V 3 A; 9 V 3 A";
        QTest::newRow("45") << 45.0 << "5 V 3 A; 9 V 3 A; 15 V 3 A";
        QTest::newRow("60") << 60.0 << "5 V 3 A; 9 V 3 A; 15 V 3 A; 20 V 3 A";
        QTest::newRow("100") << 100.0 << "5 V 3 A; 9 V 3 A; 15 V 3 A; 20 V 5 A";
        QTest::newRow("140") << 140.0 << "5 V 3 A; 9 V 3 A; 15 V 3 A; 20 V 5 A; 28 V 5 A";
    }
    void power_rules() {
        QFETCH(double, watts);
        QFETCH(QString, tiers);
        QCOMPARE(QString::fromStdString(label::showTiers(powerRuleTiers(Watts(watts)))), tiers);
    }
    void measured_below_predicted_asks_why() {
        const auto p = predictTier({{fixed(5, 3), fixed(9, 2)}, {}}, {}, {{fixed(5, 3), fixed(9, 2)}, {}});
        QVERIFY(whyBelow(Watts(15.4), *p).empty());
        const auto why = whyBelow(Watts(15.2), *p);
        QCOMPARE(why.size(), std::size_t(4));
        QVERIFY(why.back().find("9 V") != std::string::npos);
    }

    // Common practice: 4 mA at 5 V on a drain of 27.6 W at 14.19 V is at most 0.21 % either way.
    void own_draw_by_both_views() {
        const double hours = 2.78, wattHours = 27.6 * hours;
        const auto e = ownDrawEnergy({0.004, 5.0}, 14.19 * hours, hours, wattHours * 0.01, "meter");
        QVERIFY(near(e.constantCurrentWh / wattHours, 0.004 * 14.19 / 27.6, 1e-9));
        QVERIFY(e.constantCurrentWh / wattHours <= 0.0021);
        QVERIFY(near(e.constantPowerWh / wattHours, 0.02 / 27.6, 1e-9));
        QVERIFY(!e.matters); // below a third of 1 %
        QVERIFY(ownDrawEnergy({0.004, 5.0}, 14.19 * hours, hours, wattHours * 0.001, "meter").matters);
    }

    // Common practice: 19.3 V × 3.28 A is 63.3 W, not 44; 2.28 A would be 44.0.
    void slips_of_the_pen_data() {
        QTest::addColumn<QString>("volts");
        QTest::addColumn<QString>("amps");
        QTest::addColumn<QString>("watts");
        QTest::addColumn<QString>("likeliest");
        QTest::newRow("a digit misread") << "19.3"
                                         << "3.28"
                                         << "44"
                                         << "2.28";
        QTest::newRow("two digits swapped") << "5.1"
                                            << "2.0"
                                            << "12.0"
                                            << "10.2";
        QTest::newRow("the point misplaced") << "9"
                                             << "22.2"
                                             << "20"
                                             << "2.22";
        QTest::newRow("a decimal comma") << "4,85"
                                         << "2"
                                         << "7,9"
                                         << "9,7";
        QTest::newRow("within three per cent") << "5.02"
                                               << "1.01"
                                               << "5"
                                               << "";
        QTest::newRow("nothing explains it") << "5"
                                             << "1"
                                             << "47"
                                             << "";
    }
    void slips_of_the_pen() {
        QFETCH(QString, volts);
        QFETCH(QString, amps);
        QFETCH(QString, watts);
        QFETCH(QString, likeliest);
        const auto c = checkWatts(volts.toStdString(), amps.toStdString(), watts.toStdString());
        QVERIFY(c.has_value());
        QVERIFY(c->slips.size() <= 3);
        QStringList all;
        for (const Slip& s : c->slips)
            all << QString::fromStdString(s.instead);
        if (likeliest.isEmpty())
            QVERIFY2(all.isEmpty(), qPrintable(all.join(' ')));
        else
            QVERIFY2(all.contains(likeliest), qPrintable(QString::fromStdString(c->sentence)));
        QCOMPARE(c->sentence.empty(), c->agrees);
    }
    void what_is_no_number_is_named() {
        QCOMPARE(checkWatts("5", "x", "5").error().place, std::string("amps"));
        QCOMPARE(checkWatts("5", "1", "0").error().code, std::string("not_positive"));
    }

    void accuracy_per_range() {
        const auto m = parseMeter("volts 0.05%+2mV to 10V, volts 0.1%+5mV to 60V, amps 0.2%+3 digits", "accuracy");
        QVERIFY(m.has_value());
        QCOMPARE(m->voltsUpTo(9.0)->offset, 0.002);
        QCOMPARE(m->voltsUpTo(20.0)->offset, 0.005);
        QCOMPARE(m->voltsUpTo(80.0)->offset, 0.005);
        QCOMPARE(m->ampsUpTo(3.0)->digits, 3.0);
        QVERIFY(m->accuracyKnown());
        QCOMPARE(*parseMeter(showMeter(*m), "again"), *m);
        QVERIFY(!parseMeter("volts 0.05%+2mV to tomorrow", "accuracy"));
        QVERIFY(!parseMeter("clock 50ppm to 3s", "accuracy"));
    }
};

QTEST_APPLESS_MAIN(PathTest)
#include "path_test.moc"
