// Volts over amps: treads that held, the tolerance they must stay in, the line through them, and the gap in which it
// tripped.
#include <algorithm>

#include "app/behaviour/pictures.h"
#include "app/behaviour/sketch.h"
#include "app/widgets/on_screen.h"
#include "core/kinds/staircase/staircase.h"
#include "core/label/port_rules.h"
#include "core/quantity/format.h"

namespace otterstone::app {

void paintStaircase(QPainter& painter, const QRectF& area, const records::Sheet& sheet, const setup::Facts& facts) {
    const Sketch s(painter, area);
    const auto f = kinds::staircase(sheet, facts);
    if (f.stairs.empty())
        return;
    const double each = area.width() / static_cast<double>(f.stairs.size());
    for (std::size_t k = 0; k < f.stairs.size(); ++k) {
        const kinds::Stair& stair = f.stairs[k];
        const QRectF plot(area.left() + each * static_cast<double>(k) + 62.0, area.top() + 34.0, each - 90.0,
                          area.height() - 74.0);
        const auto window = label::toleranceAt(stair.port, stair.tierVolts);
        double low = window ? window->low : stair.tierVolts, high = window ? window->high : stair.tierVolts, most = 0.1;
        for (const kinds::Step& step : stair.steps) {
            most = std::max(most, step.amps);
            if (step.on) {
                low = std::min(low, step.volts);
                high = std::max(high, step.volts);
            }
        }
        most = std::max(most, stair.ratedAmps.value_or(0.0)) * 1.06;
        const double margin = std::max(0.05, 0.15 * (high - low));
        const auto x = [&](double a) { return plot.left() + a / most * plot.width(); };
        const auto y = [&](double v) {
            return plot.bottom() - (v - low + margin) / (high - low + 2.0 * margin) * plot.height();
        };
        if (window)
            s.p.fillRect(QRectF(QPointF(plot.left(), y(window->high)), QPointF(plot.right(), y(window->low))),
                         s.pale(theme().line, 90));
        for (const double v : window ? std::vector{window->low, window->high} : std::vector{stair.tierVolts})
            s.text({plot.left() - 8.0, y(v) + 4.0}, QStringLiteral("%1 V").arg(onScreen(showNumber(v, 4))),
                   theme().faint, 0.9, false, Qt::AlignRight);
        s.line(plot.bottomLeft(), plot.bottomRight(), theme().line);
        s.text({plot.left(), area.top() + 18.0},
               QStringLiteral("%1 · %2 V").arg(qs(stair.port), onScreen(showNumber(stair.tierVolts))), theme().ink, 1.2,
               true);
        if (stair.lastGood && stair.firstBad) {
            const QRectF gap(QPointF(x(*stair.lastGood), plot.top()), QPointF(x(*stair.firstBad), plot.bottom()));
            s.p.fillRect(gap, hatching(theme().warn, true));
            s.text({gap.center().x(), plot.top() - 6.0}, QObject::tr("trips here"), theme().warn, 0.95, true,
                   Qt::AlignHCenter);
        }
        if (stair.ratedAmps) {
            s.line({x(*stair.ratedAmps), plot.top() + 6.0}, {x(*stair.ratedAmps), plot.bottom()}, theme().ink, 1.2,
                   Qt::DashLine);
            s.text({x(*stair.ratedAmps) - 6.0, plot.top() + 18.0},
                   QObject::tr("printed %1 A").arg(onScreen(showNumber(*stair.ratedAmps, 3))), theme().ink, 0.95, false,
                   Qt::AlignRight);
        }
        if (stair.ohms && stair.emptyVolts)
            s.line({x(0.0), y(stair.emptyVolts->value())},
                   {x(most), y(stair.emptyVolts->value() - stair.ohms->value() * most)}, s.pale(theme().out, 150), 1.4);
        const double tread =
            stair.steps.size() > 1 ? std::max(6.0, (x(stair.steps[1].amps) - x(stair.steps[0].amps)) * 0.8) : 14.0;
        for (const kinds::Step& step : stair.steps) {
            if (step.on)
                s.line({x(step.amps) - tread / 2.0, y(step.volts)}, {x(step.amps) + tread / 2.0, y(step.volts)},
                       !window || window->holds(step.volts) ? theme().out : theme().warn, 4.0);
        }
        for (const double a : {most * 0.25, most * 0.5, most * 0.75})
            s.text({x(a), plot.bottom() + 18.0}, QStringLiteral("%1 A").arg(onScreen(showNumber(a, 2))), theme().faint,
                   0.9, false, Qt::AlignHCenter);
        if (stair.recovery)
            s.text({plot.right(), plot.bottom() + 36.0},
                   QObject::tr("comes back: %1").arg(onScreen(recoveryWords(*stair.recovery, stair.recoverySeconds))),
                   theme().ink, 1.0, false, Qt::AlignRight);
    }
}

} // namespace otterstone::app
