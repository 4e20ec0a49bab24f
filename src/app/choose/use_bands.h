// How long banks keep devices going, drawn: each bank a band that falls day by day and is filled up again, the devices
// as lanes below.
#pragma once

#include <QWidget>

#include "core/plan/use.h"

class QPainter;

namespace otterstone::app {

/// How tall it wants to be; 0 when there is nothing to draw.
[[nodiscard]] int useHeight(const plan::UsePlan& use, const std::vector<plan::Need>& needs);
/// `days` asked for: 0 for none.
void paintUse(QPainter& painter, const QRectF& area, const plan::UsePlan& use, const std::vector<plan::Need>& needs,
              double days);

class UseBands : public QWidget {
    Q_OBJECT

public:
    using QWidget::show;
    explicit UseBands(QWidget* parent = nullptr);
    void show(const plan::UsePlan& use, const std::vector<plan::Need>& needs, double days);

Q_SIGNALS:
    /// A bank's band was clicked.
    void bankWanted(int row);

protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;

private:
    plan::UsePlan use_;
    std::vector<plan::Need> needs_;
    double days_ = 0.0;
};

} // namespace otterstone::app
