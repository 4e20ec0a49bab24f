// What one page asks of another goes through the window.
#include "app/main_window.h"

#include <QApplication>
#include <QCloseEvent>
#include <QMessageBox>
#include <QStackedWidget>

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
#include "app/plan/bell.h"
#include "app/plan/plan_page.h"
#include "app/runs/about_panel.h"
#include "app/runs/run_page.h"
#include "app/shelf/shelf.h"
#include "app/start/start_page.h"
#include "app/theme.h"
#include "app/widgets/caution_panel.h"
#include "app/widgets/copy_table.h"
#include "app/widgets/message_bar.h"
#include "app/widgets/on_screen.h"
#include "app/widgets/working_drawer.h"
#include "bench/campaign/book_campaign.h"

namespace otterstone::app {

void MainWindow::prepareMeasuring() {
    start_.isBuiltBy([this] {
        auto* page = placed(new StartPage, pages_);
        connect(page, &StartPage::newBankWanted, this, &MainWindow::newBank);
        connect(page, &StartPage::demoWanted, this, &MainWindow::openDemo);
        connect(page, &StartPage::bookWanted, this, &MainWindow::chooseBook);
        return page;
    });
    intake_.isBuiltBy([this] { return placed(new IntakePage(session_), pages_); });
    import_.isBuiltBy([this] {
        auto* page = placed(new ImportPage(session_), pages_);
        connect(page, &ImportPage::left, this, [this] { showRuns(shelf_->selected()); });
        connect(page, &ImportPage::taken, this, [this](long long run) {
            const auto taken = session_.book().run(run);
            if (!taken)
                return;
            shelf_->select(taken->bank);
            showRuns(taken->bank, run);
        });
        return page;
    });
    runs_.isBuiltBy([this] {
        auto* page = placed(new RunPage(session_), pages_);
        connect(page, &RunPage::workingWanted, this, &MainWindow::openWorking);
        connect(page, &RunPage::gearWanted, this, &MainWindow::openGear);
        connect(page, &RunPage::aboutWanted, this, &MainWindow::showAbout);
        connect(page, &RunPage::cautionsWanted, this, &MainWindow::showCautions);
        connect(page, &RunPage::logWanted, this, &MainWindow::chooseLog);
        return page;
    });
    bench_.isBuiltBy([this] {
        auto* page = placed(new BenchPage(session_), pages_);
        connect(page, &BenchPage::gearWanted, this, &MainWindow::openPiece);
        connect(page, &BenchPage::handWanted, this, [this] { writeByHand(shelf_->selected()); });
        connect(page, &BenchPage::logWanted, this, &MainWindow::chooseLog);
        connect(page, &BenchPage::cautionsWanted, this, &MainWindow::showCautions);
        return page;
    });
}

void MainWindow::preparePanels() {
    drawer_.isBuiltBy([this] {
        auto* panel = placed(new WorkingDrawer, side_);
        connect(panel, &WorkingDrawer::houseChosen, this, [this](const QString& question, const QString& answer) {
            setup::Schools s = session_.book().schools();
            setAnswer(s, question.toStdString(), answer.toStdString());
            if (auto done = session_.changeSchools(s); !done)
                say(qs(done.error().sentence()));
        });
        return panel;
    });
    gear_.isBuiltBy([this] { return placed(new GearPanel(session_), side_); });
    about_.isBuiltBy([this] {
        auto* panel = placed(new AboutPanel(session_), side_);
        connect(panel, &AboutPanel::gearWanted, this, &MainWindow::openGear);
        connect(panel, &AboutPanel::traceWanted, this, [this](long long run) {
            import_->addTo(run);
            chooseLog();
            if (!shows(import_))
                import_->addTo(records::kNew); // nothing was chosen
        });
        return panel;
    });
    help_.isBuiltBy([this] {
        auto* panel = placed(new HelpPanel, side_);
        connect(panel, &HelpPanel::keysWanted, this, &MainWindow::showKeys);
        return panel;
    });
    house_.isBuiltBy([this] { return placed(new HousePanel(session_), side_); });
    cautions_.isBuiltBy([this] { return placed(new CautionPanel, side_); });
}

void MainWindow::prepareLive() {
    live_.isBuiltBy([this] {
        auto* page = placed(new LivePage(session_, liveBench_), pages_);
        connect(page, &LivePage::instrumentsWanted, this, &MainWindow::showInstruments);
        connect(page, &LivePage::recipeWanted, this, [this](const QString& json) {
            recipe_->open(json, session_.book().bank(shelf_->selected()).value_or(records::Bank{}));
            showSide(recipe_.get());
        });
        connect(page, &LivePage::runWanted, this, [this](long long run) {
            if (const auto r = session_.book().run(run))
                showRuns(r->bank, run);
        });
        return page;
    });
    instruments_.isBuiltBy([this] { return placed(new InstrumentPanel(session_, liveBench_), side_); });
    recipe_.isBuiltBy([this] {
        auto* panel = placed(new RecipePanel(liveBench_), side_);
        connect(panel, &RecipePanel::kept, live_->setup(), &SetupView::chooseRecipe);
        return panel;
    });
}

// What the shelf, the live bench and the bell say, whichever page is there.
void MainWindow::connectParts() {
    connect(shelf_, &Shelf::chosen, this, [this](long long bank) {
        closeSide();
        shown().show ? shown().show(bank) : showRuns(bank);
    });
    connect(shelf_, &Shelf::newBankWanted, this, &MainWindow::newBank);
    new CopyMenu(this);
    auto* bell = new Bell(session_, this);
    connect(bell, &Bell::rings, this, [this](const QString& sentence) {
        QApplication::beep();
        ask(sentence);
        notifyDesktop(sentence);
    });
    connect(strip_, &BenchStrip::pageWanted, this, [this](int number) {
        if (LiveRun* run = liveBench_.withNumber(number)) {
            live_->showRun(*run);
            showStage(live_);
        }
    });
    connect(&liveBench_, &LiveBench::problem, this, &MainWindow::say);
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
        const bool here = shows(live_) && live_->showsRun() && run == &liveBench_.chosen();
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
        if (const auto wishes = bench::wishesOf(session_.book()); wishes && !wishes->kept.at.empty()) // agreed on
            plan_->offerNext(run->number(), std::move(free));
        if (outcome.run != records::kNew && here)
            showRuns(run->plan().run.bank, outcome.run);
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
