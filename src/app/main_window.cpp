#include "app/main_window.h"

#include <QApplication>
#include <QLabel>

#include "app/behaviour/behaviour_view.h"
#include "app/behaviour/notebook_bar.h"
#include "app/findings/findings_page.h"
#include "app/findings/house_panel.h"
#include "app/gear/bench_page.h"
#include "app/gear/gear_panel.h"
#include "app/intake/intake_page.h"
#include "app/live/bench_strip.h"
#include "app/live/instrument_panel.h"
#include "app/live/live_page.h"
#include "app/live/next_run.h"
#include "app/live/setup_view.h"
#include "app/runs/about_panel.h"
#include "app/runs/run_page.h"
#include "app/shelf/shelf.h"
#include "app/start/start_page.h"
#include "app/theme.h"
#include "app/widgets/caution_panel.h"
#include "app/widgets/enter_presses.h"
#include "app/widgets/message_bar.h"
#include "app/widgets/page_stack.h"
#include "app/widgets/plain_labels.h"
#include "app/widgets/working_drawer.h"
#include "core/kinds/catalogue.h"

namespace otterstone::app {

namespace {
constexpr QSize kFrame(8, 40); // of a window manager: a title bar and thin borders
} // namespace

MainWindow::MainWindow(QWidget* parent)
    : QMainWindow(parent), liveBench_(session_), shelf_(new Shelf(session_)), strip_(new BenchStrip(liveBench_)),
      next_(new NextRun(session_, liveBench_, this)), pages_(new PageStack), side_(new PageStack),
      stageBar_(new QWidget), message_(new MessageBar), bookName_(new QLabel), undo_(nullptr), redo_(nullptr) {
    setWindowTitle(tr("Otterstone"));
    setAcceptDrops(true);
    qApp->installEventFilter(new EnterPresses(this));
    qApp->installEventFilter(new PlainLabels(this));
    fitToScreen();
    listPages();
    buildFrame();
    prepareMeasuring();
    preparePanels();
    prepareLive();
    prepareJudgement();
    connectParts();
    buildMenus();
    wearTheme(*this);
    connect(&session_, &BookSession::opened, this, [this] {
        closeSide();
        bookName_->setText(QFileInfo(session_.book().path()).completeBaseName() +
                           (session_.book().readOnly() ? tr(" (reading only)") : QString()));
        setWindowTitle(tr("Otterstone: %1").arg(QFileInfo(session_.book().path()).completeBaseName()));
        session_.lookThrough();
    });
    connect(&session_, &BookSession::toTell, this,
            [this](const QStringList& sentences) { ask(sentences.join(QLatin1Char('\n'))); });
    connect(&session_, &BookSession::changed, this, &MainWindow::refresh);
    connect(&session_.history(), &book::History::changed, this, &MainWindow::refresh);
    connect(&session_.history(), &book::History::changed, message_, &MessageBar::withdrawUndo);
    connect(&session_.history(), &book::History::removed, this,
            [this](const QString& sentence) { message_->say(Look::Told, sentence, true); });
    connect(message_, &MessageBar::undoWanted, this, [this] { undo(false); });
}

// As large as the work wants, and no larger than the screen: its panels and the window's own frame are taken off.
void MainWindow::fitToScreen() {
    const QSize free = screen()->availableGeometry().size() - kFrame;
    resize(QSize(1280, 800).boundedTo(free).expandedTo(minimumSizeHint()));
}

// Beside an open panel a narrow window has room for the page only; F2 brings the shelf back.
void MainWindow::makeRoom() {
    const bool narrow = width() < shelf_->minimumWidth() + pages_->minimumWidth() + side_->minimumWidth();
    shelf_->setVisible(!stageBar_->isHidden() && !(narrow && !side_->isHidden()));
}

// Where no book was opened before.
void MainWindow::showEvent(QShowEvent* event) {
    if (!shown_)
        refresh();
    QMainWindow::showEvent(event);
}

void MainWindow::resizeEvent(QResizeEvent* event) {
    QMainWindow::resizeEvent(event);
    makeRoom();
}

// A field that loses the keyboard commits what was typed: first while all is there, so that none does as the pages end;
// these end while the book is there.
MainWindow::~MainWindow() {
    if (QWidget* typing = focusWidget())
        typing->clearFocus();
    delete centralWidget(); // not taken first: each widget would be polished anew on its way out
}

void MainWindow::say(const QString& sentence) { message_->say(Look::Wrong, sentence); }
void MainWindow::tell(const QString& sentence) { message_->say(Look::Told, sentence); }
void MainWindow::ask(const QString& sentence) { message_->say(Look::Asks, sentence); }

void MainWindow::showIntake(records::Id bank) {
    if (bank == records::kNew)
        return;
    shelf_->select(bank);
    intake_->show(bank);
    showStage(intake_);
    if (!shelf_->isAncestorOf(focusWidget()))
        intake_->setFocus();
}

void MainWindow::showRuns(records::Id bank, records::Id run) {
    if (bank == records::kNew)
        return refresh();
    shelf_->select(bank);
    runs_->show(bank, run);
    showStage(runs_);
    if (!shelf_->isAncestorOf(focusWidget()))
        runs_->setFocus();
}

void MainWindow::refresh() {
    const bool open = session_.isOpen();
    const bool empty = !open || session_.book().banks().empty();
    stageBar_->setVisible(!empty);
    makeRoom();
    // A log on its way in may make the first bank; its page stays.
    if (empty && !shows(import_)) {
        closeSide();
        start_->setBookIsOpen(open);
        pages_->setCurrentWidget(start_.get());
        shown_ = &start_;
    } else if (!empty && (shows(start_) || !shown_)) {
        showRuns(shelf_->selected());
    }
    undo_->setEnabled(session_.history().canUndo());
    redo_->setEnabled(session_.history().canRedo());
    undo_->setText(session_.history().canUndo() ? tr("Undo: %1").arg(session_.history().undoText()) : tr("Undo"));
    redo_->setText(session_.history().canRedo() ? tr("Redo: %1").arg(session_.history().redoText()) : tr("Redo"));
}

void MainWindow::newBank() {
    if (!session_.isOpen())
        return;
    records::Bank bank;
    bank.name = tr("New bank").toStdString();
    bank.label.cellVolts = std::nullopt;
    const auto id = session_.addBank(bank);
    if (!id)
        return say(qs(id.error().sentence()));
    showIntake(*id);
    intake_->focusName();
}

void MainWindow::showSide(QWidget* panel) {
    side_->setCurrentWidget(panel);
    side_->show();
    makeRoom();
}

void MainWindow::openWorking(const Working& working) {
    drawer_->open(working);
    showSide(drawer_.get());
}

void MainWindow::openGear(records::Id run, int place) {
    runs_->uncheckFigures();
    gear_->openStretch(run, place);
    showSide(gear_.get());
    gear_->setFocus();
}

void MainWindow::openPiece(records::Id gear) {
    gear_->openPiece(gear);
    showSide(gear_.get());
}

void MainWindow::showAbout(records::Id run) {
    runs_->uncheckFigures();
    about_->open(run);
    showSide(about_.get());
    about_->setFocus();
}

void MainWindow::showCautions() {
    if (runs_.isBuilt())
        runs_->uncheckFigures();
    showSide(cautions_.get());
}

void MainWindow::showInstruments() {
    instruments_->open();
    showSide(instruments_.get());
}

void MainWindow::showHouse() {
    if (!session_.isOpen())
        return;
    house_->open();
    showSide(house_.get());
    house_->setFocus();
}

void MainWindow::showBench() {
    bench_->refresh();
    showStage(bench_);
}

void MainWindow::showLive(records::Id bank) {
    if (bank == records::kNew)
        return;
    shelf_->select(bank);
    showStage(live_);
    live_->show(bank);
}

void MainWindow::showSetup(records::Id bank) {
    if (bank == records::kNew)
        return;
    shelf_->select(bank);
    showStage(live_);
    live_->showSetup(bank);
}

void MainWindow::rehearse(records::Id bank) {
    showSetup(bank);
    live_->setup()->chooseRehearsal();
}

void MainWindow::showFindings(records::Id bank) {
    if (bank == records::kNew)
        return;
    shelf_->select(bank);
    findings_->show(bank);
    showStage(findings_);
}

void MainWindow::newSheet(records::Id id, records::Kind kind, records::Run run) {
    const auto bank = session_.isOpen() ? session_.book().bank(id) : std::nullopt;
    if (!bank)
        return;
    run.bank = id;
    run.kind = kind;
    if (run.title.empty())
        run.title = records::kindWords(kind);
    run.logName = tr("written down by hand").toStdString();
    run.point = kind == records::Kind::Matrix ? path::Point::BankIn : path::Point::Meter;
    if (!run.sheet)
        run.sheet = kinds::startingSheet(kind, bank->label);
    const auto made = session_.addRun(run, {});
    if (!made)
        return say(qs(made.error().sentence()));
    showRuns(id, *made);
    runs_->behaviour()->startTyping();
}

void MainWindow::writeByHand(records::Id bank, const std::optional<records::Run>& planned) {
    if (!session_.isOpen() || bank == records::kNew)
        return;
    records::Run run = planned.value_or(records::Run{});
    run.sheet = records::Sheet{records::Kind::Notebook, {}};
    if (planned) // which way is known
        kinds::addRow(*run.sheet, {{"way", planned->kind == records::Kind::Recharge ? "in" : "out"}});
    if (session_.book().readOnly())
        return say(tr("This book is only read: nothing can be written into it."));
    newSheet(bank, records::Kind::Notebook, std::move(run));
    runs_->behaviour()->notebook()->ask({"v", "a"});
    runs_->behaviour()->startTyping();
}

void MainWindow::closeSide() {
    // The keyboard goes back to the page, not to whatever comes next in the order of tabs.
    if (side_->isVisible() && side_->isAncestorOf(focusWidget()))
        pages_->currentWidget()->setFocus();
    side_->hide();
    makeRoom();
    if (runs_.isBuilt())
        runs_->uncheckFigures();
}

void MainWindow::undo(bool redo) {
    const auto done = redo ? session_.history().redo() : session_.history().undo();
    if (!done)
        say(qs(done.error().sentence()));
}

} // namespace otterstone::app
