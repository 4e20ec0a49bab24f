// Sources down and cables across; where it goes to several places or in several states, each source with its cable down
// and those across. In each cell a bar of what came, inside the hollow bar of what was to be expected.
#include <algorithm>

#include "app/behaviour/pictures.h"
#include "app/behaviour/sketch.h"
#include "app/widgets/on_screen.h"
#include "core/kinds/matrix/matrix.h"
#include "core/quantity/format.h"

namespace otterstone::app {

namespace {

using kinds::MatrixCell;
using kinds::MatrixFinding;
using kinds::MatrixLayer;

constexpr double kHead = 26.0;
constexpr double kStateHead = 16.0; // below it, the states
constexpr double kRow = 40.0;
constexpr double kOnlyRow = 58.0;

struct Heading {
    std::string first, second; ///< of a row: its source and cable; of a column: what it goes into and the state
    bool operator==(const Heading&) const = default;
};

// What stands down and across.
class Table {
public:
    explicit Table(const MatrixFinding& f) : several_(f.layers.size() > 1) {
        for (const MatrixLayer& l : f.layers) {
            for (const MatrixCell* c : l.cells) {
                remember(rows, rowOf(*c));
                remember(columns, columnOf(*c));
            }
        }
        // The cables of one source stand together.
        std::vector<Heading> sorted;
        for (const Heading& r : rows) {
            for (const Heading& same : rows) {
                if (same.first == r.first)
                    remember(sorted, same);
            }
        }
        rows = std::move(sorted);
    }
    [[nodiscard]] Heading rowOf(const MatrixCell& c) const { return {c.source, several_ ? c.cable : std::string()}; }
    [[nodiscard]] Heading columnOf(const MatrixCell& c) const {
        return several_ ? Heading{c.into, c.state} : Heading{c.cable, {}};
    }
    [[nodiscard]] double head() const {
        return kHead +
               (std::ranges::any_of(columns, [](const Heading& h) { return !h.second.empty(); }) ? kStateHead : 0.0);
    }
    std::vector<Heading> rows, columns;

private:
    static void remember(std::vector<Heading>& all, const Heading& h) {
        if (std::ranges::find(all, h) == all.end())
            all.push_back(h);
    }
    bool several_;
};

QString wordsOf(const MatrixCell& c) {
    QString words =
        !c.watts     ? QObject::tr("some")
        : !c.flows() ? QObject::tr("nothing")
        : c.volts
            ? QStringLiteral("%1 V  %2 W").arg(onScreen(showNumber(*c.volts, 3)), onScreen(showNumber(*c.watts, 3)))
            : QStringLiteral("%1 W").arg(onScreen(showNumber(*c.watts, 3)));
    if (c.stopped)
        words += c.after ? QObject::tr(", stopped after %1").arg(onScreen(showDuration(*c.after, 1.0)))
                         : QObject::tr(", stopped");
    return words;
}

class Cells {
public:
    Cells(const Sketch& sketch, const MatrixFinding& f, const setup::Facts& facts) : s_(sketch), f_(f), facts_(facts) {
        for (const MatrixCell& c : f.cells) {
            const double watts = c.watts.value_or(0.0);
            most_ = std::max({most_, watts, std::min(c.expected.value_or(0.0), 3.0 * watts)});
        }
    }

    // Rows that repeat stand above one another.
    void paint(const QRectF& area, const std::vector<const MatrixCell*>& here) const {
        if (here.empty())
            s_.unknown(area.adjusted(0, area.height() * 0.35, 0, -area.height() * 0.35));
        const double each = area.height() / static_cast<double>(std::max<std::size_t>(1, here.size()));
        for (std::size_t k = 0; k < here.size(); ++k)
            one({area.left(), area.top() + each * static_cast<double>(k), area.width(), each}, *here[k]);
    }

private:
    void one(const QRectF& area, const MatrixCell& c) const {
        const double bar = std::min(14.0, area.height() * 0.4), at = area.bottom() - bar - 3.0;
        const Scale x{most_, area.left(), area.right()};
        // Orange where it comes out of this bank, blue where it goes in; neither has to do with it otherwise.
        const QColor colour = kinds::portOf(facts_, c.source) ? theme().out
                              : c.into.empty() || kinds::portOf(facts_, c.into) || facts_.label.ports.empty()
                                  ? theme().in
                                  : theme().faint;
        if (c.flows())
            s_.p.fillRect(QRectF(area.left(), at, std::max(2.0, x(c.watts.value_or(0.0)) - area.left()), bar),
                          c.why.empty() ? colour : s_.pale(colour, 150));
        else
            s_.line({area.left(), at}, {area.left(), at + bar}, theme().warn, 2.0);
        if (c.expected) {
            s_.p.setPen(QPen(theme().ink, 1, Qt::DotLine));
            s_.p.setBrush(Qt::NoBrush);
            s_.p.drawRect(
                QRectF(area.left(), at - 1.5, std::min(x(*c.expected), area.right()) - area.left(), bar + 3.0));
        }
        const MatrixLayer& l = *std::ranges::find_if(
            f_.layers, [&](const MatrixLayer& each) { return each.into == c.into && each.state == c.state; });
        const QString words = wordsOf(c);
        s_.text({area.left(), at - 5.0}, words, c.why.empty() && c.flows() ? theme().ink : theme().warn, 0.95,
                &c == l.best);
        if (l.combinations < 2 || (&c != l.best && &c != l.affordable && std::ranges::find(l.ties, &c) == l.ties.end()))
            return;
        const QString rank = &c == l.best         ? QObject::tr("most")
                             : &c == l.affordable ? QObject::tr("for less")
                                                  : QObject::tr("as much");
        // Beside the words where there is room, else beside the bar.
        const double room = area.width() - s_.width(rank, 0.9, true) - 8.0;
        const double end = x(std::max(c.watts.value_or(0.0), c.expected.value_or(0.0))) - area.left();
        if (s_.width(words, 0.95, &c == l.best) <= room)
            s_.text({area.right(), at - 5.0}, rank, colour, 0.9, true, Qt::AlignRight);
        else if (end <= room)
            s_.text({area.right(), at + bar - 2.0}, rank, colour, 0.9, true, Qt::AlignRight);
    }

    const Sketch& s_;
    const MatrixFinding& f_;
    const setup::Facts& facts_;
    double most_ = 1.0;
};

} // namespace

double matrixHeight(const records::Sheet& sheet, const setup::Facts& facts) {
    const auto f = kinds::matrix(sheet, facts);
    const Table table(f);
    const auto rows = static_cast<double>(table.rows.size());
    return f.layers.size() > 1 ? table.head() + std::max(2.0, rows) * kRow
                               : kHead + std::clamp(rows * kOnlyRow, 120.0, 520.0);
}

void paintMatrix(QPainter& painter, const QRectF& area, const records::Sheet& sheet, const setup::Facts& facts) {
    const Sketch s(painter, area);
    const auto f = kinds::matrix(sheet, facts);
    const Table table(f);
    if (table.rows.empty())
        return;
    const Cells cells(s, f, facts);
    const bool cables = f.layers.size() > 1;
    const double left = area.left() + (cables ? 200.0 : 150.0), top = area.top() + table.head();
    const double w = (area.right() - left - 8.0) / static_cast<double>(table.columns.size()),
                 h = (area.bottom() - top) / static_cast<double>(table.rows.size());
    for (std::size_t k = 0; k < table.columns.size(); ++k) {
        const QPointF at(left + w * static_cast<double>(k) + 8.0, area.top() + 16.0);
        const Heading& column = table.columns[k];
        s.text(at, column.first.empty() ? QObject::tr("not stated") : qs(column.first),
               cables ? theme().ink : theme().faint, 0.95, cables);
        s.text({at.x(), at.y() + kStateHead}, qs(column.second), theme().faint, 0.95);
    }
    for (std::size_t j = 0; j < table.rows.size(); ++j) {
        const double y = top + h * static_cast<double>(j), middle = y + h / 2.0 + 5.0;
        const bool first = j == 0 || table.rows[j - 1].first != table.rows[j].first;
        s.line({first ? area.left() : area.left() + 106.0, y}, {area.right(), y}, theme().line);
        if (first)
            s.text({area.left() + 4.0, middle}, qs(table.rows[j].first), theme().ink, 1.0, true);
        s.text({area.left() + 110.0, middle}, qs(table.rows[j].second), theme().faint, 0.95);
        for (std::size_t k = 0; k < table.columns.size(); ++k) {
            std::vector<const MatrixCell*> here;
            for (const MatrixCell& c : f.cells) {
                if (table.rowOf(c) == table.rows[j] && table.columnOf(c) == table.columns[k])
                    here.push_back(&c);
            }
            cells.paint({left + w * static_cast<double>(k) + 8.0, y + 4.0, w - 20.0, h - 8.0}, here);
        }
    }
}

} // namespace otterstone::app
