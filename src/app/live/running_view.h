// A live run as it goes: what flows, what is next, when it will be over. Large enough to be read from a metre away.
#pragma once

#include <QElapsedTimer>
#include <QWidget>

#include "app/book_session.h"
#include "app/live/live_run.h"

class QLabel;
class QPushButton;

namespace otterstone::app {

class LiveCurve;
class PathRibbon;
class StampEntry;

class RunningView : public QWidget {
    Q_OBJECT

public:
    using QWidget::show;
    RunningView(BookSession& session, LiveRun& live, QWidget* parent = nullptr);

    void restyle();
    [[nodiscard]] StampEntry* stamps() const { return stamps_; }
    /// A key that stamps, wherever in the view it was pressed.
    bool stampKey(int key);

protected:
    void keyPressEvent(QKeyEvent* event) override;
    void showEvent(QShowEvent* event) override;

private:
    void begin();
    /// Whatever is shown: its curve grows, and a load that is still on rings.
    void take(const bench::Progress& progress);
    void showNow();
    void showRibbon(const bench::Progress& progress);

    BookSession& session_;
    LiveRun& live_;
    QLabel *title_, *doing_, *watts_, *energy_, *elapsed_, *left_, *warmth_, *ends_, *next_, *trouble_, *health_,
        *last_;
    QPushButton *stop_, *goOn_;
    PathRibbon* ribbon_;
    LiveCurve* curve_;
    StampEntry* stamps_;
    records::Bank bank_;
    records::Run run_;
    std::vector<records::Gear> gear_;
    double peakWatts_ = 0.0;
    bench::Progress now_;
    bench::Phase toldPhase_ = bench::Phase::Idle;
    std::size_t toldStep_ = 0;
    QElapsedTimer rang_;
};

} // namespace otterstone::app
