// How the tide is painted.
#include <algorithm>
#include <array>
#include <cmath>

#include <QPainter>
#include <QPainterPath>
#include <QScrollBar>

#include "app/plan/tide_layout.h"
#include "app/plan/tide_view.h"
#include "app/theme.h"
#include "app/widgets/on_screen.h"
#include "core/plan/campaign/day_sheet.h"
#include "core/quantity/date.h"

namespace otterstone::app {

namespace campaign = plan::campaign;
using campaign::Stretch;

namespace {

constexpr double kHour = 3600.0;
constexpr double kTickApart = 46.0;  // pixels between hours that are written
constexpr double kBand = 3.0;        // points: a state that is known less well is a band
constexpr double kLeastWords = 26.0; // pixels in which a word may stand
constexpr double kDiamond = 4.0;     // pixels, half
constexpr std::size_t kManyBanks = 12;

QColor faded(QColor colour, double alpha) {
    colour.setAlphaF(static_cast<float>(std::clamp(alpha, 0.0, 1.0)));
    return colour;
}

QColor colourOf(Stretch::What what) {
    return what == Stretch::What::Fills ? theme().in : what == Stretch::What::Drains ? theme().out : theme().faint;
}

QPolygonF diamond(const QPointF& at) {
    return QPolygonF(
        {at + QPointF(0, -kDiamond), at + QPointF(kDiamond, 0), at + QPointF(0, kDiamond), at + QPointF(-kDiamond, 0)});
}

} // namespace

void TideView::paintEvent(QPaintEvent*) {
    QPainter p(viewport());
    p.setRenderHint(QPainter::Antialiasing);
    p.fillRect(viewport()->rect(), theme().paper);
    if (!plan_)
        return;
    p.save();
    p.setClipRect(QRectF(kGutter, kHead, viewport()->width() - kGutter, viewport()->height() - kHead));
    paintTimes(p);
    paintPast(p);
    p.restore();
    p.save();
    p.setClipRect(QRectF(0, kHead, viewport()->width(), viewport()->height() - kHead));
    paintLanes(p);
    paintThreads(p);
    paintHands(p);
    p.restore();
    paintHead(p);
}

// Hours in which nobody is there lie through all lanes.
void TideView::paintTimes(QPainter& p) const {
    const Theme& t = theme();
    const double bottom = viewport()->height();
    const QColor grey = faded(t.faint, t.kind == ThemeKind::Dark ? 0.16 : 0.13);
    for (const campaign::Span& span : absent_)
        p.fillRect(QRectF(QPointF(x(span.from), kHead), QPointF(x(span.to), bottom)), grey);
    p.setPen(QPen(t.line, 1));
    const double midnight = plan_->campaign.drawn.problem.midnight;
    for (double at = midnight + std::floor((first_ - midnight) / campaign::kDay) * campaign::kDay; at < last_;
         at += campaign::kDay)
        p.drawLine(QPointF(x(at), kHead), QPointF(x(at), bottom));
}

void TideView::paintStretch(QPainter& p, std::size_t bank, const Stretch& s, double strength) const {
    const Theme& t = theme();
    const double x0 = x(s.from), x1 = x(s.to), base = levelY(bank, 0.0);
    if (x1 < kGutter || x0 > viewport()->width())
        return;
    const bool waits = s.what == Stretch::What::Waits;
    const QColor colour = colourOf(s.what);
    const QPointF low0(x0, levelY(bank, s.begin.low)), low1(x1, levelY(bank, s.end.low));
    const QPointF high0(x0, levelY(bank, s.begin.high)), high1(x1, levelY(bank, s.end.high));
    const QPolygonF under({QPointF(x0, base), low0, low1, QPointF(x1, base)});
    p.setPen(Qt::NoPen);
    if (s.what == Stretch::What::Rests) {
        p.setBrush(hatching(t.loss, false));
        p.drawPolygon(under);
    } else if (!waits) {
        p.setBrush(faded(colour, 0.30 * strength));
        p.drawPolygon(under);
    }
    // Between what it may hold and what it must: nobody knows.
    if (s.begin.high - s.begin.low > kBand || s.end.high - s.end.low > kBand) {
        p.setOpacity(waits ? 0.35 : strength);
        p.setBrush(hatching(waits ? t.faint : colour, false));
        p.drawPolygon(QPolygonF({low0, low1, high1, high0}));
        p.setOpacity(1.0);
    }
    QPen pen(waits ? t.line : faded(s.what == Stretch::What::Rests ? t.loss : colour, 0.35 + 0.65 * strength),
             waits ? 1.5 : 2.2);
    pen.setCapStyle(Qt::RoundCap);
    p.setPen(pen);
    p.drawLine((low0 + high0) / 2.0, (low1 + high1) / 2.0);
}

void TideView::paintLanes(QPainter& p) const {
    const Theme& t = theme();
    const campaign::Problem& problem = plan_->campaign.drawn.problem;
    const campaign::Schedule& schedule = plan_->told.answer.schedule;
    const auto& ends = plan_->told.sure.ends;
    for (std::size_t bank = 0; bank < tides_.size(); ++bank) {
        const double top = laneTop(bank);
        if (top > viewport()->height() || top + laneHeight_ < kHead)
            continue;
        p.setPen(QPen(t.line, 1));
        p.drawLine(QPointF(0, top + laneHeight_), QPointF(viewport()->width(), top + laneHeight_));
        p.save();
        p.setClipRect(QRectF(kGutter, kHead, viewport()->width() - kGutter, viewport()->height() - kHead),
                      Qt::IntersectClip);
        for (const Stretch& s : tides_[bank]) {
            // What lies further off fades with the doubt of its end.
            double strength = 1.0;
            if (s.placed && *s.placed < ends.size())
                strength = 0.35 + 0.65 / (1.0 + (ends[*s.placed].to - ends[*s.placed].from) / (4.0 * kHour));
            paintStretch(p, bank, s, strength);
            if (!s.placed)
                continue;
            if (*s.placed < ends.size()) { // from the tenth to the ninetieth of a hundred ends
                const double base = levelY(bank, 0.0) + 2.0;
                p.setPen(QPen(faded(t.ink, 0.38), 1.0));
                p.drawLine(QPointF(x(ends[*s.placed].from), base), QPointF(x(ends[*s.placed].to), base));
            }
            const double wide = x(s.to) - x(s.from);
            if (wide > kLeastWords) {
                p.setFont(app::font(0.78));
                p.setPen(t.ink);
                const QRectF place(x(s.from) + 8, top + 2, wide - 8, 14);
                p.drawText(
                    place, Qt::AlignLeft | Qt::AlignVCenter,
                    p.fontMetrics().elidedText(qs(plan_->campaign.drawn.jobs[schedule.placed[*s.placed].job].words),
                                               Qt::ElideRight, static_cast<int>(place.width())));
            }
        }
        p.restore();
        const QRectF name(2, top + 4, kGutter - 14, 18);
        p.setFont(app::font(0.95, QFont::DemiBold));
        p.setPen(t.ink);
        p.drawText(
            name, Qt::AlignLeft | Qt::AlignVCenter,
            p.fontMetrics().elidedText(qs(problem.banks[bank].id), Qt::ElideRight, static_cast<int>(name.width())));
        p.setFont(app::font(0.8));
        p.setPen(t.faint);
        const bool unknown = problem.banks[bank].now == campaign::State();
        p.drawText(name.translated(0, 17), Qt::AlignLeft | Qt::AlignVCenter,
                   unknown ? tr("charge not known")
                           : tr("now %1").arg(onScreen(campaign::stateTold(problem.banks[bank].now))));
    }
    if (!current_)
        return;
    p.setPen(QPen(t.focus, 1.6));
    p.setBrush(Qt::NoBrush);
    p.drawRoundedRect(placeOf(*current_), 3, 3);
    if (dragged_ && dragBy_ != 0.0) {
        p.setPen(QPen(t.focus, 1.2, Qt::DashLine));
        p.drawRoundedRect(placeOf(*current_).translated(dragBy_, 0), 3, 3);
    }
}

// What was run already, and what should have been.
void TideView::paintPast(QPainter& p) const {
    const Theme& t = theme();
    const bench::BookCampaign& c = plan_->campaign;
    const auto lane = [&](long long bank) {
        const auto at = std::find(c.drawn.banks.begin(), c.drawn.banks.end(), bank);
        return at == c.drawn.banks.end() ? std::nullopt
                                         : std::optional(static_cast<std::size_t>(at - c.drawn.banks.begin()));
    };
    for (const campaign::RunSeen& run : c.seen) {
        const auto bank = lane(run.bank);
        if (!bank || run.from >= c.begins || run.to - c.begins < first_)
            continue;
        const campaign::State began = run.began.value_or(campaign::State()), ended = run.ended.value_or(began);
        const double rises = ended.middle() - began.middle();
        const Stretch s{rises > 0.0   ? Stretch::What::Fills
                        : rises < 0.0 ? Stretch::What::Drains
                                      : Stretch::What::Stays,
                        run.from - c.begins,
                        run.to - c.begins,
                        began,
                        ended,
                        std::nullopt};
        paintStretch(p, *bank, s, 1.0);
        p.setFont(app::font(0.78));
        p.setPen(t.faint);
        const QRectF place(std::max(kGutter, x(s.from)) + 4, laneTop(*bank) + 2, x(s.to) - std::max(kGutter, x(s.from)),
                           14);
        if (place.width() > kLeastWords)
            p.drawText(place, Qt::AlignLeft | Qt::AlignVCenter,
                       p.fontMetrics().elidedText(qs(run.title), Qt::ElideRight, static_cast<int>(place.width())));
    }
    for (const campaign::Lived& l : c.lived) {
        const campaign::KeptJob& kept = c.wishes.kept.jobs[l.job];
        const auto bank = lane(kept.job.bank);
        if (!l.due || !bank)
            continue;
        const double from = x(-l.late);
        const double to = x(secondsOf(kept.to).value_or(c.begins) - c.begins);
        const QRectF place(QPointF(from, laneTop(*bank) + kOverLevel), QPointF(to, levelY(*bank, 0.0)));
        p.setPen(QPen(t.warn, 1.2, Qt::DashLine));
        p.setBrush(Qt::NoBrush);
        p.drawRoundedRect(place, 3, 3);
        p.setFont(app::font(0.78));
        const QString words = tr("late");
        p.drawText(QRectF(from + 4, place.top() + 1, std::max(place.width(), 60.0), 14),
                   Qt::AlignLeft | Qt::AlignVCenter, words);
    }
}

// Diamonds for what hands do; a stem for what is pinned; from where a job has moved since the plan was agreed on.
void TideView::paintHands(QPainter& p) const {
    const Theme& t = theme();
    const bench::BookCampaign& c = plan_->campaign;
    const campaign::Problem& problem = c.drawn.problem;
    const campaign::Schedule& schedule = plan_->told.answer.schedule;
    p.setClipRect(QRectF(kGutter - kDiamond, kHead, viewport()->width() - kGutter, viewport()->height() - kHead),
                  Qt::IntersectClip);
    for (std::size_t k = 0; k < schedule.placed.size(); ++k) {
        const campaign::Placed& placed = schedule.placed[k];
        const campaign::Job& job = problem.jobs[placed.job];
        if (!job.bank)
            continue;
        const double y = laneTop(*job.bank) + 9.0;
        p.setPen(QPen(t.ink, 1.2));
        for (const campaign::Hands& h : job.hands) {
            const campaign::Span at = h.within(job.seconds);
            const bool begins = &h == &job.hands.front();
            p.setBrush(current_ == k ? QBrush(t.focus) : QBrush(begins ? t.ink : t.paper));
            p.drawPolygon(diamond(QPointF(x(placed.from + (begins ? at.from : at.to)), y)));
        }
        if (job.pin) {
            const double at = x(placed.from);
            p.setPen(QPen(t.focus, 2.0));
            p.drawLine(QPointF(at, y + kDiamond), QPointF(at, laneTop(*job.bank) + laneHeight_ - 2.0));
        }
        const auto was = job.asNeeded ? std::nullopt : wasAt(c.drawn.jobs[placed.job].key);
        if (!was || *was < 0.0 || std::fabs(*was - placed.from) < kMovedBy)
            continue;
        p.setPen(QPen(faded(t.ink, 0.6), 1.0, Qt::DotLine));
        p.drawLine(QPointF(x(*was), y), QPointF(x(placed.from), y));
        p.setBrush(Qt::NoBrush);
        p.drawPolygon(diamond(QPointF(x(*was), y)));
    }
}

void TideView::paintThreads(QPainter& p) const {
    const Theme& t = theme();
    const campaign::Problem& problem = plan_->campaign.drawn.problem;
    const campaign::Schedule& schedule = plan_->told.answer.schedule;
    const double top = laneTop(tides_.size()) + kGrid;
    const auto yOf = [&](std::size_t piece) {
        const auto at = std::find(pieces_.begin(), pieces_.end(), piece) - pieces_.begin();
        return top + (static_cast<double>(at) + 0.5) * kThread;
    };
    p.setFont(app::font(0.78));
    for (const std::size_t piece : pieces_) {
        p.setPen(t.faint);
        const QRectF name(2, yOf(piece) - kThread / 2.0, kGutter - 14, kThread);
        p.drawText(
            name, Qt::AlignLeft | Qt::AlignVCenter,
            p.fontMetrics().elidedText(qs(problem.pieces[piece].id), Qt::ElideRight, static_cast<int>(name.width())));
        p.setPen(QPen(t.line, 1));
        p.drawLine(QPointF(kGutter, yOf(piece)), QPointF(viewport()->width(), yOf(piece)));
    }
    p.save();
    p.setClipRect(QRectF(kGutter, kHead, viewport()->width() - kGutter, viewport()->height() - kHead),
                  Qt::IntersectClip);
    for (std::size_t k = 0; k < schedule.placed.size(); ++k) {
        const campaign::Placed& placed = schedule.placed[k];
        const auto bank = problem.jobs[placed.job].bank;
        const bool chosen = current_ == k;
        const QColor colour = chosen ? t.focus : placed.end.middle() > placed.begin.middle() ? t.in : t.out;
        for (const std::size_t piece : placed.pieces) {
            const double y = yOf(piece);
            p.setPen(QPen(colour, chosen ? 4.5 : 3.0, Qt::SolidLine, Qt::FlatCap));
            p.drawLine(QPointF(x(placed.from), y), QPointF(x(placed.to), y));
            if (!bank)
                continue;
            if (!chosen && tides_.size() > kManyBanks)
                continue; // the joins of many would hide the tides
            p.setPen(QPen(faded(colour, chosen ? 1.0 : 0.15), chosen ? 1.4 : 1.0));
            p.drawLine(QPointF(x(placed.from), y), QPointF(x(placed.from), levelY(*bank, 0.0)));
        }
    }
    p.restore();
}

void TideView::paintHead(QPainter& p) const {
    const Theme& t = theme();
    const bench::BookCampaign& c = plan_->campaign;
    const double wide = viewport()->width();
    p.fillRect(QRectF(0, 0, wide, kHead), t.paper);
    p.setPen(QPen(t.line, 1));
    p.drawLine(QPointF(0, kHead), QPointF(wide, kHead));
    p.save();
    p.setClipRect(QRectF(kGutter - 2, 0, wide - kGutter + 2, viewport()->height()));
    const double anHour = x(kHour) - x(0.0);
    double every = 24.0;
    for (const double hours : std::array{1.0, 2.0, 3.0, 6.0, 12.0}) {
        if (anHour * hours >= kTickApart) {
            every = hours;
            break;
        }
    }
    const double midnight = c.drawn.problem.midnight;
    const double from = secondsAt(kGutter), to = secondsAt(wide);
    const double aDay = anHour * 24.0;
    for (double day = midnight + std::floor((from - midnight) / campaign::kDay) * campaign::kDay; day < to;
         day += campaign::kDay) {
        const double left = std::max(kGutter, x(day)), right = x(day + campaign::kDay);
        p.setFont(app::font(0.84, QFont::DemiBold));
        p.setPen(t.ink);
        const QString words = qs(campaign::dayWords(c.begins + day));
        const QString fits =
            p.fontMetrics().horizontalAdvance(words) < right - left - 8 ? words : words.section(QLatin1Char(' '), 0, 1);
        if (right - left > 46.0)
            p.drawText(QRectF(left + 4, 2, right - left - 6, 16), Qt::AlignLeft | Qt::AlignVCenter, fits);
        p.setFont(app::font(0.76));
        p.setPen(t.faint);
        for (double hour = aDay > 60.0 ? every : 24.0; hour < 24.0 - every / 2.0; hour += every) {
            const double at = x(day + hour * kHour);
            if (at - 16.0 < kGutter)
                continue;
            p.drawText(QRectF(at - 24, 19, 48, 16), Qt::AlignCenter,
                       QStringLiteral("%1:00").arg(static_cast<int>(hour), 2, 10, QLatin1Char('0')));
        }
    }
    const double bottom = viewport()->height();
    p.setFont(app::font(0.78, QFont::DemiBold));
    p.setPen(QPen(t.ink, 1.5));
    p.drawLine(QPointF(x(0.0), 18), QPointF(x(0.0), bottom));
    if (c.drawn.problem.until) {
        const double at = x(*c.drawn.problem.until);
        p.setPen(QPen(t.warn, 1.5, Qt::DashLine));
        p.drawLine(QPointF(at, 18), QPointF(at, bottom));
        const QString words = (c.wishes.untilWhat.empty() ? tr("the end") : qs(c.wishes.untilWhat)) +
                              (at > wide ? QStringLiteral(" →") : QString());
        p.setPen(t.warn);
        const double wideWords = p.fontMetrics().horizontalAdvance(words) + 4.0;
        const QRectF place(std::min(at + 4.0, wide - kMargin - wideWords), kHead + 1, wideWords, 14);
        p.fillRect(place, t.paper);
        p.drawText(place, Qt::AlignLeft | Qt::AlignVCenter, words);
    }
    p.restore();
    p.setFont(app::font(0.78, QFont::DemiBold));
    p.setPen(t.ink);
    p.drawText(
        QRectF(2, 19, kGutter - 14, 16), Qt::AlignRight | Qt::AlignVCenter,
        (c.wishes.from.empty() ? tr("now, %1") : tr("from %1")).arg(qs(campaign::dayAndTime(c.begins, c.begins))));
}

} // namespace otterstone::app
