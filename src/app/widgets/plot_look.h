// The house's look for small plots: paper, hairlines, no boxes.
#pragma once

class QCustomPlot;

namespace otterstone::app {

void dressPlot(QCustomPlot* plot);

} // namespace otterstone::app
