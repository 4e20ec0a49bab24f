// A number that opens: its name, its value with ±, and the working on click, Space or Return.
#pragma once

#include <QAbstractButton>

#include "core/quantity/working.h"

namespace otterstone::app {

class FigureButton : public QAbstractButton {
    Q_OBJECT

public:
    explicit FigureButton(Working working, QWidget* parent = nullptr);
    [[nodiscard]] const Working& working() const { return working_; }
    [[nodiscard]] QSize sizeHint() const override;

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    Working working_;
};

} // namespace otterstone::app
