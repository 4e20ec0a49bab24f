#include "app/widgets/plot_look.h"

#include <QPicture>
#include <qcustomplot.h>

#include "app/theme.h"
#include "app/widgets/on_screen.h"

namespace otterstone::app {

namespace {

class Plot : public QCustomPlot {
protected:
    void resizeEvent(QResizeEvent*) override {
        setViewport(rect());
        replot(rpQueuedReplot);
    }
};

} // namespace

QCustomPlot* makePlot() { return new Plot; }

void dressPlot(QCustomPlot* plot) {
    const Theme& t = theme();
    plot->setLocale(figuresLocale());
    plot->setBackground(t.paper);
    plot->axisRect()->setBackground(t.sheet);
    for (QCPAxis* axis : {plot->xAxis, plot->yAxis}) {
        axis->setBasePen(t.line);
        axis->setTickPen(t.line);
        axis->setSubTickPen(Qt::NoPen);
        axis->setTickLabelColor(t.faint);
        axis->setLabelColor(t.faint);
        axis->setTickLabelFont(app::font(0.85));
        axis->setLabelFont(app::font(0.85));
        axis->grid()->setPen(QPen(t.line, 1, Qt::DotLine));
        axis->grid()->setZeroLinePen(Qt::NoPen);
    }
}

void paintPlot(QPainter& painter, QCustomPlot* plot, QSize size) {
    QPicture picture;
    QCPPainter recorder(&picture);
    recorder.setMode(QCPPainter::pmVectorized);
    recorder.setMode(QCPPainter::pmNoCaching);
    plot->toPainter(&recorder, size.width(), size.height());
    recorder.end();
    painter.drawPicture(0, 0, picture);
}

} // namespace otterstone::app
