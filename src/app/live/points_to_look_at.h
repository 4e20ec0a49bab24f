// The four points that are looked at before a real run starts, each ticked by whoever looked.
#pragma once

#include <vector>

#include <QWidget>

class QCheckBox;

namespace otterstone::app {

class PointsToLookAt : public QWidget {
    Q_OBJECT

public:
    explicit PointsToLookAt(QWidget* parent = nullptr);
    [[nodiscard]] const std::vector<QCheckBox*>& checks() const { return checks_; }
    [[nodiscard]] bool allTicked() const;
    /// A new run begins with a new look at the bank.
    void clear();
    void takeKeyboard();

Q_SIGNALS:
    void changed();

private:
    std::vector<QCheckBox*> checks_;
};

} // namespace otterstone::app
