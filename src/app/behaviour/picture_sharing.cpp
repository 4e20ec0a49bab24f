// Each round a block: every port a band, as wide as its watts alone on the left and together on the right; what it
// loses peels off.
#include <algorithm>

#include "app/behaviour/pictures.h"
#include "app/behaviour/sketch.h"
#include "app/widgets/on_screen.h"
#include "core/kinds/sharing/sharing.h"
#include "core/quantity/format.h"

namespace otterstone::app {

namespace {

QString flowOrNotTried(const std::optional<double>& volts, const std::optional<double>& watts) {
    return volts && watts
               ? QStringLiteral("%1 V  %2 W").arg(onScreen(showNumber(*volts, 3)), onScreen(showNumber(*watts, 3)))
               : QObject::tr("not tried");
}

} // namespace

void paintSharing(QPainter& painter, const QRectF& area, const records::Sheet& sheet, const setup::Facts& facts) {
    const Sketch s(painter, area);
    const auto f = kinds::sharing(sheet, facts);
    if (f.rounds.empty())
        return;
    double most = 1.0;
    for (const kinds::Round& r : f.rounds) {
        for (const kinds::SharedPort& p : r.ports)
            most = std::max({most, p.aloneWatts.value_or(0.0), p.togetherWatts.value_or(0.0)});
    }
    const auto across = f.rounds.size() > 1 ? 2 : 1;
    const auto down = (static_cast<int>(f.rounds.size()) + across - 1) / across;
    const double w = area.width() / across, h = area.height() / down;
    for (std::size_t k = 0; k < f.rounds.size(); ++k) {
        const kinds::Round& r = f.rounds[k];
        const int column = static_cast<int>(k) % across, line = static_cast<int>(k) / across;
        const QRectF block(area.left() + w * column, area.top() + h * line, w - 24.0, h);
        const double left = block.left() + 140.0, right = block.right() - 130.0;
        s.text({left, block.top() + 16.0}, QObject::tr("alone"), theme().faint, 0.9);
        s.text({right, block.top() + 16.0}, QObject::tr("together: %1 W").arg(onScreen(showNumber(r.togetherWatts, 3))),
               theme().faint, 0.9, false, Qt::AlignRight);
        const double lane = (block.height() - 30.0) / static_cast<double>(std::max<std::size_t>(1, r.ports.size()));
        const Scale thick{most, 0.0, std::max(10.0, lane - 34.0)};
        for (std::size_t j = 0; j < r.ports.size(); ++j) {
            const kinds::SharedPort& p = r.ports[j];
            const double middle = block.top() + 26.0 + lane * (static_cast<double>(j) + 0.42);
            if (p.aloneWatts && p.togetherWatts)
                s.band(left, right, middle, std::max(2.0, thick(std::max(*p.aloneWatts, *p.togetherWatts))),
                       std::max(1.5, thick(*p.togetherWatts)), theme().out);
            else
                s.unknown(QRectF(left, middle - 8.0, right - left, 16.0));
            s.text({block.left() + 4.0, middle - 2.0}, QStringLiteral("%1. %2").arg(j + 1).arg(qs(p.port)), theme().ink,
                   1.25, true);
            s.text({block.left() + 4.0, middle + 16.0}, flowOrNotTried(p.aloneVolts, p.aloneWatts), theme().faint,
                   0.95);
            s.text({right + 8.0, middle - 2.0}, flowOrNotTried(p.togetherVolts, p.togetherWatts),
                   p.fellToFive() || p.starved() ? theme().warn : theme().ink, 1.0, true);
            const QString fate = p.starved()                    ? QObject::tr("went off")
                                 : p.fellToFive()               ? QObject::tr("fell to 5 V")
                                 : p.kept() && *p.kept() >= 0.9 ? QObject::tr("kept its own")
                                 : p.kept()                     ? QObject::tr("slowed")
                                                                : QString();
            s.text({right + 8.0, middle + 15.0}, fate, theme().faint, 0.9);
            if (p.promisedWatts)
                s.text({right + 8.0, middle + 30.0},
                       QObject::tr("printed: %1 W").arg(onScreen(showNumber(*p.promisedWatts, 3))), theme().faint, 0.9);
        }
    }
}

} // namespace otterstone::app
