// The window: shelf at the left, stages of the work above, the page in the middle, working or gear at the right.
#pragma once

#include <functional>
#include <vector>

#include <QMainWindow>

#include "app/book_session.h"
#include "app/live/live_bench.h"
#include "core/quantity/working.h"

class QLabel;
class QPushButton;
class QStackedWidget;

namespace otterstone::book {
struct Prepared;
}

namespace otterstone::app {

class AboutPanel;
class BenchPage;
class BenchStrip;
class CautionPanel;
class ChoosePage;
class FindingsPage;
struct FormChoice;
class GearPanel;
class HelpPanel;
class HousePanel;
class ImportPage;
class InstrumentPanel;
class IntakePage;
class LivePage;
class MessageBar;
class NextRun;
class PlanPage;
struct JobToDo;
class RecipePanel;
class ReportPage;
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
    [[nodiscard]] BenchPage* benchPage() const { return bench_; }
    [[nodiscard]] FindingsPage* findingsPage() const { return findings_; }
    [[nodiscard]] ChoosePage* choosePage() const { return choose_; }
    [[nodiscard]] PlanPage* planPage() const { return plan_; }
    [[nodiscard]] NextRun* nextRun() const { return next_; }
    [[nodiscard]] ReportPage* reportPage() const { return report_; }
    [[nodiscard]] GearPanel* gearPanel() const { return gear_; }
    [[nodiscard]] AboutPanel* aboutPanel() const { return about_; }
    [[nodiscard]] HelpPanel* helpPanel() const { return help_; }
    [[nodiscard]] HousePanel* housePanel() const { return house_; }
    [[nodiscard]] LivePage* livePage() const { return live_; }
    [[nodiscard]] LiveBench& liveBench() { return liveBench_; }
    [[nodiscard]] InstrumentPanel* instrumentPanel() const { return instruments_; }
    [[nodiscard]] RecipePanel* recipePanel() const { return recipe_; }

    /// Opens a book; says so in the window when it cannot.
    bool openBook(const QString& path);
    /// The tester's own book, made when it is not there yet.
    void openHomeBook();
    void openDemo();
    void showIntake(records::Id bank);
    void showRuns(records::Id bank, records::Id run = records::kNew);
    void showBench();
    /// The run that goes with this bank, else what its next one is to be.
    void showLive(records::Id bank);
    void showSetup(records::Id bank);
    /// The live page, ready to rehearse with this bank.
    void rehearse(records::Id bank);
    void showFindings(records::Id bank);
    void showPlan();
    void showChoose();
    void showReport(records::Id bank);
    /// Puts what would settle a claim into the plan.
    void planFor(records::Id bank, const judgement::Held& row);
    void startPlanned(const JobToDo& job);
    void writePlanned(const JobToDo& job);
    /// `laidOut`: a run with its kind and its gear.
    /// A notebook with the columns of a meter; `planned`: a drain or a recharge with its gear.
    void writeByHand(records::Id bank, const std::optional<records::Run>& planned = {});
    /// A new run of a kind that has a sheet, begun with what the label lets one expect.
    void newSheet(records::Id bank, records::Kind kind, records::Run laidOut = {});
    void showHouse();
    /// The guide, at the section of the page that is shown.
    void showHelp();
    void showAbout(records::Id run);
    void bringIn(const QString& path);
    void bringInText(const QString& text);
    /// Something is wrong.
    void say(const QString& sentence);
    /// Something was done.
    void tell(const QString& sentence);
    /// Something waits for the tester.
    void ask(const QString& sentence);
    /// The table or curve of the page, into the clipboard.
    void copyShown();

protected:
    void closeEvent(QCloseEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    void dragEnterEvent(QDragEnterEvent* event) override;
    void dropEvent(QDropEvent* event) override;

private:
    /// A stage of the work: a button above the pages and a line of the menu View, Alt+1 and on.
    enum class Stage { None, Intake, Bench, Live, Runs, Findings, Choose, Sheet, Plan };
    struct StageRow {
        Stage stage;
        QString words; ///< with its mnemonic
        std::function<void()> show;
        QPushButton* button = nullptr;
    };
    struct Page {
        QWidget* widget;
        Stage stage;
        const char* section = nullptr;         ///< of the guide; null: its beginning
        std::function<void(records::Id)> show; ///< when another bank is chosen while it is there; none: its runs
        std::function<void()> restyle;
    };
    void listPages();
    [[nodiscard]] const Page& shown() const;
    void buildMenus();
    void buildPages();
    void connectPages();
    void connectLive();
    void connectJudgement();
    void newBank();
    bool runGoes();
    /// The chosen run goes on; where only another one waits, that one is shown first.
    void handsDone();
    void chooseLog();
    void showLooked(const Result<void>& looked);
    void openWorking(const Working& working);
    void openGear(records::Id run, int place);
    void openPiece(records::Id gear);
    void fitToScreen();
    void makeRoom();
    void showSide(QWidget* panel);
    void closeSide();
    void refresh();
    void showStage(QWidget* page);
    void switchTheme();
    void sizeText(double share);
    void addFigureForms(QMenu& view);
    void showFiguresIn(const FormChoice& choice);
    void restyle();
    void undo(bool redo);
    void paste();
    void attach(const std::vector<Result<book::Prepared>>& all);
    void exportBundle();
    void importBundle();

    BookSession session_;
    LiveBench liveBench_;
    Shelf* shelf_;
    StartPage* start_;
    IntakePage* intake_;
    ImportPage* import_;
    RunPage* runs_;
    BenchPage* bench_;
    FindingsPage* findings_;
    LivePage* live_;
    PlanPage* plan_;
    ChoosePage* choose_;
    ReportPage* report_;
    WorkingDrawer* drawer_;
    GearPanel* gear_;
    AboutPanel* about_;
    HelpPanel* help_;
    HousePanel* house_;
    CautionPanel* cautions_;
    InstrumentPanel* instruments_;
    RecipePanel* recipe_;
    BenchStrip* strip_;
    NextRun* next_; ///< what the plan has for the gear that became free
    QStackedWidget* pages_;
    QStackedWidget* side_;
    QWidget* stageBar_;
    std::vector<StageRow> stages_; ///< in their order
    std::vector<Page> table_;      ///< all pages
    MessageBar* message_;
    QLabel* bookName_;
    QAction* undo_;
    QAction* redo_;
};

} // namespace otterstone::app
