#include "app/behaviour/sketch.h"

#include <QFontMetricsF>

#include "app/widgets/peel.h"

namespace otterstone::app {

void Sketch::text(const QPointF& at, const QString& words, const QColor& colour, double scale, bool bold,
                  Qt::Alignment align) const {
    p.setFont(app::font(scale, bold ? QFont::DemiBold : QFont::Normal));
    p.setPen(colour);
    const double w = QFontMetricsF(p.font()).horizontalAdvance(words);
    const double x = align & Qt::AlignRight ? at.x() - w : align & Qt::AlignHCenter ? at.x() - w / 2.0 : at.x();
    p.drawText(QPointF(x, at.y()), words);
}

double Sketch::width(const QString& words, double scale, bool bold) const {
    return QFontMetricsF(app::font(scale, bold ? QFont::DemiBold : QFont::Normal)).horizontalAdvance(words);
}

double Sketch::height(double scale) const { return QFontMetricsF(app::font(scale)).height(); }

void Sketch::line(const QPointF& from, const QPointF& to, const QColor& colour, double width,
                  Qt::PenStyle style) const {
    p.setPen(QPen(colour, width, style));
    p.drawLine(from, to);
}

void Sketch::band(double left, double right, double middle, double before, double after, const QColor& colour) const {
    const double bend = left + (right - left) * 0.42;
    const double top = middle - before / 2.0;
    p.fillRect(QRectF(left, top, right - left, after), colour);
    if (before > after + 0.5)
        paintPeel(p, left, bend, 14.0, top + after, top + before, top + before + 14.0);
}

void Sketch::unknown(const QRectF& rect) const {
    p.fillRect(rect, hatching(theme().loss, false));
    p.setPen(QPen(theme().line, 1, Qt::DashLine));
    p.setBrush(Qt::NoBrush);
    p.drawRect(rect);
}

QColor Sketch::pale(const QColor& colour, int alpha) const {
    QColor c = colour;
    c.setAlpha(alpha);
    return c;
}

} // namespace otterstone::app
