// The house's look for small plots: paper, hairlines, no boxes.
#pragma once

#include <QSize>

class QCustomPlot;
class QPainter;

namespace otterstone::app {

void dressPlot(QCustomPlot* plot);
/// Draws a plot with another painter, as lines and text where that keeps them.
void paintPlot(QPainter& painter, QCustomPlot* plot, QSize size);

} // namespace otterstone::app
