// C6: readings by hand, and counters alone.
#include <QTest>

#include <algorithm>
#include <cmath>

#include <nlohmann/json.hpp>

#include "ask.h"
#include "core/kinds/traced/hand.h"
#include "core/kinds/traced/json.h"
#include "core/trace/sampling.h"

using namespace otterstone;
using namespace otterstone::testing;
using records::Kind;
using setup::Setup;

class HandTest : public QObject {
    Q_OBJECT

private Q_SLOTS:
    void readings_by_hand_data() {
        QTest::addColumn<QStringList>("rows"); // time|V|A|W|%|°C|note
        QTest::addColumn<int>("kept");
        QTest::addColumn<double>("wattHours");
        QTest::addColumn<QString>("remark");
        QTest::newRow("five readings off a display")
            << QStringList{"0|5.1|2|||100", "+30|5.08|2|||72", "+30|5.06|2|||45", "1h30|5.04|2|||20", "+20 min|0|0|||0"}
            << 5 << (5.1 + 5.08) * 0.5 + (5.08 + 5.06) * 0.5 + (5.06 + 5.04) * 0.5 + 10.08 / 2 / 3 << "";
        QTest::newRow("watts alone") << QStringList{"0|||10", "60|||10"} << 2 << 10.0 << "";
        QTest::newRow("watts and volts give amps") << QStringList{"0|5||10", "60|5||10"} << 2 << 10.0 << "";
        QTest::newRow("a slip is told, V and A stand")
            << QStringList{"0|5|2|10", "60|5|2|100"} << 2 << 10.0 << "watts_differ";
        QTest::newRow("time steps back") << QStringList{"0|5|2", "30|5|2", "20|5|2", "60|5|2"} << 3 << 10.0
                                         << "time_steps_back";
        QTest::newRow("no number") << QStringList{"0|5|2", "30|x|2", "60|5|2"} << 2 << 10.0 << "not_a_number";
        QTest::newRow("volts alone") << QStringList{"0|5|2", "30|5|", "60|5|2"} << 2 << 10.0 << "row_without_power";
        QTest::newRow("no time") << QStringList{"0|5|2", "|5|2", "60|5|2"} << 2 << 10.0 << "no_time";
    }
    void readings_by_hand() {
        QFETCH(QStringList, rows);
        QFETCH(int, kept);
        QFETCH(double, wattHours);
        QFETCH(QString, remark);
        std::vector<kinds::HandRow> typed;
        for (const QString& row : rows) {
            const QStringList cells = row.split(QLatin1Char('|'));
            auto& r = typed.emplace_back();
            for (qsizetype k = 0; k < cells.size(); ++k)
                kinds::cell(r, static_cast<std::size_t>(k)) = cells[k].toStdString();
        }
        const auto read = kinds::readByHand(typed, trace::Between::Joined);
        QCOMPARE(static_cast<int>(read.rows), kept);
        QCOMPARE(read.remarks.empty() ? QString() : QString::fromStdString(read.remarks.front().problem.code), remark);
        Setup s;
        s.hand = trace::Between::Joined;
        const auto f = kinds::analyse(read.trace, Kind::Drain, s);
        QVERIFY2(f.has_value(), f ? "" : f.error().sentence().c_str());
        QVERIFY2(about(f->wattHours.value(), wattHours, 1e-9), qPrintable(QString::number(f->wattHours.value())));
    }
    // C6: held steps are the left sum, and half the difference of left and right sum is the doubt of either way.
    // C6: each of two changes by 5 W within an hour happened somewhere within its step (k = 1/12), or came late when
    // held (k = 1/3).
    void what_lies_between_readings_is_doubted() {
        const std::vector<kinds::HandRow> rows = {
            {"0", "5", "2", "", "", "", ""}, {"60", "5", "1", "", "", "", ""}, {"120", "5", "0", "", "", "", ""}};
        const auto joined = kinds::readByHand(rows, trace::Between::Joined);
        const auto held = kinds::readByHand(rows, trace::Between::Held);
        const double left = 10.0 + 5.0, right = 5.0 + 0.0;
        QVERIFY(about(joined.doubtWattHours, 5.0 * std::sqrt(2.0 / 12.0), 1e-12));
        QVERIFY(about(held.doubtWattHours, 5.0 * std::sqrt(2.0 / 3.0), 1e-12));
        Setup s;
        s.hand = trace::Between::Held;
        QVERIFY(about(kinds::analyse(held.trace, Kind::Drain, s)->wattHours.value(), left, 1e-12));
        s.hand = trace::Between::Joined;
        const auto f = kinds::analyse(joined.trace, Kind::Drain, s);
        QVERIFY(about(f->wattHours.value(), (left + right) / 2, 1e-12));
        QVERIFY(
            about(f->wattHours.from(ErrorSource::ofRun("", "between samples")), 5.0 * std::sqrt(2.0 / 12.0), 1e-12));
    }
    void rows_come_from_a_spreadsheet() {
        const auto rows = kinds::rowsFromText("Time\tV\tA\r\n0\t5,1\t2\r\n+15 min\t5,0\t2\t\t80\r\n\r\n");
        QCOMPARE(rows.size(), std::size_t(2));
        QCOMPARE(rows[1].time, std::string("+15 min"));
        QCOMPARE(rows[1].percent, std::string("80"));
        QCOMPARE(kinds::rowsFromText("80\n60\n", 4).front().percent, std::string("80"));
    }

    void counters_alone_make_a_run_data() {
        QTest::addColumn<QList<double>>("wh_mah_volts_s"); // 0: not read
        QTest::addColumn<double>("wattHours");
        QTest::addColumn<QString>("problem");
        QTest::newRow("14.19 V × 5.407 Ah is 76.73 Wh") << QList<double>{0, 5407, 14.19, 0} << 76.7253 << "";
        QTest::newRow("watt-hours") << QList<double>{33.1, 0, 0, 7200} << 33.1 << "";
        QTest::newRow("all agree") << QList<double>{76.7, 5407, 14.19, 7200} << 76.7 << "";
        QTest::newRow("they do not") << QList<double>{67.7, 5407, 14.19, 0} << 0.0 << "counters_disagree";
        QTest::newRow("mAh alone") << QList<double>{0, 5407, 0, 0} << 0.0 << "too_few_counters";
        QTest::newRow("below nothing") << QList<double>{-3, 0, 0, 0} << 0.0 << "counters_not_positive";
    }
    void counters_alone_make_a_run() {
        QFETCH(QList<double>, wh_mah_volts_s);
        QFETCH(double, wattHours);
        QFETCH(QString, problem);
        const auto given = [](double v) { return v == 0.0 ? std::nullopt : std::optional(v); };
        const kinds::Counters c{given(wh_mah_volts_s[0]), given(wh_mah_volts_s[1]), given(wh_mah_volts_s[2]),
                                given(wh_mah_volts_s[3])};
        Setup s;
        s.clock = Measured(1.0);
        const auto f = kinds::analyseCounters(c, Kind::Drain, s);
        QCOMPARE(f ? QString() : QString::fromStdString(f.error().code), problem);
        if (!f)
            return;
        QVERIFY(about(f->wattHours.value(), wattHours, 1e-4));
        QVERIFY(warns(*f, "counters_only"));
        s.clock = Measured(0.94);
        QVERIFY(about(kinds::analyseCounters(c, Kind::Drain, s)->wattHours.value(), 0.94 * wattHours, 1e-4));
        QVERIFY(kinds::fromCache(kinds::toCache(*f)).has_value());
    }
};

QTEST_APPLESS_MAIN(HandTest)
#include "hand_test.moc"
