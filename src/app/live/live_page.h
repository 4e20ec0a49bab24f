// The live bench: runs that were left open, then what to set up, then the run as it goes.
#pragma once

#include <QWidget>

#include "app/live/live_bench.h"

class QStackedWidget;
class QVBoxLayout;

namespace otterstone::app {

class RunningView;
class SetupView;

class LivePage : public QWidget {
    Q_OBJECT

public:
    using QWidget::show;
    LivePage(BookSession& session, LiveBench& live, QWidget* parent = nullptr);
    void show(records::Id bank);
    void restyle();
    [[nodiscard]] SetupView* setup() const { return setup_; }
    [[nodiscard]] RunningView* running() const { return running_; }
    [[nodiscard]] bool showsRun() const;

Q_SIGNALS:
    void instrumentsWanted();
    void recipeWanted(const QString& json);
    void runWanted(long long run);
    void problem(const QString& sentence);

private:
    void refresh();
    void showOpenRuns();

    BookSession& session_;
    LiveBench& live_;
    QWidget* open_;
    QVBoxLayout* openColumn_;
    QStackedWidget* stack_;
    SetupView* setup_;
    RunningView* running_;
};

} // namespace otterstone::app
