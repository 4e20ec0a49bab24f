// What the bank's display said against what was truly left: on the slanted line it speaks the truth.
#pragma once

#include <QWidget>

#include "core/kinds/traced/gauge.h"

class QCustomPlot;
class QLabel;

namespace otterstone::app {

class GaugeCurve : public QWidget {
    Q_OBJECT

public:
    using QWidget::show;
    explicit GaugeCurve(QWidget* parent = nullptr);
    void show(const std::optional<kinds::GaugeFinding>& gauge, bool drain);
    void restyle();

private:
    QCustomPlot* plot_;
    QLabel* words_;
    std::optional<kinds::GaugeFinding> gauge_;
    bool drain_ = true;
};

} // namespace otterstone::app
