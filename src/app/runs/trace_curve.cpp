#include "app/runs/trace_curve.h"

#include <QButtonGroup>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QLabel>
#include <QPushButton>
#include <QTimer>
#include <QVBoxLayout>
#include <qcustomplot.h>
#include <utility>

#include "app/runs/stamps.h"
#include "app/runs/trace_curve_layout.h"
#include "app/theme.h"
#include "app/widgets/on_screen.h"
#include "app/widgets/plot_look.h"

namespace otterstone::app {

namespace {

constexpr int kRefreshMilliseconds = 15;
constexpr std::size_t kChunksATurn = 16;   // read from the book before the event loop has its turn again
constexpr double kDenseTravel = 10.0;      // plot heights
constexpr std::size_t kDenseStrokes = 400; // more stand side by side

// Hours and minutes on the time axis, whatever the span.
class HourTicker : public QCPAxisTickerTime {
public:
    HourTicker() { setTimeFormat(QStringLiteral("%h:%m")); }

protected:
    double getTickStep(const QCPRange& range) override {
        setTimeFormat(range.size() < 600.0 ? QStringLiteral("%h:%m:%s") : QStringLiteral("%h:%m"));
        return QCPAxisTickerTime::getTickStep(range);
    }
};

// The room below zero is the phases'; no reading lies there.
class FromZeroTicker : public QCPAxisTicker {
protected:
    QString getTickLabel(double tick, const QLocale& locale, QChar format, int precision) override {
        return tick < 0.0 ? QString() : QCPAxisTicker::getTickLabel(tick, locale, format, precision);
    }
};

// Whole steps of degrees Fahrenheit on an axis that is in degrees Celsius.
class FahrenheitTicker : public QCPAxisTicker {
public:
    void generate(const QCPRange& range, const QLocale& locale, QChar format, int precision, QVector<double>& ticks,
                  QVector<double>* subTicks, QVector<QString>* labels) override {
        QCPAxisTicker::generate({fahrenheitOf(range.lower), fahrenheitOf(range.upper)}, locale, format, precision,
                                ticks, subTicks, labels);
        for (double& tick : ticks)
            tick = celsiusOf(tick);
        if (subTicks)
            std::for_each(subTicks->begin(), subTicks->end(), [](double& tick) { tick = celsiusOf(tick); });
    }

protected:
    QString getTickLabel(double tick, const QLocale& locale, QChar format, int precision) override {
        return celsiusOf(tick) < 0.0 ? QString() : QCPAxisTicker::getTickLabel(tick, locale, format, precision);
    }
};

} // namespace

TraceCurve::TraceCurve(QWidget* parent)
    : QWidget(parent), plot_(makePlot()), lensWords_(new QLabel), soon_(new QTimer(this)) {
    setFocusPolicy(Qt::StrongFocus);
    setAccessibleName(tr("Curve of the run"));
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(0, 0, 0, 0);
    all->setSpacing(0);
    buildControls();
    plot_->setMinimumHeight(170);
    plot_->setFocusPolicy(Qt::NoFocus);
    plot_->setInteractions(QCP::iRangeDrag | QCP::iRangeZoom);
    plot_->axisRect()->setRangeDrag(Qt::Horizontal);
    plot_->axisRect()->setRangeZoom(Qt::Horizontal);
    plot_->axisRect()->setMinimumMargins(QMargins(0, 10, 10, 0));
    plot_->addLayer(kDecoration, plot_->layer(QStringLiteral("grid")), QCustomPlot::limAbove);
    curve_ = plot_->addGraph();
    curve_->setAntialiasedFill(false);
    curve_->setAdaptiveSampling(false); // the points are chosen per pixel already
    lensLine_ = new QCPItemLine(plot_);
    lensLine_->setVisible(false);
    all->addWidget(plot_, 1);
    soon_->setSingleShot(true);
    soon_->setInterval(kRefreshMilliseconds);
    connect(soon_, &QTimer::timeout, this, &TraceCurve::refresh);
    connect(plot_->xAxis, qOverload<const QCPRange&>(&QCPAxis::rangeChanged), this, [this](const QCPRange& range) {
        // Never beyond the trace: nothing is there.
        const double first = data_.firstX(axis_);
        const double last = data_.lastX(axis_);
        QCPRange kept = range.bounded(first, std::max(last, first + 1e-6));
        if (!data_.empty() && (kept.lower != range.lower || kept.upper != range.upper))
            plot_->xAxis->setRange(kept);
        refreshSoon();
    });
    connect(plot_, &QCustomPlot::mouseMove, this,
            [this](QMouseEvent* event) { moveLens(plot_->xAxis->pixelToCoord(event->position().x())); });
    // Marks and phases have heights in pixels: they follow the plot's.
    connect(plot_, &QCustomPlot::afterLayout, this, [this] {
        if (std::exchange(laidOut_, plot_->axisRect()->height()) == plot_->axisRect()->height())
            return;
        QTimer::singleShot(0, this, [this] {
            fitHeight();
            decorate();
            refreshSoon();
        });
    });
    connect(plot_, &QCustomPlot::mousePress, this, [this] { setFocus(); });
    restyle();
}

void TraceCurve::buildControls() {
    auto* row = new QHBoxLayout;
    row->setSpacing(kGrid / 2);
    const auto group = [&](const QString& name, const QString& hint, const QStringList& words,
                           std::vector<QPushButton*>& buttons, auto chosen) {
        auto* label = new QLabel(name);
        label->setObjectName(QStringLiteral("faint"));
        row->addWidget(label);
        auto* exclusive = new QButtonGroup(this);
        for (int k = 0; k < words.size(); ++k) {
            auto* button = new QPushButton(words[k]);
            button->setObjectName(QStringLiteral("quiet"));
            button->setCheckable(true);
            button->setChecked(k == 0);
            button->setToolTip(hint);
            button->setAccessibleName(name + QLatin1Char(' ') + words[k]);
            exclusive->addButton(button);
            connect(button, &QPushButton::clicked, this, [chosen, k] { chosen(k); });
            buttons.push_back(button);
            row->addWidget(button);
        }
        row->addSpacing(2 * kGrid);
    };
    group(tr("shows"), tr("Next one: Y"), {tr("watts"), tr("volts"), tr("amps"), tr("°C")}, quantityButtons_,
          [this](int k) { setQuantity(static_cast<Quantity>(k)); });
    group(tr("against"), tr("Next one: X"), {tr("time"), tr("energy"), tr("percent")}, axisButtons_,
          [this](int k) { setAxis(static_cast<Axis>(k)); });
    auto* whole = new QPushButton(tr("Whole run"));
    whole->setObjectName(QStringLiteral("quiet"));
    whole->setToolTip(tr("Show the whole run (0)"));
    connect(whole, &QPushButton::clicked, this, &TraceCurve::showAll);
    row->addWidget(whole);
    lensWords_->setObjectName(QStringLiteral("faint"));
    lensWords_->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
    lensWords_->setAlignment(Qt::AlignRight | Qt::AlignVCenter);
    row->addWidget(lensWords_, 1);
    static_cast<QVBoxLayout*>(layout())->addLayout(row);
}

void TraceCurve::show(CurveData samples, const kinds::Finding* finding, const std::vector<records::Mark>& marks,
                      bool intoBank) {
    data_ = std::move(samples);
    finding_ = finding ? std::optional(*finding) : std::nullopt;
    marks_ = marks;
    intoBank_ = intoBank;
    lens_ = data_.firstX(axis_);
    restyle();
    showAll();
}

void TraceCurve::clear() { show({}, nullptr, {}, false); }

void TraceCurve::restyle() {
    const Theme& t = theme();
    const QColor colour = intoBank_ ? t.in : t.out;
    plot_->setBackground(t.paper);
    plot_->axisRect()->setBackground(t.sheet);
    for (QCPAxis* axis : {plot_->xAxis, plot_->yAxis}) {
        axis->setBasePen(QPen(t.line));
        axis->setTickPen(QPen(t.line));
        axis->setSubTickPen(Qt::NoPen);
        axis->setTickLabelColor(t.faint);
        axis->setTickLabelFont(app::font(0.9));
        axis->setLabelColor(t.faint);
        axis->setLabelFont(app::font(0.9));
        axis->grid()->setPen(Qt::NoPen);
        axis->grid()->setZeroLinePen(Qt::NoPen);
    }
    plot_->yAxis->grid()->setPen(QPen(t.line, 1, Qt::DotLine));
    curve_->setPen(QPen(colour, 1.6));
    QColor fill = colour;
    fill.setAlphaF(0.14F);
    curve_->setBrush(fill);
    lensLine_->setPen(QPen(t.ink, 1, Qt::DashLine));
    decorate();
    refreshSoon();
}

QString TraceCurve::axisLabel() const {
    switch (axis_) {
    case Axis::Time: return tr("time, h:min");
    case Axis::Energy: return tr("energy so far, Wh");
    case Axis::Percent: return tr("share of the energy so far, %");
    }
    return {};
}

void TraceCurve::setAxis(Axis axis) {
    axis_ = axis;
    axisButtons_[static_cast<std::size_t>(axis)]->setChecked(true);
    if (axis == Axis::Time)
        plot_->xAxis->setTicker(QSharedPointer<QCPAxisTicker>(new HourTicker));
    else
        plot_->xAxis->setTicker(QSharedPointer<QCPAxisTicker>(new QCPAxisTicker));
    lensLine_->setVisible(false);
    decorate();
    showAll();
}

void TraceCurve::setQuantity(Quantity quantity) {
    quantity_ = quantity;
    quantityButtons_[static_cast<std::size_t>(quantity)]->setChecked(true);
    showAll();
}

void TraceCurve::showAll() {
    const bool fahrenheit = quantity_ == Quantity::Temperature && screenForm().fahrenheit;
    const QString labels[] = {QStringLiteral("W"), QStringLiteral("V"), QStringLiteral("A"),
                              fahrenheit ? QStringLiteral("°F") : QStringLiteral("°C")};
    quantityButtons_.back()->setText(screenForm().fahrenheit ? tr("°F") : tr("°C"));
    plot_->yAxis->setTicker(fahrenheit ? QSharedPointer<QCPAxisTicker>(new FahrenheitTicker)
                                       : QSharedPointer<QCPAxisTicker>(new FromZeroTicker));
    plot_->xAxis->setLabel(axisLabel());
    if (axis_ == Axis::Time && !dynamic_cast<HourTicker*>(plot_->xAxis->ticker().data()))
        plot_->xAxis->setTicker(QSharedPointer<QCPAxisTicker>(new HourTicker));
    plot_->yAxis->setLabel(labels[static_cast<int>(quantity_)]);
    fitHeight();
    plot_->xAxis->setRange(data_.firstX(axis_), std::max(data_.lastX(axis_), data_.firstX(axis_) + 1e-6));
    refreshSoon();
}

void TraceCurve::fitHeight() {
    // Room above for two rows of marks, below for the phases.
    const double most = std::max(0.1, data_.most(quantity_));
    const double height = std::max(90, plot_->axisRect()->height());
    const double above = 2.0 * kMarkHeight + 10.0;
    const double perPixel = most / (height - above - kPhaseHeight - 4.0);
    plot_->yAxis->setRange(-perPixel * (kPhaseHeight + 4.0), most + perPixel * above);
}

void TraceCurve::zoom(double factor) {
    const QCPRange r = plot_->xAxis->range();
    const double centre = lensLine_->visible() ? lens_ : r.center();
    plot_->xAxis->setRange(centre - (centre - r.lower) * factor, centre + (r.upper - centre) * factor);
}

void TraceCurve::pan(double share) {
    const double by = plot_->xAxis->range().size() * share;
    plot_->xAxis->moveRange(by);
}

void TraceCurve::refreshSoon() {
    if (!soon_->isActive())
        soon_->start();
}

void TraceCurve::redrawNow() {
    draw(CurveData::kAllChunks);
    plot_->replot(QCustomPlot::rpImmediateRefresh);
}

void TraceCurve::refresh() {
    draw(kChunksATurn);
    if (!data_.isWhole())
        refreshSoon(); // coarse at once, fine in a moment
}

void TraceCurve::draw(std::size_t mostReads) {
    const QCPRange r = plot_->xAxis->range();
    // Which marks have room for their words follows the zoom.
    if (!marks_.empty() && !(decorated_ == std::pair(r.lower, r.upper))) {
        decorated_ = {r.lower, r.upper};
        decorate();
    }
    const auto points =
        data_.points(axis_, quantity_, r.lower, r.upper, std::max(1, plot_->axisRect()->width()), mostReads);
    // Noise makes a curve a band of upright strokes, many in number or many times the plot's height in all: smoothing
    // them costs up to tenths of a second and shows nothing more. What is lower than a pixel is no stroke.
    const double pixel = plot_->yAxis->range().size() / std::max(1, plot_->axisRect()->height());
    double travel = 0.0;
    std::size_t strokes = 0;
    QVector<QCPGraphData> values;
    values.reserve(static_cast<qsizetype>(points.size()) * 2);
    for (const CurvePoint& p : points) {
        if (p.high - p.low > pixel) {
            values.append(QCPGraphData(p.x, p.low));
            values.append(QCPGraphData(p.x, p.high));
            travel += p.high - p.low;
            ++strokes;
        } else {
            values.append(QCPGraphData(p.x, 0.5 * (p.low + p.high)));
        }
    }
    const bool dense = strokes > kDenseStrokes || travel > kDenseTravel * plot_->yAxis->range().size();
    QPen pen = curve_->pen();
    pen.setWidthF(dense ? 0.0 : 1.6);
    curve_->setPen(pen);
    curve_->setAntialiased(!dense);
    auto container = QSharedPointer<QCPGraphDataContainer>(new QCPGraphDataContainer);
    container->set(values, true);
    curve_->setData(container);
    plot_->replot(QCustomPlot::rpQueuedReplot);
}

void TraceCurve::moveLens(double x) {
    const auto reading = data_.at(x, axis_);
    lensLine_->setVisible(reading.has_value());
    if (reading) {
        lens_ = x;
        lensLine_->start->setTypeY(QCPItemPosition::ptAxisRectRatio);
        lensLine_->end->setTypeY(QCPItemPosition::ptAxisRectRatio);
        lensLine_->start->setCoords(x, 0.0);
        lensLine_->end->setCoords(x, phaseTop());
        QString words =
            tr("%1: %2 W").arg(onScreen(showDuration(reading->time)), onScreen(showNumber(reading->watts, 4)));
        if (!std::isnan(reading->volts))
            words +=
                tr(", %1 V, %2 A").arg(onScreen(showNumber(reading->volts, 5)), onScreen(showNumber(reading->amps, 4)));
        words += tr(", %1 Wh so far").arg(onScreen(showNumber(reading->wattHours, 4)));
        if (finding_) {
            for (const trace::Phase& p : finding_->phases) {
                if (reading->time >= p.from && reading->time < p.to)
                    words += QStringLiteral(", ") + qs(trace::phaseName(p.kind));
            }
        }
        lensWords_->setText(words);
        lensWords_->setAccessibleName(words);
    }
    plot_->replot(QCustomPlot::rpQueuedReplot);
}

void TraceCurve::keyPressEvent(QKeyEvent* event) {
    const bool shift = event->modifiers().testFlag(Qt::ShiftModifier);
    const double step = plot_->xAxis->range().size() / 100.0;
    switch (event->key()) {
    case Qt::Key_X: setAxis(static_cast<Axis>((static_cast<int>(axis_) + 1) % 3)); break;
    case Qt::Key_Y: setQuantity(static_cast<Quantity>((static_cast<int>(quantity_) + 1) % 4)); break;
    case Qt::Key_Plus:
    case Qt::Key_Equal: zoom(0.6); break;
    case Qt::Key_Minus: zoom(1.0 / 0.6); break;
    case Qt::Key_0: showAll(); break;
    case Qt::Key_Left: shift ? pan(-0.2) : moveLens(std::max(data_.firstX(axis_), lens_ - step)); break;
    case Qt::Key_Right: shift ? pan(0.2) : moveLens(std::min(data_.lastX(axis_), lens_ + step)); break;
    default:
        for (const StampKind& kind : stampKinds()) {
            if (event->key() == kind.key && event->modifiers() == Qt::NoModifier) {
                Q_EMIT stampWanted(kind.what);
                return;
            }
        }
        QWidget::keyPressEvent(event);
    }
}

double TraceCurve::lensTime() {
    const auto reading = data_.at(lens_, axis_);
    return reading ? reading->time : 0.0;
}

} // namespace otterstone::app
