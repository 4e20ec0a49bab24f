#include "app/main_window.h"

#include <QButtonGroup>
#include <QDropEvent>
#include <QLabel>
#include <QMimeData>
#include <QPushButton>
#include <QSettings>
#include <QShortcut>
#include <QSplitter>
#include <QStackedWidget>
#include <QVBoxLayout>

#include "app/import/import_page.h"
#include "app/intake/intake_page.h"
#include "app/runs/gear_panel.h"
#include "app/runs/run_page.h"
#include "app/shelf/shelf.h"
#include "app/start/start_page.h"
#include "app/theme.h"
#include "app/widgets/caution_panel.h"
#include "app/widgets/working_drawer.h"
#include "book/bundle.h"
#include "book/demo.h"

namespace otterstone::app {

MainWindow::MainWindow(QWidget* parent)
    : QMainWindow(parent), shelf_(new Shelf(session_)), start_(new StartPage), intake_(new IntakePage(session_)), import_(new ImportPage(session_)),
      runs_(new RunPage(session_)), drawer_(new WorkingDrawer), gear_(new GearPanel(session_)), cautions_(new CautionPanel), pages_(new QStackedWidget), side_(new QStackedWidget),
      stageBar_(new QWidget), intakeStage_(new QPushButton(tr("Intake"))), runsStage_(new QPushButton(tr("Runs"))), message_(new QLabel),
      bookName_(new QLabel), undo_(nullptr), redo_(nullptr) {
    setWindowTitle(tr("Otterstone"));
    setAcceptDrops(true);
    resize(1280, 800);
    buildPages();
    buildMenus();
    connect(&session_, &BookSession::opened, this, [this] {
        closeSide();
        bookName_->setText(QFileInfo(session_.book().path()).completeBaseName() + (session_.book().readOnly() ? tr(" (reading only)") : QString()));
        setWindowTitle(tr("Otterstone: %1").arg(QFileInfo(session_.book().path()).completeBaseName()));
    });
    connect(&session_, &BookSession::changed, this, &MainWindow::refresh);
    connect(&session_.history(), &book::History::changed, this, &MainWindow::refresh);
}

MainWindow::~MainWindow() = default;

void MainWindow::buildPages() {
    auto* bar = new QHBoxLayout(stageBar_);
    bar->setContentsMargins(3 * kGrid, 0, 2 * kGrid, 0);
    bar->setSpacing(0);
    auto* stages = new QButtonGroup(this);
    int number = 1;
    for (QPushButton* b : {intakeStage_, runsStage_}) {
        b->setObjectName(QStringLiteral("stage"));
        b->setCheckable(true);
        b->setToolTip(tr("Alt+%1").arg(number++));
        stages->addButton(b);
        bar->addWidget(b);
    }
    bar->addStretch();
    bookName_->setObjectName(QStringLiteral("faint"));
    bar->addWidget(bookName_);

    for (QWidget* page : {static_cast<QWidget*>(start_), static_cast<QWidget*>(intake_), static_cast<QWidget*>(import_), static_cast<QWidget*>(runs_)})
        pages_->addWidget(page);
    side_->addWidget(drawer_);
    side_->addWidget(gear_);
    side_->addWidget(cautions_);
    cautions_->setMinimumWidth(340);
    side_->hide();

    message_->setObjectName(QStringLiteral("problem"));
    message_->setWordWrap(true);
    message_->setContentsMargins(3 * kGrid, kGrid / 2, 2 * kGrid, kGrid / 2);
    message_->setTextInteractionFlags(Qt::TextSelectableByMouse);
    message_->hide();

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
    pages_->setMinimumWidth(560); // of the pages; a stack would ask for the widest one's, also while it is hidden
    column->addWidget(split, 1);

    auto* all = new QWidget;
    auto* row = new QHBoxLayout(all);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(0);
    row->addWidget(shelf_);
    row->addWidget(middle, 1);
    setCentralWidget(all);

    connect(shelf_, &Shelf::chosen, this, [this](long long bank) {
        closeSide();
        pages_->currentWidget() == intake_ ? showIntake(bank) : showRuns(bank);
    });
    connect(shelf_, &Shelf::newBankWanted, this, &MainWindow::newBank);
    connect(start_, &StartPage::newBankWanted, this, &MainWindow::newBank);
    connect(start_, &StartPage::demoWanted, this, &MainWindow::openDemo);
    connect(start_, &StartPage::bookWanted, this, [this] {
        const QString path = QFileDialog::getOpenFileName(this, tr("Open a book"), {}, tr("Books (*.otterstone)"));
        if (!path.isEmpty())
            openBook(path);
    });
    connect(intakeStage_, &QPushButton::clicked, this, [this] { showIntake(shelf_->selected()); });
    connect(runsStage_, &QPushButton::clicked, this, [this] { showRuns(shelf_->selected()); });
    connect(runs_, &RunPage::workingWanted, this, &MainWindow::openWorking);
    connect(runs_, &RunPage::gearWanted, this, &MainWindow::openGear);
    connect(runs_, &RunPage::cautionsWanted, this, [this] {
        runs_->uncheckFigures();
        side_->setCurrentWidget(cautions_);
        side_->show();
    });
    connect(runs_, &RunPage::logWanted, this, &MainWindow::chooseLog);
    connect(runs_, &RunPage::problem, this, &MainWindow::say);
    connect(intake_, &IntakePage::problem, this, &MainWindow::say);
    connect(gear_, &GearPanel::problem, this, &MainWindow::say);
    connect(gear_, &GearPanel::closed, this, &MainWindow::closeSide);
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

void MainWindow::buildMenus() {
    QMenu* book = menuBar()->addMenu(tr("&Book"));
    book->addAction(tr("&New book…"), this, [this] {
        const QString path = QFileDialog::getSaveFileName(this, tr("New book"), {}, tr("Books (*.otterstone)"));
        if (path.isEmpty())
            return;
        if (auto made = session_.create(path.endsWith(QStringLiteral(".otterstone")) ? path : path + QStringLiteral(".otterstone")); !made)
            say(qs(made.error().sentence()));
    });
    book->addAction(tr("&Open a book…"), QKeySequence::Open, start_, &StartPage::bookWanted);
    book->addAction(tr("Open the &demo: Skerry Point"), this, &MainWindow::openDemo);
    book->addSeparator();
    book->addAction(tr("&Export as a bundle…"), this, &MainWindow::exportBundle);
    book->addAction(tr("&Import a bundle…"), this, &MainWindow::importBundle);
    book->addSeparator();
    book->addAction(tr("&Quit"), QKeySequence::Quit, this, &QWidget::close);

    QMenu* edit = menuBar()->addMenu(tr("&Edit"));
    undo_ = edit->addAction(tr("Undo"), QKeySequence::Undo, this, [this] { undo(false); });
    redo_ = edit->addAction(tr("Redo"), this, [this] { undo(true); });
    redo_->setShortcuts({QKeySequence(QStringLiteral("Ctrl+Shift+Z")), QKeySequence(QStringLiteral("Ctrl+Y"))});
    edit->addSeparator();
    edit->addAction(tr("Put a new &bank on the shelf"), QKeySequence(QStringLiteral("Ctrl+N")), this, &MainWindow::newBank);
    edit->addAction(tr("Bring in a &log…"), QKeySequence(QStringLiteral("Ctrl+I")), this, &MainWindow::chooseLog);
    edit->addAction(tr("Bring in &rows from the clipboard"), QKeySequence(QStringLiteral("Ctrl+Shift+V")), this, &MainWindow::paste);

    QMenu* view = menuBar()->addMenu(tr("&View"));
    view->addAction(tr("&Intake"), QKeySequence(QStringLiteral("Alt+1")), this, [this] { showIntake(shelf_->selected()); });
    view->addAction(tr("&Runs"), QKeySequence(QStringLiteral("Alt+2")), this, [this] { showRuns(shelf_->selected()); });
    view->addAction(tr("Go to the &shelf"), QKeySequence(QStringLiteral("F2")), this, [this] { shelf_->setFocus(); });
    view->addSeparator();
    view->addAction(tr("Light or &dark"), QKeySequence(QStringLiteral("Ctrl+D")), this, &MainWindow::switchTheme);
    auto* escape = new QShortcut(QKeySequence(Qt::Key_Escape), this);
    connect(escape, &QShortcut::activated, this, [this] {
        message_->hide();
        closeSide();
    });

    QMenu* help = menuBar()->addMenu(tr("&Help"));
    help->addAction(tr("&Keys"), QKeySequence(QStringLiteral("F1")), this, [this] {
        say(tr("F2 shelf · Alt+1 intake · Alt+2 runs · Tab to a figure, Space opens its working, Esc closes it · on the ribbon ← → and Return choose "
               "gear · on the curve X and Y change the axes, + − zoom, Shift+← → move, ← → read values, 0 shows all · Ctrl+N bank · Ctrl+I log · "
               "Ctrl+Shift+V rows from the clipboard · Ctrl+Z undo · Ctrl+D light or dark"));
    });
    help->addAction(tr("&About"), this, [this] {
        say(tr("Otterstone %1. Free software under the GPL, version 3 or later. It informs; it does not certify.").arg(QStringLiteral(OTTERSTONE_VERSION)));
    });
}

bool MainWindow::openBook(const QString& path) {
    if (auto opened = session_.open(path); !opened) {
        say(qs(opened.error().sentence()));
        return false;
    }
    message_->hide();
    return true;
}

void MainWindow::openHomeBook() {
    const QString folder = QStandardPaths::writableLocation(QStandardPaths::AppDataLocation);
    QDir().mkpath(folder);
    const QString path = QDir(folder).filePath(QStringLiteral("bench.otterstone"));
    const auto done = QFileInfo::exists(path) ? session_.open(path) : session_.create(path);
    if (!done)
        say(qs(done.error().sentence()));
}

void MainWindow::openDemo() {
    const QString folder = QStandardPaths::writableLocation(QStandardPaths::AppDataLocation);
    QDir().mkpath(folder);
    const QString path = QDir(folder).filePath(QStringLiteral("skerry-point.otterstone"));
    if (QFileInfo::exists(path)) {
        openBook(path);
        return;
    }
    QGuiApplication::setOverrideCursor(Qt::WaitCursor);
    auto book = book::makeDemo(path);
    QGuiApplication::restoreOverrideCursor();
    if (book)
        session_.adopt(std::move(*book));
    else
        say(qs(book.error().sentence()));
}

void MainWindow::say(const QString& sentence) {
    message_->setText(sentence);
    message_->setVisible(!sentence.isEmpty());
}

void MainWindow::showStage(QWidget* page) {
    pages_->setCurrentWidget(page);
    intakeStage_->setChecked(page == intake_);
    runsStage_->setChecked(page == runs_ || page == import_);
    if (page != runs_)
        closeSide();
}

void MainWindow::showIntake(book::Id bank) {
    if (bank == book::kNew)
        return;
    shelf_->select(bank);
    intake_->show(bank);
    showStage(intake_);
}

void MainWindow::showRuns(book::Id bank, book::Id run) {
    if (bank == book::kNew)
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
    shelf_->setVisible(!empty);
    // A log on its way in may make the first bank; its page stays.
    if (empty && pages_->currentWidget() != import_) {
        closeSide();
        pages_->setCurrentWidget(start_);
    } else if (!empty && pages_->currentWidget() == start_) {
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
    book::Bank bank;
    bank.name = tr("New bank").toStdString();
    bank.label.cellVolts = std::nullopt;
    const auto id = session_.addBank(bank);
    if (!id)
        return say(qs(id.error().sentence()));
    showIntake(*id);
    intake_->focusName();
}

void MainWindow::chooseLog() {
    const QString path = QFileDialog::getOpenFileName(this, tr("Bring in a log"), {}, tr("Logs (*.csv *.tsv *.txt *.log *.dat);;All files (*)"));
    if (!path.isEmpty())
        bringIn(path);
}

void MainWindow::bringIn(const QString& path) {
    if (session_.isOpen())
        showLooked(import_->look(path, shelf_->selected()));
}

void MainWindow::bringInText(const QString& text) {
    if (session_.isOpen())
        showLooked(import_->lookAtText(text, shelf_->selected()));
}

void MainWindow::showLooked(const Result<void>& looked) {
    if (!looked)
        return say(qs(looked.error().sentence()));
    message_->hide();
    showStage(import_);
    import_->setFocus();
}

void MainWindow::paste() { bringInText(QGuiApplication::clipboard()->text()); }

void MainWindow::openWorking(const Working& working) {
    drawer_->open(working);
    side_->setCurrentWidget(drawer_);
    side_->show();
}

void MainWindow::openGear(book::Id run, book::GearKind kind) {
    runs_->uncheckFigures();
    gear_->open(run, kind);
    side_->setCurrentWidget(gear_);
    side_->show();
    gear_->setFocus();
}

void MainWindow::closeSide() {
    // The keyboard goes back to the page, not to whatever comes next in the order of tabs.
    if (side_->isVisible() && side_->isAncestorOf(focusWidget()))
        runs_->setFocus();
    side_->hide();
    runs_->uncheckFigures();
}

void MainWindow::switchTheme() {
    const ThemeKind other = theme().kind == ThemeKind::Light ? ThemeKind::Dark : ThemeKind::Light;
    applyTheme(other);
    QSettings().setValue(QStringLiteral("dark"), other == ThemeKind::Dark);
    runs_->restyle();
    update();
}

void MainWindow::undo(bool redo) {
    const auto done = redo ? session_.history().redo() : session_.history().undo();
    if (!done)
        say(qs(done.error().sentence()));
}

void MainWindow::exportBundle() {
    const QString folder = QFileDialog::getSaveFileName(this, tr("Export as a bundle: name a new folder"));
    if (folder.isEmpty() || !session_.isOpen())
        return;
    const auto done = book::exportBundle(session_.book(), folder);
    say(done ? tr("The bundle is in %1.").arg(folder) : qs(done.error().sentence()));
}

void MainWindow::importBundle() {
    const QString source = QFileDialog::getOpenFileName(this, tr("Import a bundle: its book.json or .zip"), {}, tr("Bundles (book.json *.zip)"));
    if (source.isEmpty())
        return;
    const QString path = QFileDialog::getSaveFileName(this, tr("Name the new book"), {}, tr("Books (*.otterstone)"));
    if (path.isEmpty())
        return;
    auto book = book::importBundle(source.endsWith(QStringLiteral(".zip")) ? source : QFileInfo(source).absolutePath(), path);
    if (book)
        session_.adopt(std::move(*book));
    else
        say(qs(book.error().sentence()));
}

void MainWindow::dragEnterEvent(QDragEnterEvent* event) {
    if (event->mimeData()->hasUrls() || event->mimeData()->hasText())
        event->acceptProposedAction();
}

void MainWindow::dropEvent(QDropEvent* event) {
    event->acceptProposedAction();
    if (!event->mimeData()->hasUrls())
        return bringInText(event->mimeData()->text());
    const QString path = event->mimeData()->urls().front().toLocalFile();
    if (path.endsWith(QStringLiteral(".otterstone")))
        openBook(path);
    else
        bringIn(path);
}

} // namespace otterstone::app
