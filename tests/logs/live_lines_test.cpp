// Lines as instruments print them: read one by one, and recognised from what was heard.
#include <QTest>

#include "logs/live_lines.h"

using namespace otterstone;
using namespace otterstone::logs;

namespace {

LineFormat usual() {
    return {
        ',', '.', 4, {{Role::Time, 0, "s"}, {Role::Volts, 1, "V"}, {Role::Amps, 2, "A"}, {Role::Temperature, 3, ""}}};
}

QString inWords(const GuessedFormat& g) {
    QStringList all;
    for (const auto& c : g.format.meaning)
        all << QStringLiteral("%1=%2%3")
                   .arg(QString::fromStdString(roleKey(c.role)))
                   .arg(c.index + 1)
                   .arg(QString::fromStdString(c.unit));
    return all.join(QLatin1Char(' '));
}

} // namespace

class LiveLinesTest : public QObject {
    Q_OBJECT

private Q_SLOTS:
    void a_line_is_read_or_refused_whole_data() {
        QTest::addColumn<QByteArray>("line");
        QTest::addColumn<bool>("good");
        QTest::newRow("plain") << QByteArray("12.5,5.0712,0.9991,21.4") << true;
        QTest::newRow("spaces") << QByteArray(" 12.5 , 5.0712, 0.9991 ,21.4 ") << true;
        QTest::newRow("no temperature now") << QByteArray("12.5,5.0712,0.9991,nan") << true;
        QTest::newRow("a clock") << QByteArray("0:00:12.5,5.0712,0.9991,21.4") << true;
        QTest::newRow("cut at the end") << QByteArray("12.5,5.0712,0.9") << false;
        QTest::newRow("cut at the beginning") << QByteArray("5.0712,0.9991,21.4") << false;
        QTest::newRow("two run together") << QByteArray("12.5,5.0712,0.9913.5,5.0712,0.9991,21.4") << false;
        QTest::newRow("no reading") << QByteArray("12.5,nan,nan,21.4") << false;
        QTest::newRow("overload") << QByteArray("12.5,OL,0.9991,21.4") << false;
        QTest::newRow("noise in it") << QByteArray("12.5,5.0\x9c"
                                                   "712,0.9991,21.4")
                                     << false;
        QTest::newRow("noise before it") << QByteArray("\xff\xfe"
                                                       "12.5,5.0712,0.9991,21.4")
                                         << false;
        QTest::newRow("nothing") << QByteArray("") << false;
        QTest::newRow("words") << QByteArray("t,u,i,c") << false;
    }
    void a_line_is_read_or_refused_whole() {
        QFETCH(QByteArray, line);
        QFETCH(bool, good);
        const auto lines = LiveLines::make(usual(), "test");
        QVERIFY(lines);
        const auto read = lines->read({line.constData(), static_cast<std::size_t>(line.size())});
        QCOMPARE(read.has_value(), good);
        if (good) {
            QCOMPARE(*read->time, 12.5);
            QCOMPARE(read->volts, 5.0712);
            QCOMPARE(read->amps, 0.9991);
        } else {
            QVERIFY(!read.error().empty());
        }
    }
    void units_are_scaled() {
        const auto lines = LiveLines::make(
            {';',
             ',',
             4,
             {{Role::Time, 0, "ms"}, {Role::Volts, 1, "mV"}, {Role::Amps, 2, "mA"}, {Role::Temperature, 3, "°F"}}},
            "test");
        const auto read = lines->read("1500;5071,2;999,1;68");
        QVERIFY(read);
        QCOMPARE(*read->time, 1.5);
        QCOMPARE(read->volts, 5.0712);
        QVERIFY(std::abs(read->amps - 0.9991) < 1e-12);
        QVERIFY(std::abs(*read->celsius - 20.0) < 1e-9);
    }
    void a_format_without_sense_is_refused_data() {
        QTest::addColumn<int>("which");
        QTest::addColumn<QString>("code");
        QTest::newRow("no volts") << 0 << "no_volts_column";
        QTest::newRow("no amps") << 1 << "no_amps_column";
        QTest::newRow("beyond the line") << 2 << "unknown_column";
        QTest::newRow("a unit of something else") << 3 << "unknown_unit";
    }
    void a_format_without_sense_is_refused() {
        QFETCH(int, which);
        QFETCH(QString, code);
        LineFormat f = usual();
        if (which == 0)
            f.meaning.erase(f.meaning.begin() + 1);
        else if (which == 1)
            f.meaning.erase(f.meaning.begin() + 2);
        else if (which == 2)
            f.meaning[2].index = 9;
        else
            f.meaning[1].unit = "kg";
        const auto lines = LiveLines::make(f, "meter.json");
        QVERIFY(!lines);
        QCOMPARE(QString::fromStdString(lines.error().code), code);
        QVERIFY(!lines.error().mend.empty());
    }
    void what_was_heard_is_recognised_data() {
        QTest::addColumn<QStringList>("lines");
        QTest::addColumn<QString>("means"); // empty: refused
        QTest::newRow("time volts amps") << QStringList{"0.0,5.07,1.00", "1.0,5.07,1.01", "2.0,5.06,1.00",
                                                        "3.0,5.07,0.99", "4.0,5.07,1.00"}
                                         << "time=1s volts=2 amps=3";
        QTest::newRow("with watts") << QStringList{"5.07;1.00;5.07", "5.07;1.01;5.12", "5.06;1.00;5.06",
                                                   "5.07;0.99;5.02", "5.07;2.00;10.14"}
                                    << "volts=1 amps=2";
        QTest::newRow("amps before volts, told by watts")
            << QStringList{"1.00 5.07 5.07", "1.01 5.07 5.12", "1.00 5.06 5.06", "0.99 5.07 5.02", "2.00 5.07 10.14"}
            << "volts=2 amps=1";
        QTest::newRow("millis") << QStringList{"1000,5070,1000", "2000,5071,1001", "3000,5069,1000", "4000,5070,999",
                                               "5000,5070,1000"}
                                << "time=1ms volts=2mV amps=3mA";
        QTest::newRow("decimal commas") << QStringList{"0,0;5,07;1,00", "1,0;5,07;1,01", "2,0;5,06;1,00",
                                                       "3,0;5,07;0,99", "4,0;5,07;1,00"}
                                        << "time=1s volts=2 amps=3";
        QTest::newRow("temperature last")
            << QStringList{"0.0,5.07,1.00,21.4", "1.0,5.07,1.01,21.4", "2.0,5.06,1.00,21.5", "3.0,5.07,0.99,21.5",
                           "4.0,5.07,1.0,21.5"}
            << "time=1s volts=2 amps=3 temperature=4";
        QTest::newRow("a header among them") << QStringList{"t [s],U [V],I [mA]", "0.0,5.07,1000", "1.0,5.07,1010",
                                                            "2.0,5.06,1000",      "3.0,5.07,990",  "4.0,5.07,1000"}
                                             << "time=1 volts=2 amps=3mA";
        QTest::newRow("a clock") << QStringList{"0:00:01,20.1,2.5", "0:00:02,20.1,2.5", "0:00:03,20.1,2.5",
                                                "0:00:04,20.1,2.5", "0:00:05,20.1,2.5"}
                                 << "time=1s volts=2 amps=3";
        QTest::newRow("garbage") << QStringList{"\x8f\x9c", "a\x92", "\x88\x99\x9a", "zz", "??"} << "";
        QTest::newRow("words") << QStringList{"hello", "ready", "ok", "ok", "ok"} << "";
        QTest::newRow("no volts among them")
            << QStringList{"0.1,0.2", "0.1,0.2", "0.1,0.3", "0.1,0.2", "0.1,0.2"} << "";
        QTest::newRow("too few") << QStringList{"0.0,5.07,1.00"} << "";
    }
    void what_was_heard_is_recognised() {
        QFETCH(QStringList, lines);
        QFETCH(QString, means);
        std::vector<std::string> heard;
        for (const QString& l : lines)
            heard.push_back(l.toStdString());
        const auto guessed = guessFormat(heard, "port");
        QCOMPARE(guessed.has_value(), !means.isEmpty());
        if (!guessed) {
            QVERIFY(!guessed.error().mend.empty());
            return;
        }
        QCOMPARE(inWords(*guessed), means);
        QVERIFY(guessed->reasons.size() >= guessed->format.meaning.size());
        // What was proposed reads the lines it came from.
        const auto reader = LiveLines::make(guessed->format, "port");
        QVERIFY(reader);
        QVERIFY(reader->read(heard.back()).has_value());
    }
    void noise_never_becomes_a_reading_it_was_not() {
        // Bytes above 127 anywhere in a line: it is refused, whatever the place.
        const auto lines = LiveLines::make(usual(), "test");
        const std::string good = "12.5,5.0712,0.9991,21.4";
        for (std::size_t at = 0; at <= good.find_last_of(','); ++at) {
            for (const char byte : {'\x80', '\xa7', '\xff'}) {
                std::string spoiled = good;
                spoiled.insert(at, 1, byte);
                QVERIFY2(!lines->read(spoiled), spoiled.c_str());
            }
        }
    }
};

QTEST_APPLESS_MAIN(LiveLinesTest)
#include "live_lines_test.moc"
