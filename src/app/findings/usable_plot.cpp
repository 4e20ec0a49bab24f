#include "app/findings/usable_plot.h"

#include <QVBoxLayout>
#include <qcustomplot.h>

#include "app/theme.h"
#include "app/widgets/on_screen.h"
#include "app/widgets/plot_look.h"

namespace otterstone::app {

UsablePlot::UsablePlot(QWidget* parent) : QWidget(parent), plot_(makePlot()) {
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(0, 0, 0, 0);
    plot_->setMinimumHeight(230);
    plot_->setFocusPolicy(Qt::NoFocus);
    all->addWidget(plot_);
    setAccessibleName(tr("Usable energy against load"));
}

void UsablePlot::show(const std::optional<together::UsableCurve>& curve,
                      const std::vector<together::UsablePoint>& others, std::optional<double> asked) {
    const Theme& t = theme();
    plot_->clearPlottables();
    plot_->clearItems();
    dressPlot(plot_);
    plot_->xAxis->setLabel(tr("load at the port, W"));
    plot_->yAxis->setLabel(tr("usable, Wh"));
    if (!curve) {
        plot_->replot();
        return;
    }
    const double from = std::max(0.2, curve->lowest() / 3.0);
    const double to = std::max({curve->highest() * 1.8, asked.value_or(0.0) * 1.1});
    // Firm within the loads tried, dashed where it goes on from its shape alone.
    constexpr int kSteps = 160;
    QVector<double> x, y, low, high, xOut, yOut;
    double top = 0.0, bottom = 1e9;
    for (int k = 0; k <= kSteps; ++k) {
        const double watts = from * std::pow(to / from, k / static_cast<double>(kSteps));
        const Measured e = curve->at(watts);
        x << watts;
        y << e.value();
        low << e.value() - e.expanded();
        high << e.value() + e.expanded();
        top = std::max(top, high.back());
        bottom = std::min(bottom, low.back());
    }
    auto* lower = plot_->addGraph();
    lower->setData(x, low, true);
    lower->setPen(Qt::NoPen);
    auto* upper = plot_->addGraph();
    upper->setData(x, high, true);
    upper->setPen(Qt::NoPen);
    QColor band = t.out;
    band.setAlphaF(0.22F);
    upper->setBrush(band);
    upper->setChannelFillGraph(lower);
    QVector<double> xIn, yIn;
    for (int k = 0; k < x.size(); ++k) {
        (curve->extrapolates(x[k]) ? xOut : xIn) << x[k];
        (curve->extrapolates(x[k]) ? yOut : yIn) << y[k];
    }
    auto* beyond = plot_->addGraph();
    beyond->setData(x, y, true);
    beyond->setPen(QPen(t.out, 1.2, Qt::DotLine));
    auto* firm = plot_->addGraph();
    firm->setData(xIn, yIn, true);
    firm->setPen(QPen(t.out, 2));
    QVector<double> px, py, pu, ox, oy;
    double named = 0.0;
    for (const together::UsablePoint& p : others) {
        ox << p.watts;
        oy << p.wattHours.value();
        top = std::max(top, p.wattHours.value());
        bottom = std::min(bottom, p.wattHours.value());
    }
    auto* elsewhere = plot_->addGraph();
    elsewhere->setData(ox, oy);
    elsewhere->setLineStyle(QCPGraph::lsNone);
    elsewhere->setScatterStyle(QCPScatterStyle(QCPScatterStyle::ssCross, QPen(t.faint, 1.4), Qt::NoBrush, 8));
    for (const together::UsablePoint& p : curve->points()) {
        px << p.watts;
        py << p.wattHours.value();
        pu << p.wattHours.expanded();
        if (p.watts < named * 1.05)
            continue; // a repeat: its load is named already
        named = p.watts;
        auto* name = new QCPItemText(plot_);
        name->position->setCoords(p.watts, p.wattHours.value());
        name->setPositionAlignment(Qt::AlignHCenter | Qt::AlignBottom);
        name->setPadding(QMargins(0, 0, 0, 8));
        name->setFont(app::font(0.8));
        name->setColor(t.faint);
        name->setText(onScreen(showNumber(p.watts, 2)) + QStringLiteral(" W"));
    }
    auto* points = plot_->addGraph();
    points->setData(px, py);
    points->setLineStyle(QCPGraph::lsNone);
    points->setScatterStyle(QCPScatterStyle(QCPScatterStyle::ssDiamond, QPen(t.ink, 1.4), t.paper, 9));
    auto* bars = new QCPErrorBars(plot_->xAxis, plot_->yAxis);
    bars->setDataPlottable(points);
    bars->setData(pu);
    bars->setPen(QPen(t.ink, 1.2));
    if (asked) {
        auto* line = new QCPItemLine(plot_);
        line->start->setCoords(*asked, 0.0);
        line->end->setCoords(*asked, curve->at(*asked).value());
        line->setPen(QPen(t.focus, 2));
        auto* dot = plot_->addGraph();
        dot->setData({*asked}, {curve->at(*asked).value()});
        dot->setScatterStyle(QCPScatterStyle(QCPScatterStyle::ssDisc, t.focus, 9));
    }
    plot_->xAxis->setScaleType(QCPAxis::stLogarithmic);
    plot_->xAxis->setTicker(QSharedPointer<QCPAxisTicker>(new QCPAxisTickerLog));
    plot_->xAxis->setNumberFormat(QStringLiteral("f"));
    plot_->xAxis->setNumberPrecision(0);
    plot_->xAxis->setRange(from, to);
    const double room = std::max(0.05 * top, 0.25 * (top - bottom));
    plot_->yAxis->setRange(std::max(0.0, bottom - room), top + room);
    plot_->replot();
}

void UsablePlot::paint(QPainter& painter, QSize size) { paintPlot(painter, plot_, size); }

} // namespace otterstone::app
