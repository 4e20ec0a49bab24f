// Currents along a line: rings where the output went off, discs where it stayed on; hatched the stretch in which the
// limit lies.
#include <algorithm>

#include "app/behaviour/pictures.h"
#include "app/behaviour/sketch.h"
#include "app/widgets/on_screen.h"
#include "core/kinds/light_load/light_load.h"
#include "core/quantity/format.h"

namespace otterstone::app {

namespace {

void lane(const Sketch& s, const kinds::LightLadder& l, const QString& title, double y, double left, double right,
          double most) {
    const Scale x{most, left, right};
    s.text({s.area.left() + 8.0, y + 5.0}, title, theme().ink, 1.0, true);
    s.line({left, y}, {right, y}, theme().line, 1.2);
    if (l.offAt && l.onAt)
        s.p.fillRect(QRectF(QPointF(x(*l.offAt), y - 13.0), QPointF(x(*l.onAt), y + 13.0)),
                     hatching(theme().loss, true));
    for (const kinds::LightStep& step : l.steps) {
        s.p.setPen(QPen(theme().out, 2.0));
        s.p.setBrush(step.staysOn ? QBrush(theme().out) : QBrush(theme().paper));
        s.p.drawEllipse(QPointF(x(step.amps), y), 6.0, 6.0);
    }
    if (l.offAt)
        s.text({x(*l.offAt), y - 20.0},
               QObject::tr("off at %1 mA").arg(onScreen(showNumber(*l.offAt * 1000.0, 3))) +
                   (l.secondsToOff ? QObject::tr(", after %1").arg(onScreen(showDuration(*l.secondsToOff, 1.0)))
                                   : QString()),
               theme().warn, 0.95, true, x(*l.offAt) > left + 160.0 ? Qt::AlignRight : Qt::AlignLeft);
    if (l.onAt)
        s.text({x(*l.onAt) + 2.0, y + 28.0}, QObject::tr("on at %1 mA").arg(onScreen(showNumber(*l.onAt * 1000.0, 3))),
               theme().ink, 0.95);
}

} // namespace

void paintLightLoad(QPainter& painter, const QRectF& area, const records::Sheet& sheet, const setup::Facts& facts) {
    const Sketch s(painter, area);
    const auto f = kinds::lightLoad(sheet, facts);
    double most = 0.01;
    for (const kinds::LightLadder* l : {&f.plain, &f.lowMode}) {
        for (const kinds::LightStep& step : l->steps)
            most = std::max(most, step.amps);
    }
    const double left = area.left() + 190.0, right = area.right() - 40.0;
    const bool two = !f.lowMode.steps.empty();
    if (!f.plain.steps.empty())
        lane(s, f.plain, QObject::tr("as it comes"), area.top() + area.height() * (two ? 0.26 : 0.4), left, right,
             most);
    if (two)
        lane(s, f.lowMode, QObject::tr("low-current mode"), area.top() + area.height() * 0.62, left, right, most);
    double x = area.left() + 8.0;
    for (const auto& [name, watts] : {std::pair(QObject::tr("idle bank"), f.bankWatts),
                                      {QObject::tr("idle charger"), f.chargerWatts},
                                      {QObject::tr("idle inverter"), f.inverterWatts}}) {
        if (!watts)
            continue;
        const QString words = QObject::tr("%1: %2 mW").arg(name, onScreen(showNumber(*watts * 1000.0, 3)));
        s.text({x, area.bottom() - 8.0}, words, theme().ink, 1.0);
        x += s.width(words) + 40.0;
    }
}

} // namespace otterstone::app
