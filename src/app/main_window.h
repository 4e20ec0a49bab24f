// The window: shelf at the left, stages of the work above, the page in the middle, working or gear at the right.
#pragma once

#include <QMainWindow>

#include "app/book_session.h"
#include "core/working.h"

class QButtonGroup;
class QLabel;
class QPushButton;
class QStackedWidget;

namespace otterstone::app {

class CautionPanel;
class GearPanel;
class ImportPage;
class IntakePage;
class RunPage;
class Shelf;
class StartPage;
class WorkingDrawer;

class MainWindow : public QMainWindow {
    Q_OBJECT

public:
    explicit MainWindow(QWidget* parent = nullptr);
    ~MainWindow() override;

    [[nodiscard]] BookSession& session() { return session_; }
    [[nodiscard]] RunPage* runPage() const { return runs_; }
    [[nodiscard]] IntakePage* intakePage() const { return intake_; }
    [[nodiscard]] ImportPage* importPage() const { return import_; }
    [[nodiscard]] WorkingDrawer* drawer() const { return drawer_; }
    [[nodiscard]] Shelf* shelf() const { return shelf_; }

    /// Opens a book; says so in the window when it cannot.
    bool openBook(const QString& path);
    /// The tester's own book, made when it is not there yet.
    void openHomeBook();
    void openDemo();
    void showIntake(book::Id bank);
    void showRuns(book::Id bank, book::Id run = book::kNew);
    void bringIn(const QString& path);
    void bringInText(const QString& text);
    void say(const QString& sentence);

protected:
    void dragEnterEvent(QDragEnterEvent* event) override;
    void dropEvent(QDropEvent* event) override;

private:
    void buildMenus();
    void buildPages();
    void newBank();
    void chooseLog();
    void showLooked(const Result<void>& looked);
    void openWorking(const Working& working);
    void openGear(book::Id run, book::GearKind kind);
    void closeSide();
    void refresh();
    void showStage(QWidget* page);
    void switchTheme();
    void undo(bool redo);
    void paste();
    void exportBundle();
    void importBundle();

    BookSession session_;
    Shelf* shelf_;
    StartPage* start_;
    IntakePage* intake_;
    ImportPage* import_;
    RunPage* runs_;
    WorkingDrawer* drawer_;
    GearPanel* gear_;
    CautionPanel* cautions_;
    QStackedWidget* pages_;
    QStackedWidget* side_;
    QWidget* stageBar_;
    QPushButton* intakeStage_;
    QPushButton* runsStage_;
    QLabel* message_;
    QLabel* bookName_;
    QAction* undo_;
    QAction* redo_;
};

} // namespace otterstone::app
