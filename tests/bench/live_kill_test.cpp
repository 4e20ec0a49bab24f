// kill -9 of a capture at random moments: never more than the last second is lost, the load goes off, the book stays
// whole. In full: OTTERSTONE_LIVE_KILLS=100 live_kill_test
#include "bench_harness.h"

#include <QRandomGenerator>

#include "book/store/check.h"
#include "where.h"

using namespace otterstone;
using namespace otterstone::testing;

class LiveKillTest : public QObject {
    Q_OBJECT

private Q_SLOTS:
    void kills_lose_at_most_the_last_second() {
        const int kills = qEnvironmentVariableIntValue("OTTERSTONE_LIVE_KILLS") > 0
                              ? qEnvironmentVariableIntValue("OTTERSTONE_LIVE_KILLS")
                              : 8;
        QRandomGenerator random(20261124);
        double worst = 0.0;
        for (int k = 0; k < kills; ++k) {
            Standin standin({"--speed", "1", "--rate", "20"});
            QVERIFY(standin.ok());
            OneBank one;
            one.book.reset(); // the victim writes it
            QProcess victim;
            victim.start(where::cli(),
                         {"live", one.path, "--bank", "Pebble 5", "--recipe", where::data("short-drain.json"),
                          "--meter", "printing-meter@" + standin.at("meter").text, "--load",
                          "scpi-load@" + standin.at("load").text, "--checked"});
            QVERIFY(victim.waitForStarted());
            QTRY_VERIFY_WITH_TIMEOUT(standin.truth().at("load_on").get<bool>(), 10000);
            QTest::qWait(random.bounded(100, 2500));
            victim.kill();
            const double at = standin.say("TIME?").toDouble(); // on the bench, real seconds
            QVERIFY(victim.waitForFinished());
            // Its load is off: the stand-in's own doing, as nobody is connected any more.
            QTRY_VERIFY_WITH_TIMEOUT(!standin.truth().at("load_on").get<bool>(), 2000);
            const double offAt = standin.truth().at("load_off_at");
            QVERIFY2(offAt - at < 1.0, qPrintable(QString::number(offAt - at)));
            const auto report = book::checkBook(one.path);
            QVERIFY(report && report->faults.empty());
            auto book = book::Book::open(one.path);
            QVERIFY(book);
            const auto runs = (*book)->runs((*book)->banks().front().id);
            QCOMPARE(runs.size(), 1u);
            QVERIFY(runs.front().open);
            const auto trace = (*book)->trace(runs.front().id);
            QVERIFY(trace.size() > 0);
            // The meter stamps its lines with the bench's clock; the run's began at the first line it kept. How long
            // the run is can be told from the load: it was switched on some steps into it.
            const double onFor = standin.truth().at("load_on_for").get<double>() - (offAt - at);
            double kept = 0.0;
            for (std::size_t j = 0; j < trace.size(); ++j)
                kept += trace.amps[j] > 0.5 ? 0.05 : 0.0;
            worst = std::max(worst, onFor - kept);
            QVERIFY2(onFor - kept <= 1.0, qPrintable(QStringLiteral("%1 s drawn, %2 s kept").arg(onFor).arg(kept)));
        }
        qInfo("%d kills, at most %.2f s lost", kills, worst);
    }
};

QTEST_GUILESS_MAIN(LiveKillTest)
#include "live_kill_test.moc"
