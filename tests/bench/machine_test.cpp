// A run on a machine that is slow at writing, or whose wall clock is set meanwhile: the load is watched as ever, and
// nothing is lost.
#include "live_command.h"
#include "where.h"

using namespace otterstone;
using namespace otterstone::testing;

class MachineTest : public QObject {
    Q_OBJECT

    static void onOddMachine(LiveCommand& live, const QString& name, const QString& value) {
        QProcessEnvironment odd = QProcessEnvironment::systemEnvironment();
        odd.insert("LD_PRELOAD", where::oddMachine());
        odd.insert(name, value);
        live.process.setProcessEnvironment(odd);
    }
    // The run that was written: in order, without a hole.
    static void requireWhole(const LiveCommand& live, double least, double most) {
        auto book = book::Book::open(live.one.path);
        QVERIFY(book);
        QVERIFY(!(*book)->run(1)->open);
        const trace::Trace t = (*book)->trace(1);
        QVERIFY2(t.time.back() >= least && t.time.back() <= most, qPrintable(QString::number(t.time.back())));
        for (std::size_t k = 1; k < t.size(); ++k)
            QVERIFY2(t.time[k] > t.time[k - 1] && t.time[k] - t.time[k - 1] < 1.5,
                     qPrintable(QString::number(t.time[k])));
    }

private Q_SLOTS:
    void a_slow_disk_delays_no_load() {
        LiveCommand live;
        onOddMachine(live, "ODD_SYNC_MS", "700"); // of several syncs a write
        QVERIFY(live.begin());
        QTest::qWait(4000);
        live.bench.celsius = 70.0;
        const qint64 hot = live.bench.clock.elapsed();
        QTRY_VERIFY_WITH_TIMEOUT(!live.bench.on, 5000);
        QVERIFY2(live.bench.offAt - hot <= 1700,
                 qPrintable(QString::number(live.bench.offAt - hot))); // 1 s, and what a busy machine takes
        QTRY_VERIFY_WITH_TIMEOUT(live.process.state() == QProcess::NotRunning, 60000);
        QCOMPARE(live.process.exitCode(), 5); // cut short by the limit
        requireWhole(live, 3.0, 10.0);
    }
    void a_signal_waits_for_a_slow_disk() {
        LiveCommand live;
        onOddMachine(live, "ODD_SYNC_MS", "700");
        QVERIFY(live.begin());
        QTest::qWait(3000);
        const qint64 sent = live.bench.clock.elapsed();
        live.process.terminate();
        QTRY_VERIFY_WITH_TIMEOUT(!live.bench.on, 5000);
        QVERIFY2(live.bench.offAt - sent <= 2000, qPrintable(QString::number(live.bench.offAt - sent)));
        QTRY_VERIFY_WITH_TIMEOUT(live.process.state() == QProcess::NotRunning, 60000);
        QCOMPARE(live.process.exitCode(), 0);
        requireWhole(live, 2.0, 8.0);
    }
    // A clock that goes on at once was set, or the computer slept where no other clock counts that: the load goes off,
    // and the tester says whether all is well.
    void a_wall_clock_that_is_set_data() {
        QTest::addColumn<QString>("clock");
        QTest::addColumn<int>("asks"); // how often
        QTest::newRow("an hour back: summer time ends") << "3:-3600" << 0;
        QTest::newRow("ten seconds on: a time server") << "3:10" << 0;
        QTest::newRow("eleven hours on: it slept") << "3:39600" << 1;
        QTest::newRow("years on: a battery-less clock meets a time server") << "3:1000000000" << 1;
    }
    void a_wall_clock_that_is_set() {
        QFETCH(QString, clock);
        QFETCH(int, asks);
        LiveCommand live;
        onOddMachine(live, "ODD_CLOCK", clock);
        QVERIFY(live.begin(5));
        if (asks > 0) {
            QTRY_VERIFY_WITH_TIMEOUT(!live.bench.on, 6000);
            QByteArray said = live.process.readAllStandardError();
            connect(&live.process, &QProcess::readyReadStandardError, this,
                    [&] { said += live.process.readAllStandardError(); });
            QTRY_VERIFY_WITH_TIMEOUT(said.contains("went on by"), 3000);
            live.process.disconnect(this);
            QTest::qWait(1500);
            QVERIFY(!live.bench.on && live.process.state() == QProcess::Running);
            live.process.write("\n");
            QTRY_VERIFY_WITH_TIMEOUT(live.bench.on, 3000);
        }
        QTRY_VERIFY_WITH_TIMEOUT(live.process.state() == QProcess::NotRunning, 20000);
        QCOMPARE(live.process.exitCode(), 0);
        QVERIFY(!live.bench.on);
        requireWhole(live, 4.0, 12.0);
    }
};

QTEST_GUILESS_MAIN(MachineTest)
#include "machine_test.moc"
