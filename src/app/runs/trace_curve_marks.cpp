// Phases and marks on the curve of a run.
#include <QFontMetrics>
#include <qcustomplot.h>

#include "app/runs/stamps.h"
#include "app/runs/trace_curve.h"
#include "app/runs/trace_curve_layout.h"
#include "app/theme.h"

namespace otterstone::app {

double TraceCurve::phaseTop() const { return 1.0 - kPhaseHeight / std::max(60, plot_->axisRect()->height()); }

void TraceCurve::decorate() {
    for (int k = plot_->itemCount() - 1; k >= 0; --k) {
        if (plot_->item(k) != lensLine_)
            plot_->removeItem(plot_->item(k));
    }
    if (data_.empty())
        return;
    if (finding_) {
        for (const trace::Phase& phase : finding_->phases)
            addPhase(phase);
    }
    // Each mark's words go into the row that has room; where neither has, the stroke alone is left.
    double used[2] = {-1e9, -1e9};
    const QFontMetrics metrics(app::font(0.85));
    const int right = plot_->axisRect()->right();
    for (const records::Mark& mark : marks_) {
        const double width = metrics.horizontalAdvance(markWords(mark)) + 10.0;
        double left = plot_->xAxis->coordToPixel(data_.xOf(mark.at, axis_));
        if (left + width > right)
            left -= width;
        const int level = left >= used[0] ? 0 : left >= used[1] ? 1 : -1;
        if (level >= 0)
            used[level] = left + width;
        addMark(mark, level);
    }
}

void TraceCurve::addPhase(const trace::Phase& phase) {
    const Theme& t = theme();
    const double from = data_.xOf(phase.from, axis_);
    const double to = data_.xOf(phase.to, axis_);
    const double whole = data_.lastX(axis_) - data_.firstX(axis_);
    auto* rect = new QCPItemRect(plot_);
    rect->setLayer(kDecoration);
    rect->topLeft->setTypeX(QCPItemPosition::ptPlotCoords);
    rect->topLeft->setTypeY(QCPItemPosition::ptAxisRectRatio);
    rect->bottomRight->setTypeX(QCPItemPosition::ptPlotCoords);
    rect->bottomRight->setTypeY(QCPItemPosition::ptAxisRectRatio);
    rect->topLeft->setCoords(from, phaseTop());
    rect->bottomRight->setCoords(to, 1.0);
    rect->setPen(QPen(t.sheet, 1));
    QColor colour = intoBank_ ? t.in : t.out;
    switch (phase.kind) {
    case trace::PhaseKind::Bulk:
    case trace::PhaseKind::Steady:
        colour.setAlphaF(0.45F);
        rect->setBrush(colour);
        break;
    case trace::PhaseKind::Taper:
        colour.setAlphaF(0.20F);
        rect->setBrush(colour);
        break;
    case trace::PhaseKind::Throttled: rect->setBrush(hatching(t.warn, true)); break;
    default: rect->setBrush(hatching(t.loss, false)); break;
    }
    if (whole <= 0.0 || (to - from) / whole < 0.07)
        return; // no room for its name; the lens tells it
    auto* words = new QCPItemText(plot_);
    words->setLayer(kDecoration);
    words->position->setTypeX(QCPItemPosition::ptPlotCoords);
    words->position->setTypeY(QCPItemPosition::ptAxisRectRatio);
    words->position->setCoords((from + to) / 2.0, (phaseTop() + 1.0) / 2.0);
    words->setPositionAlignment(Qt::AlignCenter);
    words->setFont(app::font(0.85, QFont::Medium));
    words->setColor(t.ink);
    words->setText(qs(trace::phaseName(phase.kind)));
    words->setPadding(QMargins(4, 0, 4, 0));
    if (rect->brush().style() == Qt::TexturePattern)
        words->setBrush(t.sheet);
}

void TraceCurve::addMark(const records::Mark& mark, int level) {
    const Theme& t = theme();
    const double x = data_.xOf(mark.at, axis_);
    auto* line = new QCPItemLine(plot_);
    line->setLayer(kDecoration);
    for (QCPItemPosition* p : {line->start, line->end}) {
        p->setTypeX(QCPItemPosition::ptPlotCoords);
        p->setTypeY(QCPItemPosition::ptAxisRectRatio);
    }
    const double top = (2.0 + kMarkHeight * std::max(0, level)) / std::max(90, plot_->axisRect()->height());
    line->start->setCoords(x, top);
    line->end->setCoords(x, phaseTop());
    line->setPen(QPen(t.faint, 1, Qt::DotLine));
    if (level < 0)
        return;
    auto* words = new QCPItemText(plot_);
    words->setLayer(kDecoration);
    words->position->setTypeX(QCPItemPosition::ptPlotCoords);
    words->position->setTypeY(QCPItemPosition::ptAxisRectRatio);
    words->position->setCoords(x, top);
    const bool nearEnd =
        plot_->xAxis->coordToPixel(x) + QFontMetrics(app::font(0.85)).horizontalAdvance(markWords(mark)) + 10.0 >
        plot_->axisRect()->right();
    words->setPositionAlignment((nearEnd ? Qt::AlignRight : Qt::AlignLeft) | Qt::AlignTop);
    words->setPadding(QMargins(4, 0, 4, 0));
    words->setFont(app::font(0.85));
    words->setColor(t.ink);
    words->setText(markWords(mark));
}

} // namespace otterstone::app
