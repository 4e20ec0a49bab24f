// The working of a figure, unfolded: formula with numbers in place, point, corrections, and the doubt as bars.
#pragma once

#include <QFrame>

#include "core/working.h"

class QLabel;
class QVBoxLayout;

namespace otterstone::app {

class WorkingDrawer : public QFrame {
    Q_OBJECT

public:
    explicit WorkingDrawer(QWidget* parent = nullptr);
    [[nodiscard]] const Working& shownWorking() const { return working_; }
    void open(const Working& working);

Q_SIGNALS:
    void closed();

private:
    void addStep(const Working& w, int depth);
    void addBudget(const Working& w);

    Working working_;
    QVBoxLayout* body_;
};

} // namespace otterstone::app
