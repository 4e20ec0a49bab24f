// One stamp in the making: a key for each kind, and a line for what must be typed with it.
#pragma once

#include <QWidget>

#include "core/records/mark.h"

class QLabel;
class QLineEdit;

namespace otterstone::app {

class StampEntry : public QWidget {
    Q_OBJECT

public:
    /// `moment`: which one is stamped, in words: "Stamp the moment under the lens:".
    explicit StampEntry(const QString& moment, const QString& keysWorkWhile, QWidget* parent = nullptr);
    /// One that asks nothing is taken at once.
    void begin(records::Mark::What what, double at, const QString& typed = {});
    void cancel();
    [[nodiscard]] QLineEdit* line() const { return line_; }
    [[nodiscard]] bool isOpen() const { return entry_->isVisible(); }

Q_SIGNALS:
    /// A button was pressed; the page knows the moment.
    void wanted(otterstone::records::Mark::What what);
    void taken(const otterstone::records::Mark& mark);
    void cancelled();

private:
    void finish();

    records::Mark::What what_ = records::Mark::What::Note;
    double at_ = 0.0;
    QLabel* asks_;
    QLineEdit* line_;
    QLabel* wrong_;
    QWidget* entry_;
};

} // namespace otterstone::app
