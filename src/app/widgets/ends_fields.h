// How full the bank was at both ends of a run, and why it ended, as the tester says it: two fields to choose from or
// type into.
#pragma once

#include <vector>

#include <QWidget>

#include "core/quantity/problem.h"
#include "core/records/kind.h"
#include "core/records/state.h"

class QComboBox;
class QLabel;
class QLineEdit;

namespace otterstone::app {

class EndsFields : public QWidget {
    Q_OBJECT

public:
    /// Beside one another, or one below the other.
    explicit EndsFields(Qt::Orientation along = Qt::Horizontal, QWidget* parent = nullptr);
    /// What may be chosen; what was said stays.
    void setKind(records::Kind kind);
    void show(const records::StatedEnds& ends);
    /// As such a run usually begins: full for a drain, empty for a recharge.
    void sayTheUsual();
    /// Of a run that has not begun, only that can be said.
    void onlyBegan();
    /// What is said; what is `sure` stays so while its text does.
    [[nodiscard]] Result<records::StatedEnds> said() const;
    [[nodiscard]] QComboBox* began() const { return began_; }
    [[nodiscard]] QComboBox* ended() const { return ended_; }
    [[nodiscard]] QLineEdit* device() const { return device_; }
    using QWidget::show;

Q_SIGNALS:
    void changed();

private:
    QComboBox *began_, *ended_;
    QLineEdit* device_; ///< of a drain alone
    std::vector<QLabel*> labels_;
    bool onlyBegan_ = false;
    records::Kind kind_ = records::Kind::Survey;
    records::StatedEnds shown_;
};

} // namespace otterstone::app
