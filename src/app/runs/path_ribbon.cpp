#include "app/runs/path_ribbon.h"

#include <algorithm>

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <utility>

#include "app/theme.h"
#include "app/widgets/peel.h"

namespace otterstone::app {

namespace {

constexpr double kTop = 46.0;       // room for the notches' words
constexpr double kThickest = 62.0;  // of the band
constexpr double kThinnest = 3.0;
constexpr double kSide = 2.0;

} // namespace

PathRibbon::PathRibbon(QWidget* parent) : QWidget(parent) {
    setFocusPolicy(Qt::StrongFocus);
    setMouseTracking(true);
    setMinimumHeight(188);
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    setAccessibleName(tr("Path of the energy"));
}

void PathRibbon::show(const Ribbon& ribbon, bool intoBank) {
    ribbon_ = ribbon;
    intoBank_ = intoBank;
    current_ = std::min(current_, static_cast<int>(ribbon_.stretches.size()) - 1);
    current_ = std::max(current_, 0);
    setAccessibleDescription(ribbon_.inWords());
    update();
}

void PathRibbon::clear() { show({}, false); }

double PathRibbon::thickness(std::optional<double> wattHours) const {
    double most = 1e-9;
    for (const RibbonStretch& s : ribbon_.stretches)
        most = std::max({most, s.wattHoursIn.value_or(0.0), s.wattHoursOut.value_or(0.0)});
    return wattHours ? std::max(kThinnest, *wattHours / most * kThickest) : 0.0;
}

QRectF PathRibbon::stretchRect(int index) const {
    const auto n = static_cast<double>(ribbon_.stretches.size());
    const double w = (width() - 2 * kSide) / n;
    return {kSide + w * index, kTop, w, height() - kTop};
}

void PathRibbon::paintStretch(QPainter& p, int index) const {
    const Theme& t = theme();
    const RibbonStretch& s = ribbon_.stretches[static_cast<std::size_t>(index)];
    const QRectF r = stretchRect(index);
    const QColor colour = intoBank_ ? t.in : t.out;
    const double in = thickness(s.wattHoursIn);
    const double out = thickness(s.wattHoursOut);
    const double bend = r.left() + r.width() * 0.42; // where a loss leaves
    const double drop = std::min(56.0, r.width() * 0.26);

    QPainterPath band;
    if (s.wattHoursIn && s.wattHoursOut) {
        band.moveTo(r.left(), kTop);
        band.lineTo(r.right(), kTop);
        band.lineTo(r.right(), kTop + out);
        band.lineTo(r.left(), kTop + out);
        band.closeSubpath();
        p.fillPath(band, colour);
    } else {
        // Unknown on one side: the known width goes on, hatched, and fades out at the unknown end.
        const double known = s.wattHoursIn ? in : out;
        p.fillRect(QRectF(r.left(), kTop, r.width(), known), hatching(colour, false));
        p.setPen(QPen(colour, 1, Qt::DashLine));
        p.drawLine(QPointF(r.left(), kTop), QPointF(r.right(), kTop));
        p.drawLine(QPointF(r.left(), kTop + known), QPointF(r.right(), kTop + known));
    }
    if (s.lossWattHours && in > out) {
        paintPeel(p, r.left(), bend, drop, kTop + out, kTop + in, kTop + std::max(kThickest, in) + 26);
    }

    // The names below, on one line for all stretches; the loss's words right above its stretch's name.
    const double base = kTop + kThickest + 40;
    p.setFont(app::font(0.86));
    p.setPen(t.faint);
    if (!s.loss.isEmpty())
        p.drawText(QRectF(r.left() + 6, base - 10, r.width() - 12, 16), Qt::AlignLeft | Qt::AlignVCenter,
                   p.fontMetrics().elidedText(s.loss, Qt::ElideRight, static_cast<int>(r.width()) - 12));
    p.drawText(QRectF(r.left() + 6, base + 6, r.width() - 12, 16), Qt::AlignLeft | Qt::AlignVCenter,
               s.kind + (!s.wattHoursIn || !s.wattHoursOut ? tr(", beyond: not read") : QString()));
    p.setFont(app::font(1.0, QFont::DemiBold));
    p.setPen(t.ink);
    p.drawText(QRectF(r.left() + 6, base + 21, r.width() - 12, 18), Qt::AlignLeft | Qt::AlignVCenter,
               p.fontMetrics().elidedText(s.name, Qt::ElideRight, static_cast<int>(r.width()) - 12));
    p.setPen(QPen(t.line, 1));
    if (index > 0)
        p.drawLine(QPointF(r.left(), base + 8), QPointF(r.left(), base + 38));
    if ((index == current_ && hasFocus()) || index == hovered_) {
        p.setPen(QPen(t.focus, index == current_ && hasFocus() ? 2 : 1));
        p.setBrush(Qt::NoBrush);
        p.drawRoundedRect(QRectF(r.left() + 2, base + 4, r.width() - 4, 38), 3, 3);
    }
}

void PathRibbon::paintNotch(QPainter& p, const RibbonNotch& notch) const {
    const Theme& t = theme();
    const double x = stretchRect(notch.before).left();
    double depth = kTop + kThinnest;
    if (notch.before < static_cast<int>(ribbon_.stretches.size()))
        depth = kTop + thickness(ribbon_.stretches[static_cast<std::size_t>(notch.before)].wattHoursIn);
    // A wedge cut into the band's upper edge: filled where something was read, open where it was only referred.
    const QPolygonF wedge{QPointF(x - 6, kTop - 9), QPointF(x + 6, kTop - 9), QPointF(x, kTop + 5)};
    p.setPen(QPen(t.ink, 1.3));
    p.setBrush(notch.read ? QBrush(t.ink) : QBrush(t.paper));
    p.drawPolygon(wedge);
    p.setPen(QPen(t.paper, 1.5, notch.read ? Qt::SolidLine : Qt::DotLine));
    p.drawLine(QPointF(x, kTop + 5), QPointF(x, depth));
    const QStringList lines = notch.words.split(QLatin1Char('\n'));
    p.setPen(t.ink);
    p.setFont(app::font(1.0, QFont::DemiBold));
    p.drawText(QRectF(x + 12, 0, 300, 18), Qt::AlignLeft | Qt::AlignVCenter, lines.front());
    p.setFont(app::font(0.86));
    p.setPen(t.faint);
    p.drawText(QRectF(x + 12, 18, 300, 16), Qt::AlignLeft | Qt::AlignVCenter,
               lines.size() > 1 ? notch.point + QStringLiteral(" · ") + lines[1] : notch.point);
}

void PathRibbon::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    for (int k = 0; k < static_cast<int>(ribbon_.stretches.size()); ++k)
        paintStretch(p, k);
    for (const RibbonNotch& n : ribbon_.notches)
        paintNotch(p, n);
}

void PathRibbon::choose(int index) {
    if (index < 0 || index >= static_cast<int>(ribbon_.stretches.size()))
        return;
    current_ = index;
    update();
    if (const auto& gear = ribbon_.stretches[static_cast<std::size_t>(index)].gear)
        Q_EMIT gearWanted(*gear);
}

void PathRibbon::keyPressEvent(QKeyEvent* event) {
    const int last = static_cast<int>(ribbon_.stretches.size()) - 1;
    switch (event->key()) {
    case Qt::Key_Left: current_ = std::max(0, current_ - 1); break;
    case Qt::Key_Right: current_ = std::min(last, current_ + 1); break;
    case Qt::Key_Space:
    case Qt::Key_Return: choose(current_); return;
    default: QWidget::keyPressEvent(event); return;
    }
    if (last >= 0)
        setAccessibleName(tr("Path of the energy, %1 %2").arg(ribbon_.stretches[static_cast<std::size_t>(current_)].kind,
                                                             ribbon_.stretches[static_cast<std::size_t>(current_)].name));
    update();
}

void PathRibbon::mousePressEvent(QMouseEvent* event) {
    for (int k = 0; k < static_cast<int>(ribbon_.stretches.size()); ++k) {
        if (stretchRect(k).contains(event->position()))
            choose(k);
    }
}

void PathRibbon::mouseMoveEvent(QMouseEvent* event) {
    int over = -1;
    for (int k = 0; k < static_cast<int>(ribbon_.stretches.size()); ++k) {
        if (stretchRect(k).contains(event->position()) && ribbon_.stretches[static_cast<std::size_t>(k)].gear)
            over = k;
    }
    setCursor(over >= 0 ? Qt::PointingHandCursor : Qt::ArrowCursor);
    if (std::exchange(hovered_, over) != over)
        update();
}

void PathRibbon::leaveEvent(QEvent*) {
    hovered_ = -1;
    update();
}

} // namespace otterstone::app
