// The points of a curve: never more than two a pixel, never a spike lost, near and far alike.
#include <QTest>

#include "app/runs/curve_data.h"

using namespace otterstone;
using app::Axis;
using app::CurveData;
using app::CurvePoint;
using app::Quantity;

namespace {

// A long trace of 1 s steps with one spike; its chunks as the book keeps them.
struct Long {
    explicit Long(int samples, int spikeAt) {
        for (int k = 0; k < samples; ++k) {
            trace.time.push_back(k);
            trace.volts.push_back(5.0);
            trace.amps.push_back(k == spikeAt ? 10.0 : 2.0);
        }
        for (std::size_t first = 0; first < trace.size(); first += book::kChunkRows) {
            summaries.push_back(book::summarise(trace, first, std::min(book::kChunkRows, trace.size() - first)));
            summaries.back().seq = static_cast<int>(summaries.size()) - 1;
        }
    }
    CurveData data() {
        return {summaries, [this](int from, int to) {
                    ++loads;
                    trace::Trace part;
                    const std::size_t last =
                        std::min(trace.size(), static_cast<std::size_t>(to + 1) * book::kChunkRows);
                    for (std::size_t k = static_cast<std::size_t>(from) * book::kChunkRows; k < last; ++k) {
                        part.time.push_back(trace.time[k]);
                        part.volts.push_back(trace.volts[k]);
                        part.amps.push_back(trace.amps[k]);
                    }
                    return part;
                }};
    }
    trace::Trace trace;
    std::vector<book::ChunkSummary> summaries;
    int loads = 0;
};

} // namespace

class CurveTest : public QObject {
    Q_OBJECT

private Q_SLOTS:
    void a_spike_is_seen_from_any_distance_data() {
        QTest::addColumn<int>("samples");
        QTest::addColumn<double>("share"); // of the trace that is in view
        QTest::addColumn<bool>("loads");
        QTest::newRow("whole, short") << 20'000 << 1.0 << true;
        QTest::newRow("whole, two million") << 2'000'000 << 1.0 << false; // summaries alone
        QTest::newRow("a tenth of it") << 2'000'000 << 0.1 << true;
        QTest::newRow("a thousandth") << 2'000'000 << 0.001 << true;
    }
    void a_spike_is_seen_from_any_distance() {
        QFETCH(int, samples);
        QFETCH(double, share);
        QFETCH(bool, loads);
        const int spike = samples / 2 + 7;
        Long l(samples, spike);
        CurveData data = l.data();
        const double half = samples * share / 2.0;
        const auto points = data.points(Axis::Time, Quantity::Watts, spike - half, spike + half, 1000);
        double most = 0.0;
        for (const auto& p : points)
            most = std::max(most, p.high);
        QCOMPARE(most, 50.0);
        QVERIFY2(points.size() <= 1004, qPrintable(QString::number(points.size())));
        QCOMPARE(l.loads > 0, loads);
    }
    void energy_and_percent_are_axes_too() {
        Long l(7201, -1); // two hours at 10 W
        CurveData data = l.data();
        QVERIFY(std::abs(data.lastX(Axis::Energy) - 20.0) < 1e-9);
        QCOMPARE(data.lastX(Axis::Percent), 100.0);
        QVERIFY(std::abs(data.xOf(3600.0, Axis::Energy) - 10.0) < 1e-6);
        QVERIFY(std::abs(data.xOf(5400.0, Axis::Percent) - 75.0) < 1e-4);
        const auto reading = data.at(10.0, Axis::Energy);
        QVERIFY(reading.has_value());
        QVERIFY(std::abs(reading->time - 3600.0) <= 1.0);
        QCOMPARE(reading->watts, 10.0);
        QVERIFY(!data.at(21.0, Axis::Energy).has_value());
    }
    void panning_near_by_reads_nothing_twice() {
        Long l(200'000, -1);
        CurveData data = l.data();
        (void)data.points(Axis::Time, Quantity::Watts, 50'000, 60'000, 800);
        const int before = l.loads;
        (void)data.points(Axis::Time, Quantity::Volts, 51'000, 59'000, 800);
        QCOMPARE(l.loads, before);
    }
    void it_is_coarse_at_once_and_fine_in_a_moment() {
        Long l(300'000, 150'007);
        CurveData data = l.data(), all = l.data();
        const auto draw = [&] { return data.points(Axis::Time, Quantity::Watts, 100'000, 200'000, 900, 5); };
        int turns = 0;
        for (auto points = draw(); !data.isWhole(); points = draw(), ++turns) {
            // The line runs from edge to edge and misses nothing.
            QVERIFY(points.front().x <= 100'000 && points.back().x >= 200'000);
            QVERIFY(std::any_of(points.begin(), points.end(), [](const CurvePoint& p) { return p.high == 50.0; }));
            QVERIFY(turns < 20);
        }
        QVERIFY(turns >= 4);
        const auto fine = draw(), atOnce = all.points(Axis::Time, Quantity::Watts, 100'000, 200'000, 900);
        QVERIFY(std::equal(
            fine.begin(), fine.end(), atOnce.begin(), atOnce.end(),
            [](const CurvePoint& a, const CurvePoint& b) { return a.x == b.x && a.low == b.low && a.high == b.high; }));
    }
    void a_book_that_vanished_is_not_asked_for_ever() {
        Long l(300'000, -1);
        CurveData data(l.summaries, [](int, int) { return trace::Trace(); });
        const auto points = data.points(Axis::Time, Quantity::Watts, 0, 299'999, 900, 5);
        QVERIFY(data.isWhole());
        QVERIFY(!points.empty()); // what the summaries know
    }
    void nothing_is_drawn_of_nothing() {
        CurveData data;
        QVERIFY(data.points(Axis::Time, Quantity::Watts, 0, 1, 100).empty());
        QVERIFY(!data.at(0.5, Axis::Time).has_value());
    }
};

QTEST_APPLESS_MAIN(CurveTest)
#include "curve_test.moc"
