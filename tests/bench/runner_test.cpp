// The live bench end to end: recipes on the stand-in over its real pseudo-terminal and TCP, their stops, and what is left in the book.
#include "bench_harness.h"


using namespace otterstone;
using namespace otterstone::testing;
using bench::StopKind;

class RunnerTest : public QObject {
    Q_OBJECT

private Q_SLOTS:
    void a_gentle_drain_finds_the_truth_by_itself() {
        Standin standin({"--speed", "2000", "--watchdog", "20000"});
        QVERIFY(standin.ok());
        OneBank one;
        bench::Session session;
        const auto outcome = runToEnd(session, planFor(recipe("gentle-drain"), one, standin));
        QVERIFY2(outcome.stop.kind == StopKind::CutOff, outcome.stop.why.c_str());
        QVERIFY(outcome.trueWattHours);
        const auto run = *one.book->run(outcome.run);
        QVERIFY(!run.open && run.stopped == outcome.stop.why && run.recipe == recipe("gentle-drain").key);
        const auto finding = one.book->finding(outcome.run);
        QVERIFY(finding);
        qInfo("found %f, true %f", finding->wattHours.value(), *outcome.trueWattHours);
        QVERIFY(finding->drain->endedBy == trace::EndedBy::CutOff);
        QVERIFY(std::fabs(finding->wattHours.value() - *outcome.trueWattHours) < 0.02 * *outcome.trueWattHours);
        QCOMPARE(standin.truth().at("load_on").get<bool>(), false);
    }
};

QTEST_GUILESS_MAIN(RunnerTest)
#include "runner_test.moc"
