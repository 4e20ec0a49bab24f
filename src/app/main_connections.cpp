// What one page asks of another goes through the window.
#include "app/main_window.h"

#include <QCloseEvent>
#include <QFileDialog>
#include <QMessageBox>
#include <QPushButton>
#include <QStackedWidget>

#include "app/findings/findings_page.h"
#include "app/findings/house_panel.h"
#include "app/gear/bench_page.h"
#include "app/gear/gear_panel.h"
#include "app/help/help_panel.h"
#include "app/import/import_page.h"
#include "app/intake/intake_page.h"
#include "app/live/bench_strip.h"
#include "app/live/instrument_panel.h"
#include "app/live/live_page.h"
#include "app/live/next_run.h"
#include "app/live/recipe_panel.h"
#include "app/live/running_view.h"
#include "app/live/setup_view.h"
#include "app/plan/plan_page.h"
#include "app/runs/about_panel.h"
#include "app/runs/run_page.h"
#include "app/shelf/shelf.h"
#include "app/start/start_page.h"
#include "app/theme.h"
#include "app/widgets/caution_panel.h"
#include "app/widgets/message_bar.h"
#include "app/widgets/on_screen.h"
#include "app/widgets/working_drawer.h"

namespace otterstone::app {

void MainWindow::connectPages() {
    connect(shelf_, &Shelf::chosen, this, [this](long long bank) {
        closeSide();
        shown().show ? shown().show(bank) : showRuns(bank);
    });
    connect(shelf_, &Shelf::newBankWanted, this, &MainWindow::newBank);
    connect(start_, &StartPage::newBankWanted, this, &MainWindow::newBank);
    connect(start_, &StartPage::demoWanted, this, &MainWindow::openDemo);
    connect(start_, &StartPage::bookWanted, this, [this] {
        const QString path = QFileDialog::getOpenFileName(this, tr("Open a book"), {}, tr("Books (*.otterstone)"));
        if (!path.isEmpty())
            openBook(path);
    });
    const auto cautions = [this] {
        runs_->uncheckFigures();
        showSide(cautions_);
    };
    connect(runs_, &RunPage::workingWanted, this, &MainWindow::openWorking);
    connect(runs_, &RunPage::gearWanted, this, &MainWindow::openGear);
    connect(runs_, &RunPage::aboutWanted, this, &MainWindow::showAbout);
    connect(runs_, &RunPage::cautionsWanted, this, cautions);
    connect(runs_, &RunPage::logWanted, this, &MainWindow::chooseLog);
    connect(bench_, &BenchPage::gearWanted, this, &MainWindow::openPiece);
    connect(bench_, &BenchPage::handWanted, this, [this] { writeByHand(shelf_->selected()); });
    connect(bench_, &BenchPage::logWanted, this, &MainWindow::chooseLog);
    connect(bench_, &BenchPage::cautionsWanted, this, cautions);
    connect(findings_, &FindingsPage::workingWanted, this, &MainWindow::openWorking);
    connect(findings_, &FindingsPage::runWanted, this, [this](long long run) { showRuns(shelf_->selected(), run); });
    connect(findings_, &FindingsPage::houseWanted, this, &MainWindow::showHouse);
    connect(about_, &AboutPanel::gearWanted, this, &MainWindow::openGear);
    connect(about_, &AboutPanel::traceWanted, this, [this](long long run) {
        import_->addTo(run);
        chooseLog();
        if (pages_->currentWidget() != import_)
            import_->addTo(records::kNew); // nothing was chosen
    });
    connect(drawer_, &WorkingDrawer::houseChosen, this, [this](const QString& question, const QString& answer) {
        setup::Schools s = session_.book().schools();
        setAnswer(s, question.toStdString(), answer.toStdString());
        if (auto done = session_.changeSchools(s); !done)
            say(qs(done.error().sentence()));
    });
    const auto common = [this](auto* panel) {
        using Panel = std::remove_pointer_t<decltype(panel)>;
        connect(panel, &Panel::problem, this, &MainWindow::say);
        if constexpr (requires { &Panel::closed; })
            connect(panel, &Panel::closed, this, &MainWindow::closeSide);
    };
    common(runs_);
    common(intake_);
    common(gear_);
    common(about_);
    common(house_);
    common(help_);
    common(bench_);
    common(live_);
    common(instruments_);
    common(recipe_);
    connectLive();
    connectJudgement();
    connect(drawer_, &WorkingDrawer::closed, this, &MainWindow::closeSide);
    connect(import_, &ImportPage::left, this, [this] { showRuns(shelf_->selected()); });
    connect(import_, &ImportPage::taken, this, [this](long long run) {
        const auto taken = session_.book().run(run);
        if (!taken)
            return;
        shelf_->select(taken->bank);
        showRuns(taken->bank, run);
    });
}

void MainWindow::connectLive() {
    connect(live_, &LivePage::instrumentsWanted, this, [this] {
        instruments_->open();
        showSide(instruments_);
    });
    connect(live_, &LivePage::recipeWanted, this, [this](const QString& json) {
        recipe_->open(json, session_.book().bank(shelf_->selected()).value_or(records::Bank{}));
        showSide(recipe_);
    });
    connect(recipe_, &RecipePanel::kept, live_->setup(), &SetupView::chooseRecipe);
    connect(live_, &LivePage::runWanted, this, [this](long long run) {
        if (const auto r = session_.book().run(run))
            showRuns(r->bank, run);
    });
    connect(strip_, &BenchStrip::pageWanted, this, [this](int number) {
        if (LiveRun* run = liveBench_.withNumber(number)) {
            live_->showRun(*run);
            showStage(live_);
        }
    });
    connect(&liveBench_, &LiveBench::started, this, [this](const LiveRun* run) {
        if (liveBench_.beganByItself(*run)) {
            const auto bank = session_.book().bank(run->plan().run.bank);
            return ask(tr("Begun by itself on bench %1: %2, %3.")
                           .arg(run->number())
                           .arg(bank ? qs(bank->name) : QString(), qs(run->plan().recipe.name)));
        }
        closeSide();
        message_->hide();
        showStage(live_);
    });
    connect(&liveBench_, &LiveBench::ended, this, [this](const bench::Outcome& outcome, const LiveRun* run) {
        // Whoever looks at another run, or sets up the next one, is told only.
        const bool here = pages_->currentWidget() == live_ && live_->showsRun() && run == &liveBench_.chosen();
        const auto bank = session_.book().bank(run->plan().run.bank);
        QString words =
            tr("%1 of %2 ended: %3.")
                .arg(qs(run->plan().recipe.name), bank ? qs(bank->name) : QString(), onScreen(outcome.stop.why));
        if (outcome.trueWattHours)
            words += tr(" In this rehearsal %1 Wh truly went through the port.")
                         .arg(onScreen(QString::number(*outcome.trueWattHours, 'f', 3)));
        bench::isOrderly(outcome.stop.kind) ? tell(words) : say(words);
        std::set<std::string> free;
        for (const records::Gear& g : session_.book().gear()) {
            if (records::uses(run->plan().run, g.id))
                free.insert(g.name);
        }
        const bool byItself = bench::isOrderly(outcome.stop.kind) && outcome.stop.kind != bench::StopKind::Tester &&
                              outcome.stillOn.empty() && outcome.rescued.empty();
        byItself ? next_->follow(run->number()) : next_->leave(run->number());
        plan_->offerNext(run->number(), std::move(free));
        if (outcome.run != records::kNew && here)
            showRuns(run->plan().run.bank, outcome.run);
    });
    connect(plan_, &PlanPage::nextKnown, this, [this](int bench, const JobToDo& job, const QString& words) {
        // Behind what is said of the run that ended.
        message_->add(next_->offer(bench, job, words));
    });
    connect(next_, &NextRun::problem, this, &MainWindow::say);
    connect(&session_, &BookSession::opened, this, [this] {
        next_->clear();
        // What was cut off comes first.
        if (const auto open = liveBench_.openRuns(); !open.empty())
            showLive(open.front().bank);
    });
}

void MainWindow::handsDone() {
    LiveRun& chosen = liveBench_.chosen();
    if (chosen.progress().phase == bench::Phase::Waiting)
        return chosen.session().goOn();
    for (LiveRun* run : liveBench_.going()) {
        if (run->progress().phase == bench::Phase::Waiting) {
            live_->showRun(*run);
            showStage(live_);
            return ask(tr("Bench %1 waits for this. Press Ctrl+G again when it is done.").arg(run->number()));
        }
    }
}

// A window that closes takes the run with it: the load goes off, and what was measured is kept.
void MainWindow::closeEvent(QCloseEvent* event) {
    if (liveBench_.isRunning() &&
        QMessageBox::question(
            this, tr("A run is going"),
            tr("Closing the window switches every load off and ends what goes. What was measured so far is kept.")) !=
            QMessageBox::Yes) {
        event->ignore();
        return;
    }
    QMainWindow::closeEvent(event);
}

} // namespace otterstone::app
