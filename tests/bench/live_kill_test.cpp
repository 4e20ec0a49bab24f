// kill -9 of a capture at random moments: never more than the last second is lost, the load goes off, the book stays
// whole. In full: OTTERSTONE_LIVE_KILLS=100 live_kill_test
#include "bench_harness.h"

#include <QProcessEnvironment>

#include <QRandomGenerator>

#include "book/store/check.h"
#include "where.h"

using namespace otterstone;
using namespace otterstone::testing;

class LiveKillTest : public QObject {
    Q_OBJECT

private Q_SLOTS:
    void kills_lose_at_most_the_last_second_data() {
        QTest::addColumn<int>("benches");
        QTest::newRow("one run, by the command line") << 1;
        QTest::newRow("four runs at once, in the window") << 4;
    }
    void kills_lose_at_most_the_last_second() {
        QFETCH(int, benches);
        const bool full = qEnvironmentVariableIntValue("OTTERSTONE_LIVE_KILLS") > 0;
        const int kills = full ? qEnvironmentVariableIntValue("OTTERSTONE_LIVE_KILLS") : benches == 1 ? 8 : 4;
        QRandomGenerator random(20261124);
        double worst = 0.0;
        for (int k = 0; k < kills; ++k) {
            std::vector<std::unique_ptr<Standin>> standins;
            standins.reserve(static_cast<std::size_t>(benches));
            for (int j = 0; j < benches; ++j)
                standins.push_back(std::make_unique<Standin>(QStringList{"--speed", "1", "--rate", "20"}));
            OneBank one;
            for (int j = 1; j < benches; ++j) {
                records::Bank next = *one.book->bank(one.bank);
                next.id = records::kNew;
                next.name = "Pebble " + std::to_string(5 + j);
                QVERIFY(one.book->save(next));
            }
            one.book.reset(); // the victim writes it
            QProcess victim;
            if (benches == 1) {
                victim.start(where::cli(),
                             {"live", one.path, "--bank", "Pebble 5", "--recipe", where::data("short-drain.json"),
                              "--meter", "printing-meter@" + standins[0]->at("meter").text, "--load",
                              "scpi-load@" + standins[0]->at("load").text, "--checked"});
            } else {
                auto surroundings = QProcessEnvironment::systemEnvironment();
                surroundings.insert("HOME", one.folder.path()); // its set-ups are its own
                victim.setProcessEnvironment(surroundings);
                QStringList arguments{one.path};
                for (const auto& s : standins)
                    arguments << s->at("meter").text << s->at("load").text;
                victim.start(QCoreApplication::applicationDirPath() + "/live_benches", arguments);
            }
            QVERIFY(victim.waitForStarted());
            for (const auto& s : standins)
                QTRY_VERIFY_WITH_TIMEOUT(s->truth().at("load_on").get<bool>(), 20000);
            QTest::qWait(random.bounded(100, 2500));
            victim.kill();
            std::vector<double> at; // on the bench, real seconds
            at.reserve(standins.size());
            for (const auto& s : standins)
                at.push_back(s->say("TIME?").toDouble());
            QVERIFY(victim.waitForFinished());
            const auto report = book::checkBook(one.path);
            QVERIFY(report && report->faults.empty());
            auto book = book::Book::open(one.path);
            QVERIFY(book);
            const auto banks = (*book)->banks();
            QCOMPARE(static_cast<int>(banks.size()), benches);
            for (std::size_t j = 0; j < banks.size(); ++j) {
                // Its load is off: the stand-in's own doing, as nobody is connected any more.
                Standin& standin = *standins[j];
                QTRY_VERIFY_WITH_TIMEOUT(!standin.truth().at("load_on").get<bool>(), 2000);
                const double offAt = standin.truth().at("load_off_at");
                QVERIFY2(offAt - at[j] < 1.0, qPrintable(QString::number(offAt - at[j])));
                const auto runs = (*book)->runs(banks[j].id);
                QCOMPARE(runs.size(), 1u);
                QVERIFY(runs.front().open);
                const auto trace = (*book)->trace(runs.front().id);
                // Of one that was killed as it began nothing may be kept yet. The meter stamps its lines with the
                // bench's clock; the run's began at the first line it kept. How long the run is can be told from the
                // load: it was switched on some steps into it.
                const double onFor = standin.truth().at("load_on_for").get<double>() - (offAt - at[j]);
                double kept = 0.0;
                for (std::size_t i = 0; i < trace.size(); ++i)
                    kept += trace.amps[i] > 0.5 ? 0.05 : 0.0;
                worst = std::max(worst, onFor - kept);
                QVERIFY2(onFor - kept <= 1.0,
                         qPrintable(QStringLiteral("bench %1: %2 s drawn, %3 s kept").arg(j + 1).arg(onFor).arg(kept)));
            }
        }
        qInfo("%d kills of %d, at most %.2f s lost", kills, benches, worst);
    }
};

QTEST_GUILESS_MAIN(LiveKillTest)
#include "live_kill_test.moc"
