// The house's look for small plots: paper, hairlines, no boxes.
#pragma once

#include <QSize>

class QCustomPlot;
class QPainter;

namespace otterstone::app {

/// A plot that is drawn once, however often a page that is being laid out gives it another size; the ordinary one is
/// drawn each time.
[[nodiscard]] QCustomPlot* makePlot();
void dressPlot(QCustomPlot* plot);
/// Draws a plot with another painter, as lines and text where that keeps them.
void paintPlot(QPainter& painter, QCustomPlot* plot, QSize size);

} // namespace otterstone::app
