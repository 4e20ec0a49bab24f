// The window: shelf at the left, stages of the work above, the page in the middle, working or gear at the right.
#pragma once

#include <functional>
#include <vector>

#include <QMainWindow>
#include <QStackedWidget>

#include "app/book_session.h"
#include "app/live/live_bench.h"
#include "app/widgets/when_wanted.h"
#include "core/quantity/working.h"

class QLabel;
class QPushButton;

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
    [[nodiscard]] RunPage* runPage() { return runs_.get(); }
    [[nodiscard]] IntakePage* intakePage() { return intake_.get(); }
    [[nodiscard]] ImportPage* importPage() { return import_.get(); }
    [[nodiscard]] WorkingDrawer* drawer() { return drawer_.get(); }
    [[nodiscard]] Shelf* shelf() const { return shelf_; }
    [[nodiscard]] BenchPage* benchPage() { return bench_.get(); }
    [[nodiscard]] FindingsPage* findingsPage() { return findings_.get(); }
    [[nodiscard]] ChoosePage* choosePage() { return choose_.get(); }
    [[nodiscard]] PlanPage* planPage() { return plan_.get(); }
    [[nodiscard]] NextRun* nextRun() const { return next_; }
    [[nodiscard]] ReportPage* reportPage() { return report_.get(); }
    [[nodiscard]] GearPanel* gearPanel() { return gear_.get(); }
    [[nodiscard]] AboutPanel* aboutPanel() { return about_.get(); }
    [[nodiscard]] HelpPanel* helpPanel() { return help_.get(); }
    [[nodiscard]] HousePanel* housePanel() { return house_.get(); }
    [[nodiscard]] LivePage* livePage() { return live_.get(); }
    [[nodiscard]] LiveBench& liveBench() { return liveBench_; }
    [[nodiscard]] InstrumentPanel* instrumentPanel() { return instruments_.get(); }
    [[nodiscard]] RecipePanel* recipePanel() { return recipe_.get(); }

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
    bool focusNextPrevChild(bool next) override;
    void closeEvent(QCloseEvent* event) override;
    void showEvent(QShowEvent* event) override;
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
        BuiltLater* page;
        Stage stage;
        const char* section = nullptr;         ///< of the guide; null: its beginning
        std::function<void(records::Id)> show; ///< when another bank is chosen while it is there; none: its runs
        std::function<void()> restyle;         ///< once it is built
    };
    void listPages();
    [[nodiscard]] const Page& shown() const;
    [[nodiscard]] bool shows(const BuiltLater& page) const { return shown_ == &page; }
    void buildMenus();
    void buildFrame();
    // How each page and panel is built, and what it asks of the others.
    void prepareMeasuring();
    void preparePanels();
    void prepareLive();
    void prepareJudgement();
    void connectParts();
    /// In its place, and what it says is said in the window.
    template<class W>
    W* placed(W* widget, QStackedWidget* in) {
        in->addWidget(widget);
        if constexpr (requires { &W::problem; })
            connect(widget, &W::problem, this, &MainWindow::say);
        if constexpr (requires { &W::done; })
            connect(widget, &W::done, this, &MainWindow::tell);
        if constexpr (requires { &W::closed; })
            connect(widget, &W::closed, this, &MainWindow::closeSide);
        return widget;
    }
    void newBank();
    bool runGoes();
    /// The chosen run goes on; where only another one waits, that one is shown first.
    void handsDone();
    void chooseBook();
    void chooseLog();
    void showLooked(const Result<void>& looked);
    void openWorking(const Working& working);
    void openGear(records::Id run, int place);
    void openPiece(records::Id gear);
    void fitToScreen();
    void makeRoom();
    void showSide(QWidget* panel);
    void showCautions();
    void showInstruments();
    void showKeys();
    void closeSide();
    void refresh();
    void showStage(BuiltLater& page);
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
    WhenWanted<StartPage> start_;
    WhenWanted<IntakePage> intake_;
    WhenWanted<ImportPage> import_;
    WhenWanted<RunPage> runs_;
    WhenWanted<BenchPage> bench_;
    WhenWanted<FindingsPage> findings_;
    WhenWanted<LivePage> live_;
    WhenWanted<PlanPage> plan_;
    WhenWanted<ChoosePage> choose_;
    WhenWanted<ReportPage> report_;
    WhenWanted<WorkingDrawer> drawer_;
    WhenWanted<GearPanel> gear_;
    WhenWanted<AboutPanel> about_;
    WhenWanted<HelpPanel> help_;
    WhenWanted<HousePanel> house_;
    WhenWanted<CautionPanel> cautions_;
    WhenWanted<InstrumentPanel> instruments_;
    WhenWanted<RecipePanel> recipe_;
    BenchStrip* strip_;
    NextRun* next_; ///< what the plan has for the gear that became free
    QStackedWidget* pages_;
    QStackedWidget* side_;
    QWidget* stageBar_;
    std::vector<StageRow> stages_;      ///< in their order
    std::vector<Page> table_;           ///< all pages
    const BuiltLater* shown_ = nullptr; ///< the page that is; null: none as yet
    MessageBar* message_;
    QLabel* bookName_;
    QAction* undo_;
    QAction* redo_;
};

} // namespace otterstone::app
