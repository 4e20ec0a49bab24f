// The live bench from the window, by keyboard, over the real pseudo-terminal and TCP of a stand-in.
#include <QTest>

#include <QCheckBox>
#include <QLineEdit>
#include <QListWidget>
#include <QPlainTextEdit>
#include <QRadioButton>
#include <QSignalSpy>

#include "app/live/bench_strip.h"
#include "app/live/live_page.h"
#include "app/live/recipe_panel.h"
#include "app/live/running_view.h"
#include "app/live/setup_view.h"
#include "app/runs/run_page.h"
#include "app/runs/stamp_entry.h"
#include "app/shelf/shelf.h"
#include "demo_window.h"
#include "look.h"

using namespace otterstone;
using namespace otterstone::app;
using namespace otterstone::testing;

class LiveTest : public QObject {
    Q_OBJECT

    DemoWindow window_;

    void type(const QString& text) {
        for (const QChar c : text)
            QTest::keyClick(QApplication::focusWidget(), c.toLatin1());
    }
    // From the shelf to a running rehearsal, without the mouse.
    void rehearse(const std::string& bank, int recipeRow, const QString& speed) {
        window_->shelf()->select(window_.bankNamed(bank));
        QTest::keyClick(window_.get(), Qt::Key_R, Qt::ControlModifier);
        SetupView* setup = window_->livePage()->setup();
        QTRY_VERIFY(setup->recipes()->hasFocus());
        QTest::keyClick(setup->recipes(), Qt::Key_Home);
        for (int k = 0; k < recipeRow; ++k)
            QTest::keyClick(setup->recipes(), Qt::Key_Down);
        setup->speed()->setFocus();
        QTest::keyClick(setup->speed(), Qt::Key_A, Qt::ControlModifier);
        type(speed);
        QVERIFY(setup->start()->isEnabled() && !setup->checks().front()->isVisible()); // nothing here can burn
        setup->start()->setFocus();
        QTest::keyClick(setup->start(), Qt::Key_Space);
    }

private Q_SLOTS:
    void initTestCase() { QVERIFY(window_.prepare(false)); }
    void init() { QVERIFY(window_.openCopy()); }
    void cleanup() { window_.close(); }

    void a_rehearsal_is_started_with_two_keys() {
        QSignalSpy started(&window_->liveBench(), &LiveBench::started);
        window_->shelf()->select(window_.bankNamed("Pebble 5"));
        QTest::keyClick(window_.get(), Qt::Key_R, Qt::ControlModifier);
        QTRY_VERIFY(window_->livePage()->setup()->recipes()->hasFocus());
        QTest::keyClick(QApplication::focusWidget(), Qt::Key_Return);
        QTRY_COMPARE(started.size(), 1);
        window_->liveBench().stopAll();
        QTRY_VERIFY_WITH_TIMEOUT(!window_->liveBench().isRunning(), 20000);
    }
    // With real cells all four points are asked, before each run anew, and no key on the recipe starts it.
    void what_is_real_is_looked_at_first() {
        QSignalSpy started(&window_->liveBench(), &LiveBench::started);
        window_->showSetup(window_.bankNamed("Pebble 5"));
        SetupView* setup = window_->livePage()->setup();
        setup->onInstruments()->setChecked(true);
        for (QCheckBox* check : setup->checks()) {
            QVERIFY(check->isVisible() && !setup->start()->isEnabled());
            QTest::keyClick(check, Qt::Key_Space);
        }
        QVERIFY(setup->start()->isEnabled());
        QTest::keyClick(setup->recipes(), Qt::Key_Return);
        QTest::qWait(200);
        QCOMPARE(started.size(), 0);
        QVERIFY(setup->checks().front()->hasFocus());
        setup->checks()[2]->setChecked(false);
        QVERIFY(!setup->start()->isEnabled());
        setup->chooseRehearsal();
        QVERIFY(setup->start()->isEnabled());
    }
    void a_rehearsed_drain_runs_to_its_end_and_finds_the_truth() {
        QSignalSpy ended(&window_->liveBench(), &LiveBench::ended);
        rehearse("Pebble 5", 0, QStringLiteral("2000"));
        QTRY_VERIFY(window_->livePage()->showsRun());
        QVERIFY(window_->findChild<BenchStrip*>()->isVisible());
        // A stamp by one key while it goes.
        RunningView* running = window_->livePage()->running();
        QTRY_VERIFY_WITH_TIMEOUT(window_->liveBench().runner().progress().wattHours > 1.0, 20000);
        QTest::keyClick(running, Qt::Key_P);
        QTRY_VERIFY(running->stamps()->line()->hasFocus());
        type(QStringLiteral("90"));
        QTest::keyClick(running->stamps()->line(), Qt::Key_Return);
        QVERIFY(ended.wait(60000));
        const auto outcome = qvariant_cast<bench::Outcome>(ended.first().first());
        QVERIFY2(outcome.stop.kind == bench::StopKind::CutOff, outcome.stop.why.c_str());
        QVERIFY(outcome.trueWattHours);
        // The window shows the run; its finding holds the truth.
        QTRY_COMPARE(window_->runPage()->run(), outcome.run);
        std::optional<kinds::Finding> finding;
        QTRY_VERIFY_WITH_TIMEOUT((finding = window_->session().finding(outcome.run)).has_value(), 10000);
        QVERIFY(kinds::answers(*finding, "usable_wh"));
        const double off = finding->portWattHours.value() - *outcome.trueWattHours;
        QVERIFY2(std::fabs(off) <= finding->portWattHours.expanded(),
                 qPrintable(QStringLiteral("%1 ± %2, truth %3")
                                .arg(finding->portWattHours.value())
                                .arg(finding->portWattHours.expanded())
                                .arg(*outcome.trueWattHours)));
        QVERIFY(finding->portWattHours.expanded() < 0.02 * *outcome.trueWattHours); // and says something
        const auto run = *window_->session().book().run(outcome.run);
        QVERIFY(!run.open && run.meter && run.cable);
        QVERIFY(std::any_of(run.marks.begin(), run.marks.end(),
                            [](const auto& m) { return m.what == records::Mark::What::Percent && m.number == 90.0; }));
        QVERIFY(!window_->findChild<BenchStrip*>()->isVisible());
        // It can be taken back like any other run.
        QVERIFY(window_->session().history().undo());
        QVERIFY(!window_->session().book().run(outcome.run));
    }
    void the_tester_stops_it_from_any_page() {
        QSignalSpy ended(&window_->liveBench(), &LiveBench::ended);
        rehearse("Cobble 10", 0, QStringLiteral("100"));
        QTRY_VERIFY_WITH_TIMEOUT(window_->liveBench().runner().progress().loadOn, 20000);
        QTest::keyClick(window_.get(), Qt::Key_1, Qt::AltModifier);
        auto* strip = window_->findChild<BenchStrip*>();
        QTRY_VERIFY(strip->isVisible() && !window_->livePage()->isVisible());
        QTRY_VERIFY(says(strip, QStringLiteral("W")));
        QTest::keyClick(window_.get(), Qt::Key_Period, Qt::ControlModifier);
        QVERIFY(ended.wait(20000));
        const auto outcome = qvariant_cast<bench::Outcome>(ended.first().first());
        QVERIFY(outcome.stop.kind == bench::StopKind::Tester);
        QVERIFY(!window_->session().book().run(outcome.run)->stopped.empty());
    }
};

QTEST_MAIN(LiveTest)
#include "live_test.moc"
