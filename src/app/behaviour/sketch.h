// What the pictures of behaviour share: the house's colours and fonts on a rectangle, and bands as wide as watts.
#pragma once

#include <QPainter>

#include "app/theme.h"

namespace otterstone::app {

class Sketch {
public:
    Sketch(QPainter& painter, const QRectF& where) : p(painter), area(where) {
        p.setRenderHint(QPainter::Antialiasing);
    }

    void text(const QPointF& at, const QString& words, const QColor& colour = theme().ink, double scale = 1.0,
              bool bold = false, Qt::Alignment align = Qt::AlignLeft) const;
    /// Width of words in pixels.
    [[nodiscard]] double width(const QString& words, double scale = 1.0, bool bold = false) const;
    [[nodiscard]] double height(double scale = 1.0) const;
    void line(const QPointF& from, const QPointF& to, const QColor& colour = theme().line, double width = 1.0,
              Qt::PenStyle style = Qt::SolidLine) const;
    /// A band from left to right whose thickness goes from one width to another; what is lost peels off hatched below.
    void band(double left, double right, double middle, double before, double after, const QColor& colour) const;
    /// The unknown: hatched, never a plain colour.
    void unknown(const QRectF& rect) const;
    [[nodiscard]] QColor pale(const QColor& colour, int alpha = 70) const;

    QPainter& p;
    const QRectF area;
};

/// An axis of amounts: maps 0 … most onto from … to.
struct Scale {
    double most, from, to;
    [[nodiscard]] double operator()(double v) const { return from + (most > 0.0 ? v / most : 0.0) * (to - from); }
};

} // namespace otterstone::app
