// Chargers down, cables across: in each cell a bar of what came in, inside the hollow bar of what was to be expected.
#include <algorithm>

#include "app/behaviour/pictures.h"
#include "app/behaviour/sketch.h"
#include "core/kinds/matrix/matrix.h"
#include "core/quantity/format.h"

namespace otterstone::app {

void paintMatrix(QPainter& painter, const QRectF& area, const records::Sheet& sheet, const setup::Facts& facts) {
    const Sketch s(painter, area);
    const auto f = kinds::matrix(sheet, facts);
    if (f.chargers.empty() || f.cables.empty())
        return;
    double most = 1.0;
    for (const kinds::MatrixCell& c : f.cells)
        most = std::max({most, *c.watts, c.predicted ? c.predicted->best.watts().value : 0.0});
    const double left = area.left() + 150.0, top = area.top() + 26.0;
    const double w = (area.right() - left - 8.0) / static_cast<double>(f.cables.size()),
                 h = (area.bottom() - top) / static_cast<double>(f.chargers.size());
    for (std::size_t k = 0; k < f.cables.size(); ++k)
        s.text({left + w * static_cast<double>(k) + 8.0, area.top() + 16.0}, qs(f.cables[k]), theme().faint, 0.95);
    for (std::size_t j = 0; j < f.chargers.size(); ++j) {
        const double y = top + h * static_cast<double>(j);
        s.line({area.left(), y}, {area.right(), y}, theme().line);
        s.text({area.left() + 4.0, y + h / 2.0 + 5.0}, qs(f.chargers[j]), theme().ink, 1.0, true);
        for (std::size_t k = 0; k < f.cables.size(); ++k) {
            // Several ports or a computer on and off: thin bars above one another.
            std::vector<const kinds::MatrixCell*> here;
            for (const kinds::MatrixCell& c : f.cells) {
                if (c.charger == f.chargers[j] && c.cable == f.cables[k])
                    here.push_back(&c);
            }
            const QRectF cell(left + w * static_cast<double>(k) + 8.0, y + 4.0, w - 20.0, h - 8.0);
            if (here.empty()) {
                s.unknown(cell.adjusted(0, cell.height() * 0.3, 0, -cell.height() * 0.3));
                continue;
            }
            const double each = cell.height() / static_cast<double>(here.size());
            for (std::size_t i = 0; i < here.size(); ++i) {
                const kinds::MatrixCell& c = *here[i];
                const double bar = std::min(14.0, each * 0.4),
                             at = cell.top() + each * static_cast<double>(i) + each - bar - 3.0;
                const Scale x{most, cell.left(), cell.right()};
                s.p.fillRect(QRectF(cell.left(), at, std::max(2.0, x(*c.watts) - cell.left()), bar),
                             c.why.empty() ? theme().in : s.pale(theme().in, 150));
                if (c.predicted) {
                    s.p.setPen(QPen(theme().ink, 1, Qt::DotLine));
                    s.p.setBrush(Qt::NoBrush);
                    s.p.drawRect(
                        QRectF(cell.left(), at - 1.5, x(c.predicted->best.watts().value) - cell.left(), bar + 3.0));
                }
                QString words =
                    c.volts ? QStringLiteral("%1 V  %2 W").arg(qs(showNumber(*c.volts, 3)), qs(showNumber(*c.watts, 3)))
                            : QStringLiteral("%1 W").arg(qs(showNumber(*c.watts, 3)));
                if (f.ports.size() > 1)
                    words += QStringLiteral(" · ") + qs(c.port);
                if (!c.computer.empty())
                    words += QObject::tr(" · computer %1").arg(qs(c.computer));
                s.text({cell.left(), at - 5.0}, words, c.why.empty() ? theme().ink : theme().warn, 0.95, &c == f.best);
                if (&c == f.best || &c == f.affordable)
                    s.text({cell.right(), at - 5.0}, &c == f.best ? QObject::tr("most") : QObject::tr("for less"),
                           theme().in, 0.9, true, Qt::AlignRight);
            }
        }
    }
}

} // namespace otterstone::app
