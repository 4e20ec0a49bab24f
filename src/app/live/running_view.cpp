#include "app/live/running_view.h"

#include <QAccessible>
#include <QApplication>
#include <QDateTime>
#include <QKeyEvent>
#include <QLabel>
#include <QPushButton>
#include <QScrollArea>
#include <QVBoxLayout>
#include <cmath>

#include "app/live/live_curve.h"
#include "app/live/live_words.h"
#include "app/runs/path_ribbon.h"
#include "app/runs/stamp_entry.h"
#include "app/runs/stamps.h"
#include "app/theme.h"
#include "app/widgets/on_screen.h"
#include "core/quantity/format.h"

namespace otterstone::app {

namespace {

constexpr double kGreat = 3.4; // of the figure that is read from a metre away
constexpr double kLarge = 1.9;
constexpr int kRingMs = 1000;

QLabel* label(double scale, bool faint, QFont::Weight weight = QFont::Normal) {
    auto* l = new QLabel;
    l->setFont(app::font(scale, weight));
    if (faint)
        l->setObjectName(QStringLiteral("faint"));
    return l;
}

// A figure over its caption; columns divided by hairlines, not boxes.
QWidget* column(QLabel* figure, const QString& caption) {
    auto* all = new QWidget;
    auto* c = new QVBoxLayout(all);
    c->setContentsMargins(0, 0, 3 * kGrid, 0);
    c->setSpacing(0);
    c->addStretch();
    c->addWidget(figure);
    auto* words = label(0.9, true);
    words->setText(caption);
    c->addWidget(words);
    figure->setAccessibleName(caption);
    return all;
}

} // namespace

RunningView::RunningView(BookSession& session, LiveRun& live, QWidget* parent)
    : QWidget(parent), session_(session), live_(live), title_(label(1.6, false, QFont::DemiBold)),
      doing_(label(1.15, false)), watts_(label(kGreat, false, QFont::DemiBold)),
      energy_(label(kLarge, false, QFont::DemiBold)), elapsed_(label(kLarge, false, QFont::DemiBold)),
      left_(label(kLarge, false, QFont::DemiBold)), warmth_(label(kLarge, false, QFont::DemiBold)),
      ends_(label(1.0, true)), next_(label(1.3, false, QFont::DemiBold)), trouble_(label(1.1, false)),
      health_(label(0.95, true)), last_(label(0.95, true)), stop_(new QPushButton(tr("Stop, load off  (Ctrl+.)"))),
      goOn_(new QPushButton(tr("Done, go on  (Ctrl+G)"))), ribbon_(new PathRibbon), curve_(new LiveCurve),
      stamps_(new StampEntry(tr("Stamp this moment:"), tr("%1 on this page"))) {
    auto* whole = new QVBoxLayout(this);
    whole->setContentsMargins(0, 0, 0, 0);
    whole->setSpacing(0);
    setFocusPolicy(Qt::StrongFocus);
    // The stop stands above what scrolls: it is never out of reach.
    auto* head = new QHBoxLayout;
    head->setContentsMargins(3 * kGrid, kGrid, 2 * kGrid, kGrid / 2);
    title_->setWordWrap(true);
    head->addWidget(title_, 1);
    goOn_->setObjectName(QStringLiteral("primary"));
    head->addWidget(goOn_);
    head->addWidget(stop_);
    whole->addLayout(head);
    // In a frame of its own: what changes ten times a second is laid out there, not in the whole window.
    auto* frame = new QScrollArea;
    frame->setFrameShape(QFrame::NoFrame);
    frame->setWidgetResizable(true);
    frame->setFocusPolicy(Qt::NoFocus);
    auto* body = new QWidget;
    frame->setWidget(body);
    whole->addWidget(frame, 1);
    auto* outer = new QVBoxLayout(body);
    outer->setContentsMargins(3 * kGrid, 0, 2 * kGrid, kGrid);
    outer->setSpacing(kGrid / 2);
    doing_->setWordWrap(true);
    outer->addWidget(doing_);
    trouble_->setObjectName(QStringLiteral("problem"));
    trouble_->setWordWrap(true);
    outer->addWidget(trouble_);
    auto* figures = new QHBoxLayout;
    figures->setSpacing(0); // each has its own margin
    // Large enough for what they will ever show: a layout that moves with every reading can't be read from afar, and a
    // label of fixed size asks no page to be laid out anew ten times a second.
    for (const auto& [figure, sample] :
         {std::pair(watts_, "188.88 W"), std::pair(energy_, "188.88 Wh"), std::pair(elapsed_, "88 h 88 min 88 s"),
          std::pair(left_, "about 88 h 88 min"), std::pair(warmth_, "88.8 °C")})
        figure->setFixedSize(figure->fontMetrics().horizontalAdvance(QString::fromUtf8(sample)),
                             figure->fontMetrics().height());
    figures->addWidget(column(watts_, tr("now, at the meter")));
    figures->addWidget(column(energy_, tr("so far")));
    figures->addWidget(column(elapsed_, tr("since it began")));
    figures->addWidget(column(left_, tr("still to go, as predicted")));
    figures->addWidget(column(warmth_, tr("temperature")));
    figures->addStretch();
    outer->addLayout(figures);
    outer->addSpacing(kGrid / 2);
    next_->setWordWrap(true);
    outer->addWidget(next_);
    ends_->setWordWrap(true);
    outer->addWidget(ends_);
    outer->addWidget(ribbon_);
    ribbon_->setFocusPolicy(Qt::NoFocus);
    outer->addWidget(curve_, 1);
    outer->addWidget(stamps_);
    outer->addWidget(last_);
    health_->setWordWrap(true);
    outer->addWidget(health_);

    connect(stop_, &QPushButton::clicked, this, [this] { live_.session().stop(); });
    connect(goOn_, &QPushButton::clicked, this, [this] { live_.session().goOn(); });
    connect(stamps_, &StampEntry::wanted, this,
            [this](records::Mark::What what) { stamps_->begin(what, now_.elapsed); });
    connect(stamps_, &StampEntry::taken, this, [this](const records::Mark& mark) {
        live_.session().stamp(mark);
        setFocus();
    });
    connect(stamps_, &StampEntry::cancelled, this, [this] { setFocus(); });
    connect(&live_, &LiveRun::started, this, &RunningView::begin);
    connect(&live_, &LiveRun::progressed, this, &RunningView::take);
    if (live_.session().isRunning()) // it is made because a run began
        begin();
}

void RunningView::begin() {
    const bench::Plan& plan = live_.plan();
    bank_ = session_.book().bank(plan.run.bank).value_or(records::Bank{});
    run_ = plan.run;
    run_.kind = plan.recipe.kind;
    gear_ = session_.book().gear();
    peakWatts_ = 0.0;
    toldPhase_ = bench::Phase::Idle;
    curve_->begin(run_.kind == records::Kind::Recharge);
    title_->setText(tr("Bench %1 · ").arg(live_.number()) +
                    (plan.rehearsal
                         ? tr("Rehearsing: %1 · %2 · %3 × real time")
                               .arg(qs(plan.recipe.name), qs(bank_.name), onScreen(showNumber(plan.rehearsal->speed)))
                         : tr("%1 · %2").arg(qs(plan.recipe.name), qs(bank_.name))));
    now_ = {};
    showNow();
}

void RunningView::showEvent(QShowEvent* event) {
    QWidget::showEvent(event);
    showNow();
}

void RunningView::take(const bench::Progress& p) {
    now_ = p;
    peakWatts_ = std::max(peakWatts_, p.volts * p.amps);
    curve_->setEnds(p.ownEnd, p.claimEnd, p.displayEnd);
    curve_->add(p.fresh, p.freshMarks);
    if (!p.stillOn.empty() && (!rang_.isValid() || rang_.elapsed() >= kRingMs)) {
        QApplication::beep();
        rang_.start();
    }
    if (isVisible())
        showNow();
    if (p.phase != toldPhase_ || p.step != toldStep_) {
        toldPhase_ = p.phase;
        toldStep_ = p.step;
        // Screen readers hear what changed; the window itself shows it all the time.
        setAccessibleName(stateWords(p));
        QAccessibleEvent event(this, QAccessible::Alert);
        QAccessible::updateAccessibility(&event);
    }
}

void RunningView::showRibbon(const bench::Progress& p) {
    ribbon_->show(makeLiveRibbon(bank_, run_, gear_,
                                 {p.volts, p.amps, peakWatts_, p.wattHours, p.phase != bench::Phase::Connecting}),
                  run_.kind == records::Kind::Recharge);
}

void RunningView::showNow() {
    const bench::Progress& p = now_;
    showRibbon(p);
    say(doing_, p.stillOn.empty() ? qs(p.doing) : QString()); // said in red below
    say(watts_, onScreen(tr("%1 W").arg(p.volts * p.amps, 0, 'f', 2)));
    say(energy_, onScreen(tr("%1 Wh").arg(p.wattHours, 0, 'f', 2)));
    say(elapsed_, onScreen(showDuration(std::floor(p.elapsed), 1.0)));
    say(left_, p.ownEnd ? tr("about %1").arg(onScreen(showDuration(std::max(0.0, *p.ownEnd - p.elapsed))))
                        : QStringLiteral("–"));
    say(warmth_, p.celsius ? onScreen(tr("%1 °C").arg(*p.celsius, 0, 'f', 1)) : QStringLiteral("–"));
    QString next = p.phase == bench::Phase::Waiting ? tr("Now you: %1").arg(qs(p.toDo)) : qs(p.next);
    if (p.nextAt && p.phase != bench::Phase::Waiting) {
        const double in = *p.nextAt - p.elapsed;
        next = in > 1.0 ? tr("Next: %1, in %2").arg(next, onScreen(showDuration(in, in < 600.0 ? 1.0 : 60.0)))
                        : tr("Now: %1").arg(next);
    }
    say(next_, next);
    say(ends_,
        endWords(p, run_.kind == records::Kind::Drain, live_.plan().rehearsal ? live_.plan().rehearsal->speed : 1.0));
    say(trouble_,
        !p.stillOn.empty()
            ? tr("THE LOAD IS STILL ON (%1). Pull the plug out of the bank now. It is told to switch off again and again.")
                  .arg(qs(p.stillOn))
        : p.bookTrouble.empty()
            ? QString()
            : tr("The book cannot be written: %1 Nothing is lost as long as this window stays open.")
                  .arg(qs(p.bookTrouble)));
    trouble_->setVisible(!trouble_->text().isEmpty());
    goOn_->setVisible(p.phase == bench::Phase::Waiting);
    stop_->setEnabled(p.phase == bench::Phase::Connecting || p.phase == bench::Phase::Running ||
                      p.phase == bench::Phase::Waiting);
    say(last_, p.lastMark
                   ? tr("Last stamp: %1 at %2. Written to the book up to %3.")
                         .arg(markWords(*p.lastMark), onScreen(showDuration(p.lastMark->at, 1.0)),
                              onScreen(showDuration(std::floor(p.committedTo), 1.0)))
                   : tr("Written to the book up to %1.").arg(onScreen(showDuration(std::floor(p.committedTo), 1.0))));
    say(health_, healthWords(p));
}

void RunningView::restyle() {
    curve_->restyle();
    update();
}

bool RunningView::stampKey(int key) {
    if (now_.phase != bench::Phase::Running && now_.phase != bench::Phase::Waiting &&
        now_.phase != bench::Phase::Closing)
        return false;
    for (const StampKind& kind : stampKinds()) {
        if (kind.key == key) {
            stamps_->begin(kind.what, now_.elapsed);
            return true;
        }
    }
    return false;
}

void RunningView::keyPressEvent(QKeyEvent* event) {
    if (event->modifiers() == Qt::NoModifier && stampKey(event->key()))
        return;
    QWidget::keyPressEvent(event);
}

} // namespace otterstone::app
