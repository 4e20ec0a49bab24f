// One line at the foot of every page while a run goes: state, elapsed time, what flows, the last stamp, and the way
// back to it.
#pragma once

#include <QFrame>

#include "app/live/live_bench.h"

class QLabel;
class QPushButton;

namespace otterstone::app {

class BenchStrip : public QFrame {
    Q_OBJECT

public:
    explicit BenchStrip(LiveBench& live, QWidget* parent = nullptr);

Q_SIGNALS:
    void pageWanted();

private:
    void show(const bench::Progress& progress);
    LiveBench& live_;
    QLabel *state_, *elapsed_, *flow_, *last_;
    QPushButton *page_, *stop_;
    QString said_;
};

} // namespace otterstone::app
