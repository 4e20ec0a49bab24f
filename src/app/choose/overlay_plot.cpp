#include "app/choose/overlay_plot.h"

#include <QVBoxLayout>
#include <qcustomplot.h>

#include "app/runs/curve_data.h"
#include "app/theme.h"
#include "app/widgets/plot_look.h"
#include "core/kinds/catalogue.h"

namespace otterstone::app {

namespace {

constexpr int kLegendWidth = 176;
constexpr int kLegendRow = 19;
constexpr int kPoints = 500;

// Four tones that differ in lightness as well, and a dash for each round of them.
QPen penOf(int index) {
    const bool dark = theme().kind == ThemeKind::Dark;
    static const QColor kLight[] = {QColor(0x1B, 0x4F, 0x72), QColor(0xC4, 0x62, 0x0A), QColor(0x2F, 0x7D, 0x5B),
                                    QColor(0x8A, 0x3B, 0x7C)};
    static const QColor kDark[] = {QColor(0x7C, 0xC4, 0xEE), QColor(0xF2, 0xA5, 0x55), QColor(0x7F, 0xD1, 0xA9),
                                   QColor(0xE0, 0x9A, 0xD2)};
    static const Qt::PenStyle kDashes[] = {Qt::SolidLine, Qt::DashLine, Qt::DotLine, Qt::DashDotLine};
    return QPen((dark ? kDark : kLight)[index % 4], 1.8, kDashes[index / 4 % 4]);
}

} // namespace

OverlayPlot::OverlayPlot(QWidget* parent) : QWidget(parent), plot_(makePlot()) {
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(0, 0, 0, 0);
    plot_->setMinimumHeight(300);
    plot_->setFocusPolicy(Qt::NoFocus);
    plot_->setInteractions(QCP::iRangeDrag | QCP::iRangeZoom);
    all->addWidget(plot_);
    setAccessibleName(tr("Curves over one another"));
}

// Its name with a piece of its line at the right of the plot, and its letter at the curve's end.
void OverlayPlot::letter(const OverlaySeries& s, int index) {
    const Theme& t = theme();
    const QString mark(QChar(static_cast<char16_t>(u'A' + index % 26)));
    const int y = 12 + index * kLegendRow;
    // All are placed from the upper end of the axes' right edge on.
    auto* edge = new QCPItemText(plot_);
    edge->setClipToAxisRect(false);
    edge->setText(QString()); // only its place is wanted
    edge->position->setType(QCPItemPosition::ptAxisRectRatio);
    edge->position->setCoords(1.0, 0.0);
    const auto place = [edge, y](QCPItemPosition* p, double x) {
        p->setType(QCPItemPosition::ptAbsolute);
        p->setParentAnchorX(edge->position);
        p->setCoords(x, y);
    };
    auto* sample = new QCPItemLine(plot_);
    sample->setPen(penOf(index));
    sample->setClipToAxisRect(false);
    place(sample->start, 12);
    place(sample->end, 36);
    auto* words = new QCPItemText(plot_);
    words->setClipToAxisRect(false);
    place(words->position, 44);
    words->setPositionAlignment(Qt::AlignLeft | Qt::AlignVCenter);
    words->setFont(app::font(0.86));
    words->setColor(t.ink);
    words->setText(mark + QStringLiteral("  ") +
                   QFontMetrics(words->font()).elidedText(s.name, Qt::ElideRight, kLegendWidth - 66));
    if (s.x.isEmpty())
        return;
    // Along its high stretch, each a little further on, so that letters of like curves stay apart.
    const double high = 0.6 * *std::max_element(s.y.begin(), s.y.end());
    std::vector<qsizetype> places;
    for (qsizetype k = 0; k < s.x.size(); ++k) {
        if (s.y[k] >= high)
            places.push_back(k);
    }
    const qsizetype at = places[places.size() * static_cast<std::size_t>(1 + index % 5) / 6];
    auto* name = new QCPItemText(plot_);
    name->position->setCoords(s.x[at], s.y[at]);
    name->setPositionAlignment(Qt::AlignCenter);
    name->setFont(app::font(0.82, QFont::DemiBold));
    name->setColor(penOf(index).color());
    name->setBrush(t.sheet);
    name->setPadding(QMargins(2, 0, 2, 0));
    name->setText(mark);
}

void OverlayPlot::show(const std::vector<OverlaySeries>& series, OverlayAxis axis, const QString& along) {
    plot_->clearPlottables();
    plot_->clearItems();
    dressPlot(plot_);
    plot_->xAxis->setLabel(axis == OverlayAxis::Time     ? tr("hours from the start")
                           : axis == OverlayAxis::Energy ? tr("Wh from the start")
                                                         : tr("percent of its energy"));
    plot_->yAxis->setLabel(along.isEmpty() ? tr("W") : along);
    const bool legend = series.size() > 1 || !along.isEmpty();
    plot_->plotLayout()->setMargins(QMargins(0, 6, legend ? kLegendWidth : 8, 0));
    plot_->setMinimumHeight(std::max(300, 60 + static_cast<int>(series.size()) * kLegendRow));
    double top = 0.0, right = 0.0;
    QStringList names;
    for (std::size_t k = 0; k < series.size(); ++k) {
        const OverlaySeries& s = series[k];
        auto* graph = plot_->addGraph();
        graph->setPen(penOf(static_cast<int>(k)));
        graph->setData(s.x, s.y, true);
        for (qsizetype i = 0; i < s.x.size(); ++i) {
            top = std::max(top, s.y[i]);
            right = std::max(right, s.x[i]);
        }
        if (legend)
            letter(s, static_cast<int>(k));
        names << s.name;
    }
    plot_->xAxis->setRange(0.0, right > 0.0 ? right * 1.02 : 1.0);
    plot_->yAxis->setRange(0.0, top > 0.0 ? top * 1.12 : 1.0);
    setAccessibleDescription(names.join(QStringLiteral(", ")));
    plot_->replot();
}

void OverlayPlot::paint(QPainter& painter, QSize size) { paintPlot(painter, plot_, size); }

namespace {

// What was written down by hand has its readings, and no samples of its own.
OverlaySeries fromReadings(const records::Sheet& sheet, const QString& name, OverlayAxis axis) {
    OverlaySeries s;
    s.name = name;
    const trace::Trace t = kinds::of(sheet.kind).sheet->metered->trace(sheet);
    std::vector<double> energy(t.size());
    for (std::size_t k = 1; k < t.size(); ++k)
        energy[k] = energy[k - 1] + (t.power(k) + t.power(k - 1)) / 2.0 * (t.time[k] - t.time[k - 1]) / 3600.0;
    for (std::size_t k = 0; k < t.size(); ++k) {
        s.x << (axis == OverlayAxis::Time     ? (t.time[k] - t.time.front()) / 3600.0
                : axis == OverlayAxis::Energy ? energy[k]
                : energy.back() > 0.0         ? 100.0 * energy[k] / energy.back()
                                              : 0.0);
        s.y << t.power(k);
    }
    return s;
}

} // namespace

OverlaySeries overlayOf(const book::Book& book, const records::Run& run, const QString& name, OverlayAxis axis) {
    if (run.sheet && kinds::isMetered(*run.sheet))
        return fromReadings(*run.sheet, name, axis);
    CurveData data(book.summaries(run.id),
                   [&book, id = run.id](int first, int last) { return book.chunks(id, first, last); });
    OverlaySeries s;
    s.name = name;
    if (data.empty())
        return s;
    const double from = data.firstX(Axis::Time), to = data.lastX(Axis::Time);
    const double all = data.lastX(Axis::Energy);
    std::optional<double> onset;
    const double on = 0.05 * data.most(Quantity::Watts);
    for (const CurvePoint& p : data.points(Axis::Time, Quantity::Watts, from, to, kPoints)) {
        const double watts = (p.low + p.high) / 2.0;
        if (!onset && watts > on)
            onset = p.x;
        if (!onset || p.x > to)
            continue;
        const double energy = data.xOf(p.x, Axis::Energy);
        s.x << (axis == OverlayAxis::Time     ? (p.x - *onset) / 3600.0
                : axis == OverlayAxis::Energy ? energy
                : all > 0.0                   ? 100.0 * energy / all
                                              : 0.0);
        s.y << watts;
    }
    return s;
}

} // namespace otterstone::app
