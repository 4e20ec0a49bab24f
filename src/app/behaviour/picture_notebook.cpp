// The picture of a notebook: each display over the time, devices as lines, the bank as a band, a meter's watts behind
// them, what happened below.
#include <algorithm>
#include <cmath>

#include "app/behaviour/pictures.h"
#include "app/behaviour/sketch.h"
#include "app/widgets/on_screen.h"
#include "core/kinds/notebook/notebook.h"
#include "core/quantity/format.h"

namespace otterstone::app {

namespace {

// Beside each other on either ground; told apart by their dashes, too.
struct Pencil {
    QColor colour;
    Qt::PenStyle style;
};
Pencil pencilOf(std::size_t device) {
    const QColor colours[] = {theme().out, theme().in, theme().ink, theme().warn};
    const Qt::PenStyle styles[] = {Qt::SolidLine, Qt::DashLine, Qt::DotLine};
    return {colours[device % std::size(colours)], styles[device / std::size(colours) % std::size(styles)]};
}

class NotebookPicture {
public:
    NotebookPicture(QPainter& painter, const QRectF& area, const records::Sheet& sheet, const setup::Facts& facts)
        : s_(painter, area), f_(kinds::notebook(sheet, facts)),
          plot_(area.left() + 56.0, area.top() + 18.0, area.width() - 220.0, area.height() - 70.0) {
        for (const kinds::Entry& e : f_.notes.entries) {
            first_ = std::min(first_, e.at);
            last_ = std::max(last_, e.at);
        }
        if (f_.notes.entries.empty())
            first_ = last_ = 0.0;
        last_ = std::max(last_, first_ + 60.0);
    }

    void paint() {
        watts();
        axes();
        bank();
        for (std::size_t k = 0; k < f_.sittings.size(); ++k)
            sitting(f_.sittings[k]);
        names();
        events();
    }

private:
    [[nodiscard]] double x(double at) const { return plot_.left() + (at - first_) / (last_ - first_) * plot_.width(); }
    [[nodiscard]] double y(double percent) const { return plot_.bottom() - percent / 100.0 * plot_.height(); }

    void axes() const {
        for (const double percent : {0.0, 50.0, 80.0, 100.0}) {
            s_.line({plot_.left(), y(percent)}, {plot_.right(), y(percent)}, theme().line, 1.0,
                    percent == 80.0 ? Qt::DashLine : Qt::SolidLine);
            s_.text({plot_.left() - 8.0, y(percent) + 4.0}, QObject::tr("%1 %").arg(percent), theme().faint, 0.9, false,
                    Qt::AlignRight);
        }
        // About five moments that a clock would name.
        double step = 300.0;
        for (const double s :
             {600.0, 900.0, 1800.0, 3600.0, 7200.0, 10800.0, 21600.0, 43200.0, 86400.0, 604800.0, 2592000.0}) {
            if ((last_ - first_) / step > 6.0)
                step = s;
        }
        for (double at = 0.0; at <= last_ - first_ && (last_ - first_) / step < 50.0; at += step)
            s_.text({x(first_ + at), plot_.bottom() + 18.0}, at > 0.0 ? onScreen(showDuration(at)) : QObject::tr("0"),
                    theme().faint, 0.9, false, Qt::AlignHCenter);
    }

    // What was read, on a scale of its own, with the greatest named: a line where the sum joins readings, steps where
    // each stands until the next.
    void watts() const {
        const trace::Trace& read = f_.readings.trace;
        double most = 0.0;
        for (std::size_t k = 0; k < read.size(); ++k)
            most = std::max(most, read.power(k));
        if (read.size() < 2 || !(most > 0.0))
            return;
        QPolygonF line;
        for (std::size_t k = 0; k < read.size(); ++k)
            line << QPointF(x(read.time[k]), plot_.bottom() - read.power(k) / most * (plot_.height() - 16.0));
        QPolygonF area = line;
        area << QPointF(line.back().x(), plot_.bottom()) << QPointF(line.front().x(), plot_.bottom());
        const QColor colour = f_.flow == kinds::Flow::In ? theme().in : theme().out;
        s_.p.setPen(Qt::NoPen);
        s_.p.setBrush(s_.pale(colour, 40));
        s_.p.drawPolygon(area);
        s_.p.setPen(QPen(colour, 1.4));
        s_.p.setBrush(Qt::NoBrush);
        s_.p.drawPolyline(line);
        s_.text({plot_.left() + 6.0, plot_.bottom() - 6.0},
                QObject::tr("up to %1 W").arg(onScreen(showNumber(most, 3))), theme().faint, 0.9);
    }

    // LEDs say an interval: a band; a percent is a band one digit wide.
    void bank() const {
        QPolygonF upper, lower;
        for (const kinds::Entry& e : f_.notes.entries) {
            if (!e.bank)
                continue;
            const double half = e.bank->leds || e.bank->exact ? 0.0 : 1.0;
            upper << QPointF(x(e.at), y(std::min(100.0, e.bank->state.high + half)));
            lower.prepend(QPointF(x(e.at), y(std::max(0.0, e.bank->state.low - half))));
        }
        if (upper.isEmpty())
            return;
        if (upper.size() == 1) { // seen once: a stroke at its moment
            s_.line(upper.front(), lower.front() + QPointF(0.0, 2.0), theme().ink, 4.0);
            return;
        }
        s_.p.setPen(QPen(theme().faint, 1.0));
        s_.p.setBrush(s_.pale(theme().faint, 60));
        s_.p.drawPolygon(upper + lower);
    }

    void sitting(const kinds::Sitting& sitting) const {
        const Pencil pencil = pencilOf(sitting.device);
        QPolygonF line;
        for (const kinds::Look& l : sitting.looks) {
            const QPointF at(x(l.at), y(l.state.middle()));
            if (l.leds)
                s_.line({at.x(), y(l.state.low)}, {at.x(), y(l.state.high)}, s_.pale(pencil.colour, 130), 6.0);
            line << at;
        }
        s_.p.setBrush(Qt::NoBrush);
        s_.p.setPen(QPen(pencil.colour, 2.4, pencil.style));
        s_.p.drawPolyline(line);
        s_.p.setPen(Qt::NoPen);
        s_.p.setBrush(pencil.colour);
        for (const QPointF& at : line)
            s_.p.drawEllipse(at, 3.2, 3.2);
    }

    // At the right, each beside where its line ends, none over another.
    void names() const {
        struct Name {
            double y;
            QString text;
            QColor colour;
        };
        std::vector<Name> all;
        for (auto at = f_.sittings.rbegin(); at != f_.sittings.rend(); ++at) {
            const QString name = qs(f_.notes.devices[at->device].name);
            if (std::ranges::none_of(all, [&](const Name& n) { return n.text == name; }))
                all.push_back({y(at->looks.back().state.middle()), name, pencilOf(at->device).colour});
        }
        const auto lastOfBank = std::find_if(f_.notes.entries.rbegin(), f_.notes.entries.rend(),
                                             [](const auto& e) { return e.bank.has_value(); });
        if (lastOfBank != f_.notes.entries.rend())
            all.push_back({y(lastOfBank->bank->state.middle()), QObject::tr("the bank"), theme().faint});
        std::ranges::sort(all, {}, &Name::y);
        double free = plot_.top();
        for (const Name& n : all) {
            const double at = std::max(n.y, free);
            s_.text({plot_.right() + 12.0, at + 4.0}, n.text, n.colour, 1.0, true);
            free = at + s_.height();
        }
    }

    void events() const {
        double free = plot_.left();
        for (const kinds::Entry& e : f_.notes.entries) {
            QStringList words;
            for (const kinds::Happened& h : e.happened) {
                const QString word = QString::fromUtf8(kinds::kEvents[static_cast<std::size_t>(h.event)].words);
                words << (h.device ? qs(f_.notes.devices[*h.device].name) + QLatin1Char(' ') + word : word);
            }
            if (words.isEmpty())
                continue;
            s_.line({x(e.at), plot_.bottom()}, {x(e.at), plot_.bottom() + 24.0}, theme().faint);
            const double wide = s_.width(words.join(QStringLiteral(", ")), 0.9);
            const double left = std::min(x(e.at) + 4.0, s_.area.right() - wide);
            if (left < free) // no room: the stroke tells that something was
                continue;
            s_.text({left, plot_.bottom() + 38.0}, words.join(QStringLiteral(", ")), theme().ink, 0.9);
            free = left + wide + 12.0;
        }
    }

    const Sketch s_;
    const kinds::NotebookFinding f_;
    const QRectF plot_;
    double first_ = HUGE_VAL, last_ = -HUGE_VAL;
};

} // namespace

void paintNotebook(QPainter& painter, const QRectF& area, const records::Sheet& sheet, const setup::Facts& facts) {
    NotebookPicture(painter, area, sheet, facts).paint();
}

} // namespace otterstone::app
