// The window's pages: one row each. What is asked of all of them walks these rows.
#include "app/main_window.h"

#include <algorithm>
#include <cmath>

#include <QButtonGroup>
#include <QLabel>
#include <QMenuBar>
#include <QPushButton>
#include <QSettings>
#include <QSplitter>
#include <QVBoxLayout>

#include "app/choose/choose_page.h"
#include "app/findings/findings_page.h"
#include "app/gear/bench_page.h"
#include "app/help/help_panel.h"
#include "app/import/import_page.h"
#include "app/intake/intake_page.h"
#include "app/live/bench_strip.h"
#include "app/live/live_page.h"
#include "app/plan/plan_page.h"
#include "app/report/report_page.h"
#include "app/runs/run_page.h"
#include "app/shelf/shelf.h"
#include "app/start/start_page.h"
#include "app/text_size.h"
#include "app/theme.h"
#include "app/widgets/kept_widths.h"
#include "app/widgets/message_bar.h"
#include "app/widgets/on_screen.h"
#include "app/widgets/page_stack.h"

namespace otterstone::app {

void MainWindow::listPages() {
    const auto ofShelf = [this](void (MainWindow::*stage)(records::Id)) {
        return [this, stage] { (this->*stage)(shelf_->selected()); };
    };
    stages_ = {{Stage::Intake, tr("&Intake"), ofShelf(&MainWindow::showIntake)},
               {Stage::Bench, tr("&Bench"), [this] { showBench(); }},
               {Stage::Live, tr("&Live"), ofShelf(&MainWindow::showLive)},
               {Stage::Runs, tr("&Runs"), [this] { showRuns(shelf_->selected()); }},
               {Stage::Findings, tr("&Findings"), ofShelf(&MainWindow::showFindings)},
               {Stage::Choose, tr("&Choose"), [this] { showChoose(); }},
               {Stage::Sheet, tr("&Sheet"), ofShelf(&MainWindow::showReport)},
               {Stage::Plan, tr("&Plan"), [this] { showPlan(); }}};
    const auto restyled = [](auto& page) { return [&page] { page->restyle(); }; };
    const auto findings = [this](records::Id bank) { showFindings(bank); };
    table_ = {
        {&start_, Stage::None, nullptr, {}, {}},
        {&intake_, Stage::Intake, "A bank", [this](records::Id bank) { showIntake(bank); }, {}},
        {&import_, Stage::Runs, "A run", {}, {}},
        {&runs_, Stage::Runs, "The finding", {}, restyled(runs_)},
        {&bench_, Stage::Bench, "The bench", {}, {}},
        {&findings_, Stage::Findings, "Claims and verdicts", findings, restyled(findings_)},
        {&live_, Stage::Live, "Live", [this](records::Id bank) { showLive(bank); }, restyled(live_)},
        {&plan_, Stage::Plan, "A campaign", {}, restyled(plan_)},
        {&choose_, Stage::Choose, "Choose", findings, restyled(choose_)},
        {&report_, Stage::Sheet, "The sheet", [this](records::Id bank) { showReport(bank); }, {}},
    };
}

const MainWindow::Page& MainWindow::shown() const {
    const auto row = std::find_if(table_.begin(), table_.end(), [this](const Page& p) { return shows(*p.page); });
    return row == table_.end() ? table_.front() : *row;
}

void MainWindow::buildFrame() {
    auto* bar = new QHBoxLayout(stageBar_);
    bar->setContentsMargins(3 * kGrid, 0, 2 * kGrid, 0);
    bar->setSpacing(0);
    auto* group = new QButtonGroup(this);
    int number = 1;
    for (StageRow& row : stages_) {
        row.button = new QPushButton(QString(row.words).remove(QLatin1Char('&')));
        row.button->setObjectName(QStringLiteral("stage"));
        row.button->setCheckable(true);
        row.button->setToolTip(tr("Alt+%1").arg(number++));
        connect(row.button, &QPushButton::clicked, this, row.show);
        group->addButton(row.button);
        bar->addWidget(row.button);
    }
    bar->addStretch();
    bookName_->setObjectName(QStringLiteral("faint"));
    bar->addWidget(bookName_);

    side_->setMinimumWidth(384); // beside it, at 1280 pixels, a run's page still has its line of switches
    side_->hide();

    auto* middle = new QWidget;
    auto* column = new QVBoxLayout(middle);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(0);
    column->addWidget(stageBar_);
    column->addWidget(message_);
    auto* split = new QSplitter;
    split->setChildrenCollapsible(false);
    split->addWidget(pages_);
    split->addWidget(side_);
    split->setStretchFactor(0, 1);
    pages_->setMinimumSize(560, 400); // of the pages; a stack would ask for the largest one's, also while it is hidden,
                                      // and the window would grow with a message
    keepParts(split, QStringLiteral("side"));
    column->addWidget(split, 1);
    column->addWidget(strip_);

    auto* all = new QWidget;
    auto* row = new QHBoxLayout(all);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(0);
    row->addWidget(shelf_);
    row->addWidget(middle, 1);
    setCentralWidget(all);
}

// Tab goes from part to part as they stand, whenever they were built: Qt would come to what was built later behind all
// that was there before.
bool MainWindow::focusNextPrevChild(bool next) {
    const QWidget* const parts[] = {shelf_, stageBar_, message_, pages_, side_, strip_};
    const auto partOf = [&parts](const QWidget* w) {
        return std::find_if(std::begin(parts), std::end(parts),
                            [w](const QWidget* part) { return part->isAncestorOf(w); });
    };
    std::vector<QWidget*> way;
    for (QWidget* w = nextInFocusChain(); w != this; w = w->nextInFocusChain()) {
        const bool stops = (w->focusPolicy() & Qt::TabFocus) != 0 && !w->focusProxy();
        if (w == focusWidget() || (stops && w->isEnabled() && w->isVisibleTo(this)))
            way.push_back(w);
    }
    if (way.empty())
        return false;
    std::ranges::stable_sort(way, std::less<>(), partOf);
    const auto at = std::ranges::find(way, focusWidget());
    const auto wanted = at == way.end() ? (next ? way.begin() : std::prev(way.end()))
                        : next          ? (std::next(at) == way.end() ? way.begin() : std::next(at))
                                        : std::prev(at == way.begin() ? way.end() : at);
    (*wanted)->setFocus(next ? Qt::TabFocusReason : Qt::BacktabFocusReason);
    return true;
}

void MainWindow::showStage(BuiltLater& page) {
    pages_->setCurrentWidget(page.wanted());
    shown_ = &page;
    for (const StageRow& row : stages_)
        row.button->setChecked(row.stage == shown().stage);
    strip_->showOthers(&page != &live_);
    if (&page != &runs_)
        closeSide();
}

void MainWindow::showHelp() {
    showSide(help_.get());
    help_->showSection(QLatin1String(shown().section));
    help_->setFocus();
}

void MainWindow::showKeys() {
    help_->showKeys(*menuBar());
    showSide(help_.get());
}

void MainWindow::switchTheme() {
    const ThemeKind other = theme().kind == ThemeKind::Light ? ThemeKind::Dark : ThemeKind::Light;
    applyTheme(other);
    QSettings().setValue(QStringLiteral("dark"), other == ThemeKind::Dark);
    restyle();
}

void MainWindow::sizeText(double share) {
    setTextSize(std::round(share * 10.0) / 10.0);
    restyle();
    tell(tr("Text at %1 % of its usual size. Ctrl+0 takes that back.").arg(std::round(textSize() * 100.0)));
}

void MainWindow::showFiguresIn(const FormChoice& choice) {
    chooseForm(choice);
    restyle();
    if (session_.isOpen())
        session_.book().noticeChange(); // every page says anew what it says
    tell(tr("Figures look like %1 now; in what you type and in files they stay as they are.")
             .arg(onScreen(tr("5.15 V and 21.5 °C"))));
}

void MainWindow::restyle() {
    for (const Page& page : table_) {
        if (page.restyle && page.page->isBuilt())
            page.restyle();
    }
    update();
}

} // namespace otterstone::app
