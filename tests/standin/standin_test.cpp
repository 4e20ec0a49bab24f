// The stand-in's instruments: SCPI spellings, what a load, a trigger and the hands do, faults, the watchdog, and the
// pseudo-terminal.
#include <QTest>

#include <QFile>
#include <QTemporaryDir>

#include <cmath>
#include <fcntl.h>
#include <nlohmann/json.hpp>
#include <termios.h>
#include <unistd.h>

#include "logs/live_lines.h"
#include "standin/pty.h"
#include "standin/scpi_words.h"
#include "standin/world.h"

using namespace otterstone;
using namespace otterstone::standin;

namespace {

Scene scene() {
    Scene s;
    s.bank.ports = {{"C", label::Direction::In, {}, *label::parseTiers("5 V 3 A, 9 V 2 A", ""), 0.0, 0.0},
                    {"A", label::Direction::Out, *label::parseTiers("5 V 3 A, 9 V 2 A", ""), {}, 0.0, 0.0}};
    s.charger.tiers = *label::parseTiers("5 V 3 A, 9 V 2 A", "");
    s.choosePorts();
    return s;
}

// A world whose meter's lines are kept.
struct Kept {
    World world{scene()};
    std::vector<std::string> lines;
    Kept() {
        world.printed = [this](int meter, const std::string& line) {
            if (meter == 0)
                lines.push_back(line);
        };
    }
    [[nodiscard]] int readable() const {
        const auto reader = logs::LiveLines::make({',',
                                                   '.',
                                                   4,
                                                   {{logs::Role::Time, 0, ""},
                                                    {logs::Role::Volts, 1, ""},
                                                    {logs::Role::Amps, 2, ""},
                                                    {logs::Role::Temperature, 3, ""}}},
                                                  "");
        int count = 0;
        for (const std::string& l : lines)
            count += reader->read(l).has_value();
        return count;
    }
    [[nodiscard]] nlohmann::json truth() const { return nlohmann::json::parse(world.truth()); }
};

} // namespace

class StandinTest : public QObject {
    Q_OBJECT

private Q_SLOTS:
    // SCPI-1999, volume 1, 6.2.1: the short form is the capitals, either form in either case, nothing between.
    void scpi_words_have_two_spellings_data() {
        QTest::addColumn<QString>("line");
        QTest::addColumn<bool>("matches");
        QTest::addColumn<QString>("parameter");
        QTest::newRow("long") << "MEASure:VOLTage?" << true << "";
        QTest::newRow("short") << "MEAS:VOLT?" << true << "";
        QTest::newRow("small letters") << "meas:voltage?" << true << "";
        QTest::newRow("from the root") << ":MEAS:VOLT?" << true << "";
        QTest::newRow("with a parameter") << "MEAS:VOLT? MAX " << true << "MAX";
        QTest::newRow("half a word") << "MEASU:VOLT?" << false << "";
        QTest::newRow("another") << "MEAS:CURR?" << false << "";
        QTest::newRow("no question") << "MEAS:VOLT" << false << "";
        QTest::newRow("a word too many") << "MEAS:VOLT:DC?" << false << "";
        QTest::newRow("a word too few") << "MEAS?" << false << "";
    }
    void scpi_words_have_two_spellings() {
        QFETCH(QString, line);
        QFETCH(bool, matches);
        QFETCH(QString, parameter);
        const std::string text = line.toStdString();
        const auto got = parameterOf(text, "MEASure:VOLTage?");
        QCOMPARE(got.has_value(), matches);
        if (got)
            QCOMPARE(QString::fromUtf8(got->data(), static_cast<int>(got->size())), parameter);
    }
    void the_load_does_what_it_is_told_data() {
        QTest::addColumn<QString>("function");
        QTest::addColumn<QString>("level");
        QTest::addColumn<double>("amps"); // at 5 V less the cable
        QTest::newRow("current") << "CURR"
                                 << "CURR 1.5" << 1.5;
        QTest::newRow("resistance") << "RESistance"
                                    << "RES 5" << 5.0 / (5.0 + 0.02 + 0.058);
        QTest::newRow("power") << "POW"
                               << "POWer 4" << (5.0 - std::sqrt(25.0 - 4.0 * 0.078 * 4.0)) / (2.0 * 0.078);
        QTest::newRow("a level for another function") << "CURR"
                                                      << "POW 4" << 0.0;
    }
    void the_load_does_what_it_is_told() {
        QFETCH(QString, function);
        QFETCH(QString, level);
        QFETCH(double, amps);
        Kept k;
        QVERIFY(!k.world.load(0, "*IDN?").empty());
        (void)k.world.load(0, ("SOUR:FUNC " + function).toStdString());
        (void)k.world.load(0, ("SOUR:" + level).toStdString());
        (void)k.world.load(0, "INP ON");
        k.world.advance(2.0);
        QCOMPARE(k.world.load(0, "INPut?"), std::string("1"));
        QVERIFY2(std::fabs(std::stod(k.world.load(0, "MEAS:CURR?")) - amps) < 0.002,
                 k.world.load(0, "MEAS:CURR?").c_str());
        (void)k.world.load(0, "INPut OFF");
        k.world.advance(0.2);
        QCOMPARE(k.world.load(0, "MEAS:CURR?"), std::string("0.0000"));
        QCOMPARE(k.truth().at("load_on").get<bool>(), false);
    }
    void an_unknown_command_is_remembered_as_an_error() {
        Kept k;
        QCOMPARE(k.world.load(0, "JUMP"), std::string());
        QVERIFY(k.world.load(0, "SYST:ERR?").starts_with("-113"));
        QVERIFY(k.world.load(0, "SYST:ERR?").starts_with("0"));
    }
    void the_trigger_changes_the_tier_and_the_hands_the_plugs() {
        Kept k;
        (void)k.world.trigger(0, "SOUR:VOLT 9");
        (void)k.world.load(0, "SOUR:CURR 1");
        (void)k.world.load(0, "INP ON");
        k.world.advance(2.0);
        QVERIFY(std::stod(k.world.trigger(0, "MEAS:VOLT?")) == 9.0);
        QVERIFY(std::stod(k.world.thermometer("MEASure:TEMPerature?")) >= 20.0);
        (void)k.world.load(0, "INP OFF");
        k.world.advance(60.0);
        QCOMPARE(k.truth().at("in_wh").get<double>(), 0.0);
        QCOMPARE(k.world.control("HANDs:CHARger IN"), std::string("done"));
        k.world.advance(600.0);
        QVERIFY(k.truth().at("in_wh").get<double>() > 0.0);
        const double soc = k.truth().at("soc");
        QCOMPARE(k.world.control("HANDs:CHARger OUT"), std::string("done"));
        QCOMPARE(k.world.control("HANDs:DEVice IN"), std::string("done"));
        k.world.advance(600.0);
        QVERIFY(k.truth().at("soc").get<double>() < soc - 0.01);
        QCOMPARE(k.world.control("HANDs:WAVe"), std::string("unknown command"));
        QCOMPARE(k.world.control("FAULt earthquake"), std::string("there is no such fault"));
    }
    // In step: whoever reads the meter can act before more time passes.
    void time_stops_where_a_reading_jumps() {
        Kept k;
        (void)k.world.control("TIME?");
        QVERIFY(!k.world.advance(100.0, true)); // the port came on
        QVERIFY(k.world.advance(100.0, true));
        (void)k.world.load(0, "SOUR:CURR 1");
        (void)k.world.load(0, "INP ON");
        const double on = k.world.seconds();
        QVERIFY(!k.world.advance(20.0, true));
        QVERIFY(k.world.seconds() - on <= 1.0 + 1e-6); // a line each second
        QVERIFY(k.world.advance(20.0, true));          // it flows on
        (void)k.world.trigger(0, "SOUR:VOLT 9");
        int jumps = 0; // off, and on again at another level
        while (!k.world.advance(20.0, true))
            ++jumps;
        QVERIFY(jumps >= 1 && jumps <= 3);
        (void)k.world.load(0, "INP OFF");
        QVERIFY(k.world.advance(20.0)); // all of it where nobody asked
        QVERIFY(k.world.advance(20.0, true));
    }
    void a_load_that_hears_nothing_switches_itself_off() {
        Kept k;
        (void)k.world.load(0, "SOUR:CURR 1");
        (void)k.world.load(0, "INP ON");
        for (int n = 0; n < 10; ++n) {
            k.world.advance(20.0);
            (void)k.world.load(0, "MEAS:VOLT?");
            QCOMPARE(k.truth().at("load_on").get<bool>(), true);
        }
        k.world.advance(29.0);
        QCOMPARE(k.truth().at("load_on").get<bool>(), true);
        k.world.advance(2.0);
        QCOMPARE(k.truth().at("load_on").get<bool>(), false);
        (void)k.world.load(0, "INP ON");
        k.world.loadLeftAlone(0); // or at once, when nobody is connected any more
        QCOMPARE(k.truth().at("load_on").get<bool>(), false);
        (void)k.world.load(0, "SYSTem:WATChdog 0");
        (void)k.world.load(0, "INP ON");
        k.world.loadLeftAlone(0);
        k.world.advance(3600.0);
        QCOMPARE(k.truth().at("load_on").get<bool>(), true); // as told
    }
    void faults_do_what_they_are_called_data() {
        QTest::addColumn<QString>("fault");
        QTest::addColumn<int>("leastLines");
        QTest::addColumn<int>("mostLines");
        QTest::addColumn<int>("mostReadable");
        QTest::newRow("none") << "" << 100 << 100 << 100;
        QTest::newRow("noise") << "noise 0" << 100 << 100 << 80;
        QTest::newRow("silence") << "silence 0" << 0 << 0 << 0;
        QTest::newRow("silence for a while") << "silence 30" << 69 << 71 << 71;
        QTest::newRow("no numbers") << "nan 0" << 100 << 100 << 0;
        QTest::newRow("partial") << "partial 0" << 100 << 100 << 80;
    }
    void faults_do_what_they_are_called() {
        QFETCH(QString, fault);
        QFETCH(int, leastLines);
        QFETCH(int, mostLines);
        QFETCH(int, mostReadable);
        Kept k;
        if (!fault.isEmpty())
            QCOMPARE(k.world.control("FAULt " + fault.toStdString()), std::string("done"));
        k.world.advance(100.0);
        const int lines = static_cast<int>(k.lines.size());
        QVERIFY2(lines >= leastLines && lines <= mostLines, qPrintable(QString::number(lines)));
        QVERIFY2(k.readable() <= mostReadable, qPrintable(QString::number(k.readable())));
        if (fault.isEmpty())
            QCOMPARE(k.readable(), 100);
    }
    void clocks_run_slow_and_begin_anew() {
        Kept k;
        k.world.advance(100.0);
        QVERIFY(std::fabs(std::stod(k.lines.back()) - 100.0) < 0.02);
        (void)k.world.control("FAULt slow-clock 0 0.9");
        k.world.advance(100.0);
        QVERIFY2(std::fabs(std::stod(k.lines.back()) - 190.0) < 0.02, k.lines.back().c_str());
        (void)k.world.control("FAULt restart");
        k.world.advance(10.0);
        QVERIFY2(std::fabs(std::stod(k.lines.back()) - 9.0) < 0.02, k.lines.back().c_str());
    }
    void the_meter_errs_within_its_accuracy() {
        for (unsigned seed = 0; seed < 40; ++seed) {
            Scene s = scene();
            s.meter = *path::parseMeter("volts 0.5%+10mV, amps 1%+5mA", "");
            s.seed = seed;
            World world(s);
            std::string last;
            world.printed = [&](int meter, const std::string& line) { last = meter == 0 ? line : last; };
            (void)world.load(0, "SOUR:CURR 2");
            (void)world.load(0, "INP ON");
            world.advance(5.0);
            double t = 0.0, v = 0.0, i = 0.0;
            QCOMPARE(std::sscanf(last.c_str(), "%lf,%lf,%lf", &t, &v, &i), 3);
            const double trueVolts = 5.0 - 2.0 * (0.02 + 0.058);
            QVERIFY(std::fabs(v - trueVolts) <= 0.005 * trueVolts + 0.010 + 0.003);
            QVERIFY(std::fabs(i - 2.0) <= 0.01 * 2.0 + 0.005 + 0.003);
        }
    }
    void the_terminal_knows_who_listens_and_at_what_rate() {
        QTemporaryDir folder;
        Pty pty(folder.filePath("meter").toStdString());
        QVERIFY(pty.open(115200));
        QVERIFY(!pty.heard());
        QCOMPARE(pty.baud(), 115200);
        const int fd = ::open(pty.link().c_str(), O_RDWR | O_NOCTTY);
        QVERIFY(fd >= 0);
        QVERIFY(pty.heard());
        pty.write("12.5,5.0\n");
        char bytes[32] = {};
        QCOMPARE(::read(fd, bytes, sizeof bytes), ssize_t(9));
        termios t{};
        QVERIFY(::tcgetattr(fd, &t) == 0);
        ::cfsetspeed(&t, B9600);
        QVERIFY(::tcsetattr(fd, TCSANOW, &t) == 0);
        QCOMPARE(pty.baud(), 9600);
        pty.write(std::string(100'000, 'x')); // more than the line holds: it waits
        QVERIFY(pty.waiting() > 0);
        pty.drop();
        pty.close(); // unplugged: the name is gone, the reader sees the end
        QVERIFY(!QFile::exists(folder.filePath("meter")));
        ::close(fd);
        QVERIFY(pty.open(115200)); // and plugged in again, under the same name
        QVERIFY(QFile::exists(folder.filePath("meter")));
    }
};

QTEST_GUILESS_MAIN(StandinTest)
#include "standin_test.moc"
