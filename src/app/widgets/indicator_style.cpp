#include "app/widgets/indicator_style.h"

#include <QPainter>
#include <QStyleOption>

#include "app/theme.h"

namespace otterstone::app {

IndicatorStyle::IndicatorStyle() : QProxyStyle(QStringLiteral("Fusion")) {}

void IndicatorStyle::drawPrimitive(PrimitiveElement element, const QStyleOption* option, QPainter* painter,
                                   const QWidget* widget) const {
    const bool box = element == PE_IndicatorCheckBox;
    if (!box && element != PE_IndicatorRadioButton) {
        QProxyStyle::drawPrimitive(element, option, painter, widget);
        return;
    }
    const bool able = option->state & State_Enabled;
    const bool near = option->state & (State_MouseOver | State_HasFocus);
    const QColor line = !able ? theme().line : near ? theme().focus : theme().faint;
    const QColor mark = able ? theme().focus : theme().faint;
    QRectF r(option->rect);
    const double side = std::min(r.width(), r.height());
    r = QRectF(r.center() - QPointF(side, side) / 2.0, QSizeF(side, side)).adjusted(0.5, 0.5, -0.5, -0.5);
    painter->save();
    painter->setRenderHint(QPainter::Antialiasing);
    painter->setPen(QPen(line, 1.0));
    painter->setBrush(theme().sheet);
    box ? painter->drawRoundedRect(r, 2.0, 2.0) : painter->drawEllipse(r);
    const auto at = [&r](double x, double y) { return r.topLeft() + QPointF(x * r.width(), y * r.height()); };
    if (option->state & State_NoChange) {
        painter->setPen(QPen(mark, 2.0));
        painter->drawLine(at(0.25, 0.5), at(0.75, 0.5));
    } else if ((option->state & State_On) && box) {
        painter->setPen(QPen(mark, 2.0, Qt::SolidLine, Qt::RoundCap, Qt::RoundJoin));
        painter->setBrush(Qt::NoBrush);
        painter->drawPolyline(QPolygonF({at(0.24, 0.52), at(0.43, 0.72), at(0.77, 0.28)}));
    } else if (option->state & State_On) {
        painter->setPen(Qt::NoPen);
        painter->setBrush(mark);
        painter->drawEllipse(r.center(), 0.28 * r.width(), 0.28 * r.height());
    }
    painter->restore();
}

} // namespace otterstone::app
