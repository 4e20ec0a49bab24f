#include "app/plan/tide_view.h"

#include <algorithm>
#include <cmath>

#include <QHelpEvent>
#include <QKeyEvent>
#include <QMouseEvent>
#include <QScrollBar>
#include <QToolTip>

#include "app/plan/tide_layout.h"
#include "app/theme.h"
#include "app/widgets/on_screen.h"
#include "core/plan/campaign/day_sheet.h"
#include "core/quantity/date.h"

namespace otterstone::app {

namespace campaign = plan::campaign;

namespace {

constexpr double kQuarter = 900.0, kStepHour = 3600.0; // s
constexpr double kMostPast = 30.0 * 3600.0;            // shown before now …
constexpr double kPastShare = 0.2;                     // … and of what lies ahead
constexpr double kLeastSpan = 2.0 * 3600.0;            // s across the picture
constexpr double kSnap = 300.0;                        // s to which a dragged job goes
constexpr double kDragsFrom = 4.0;                     // pixels
constexpr double kLeastLane = 44.0, kMostLane = 150.0; // pixels
constexpr double kMostZoom = 40.0;

} // namespace

TideView::TideView(QWidget* parent) : QAbstractScrollArea(parent) {
    setFocusPolicy(Qt::StrongFocus);
    setFrameShape(QFrame::NoFrame);
    setAccessibleName(tr("Tide of the campaign"));
    viewport()->setMouseTracking(true);
}

std::optional<double> TideView::wasAt(const campaign::JobKey& key) const {
    if (before_)
        return beginsAt(*before_, key, plan_->campaign.begins);
    for (const campaign::KeptJob& kept : plan_->campaign.wishes.kept.jobs) {
        if (kept.job == key)
            return secondsOf(kept.from).value_or(plan_->campaign.begins) - plan_->campaign.begins;
    }
    return std::nullopt;
}

void TideView::show(const PlanPointer& plan, const PlanPointer& before) {
    plan_ = plan;
    before_ = before;
    tides_.clear();
    absent_.clear();
    order_.clear();
    pieces_.clear();
    current_.reset();
    dragged_.reset();
    if (plan_) {
        const campaign::Problem& p = plan_->campaign.drawn.problem;
        const campaign::Schedule& s = plan_->told.answer.schedule;
        last_ = std::max(kLeastSpan, s.makespan * 1.04);
        if (p.until && *p.until < s.makespan * 1.8)
            last_ = std::max(last_, *p.until * 1.04);
        first_ = -0.03 * last_;
        const double past = std::min(kMostPast, kPastShare * last_);
        for (const campaign::RunSeen& run : plan_->campaign.seen) {
            if (run.to > plan_->campaign.begins - past && run.from < plan_->campaign.begins)
                first_ = std::min(first_, std::max(-past, run.from - plan_->campaign.begins));
        }
        for (const campaign::Lived& l : plan_->campaign.lived) {
            if (l.due)
                first_ = std::min(first_, std::max(-past, -l.late));
        }
        tides_ = campaign::tideOf(p, s, last_);
        absent_ = campaign::absences(p, last_);
        for (std::size_t k = 0; k < s.placed.size(); ++k)
            order_.push_back(k);
        std::stable_sort(order_.begin(), order_.end(),
                         [&](auto a, auto b) { return s.placed[a].from < s.placed[b].from; });
        for (const std::size_t k : order_) {
            for (const std::size_t piece : s.placed[k].pieces) {
                if (std::find(pieces_.begin(), pieces_.end(), piece) == pieces_.end())
                    pieces_.push_back(piece);
            }
        }
        setAccessibleDescription(onScreen(sentenceOf(p, plan_->told)));
    }
    layOut();
    viewport()->update();
}

void TideView::choose(std::optional<std::size_t> placed) {
    current_ = plan_ && placed && *placed < order_.size() ? placed : std::nullopt;
    if (current_) {
        // Into sight.
        const QRectF place = placeOf(*current_);
        const double left = kGutter, right = viewport()->width() - kMargin;
        if (place.right() < left || place.left() > right)
            horizontalScrollBar()->setValue(horizontalScrollBar()->value() +
                                            static_cast<int>(place.left() - left - 40));
        if (place.top() < kHead || place.bottom() > viewport()->height())
            verticalScrollBar()->setValue(verticalScrollBar()->value() +
                                          static_cast<int>(place.center().y() - viewport()->height() / 2.0));
    }
    viewport()->update();
}

void TideView::layOut() {
    const double wide = std::max(50.0, viewport()->width() - kGutter - kMargin);
    const double tall = viewport()->height();
    const double threads = pieces_.empty() ? 0.0 : static_cast<double>(pieces_.size()) * kThread + 2.0 * kGrid;
    const double banks = std::max<double>(1.0, static_cast<double>(tides_.size()));
    laneHeight_ = std::clamp((tall - kHead - threads) / banks, kLeastLane, kMostLane);
    const double content = kHead + banks * laneHeight_ + threads;
    verticalScrollBar()->setRange(0, std::max(0, static_cast<int>(std::ceil(content - tall))));
    verticalScrollBar()->setPageStep(static_cast<int>(tall));
    verticalScrollBar()->setSingleStep(static_cast<int>(laneHeight_ / 2.0));
    horizontalScrollBar()->setRange(0, std::max(0, static_cast<int>(wide * (zoom_ - 1.0))));
    horizontalScrollBar()->setPageStep(static_cast<int>(wide));
    horizontalScrollBar()->setSingleStep(static_cast<int>(wide / 20.0));
}

double TideView::x(double seconds) const {
    const double wide = std::max(50.0, viewport()->width() - kGutter - kMargin);
    return kGutter + (seconds - first_) / (last_ - first_) * wide * zoom_ - horizontalScrollBar()->value();
}

double TideView::secondsAt(double at) const {
    const double wide = std::max(50.0, viewport()->width() - kGutter - kMargin);
    return first_ + (at - kGutter + horizontalScrollBar()->value()) / (wide * zoom_) * (last_ - first_);
}

double TideView::laneTop(std::size_t bank) const {
    return kHead + static_cast<double>(bank) * laneHeight_ - verticalScrollBar()->value();
}

double TideView::levelY(std::size_t bank, double percent) const {
    const double top = laneTop(bank) + kOverLevel, bottom = laneTop(bank) + laneHeight_ - kUnderLevel;
    return bottom - (bottom - top) * percent / 100.0;
}

QRectF TideView::placeOf(std::size_t placed) const {
    if (!plan_ || placed >= plan_->told.answer.schedule.placed.size())
        return {};
    const campaign::Placed& at = plan_->told.answer.schedule.placed[placed];
    const auto bank = plan_->campaign.drawn.problem.jobs[at.job].bank;
    const double left = x(at.from);
    return bank ? QRectF(left, laneTop(*bank) + 2.0, std::max(4.0, x(at.to) - left), laneHeight_ - 4.0) : QRectF();
}

std::optional<std::size_t> TideView::jobAt(const QPointF& at) const {
    if (at.y() < kHead || at.x() < kGutter)
        return std::nullopt;
    for (const std::size_t k : order_) {
        if (placeOf(k).adjusted(-2, 0, 2, 0).contains(at))
            return k;
    }
    return std::nullopt;
}

QString TideView::wordsOf(std::size_t placed) const {
    const campaign::Problem& p = plan_->campaign.drawn.problem;
    const campaign::Schedule& s = plan_->told.answer.schedule;
    const campaign::Placed& at = s.placed[placed];
    const double begins = plan_->campaign.begins;
    QString words =
        qs(p.jobs[at.job].id) + QStringLiteral("\n") +
        tr("%1 to %2, %3 → %4")
            .arg(qs(campaign::dayAndTime(begins + at.from, begins)), qs(campaign::dayAndTime(begins + at.to, begins)),
                 onScreen(campaign::stateTold(at.begin)), onScreen(campaign::stateTold(at.end)));
    if (placed < plan_->told.sure.ends.size()) {
        const campaign::Span& ends = plan_->told.sure.ends[placed];
        if (ends.to - ends.from > 60.0)
            words += QStringLiteral("\n") + tr("it ends between %1 and %2, in eight of ten")
                                                .arg(qs(campaign::dayAndTime(begins + ends.from, begins)),
                                                     qs(campaign::dayAndTime(begins + ends.to, begins)));
    }
    if (const std::string gear = gearWords(p, at); !gear.empty())
        words += QStringLiteral("\n") + tr("on %1").arg(qs(gear));
    if (const std::string why = whyThen(p, s, at); !why.empty())
        words += QStringLiteral("\n") + tr("begins %1").arg(onScreen(why));
    return words;
}

void TideView::zoom(double factor, double aroundX) {
    const double before = secondsAt(aroundX);
    zoom_ = std::clamp(zoom_ * factor, 1.0, kMostZoom);
    layOut();
    horizontalScrollBar()->setValue(horizontalScrollBar()->value() + static_cast<int>(x(before) - aroundX));
    viewport()->update();
}

void TideView::step(int by) {
    if (order_.empty())
        return;
    const auto at = current_ ? std::find(order_.begin(), order_.end(), *current_) : order_.end();
    const auto last = static_cast<std::ptrdiff_t>(order_.size()) - 1;
    const std::ptrdiff_t place =
        at == order_.end() ? (by > 0 ? 0 : last) : std::clamp<std::ptrdiff_t>(at - order_.begin() + by, 0, last);
    choose(order_[static_cast<std::size_t>(place)]);
    Q_EMIT chosen(*current_);
}

void TideView::resizeEvent(QResizeEvent*) { layOut(); }

void TideView::keyPressEvent(QKeyEvent* event) {
    const double by = event->modifiers() & Qt::ShiftModifier ? kStepHour : kQuarter;
    switch (event->key()) {
    case Qt::Key_Down: return step(1);
    case Qt::Key_Up: return step(-1);
    case Qt::Key_Home: return step(-static_cast<int>(order_.size()));
    case Qt::Key_End: return step(static_cast<int>(order_.size()));
    case Qt::Key_Plus: return zoom(1.5, viewport()->width() / 2.0);
    case Qt::Key_Minus: return zoom(1.0 / 1.5, viewport()->width() / 2.0);
    default: break;
    }
    if (current_) {
        switch (event->key()) {
        case Qt::Key_Left: Q_EMIT shiftWanted(*current_, -by); return;
        case Qt::Key_Right: Q_EMIT shiftWanted(*current_, by); return;
        case Qt::Key_P: Q_EMIT pinWanted(*current_); return;
        case Qt::Key_Delete: Q_EMIT outWanted(); return;
        case Qt::Key_Return:
        case Qt::Key_Enter: Q_EMIT startWanted(); return;
        default: break;
        }
    }
    QAbstractScrollArea::keyPressEvent(event);
}

void TideView::mousePressEvent(QMouseEvent* event) {
    const auto job = jobAt(event->position());
    if (event->button() != Qt::LeftButton || !job)
        return;
    choose(job);
    Q_EMIT chosen(*job);
    dragged_ = job;
    dragFrom_ = event->position().x();
    dragBy_ = 0.0;
}

void TideView::mouseMoveEvent(QMouseEvent* event) {
    if (dragged_) {
        dragBy_ = event->position().x() - dragFrom_;
        viewport()->update();
        return;
    }
    viewport()->setCursor(jobAt(event->position()) ? Qt::PointingHandCursor : Qt::ArrowCursor);
}

void TideView::mouseReleaseEvent(QMouseEvent*) {
    const auto job = std::exchange(dragged_, std::nullopt);
    if (!job || std::fabs(dragBy_) < kDragsFrom)
        return;
    const double from = plan_->told.answer.schedule.placed[*job].from;
    // To full minutes of the clock, not of the beginning.
    const double at = plan_->campaign.begins + from + secondsAt(dragFrom_ + dragBy_) - secondsAt(dragFrom_);
    Q_EMIT moveWanted(*job, std::max(0.0, std::round(at / kSnap) * kSnap - plan_->campaign.begins));
    viewport()->update();
}

void TideView::mouseDoubleClickEvent(QMouseEvent* event) {
    if (jobAt(event->position()))
        Q_EMIT startWanted();
}

void TideView::wheelEvent(QWheelEvent* event) {
    if (event->modifiers() & Qt::ControlModifier) {
        zoom(std::pow(1.2, event->angleDelta().y() / 120.0), event->position().x());
        return;
    }
    QScrollBar* bar = event->modifiers() & Qt::ShiftModifier || !verticalScrollBar()->maximum() ? horizontalScrollBar()
                                                                                                : verticalScrollBar();
    const QPoint d = event->angleDelta();
    bar->setValue(bar->value() - (d.y() != 0 ? d.y() : d.x()) / 2);
    viewport()->update();
}

bool TideView::viewportEvent(QEvent* event) {
    if (event->type() == QEvent::ToolTip) {
        const auto* help = static_cast<QHelpEvent*>(event);
        if (const auto job = jobAt(help->pos()))
            QToolTip::showText(help->globalPos(), wordsOf(*job), this);
        else
            QToolTip::hideText();
        return true;
    }
    return QAbstractScrollArea::viewportEvent(event);
}

} // namespace otterstone::app
