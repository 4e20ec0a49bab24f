// The live runs, in a strip that stays whatever page is shown: the chosen one in a line, the others beside it, those
// that want hands first.
#pragma once

#include <map>

#include <QFrame>

#include "app/live/live_bench.h"

class QHBoxLayout;
class QLabel;
class QPushButton;

namespace otterstone::app {

class BenchStrip : public QFrame {
    Q_OBJECT

public:
    using QWidget::show;
    explicit BenchStrip(LiveBench& live, QWidget* parent = nullptr);
    /// The live page shows the others itself.
    void showOthers(bool others);

Q_SIGNALS:
    /// The page of the run with this number.
    void pageWanted(int number);

private:
    void refresh();
    void show(const bench::Progress& progress);
    void showOther(LiveRun* run);

    LiveBench& live_;
    QLabel *state_, *elapsed_, *flow_, *last_;
    QPushButton *page_, *stop_;
    QWidget* others_;
    QHBoxLayout* othersRow_;
    std::map<LiveRun*, QPushButton*> buttons_;
    std::vector<LiveRun*> order_; ///< of the buttons
    bool showsOthers_ = true;
    QString said_;
};

} // namespace otterstone::app
