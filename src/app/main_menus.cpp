// The window's menus and keys.
#include <functional>
#include <optional>
#include <vector>

#include <QActionGroup>
#include <QLabel>
#include <QMenuBar>
#include <QShortcut>
#include <QStackedWidget>
#include <QWhatsThis>

#include "app/live/live_page.h"
#include "app/live/next_run.h"
#include "app/main_window.h"
#include "app/runs/run_page.h"
#include "app/shelf/shelf.h"
#include "app/text_size.h"
#include "app/theme.h"
#include "app/widgets/message_bar.h"
#include "app/widgets/on_screen.h"
#include "core/quantity/version.h"

namespace otterstone::app {

namespace {
constexpr double kTextStep = 0.1; // of its usual size
// One of some, the chosen one ticked.
template<class Value>
void addChoices(QMenu& menu, const std::vector<std::pair<QString, Value>>& choices, const Value& chosen,
                const std::function<void(const Value&)>& choose) {
    auto* group = new QActionGroup(&menu);
    for (const auto& [words, value] : choices) {
        QAction* action = menu.addAction(words, &menu, [choose, value = value] { choose(value); });
        action->setCheckable(true);
        action->setChecked(value == chosen);
        group->addAction(action);
    }
}

} // namespace

void MainWindow::addFigureForms(QMenu& view) {
    QMenu* figures = view.addMenu(tr("F&igures on the screen"));
    using Decimal = std::optional<char>;
    using Fahrenheit = std::optional<bool>;
    const FormChoice now = formChoice();
    addChoices<Decimal>(*figures,
                        {{tr("Decimal &sign of the desktop"), std::nullopt},
                         {tr("Decimal &point: 4.85"), '.'},
                         {tr("Decimal &comma: 4,85"), ','}},
                        now.decimal, [this](const Decimal& decimal) {
                            FormChoice choice = formChoice();
                            choice.decimal = decimal;
                            showFiguresIn(choice);
                        });
    figures->addSeparator();
    addChoices<Fahrenheit>(*figures,
                           {{tr("&Degrees of the desktop"), std::nullopt},
                            {tr("Degrees C&elsius"), false},
                            {tr("Degrees &Fahrenheit"), true}},
                           now.fahrenheit, [this](const Fahrenheit& fahrenheit) {
                               FormChoice choice = formChoice();
                               choice.fahrenheit = fahrenheit;
                               showFiguresIn(choice);
                           });
}

void MainWindow::buildMenus() {
    QMenu* book = menuBar()->addMenu(tr("&Book"));
    book->addAction(tr("&New book…"), this, [this] {
        if (runGoes())
            return;
        const QString path = QFileDialog::getSaveFileName(this, tr("New book"), {}, tr("Books (*.otterstone)"));
        if (path.isEmpty())
            return;
        if (auto made = session_.create(
                path.endsWith(QStringLiteral(".otterstone")) ? path : path + QStringLiteral(".otterstone"));
            !made)
            say(qs(made.error().sentence()));
    });
    book->addAction(tr("&Open a book…"), QKeySequence::Open, this, &MainWindow::chooseBook);
    book->addAction(tr("Open the &demo: Skerry Point"), this, &MainWindow::openDemo);
    book->addAction(tr("The &house's choices…"), this, &MainWindow::showHouse);
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
    edit->addAction(tr("Put a new &bank on the shelf"), QKeySequence(QStringLiteral("Ctrl+N")), this,
                    &MainWindow::newBank);
    edit->addAction(tr("Bring in a &log…"), QKeySequence(QStringLiteral("Ctrl+I")), this, &MainWindow::chooseLog);
    edit->addAction(tr("Write down by &hand…"), QKeySequence(QStringLiteral("Ctrl+H")), this,
                    [this] { writeByHand(shelf_->selected()); });
    edit->addAction(tr("Write a &notebook"), QKeySequence(QStringLiteral("Ctrl+B")), this,
                    [this] { newSheet(shelf_->selected(), records::Kind::Notebook); });
    edit->addAction(tr("Bring in &rows from the clipboard"), QKeySequence(QStringLiteral("Ctrl+Shift+V")), this,
                    &MainWindow::paste);

    edit->addAction(tr("&Copy the table or curve"), QKeySequence(QStringLiteral("Ctrl+Shift+C")), this,
                    &MainWindow::copyShown);

    QMenu* run = menuBar()->addMenu(tr("&Run"));
    run->addAction(tr("&Rehearse with this bank…"), QKeySequence(QStringLiteral("Ctrl+R")), this,
                   [this] { rehearse(shelf_->selected()); });
    run->addAction(tr("What the plan has &next…"), QKeySequence(QStringLiteral("Ctrl+Shift+R")), this, [this] {
        next_->keepBack();
        if (const auto next = next_->take())
            return startPlanned(*next);
        showPlan();
        tell(
            tr("Choose a run and press Return. When a run ends, this key sets up what the plan has next on its gear."));
    });
    run->addAction(tr("&Instruments…"), this, [this] {
        showLive(shelf_->selected());
        showInstruments();
    });
    QMenu* sheets = run->addMenu(tr("&Write down how it behaves"));
    int key = 1;
    for (const records::Kind kind : records::sheetKinds()) {
        if (kind != records::Kind::Notebook) // in the menu of what is brought in
            sheets->addAction(qs(records::kindWords(kind)), QKeySequence(QStringLiteral("Ctrl+Alt+%1").arg(key++)),
                              this, [this, kind] { newSheet(shelf_->selected(), kind); });
    }
    run->addSeparator();
    run->addAction(tr("Done, &go on"), QKeySequence(QStringLiteral("Ctrl+G")), this, [this] { handsDone(); });
    run->addAction(tr("&Stop, load off"), QKeySequence(QStringLiteral("Ctrl+.")), this, [this] {
        if (next_->keepBack())
            tell(tr("It does not begin by itself. Ctrl+Shift+R sets it up."));
        liveBench_.chosen().stop();
    });
    run->addAction(tr("Stop &all, every load off"), QKeySequence(QStringLiteral("Ctrl+Shift+.")), this, [this] {
        next_->keepBack();
        liveBench_.stopAll();
    });

    QMenu* view = menuBar()->addMenu(tr("&View"));
    int number = 1;
    for (const StageRow& row : stages_)
        view->addAction(row.words, QKeySequence(QStringLiteral("Alt+%1").arg(number++)), this, row.show);
    view->addAction(tr("&Find a bank"), QKeySequence(QStringLiteral("Ctrl+F")), shelf_, &Shelf::find);
    view->addAction(tr("Go to the &shelf"), QKeySequence(QStringLiteral("F2")), this, [this] {
        if (shelf_->isHidden())
            closeSide();
        shelf_->takeKeyboard();
    });
    view->addAction(tr("&About this run…"), QKeySequence(QStringLiteral("Ctrl+T")), this, [this] {
        if (shows(runs_) && runs_->run() != records::kNew)
            showAbout(runs_->run());
    });
    view->addSeparator();
    view->addAction(tr("Light or &dark"), QKeySequence(QStringLiteral("Ctrl+D")), this, &MainWindow::switchTheme);
    QAction* larger = view->addAction(tr("Text &larger"), this, [this] { sizeText(textSize() + kTextStep); });
    larger->setShortcuts({QKeySequence(QStringLiteral("Ctrl++")), QKeySequence(QStringLiteral("Ctrl+="))});
    view->addAction(tr("Text s&maller"), QKeySequence(QStringLiteral("Ctrl+-")), this,
                    [this] { sizeText(textSize() - kTextStep); });
    view->addAction(tr("Text of its us&ual size"), QKeySequence(QStringLiteral("Ctrl+0")), this,
                    [this] { sizeText(1.0); });
    addFigureForms(*view);
    auto* escape = new QShortcut(QKeySequence(Qt::Key_Escape), this);
    connect(escape, &QShortcut::activated, this, [this] {
        message_->hide();
        closeSide();
    });

    QMenu* help = menuBar()->addMenu(tr("&Help"));
    help->addAction(tr("&Guide"), QKeySequence(QStringLiteral("F1")), this, &MainWindow::showHelp);
    help->addAction(tr("&Keys"), QKeySequence(QStringLiteral("Shift+F1")), this, &MainWindow::showKeys);
    QAction* what = QWhatsThis::createAction(this);
    what->setText(tr("&What is this?"));
    what->setShortcut(QKeySequence(QStringLiteral("Ctrl+F1")));
    help->addAction(what);
    help->addAction(tr("&About"), this, [this] {
        tell(tr("Otterstone %1. Free software under the GPL, version 3 or later. It informs; it does not certify.")
                 .arg(qs(versionWithCommit())));
    });
}

} // namespace otterstone::app
