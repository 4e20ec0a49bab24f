// The shape of a loss leaving the band of the energy path: shared by the ribbon and the start page.
#pragma once

#include <QPainter>
#include <QPainterPath>

#include "app/theme.h"

namespace otterstone::app {

/// The strip between `upper` and `lower` (the band's lower edge after and before the loss) runs on from `left` to
/// `bend`, then curves down to `depth`, keeping its thickness.
inline void paintPeel(QPainter& p, double left, double bend, double drop, double upper, double lower, double depth) {
    const double thick = lower - upper;
    const double outer = bend + drop + thick / 2.0;
    const double inner = outer - thick;
    QPainterPath peel;
    peel.moveTo(left, upper);
    peel.lineTo(bend, upper);
    peel.cubicTo(bend + drop * 0.75, upper, outer, upper + (depth - upper) * 0.25, outer, depth);
    peel.lineTo(inner, depth);
    peel.cubicTo(inner, lower + (depth - lower) * 0.3, inner - drop * 0.3, lower, bend - drop * 0.3, lower);
    peel.lineTo(left, lower);
    peel.closeSubpath();
    p.fillPath(peel, theme().paper);
    p.fillPath(peel, hatching(theme().loss, true));
    p.strokePath(peel, QPen(theme().loss, 1));
}

} // namespace otterstone::app
