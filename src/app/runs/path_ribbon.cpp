#include "app/runs/path_ribbon.h"

#include <algorithm>
#include <cmath>

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <utility>

#include "app/theme.h"
#include "app/widgets/peel.h"

namespace otterstone::app {

namespace {

constexpr double kBandTop = 46.0;  // room for the notches' words
constexpr double kThickest = 62.0; // of the band
constexpr double kThinnest = 3.0;
constexpr double kSide = 2.0;
constexpr double kNarrow = 44.0; // of a stretch that has no piece

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
    notch_ = 0;
    for (int k = 0; k < static_cast<int>(ribbon_.notches.size()); ++k) {
        const path::Point at = ribbon_.notches[static_cast<std::size_t>(k)].at;
        if (at == path::Point::BankOut || at == path::Point::BankIn)
            notch_ = k; // the port, where a bank is judged
    }
    setAccessibleDescription(ribbon_.inWords());
    update();
}

void PathRibbon::clear() { show({}, false); }

double PathRibbon::thickness(std::optional<double> wattHours) const {
    double most = std::max(1e-9, ribbon_.fullWidth);
    for (const RibbonStretch& s : ribbon_.stretches)
        most = std::max({most, s.wattHoursIn.value_or(0.0), s.wattHoursOut.value_or(0.0)});
    return wattHours ? std::max(kThinnest, *wattHours / most * kThickest) : 0.0;
}

QRectF PathRibbon::stretchRect(int index) const {
    double narrow = 0.0, full = 0.0;
    for (const RibbonStretch& s : ribbon_.stretches)
        (s.absent ? narrow : full) += 1.0;
    const double w = (width() - 2 * kSide - narrow * kNarrow) / std::max(1.0, full);
    double x = kSide;
    for (int k = 0; k < index && k < static_cast<int>(ribbon_.stretches.size()); ++k)
        x += ribbon_.stretches[static_cast<std::size_t>(k)].absent ? kNarrow : w;
    const bool absent =
        index < static_cast<int>(ribbon_.stretches.size()) && ribbon_.stretches[static_cast<std::size_t>(index)].absent;
    return {x, kBandTop, absent ? kNarrow : w, height() - kBandTop};
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
        band.moveTo(r.left(), kBandTop);
        band.lineTo(r.right(), kBandTop);
        band.lineTo(r.right(), kBandTop + out);
        band.lineTo(r.left(), kBandTop + out);
        band.closeSubpath();
        p.fillPath(band, colour);
        if (ribbon_.drift) {
            // Ticks that move with the energy: one passes for each share of a watt-hour, and they stand still when
            // nothing flows.
            constexpr double kTickGap = 34.0;
            p.setPen(QPen(t.paper, 1.2));
            const double from = std::fmod(*ribbon_.drift, 1.0) * kTickGap;
            for (double x = from; x < width(); x += kTickGap) {
                if (x >= r.left() && x < r.right() && std::min(in, out) > 6.0)
                    p.drawLine(QPointF(x, kBandTop + 3), QPointF(x + 3, kBandTop + std::min(in, out) - 3));
            }
        }
    } else {
        // Unknown on one side: the known width goes on, hatched, and fades out at the unknown end.
        const double known = s.wattHoursIn ? in : out;
        p.fillRect(QRectF(r.left(), kBandTop, r.width(), known), hatching(colour, false));
        p.setPen(QPen(colour, 1, Qt::DashLine));
        p.drawLine(QPointF(r.left(), kBandTop), QPointF(r.right(), kBandTop));
        p.drawLine(QPointF(r.left(), kBandTop + known), QPointF(r.right(), kBandTop + known));
    }
    if (s.lossWattHours && in > out) {
        paintPeel(p, r.left(), bend, drop, kBandTop + out, kBandTop + in, kBandTop + std::max(kThickest, in) + 26);
    }

    // The names below, on one line for all stretches; the loss's words right above its stretch's name.
    const double base = kBandTop + kThickest + 40;
    p.setFont(app::font(0.86));
    p.setPen(t.faint);
    if (!s.loss.isEmpty())
        p.drawText(QRectF(r.left() + 6, base - 10, r.width() - 12, 16), Qt::AlignLeft | Qt::AlignVCenter,
                   p.fontMetrics().elidedText(s.loss, Qt::ElideRight, static_cast<int>(r.width()) - 12));
    const QString kind =
        s.kind + (!s.absent && (!s.wattHoursIn || !s.wattHoursOut) ? tr(", beyond: not read") : QString());
    p.drawText(QRectF(r.left() + 6, base + 6, r.width() - 12, 16), Qt::AlignLeft | Qt::AlignVCenter,
               p.fontMetrics().elidedText(kind, Qt::ElideRight, static_cast<int>(r.width()) - 12));
    p.setFont(app::font(1.0, QFont::DemiBold));
    p.setPen(t.ink);
    p.drawText(QRectF(r.left() + 6, base + 21, r.width() - 12, 18), Qt::AlignLeft | Qt::AlignVCenter,
               p.fontMetrics().elidedText(s.name, Qt::ElideRight, static_cast<int>(r.width()) - 12));
    p.setPen(QPen(t.line, 1));
    if (index > 0)
        p.drawLine(QPointF(r.left(), base + 8), QPointF(r.left(), base + 38));
    const bool here = index == current_ && hasFocus() && !onNotches_;
    if (here || index == hovered_) {
        p.setPen(QPen(t.focus, here ? 2 : 1));
        p.setBrush(Qt::NoBrush);
        p.drawRoundedRect(QRectF(r.left() + 2, base + 4, r.width() - 4, 38), 3, 3);
    }
}

double PathRibbon::notchX(const RibbonNotch& notch) const {
    return std::max(stretchRect(notch.before).left(), kSide + 7.0);
}

void PathRibbon::paintNotch(QPainter& p, const RibbonNotch& notch) const {
    const Theme& t = theme();
    const double x = notchX(notch);
    double depth = kBandTop + kThinnest;
    if (notch.before < static_cast<int>(ribbon_.stretches.size()))
        depth = kBandTop + thickness(ribbon_.stretches[static_cast<std::size_t>(notch.before)].wattHoursIn);
    const auto index = static_cast<int>(&notch - ribbon_.notches.data());
    const bool figures = index == notch_;
    // A wedge cut into the band's upper edge: filled where something was read, open where it was only referred. The
    // figure's own is larger.
    const double half = figures ? 8.0 : 5.0;
    const QPolygonF wedge{QPointF(x - half, kBandTop - half - 3), QPointF(x + half, kBandTop - half - 3),
                          QPointF(x, kBandTop + 5)};
    p.setPen(QPen(figures ? t.focus : t.ink, figures ? 2.2 : 1.3));
    p.setBrush(notch.read ? QBrush(figures ? t.focus : t.ink) : QBrush(t.paper));
    p.drawPolygon(wedge);
    if (figures && onNotches_ && hasFocus()) {
        p.setPen(QPen(t.focus, 2));
        p.setBrush(Qt::NoBrush);
        p.drawRoundedRect(QRectF(x - 12, kBandTop - 17, 24, 26), 3, 3);
    }
    p.setPen(QPen(t.paper, 1.5, notch.read ? Qt::SolidLine : Qt::DotLine));
    p.drawLine(QPointF(x, kBandTop + 5), QPointF(x, depth));
    // Its words go as far as the next notch's.
    double room = width() - x - 14;
    for (const RibbonNotch& other : ribbon_.notches) {
        if (other.before > notch.before)
            room = std::min(room, notchX(other) - x - 16);
    }
    const QStringList lines = notch.words.split(QLatin1Char('\n'));
    const auto line = [&](double y, const QString& words) {
        p.drawText(QRectF(x + 12, y, room, 18), Qt::AlignLeft | Qt::AlignVCenter,
                   p.fontMetrics().elidedText(words, Qt::ElideRight, static_cast<int>(room)));
    };
    p.setPen(t.ink);
    p.setFont(app::font(1.0, QFont::DemiBold));
    line(0, lines.front());
    p.setFont(app::font(0.86));
    p.setPen(t.faint);
    line(17, lines.size() > 1 ? notch.point + QStringLiteral(" · ") + lines[1] : notch.point);
}

void PathRibbon::paintEvent(QPaintEvent*) {
    QPainter p(this);
    paint(p);
}

void PathRibbon::paint(QPainter& p) const {
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
    if (const int place = ribbon_.stretches[static_cast<std::size_t>(index)].place; place >= 0)
        Q_EMIT gearWanted(place);
}

void PathRibbon::moveNotch(int to, bool explain) {
    if (to < 0 || to >= static_cast<int>(ribbon_.notches.size()))
        return;
    notch_ = to;
    update();
    Q_EMIT pointChosen(ribbon_.notches[static_cast<std::size_t>(to)].at, explain);
}

void PathRibbon::sayWhere() {
    if (onNotches_ && notch_ < static_cast<int>(ribbon_.notches.size())) {
        const RibbonNotch& n = ribbon_.notches[static_cast<std::size_t>(notch_)];
        setAccessibleName(tr("Figure at the %1: %2").arg(n.point, n.words.section(QLatin1Char('\n'), 0, 0)));
    } else if (!onNotches_ && current_ < static_cast<int>(ribbon_.stretches.size())) {
        const RibbonStretch& s = ribbon_.stretches[static_cast<std::size_t>(current_)];
        setAccessibleName(tr("Path of the energy, %1 %2").arg(s.kind, s.name));
    }
    update();
}

void PathRibbon::keyPressEvent(QKeyEvent* event) {
    const int last = static_cast<int>(ribbon_.stretches.size()) - 1;
    const int step = event->key() == Qt::Key_Left ? -1 : 1;
    switch (event->key()) {
    case Qt::Key_Up: onNotches_ = !ribbon_.notches.empty(); break;
    case Qt::Key_Down: onNotches_ = false; break;
    case Qt::Key_Left:
    case Qt::Key_Right:
        if (onNotches_)
            moveNotch(notch_ + step, false);
        else
            current_ = std::clamp(current_ + step, 0, std::max(0, last));
        break;
    case Qt::Key_Space:
    case Qt::Key_Return:
    case Qt::Key_Enter: onNotches_ ? moveNotch(notch_, true) : choose(current_); break;
    default: QWidget::keyPressEvent(event); return;
    }
    sayWhere();
}

int PathRibbon::notchNear(QPointF at) const {
    int best = -1;
    double distance = 1e9;
    for (int k = 0; k < static_cast<int>(ribbon_.notches.size()); ++k) {
        const double d = std::abs(notchX(ribbon_.notches[static_cast<std::size_t>(k)]) - at.x());
        if (d < distance) {
            distance = d;
            best = k;
        }
    }
    return best;
}

void PathRibbon::mousePressEvent(QMouseEvent* event) {
    if (event->position().y() < kBandTop + 6) {
        dragging_ = true;
        onNotches_ = true;
        moveNotch(notchNear(event->position()), false);
        return;
    }
    onNotches_ = false;
    for (int k = 0; k < static_cast<int>(ribbon_.stretches.size()); ++k) {
        if (stretchRect(k).contains(event->position()))
            choose(k);
    }
}

void PathRibbon::mouseReleaseEvent(QMouseEvent*) { dragging_ = false; }

void PathRibbon::mouseMoveEvent(QMouseEvent* event) {
    if (dragging_) {
        if (const int to = notchNear(event->position()); to != notch_)
            moveNotch(to, false);
        return;
    }
    int over = -1;
    for (int k = 0; k < static_cast<int>(ribbon_.stretches.size()); ++k) {
        if (stretchRect(k).contains(event->position()) && ribbon_.stretches[static_cast<std::size_t>(k)].place >= 0)
            over = k;
    }
    setCursor(event->position().y() < kBandTop ? Qt::SizeHorCursor
              : over >= 0                      ? Qt::PointingHandCursor
                                               : Qt::ArrowCursor);
    if (std::exchange(hovered_, over) != over)
        update();
}

void PathRibbon::leaveEvent(QEvent*) {
    hovered_ = -1;
    update();
}

} // namespace otterstone::app
