// The small parts of the recogniser, word by word: headers, units, times, cells, dialects.
#include <QTest>

#include <cmath>

#include "logs/columns.h"
#include "logs/dialect.h"
#include "logs/source.h"
#include "logs/time_cell.h"

using namespace otterstone;
using logs::Role;

namespace {

// The role whose name fits a header best, or "none".
QString bestRole(const std::string& header) {
    const logs::HeaderCell cell = logs::splitHeader(header);
    int best = 0;
    QString role = QStringLiteral("none");
    for (std::size_t k = 0; k < logs::kRoles; ++k) {
        const int score = logs::nameScore(static_cast<Role>(k), cell);
        if (score > best) {
            best = score;
            role = QString::fromStdString(logs::roleKey(static_cast<Role>(k)));
        }
    }
    return role;
}

std::vector<std::string> lines(const char* text) {
    std::vector<std::string> out;
    for (const QString& line : QString::fromUtf8(text).split('\n'))
        out.push_back(line.toStdString());
    return out;
}

} // namespace

class ColumnsTest : public QObject {
    Q_OBJECT

private Q_SLOTS:
    void headers_are_taken_apart_data() {
        QTest::addColumn<QString>("name");
        QTest::addColumn<QString>("unit");
        const auto row = [](const char* cell, const char* name, const char* unit) {
            QTest::newRow(cell) << name << unit;
        };
        row("Voltage [mV]", "voltage", "mV");
        row("U(V)", "u", "V");
        row("Current(mA)", "current", "mA");
        row("Power/W", "power", "W");
        row("time_s", "time", "s");
        row("volts_v", "volts", "v");
        row("temperature_c", "temperature", "c");
        row("Time (h:m:s)", "time", "h:m:s");
        row("Elapsed", "elapsed", "");
        row("Bus voltage (V)", "bus voltage", "V");
        row("Spannung V", "spannung", "V");
        row("\"Current [A]\"", "current", "A");
        row("state_of_charge", "state of charge", "");
        row("VBUS", "vbus", "");
        row("Temp. (°C)", "temp.", "°C");
        row("A", "a", "");
        row("Date/Time", "date/time", "");
    }
    void headers_are_taken_apart() {
        QFETCH(QString, name);
        QFETCH(QString, unit);
        const auto cell = logs::splitHeader(QTest::currentDataTag());
        QCOMPARE(QString::fromStdString(cell.name), name);
        QCOMPARE(QString::fromStdString(cell.unit), unit);
    }

    void the_usual_words_name_their_role_data() {
        QTest::addColumn<QString>("role");
        const auto rows = [](const char* role, std::initializer_list<const char*> headers) {
            for (const char* h : headers)
                QTest::newRow(h) << role;
        };
        rows("time", {"Time", "time_s", "Elapsed", "Elapsed [s]", "Timestamp", "Zeit", "Zeit (h:m:s)", "t", "t [s]",
                      "Uptime (ms)", "Tiempo", "Seconds", "Record time", "Laufzeit [min]", "Time(ms)"});
        rows("date", {"Date", "Datum"});
        rows("volts", {"Voltage", "Voltage [mV]", "U(V)", "Spannung", "VBUS", "V", "mV", "Bus voltage (V)", "volts_v",
                       "Tension (V)", "Voltaje", "U [V]", "Output voltage/V"});
        rows("amps", {"Current", "Current(mA)", "I(A)", "Strom", "Strom [mA]", "IBUS", "A", "Courant (A)", "amps", "I",
                      "Load current (A)"});
        rows("watts", {"Power", "Power/W", "P(W)", "Leistung", "W", "Puissance [W]", "watts_w"});
        rows("temperature", {"Temperature", "Temp (°C)", "Temperatur [°C]", "T [°C]", "temperature_c", "Temp(F)"});
        rows("percent", {"Percent", "SOC", "Battery %", "State of charge", "SOC (%)", "Ladestand", "percent"});
        rows("energy", {"Energy", "Energy(mWh)", "Energie [Wh]", "Wh", "mWh"});
        rows("charge", {"Capacity", "Capacity(mAh)", "mAh", "Ah", "Ladung [mAh]", "Charge (Ah)"});
        rows("none", {"D+", "D- (V)", "D+ voltage", "CC1 (V)", "Set current (A)", "Voltage limit", "Resistance", "Note",
                      "Phase", "No.", "Max voltage", "Peak power (W)", "Ripple (mV)", "Speed [km/h]"});
    }
    void the_usual_words_name_their_role() {
        QFETCH(QString, role);
        QCOMPARE(bestRole(QTest::currentDataTag()), role);
    }

    void units_have_their_factors_data() {
        QTest::addColumn<int>("role");
        QTest::addColumn<double>("of100"); // what 100 of it are in SI; NaN: no unit of this role
        const auto row = [](const char* unit, Role role, double si) {
            QTest::newRow(unit) << static_cast<int>(role) << si;
        };
        row("s", Role::Time, 100.0);
        row("ms", Role::Time, 0.1);
        row("min", Role::Time, 6000.0);
        row("h", Role::Time, 360000.0);
        row("µs", Role::Time, 1e-4);
        row("V", Role::Volts, 100.0);
        row("mV", Role::Volts, 0.1);
        row("MV", Role::Volts, 0.1); // nobody logs megavolts at a power bank
        row("kV", Role::Volts, 1e5);
        row("A", Role::Amps, 100.0);
        row("mA", Role::Amps, 0.1);
        row("µA", Role::Amps, 1e-4);
        row("W", Role::Watts, 100.0);
        row("mW", Role::Watts, 0.1);
        row("°C", Role::Temperature, 100.0);
        row("°F", Role::Temperature, 37.7777777778); // GNU units: tempF(100) is 37.777778 °C
        row("K", Role::Temperature, -173.15);
        row("%", Role::Percent, 100.0);
        row("Wh", Role::EnergyCounter, 100.0);
        row("mWh", Role::EnergyCounter, 0.1);
        row("J", Role::EnergyCounter, 0.0277777778); // GNU units: 100 joule is 0.027777778 Wh
        row("mAh", Role::ChargeCounter, 0.1);
        row("Ah", Role::ChargeCounter, 100.0);
        row("furlong", Role::Volts, NAN);
        row("mA ", Role::Volts, NAN);
    }
    void units_have_their_factors() {
        QFETCH(int, role);
        QFETCH(double, of100);
        const auto unit =
            logs::unitFor(static_cast<Role>(role), QString::fromUtf8(QTest::currentDataTag()).toStdString());
        QCOMPARE(unit.has_value(), !std::isnan(of100));
        if (unit)
            QVERIFY(std::fabs(100.0 * unit->factor + unit->offset - of100) < 1e-9);
    }
    void keys_of_roles_go_there_and_back() {
        for (std::size_t k = 0; k < logs::kRoles; ++k)
            QCOMPARE(static_cast<std::size_t>(*logs::roleFromKey(logs::roleKey(static_cast<Role>(k)))), k);
        QVERIFY(!logs::roleFromKey("smell").has_value());
    }

    void clocks_are_read_data() {
        QTest::addColumn<int>("parts");
        QTest::addColumn<double>("seconds"); // negative: refused
        QTest::newRow("0:00:00") << 3 << 0.0;
        QTest::newRow("1:02:03") << 3 << 3723.0;
        QTest::newRow("01:02:03.25") << 3 << 3723.25;
        QTest::newRow("1:02:03,5") << 3 << 3723.5;
        QTest::newRow("123:00:00") << 3 << 442800.0;
        QTest::newRow("02:03") << 2 << 123.0;
        QTest::newRow("75:03.5") << 2 << 4503.5;
        QTest::newRow("1:60:00") << 3 << -1.0;
        QTest::newRow("1:02") << 3 << -1.0;
        QTest::newRow("1:02:03 PM") << 3 << -1.0;
        QTest::newRow("noon") << 3 << -1.0;
        QTest::newRow("") << 3 << -1.0;
    }
    void clocks_are_read() {
        QFETCH(int, parts);
        QFETCH(double, seconds);
        const auto read = logs::parseClock(QTest::currentDataTag(), parts);
        QCOMPARE(read.has_value(), seconds >= 0.0);
        if (read)
            QVERIFY(std::fabs(*read - seconds) < 1e-9);
    }
    void date_times_are_read_data() {
        // Seconds from `date -u -d ... +%s`.
        QTest::addColumn<double>("seconds"); // negative: refused
        QTest::addColumn<bool>("zoned");
        QTest::newRow("2026-04-02T10:00:00Z") << 1775124000.0 << true;
        QTest::newRow("2026-04-02T10:00:00") << 1775124000.0 << false;
        QTest::newRow("2026-04-02 10:00:00.5") << 1775124000.5 << false;
        QTest::newRow("2026-04-02T12:00:00+02:00") << 1775124000.0 << true;
        QTest::newRow("2026-04-02T04:30:00-0530") << 1775124000.0 << true;
        QTest::newRow("2026-04-02T11:00+01") << 1775124000.0 << true;
        QTest::newRow("2026/04/02 10:00") << 1775124000.0 << false;
        QTest::newRow("02.04.2026 10:00:00") << 1775124000.0 << false;
        QTest::newRow("2024-02-29T00:00:00Z") << 1709164800.0 << true;
        QTest::newRow("2025-02-29T00:00:00Z") << -1.0 << false;
        QTest::newRow("2026-13-02T10:00:00") << -1.0 << false;
        QTest::newRow("04/02/2026 10:00:00") << -1.0 << false;
        QTest::newRow("2026-04-02") << -1.0 << false;
        QTest::newRow("2026-04-02T10:00:00 CET") << -1.0 << false;
        QTest::newRow("10:00:00") << -1.0 << false;
    }
    void date_times_are_read() {
        QFETCH(double, seconds);
        QFETCH(bool, zoned);
        const auto read = logs::parseIso(QTest::currentDataTag());
        QCOMPARE(read.has_value(), seconds >= 0.0);
        if (read) {
            QVERIFY(std::fabs(read->seconds - seconds) < 1e-6);
            QCOMPARE(read->zoned, zoned);
        }
    }

    void cells_are_numbers_or_not_data() {
        QTest::addColumn<char>("mark");
        QTest::addColumn<double>("value"); // NaN: none
        QTest::newRow("5.01") << '.' << 5.01;
        QTest::newRow("5,01") << ',' << 5.01;
        QTest::newRow("-0.5") << '.' << -0.5;
        QTest::newRow("+0.5") << '.' << 0.5;
        QTest::newRow(" 7 ") << '.' << 7.0;
        QTest::newRow("1e3") << '.' << 1000.0;
        QTest::newRow(".5") << '.' << 0.5;
        QTest::newRow("5.01 with a comma mark") << ',' << double(NAN);
        QTest::newRow("5V") << '.' << double(NAN);
        QTest::newRow("nan") << '.' << double(NAN);
        QTest::newRow("inf") << '.' << double(NAN);
        QTest::newRow("--") << '.' << double(NAN);
        QTest::newRow("1e999") << '.' << double(NAN);
    }
    void cells_are_numbers_or_not() {
        QFETCH(char, mark);
        QFETCH(double, value);
        const QString cell = QString::fromLatin1(QTest::currentDataTag()).section(" with", 0, 0);
        const auto read = logs::parseCell(cell.toStdString(), mark);
        QCOMPARE(read.has_value(), !std::isnan(value));
        if (read)
            QCOMPARE(*read, value);
    }
    void readings_that_are_none_are_known() {
        for (const char* none : {"", " ", "NaN", "OL", "O.L", "overload", "---", "n/a", "inf"})
            QVERIFY2(logs::isNoReading(none), none);
        for (const char* some : {"0", "5.0", "cold", "0:00"})
            QVERIFY2(!logs::isNoReading(some), some);
    }
    void lines_are_cut_with_their_quotes_data() {
        QTest::addColumn<char>("delimiter");
        QTest::addColumn<QStringList>("cells");
        QTest::newRow("a,b,c") << ',' << QStringList{"a", "b", "c"};
        QTest::newRow(" a ; b ") << ';' << QStringList{"a", "b"};
        QTest::newRow("a,,c,") << ',' << QStringList{"a", "", "c", ""};
        QTest::newRow("\"a,b\",c") << ',' << QStringList{"a,b", "c"};
        QTest::newRow("\"say \"\"hi\"\"\",2") << ',' << QStringList{"say \"hi\"", "2"};
        QTest::newRow("  1   2    3 ") << ' ' << QStringList{"1", "2", "3"};
        QTest::newRow("5\" pipe,2") << ',' << QStringList{"5\" pipe", "2"};
        QTest::newRow("\"open,2") << ',' << QStringList{"open,2"};
    }
    void lines_are_cut_with_their_quotes() {
        QFETCH(char, delimiter);
        QFETCH(QStringList, cells);
        QStringList cut;
        for (const std::string& c : logs::splitLine(QTest::currentDataTag(), delimiter))
            cut << QString::fromStdString(c);
        QCOMPARE(cut, cells);
    }

    void dialects_are_told_apart_data() {
        QTest::addColumn<QString>("text");
        QTest::addColumn<char>("delimiter");
        QTest::addColumn<char>("decimal");
        QTest::addColumn<int>("header"); // line, -1: none
        QTest::addColumn<int>("units");
        QTest::addColumn<int>("first");
        const auto row = [](const char* name, const char* text, char delimiter, char decimal, int header, int units,
                            int first) {
            QTest::newRow(name) << text << delimiter << decimal << header << units << first;
        };
        row("commas", "t,u,i\n0,5.0,1\n1,5.1,1", ',', '.', 0, -1, 1);
        row("semicolons and decimal commas", "t;u;i\n0;5,0;1\n1;5,1;1", ';', ',', 0, -1, 1);
        row("semicolons and points", "t;u;i\n0;5.0;1\n1;5.1;1", ';', '.', 0, -1, 1);
        row("whole numbers only", "t,u,i\n0,5000,1000\n1,5001,1000", ',', '.', 0, -1, 1);
        row("tabs", "t\tu\ti\n0\t5,0\t1\n1\t5,1\t1", '\t', ',', 0, -1, 1);
        row("spaces", "t u i\n0 5.0 1\n1 5.1 1", ' ', '.', 0, -1, 1);
        row("date and time with commas", "t,u,i\n2026-04-02 10:00:00,5.0,1\n2026-04-02 10:00:01,5.1,1", ',', '.', 0, -1,
            1);
        row("units row", "t,u,i\ns,V,A\n0,5.0,1\n1,5.1,1", ',', '.', 0, 1, 2);
        row("units alone are the header", "s,V,A\n0,5.0,1\n1,5.1,1", ',', '.', 0, -1, 1);
        row("preamble with a colon", "Device: box\nRate: 1, 2\n\nt,u,i\n0,5.0,1\n1,5.1,1\n2,5.2,1", ',', '.', 3, -1, 4);
        row("blank line under the header", "t,u,i\n\n0,5.0,1\n1,5.1,1", ',', '.', 0, -1, 2);
        row("no header", "0,5.0,1\n1,5.1,1\n2,5.1,1", ',', '.', -1, -1, 0);
        row("text among the columns", "t,u,state\n0,5.0,CC\n1,5.1,CV", ',', '.', 0, -1, 1);
        row("separator hint", "sep=;\nt;u;i\n0;5,0;1\n1;5,1;1", ';', ',', 1, -1, 2);
    }
    void dialects_are_told_apart() {
        QFETCH(QString, text);
        QFETCH(char, delimiter);
        QFETCH(char, decimal);
        QFETCH(int, header);
        QFETCH(int, units);
        QFETCH(int, first);
        const auto d = logs::recogniseDialect(lines(text.toUtf8().constData()), "log");
        QVERIFY(d.has_value());
        QCOMPARE(d->delimiter, delimiter);
        QCOMPARE(d->decimal, decimal);
        QCOMPARE(d->headerLine ? static_cast<int>(*d->headerLine) : -1, header);
        QCOMPARE(d->unitsLine ? static_cast<int>(*d->unitsLine) : -1, units);
        QCOMPARE(static_cast<int>(d->firstDataLine), first);
    }

    void encodings_are_recognised_data() {
        QTest::addColumn<QByteArray>("bytes");
        QTest::addColumn<int>("encoding");
        using E = logs::Encoding;
        QTest::newRow("ASCII") << QByteArray("time,volts\n0,5\n") << static_cast<int>(E::Utf8);
        QTest::newRow("UTF-8") << QByteArray("Zeit,Stärke\n0,5\n") << static_cast<int>(E::Utf8);
        QTest::newRow("UTF-8 with a mark") << QByteArray("\xEF\xBB\xBFtime\n") << static_cast<int>(E::Utf8Bom);
        QTest::newRow("Latin-1") << QByteArray("Zeit,St\xE4rke\n0,5\n") << static_cast<int>(E::Latin1);
        QTest::newRow("UTF-16 LE") << QByteArray("\xFF\xFEt\0i\0\n\0", 8) << static_cast<int>(E::Utf16Le);
        QTest::newRow("UTF-16 BE") << QByteArray("\xFE\xFF\0t\0i\0\n", 8) << static_cast<int>(E::Utf16Be);
        QTest::newRow("UTF-16 LE bare") << QByteArray("t\0i\0m\0e\0\n\0", 10) << static_cast<int>(E::Utf16Le);
    }
    void encodings_are_recognised() {
        QFETCH(QByteArray, bytes);
        QFETCH(int, encoding);
        const auto log = logs::openText(bytes.toStdString(), "log");
        QVERIFY(log.has_value());
        QCOMPARE(static_cast<int>(log->encoding), encoding);
    }
    void utf8_is_told_from_other_bytes() {
        QVERIFY(logs::isUtf8("plain"));
        QVERIFY(logs::isUtf8("°C Ω"));
        QVERIFY(!logs::isUtf8("\xB0"
                              "C"));
        QVERIFY(!logs::isUtf8("\xC2"));
        QCOMPARE(logs::latin1ToUtf8("\xB0"
                                    "C"),
                 std::string("°C"));
    }
};

QTEST_APPLESS_MAIN(ColumnsTest)
#include "columns_test.moc"
