// Every dialect imports with the right columns and units, without help; what cannot be read says why.
#include <QTest>

#include <cmath>
#include <fstream>
#include <sstream>

#include <QProcess>
#include <QTemporaryDir>

#include "logs/csv.h"
#include "logs/log.h"
#include "where.h"

using namespace otterstone;
using logs::Role;

namespace {

std::string data(const QString& name) { return (where::data("logs/" + name)).toStdString(); }

// The made-up readings that tests/data/logs/make.py writes into every good log.
constexpr std::size_t kRows = 11;
double voltsOf(std::size_t row) { return 5.0 - 0.01 * static_cast<double>(row); }

logs::Log must(const Result<logs::Log>& log) {
    if (!log)
        qFatal("%s", log.error().sentence().c_str());
    return *log;
}

Result<logs::Log> fromText(const std::string& text, const logs::Mapping& hand = {}) {
    const auto opened = logs::openText(text, "pasted text");
    return opened ? logs::readLog(*opened, hand) : tl::unexpected(opened.error());
}

} // namespace

class LogsTest : public QObject {
    Q_OBJECT

private Q_SLOTS:
    void every_dialect_is_read_without_help_data() {
        QTest::addColumn<QString>("columns"); // roles in order of the file, with the column's number
        QTest::addColumn<int>("form");
        QTest::addColumn<double>("start"); // first time in seconds
        QTest::addColumn<int>("skipped");
        const auto row = [](const char* name, const char* columns, logs::TimeForm form = logs::TimeForm::Elapsed,
                            double start = 0.0, int skipped = 0) {
            QTest::newRow(name) << columns << static_cast<int>(form) << start << skipped;
        };
        using F = logs::TimeForm;
        const char* three = "time 1, volts 2, amps 3";
        row("plain.csv", three);
        row("milli_units.csv", three);
        row("semicolon_comma.csv", three);
        row("tab_decimal_comma.txt", three);
        row("spaces.txt", three);
        row("spaces_wide_header.txt", three);
        row("bom.csv", three);
        row("crlf.csv", three);
        row("no_final_newline.csv", three);
        row("preamble.csv", three);
        row("units_row.csv", three);
        row("bracketed_units_row.csv", three);
        row("clock.csv", three, F::Clock);
        row("minute_clock.csv", three, F::MinuteClock);
        row("past_midnight.csv", three, F::Clock, 86340.0);
        row("iso.csv", three, F::Iso);
        row("iso_zone.csv", three, F::Iso);
        row("iso_space.csv", three, F::Iso);
        row("dotted_date.csv", three, F::Iso);
        row("date_and_time.csv", "time 2, date 1, volts 3, amps 4", F::DateAndClock);
        row("epoch_s.csv", three, F::EpochSeconds);
        row("epoch_ms.csv", three, F::EpochMilliseconds);
        row("serial_days.csv", three, F::SpreadsheetSerial);
        row("quoted.csv", three);
        row("quoted_decimal_comma.csv", three);
        row("blank_and_repeated.csv", three, F::Elapsed, 0.0, 12);
        row("nan_and_ol.csv", three, F::Elapsed, 0.0, 3);
        row("negative.csv", three);
        row("power_only.csv", "time 1, watts 2");
        row("volts_and_power.csv", "time 1, volts 2, watts 3");
        row("many_columns.csv", "time 2, volts 3, amps 4, watts 5, temperature 10, percent 11, energy 9, charge 8");
        row("bars.txt", three);
        row("minutes.csv", three);
        row("latin1.csv", "time 1, volts 2, amps 3, temperature 4");
        row("utf16le_bom.txt", three);
        row("utf16be_bom.txt", three);
        row("utf16le_bare.txt", three);
        row("old_line_ends.csv", three);
    }
    void every_dialect_is_read_without_help() {
        QFETCH(QString, columns);
        QFETCH(int, form);
        QFETCH(double, start);
        QFETCH(int, skipped);
        const logs::Log log = must(logs::readLogFile(data(QString::fromLatin1(QTest::currentDataTag()))));
        QStringList found;
        for (const auto& c : log.recognition.columns) {
            found << QStringLiteral("%1 %2").arg(QString::fromStdString(logs::roleKey(c.role))).arg(c.index + 1);
            QVERIFY(!c.reason.empty());
        }
        QCOMPARE(found.join(", "), columns);
        QCOMPARE(static_cast<int>(log.recognition.timeForm), form);
        QCOMPARE(log.skippedLines, static_cast<std::size_t>(skipped));
        QCOMPARE(log.firstSkipped.size(), std::min<std::size_t>(10, static_cast<std::size_t>(skipped)));
        QCOMPARE(log.trace.size(), kRows);
        for (std::size_t k = 0; k < kRows; ++k) {
            QVERIFY2(std::fabs(log.trace.time[k] - (start + 10.0 * static_cast<double>(k))) < 1e-4,
                     qPrintable(QString::number(log.trace.time[k])));
            QVERIFY(std::fabs(std::fabs(log.trace.power(k)) - 2.0 * voltsOf(k)) < 1e-9);
            if (!log.trace.volts.empty()) {
                QVERIFY(std::fabs(log.trace.volts[k] - voltsOf(k)) < 1e-9);
                QVERIFY(std::fabs(std::fabs(log.trace.amps[k]) - 2.0) < 1e-9);
            }
        }
    }
    void side_columns_come_with_their_units() {
        const logs::Log log = must(logs::readLogFile(data(QStringLiteral("many_columns.csv"))));
        QVERIFY(std::fabs(log.trace.temperature[0] - 25.0) < 1e-9); // 77 °F
        QCOMPARE(log.trace.percent[10], 50.0);
        QVERIFY(std::fabs(*log.counterAmpHours - 2.0 * 100.0 / 3600.0) < 1e-4);
        QVERIFY(std::fabs(*log.counterWattHours - 10.0 * 100.0 / 3600.0) < 1e-4);
    }
    void dates_say_when_the_run_began() {
        // 2026-04-02 10:00:00 +02:00 is 08:00 UTC; `date -u -d @1775116800`.
        QCOMPARE(*must(logs::readLogFile(data(QStringLiteral("iso_zone.csv")))).startedAt, 1775116800.0);
        QCOMPARE(*must(logs::readLogFile(data(QStringLiteral("iso.csv")))).startedAt, 1775124000.0);
        QCOMPARE(*must(logs::readLogFile(data(QStringLiteral("dotted_date.csv")))).startedAt, 1775124000.0);
        QVERIFY(!must(logs::readLogFile(data(QStringLiteral("plain.csv")))).startedAt.has_value());
    }

    void malformed_logs_say_what_where_and_how_to_mend_data() {
        QTest::addColumn<QString>("code");
        QTest::addColumn<QString>("says");
        const auto row = [](const char* name, const char* code, const char* says) {
            QTest::newRow(name) << code << says;
        };
        row("empty.csv", "empty_log", "the file is empty");
        row("blank.csv", "empty_log", "the file is empty");
        row("prose.txt", "no_table", "no table of numbers");
        row("header_only.csv", "no_table", "no table of numbers");
        row("one_row.csv", "no_rows", "fewer than two lines");
        row("no_header.csv", "no_header", "line 1: the numbers begin without a line that names the columns");
        row("no_time.csv", "no_time_column", "line 1: no column names a time");
        row("no_volts.csv", "no_volts_column", "line 1: no column names volts");
        row("no_amps.csv", "no_amps_column", "line 1: no column names amps");
        row("slash_dates.csv", "ambiguous_date", "nobody can tell the day from the month");
        row("time_is_words.csv", "no_time_column", "are no time: “soon”");
        row("all_nan.csv", "no_rows", "Line 2: no reading in “volts”");
        row("stands_still.csv", "time_stands_still", "all rows carry the same time");
        row("shuffled.csv", "time_runs_backwards", "line 5: the time runs backwards");
        row("back_too_soon.csv", "time_runs_backwards", "line 4: the time runs backwards");
        row("only_data_lines.csv", "no_volts_column", "no column names volts");
        row("picture.csv", "not_text", "this is not a text file");
        row("half_utf16.csv", "not_text", "claims to be UTF-16 but is not");
        row("not_there.csv", "cannot_open", "cannot be opened");
        row(".", "cannot_open", "this is not a file");
    }
    void malformed_logs_say_what_where_and_how_to_mend() {
        QFETCH(QString, code);
        QFETCH(QString, says);
        const QString name = QString::fromLatin1(QTest::currentDataTag());
        const auto log = logs::readLogFile(data(QStringLiteral("malformed/") + name));
        QVERIFY(!log.has_value());
        const QString sentence = QString::fromStdString(log.error().sentence());
        QCOMPARE(QString::fromStdString(log.error().code), code);
        QVERIFY2(sentence.contains(says), qPrintable(sentence));
        QVERIFY2(sentence.contains(name == "." ? QStringLiteral("/") : name), qPrintable(sentence));
        QVERIFY(!log.error().mend.empty());
    }

    void a_person_can_choose_columns_and_units() {
        logs::Mapping hand;
        hand.columns = {{Role::Time, "1"}, {Role::Volts, "2"}, {Role::Amps, "3"}};
        const logs::Log log = must(logs::readLogFile(data(QStringLiteral("malformed/no_header.csv")), hand));
        QCOMPARE(log.trace.size(), kRows);
        hand.columns = {{Role::Volts, "D+(V)"}};
        hand.units = {{Role::Volts, "mV"}};
        const logs::Log other = must(logs::readLogFile(data(QStringLiteral("many_columns.csv")), hand));
        QVERIFY(std::fabs(other.trace.volts[0] - 0.0027) < 1e-12);
        hand.columns = {{Role::Volts, "VBUS"}};
        QCOMPARE(logs::readLogFile(data(QStringLiteral("plain.csv")), hand).error().code,
                 std::string("unknown_column"));
        hand.columns.clear();
        hand.units = {{Role::Volts, "furlong"}};
        QCOMPARE(logs::readLogFile(data(QStringLiteral("plain.csv")), hand).error().code, std::string("unknown_unit"));
    }
    // A column is one thing: what its heading names besides is looked for elsewhere, and refused by hand.
    void a_column_is_chosen_for_one_thing() {
        const logs::Log log = must(fromText("time_s;time at volts;V;A\n0;1;5.1;2\n10;2;5.0;2\n20;3;4.9;2\n"));
        QCOMPARE(log.trace.time[2], 20.0);
        QCOMPARE(log.trace.volts[2], 4.9);
        const auto none = fromText("time_s,voltage;current\n0;2\n10;2\n20;2\n");
        QVERIFY(!none);
        QCOMPARE(none.error().code, std::string("no_volts_column"));
        logs::Mapping hand;
        hand.columns = {{Role::Time, "1"}, {Role::Volts, "2"}, {Role::Amps, "2"}};
        const auto twice = fromText("a;b;c\n0;5;2\n10;5;2\n20;5;2\n", hand);
        QVERIFY(!twice);
        QCOMPARE(twice.error().code, std::string("column_chosen_twice"));
        QVERIFY2(twice.error().text.find("“b” is chosen for") == 0, twice.error().text.c_str());
    }
    void units_that_are_missing_are_assumed_aloud() {
        const logs::Log log = must(fromText("time,voltage,current\n0,5012,1999\n1,5011,2000\n2,5010,2001\n"));
        QVERIFY(std::fabs(log.trace.volts[0] - 5.012) < 1e-12);
        QVERIFY(std::fabs(log.trace.amps[0] - 1.999) < 1e-12);
        int assumed = 0;
        for (const Warning& w : log.warnings)
            assumed += w.code == "unit_assumed";
        QCOMPARE(assumed, 3);
    }
    void watts_that_do_not_multiply_are_told() {
        const logs::Log log =
            must(fromText("time_s,volts,amps,watts\n0,19.3,3.28,44\n1,19.3,3.28,44\n2,19.3,3.28,44\n"));
        bool told = false;
        for (const Warning& w : log.warnings)
            told |= w.code == "watts_disagree";
        QVERIFY(told);
    }
    void a_line_that_is_no_row_is_named() {
        const logs::Log log = must(fromText("time_s,volts,amps\n0,5,2\n1,5,2.1\nmeter lost\n2,5\n3,5,2.2\n"));
        QCOMPARE(log.skippedLines, std::size_t(2));
        QCOMPARE(log.firstSkipped[0].line, std::size_t(4));
        QCOMPARE(log.firstSkipped[1].line, std::size_t(5));
        QVERIFY(log.firstSkipped[1].reason.find("ends before “amps”") != std::string::npos);
    }
    void a_long_log_is_read_alike_on_two_threads() {
        std::ostringstream text;
        text << "time_s,volts,amps\n";
        const int rows = 400'000; // several segments
        for (int k = 0; k < rows; ++k) {
            if (k == 123'456)
                text << "lost\n\n";
            text << k << ",5.0" << k % 10 << ",2.00" << k % 7 << "\n";
        }
        const logs::Log log = must(fromText(text.str()));
        QCOMPARE(log.trace.size(), static_cast<std::size_t>(rows));
        QCOMPARE(log.firstSkipped[0].line, std::size_t(123'458));
        for (std::size_t k = 0; k < log.trace.size(); k += 997) {
            QCOMPARE(log.trace.time[k], static_cast<double>(k));
            QCOMPARE(log.trace.volts[k], 5.0 + 0.01 * static_cast<double>(k % 10));
        }
    }
    // Files with holes: so large, and yet no disk is filled.
    void what_is_too_large_to_hold_is_refused_data() {
        QTest::addColumn<qint64>("bytes");
        QTest::addColumn<QString>("code");
        QTest::newRow("4 GB") << Q_INT64_C(4'294'967'296) << "log_too_large";
        QTest::newRow("a card pulled while it was written: nothing but zeros behind the rows")
            << Q_INT64_C(2'000'000'000) << "endless_line";
        QTest::newRow("the same, short") << Q_INT64_C(50'000'000) << "";
    }
    void what_is_too_large_to_hold_is_refused() {
        QFETCH(qint64, bytes);
        QFETCH(QString, code);
        QTemporaryDir folder;
        QFile file(folder.filePath("large.csv"));
        QVERIFY(file.open(QIODevice::WriteOnly));
        file.write("time_s,volts,amps\n");
        for (int k = 0; k < 20'000; ++k)
            file.write(QByteArray::number(k) + ",5.01,1.002\n");
        QVERIFY(file.resize(bytes));
        file.close();
        const auto opened = logs::openFile(file.fileName().toStdString());
        const auto log = opened ? logs::readLog(*opened) : tl::unexpected(opened.error());
        QCOMPARE(log ? QString() : QString::fromStdString(log.error().code), code);
        if (log)
            QCOMPARE(log->trace.size(), std::size_t(20'000));
    }
    // Packed by gzip itself: what it unpacks is what was packed, or it is refused.
    void a_packed_log_is_read_as_it_is_data() {
        QTest::addColumn<QString>("how"); ///< a shell's line; $1 is the plain log, $2 the packed one
        QTest::addColumn<QString>("code");
        QTest::newRow("gzip") << "gzip -c \"$1\" > \"$2\""
                              << "";
        QTest::newRow("two parts, one behind the other")
            << "head -n 3 \"$1\" | gzip -c > \"$2\"; tail -n +4 \"$1\" | gzip -9 -c >> \"$2\""
            << "";
        QTest::newRow("cut off") << "gzip -c \"$1\" | head -c 60 > \"$2\""
                                 << "bad_gzip";
        QTest::newRow("something else behind it") << "gzip -c \"$1\" > \"$2\"; echo and more >> \"$2\""
                                                  << "bad_gzip";
        QTest::newRow("damaged") << "{ gzip -c \"$1\" | head -c 40; echo and more; } > \"$2\""
                                 << "bad_gzip";
        QTest::newRow("far more than it looks") << "head -c 600M /dev/zero | gzip -1 -c > \"$2\""
                                                << "log_too_large";
    }
    void a_packed_log_is_read_as_it_is() {
        QFETCH(QString, how);
        QFETCH(QString, code);
        QTemporaryDir folder;
        const QString plain = data(QStringLiteral("plain.csv")).c_str(), packed = folder.filePath("plain.csv.gz");
        QCOMPARE(QProcess::execute("sh", {"-c", how, "sh", plain, packed}), 0);
        const auto log = logs::readLogFile(packed.toStdString());
        QCOMPARE(log ? QString() : QString::fromStdString(log.error().code), code);
        if (!log)
            return;
        const auto as = logs::readLogFile(plain.toStdString());
        QCOMPARE(log->name, as->name);
        QCOMPARE(log->trace.size(), as->trace.size());
        for (std::size_t k = 0; k < as->trace.size(); ++k)
            QVERIFY(log->trace.time[k] == as->trace.time[k] && log->trace.volts[k] == as->trace.volts[k]);
    }
    void readings_with_many_digits_are_kept_whole() {
        std::ostringstream text;
        text << "time_s,volts,amps\n";
        for (int k = 0; k < 600; ++k)
            text << k << "," << (k < 500 ? "5.01" : "5.012345678901234") << ",2\n";
        const logs::Log log = must(fromText(text.str()));
        QCOMPARE(log.trace.volts[499], 5.01);
        QCOMPARE(log.trace.volts[500], 5.012345678901234);
    }
    void reading_can_be_stopped() {
        logs::Progress progress;
        progress.cancel = true;
        const auto opened = logs::openFile(data(QStringLiteral("plain.csv")));
        QCOMPARE(logs::readLog(*opened, {}, &progress).error().code, std::string("cancelled"));
    }
    void any_bytes_are_read_or_refused_never_worse() {
        // Every good log with bytes knocked out, doubled and changed, from a fixed seed: no crash, and a sentence if
        // refused.
        std::uint64_t state = 42;
        const auto random = [&state](std::size_t below) {
            state = state * 6364136223846793005ULL + 1442695040888963407ULL;
            return static_cast<std::size_t>(state >> 33) % below;
        };
        for (const char* name : {"plain.csv", "many_columns.csv", "quoted.csv", "semicolon_comma.csv",
                                 "date_and_time.csv", "utf16le_bom.txt", "spaces.txt"}) {
            std::ifstream in(data(QString::fromLatin1(name)), std::ifstream::binary);
            const std::string good((std::istreambuf_iterator<char>(in)), {});
            for (int round = 0; round < 60; ++round) {
                std::string bad = good;
                for (int change = 0; change < 1 + round % 8; ++change) {
                    const std::size_t at = random(bad.size());
                    switch (random(4)) {
                    case 0: bad.erase(at, 1 + random(9)); break;
                    case 1: bad.insert(at, bad.substr(at, random(30))); break;
                    case 2: bad[at] = static_cast<char>(random(256)); break;
                    default: bad[at] = ",;\t\" \n.-e"[random(9)]; break;
                    }
                    if (bad.empty())
                        bad = "x";
                }
                const auto log = fromText(bad);
                if (!log)
                    QVERIFY(!log.error().sentence().empty());
            }
        }
    }

    void a_written_trace_is_read_back_bit_by_bit() {
        trace::Trace t;
        for (int k = 0; k < 100; ++k) {
            t.time.push_back(k * 0.1);
            t.volts.push_back(5.0 + std::sin(k) / 3.0);
            t.amps.push_back(-1.0 / (k + 1.0));
            t.temperature.push_back(k % 3 == 0 ? NAN : 20.0 + k / 7.0);
        }
        std::ostringstream out;
        logs::writeTrace(out, t);
        const logs::Log log = must(fromText(out.str()));
        QCOMPARE(log.trace.size(), t.size());
        for (std::size_t k = 0; k < t.size(); ++k) {
            QCOMPARE(log.trace.time[k], t.time[k]);
            QVERIFY(log.trace.volts[k] == t.volts[k] && log.trace.amps[k] == t.amps[k]);
            QVERIFY(std::isnan(t.temperature[k]) ? std::isnan(log.trace.temperature[k])
                                                 : log.trace.temperature[k] == t.temperature[k]);
        }
    }
    // Readings are kept as the digits that were written, where that can be; whichever way, they are what stood there.
    void every_reading_is_what_was_written_data() {
        QTest::addColumn<QString>("unit");        // of the temperature
        QTest::addColumn<QStringList>("celsius"); // as written, row by row
        QTest::addColumn<QStringList>("wh");
        QTest::addColumn<double>("third"); // of the temperatures, °C
        QTest::addColumn<double>("counted");
        const QStringList up{"0.000", "0.001", "0.003", "0.004", "0.006"};
        const auto row = [](const char* name, const char* unit, const QStringList& celsius, const QStringList& wh,
                            double third,
                            double counted) { QTest::newRow(name) << unit << celsius << wh << third << counted; };
        row("a decimal", "C", {"25.1", "25.2", "25.3", "25.3", "-0.4"}, up, 25.3, 0.006);
        row("the sensor is gone for a while", "C", {"25.1", "", "nan", "25.3", ""}, up, NAN, 0.006);
        row("nothing read at first", "C", {"", "", "25.3", "25.3", "25.4"}, up, 25.3, 0.006);
        row("another unit", "F", {"77.0", "77.0", "86.0", "86.0", "86.0"}, up, 30.0, 0.006);
        row("more digits than at first", "C", {"25.1", "25.2", "25.30625", "25.3", "25.3"}, up, 25.30625, 0.006);
        row("a counter that begins anew", "C", {"25", "25", "25", "25", "25"}, {"7.5", "7.6", "0.0", "0.1", "0.2"},
            25.0, 0.3);
        row("a counter too long for its digits", "C", {"25", "25", "25", "25", "25"},
            {"21474.83646", "21474.83647", "21474.83648", "21474.83649", "21474.83650"}, 25.0, 0.00004);
    }
    void every_reading_is_what_was_written() {
        QFETCH(QStringList, celsius);
        QFETCH(QStringList, wh);
        QFETCH(double, third);
        QFETCH(double, counted);
        QFETCH(QString, unit);
        std::string text = "time_s,volts_v,amps_a,temperature_" + unit.toLower().toStdString() + ",energy_wh\n";
        for (int k = 0; k < celsius.size(); ++k)
            text += std::to_string(k) + ",5.01,1." + std::to_string(k) + "," + celsius[k].toStdString() + "," +
                    wh[k].toStdString() + "\n";
        const logs::Log log = must(fromText(text));
        QCOMPARE(log.trace.size(), static_cast<std::size_t>(celsius.size()));
        QVERIFY2(std::isnan(third) ? std::isnan(log.trace.temperature[2])
                                   : std::fabs(log.trace.temperature[2] - third) < (unit == "F" ? 1e-9 : 1e-300),
                 qPrintable(QString::number(log.trace.temperature[2], 'g', 17)));
        for (int k = 0; unit == "C" && k < celsius.size(); ++k) {
            bool number = false;
            const double written = celsius[k].toDouble(&number);
            const double read = log.trace.temperature[static_cast<std::size_t>(k)];
            QVERIFY(std::isnan(read) ? !number || std::isnan(written) : read == written);
        }
        QVERIFY2(log.counterWattHours && std::fabs(*log.counterWattHours - counted) < 1e-9,
                 qPrintable(QString::number(log.counterWattHours.value_or(-9.0), 'g', 17)));
    }

    void cells_are_no_formulas_data() {
        QTest::addColumn<QString>("text");
        QTest::addColumn<QString>("cell");
        QTest::newRow("formula") << "=1+1"
                                 << "'=1+1";
        QTest::newRow("plus") << "+49"
                              << "'+49";
        QTest::newRow("at") << "@x"
                            << "'@x";
        QTest::newRow("control") << "\tx"
                                 << "\"'\tx\"";
        QTest::newRow("comma") << "a, b"
                               << "\"a, b\"";
        QTest::newRow("quote") << "5\" wide"
                               << "\"5\"\" wide\"";
        QTest::newRow("plain") << "Pebble 5"
                               << "Pebble 5";
    }
    void cells_are_no_formulas() {
        QFETCH(QString, text);
        QFETCH(QString, cell);
        QCOMPARE(QString::fromStdString(logs::textCell(text.toStdString())), cell);
    }
};

QTEST_APPLESS_MAIN(LogsTest)
#include "logs_test.moc"
