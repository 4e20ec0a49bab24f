// Three corners side by side: what comes in from the left, what goes out to the right, and with both whether the cells
// gain; then the moment at which the source went.
#include <algorithm>
#include <cmath>

#include "app/behaviour/pictures.h"
#include "app/behaviour/sketch.h"
#include "app/widgets/on_screen.h"
#include "core/kinds/pass_through/pass_through.h"
#include "core/quantity/format.h"

namespace otterstone::app {

namespace {

QString flowOrNothing(const std::optional<double>& volts, const std::optional<double>& watts) {
    return volts && watts
               ? QStringLiteral("%1 V %2 W").arg(onScreen(showNumber(*volts, 3)), onScreen(showNumber(*watts, 3)))
               : QString();
}

void corner(const Sketch& s, const QRectF& box, const QString& title, const kinds::Corner& c, double most,
            const std::optional<Measured>& net) {
    s.text({box.left(), box.top() + 16.0}, title, theme().ink, 1.05, true);
    const double x = box.center().x(), y = box.top() + box.height() * 0.42;
    const Scale thick{most, 2.0, box.height() * 0.34};
    if (c.inWatts) {
        const double t = thick(*c.inWatts);
        s.p.fillRect(QRectF(box.left(), y - t / 2.0, x - box.left() - 13.0, t), theme().in);
        s.text({box.left(), y - thick(most) / 2.0 - 8.0}, flowOrNothing(c.inVolts, c.inWatts), theme().in, 0.95, true);
    }
    if (c.outWatts) {
        const double t = thick(*c.outWatts);
        if (*c.outWatts > 0.05)
            s.p.fillRect(QRectF(x + 13.0, y - t / 2.0, box.right() - x - 13.0, t), theme().out);
        s.text({box.right(), y - thick(most) / 2.0 - 8.0},
               *c.outWatts > 0.05 ? flowOrNothing(c.outVolts, c.outWatts) : QObject::tr("nothing out"),
               *c.outWatts > 0.05 ? theme().out : theme().warn, 0.95, true, Qt::AlignRight);
    }
    const QRectF cells(x - 13.0, y - box.height() * 0.22, 26.0, box.height() * 0.5);
    s.p.setPen(QPen(theme().ink, 1.6));
    s.p.setBrush(theme().sheet);
    s.p.drawRoundedRect(cells, 4, 4);
    if (!net)
        return;
    const double t = std::max(2.0, std::min(20.0, std::fabs(net->value()) / most * box.height() * 0.34));
    const bool gains = net->value() >= 0.0;
    s.p.fillRect(QRectF(x - t / 2.0, cells.center().y(), t, cells.bottom() - cells.center().y() - 3.0),
                 gains ? theme().in : theme().out);
    s.text(
        {x, cells.bottom() + 18.0},
        QObject::tr("cells: %1%2 W")
            .arg(gains ? QStringLiteral("+") : QStringLiteral("−"), onScreen(showNumber(std::fabs(net->value()), 2))),
        theme().ink, 1.0, true, Qt::AlignHCenter);
}

} // namespace

void paintPassThrough(QPainter& painter, const QRectF& area, const records::Sheet& sheet, const setup::Facts& facts) {
    const Sketch s(painter, area);
    const auto f = kinds::passThrough(sheet, facts);
    double most = 1.0;
    for (const kinds::Corner* c : {&f.inAlone, &f.outAlone, &f.both})
        most = std::max({most, c->inWatts.value_or(0.0), c->outWatts.value_or(0.0)});
    const double third = area.width() / 3.0, tall = area.height() - 64.0;
    const auto box = [&](int k) { return QRectF(area.left() + third * k + 12.0, area.top(), third - 36.0, tall); };
    corner(s, box(0), QObject::tr("source alone"), f.inAlone, most, {});
    corner(s, box(1), QObject::tr("load alone"), f.outAlone, most, {});
    corner(s, box(2), QObject::tr("both"), f.both, most, f.netWatts);
    // The output over time, as the source goes.
    const double y = area.bottom() - 24.0, from = area.left() + 12.0, to = area.right() - 24.0,
                 gone = from + (to - from) * 0.3;
    s.text({from, y - 18.0}, QObject::tr("output, as the source goes"), theme().faint, 0.95);
    s.line({gone, y - 12.0}, {gone, y + 12.0}, theme().ink, 1.2, Qt::DashLine);
    if (!f.dropOutSeconds && f.back.empty()) {
        s.unknown(QRectF(gone, y - 5.0, to - gone, 10.0));
        s.p.fillRect(QRectF(from, y - 5.0, gone - from, 10.0), s.pale(theme().out));
        s.text({to, y - 14.0}, QObject::tr("not tried"), theme().faint, 0.95, false, Qt::AlignRight);
        return;
    }
    s.p.fillRect(QRectF(from, y - 5.0, gone - from, 10.0), theme().out);
    const bool stays = f.dropOutSeconds && *f.dropOutSeconds <= 0.0, off = f.back == "stays off";
    const double back = stays ? gone : off ? to : gone + (to - gone) * 0.25;
    if (!off)
        s.p.fillRect(QRectF(back, y - 5.0, to - back, 10.0), theme().out);
    const QString words =
        stays ? QObject::tr("goes on without a gap")
        : off ? QObject::tr("stays off")
              : QObject::tr("out for %1, back %2")
                    .arg(f.dropOutSeconds ? onScreen(showDuration(*f.dropOutSeconds, 1.0)) : QObject::tr("a while"),
                         f.back.empty() ? QObject::tr("by itself") : qs(f.back));
    s.text({to, y - 14.0}, words, stays ? theme().ink : theme().warn, 1.0, true, Qt::AlignRight);
}

} // namespace otterstone::app
