// A block for each device or input and its state: sources down, cables across; in each cell a bar of what came, inside
// the hollow bar of what was to be expected.
#include <algorithm>
#include <functional>

#include "app/behaviour/pictures.h"
#include "app/behaviour/sketch.h"
#include "core/kinds/matrix/matrix.h"
#include "core/quantity/format.h"

namespace otterstone::app {

namespace {

using kinds::MatrixAxis;
using kinds::MatrixCell;
using kinds::MatrixFinding;
using kinds::MatrixLayer;

constexpr double kHead = 26.0;  // the cables' names
constexpr double kTitle = 26.0; // where it goes, over a block of several
constexpr double kRow = 44.0;   // of several blocks
constexpr double kOnlyRow = 58.0;
constexpr double kGap = 14.0;
constexpr std::size_t kMostAcross = 3; // cables of blocks that stand side by side

std::vector<std::string> namesIn(const MatrixLayer& l, MatrixAxis axis) {
    std::vector<std::string> names;
    for (const MatrixCell* c : l.cells) {
        const std::string& name = c->*kinds::nameOf(axis).of;
        if (std::ranges::find(names, name) == names.end())
            names.push_back(name);
    }
    return names;
}

bool sideBySide(const MatrixFinding& f) { return f.layers.size() > 1 && f.on(MatrixAxis::Cable).size() <= kMostAcross; }

double blockHeight(const MatrixFinding& f, const MatrixLayer& l) {
    const auto rows = static_cast<double>(namesIn(l, MatrixAxis::Source).size());
    return f.layers.size() == 1 ? kHead + std::clamp(rows * kOnlyRow, 120.0, 520.0) : kTitle + kHead + rows * kRow;
}

// Blocks in one column or two, filled row by row; returns the height of all.
double layOut(const MatrixFinding& f, double left, double top, double width,
              const std::function<void(const MatrixLayer&, const QRectF&)>& place) {
    const std::size_t across = sideBySide(f) ? 2 : 1;
    const double each = (width - kGap * static_cast<double>(across - 1)) / static_cast<double>(across);
    double y = top;
    for (std::size_t k = 0; k < f.layers.size(); k += across) {
        double tall = 0.0;
        for (std::size_t j = k; j < std::min(k + across, f.layers.size()); ++j) {
            const double h = blockHeight(f, f.layers[j]);
            if (place)
                place(f.layers[j], {left + (each + kGap) * static_cast<double>(j - k), y, each, h});
            tall = std::max(tall, h);
        }
        y += tall + kGap;
    }
    return y - top;
}

QString wordsOf(const MatrixCell& c) {
    QString words = !c.watts     ? QObject::tr("some")
                    : !c.flows() ? QObject::tr("nothing")
                    : c.volts
                        ? QStringLiteral("%1 V  %2 W").arg(qs(showNumber(*c.volts, 3)), qs(showNumber(*c.watts, 3)))
                        : QStringLiteral("%1 W").arg(qs(showNumber(*c.watts, 3)));
    if (c.stopped)
        words +=
            c.after ? QObject::tr(", stopped after %1").arg(qs(showDuration(*c.after, 1.0))) : QObject::tr(", stopped");
    return words;
}

class Block {
public:
    Block(const Sketch& sketch, const MatrixFinding& f, const MatrixLayer& l, const setup::Facts& facts, double most)
        : s(sketch), f_(f), l_(l), facts_(facts), most_(most) {}

    void paint(QRectF area) const {
        const auto sources = namesIn(l_, MatrixAxis::Source), cables = namesIn(l_, MatrixAxis::Cable);
        if (f_.layers.size() > 1) {
            const QString into = qs(l_.into) + (l_.state.empty() ? QString() : QStringLiteral(" · ") + qs(l_.state));
            s.text({area.left() + 4.0, area.top() + 17.0},
                   into.isEmpty() ? QObject::tr("not stated") : QObject::tr("into %1").arg(into), theme().ink, 1.05,
                   true);
            area.setTop(area.top() + kTitle);
        }
        const double left = area.left() + std::min(150.0, area.width() * 0.28), top = area.top() + kHead;
        const double w = (area.right() - left - 8.0) / static_cast<double>(cables.size()),
                     h = (area.bottom() - top) / static_cast<double>(sources.size());
        for (std::size_t k = 0; k < cables.size(); ++k)
            s.text({left + w * static_cast<double>(k) + 8.0, area.top() + 16.0}, qs(cables[k]), theme().faint, 0.95);
        for (std::size_t j = 0; j < sources.size(); ++j) {
            const double y = top + h * static_cast<double>(j);
            s.line({area.left(), y}, {area.right(), y}, theme().line);
            s.text({area.left() + 4.0, y + h / 2.0 + 5.0}, qs(sources[j]), theme().ink, 1.0, true);
            for (std::size_t k = 0; k < cables.size(); ++k)
                cell({left + w * static_cast<double>(k) + 8.0, y + 4.0, w - 20.0, h - 8.0}, sources[j], cables[k]);
        }
    }

private:
    void cell(const QRectF& area, const std::string& source, const std::string& cable) const {
        std::vector<const MatrixCell*> here; // rows that repeat stand above one another
        std::ranges::copy_if(l_.cells, std::back_inserter(here),
                             [&](const MatrixCell* c) { return c->source == source && c->cable == cable; });
        if (here.empty())
            s.unknown(area.adjusted(0, area.height() * 0.3, 0, -area.height() * 0.3));
        const double each = area.height() / static_cast<double>(std::max<std::size_t>(1, here.size()));
        for (std::size_t i = 0; i < here.size(); ++i) {
            const MatrixCell& c = *here[i];
            const double bar = std::min(14.0, each * 0.4),
                         at = area.top() + each * static_cast<double>(i) + each - bar - 3.0;
            const Scale x{most_, area.left(), area.right()};
            // Orange where it comes out of this bank.
            const QColor colour = kinds::portOf(facts_, c.source) ? theme().out : theme().in;
            if (c.flows())
                s.p.fillRect(QRectF(area.left(), at, std::max(2.0, x(c.watts.value_or(0.0)) - area.left()), bar),
                             c.why.empty() ? colour : s.pale(colour, 150));
            else
                s.line({area.left(), at}, {area.left(), at + bar}, theme().warn, 2.0);
            if (c.expected) {
                s.p.setPen(QPen(theme().ink, 1, Qt::DotLine));
                s.p.setBrush(Qt::NoBrush);
                s.p.drawRect(
                    QRectF(area.left(), at - 1.5, std::min(x(*c.expected), area.right()) - area.left(), bar + 3.0));
            }
            s.text({area.left(), at - 5.0}, wordsOf(c), c.why.empty() && c.flows() ? theme().ink : theme().warn, 0.95,
                   &c == l_.best);
            const bool tie = std::ranges::find(l_.ties, &c) != l_.ties.end();
            if (l_.cells.size() > 1 && (&c == l_.best || &c == l_.affordable || tie))
                s.text({area.right(), at - 5.0},
                       &c == l_.best         ? QObject::tr("most")
                       : &c == l_.affordable ? QObject::tr("for less")
                                             : QObject::tr("as much"),
                       colour, 0.9, true, Qt::AlignRight);
        }
    }

    const Sketch& s;
    const MatrixFinding& f_;
    const MatrixLayer& l_;
    const setup::Facts& facts_;
    double most_;
};

} // namespace

double matrixHeight(const records::Sheet& sheet, const setup::Facts& facts) {
    const auto f = kinds::matrix(sheet, facts);
    return f.layers.empty() ? 146.0 : layOut(f, 0.0, 0.0, 900.0, {});
}

void paintMatrix(QPainter& painter, const QRectF& area, const records::Sheet& sheet, const setup::Facts& facts) {
    const Sketch s(painter, area);
    const auto f = kinds::matrix(sheet, facts);
    double most = 1.0;
    for (const MatrixCell& c : f.cells)
        most = std::max({most, c.watts.value_or(0.0), std::min(c.expected.value_or(0.0), 3.0 * c.watts.value_or(0.0))});
    layOut(f, area.left(), area.top(), area.width(),
           [&](const MatrixLayer& l, const QRectF& where) { Block(s, f, l, facts, most).paint(where); });
}

} // namespace otterstone::app
