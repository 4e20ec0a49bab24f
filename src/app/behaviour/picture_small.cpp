// The pictures of pads, directions and cells.
#include <algorithm>

#include "app/behaviour/pictures.h"
#include "app/behaviour/sketch.h"
#include "core/kinds/cells/cells.h"
#include "core/kinds/directions/directions.h"
#include "core/kinds/pad/pad.h"
#include "core/quantity/format.h"

namespace otterstone::app {

// What the device gained over what the bank gave, by pad and by wire: the steeper, the better.
void paintPad(QPainter& painter, const QRectF& area, const records::Sheet& sheet, const setup::Facts& facts) {
    const Sketch s(painter, area);
    const auto f = kinds::pad(sheet, facts);
    const QRectF plot(area.left() + 60.0, area.top() + 14.0, area.width() * 0.52, area.height() - 56.0);
    const auto spent = [](const kinds::Way& w, const kinds::PadReading& r) {
        return w.readings.front().bank && r.bank ? *w.readings.front().bank - *r.bank : 0.0;
    };
    const auto gained = [](const kinds::Way& w, const kinds::PadReading& r) {
        return w.readings.front().device && r.device ? *r.device - *w.readings.front().device : 0.0;
    };
    double across = 1.0, up = 1.0;
    for (const kinds::Way* w : {&f.pad, &f.wire}) {
        for (const kinds::PadReading& r : w->readings) {
            across = std::max(across, spent(*w, r));
            up = std::max(up, gained(*w, r));
        }
    }
    s.line(plot.bottomLeft(), plot.bottomRight());
    s.line(plot.bottomLeft(), plot.topLeft());
    s.text({plot.center().x(), plot.bottom() + 34.0},
           QObject::tr("points out of the bank: %1").arg(qs(showNumber(across, 3))), theme().faint, 0.95, false,
           Qt::AlignHCenter);
    s.text({plot.left() + 6.0, plot.top() + 8.0}, QObject::tr("points into the device: %1").arg(qs(showNumber(up, 3))),
           theme().faint, 0.95);
    for (const auto& [w, colour, style, name] : {std::tuple(&f.pad, theme().out, Qt::SolidLine, QObject::tr("pad")),
                                                 {&f.wire, theme().in, Qt::DashLine, QObject::tr("wire")}}) {
        if (w->readings.empty())
            continue;
        QPolygonF line;
        for (const kinds::PadReading& r : w->readings)
            line << QPointF(plot.left() + spent(*w, r) / across * plot.width(),
                            plot.bottom() - gained(*w, r) / up * (plot.height() - 24.0));
        s.p.setPen(QPen(colour, 2.4, style));
        s.p.setBrush(Qt::NoBrush);
        s.p.drawPolyline(line);
        s.text(line.back() + QPointF(8.0, 4.0), name, colour, 1.1, true);
    }
    // Watts as it warms, reading by reading.
    const QRectF warm(plot.right() + 90.0, plot.top(), area.right() - plot.right() - 120.0, plot.height());
    std::vector<const kinds::PadReading*> both;
    double most = 0.1;
    for (const kinds::PadReading& r : f.pad.readings) {
        if (!r.celsius || !r.watts)
            continue;
        both.push_back(&r);
        most = std::max(most, *r.watts);
    }
    if (both.size() < 2)
        return;
    s.line(warm.bottomLeft(), warm.bottomRight());
    s.text({warm.left(), warm.top() + 8.0}, QObject::tr("watts on the pad, as it warms"), theme().faint, 0.95);
    for (std::size_t k = 0; k < both.size(); ++k) {
        const double x = warm.left() + (static_cast<double>(k) + 0.5) / static_cast<double>(both.size()) * warm.width();
        const double y = warm.bottom() - *both[k]->watts / most * (warm.height() - 44.0);
        s.line({x, warm.bottom()}, {x, y}, theme().out, 8.0);
        s.text({x, y - 6.0}, QStringLiteral("%1 W").arg(qs(showNumber(*both[k]->watts, 2))), theme().ink, 0.9, false,
               Qt::AlignHCenter);
        s.text({x, warm.bottom() + 16.0}, QStringLiteral("%1 °C").arg(qs(showNumber(*both[k]->celsius, 3))),
               theme().faint, 0.9, false, Qt::AlignHCenter);
    }
}

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
               qs(j.how) + (j.watts ? QStringLiteral(" · %1 W").arg(qs(showNumber(*j.watts, 3))) : QString()),
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
               QStringLiteral("%1 W").arg(qs(showNumber(*f.inputWatts, 3))), theme().ink, 1.0, true);
    }
    s.text({area.left() + 8.0, bottom + thick / 2.0 + 5.0}, QObject::tr("into the cells"), theme().ink, 1.05, true);
    double sum = 0.0;
    for (const kinds::Cell& c : f.cells) {
        const QRectF part(QPointF(x(sum), bottom), QPointF(x(sum + c.watts()) - 2.0, bottom + thick));
        s.p.fillRect(part, s.pale(theme().in, 170));
        s.text({part.center().x(), part.center().y() + 5.0}, qs(c.name), theme().ink, 1.0, true, Qt::AlignHCenter);
        s.text({part.center().x(), part.bottom() + 18.0},
               QStringLiteral("%1 V  %2 W").arg(qs(showNumber(c.volts, 4)), qs(showNumber(c.watts(), 3))),
               theme().faint, 0.9, false, Qt::AlignHCenter);
        sum += c.watts();
    }
    if (f.inputWatts && *f.inputWatts > sum)
        s.p.fillRect(QRectF(QPointF(x(sum), bottom), QPointF(x(*f.inputWatts), bottom + thick)),
                     hatching(theme().loss, true));
}

} // namespace otterstone::app
