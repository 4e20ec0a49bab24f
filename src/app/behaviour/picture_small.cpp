// The pictures of directions and cells.
#include <algorithm>

#include "app/behaviour/pictures.h"
#include "app/behaviour/sketch.h"
#include "app/widgets/on_screen.h"
#include "core/kinds/cells/cells.h"
#include "core/kinds/directions/directions.h"
#include "core/quantity/format.h"

namespace otterstone::app {

void paintDirections(QPainter& painter, const QRectF& area, const records::Sheet& sheet, const setup::Facts& facts) {
    const Sketch s(painter, area);
    const auto f = kinds::directions(sheet, facts);
    const double lane = std::min(64.0, area.height() / static_cast<double>(std::max<std::size_t>(1, f.joints.size())));
    for (std::size_t k = 0; k < f.joints.size(); ++k) {
        const kinds::Joint& j = f.joints[k];
        const double y = area.top() + lane * (static_cast<double>(k) + 0.5), left = area.left() + 170.0,
                     right = area.right() - 220.0;
        s.text({left - 14.0, y + 5.0},
               qs((facts.bank.empty() ? "this bank" : facts.bank) + (j.port.empty() ? "" : " · " + j.port)),
               theme().ink, 1.05, true, Qt::AlignRight);
        s.text({right + 14.0, y + 5.0}, qs(j.other + (j.otherPort.empty() ? "" : " · " + j.otherPort)), theme().ink,
               1.05, true);
        const bool gives = j.result == kinds::Direction::Gives, nothing = j.result == kinds::Direction::Nothing;
        const QColor colour = nothing ? theme().loss : gives ? theme().out : theme().in;
        s.line({left, y}, {right, y}, colour, nothing ? 1.5 : 7.0, nothing ? Qt::DashLine : Qt::SolidLine);
        if (!nothing) {
            const double tip = gives ? right + 4.0 : left - 4.0, back = gives ? -18.0 : 18.0;
            s.p.setPen(Qt::NoPen);
            s.p.setBrush(colour);
            s.p.drawPolygon(QPolygonF{{tip, y}, {tip + back, y - 11.0}, {tip + back, y + 11.0}});
        }
        s.text({(left + right) / 2.0, y - 10.0},
               qs(j.how) + (j.watts ? QStringLiteral(" · %1 W").arg(onScreen(showNumber(*j.watts, 3))) : QString()),
               theme().faint, 0.95, false, Qt::AlignHCenter);
    }
}

void paintCells(QPainter& painter, const QRectF& area, const records::Sheet& sheet, const setup::Facts& facts) {
    const Sketch s(painter, area);
    const auto f = kinds::cells(sheet, facts);
    const double most = std::max({1.0, f.cellWatts, f.inputWatts.value_or(0.0)});
    const Scale x{most, area.left() + 120.0, area.right() - 120.0};
    const double top = area.top() + area.height() * 0.2, bottom = area.top() + area.height() * 0.62,
                 thick = std::min(44.0, area.height() * 0.2);
    if (f.inputWatts) {
        s.text({area.left() + 8.0, top + thick / 2.0 + 5.0}, QObject::tr("comes in"), theme().ink, 1.05, true);
        s.p.fillRect(QRectF(x(0.0), top, x(*f.inputWatts) - x(0.0), thick), theme().in);
        s.text({x(*f.inputWatts) + 8.0, top + thick / 2.0 + 5.0},
               QStringLiteral("%1 W").arg(onScreen(showNumber(*f.inputWatts, 3))), theme().ink, 1.0, true);
    }
    s.text({area.left() + 8.0, bottom + thick / 2.0 + 5.0}, QObject::tr("into the cells"), theme().ink, 1.05, true);
    double sum = 0.0;
    for (const kinds::Cell& c : f.cells) {
        const QRectF part(QPointF(x(sum), bottom), QPointF(x(sum + c.watts()) - 2.0, bottom + thick));
        s.p.fillRect(part, s.pale(theme().in, 170));
        s.text({part.center().x(), part.center().y() + 5.0}, qs(c.name), theme().ink, 1.0, true, Qt::AlignHCenter);
        s.text({part.center().x(), part.bottom() + 18.0},
               QStringLiteral("%1 V  %2 W").arg(onScreen(showNumber(c.volts, 4)), onScreen(showNumber(c.watts(), 3))),
               theme().faint, 0.9, false, Qt::AlignHCenter);
        sum += c.watts();
    }
    if (f.inputWatts && *f.inputWatts > sum)
        s.p.fillRect(QRectF(QPointF(x(sum), bottom), QPointF(x(*f.inputWatts), bottom + thick)),
                     hatching(theme().loss, true));
}

} // namespace otterstone::app
