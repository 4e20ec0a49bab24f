#include "app/live/live_curve.h"

#include <algorithm>

#include <QTimer>
#include <QVBoxLayout>
#include <qcustomplot.h>

#include "app/runs/stamps.h"
#include "app/theme.h"
#include "app/widgets/plot_look.h"

namespace otterstone::app {

namespace {

constexpr std::size_t kDense = 400; // stretches of time

constexpr int kRedrawMs = 200;
constexpr std::size_t kMostMarks = 40; // named on the curve; the run's own page has them all

} // namespace

void Envelope::clear() {
    bins_.clear();
    width_ = 0.0;
}

void Envelope::add(double time, double watts) {
    if (!bins_.empty() && time < bins_.back().from + width_) {
        Bin& b = bins_.back();
        b.to = time;
        b.low = std::min(b.low, watts);
        b.high = std::max(b.high, watts);
        b.last = watts;
        return;
    }
    if (bins_.size() >= kMostBins) {
        width_ = std::max(2.0 * width_, 2.0 * (bins_.back().to - bins_.front().from) / static_cast<double>(kMostBins));
        std::size_t to = 0;
        for (std::size_t k = 1; k < bins_.size(); ++k) {
            if (bins_[k].from < bins_[to].from + width_) {
                bins_[to].to = bins_[k].to;
                bins_[to].low = std::min(bins_[to].low, bins_[k].low);
                bins_[to].high = std::max(bins_[to].high, bins_[k].high);
                bins_[to].last = bins_[k].last;
            } else {
                bins_[++to] = bins_[k];
            }
        }
        bins_.resize(to + 1);
    }
    bins_.push_back({time, time, watts, watts, watts});
}

LiveCurve::LiveCurve(QWidget* parent) : QWidget(parent), plot_(makePlot()), soon_(new QTimer(this)) {
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(0, 0, 0, 0);
    all->addWidget(plot_);
    plot_->setMinimumHeight(120);
    plot_->setFocusPolicy(Qt::NoFocus);
    setAccessibleName(tr("Watts over time, growing"));
    soon_->setSingleShot(true);
    soon_->setInterval(kRedrawMs);
    connect(soon_, &QTimer::timeout, this, &LiveCurve::redraw);
}

void LiveCurve::begin(bool intoBank) {
    envelope_.clear();
    marks_.clear();
    intoBank_ = intoBank;
    own_.reset();
    claim_.reset();
    display_.reset();
    redraw();
}

void LiveCurve::add(const std::vector<bench::CurvePoint>& points, const std::vector<records::Mark>& marks) {
    for (const bench::CurvePoint& p : points)
        envelope_.add(p.time, p.volts * p.amps);
    marks_.insert(marks_.end(), marks.begin(), marks.end());
    if (isVisible() && !soon_->isActive() && (!points.empty() || !marks.empty()))
        soon_->start();
}

void LiveCurve::showEvent(QShowEvent* event) {
    QWidget::showEvent(event);
    redraw();
}

void LiveCurve::setEnds(std::optional<double> own, std::optional<double> claim, std::optional<double> display) {
    own_ = own;
    claim_ = claim;
    display_ = display;
}

void LiveCurve::restyle() { redraw(); }

void LiveCurve::redraw() {
    const Theme& t = theme();
    const QColor colour = intoBank_ ? t.in : t.out;
    plot_->clearPlottables();
    plot_->clearItems();
    dressPlot(plot_);
    const auto& bins = envelope_.bins();
    double most = 1.0;
    QVector<double> x, y;
    double scale = 60.0;
    QString unit = tr("time, min");
    const double end = bins.empty() ? 60.0 : bins.back().to;
    double shown = end;
    for (const auto& ahead : {own_, claim_, display_}) {
        if (ahead && *ahead < 6.0 * std::max(end, 600.0))
            shown = std::max(shown, *ahead);
    }
    if (shown > 3.0 * 3600.0) {
        scale = 3600.0;
        unit = tr("time, h");
    }
    for (const Envelope::Bin& b : bins) {
        x << b.from / scale;
        y << b.low;
        if (b.high > b.low) {
            x << b.to / scale << b.to / scale;
            y << b.high << b.last;
        }
        most = std::max(most, b.high);
    }
    auto* graph = plot_->addGraph();
    graph->setData(x, y);
    // Thick smooth lines through a thousand zigzags cost a tenth of a second; one pixel wide they look the same.
    const bool dense = bins.size() > kDense;
    graph->setAntialiased(!dense);
    graph->setAntialiasedFill(!dense);
    graph->setPen(QPen(colour, dense ? 1.0 : 1.6));
    QColor fill = colour;
    fill.setAlphaF(0.14F);
    graph->setBrush(fill);
    plot_->xAxis->setLabel(unit);
    plot_->yAxis->setLabel(tr("watts"));
    plot_->xAxis->setRange(0.0, shown * 1.04 / scale);
    plot_->yAxis->setRange(0.0, most * 1.35);
    const auto upright = [&](double at, const QColor& pen, Qt::PenStyle style, const QString& words, int level) {
        auto* line = new QCPItemLine(plot_);
        line->start->setCoords(at / scale, 0.0);
        line->end->setCoords(at / scale, most * (1.3 - 0.1 * level));
        line->setPen(QPen(pen, 1.2, style));
        auto* text = new QCPItemText(plot_);
        text->position->setCoords(at / scale, most * (1.3 - 0.1 * level));
        text->setPositionAlignment((at > 0.8 * shown ? Qt::AlignRight : Qt::AlignLeft) | Qt::AlignTop);
        text->setPadding(QMargins(4, 0, 4, 0));
        text->setFont(app::font(0.82));
        text->setColor(pen);
        text->setText(words);
    };
    const std::size_t first = marks_.size() > kMostMarks ? marks_.size() - kMostMarks : 0;
    for (std::size_t k = first; k < marks_.size(); ++k) {
        QString words = markWords(marks_[k]);
        if (words.size() > 34)
            words = words.left(33) + QStringLiteral("…");
        upright(marks_[k].at, marks_[k].what == records::Mark::What::Instrument ? t.warn : t.ink, Qt::SolidLine, words,
                static_cast<int>(k % 4));
    }
    if (own_ && *own_ <= shown)
        upright(*own_, t.faint, Qt::DashLine, tr("predicted end"), 5);
    if (claim_ && *claim_ <= shown)
        upright(*claim_, t.faint, Qt::DotLine, tr("claimed"), 6);
    if (display_ && *display_ <= shown)
        upright(*display_, t.faint, Qt::DashDotLine, tr("by its display"), 7);
    plot_->replot(QCustomPlot::rpQueuedReplot);
}

} // namespace otterstone::app
