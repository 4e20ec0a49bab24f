// Thirty made-up honest labels raise nothing; each of them, bent in one place, is caught there.
#include <QTest>

#include "core/label/conflicts.h"
#include "core/label/decoder.h"
#include "core/label/port_text.h"
#include "core/label/rating.h"
#include "core/label/size_text.h"

using namespace otterstone;
using label::Label;

namespace {

struct Printed {
    const char* name;
    double mah, volts, wh; // wh 0: not printed
    double outputMah;      // at 5 V; 0: not printed
    double grams;
    double inputWatts, hours;
    const char* tiers; // of its one port
    double portWatts;
};

// Invented; every figure follows from the others as an honest maker would round them.
constexpr Printed kHonest[] = {
    {"Grain 2", 2000, 3.7, 7.4, 0, 60, 5, 1.9, "5V 1A", 5},
    {"Grain 3", 3000, 3.7, 11.1, 1850, 78, 10, 1.5, "5V 1A", 5},
    {"Pebble 4", 4000, 3.85, 15.4, 2500, 95, 10, 2, "5V 2A", 10},
    {"Pebble 5", 5000, 3.7, 18.5, 3000, 121, 10, 2.9, "5V 2.4A", 12},
    {"Pebble 5 thin", 5000, 3.87, 19.35, 3000, 110, 12, 2, "5V 2.4A; 9V 2.22A", 20},
    {"Gravel 6", 6000, 3.2, 19.2, 0, 190, 10, 2.5, "5V 2A", 10},
    {"Gravel 7", 6700, 3.7, 24.79, 4000, 150, 15, 2, "5V 3A", 15},
    {"Gravel 8", 8000, 3.6, 28.8, 4900, 170, 18, 2, "5V 3A; 9V 2A", 18},
    {"Cobble 10", 10000, 3.7, 37, 6100, 214, 18, 3.2, "5V 3A; 9V 2.22A", 20},
    {"Cobble 10 mini", 10000, 3.85, 38.5, 6200, 180, 20, 2.5, "5V 3A; 9V 2.22A; 12V 1.67A", 20},
    {"Cobble 10 solar", 10000, 3.7, 37, 6000, 330, 10, 4.5, "5V 2.1A", 10.5},
    {"Cobble 12", 12000, 3.7, 44.4, 7300, 260, 18, 3, "5V 3A; 9V 2A; 12V 1.5A", 18},
    {"Cobble 13", 13400, 3.6, 48.24, 8000, 258, 27, 2.2, "5V 3A; 9V 3A", 27},
    {"Scree 15", 15000, 3.7, 55.5, 9000, 302, 30, 2.6, "5V 3A; 9V 3A; 15V 2A; 20V 1.5A", 30},
    {"Scree 15 plain", 15000, 3.7, 0, 9000, 320, 10, 7, "5V 2.4A", 12},
    {"Scree 16", 16000, 3.65, 58.4, 9800, 320, 30, 2.5, "5V 3A; 15V 2A", 30},
    {"Boulder 18", 18000, 3.7, 66.6, 11000, 370, 45, 2, "5V 3A; 9V 3A; 15V 3A; 20V 2.25A", 45},
    {"Boulder 20", 20000, 3.7, 74, 12000, 398, 45, 2.4, "5V 3A; 9V 3A; 15V 3A; 20V 2.25A", 45},
    {"Boulder 20 A", 20000, 3.85, 77, 12500, 380, 18, 6, "5V 2.4A", 12},
    {"Boulder 20 iron", 20000, 3.2, 64, 0, 590, 45, 2, "5V 3A; 20V 2.25A", 45},
    {"Boulder 22", 22000, 3.6, 79.2, 13000, 430, 60, 2, "5V 3A; 20V 3A", 60},
    {"Boulder 24", 24000, 3.6, 86.4, 14000, 630, 65, 2, "5V 3A; 20V 3.25A", 65},
    {"Menhir 25", 25000, 3.6, 90, 15000, 560, 65, 2, "5V 3A; 9V 3A; 15V 3A; 20V 3.25A", 65},
    {"Menhir 26", 26800, 3.7, 99.16, 16000, 560, 60, 2.5, "5V 3A; 20V 3A; 3.3-21V 3A", 60},
    {"Menhir 27", 27000, 3.7, 99.9, 16500, 571, 65, 1.9, "5V 3A; 20V 5A", 100},
    {"Menhir 27 max", 27650, 3.6, 99.54, 17000, 660, 140, 1.2, "5V 3A; 20V 5A; 28V 5A", 140},
    {"Dolmen 30", 30000, 3.7, 111, 18000, 640, 65, 2.5, "5V 3A; 20V 3.25A", 65},
    {"Dolmen 40", 40000, 3.6, 144, 24000, 880, 100, 2, "5V 3A; 20V 5A", 100},
    {"Dolmen 43", 43200, 3.7, 159.84, 26000, 930, 100, 2.5, "5V 3A; 20V 5A", 100},
    {"Dolmen 50", 50000, 3.7, 185, 30000, 1130, 60, 3.5, "5V 3A; 20V 3A", 60},
};

Label labelOf(const Printed& p) {
    Label l;
    l.capacity = AmpHours(p.mah / 1000.0);
    l.cellVolts = Volts(p.volts);
    if (p.wh > 0.0)
        l.energy = WattHours(p.wh);
    if (p.outputMah > 0.0) {
        l.outputCapacity = AmpHours(p.outputMah / 1000.0);
        l.outputVolts = Volts(5.0);
    }
    l.weightGrams = p.grams;
    l.inputWatts = Watts(p.inputWatts);
    l.rechargeTime = Hours(p.hours);
    label::Port port;
    port.name = "C";
    port.tiers = *label::parseTiers(p.tiers, "tiers");
    port.watts = Watts(p.portWatts);
    l.ports = {port};
    l.totalWatts = Watts(p.portWatts);
    return l;
}

bool has(const Label& l, const char* code) {
    for (const auto& c : label::conflicts(l)) {
        if (c.code == code)
            return true;
    }
    return false;
}

} // namespace

class LabelsTest : public QObject {
    Q_OBJECT

private Q_SLOTS:
    void honest_labels_raise_nothing_data() { fill(); }
    void honest_labels_raise_nothing() {
        const Label l = labelOf(kHonest[row()]);
        const auto conflicts = label::conflicts(l);
        QVERIFY2(conflicts.empty(), conflicts.empty() ? "" : conflicts.front().text.c_str());
        QVERIFY(label::ratedEnergy(l).has_value());
        for (const auto& reading : label::decode(l))
            QVERIFY2(reading.code != "inconsistent", reading.text.c_str());
    }
    void a_lie_in_one_place_is_caught_there_data() { fill(); }
    void a_lie_in_one_place_is_caught_there() {
        const Printed& p = kHonest[row()];
        const auto bent = [&](auto bend) {
            Label l = labelOf(p);
            bend(l);
            return l;
        };
        const double rated = label::ratedEnergy(labelOf(p))->energy.value;
        QVERIFY(has(bent([&](Label& l) { l.energy = WattHours(rated * 1.05); }), "energy_mismatch"));
        QVERIFY(has(bent([&](Label& l) {
                        l.outputCapacity = AmpHours(rated * 1.1 / 5.0);
                        l.outputVolts = Volts(5.0);
                    }),
                    "output_share_implausible"));
        QVERIFY(has(bent([&](Label& l) { l.weightGrams = rated / 260.0 * 1000.0; }), "density_implausible"));
        QVERIFY(has(bent([&](Label& l) {
                        l.size = label::SizeMm{rated / 610.0 * 1000.0, 100, 10};
                    }),
                    "density_implausible"));
        QVERIFY(has(bent([&](Label& l) {
                        l.rechargeTime = Hours(rated / l.inputWatts->value * 0.95 * 0.5);
                        l.inputWatts = Watts(l.inputWatts->value);
                        l.ports.clear();
                    }),
                    "recharge_too_fast"));
        QVERIFY(has(bent([&](Label& l) {
                        l.ports[0].tiers.push_back({Volts(20), Volts(20), Amps(p.portWatts / 20.0 * 1.2 + 0.1)});
                    }),
                    "tier_above_port"));
        QVERIFY(has(bent([&](Label& l) { l.totalWatts = Watts(p.portWatts * 0.8); }), "port_above_total"));
        QVERIFY(has(bent([&](Label& l) { l.totalAmps = Amps(0.5); }), "current_above_total"));
    }
    // Honest combinations raise nothing; one watt too many in one place is told there.
    void combinations_are_held_against_the_rest_data() {
        QTest::addColumn<QString>("shared");
        QTest::addColumn<QString>("code");
        QTest::newRow("fits") << "C1 45 W + A 15 W"
                              << "";
        QTest::newRow("fits twice") << "C1 45 W + A 15 W; C1 40 W + C2 20 W"
                                    << "";
        QTest::newRow("above the total") << "C1 60 W + A 15 W"
                                         << "combination_above_total";
        QTest::newRow("above the port") << "C1 40 W + A 25 W"
                                        << "combination_above_port";
        QTest::newRow("unknown port") << "C1 40 W + C9 15 W"
                                      << "combination_unknown_port";
    }
    void combinations_are_held_against_the_rest() {
        QFETCH(QString, shared);
        QFETCH(QString, code);
        Label l;
        l.totalWatts = Watts(65.0);
        l.ports = {{"C1", label::Direction::Both, {}, Watts(60.0), {}},
                   {"C2", label::Direction::Out, {}, Watts(30.0), {}},
                   {"A", label::Direction::Out, {}, Watts(18.0), {}}};
        l.shared = *label::parseShared(shared.toStdString(), "test");
        QString codes;
        for (const auto& c : label::conflicts(l))
            codes += QString::fromStdString(c.code);
        QCOMPARE(codes, code);
    }
    void ports_of_any_name_stand_together_data() {
        QTest::addColumn<QString>("written");
        QTest::addColumn<QString>("shown"); // empty: refused
        QTest::newRow("one word") << "C1 45 W + A 15 W"
                                  << "C1 45 W + A 15 W";
        QTest::newRow("two words") << "USB C 45 W + Pad 2 15 W"
                                   << "USB C 45 W + Pad 2 15 W";
        QTest::newRow("no unit, no space") << "Front USB A 10 + C1 45W"
                                           << "Front USB A 10 W + C1 45 W";
        QTest::newRow("half watts") << "Pad one 7.5 W + C1 20 W"
                                    << "Pad one 7.5 W + C1 20 W";
        QTest::newRow("watts alone") << "45 W + A 15 W"
                                     << "";
        QTest::newRow("a name alone") << "USB C + A 15 W"
                                      << "";
        QTest::newRow("amperes") << "USB C 3 A + A 15 W"
                                 << "";
        QTest::newRow("nothing given") << "USB C 0 W + A 15 W"
                                       << "";
    }
    void ports_of_any_name_stand_together() {
        QFETCH(QString, written);
        QFETCH(QString, shown);
        const auto read = label::parseShared(written.toStdString(), "test");
        QCOMPARE(read ? QString::fromStdString(label::showShared(*read)) : QString(), shown);
    }
    void a_port_in_one_line_data() {
        QTest::addColumn<QString>("text");
        QTest::addColumn<QString>("shown"); // what is read again
        QTest::addColumn<QString>("in");    // what it takes; nothing where it takes none
        const auto row = [](const char* text, const char* shown, const char* in) {
            QTest::newRow(text) << QString::fromUtf8(text) << QString::fromUtf8(shown) << QString::fromUtf8(in);
        };
        row("C1 out 5Vx3A 9Vx3A 27W in 9Vx2A 18W shared 15W", "C1 out 5Vx3A 9Vx3A 27W in 9Vx2A 18W shared 15W",
            "9 V 2 A");
        row("C1 out 5 V 3 A, 9 V x 3 A 27 W in 9V 2A", "C1 out 5Vx3A 9Vx3A 27W in 9Vx2A", "9 V 2 A");
        row("USB C 2 both 5Vx3A; 3.3-11Vx5A 45W", "USB C 2 both 5Vx3A 3.3-11Vx5A 45W", "5 V 3 A; 3.3–11 V 5 A");
        row("A out 5V2,4A", "A out 5Vx2.4A", "");
        row("Micro in 5Vx2A", "Micro in 5Vx2A", "5 V 2 A");
        row("pad out 15W", "pad out 15W", "");
        row("C out 5Vx3A 20V 100W", "C out 5Vx3A 20Vx5A", "");
        row("C out 5Vx3A in", "C both 5Vx3A", "5 V 3 A"); // what is printed holds both ways
    }
    void a_port_in_one_line() {
        QFETCH(QString, text);
        QFETCH(QString, shown);
        QFETCH(QString, in);
        const auto port = label::parsePort(text.toStdString(), "port");
        QVERIFY2(port.has_value(), port ? "" : port.error().sentence().c_str());
        QCOMPARE(QString::fromStdString(label::showPort(*port)), shown);
        QCOMPARE(QString::fromStdString(label::showTiers(port->tiersFor(label::Way::In))), in);
        const auto again = label::parsePort(label::showPort(*port), "port");
        QVERIFY(again && *again == *port);
    }
    void a_size_in_one_line() {
        for (const char* text : {"106 × 68 × 25", "106x68x25 mm", "106 mm x 68 mm x 25 mm", "106 68 25"}) {
            const auto size = label::parseSize(text, "size");
            QVERIFY2(size && *size == (label::SizeMm{106.0, 68.0, 25.0}), text);
        }
        for (const char* text : {"", "106 x 68", "106 x 68 x 0", "10 cm x 6 cm x 2 cm", "1 x 2 x 3 x 4"})
            QVERIFY2(!label::parseSize(text, "size"), text);
    }
    void the_flight_class_of_each_follows_its_energy_data() { fill(); }
    void the_flight_class_of_each_follows_its_energy() {
        const double rated = label::ratedEnergy(labelOf(kHonest[row()]))->energy.value;
        const auto flight = label::flightClass(WattHours(rated));
        QCOMPARE(flight, rated <= 100.0   ? label::FlightClass::CarryOn
                         : rated <= 160.0 ? label::FlightClass::AskCarrier
                                          : label::FlightClass::NotOnBoard);
        QVERIFY(!label::flightSentence(flight).empty());
    }
    void tiers_survive_writing_and_reading_data() { fill(); }
    void tiers_survive_writing_and_reading() {
        const auto tiers = *label::parseTiers(kHonest[row()].tiers, "tiers");
        QCOMPARE(*label::parseTiers(label::showTiers(tiers), "tiers") == tiers, true);
    }

private:
    static void fill() {
        QTest::addColumn<int>("row");
        for (int k = 0; k < static_cast<int>(std::size(kHonest)); ++k)
            QTest::newRow(kHonest[k].name) << k;
    }
    static int row() {
        QFETCH(int, row);
        return row;
    }
};

QTEST_APPLESS_MAIN(LabelsTest)
#include "labels_test.moc"
