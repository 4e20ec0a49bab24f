// The campaign in the window, by keyboard: aims, plan, pins, what is late, and a job that is begun as a rehearsal and
// takes its place.
#include <QTest>

#include <QCheckBox>
#include <QComboBox>
#include <QHeaderView>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>
#include <QScrollBar>
#include <QSettings>
#include <QSignalSpy>
#include <QSpinBox>
#include <QTableWidget>

#include "app/live/live_page.h"
#include "app/live/next_run.h"
#include "app/live/setup_view.h"
#include "app/plan/bell.h"
#include "app/plan/plan_page.h"
#include "app/plan/tide_view.h"
#include "app/plan/wishes_panel.h"
#include "app/runs/run_page.h"
#include "core/plan/campaign/files.h"
#include "core/quantity/date.h"
#include "demo_window.h"
#include "look.h"

using namespace otterstone;
using namespace otterstone::app;
using namespace otterstone::testing;
namespace campaign = otterstone::plan::campaign;

class PlanPageTest : public QObject {
    Q_OBJECT

    DemoWindow window_;

    [[nodiscard]] PlanPage* page() const { return window_->planPage(); }
    [[nodiscard]] TideView* tide() const { return page()->tide(); }
    [[nodiscard]] const campaign::Schedule& schedule() const { return page()->plan()->told.answer.schedule; }
    [[nodiscard]] const campaign::Problem& problem() const { return page()->plan()->campaign.drawn.problem; }
    bool planned() {
        return QTest::qWaitFor([this] { return page()->plan() && !page()->isPlanning(); }, 30000);
    }
    void showPlan() {
        page()->setSeconds(1.0);
        QTest::keyClick(window_.get(), Qt::Key_8, Qt::AltModifier);
        QVERIFY(page()->isVisible());
        QVERIFY(planned());
        tide()->setFocus();
    }
    void keep(const std::function<void(campaign::Wishes&)>& change) {
        campaign::Wishes w = *bench::wishesOf(window_.book());
        change(w);
        QVERIFY(window_->session().changeChoice("campaign", wishesToText(w), "wish"));
    }
    // The first row of the list that speaks of it.
    [[nodiscard]] int rowOf(const QString& words, int column) const {
        for (int r = 0; r < page()->table()->rowCount(); ++r) {
            if (page()->table()->item(r, column)->text().contains(words))
                return r;
        }
        return -1;
    }
    void type(QLineEdit* into, const QString& text) {
        into->setFocus();
        QTest::keyClick(into, Qt::Key_A, Qt::ControlModifier);
        QTest::keyClick(into, Qt::Key_Delete);
        QTest::keyClicks(into, text);
        QTest::keyClick(into, Qt::Key_Return);
    }

private Q_SLOTS:
    void initTestCase() { QVERIFY(window_.prepare(true)); }
    void init() { QVERIFY(window_.openCopy()); }
    void cleanup() { window_.close(); }

    void the_station_has_a_campaign() {
        showPlan();
        QVERIFY2(page()->sentence().contains("of 15 jobs"), qPrintable(page()->sentence()));
        QVERIFY(page()->sentence().contains("The window is met with"));
        const int late = rowOf("late by 2 h 40 min", 0);
        QVERIFY(late >= 0);
        QVERIFY(page()->table()->item(late, 2)->text().contains("Recharge to taper"));
        const int done = rowOf("done, Thu 08:00", 0);
        QVERIFY(done >= 0 && page()->table()->item(done, 4)->text() == "15 min late");
        QVERIFY(rowOf("left out", 0) > 0);
        // Each lane is a bank of which something is to be known, and nothing lies outside its lane.
        QVERIFY(problem().banks.size() >= 5 && problem().banks.size() <= 7);
        for (std::size_t k = 0; k < schedule().placed.size(); ++k)
            QVERIFY(tide()->placeOf(k).width() >= 4.0);
        QVERIFY(!tide()->accessibleDescription().isEmpty());
    }

    void runs_are_pinned_moved_and_let_go_by_keys() {
        showPlan();
        QTest::keyClick(tide(), Qt::Key_Home);
        // The first that is no mere filling.
        while (problem().jobs[schedule().placed[*tide()->current()].job].asNeeded)
            QTest::keyClick(tide(), Qt::Key_Down);
        const std::size_t was = schedule().placed[*tide()->current()].job;
        const std::string id = problem().jobs[was].id;
        const double from = schedule().placed[*tide()->current()].from;
        const auto pinned = [&]() -> const campaign::Placed* {
            for (const campaign::Placed& p : schedule().placed) {
                if (problem().jobs[p.job].id == id && problem().jobs[p.job].pin)
                    return &p;
            }
            return nullptr;
        };
        QTest::keyClick(tide(), Qt::Key_P);
        QVERIFY(planned());
        QTRY_VERIFY(pinned() && pinned()->from == from);
        QCOMPARE(page()->wishes().pins.size(), std::size_t(1));
        // Twice, before the first is planned.
        QTest::keyClick(tide(), Qt::Key_Right);
        QTest::keyClick(tide(), Qt::Key_Right);
        QVERIFY(planned());
        QTRY_VERIFY(pinned() && std::abs(pinned()->from - from - 1800.0) < 1.0);
        QCOMPARE(problem().jobs[schedule().placed[*tide()->current()].job].id, id); // it stays chosen
        QTRY_VERIFY(says(page(), "moved."));
        QVERIFY(rowOf(", pinned", 2) >= 0);
        QTest::keyClick(tide(), Qt::Key_Right, Qt::ShiftModifier);
        QVERIFY(std::abs(*secondsOf(page()->wishes().pins.front().at) - page()->plan()->campaign.begins - from -
                         5400.0) < 1.0);
        QVERIFY(planned());
        QVERIFY(window_->session().history().undo());
        QVERIFY(planned());
        QTRY_VERIFY(pinned() && std::abs(pinned()->from - from - 1800.0) < 1.0);
        QTest::keyClick(tide(), Qt::Key_P);
        QVERIFY(planned());
        QTRY_VERIFY(page()->wishes().pins.empty() && !pinned());
    }

    void a_pin_that_cannot_be_is_told_and_let_go() {
        showPlan();
        const int row = rowOf("Port survey", 2);
        QVERIFY(row >= 0);
        page()->table()->setCurrentCell(row, 0);
        const QString bank = page()->table()->item(row, 1)->text();
        const campaign::JobKey key = page()->plan()->campaign.drawn.jobs[schedule().placed[*tide()->current()].job].key;
        // At three in the night nobody is there.
        keep([&](campaign::Wishes& w) { w.pins = {{key, "2026-08-08T03:00:00"}}; });
        QVERIFY(planned());
        int out = -1;
        QTRY_VERIFY([&] {
            for (int r = 0; r < page()->table()->rowCount(); ++r) {
                if (page()->table()->item(r, 0)->text() == "left out" && page()->table()->item(r, 1)->text() == bank &&
                    page()->table()->item(r, 2)->text().contains("Port survey"))
                    out = r;
            }
            return out >= 0;
        }());
        QVERIFY2(page()->table()->item(out, 3)->text().contains("pinned"),
                 qPrintable(page()->table()->item(out, 3)->text()));
        page()->table()->setCurrentCell(out, 0);
        QTest::mouseClick(button(page(), "Let it move (P)"), Qt::LeftButton);
        QVERIFY(page()->wishes().pins.empty());
    }

    void a_run_is_dragged_taken_out_and_put_back() {
        showPlan();
        const int row = rowOf("Port survey", 2);
        page()->table()->setCurrentCell(row, 0);
        const std::size_t k = *tide()->current();
        const double from = schedule().placed[k].from;
        const QPoint at = tide()->placeOf(k).center().toPoint();
        QTest::mousePress(tide()->viewport(), Qt::LeftButton, {}, at);
        QTest::mouseMove(tide()->viewport(), at + QPoint(30, 0));
        QTest::mouseMove(tide()->viewport(), at + QPoint(60, 0));
        QTest::mouseRelease(tide()->viewport(), Qt::LeftButton, {}, at + QPoint(60, 0));
        QCOMPARE(page()->wishes().pins.size(), std::size_t(1));
        const double pin = *secondsOf(page()->wishes().pins.front().at);
        QVERIFY(pin > page()->plan()->campaign.begins + from);
        QCOMPARE(std::fmod(pin, 300.0), 0.0);
        QVERIFY(window_->session().history().undo());
        QVERIFY(planned());
        page()->table()->setCurrentCell(rowOf("Port survey", 2), 0);
        const auto jobs = problem().jobs.size();
        tide()->setFocus();
        QTest::keyClick(tide(), Qt::Key_Delete);
        QVERIFY(planned());
        QTRY_VERIFY(problem().jobs.size() < jobs);
        QTest::mouseClick(button(page(), "Put back what was taken out (1)"), Qt::LeftButton);
        QVERIFY(planned());
        QTRY_COMPARE(problem().jobs.size(), jobs);
    }

    // A column that was pulled wide is as wide after the next start; one that nobody touched is as it always was.
    void columns_stay_as_they_were_pulled() {
        showPlan();
        QHeaderView* header = page()->table()->horizontalHeader();
        const int wide = header->sectionSize(0), other = header->sectionSize(1);
        const QPoint edge(header->sectionViewportPosition(0) + wide - 1, header->height() / 2);
        QTest::mousePress(header->viewport(), Qt::LeftButton, {}, edge);
        QTest::mouseMove(header->viewport(), edge + QPoint(20, 0));
        QTest::mouseMove(header->viewport(), edge + QPoint(60, 0));
        QTest::mouseRelease(header->viewport(), Qt::LeftButton, {}, edge + QPoint(60, 0));
        const int pulled = header->sectionSize(0);
        QVERIFY2(pulled > wide + 20, qPrintable(QString::number(pulled)));
        window_.close();
        QVERIFY(window_.openCopy());
        QCOMPARE(page()->table()->horizontalHeader()->sectionSize(0), pulled);
        QCOMPARE(page()->table()->horizontalHeader()->sectionSize(1), other);
        QSettings().remove(QStringLiteral("widths"));
    }
    void a_run_comes_first_and_has_a_day_of_its_own() {
        showPlan();
        const int row = rowOf("Port survey", 2);
        page()->table()->setCurrentCell(row, 0);
        tide()->setFocus();
        QTest::keyClick(tide(), Qt::Key_F);
        QVERIFY(planned());
        QTRY_VERIFY(rowOf(", first of all", 2) >= 0);
        const campaign::JobKey key = page()->wishes().first.front();
        double ends = 0.0;
        for (const campaign::Placed& p : schedule().placed) {
            if (page()->plan()->campaign.drawn.jobs[p.job].key == key)
                ends = p.to;
        }
        for (const campaign::Placed& p : schedule().placed)
            QVERIFY(problem().jobs[p.job].asNeeded || p.to == ends || p.from >= ends);
        QTest::keyClick(tide(), Qt::Key_F);
        QVERIFY(planned());
        QVERIFY(page()->wishes().first.empty());
        QTest::keyClick(tide(), Qt::Key_D);
        QVERIFY(planned());
        QTRY_VERIFY(rowOf(", a day of its own", 2) >= 0);
        QVERIFY(!problem().apart.empty());
    }

    void a_run_of_ones_own_is_of_any_kind_by_its_name() {
        showPlan();
        QTest::keyClick(tide(), Qt::Key_A);
        QStringList offered;
        for (const QComboBox* box : page()->panel()->findChildren<QComboBox*>()) {
            for (int k = 0; k < box->count(); ++k)
                offered << box->itemText(k);
        }
        for (const char* run : {"Drain, by hand", "Source × cable, by hand", "Pass-through and back-up, by hand"})
            QVERIFY2(offered.contains(QString::fromUtf8(run)), run);
        QTest::keyClick(tide(), Qt::Key_A);
    }

    void hours_and_ends_are_typed_as_people_write_them() {
        showPlan();
        QTest::keyClick(tide(), Qt::Key_A);
        WishesPanel* panel = page()->panel();
        QVERIFY(panel->isVisible());
        type(panel->hours(), "mon-fri 9-25");
        QVERIFY(says(window_.get(), "mon-fri 9-25"));
        QVERIFY(page()->wishes().hours.find("25") == std::string::npos); // not kept
        type(panel->hours(), "daily 8-20");
        QCOMPARE(page()->wishes().hours, std::string("daily 8-20"));
        page()->setClock(*secondsOf("2026-08-07T10:40:00"));
        page()->refresh();
        QVERIFY(planned());
        type(panel->until(), "sat 18:00");
        QCOMPARE(page()->wishes().until, std::string("2026-08-08T18:00:00"));
        QVERIFY(planned());
        for (const campaign::Placed& p : schedule().placed)
            QVERIFY(p.to <= *problem().until + 1.0);
        QTRY_VERIFY(schedule().leftOut.size() > 2); // not all fits until then
        type(panel->until(), "2026-08-01 9:00");
        QVERIFY(QTest::qWaitFor([this] { return page()->sentence().contains("is not after its beginning"); }, 10000));
    }

    void from_now_leaves_an_end_that_is_past() {
        showPlan();
        QTest::keyClick(tide(), Qt::Key_N);
        QVERIFY(says(window_.get(), "The end, Thu 13 Aug 2026 18:00, is past"));
        QVERIFY(planned());
        QVERIFY(!problem().until && page()->wishes().from.empty());
        QVERIFY(window_->session().history().undo());
        QCOMPARE(bench::wishesOf(window_.book())->untilWhat, std::string("the supply boat"));
    }

    // Aim, plan, pin, begin as a rehearsal; it ends, and the plan has moved on.
    void a_job_is_begun_as_a_rehearsal_and_takes_its_place() {
        showPlan();
        QTest::keyClick(tide(), Qt::Key_A);
        WishesPanel* panel = page()->panel();
        // What three loads say of Pebble 5, and nothing else.
        for (int k = 0; k < panel->banks()->count(); ++k) {
            const bool wanted = panel->banks()->item(k)->text() == "Pebble 5";
            panel->banks()->setFocus();
            panel->banks()->setCurrentRow(k);
            if ((panel->banks()->item(k)->checkState() == Qt::Checked) != wanted)
                QTest::keyClick(panel->banks(), Qt::Key_Space);
        }
        QCOMPARE(page()->wishes().banks.size(), std::size_t(1));
        for (auto* spin : panel->findChildren<QSpinBox*>()) {
            if (spin->accessibleName() == "Loads")
                QTest::keyClick(spin, Qt::Key_Up);
        }
        QCOMPARE(page()->wishes().loads, 4);
        QVERIFY(planned());
        QTRY_COMPARE(problem().banks.size(), std::size_t(1));
        QTest::keyClick(window_.get(), Qt::Key_Escape);
        QVERIFY2(rowOf("Steady-power drain", 2) >= 0, qPrintable(page()->sentence()));
        // It is empty: before its drain it is filled.
        tide()->setFocus();
        QTest::keyClick(tide(), Qt::Key_Home);
        const campaign::Placed first = schedule().placed[*tide()->current()];
        QVERIFY(problem().jobs[first.job].asNeeded && first.from == 0.0);
        const std::size_t before = schedule().placed.size();
        QTest::keyClick(tide(), Qt::Key_Return);
        QVERIFY(window_->livePage()->isVisible());
        SetupView* setup = window_->livePage()->setup();
        QVERIFY(setup->recipes()->currentItem()->text().contains("Recharge to taper"));
        QVERIFY(says(window_.get(), "as it is planned: Hut socket"));
        QVERIFY(!page()->wishes().kept.at.empty());
        setup->speed()->setText("3000");
        for (QCheckBox* check : setup->checks())
            check->setChecked(true);
        QSignalSpy ended(&window_->liveBench(), &LiveBench::ended);
        QTest::mouseClick(setup->start(), Qt::LeftButton);
        QVERIFY(ended.wait(60000));
        QVERIFY(ended.front().front().value<bench::Outcome>().run != 0);
        const auto run = window_.book().run(ended.front().front().value<bench::Outcome>().run);
        QVERIFY(run && run->kind == records::Kind::Recharge && run->charger);
        // What the plan has next on that gear is offered, and set up by a key.
        QTRY_VERIFY_WITH_TIMEOUT(says(window_.get(), "The plan has next on this gear: "), 20000);
        QTest::keyClick(window_.get(), Qt::Key_R, Qt::ControlModifier | Qt::ShiftModifier);
        QTRY_VERIFY(setup->isVisible() && says(window_.get(), "as it is planned: "));
        QCOMPARE(setup->bank(), run->bank);
        QVERIFY(setup->recipes()->currentItem()->text().contains("Steady-power drain"));
        showPlan();
        QTRY_COMPARE(schedule().placed.size(), before - 1);
        QTest::keyClick(tide(), Qt::Key_Home);
        QVERIFY(!problem().jobs[schedule().placed[*tide()->current()].job].asNeeded);
        QVERIFY(schedule().placed[*tide()->current()].begin.isFull());
        QVERIFY(rowOf("done, ", 0) >= 0);
    }

    // All lies plugged in: after the recharge the drain begins by itself, on the same bench and made as that was; but
    // not when the tester keeps it back, nor after a run that the tester stopped.
    void what_needs_no_hands_begins_by_itself_data() {
        QTest::addColumn<QString>("unattended");
        QTest::addColumn<QString>("tester");
        QTest::addColumn<QString>("says");
        QTest::addColumn<bool>("begins");
        QTest::newRow("it begins") << "night"
                                   << ""
                                   << "It needs no hands, and begins by itself at " << true;
        QTest::newRow("kept back") << "night"
                                   << "keeps it"
                                   << "It does not begin by itself." << false;
        QTest::newRow("the plan was changed") << "night"
                                              << "changes it"
                                              << "begins by itself at " << false;
        QTest::newRow("stopped") << "night"
                                 << "stops it"
                                 << "Ctrl+Shift+R sets it up." << false;
        QTest::newRow("nothing may go on alone") << "never"
                                                 << ""
                                                 << "Ctrl+Shift+R sets it up." << false;
    }
    void what_needs_no_hands_begins_by_itself() {
        QFETCH(QString, unattended);
        QFETCH(QString, tester);
        QFETCH(QString, says);
        QFETCH(bool, begins);
        keep([&](campaign::Wishes& w) {
            w.unattended = *campaign::unattendedFromKey(unattended.toStdString());
            w.loads = 4;
            w.claims = false;
            w.banks.clear();
            for (const records::Bank& b : window_.book().banks()) {
                if (b.name == "Pebble 5")
                    w.banks.push_back(b.id);
            }
        });
        showPlan();
        QTRY_COMPARE(problem().banks.size(), std::size_t(1));
        for (const campaign::Drawn& job : page()->plan()->campaign.drawn.jobs) {
            if (job.key.variant == campaign::kAsNeeded || job.key.recipe.empty())
                continue;
            const int row = rowOf(qs(job.words), 2);
            QVERIFY2(row >= 0, job.words.c_str());
            page()->table()->setCurrentCell(row, 0);
            QTest::keyClick(page()->table(), Qt::Key_H);
            QVERIFY(planned());
        }
        QVERIFY(rowOf(", no hands needed", 2) >= 0);
        tide()->setFocus();
        QTest::keyClick(tide(), Qt::Key_Home);
        QTest::keyClick(tide(), Qt::Key_Return);
        SetupView* setup = window_->livePage()->setup();
        setup->speed()->setText(tester == "stops it" ? "50" : "3000");
        for (QCheckBox* check : setup->checks())
            check->setChecked(true);
        window_->nextRun()->setNotice(2.0);
        QSignalSpy started(&window_->liveBench(), &LiveBench::started);
        QSignalSpy ended(&window_->liveBench(), &LiveBench::ended);
        QTest::mouseClick(setup->start(), Qt::LeftButton);
        if (tester == "stops it") {
            QVERIFY(started.count() > 0 || started.wait(20000));
            QTRY_VERIFY(window_->liveBench().chosen().progress().run != 0);
            QTest::keyClick(window_.get(), Qt::Key_Period, Qt::ControlModifier);
        }
        QVERIFY(ended.count() > 0 || ended.wait(60000));
        QTRY_VERIFY_WITH_TIMEOUT(testing::says(window_.get(), "The plan has next on this gear: "), 20000);
        if (tester == "keeps it")
            QTest::keyClick(window_.get(), Qt::Key_Period, Qt::ControlModifier);
        QVERIFY(testing::says(window_.get(), says));
        if (tester == "changes it") {
            keep([](campaign::Wishes& w) { w.wired.clear(); });
            QTRY_VERIFY(testing::says(window_.get(), "does not begin by itself: the plan or its bank has changed"));
        }
        if (!begins) {
            QTest::qWait(2500);
            QVERIFY(!window_->liveBench().isRunning());
            QCOMPARE(started.count(), 1);
            return;
        }
        // Whoever looks at something else goes on doing so.
        QTest::keyClick(window_.get(), Qt::Key_8, Qt::AltModifier);
        QTRY_COMPARE_WITH_TIMEOUT(started.count(), 2, 20000);
        QVERIFY(page()->isVisible());
        QVERIFY(testing::says(window_.get(), "Begun by itself on bench 1: Pebble 5, Steady-power drain, "));
        QVERIFY(ended.count() > 1 || ended.wait(90000));
        const auto run = window_.book().run(ended.back().front().value<bench::Outcome>().run);
        QVERIFY(run && run->kind == records::Kind::Drain && run->load);
        QVERIFY(QString::fromStdString(run->recipe).contains("steady-power-drain"));
        QCOMPARE(window_->liveBench().choiceOf(1)->speed, 3000.0);
    }

    void an_entry_of_the_testers_own_is_planned_and_taken_out() {
        showPlan();
        QTest::keyClick(tide(), Qt::Key_A);
        for (auto* box : page()->panel()->findChildren<QComboBox*>()) {
            if (box->accessibleName() == "Bank of a run of your own")
                box->setCurrentText("Pebble 5");
            else if (box->accessibleName() == "A run of your own")
                box->setCurrentText("Load staircase to trip");
        }
        for (auto* edit : page()->panel()->findChildren<QLineEdit*>()) {
            if (edit->accessibleName() == "What it is for")
                type(edit, "Where does it trip now?");
        }
        QCOMPARE(window_.book().planned().size(), std::size_t(1));
        QCOMPARE(window_.book().planned().front().bank, window_.bankNamed("Pebble 5"));
        QVERIFY(planned());
        QTRY_VERIFY(rowOf("Load staircase to trip", 2) >= 0);
        const int row = rowOf("Load staircase to trip", 2);
        QVERIFY(row >= 0);
        QCOMPARE(page()->table()->item(row, 4)->text(), QString("Where does it trip now?"));
        page()->table()->setCurrentCell(row, 0);
        QTest::mouseClick(button(page(), "Take it out"), Qt::LeftButton);
        QVERIFY(window_.book().planned().empty());
        QVERIFY(planned());
        QTRY_VERIFY(rowOf("Load staircase to trip", 2) < 0);
    }

    void what_is_written_by_hand_has_its_gear() {
        showPlan();
        page()->table()->setCurrentCell(rowOf("Port survey", 2), 0);
        const std::string on = page()->table()->item(page()->table()->currentRow(), 3)->text().toStdString();
        QTest::mouseClick(button(page(), "Write it down by hand…"), Qt::LeftButton);
        QVERIFY(window_->runPage()->isVisible());
        const auto run = window_.book().run(window_->runPage()->run());
        QVERIFY(run && run->kind == records::Kind::Survey && run->meter && run->load && run->cable && run->trigger);
        for (const records::Gear& g : window_.book().gear()) {
            const bool laidOut = g.id == run->meter || g.id == run->load || g.id == run->cable || g.id == run->trigger;
            QCOMPARE(on.find(g.name) != std::string::npos, laidOut);
        }
        showPlan();
        page()->table()->setCurrentCell(rowOf("Steady-power drain", 2), 0);
        QTest::mouseClick(button(page(), "Write it down by hand…"), Qt::LeftButton);
        QVERIFY(window_->runPage()->isVisible());
        const auto written = window_.book().run(window_->runPage()->run());
        QVERIFY(written && written->kind == records::Kind::Notebook && written->meter && written->load);
        QCOMPARE(written->sheet->rows.front()[kinds::columnAt(*written->sheet, "way")], std::string("out"));
        bool named = false;
        for (const records::Gear& g : window_.book().gear()) {
            for (auto* box : window_->runPage()->findChildren<QComboBox*>())
                named = named || (g.id == written->meter && box->currentText().endsWith(qs(g.name)));
        }
        QVERIFY(named);
    }
    void what_is_due_rings() {
        keep([](campaign::Wishes& w) { w.from.clear(); });
        Bell bell(window_->session());
        QStringList rung;
        connect(&bell, &Bell::rings, this, [&](const QString& sentence) { rung << sentence; });
        const auto at = [](const char* time) { return *secondsOf(std::string("2026-08-07T") + time); };
        bell.look(at("07:59:00"));
        QVERIFY(rung.isEmpty());
        bell.look(at("08:00:10"));
        QCOMPARE(rung.size(), 1);
        QVERIFY2(rung.front().contains("It is time for “Dolmen 50: Recharge to taper”, until about 17:41."),
                 qPrintable(rung.front()));
        bell.look(at("08:00:25"));
        QCOMPARE(rung.size(), 1); // once
        bell.look(at("17:45:00"));
        QCOMPARE(rung.size(), 2);
        QVERIFY(rung.back().contains("should be over"));
        // A plan as of a moment of its own stands still.
        keep([](campaign::Wishes& w) { w.from = "2026-08-07T10:40:00"; });
        bell.look(*secondsOf("2026-08-08T12:00:00"));
        QCOMPARE(rung.size(), 2);
    }

    void a_damaged_campaign_leaves_the_book_usable() {
        QVERIFY(window_.book().setChoice("campaign", R"({"format": "otterstone-campaign", "version": 1, "hours": 3})"));
        showPlan();
        QVERIFY(says(window_.get(), "hours"));
        QVERIFY(page()->sentence().contains("jobs"));
    }

    void pictures_with_one_and_with_many_banks_data() {
        QTest::addColumn<int>("banks");
        QTest::newRow("none") << 0;
        QTest::newRow("one") << 1;
        QTest::newRow("thirty") << 30;
    }
    void pictures_with_one_and_with_many_banks() {
        QFETCH(int, banks);
        const auto model = window_.book().bank(window_.bankNamed("Menhir 27"));
        for (const records::Bank& b : window_.book().banks())
            QVERIFY(window_.book().setBankRemoved(b.id, true));
        for (int k = 0; k < banks; ++k) {
            records::Bank bank = *model;
            bank.id = records::kNew;
            bank.name = "Menhir 27 no. " + std::to_string(k + 1);
            QVERIFY(window_.book().save(bank));
        }
        keep([](campaign::Wishes& w) {
            w.banks.clear();
            w.kept = {};
        });
        showPlan();
        QCOMPARE(static_cast<int>(problem().banks.size()), banks);
        if (banks == 0) {
            QVERIFY(page()->sentence().startsWith("Nothing is to be done"));
            return;
        }
        QCOMPARE(tide()->verticalScrollBar()->maximum() > 0, banks == 30);
        // From the first to the last by keys, each comes into sight.
        QTest::keyClick(tide(), Qt::Key_Home);
        for (std::size_t k = 0; k < schedule().placed.size(); ++k) {
            const QRectF place = tide()->placeOf(*tide()->current());
            QVERIFY(place.bottom() > 0 && place.top() < tide()->viewport()->height());
            QTest::keyClick(tide(), Qt::Key_Down);
        }
        QTest::keyClick(tide(), Qt::Key_Plus);
        QVERIFY(tide()->horizontalScrollBar()->maximum() > 0);
    }
};

QTEST_MAIN(PlanPageTest)
#include "plan_page_test.moc"
