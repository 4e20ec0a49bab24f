// Usable energy against load: the fitted curve with its band, the drains it rests on, and the load that is asked about.
#pragma once

#include <QWidget>

#include "core/together/usable.h"

class QCustomPlot;
class QPainter;

namespace otterstone::app {

class UsablePlot : public QWidget {
    Q_OBJECT

public:
    using QWidget::show;
    explicit UsablePlot(QWidget* parent = nullptr);
    void show(const std::optional<together::UsableCurve>& curve, const std::vector<together::UsablePoint>& others,
              std::optional<double> askedWatts);
    /// For a sheet.
    void paint(QPainter& painter, QSize size);

private:
    QCustomPlot* plot_;
};

} // namespace otterstone::app
