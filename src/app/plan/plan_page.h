// The campaign: which runs, on what gear, when; the tide as the picture, the same as a list below it.
#pragma once

#include <set>

#include <QWidget>

#include "app/book_session.h"
#include "app/plan/job_to_do.h"
#include "app/plan/plan_row.h"

class QLabel;
class QPushButton;
class QTableWidget;

namespace otterstone::app {

class TideView;
class WishesPanel;

class PlanPage : public QWidget {
    Q_OBJECT

public:
    using QWidget::show;
    explicit PlanPage(BookSession& session, QWidget* parent = nullptr);
    /// Plans anew.
    void refresh();
    /// The run of a bench is over, and these pieces are free: plans anew, and says what the plan has for them next.
    /// Precondition: one was agreed on.
    void offerNext(int bench, std::set<std::string> pieces);
    void restyle();
    /// Tests and pictures plan as of one moment, s since 1970; nothing: by the clock.
    void setClock(std::optional<double> now) { clock_ = now; }
    void setSeconds(double seconds) { seconds_ = seconds; }

    /// What stands at the window's side.
    [[nodiscard]] WishesPanel* panel() const { return panel_; }
    [[nodiscard]] TideView* tide() const { return tide_; }
    [[nodiscard]] QTableWidget* table() const { return table_; }
    [[nodiscard]] const PlanPointer& plan() const { return plan_; }
    [[nodiscard]] bool isPlanning() const { return planner_.isPlanning(); }
    [[nodiscard]] QString sentence() const;
    /// What the campaign wishes now.
    [[nodiscard]] const plan::campaign::Wishes& wishes() const { return wishes_; }

protected:
    void resizeEvent(QResizeEvent* event) override;

Q_SIGNALS:
    void startWanted(const otterstone::app::JobToDo& job);
    void writeWanted(const otterstone::app::JobToDo& job);
    void panelWanted();
    /// What comes next on pieces that a bench left free: "Scree 15: fill it, Fri 14:05".
    void nextKnown(int bench, const otterstone::app::JobToDo& job, const QString& words);
    void problem(const QString& sentence);
    void done(const QString& sentence);

private:
    void take(const PlanPointer& plan);
    void fillTable();
    void makeRoom();
    void showCurrent();
    void chooseRow(int row);
    void chooseJob(std::size_t placed);
    [[nodiscard]] const PlanRow* row() const;
    [[nodiscard]] std::optional<std::size_t> job() const; ///< of the problem
    [[nodiscard]] std::optional<JobToDo> toDo() const;
    [[nodiscard]] JobToDo toDo(std::size_t job, std::optional<std::size_t> placed) const;
    void sayNext(int bench, const std::set<std::string>& pieces);
    [[nodiscard]] std::optional<double> beginsByItself(std::size_t placed) const;
    void keep(const plan::campaign::Wishes& wishes, const QString& what);
    void pinAt(std::size_t job, double seconds);
    void shift(std::size_t placed, double seconds);
    void togglePin();
    /// Into one of the lists of the wishes, or out of it. What only brings a bank where another run wants it is in none
    /// of them, but for what is wired.
    void toggle(std::vector<plan::campaign::JobKey> plan::campaign::Wishes::*list, const QString& in,
                const QString& out);
    void takeOut();
    void putBack();
    void agree();
    /// Whoever begins a job agrees on the plan in which it stands.
    void agreeOnce();
    void planFromNow();
    void saveAs(const QString& title, const QString& filter, const QString& name, const std::string& text);
    void printDaySheet();
    [[nodiscard]] double now() const;

    BookSession& session_;
    Planner planner_;
    plan::campaign::Wishes wishes_;
    PlanPointer plan_;
    PlanPointer before_; ///< as it stood when the tester last changed what is wished
    std::vector<PlanRow> rows_;
    std::map<int, std::set<std::string>> offers_;  ///< for these, of a bench each, the next job is looked for
    std::optional<plan::campaign::JobKey> chosen_; ///< stays while plans come and go
    std::optional<double> clock_;
    double seconds_ = 3.0;
    WishesPanel* panel_;
    TideView* tide_;
    QTableWidget* table_;
    QLabel *sentence_, *now_, *lived_, *wishesWords_, *progress_, *told_;
    QPushButton *aims_, *agree_, *again_, *sheet_, *calendar_, *csv_;
    QPushButton *start_, *write_, *pin_, *first_, *ownDay_, *wired_, *out_, *back_, *stop_;
};

} // namespace otterstone::app
