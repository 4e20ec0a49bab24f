#include "app/runs/gauge_curve.h"

#include <QLabel>
#include <QVBoxLayout>
#include <qcustomplot.h>

#include "app/theme.h"
#include "app/widgets/on_screen.h"
#include "app/widgets/plot_look.h"

namespace otterstone::app {

GaugeCurve::GaugeCurve(QWidget* parent) : QWidget(parent), plot_(makePlot()), words_(new QLabel) {
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(0, 0, 0, 0);
    words_->setObjectName(QStringLiteral("faint"));
    words_->setWordWrap(true);
    all->addWidget(words_);
    plot_->setMinimumHeight(220);
    all->addWidget(plot_, 1);
    setAccessibleName(tr("Display against truth"));
}

void GaugeCurve::show(const std::optional<kinds::GaugeFinding>& gauge, bool drain) {
    gauge_ = gauge;
    drain_ = drain;
    restyle();
}

void GaugeCurve::restyle() {
    const Theme& t = theme();
    plot_->clearPlottables();
    plot_->clearItems();
    dressPlot(plot_);
    plot_->xAxis->setLabel(drain_ ? tr("truly left, % of the energy") : tr("truly in, % of the energy"));
    plot_->yAxis->setLabel(tr("said, %"));
    plot_->xAxis->setRange(-2, 102);
    plot_->yAxis->setRange(-2, 106);
    plot_->xAxis->setRangeReversed(drain_); // a drain runs from full to empty
    auto* truth = plot_->addGraph();
    truth->setData({0, 100}, {0, 100});
    truth->setPen(QPen(t.faint, 1, Qt::DashLine));
    if (!gauge_) {
        words_->setText(tr(
            "No display reading was stamped on this run, or it did not run to its end: what was truly left is then unknown. Stamp what the "
            "display says with P, lit LEDs with L."));
        setAccessibleDescription(words_->text());
        plot_->replot();
        return;
    }
    QVector<double> x, y, low, high;
    for (const kinds::GaugePoint& p : gauge_->points) {
        x << p.truePercent;
        y << (p.saidLow + p.saidHigh) / 2.0;
        low << (p.saidHigh - p.saidLow) / 2.0;
        // The error as a stroke from the truth to what was said.
        auto* off = new QCPItemLine(plot_);
        off->start->setCoords(p.truePercent, p.truePercent);
        off->end->setCoords(p.truePercent, p.truePercent + p.error());
        off->setPen(QPen(t.warn, 1.4));
    }
    auto* said = plot_->addGraph();
    said->setData(x, y);
    said->setLineStyle(QCPGraph::lsNone);
    said->setScatterStyle(QCPScatterStyle(QCPScatterStyle::ssDisc, t.out, 8));
    auto* bars = new QCPErrorBars(plot_->xAxis, plot_->yAxis);
    bars->setDataPlottable(said);
    bars->setData(low);
    bars->setPen(QPen(t.out, 1.5));
    QString words = tr("Greatest error %1 points: it said %2 % with %3 % %4.")
                        .arg(qs(showNumber(gauge_->worst.error(), 2)),
                             gauge_->worst.saidLow == gauge_->worst.saidHigh
                                 ? onScreen(showNumber(gauge_->worst.saidLow, 3))
                                 : onScreen(showNumber(gauge_->worst.saidLow, 3)) + QStringLiteral(" to ") +
                                       onScreen(showNumber(gauge_->worst.saidHigh, 3)),
                             onScreen(showNumber(gauge_->worst.truePercent, 3)), drain_ ? tr("left") : tr("in"));
    if (gauge_->reserve)
        words += tr(" %1 came out after it had said 0 %.").arg(onScreen(showValue(*gauge_->reserve, Unit::WattHour)));
    words_->setText(words);
    setAccessibleDescription(words);
    plot_->replot();
}

} // namespace otterstone::app
