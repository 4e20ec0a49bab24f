// The live page: runs that were left open, the benches beside each other, then what the next run is to be, or one of
// the runs as it goes.
#pragma once

#include <map>

#include <QWidget>

#include "app/live/live_bench.h"

class QStackedWidget;
class QVBoxLayout;

namespace otterstone::app {

class BenchRow;
class RunningView;
class SetupView;

class LivePage : public QWidget {
    Q_OBJECT

public:
    using QWidget::show;
    LivePage(BookSession& session, LiveBench& live, QWidget* parent = nullptr);
    /// The run that goes with this bank; without one what the next is to be.
    void show(records::Id bank);
    /// What the next run is to be, whatever goes.
    void showSetup(records::Id bank);
    void showRun(LiveRun& run);
    void restyle();
    [[nodiscard]] SetupView* setup() const { return setup_; }
    /// Of the bench that is chosen.
    [[nodiscard]] RunningView* running() { return viewOf(live_.chosen()); }
    [[nodiscard]] BenchRow* benches() const { return benches_; }
    [[nodiscard]] bool showsRun() const;

Q_SIGNALS:
    void instrumentsWanted();
    void recipeWanted(const QString& json);
    void runWanted(long long run);
    void problem(const QString& sentence);

private:
    [[nodiscard]] RunningView* viewOf(LiveRun& run);
    void refresh();
    void showOpenRuns();

    BookSession& session_;
    LiveBench& live_;
    QWidget* open_;
    QVBoxLayout* openColumn_;
    BenchRow* benches_;
    QStackedWidget* stack_;
    SetupView* setup_;
    std::map<LiveRun*, RunningView*> views_; ///< each keeps the curve of its run, shown or not
    bool wantsSetup_ = true;
};

} // namespace otterstone::app
