// A1 to A5: what a label says. Limits are common practice, no published source, unless said otherwise beside the check.
#include <QTest>

#include "core/label/conflicts.h"
#include "core/label/decoder.h"
#include "core/label/rating.h"
#include "core/path/meter.h"

using namespace otterstone;
using label::Label;

namespace {

Label basic(double mah, double volts) {
    Label l;
    l.capacity = AmpHours(mah / 1000.0);
    l.cellVolts = Volts(volts);
    return l;
}

label::Port port(std::vector<label::Tier> tiers, std::optional<double> watts = std::nullopt) {
    label::Port p;
    p.name = "C";
    p.tiers = std::move(tiers);
    if (watts)
        p.watts = Watts(*watts);
    return p;
}

label::Tier tier(double v, double a) { return {Volts(v), Volts(v), Amps(a)}; }

QStringList codes(const Label& l) {
    QStringList out;
    for (const auto& c : label::conflicts(l))
        out << QString::fromStdString(c.code);
    return out;
}

} // namespace

class LabelTest : public QObject {
    Q_OBJECT

private Q_SLOTS:
    void rated_energy_is_the_printed_one_or_the_product() {
        Label l = basic(20000, 3.7);
        QCOMPARE(label::ratedEnergy(l)->energy.value, 74.0);
        QVERIFY(!label::ratedEnergy(l)->printed);
        l.energy = WattHours(72.0);
        QCOMPARE(label::ratedEnergy(l)->energy.value, 72.0);
        QVERIFY(label::ratedEnergy(l)->printed);
        QVERIFY(!label::ratedEnergy(Label{}).has_value());
        // 72 Wh printed: 61.2 Wh are expected of a drain, 86.4 Wh of a recharge; of a bare label nothing.
        QVERIFY(std::fabs(label::usualEnergy(l, label::Way::Out)->value - 61.2) < 1e-9);
        QVERIFY(std::fabs(label::usualEnergy(l, label::Way::In)->value - 86.4) < 1e-9);
        QVERIFY(!label::usualEnergy(Label{}, label::Way::Out).has_value());
    }

    void flight_class_goes_by_rated_energy_alone_data() {
        // 100 Wh and 160 Wh: ICAO Technical Instructions, from memory.
        QTest::addColumn<double>("wh");
        QTest::addColumn<QString>("key");
        QTest::newRow("small") << 37.0 << "carry-on";
        QTest::newRow("at the limit") << 100.0 << "carry-on";
        QTest::newRow("just over") << 100.1 << "ask-carrier";
        QTest::newRow("at the upper limit") << 160.0 << "ask-carrier";
        QTest::newRow("over") << 160.1 << "not-on-board";
        QTest::newRow("unknown") << -1.0 << "unknown";
    }
    void flight_class_goes_by_rated_energy_alone() {
        QFETCH(double, wh);
        QFETCH(QString, key);
        const auto rated = wh < 0.0 ? std::nullopt : std::optional(WattHours(wh));
        QCOMPARE(QString::fromStdString(label::flightKey(label::flightClass(rated))), key);
    }
    void watts_never_decide_about_flying() {
        Label l = basic(27000, 3.7);
        l.totalWatts = Watts(140.0);
        QCOMPARE(label::flightClass(label::ratedEnergy(l)->energy), label::FlightClass::CarryOn);
    }

    void unexplained_figures_are_decoded() {
        Label l = basic(20000, 3.7);
        l.alsoPrinted = "15.4V 18.5Wh";
        QString all;
        for (const auto& r : label::decode(l))
            all += QString::fromStdString(r.text) + QLatin1Char('\n');
        QVERIFY2(all.contains("four cells in series at 3.85 V"), qPrintable(all));
        QVERIFY2(all.contains("one 5.0 Ah cell at 3.7 V"), qPrintable(all));
        QVERIFY2(all.contains("four of them make 74 Wh"), qPrintable(all));
        QVERIFY2(all.contains("consistent"), qPrintable(all));
    }
    void every_printed_number_is_explained_or_named_data() {
        QTest::addColumn<QString>("printed");
        QTest::addColumn<QString>("says");
        QTest::addColumn<QString>("unexplained");
        QTest::newRow("a rated output")
            << "5V 6000mAh"
            << "6000 mAh at 5 V reads as the rated output: 30 Wh, 81.1 % of the rated energy."
            << "";
        QTest::newRow("at another nominal voltage")
            << "3.85V 38.5Wh"
            << "38.5 Wh is the energy of the whole bank with its 10000 mAh counted at 3.85 V instead of 3.7 V: 4.1 % more than the rated 37 Wh, from the same cells."
            << "";
        QTest::newRow("the whole energy") << "37Wh"
                                          << "37 Wh is the energy of the whole bank."
                                          << "";
        QTest::newRow("a port's watts") << "22.5W"
                                        << "22.5 W is what the label says of C1."
                                        << "";
        QTest::newRow("a number that nothing explains") << "41.3Wh 7A"
                                                        << ""
                                                        << "41.3 Wh, 7 A";
        QTest::newRow("a tier's volts") << "9V"
                                        << ""
                                        << "";
    }
    void every_printed_number_is_explained_or_named() {
        QFETCH(QString, printed);
        QFETCH(QString, says);
        QFETCH(QString, unexplained);
        Label l = basic(10000, 3.7);
        label::Port c1;
        c1.name = "C1";
        c1.direction = label::Direction::Out;
        c1.tiers = *label::parseTiers("5V 3A, 9V 2.5A", "");
        l.ports.push_back(c1);
        l.alsoPrinted = printed.toStdString();
        QString all;
        bool named = false;
        for (const auto& r : label::decode(l)) {
            all += QString::fromStdString(r.text) + QLatin1Char('\n');
            named = named || r.code == "unexplained";
        }
        QVERIFY2(all.contains(says), qPrintable(all));
        QCOMPARE(named, !unexplained.isEmpty());
        QVERIFY2(unexplained.isEmpty() || all.contains("Nothing else on the label explains " + unexplained + "."),
                 qPrintable(all));
    }
    void a_series_pack_is_seen_through_data() {
        QTest::addColumn<double>("wh");
        QTest::addColumn<QString>("says");
        QTest::newRow("li-ion") << 37.0 << "lithium-ion";
        QTest::newRow("iron phosphate") << 32.0 << "iron phosphate";
        QTest::newRow("two in series") << 74.0 << "two cells in series";
        QTest::newRow("four in series") << 148.0 << "four cells in series";
    }
    void a_series_pack_is_seen_through() {
        QFETCH(double, wh);
        QFETCH(QString, says);
        Label l;
        l.capacity = AmpHours(10.0);
        l.energy = WattHours(wh);
        QVERIFY(!label::decode(l).empty());
        QVERIFY2(label::decode(l)[0].text.find(says.toStdString()) != std::string::npos,
                 label::decode(l)[0].text.c_str());
    }
    void cells_that_cannot_be_put_in_series_are_told() {
        Label l = basic(15000, 3.7);
        l.alsoPrinted = "14.8 V, 5000 mAh"; // three cells by charge, four by voltage
        bool told = false;
        for (const auto& r : label::decode(l))
            told |= r.code == "inconsistent";
        QVERIFY(told);
    }

    void contradictions_are_found_data() {
        QTest::addColumn<QString>("code"); // empty: an honest label
        QTest::addColumn<Label>("label");
        Label l = basic(20000, 3.7);
        l.energy = WattHours(74);
        QTest::newRow("honest") << "" << l;
        l.energy = WattHours(73.6);
        QTest::newRow("rounded Wh are honest") << "" << l;
        l.energy = WattHours(72.5);
        QTest::newRow("Wh off by 2 %") << "energy_mismatch" << l;
        l = basic(10000, 3.7);
        l.energy = WattHours(55);
        l.cellVolts.reset();
        QTest::newRow("5.5 V per cell") << "implied_volts_implausible" << l;
        l = basic(10000, 3.7);
        l.ports = {port({tier(5, 3), tier(9, 3)}, 18.0)};
        QTest::newRow("27 W tier of an 18 W port") << "tier_above_port" << l;
        l.ports = {port({tier(5, 2.4)}, 12.0)};
        QTest::newRow("exact tier") << "" << l;
        l.ports = {port({tier(20, 3.25)}, 65.0)};
        l.totalWatts = Watts(45);
        QTest::newRow("port above the total") << "port_above_total" << l;
        l = basic(10000, 3.7);
        l.ports = {port({tier(5, 3)})};
        l.totalAmps = Amps(2.4);
        QTest::newRow("port's current above the total") << "current_above_total" << l;
        l = basic(10000, 3.7);
        l.ports = {port({tier(5, 3)}, 15.0), port({tier(5, 3)}, 15.0)};
        for (auto& p : l.ports)
            p.sharedWatts = Watts(12);
        l.totalWatts = Watts(18);
        QTest::newRow("shares above the total") << "shares_above_total" << l;
        l.totalWatts = Watts(24);
        QTest::newRow("shares within the total") << "" << l;
        l = basic(10000, 3.7);
        l.outputCapacity = AmpHours(9.0);
        QTest::newRow("output of 122 %") << "output_share_implausible" << l;
        l.outputCapacity = AmpHours(6.0);
        QTest::newRow("output of 81 %") << "" << l;
        l.outputCapacity = AmpHours(3.0);
        QTest::newRow("output of 41 %") << "output_share_implausible" << l;
        l = basic(50000, 3.7);
        l.weightGrams = 400;
        QTest::newRow("463 Wh/kg") << "density_implausible" << l;
        l.weightGrams = 1000;
        l.size = label::SizeMm{100, 60, 40};
        QTest::newRow("771 Wh/L") << "density_implausible" << l;
        l = basic(20000, 3.7);
        l.inputWatts = Watts(18);
        l.rechargeTime = Hours(3);
        QTest::newRow("faster than its input allows") << "recharge_too_fast" << l;
        l.rechargeTime = Hours(5);
        QTest::newRow("slow enough") << "" << l;
    }
    void contradictions_are_found() {
        QFETCH(QString, code);
        QFETCH(Label, label);
        QCOMPARE(codes(label), code.isEmpty() ? QStringList() : QStringList(code));
    }

    void tiers_are_read_in_any_spelling_data() {
        QTest::addColumn<QString>("text");
        QTest::addColumn<double>("low");
        QTest::addColumn<double>("high");
        QTest::addColumn<double>("amps");
        QTest::newRow("contract") << "9Vx2A" << 9.0 << 9.0 << 2.0;
        QTest::newRow("spaces") << "9 V 2 A" << 9.0 << 9.0 << 2.0;
        QTest::newRow("comma") << "20V/1,25A" << 20.0 << 20.0 << 1.25;
        QTest::newRow("times") << "5V×2.4A" << 5.0 << 5.0 << 2.4;
        QTest::newRow("range") << "3.3-11V 5A" << 3.3 << 11.0 << 5.0;
        QTest::newRow("watts instead of amps") << "20V 100W" << 20.0 << 20.0 << 5.0;
        QTest::newRow("bare") << "9x2" << 9.0 << 9.0 << 2.0;
        QTest::newRow("milliamps") << "5V 500mA" << 5.0 << 5.0 << 0.5;
    }
    void tiers_are_read_in_any_spelling() {
        QFETCH(QString, text);
        QFETCH(double, low);
        QFETCH(double, high);
        QFETCH(double, amps);
        const auto t = label::parseTier(text.toStdString(), "--tier");
        QVERIFY(t.has_value());
        QCOMPARE(t->low.value, low);
        QCOMPARE(t->high.value, high);
        QCOMPARE(t->amps.value, amps);
        const auto again = label::parseTier(label::showTier(*t), "--tier");
        QVERIFY(again.has_value() && *again == *t);
    }
    void what_is_no_tier_is_refused() {
        for (const char* text : {"", "fast", "9V", "0V 2A", "9V 0A", "11-3.3V 5A"})
            QVERIFY2(!label::parseTier(text, "--tier").has_value(), text);
    }
    void the_best_tier_is_the_one_of_most_watts() {
        const auto best = label::bestTier({tier(20, 1.25), tier(15, 2), tier(5, 3)});
        QCOMPARE(best->watts().value, 30.0);
        QCOMPARE(best->high.value, 15.0);
        QVERIFY(!label::bestTier({}).has_value());
    }

    void a_meters_accuracy_is_read_and_written_again() {
        const auto m = path::parseMeter("volts 0.05%+2mV, amps 0,1 % + 3 mA; clock 50ppm", "--meter");
        QVERIFY(m.has_value());
        QVERIFY(qFuzzyCompare(m->volts->gain, 0.0005));
        QVERIFY(qFuzzyCompare(m->volts->offset, 0.002));
        QVERIFY(qFuzzyCompare(m->amps->gain, 0.001));
        QVERIFY(qFuzzyCompare(m->amps->offset, 0.003));
        QVERIFY(qFuzzyCompare(*m->clock, 50e-6));
        QCOMPARE(path::showMeter(*path::parseMeter(path::showMeter(*m), "")), path::showMeter(*m));
        for (const char* wrong : {"volts", "volts fast", "ohms 1%", "volts -1%", "volts 1%+2mA"})
            QVERIFY2(!path::parseMeter(wrong, "--meter").has_value(), wrong);
    }
};

QTEST_APPLESS_MAIN(LabelTest)
#include "label_test.moc"
