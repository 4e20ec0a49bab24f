// The window's ways between verdicts, plan, choice and sheet.
#include "app/choose/choose_page.h"
#include "app/findings/findings_page.h"
#include "app/gear/lay_out.h"
#include "app/live/live_page.h"
#include "app/live/next_run.h"
#include "app/live/setup_view.h"
#include "app/main_window.h"
#include "app/plan/plan_page.h"
#include "app/plan/wishes_panel.h"
#include "app/report/report_page.h"
#include "app/shelf/shelf.h"
#include "app/theme.h"
#include "app/widgets/copy_table.h"
#include "app/widgets/message_bar.h"
#include "app/widgets/on_screen.h"

namespace otterstone::app {

void MainWindow::prepareJudgement() {
    findings_.isBuiltBy([this] {
        auto* page = placed(new FindingsPage(session_), pages_);
        connect(page, &FindingsPage::workingWanted, this, &MainWindow::openWorking);
        connect(page, &FindingsPage::runWanted, this, [this](long long run) { showRuns(shelf_->selected(), run); });
        connect(page, &FindingsPage::houseWanted, this, &MainWindow::showHouse);
        connect(page, &FindingsPage::planWanted, this,
                [this](long long bank, const judgement::Held& row) { planFor(bank, row); });
        return page;
    });
    plan_.isBuiltBy([this] {
        auto* page = placed(new PlanPage(session_), pages_);
        placed(page->panel(), side_);
        connect(page, &PlanPage::panelWanted, this, [this] { showSide(plan_->panel()); });
        connect(page, &PlanPage::startWanted, this, &MainWindow::startPlanned);
        connect(page, &PlanPage::writeWanted, this, &MainWindow::writePlanned);
        connect(page, &PlanPage::nextKnown, this, [this](int bench, const JobToDo& job, const QString& words) {
            // Behind what is said of the run that ended.
            message_->add(next_->offer(bench, job, words));
        });
        return page;
    });
    choose_.isBuiltBy([this] {
        auto* page = placed(new ChoosePage(session_), pages_);
        connect(page, &ChoosePage::workingWanted, this, &MainWindow::openWorking);
        connect(page, &ChoosePage::runWanted, this, [this](long long id) {
            if (const auto run = session_.book().run(id))
                showRuns(run->bank, id);
        });
        connect(page, &ChoosePage::sheetWanted, this, [this] {
            report_->showComparison(choose_->banks());
            showStage(report_);
        });
        return page;
    });
    report_.isBuiltBy([this] { return placed(new ReportPage(session_), pages_); });
}

void MainWindow::copyShown() {
    if (CopyMenu::copyFrom(pages_->currentWidget()))
        tell(tr("Copied."));
    else
        say(tr("There is no table or curve on this page."));
}

void MainWindow::showPlan() {
    plan_->refresh();
    showStage(plan_);
}

void MainWindow::showChoose() {
    if (!session_.isOpen())
        return;
    choose_->open();
    showStage(choose_);
    choose_->setView(choose_->view());
}

void MainWindow::showReport(records::Id bank) {
    if (bank == records::kNew)
        return;
    shelf_->select(bank);
    report_->showBank(bank);
    showStage(report_);
}

void MainWindow::planFor(records::Id bank, const judgement::Held& row) {
    const auto of = session_.book().bank(bank);
    if (!of)
        return;
    if (!row.next.kind) // no run settles it, but a scale, a rule or a better meter
        return tell(tr("%1: %2").arg(onScreen(row.claim.words), onScreen(row.next.words)));
    for (const records::PlannedRun& p : session_.book().planned()) {
        if (p.bank == bank && p.claim == row.claim.key && !p.done)
            return tell(tr("That run is in the plan already (Alt+8)."));
    }
    const auto added = session_.addPlanned({records::kNew, bank, *row.next.kind, row.next.recipe, row.claim.key,
                                            row.next.words + " It would settle: " + row.claim.words + ".", false});
    added ? tell(tr("Put into the plan for %1 (Alt+8): %2").arg(qs(of->name), onScreen(row.next.words)))
          : say(qs(added.error().sentence()));
}

void MainWindow::startPlanned(const JobToDo& job) {
    showSetup(job.bank);
    live_->setup()->chooseRecipe(job.recipe);
    live_->setup()->takePlan(job.gear, job.watts);
}

void MainWindow::writePlanned(const JobToDo& job) {
    records::Run run;
    run.kind = job.kind;
    layOut(run, session_.book().gear(), job.gear);
    if (records::hasSheet(job.kind))
        return newSheet(job.bank, job.kind, run);
    run.title = tr("%1, by hand").arg(qs(records::kindWords(job.kind))).toStdString();
    writeByHand(job.bank, run);
}

} // namespace otterstone::app
