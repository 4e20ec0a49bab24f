#include "app/runs/life_line.h"

#include <algorithm>
#include <cmath>

#include <QHelpEvent>
#include <QKeyEvent>
#include <QPainter>
#include <QToolTip>

#include "app/theme.h"
#include "app/widgets/on_screen.h"
#include "core/quantity/date.h"

namespace otterstone::app {

namespace {

constexpr double kLeft = 42.0, kRight = 8.0, kTop = 20.0, kBottom = 16.0;  // pixels around the line
constexpr double kDay = 70.0;                                              // pixels of a date, at the least
constexpr double kLongRest = 14.0;                                         // days: it is named
constexpr double kSheetWide = 0.45, kRestWide = 0.25, kLongRestWide = 1.1; // of a run

double widthOf(const life::Passage& p) { return p.silent ? kSheetWide : 1.0; }
double restWidth(const life::Passage& p) { return p.restDays && *p.restDays >= kLongRest ? kLongRestWide : kRestWide; }

QString state(const std::optional<kinds::KnownState>& s) {
    return !s ? QStringLiteral("?")
              : qs(typedState(s->state)) + (s->from == kinds::StateFrom::Taken ? QStringLiteral("*") : QString());
}

} // namespace

QString passageWords(const life::Passage& p) {
    if (p.silent)
        return qs(records::kindWords(p.kind));
    const QString course = state(p.began) + QStringLiteral(" → ") + state(p.ended);
    if (records::hasSheet(p.kind))
        return qs(records::kindWords(p.kind)) + QStringLiteral(", ") + course;
    return course + QObject::tr(", %1 Wh").arg(onScreen(showNumber(p.wattHours.value(), 3)));
}

LifeLine::LifeLine(QWidget* parent) : QWidget(parent) {
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    setFocusPolicy(Qt::StrongFocus);
    setAccessibleName(tr("Line of life"));
}

void LifeLine::show(const life::Life& life, long long current) {
    life_ = life;
    current_ = current;
    QStringList said;
    for (const life::Passage& p : life_.passages)
        said << qs(p.title) + QStringLiteral(": ") + passageWords(p);
    setAccessibleDescription(said.join(QStringLiteral("; ")));
    setVisible(life_.passages.size() > 1);
    update();
}

double LifeLine::height(double percent) const {
    const double bottom = QWidget::height() - kBottom;
    return bottom - (bottom - kTop) * percent / 100.0;
}

std::vector<LifeLine::Slot> LifeLine::places() const {
    double parts = 0.0;
    for (std::size_t k = 0; k < life_.passages.size(); ++k)
        parts += widthOf(life_.passages[k]) + (k > 0 ? restWidth(life_.passages[k]) : 0.0);
    const double unit = std::min(150.0, (width() - kLeft - kRight) / std::max(1e-9, parts));
    std::vector<Slot> all;
    double x = kLeft;
    for (std::size_t k = 0; k < life_.passages.size(); ++k) {
        if (k > 0)
            x += restWidth(life_.passages[k]) * unit;
        const double to = x + widthOf(life_.passages[k]) * unit;
        all.push_back({k, x, to});
        x = to;
    }
    return all;
}

const LifeLine::Slot* LifeLine::at(const std::vector<Slot>& all, double x) const {
    const auto nearest = std::min_element(all.begin(), all.end(), [x](const Slot& a, const Slot& b) {
        return std::fabs((a.from + a.to) / 2.0 - x) < std::fabs((b.from + b.to) / 2.0 - x);
    });
    return nearest == all.end() ? nullptr : &*nearest;
}

QRectF LifeLine::place(long long run) const {
    for (const Slot& s : places()) {
        if (life_.passages[s.passage].run == run)
            return {s.from, 0.0, s.to - s.from, static_cast<double>(QWidget::height())};
    }
    return {};
}

// Joined it goes through; a long rest says how long; else the line is broken by two strokes.
void LifeLine::paintRest(QPainter& p, const life::Passage& before, const life::Passage& after, double from, double to,
                         double& free) const {
    const Theme& t = theme();
    const double middle = (from + to) / 2.0;
    const bool named = after.restDays && *after.restDays >= kLongRest;
    if (named) {
        p.setPen(t.faint);
        p.setFont(app::font(0.78));
        const QString words = onScreen(spanWords(*after.restDays));
        const double wide = p.fontMetrics().horizontalAdvance(words) + 8.0;
        if (middle - wide / 2.0 >= free) {
            p.drawText(QRectF(middle - wide / 2.0, 0.0, wide, kTop - 4.0), Qt::AlignCenter, words);
            free = middle + wide / 2.0;
        }
    }
    const bool fell = before.ended && after.began &&
                      after.began->state.middle() <= before.ended->state.middle(); // else it was filled
    if (before.ended && after.began && (after.joined || (named && fell))) {
        p.setPen(QPen(t.faint, 1.2, after.joined ? Qt::SolidLine : Qt::DotLine));
        p.drawLine(QPointF(from, height(before.ended->state.middle())),
                   QPointF(to, height(after.began->state.middle())));
        if (after.joined)
            return;
    }
    if (before.silent || after.silent)
        return;
    p.setPen(QPen(t.faint, 1.0));
    const double y = height(0.0);
    for (const double x : {middle - 2.0, middle + 2.0})
        p.drawLine(QPointF(x - 1.5, y + 4.0), QPointF(x + 1.5, y - 4.0));
}

void LifeLine::paintRun(QPainter& p, const life::Passage& run, const Slot& slot) const {
    const Theme& t = theme();
    const double middle = (slot.from + slot.to) / 2.0;
    if (run.asks > 0) {
        p.setPen(t.warn);
        p.setFont(app::font(0.9, QFont::DemiBold));
        p.drawText(QRectF(middle - 10.0, 0.0, 20.0, kTop - 4.0), Qt::AlignCenter, QStringLiteral("?"));
    }
    if (run.silent) {
        p.setPen(Qt::NoPen);
        p.setBrush(t.ink);
        const double y = height(0.0);
        p.drawPolygon(QPolygonF({{middle, y - 4.0}, {middle + 4.0, y}, {middle, y + 4.0}, {middle - 4.0, y}}));
        return;
    }
    const QColor colour = run.fills ? t.in : t.out;
    const auto end = [&](const std::optional<kinds::KnownState>& s, double x) {
        return QPointF(x, height(s ? s->state.middle() : 50.0));
    };
    const QPointF a = end(run.began, slot.from), b = end(run.ended, slot.to);
    const bool known = run.began && run.ended;
    if (known) { // solid beneath it, as in every picture of energy
        QColor fill = colour;
        fill.setAlphaF(0.16F);
        p.setPen(Qt::NoPen);
        p.setBrush(fill);
        p.drawPolygon(QPolygonF({a, b, {b.x(), height(0.0)}, {a.x(), height(0.0)}}));
    }
    p.setPen(QPen(colour, run.run == current_ ? 3.2 : 2.0, known ? Qt::SolidLine : Qt::DotLine, Qt::FlatCap));
    p.setBrush(Qt::NoBrush);
    p.drawLine(a, b);
    const double r = slot.to - slot.from < 14.0 ? 1.8 : 2.8;
    for (const auto& [s, point] : {std::pair(&run.began, a), std::pair(&run.ended, b)}) {
        if (!*s)
            continue;
        p.setPen(QPen(colour, 1.4));
        p.setBrush((*s)->from == kinds::StateFrom::Taken ? t.paper : colour); // hollow: nobody said
        p.drawEllipse(point, r, r);
        if ((*s)->state.high - (*s)->state.low > 1.0) // LEDs: as wide as they leave it
            p.drawLine(QPointF(point.x(), height((*s)->state.low)), QPointF(point.x(), height((*s)->state.high)));
    }
    if (!known && slot.to - slot.from >= 14.0) {
        p.setPen(t.faint);
        p.setFont(app::font(0.78));
        const QPointF where = run.began ? b : run.ended ? a : QPointF(middle, height(50.0));
        p.drawText(QRectF(where.x() - 8.0, where.y() - 18.0, 16.0, 14.0), Qt::AlignCenter, QStringLiteral("?"));
    }
}

void LifeLine::paintEvent(QPaintEvent*) {
    const Theme& t = theme();
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const auto all = places();
    for (const Slot& s : all) {
        if (life_.passages[s.passage].run == current_) {
            p.setPen(QPen(hasFocus() ? t.focus : t.line, 1));
            p.setBrush(t.sheet);
            p.drawRoundedRect(QRectF(s.from - 3.0, 1.0, s.to - s.from + 6.0, QWidget::height() - 2.0), 3, 3);
        }
    }
    p.setFont(app::font(0.78));
    for (const int percent : {0, 100}) {
        p.setPen(QPen(t.line, 1, percent == 0 ? Qt::SolidLine : Qt::DotLine));
        p.drawLine(QPointF(kLeft, height(percent)), QPointF(width() - kRight, height(percent)));
        p.setPen(t.faint);
        p.drawText(QRectF(0.0, height(percent) - 8.0, kLeft - 6.0, 16.0), Qt::AlignVCenter | Qt::AlignRight,
                   percent == 0 ? tr("empty") : tr("full"));
    }
    if (life_.past.cameAt) {
        const double y = height(life_.past.cameAt->middle());
        p.setPen(Qt::NoPen);
        p.setBrush(t.ink);
        p.drawPolygon(QPolygonF({{kLeft - 9.0, y - 4.0}, {kLeft - 2.0, y}, {kLeft - 9.0, y + 4.0}}));
    }
    double named = 0.0; // pixels: up to there a rest was named
    for (std::size_t k = 0; k < all.size(); ++k) {
        if (k > 0)
            paintRest(p, life_.passages[k - 1], life_.passages[k], all[k - 1].to, all[k].from, named);
        paintRun(p, life_.passages[k], all[k]);
    }
    // The days at both ends, and between as far as there is room.
    p.setPen(t.faint);
    p.setFont(app::font(0.74));
    const double wide = std::max(kDay, p.fontMetrics().horizontalAdvance(QStringLiteral("0000-00-00")) + 6.0);
    double free = 0.0;
    for (const Slot& s : all) {
        const life::Passage& run = life_.passages[s.passage];
        const QString day = run.from ? qs(dayOf(run.startedAt)) : tr("undated");
        const double from = std::min(s.from, width() - wide);
        if (from < free)
            continue;
        p.drawText(QRectF(from, QWidget::height() - kBottom + 1.0, wide, kBottom - 2.0), Qt::AlignVCenter, day);
        free = from + wide;
        if (!run.from)
            break;
    }
}

void LifeLine::mousePressEvent(QMouseEvent* event) {
    const auto all = places();
    if (const Slot* s = at(all, event->position().x()))
        Q_EMIT runWanted(life_.passages[s->passage].run);
}

void LifeLine::keyPressEvent(QKeyEvent* event) {
    const auto& all = life_.passages;
    const auto now = std::find_if(all.begin(), all.end(), [&](const life::Passage& p) { return p.run == current_; });
    if (now == all.end())
        return QWidget::keyPressEvent(event);
    switch (event->key()) {
    case Qt::Key_Left:
        if (now != all.begin())
            Q_EMIT runWanted(std::prev(now)->run);
        return;
    case Qt::Key_Right:
        if (std::next(now) != all.end())
            Q_EMIT runWanted(std::next(now)->run);
        return;
    case Qt::Key_Home: Q_EMIT runWanted(all.front().run); return;
    case Qt::Key_End: Q_EMIT runWanted(all.back().run); return;
    default: QWidget::keyPressEvent(event);
    }
}

bool LifeLine::event(QEvent* event) {
    if (event->type() == QEvent::ToolTip) {
        const auto* help = static_cast<QHelpEvent*>(event);
        const auto all = places();
        if (const Slot* s = at(all, help->pos().x())) {
            const life::Passage& p = life_.passages[s->passage];
            QToolTip::showText(help->globalPos(),
                               QStringLiteral("%1\n%2%3")
                                   .arg(qs(p.title),
                                        p.startedAt.empty() ? QString() : qs(dayOf(p.startedAt)) + QStringLiteral(": "),
                                        passageWords(p)));
        }
        return true;
    }
    return QWidget::event(event);
}

} // namespace otterstone::app
