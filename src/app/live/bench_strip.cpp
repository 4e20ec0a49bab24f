#include "app/live/bench_strip.h"

#include <algorithm>
#include <cmath>

#include <QAccessible>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>

#include "app/live/live_words.h"
#include "app/runs/stamps.h"
#include "app/theme.h"
#include "app/widgets/on_screen.h"
#include "app/widgets/side_panel.h"
#include "core/quantity/format.h"

namespace otterstone::app {

BenchStrip::BenchStrip(LiveBench& live, QWidget* parent)
    : QFrame(parent), live_(live), state_(new QLabel), elapsed_(new QLabel), flow_(new QLabel), last_(new QLabel),
      page_(new QPushButton(tr("Show"))), stop_(new QPushButton(tr("Stop"))), others_(new QWidget),
      othersRow_(new QHBoxLayout(others_)) {
    setObjectName(QStringLiteral("sheet"));
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(3 * kGrid, kGrid / 2, 2 * kGrid, kGrid / 2);
    all->setSpacing(kGrid / 2);
    auto* row = new QHBoxLayout;
    row->setSpacing(2 * kGrid);
    all->addLayout(row);
    othersRow_->setContentsMargins(0, 0, 0, 0);
    othersRow_->setSpacing(kGrid);
    all->addWidget(others_);
    others_->hide();
    state_->setFont(app::font(1.0, QFont::DemiBold));
    elapsed_->setFont(app::font(1.25, QFont::DemiBold));
    flow_->setFont(app::font(1.25, QFont::DemiBold));
    last_->setObjectName(QStringLiteral("faint"));
    row->addWidget(elapsed_);
    row->addWidget(flow_);
    row->addWidget(state_, 3);
    row->addWidget(last_, 2);
    for (QPushButton* b : {page_, stop_})
        row->addWidget(b);
    stop_->setToolTip(tr("Load off, run closed (Ctrl+.)"));
    for (const auto& [figure, sample] : {std::pair(elapsed_, "88 h 88 min 88 s"), std::pair(flow_, "188.88 W")})
        figure->setFixedSize(figure->fontMetrics().horizontalAdvance(QString::fromUtf8(sample)),
                             figure->fontMetrics().height());
    for (QLabel* l : {state_, last_})
        l->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
    hide();
    connect(page_, &QPushButton::clicked, this, [this] { Q_EMIT pageWanted(live_.chosen().number()); });
    connect(stop_, &QPushButton::clicked, this, [this] { live_.chosen().stop(); });
    connect(&live_, &LiveBench::progressed, this, [this](LiveRun* run, const bench::Progress& p) {
        if (run == &live_.chosen())
            show(p);
        else
            showOther(run);
    });
    connect(&live_, &LiveBench::changed, this, &BenchStrip::refresh);
}

void BenchStrip::showOthers(bool others) {
    showsOthers_ = others;
    refresh();
}

void BenchStrip::refresh() {
    auto going = live_.going();
    setVisible(!going.empty());
    if (going.empty())
        return;
    show(live_.chosen().progress());
    std::erase(going, &live_.chosen());
    std::stable_partition(going.begin(), going.end(), [](const LiveRun* r) { return r->wantsHands(); });
    if (going != order_) {
        emptyLayout(othersRow_);
        buttons_.clear();
        order_ = going;
        for (LiveRun* run : going) {
            auto* button = new QPushButton;
            button->setObjectName(QStringLiteral("quiet"));
            button->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Fixed);
            button->setMaximumWidth(30 * kGrid);
            button->setProperty("reads", true);
            connect(button, &QPushButton::clicked, this, [this, number = run->number()] { Q_EMIT pageWanted(number); });
            othersRow_->addWidget(button, 1);
            buttons_[run] = button;
        }
        othersRow_->addStretch();
    }
    for (LiveRun* run : going)
        showOther(run);
    others_->setVisible(showsOthers_ && !going.empty());
}

void BenchStrip::showOther(LiveRun* run) {
    const auto it = buttons_.find(run);
    if (it == buttons_.end())
        return;
    const bench::Progress& p = run->progress();
    // One that begins to want hands comes first.
    const std::size_t place = static_cast<std::size_t>(std::find(order_.begin(), order_.end(), run) - order_.begin());
    if (run->wantsHands() && place > 0 && !order_[place - 1]->wantsHands())
        return refresh();
    const QString left = p.ownEnd && !run->wantsHands()
                             ? tr(", %1").arg(onScreen(showDuration(std::max(0.0, *p.ownEnd - p.elapsed))))
                             : QString();
    const QString words = run->wantsHands()
                              ? tr("%1 %2 %3")
                                    .arg(run->number())
                                    .arg(stateSign(p), p.stillOn.empty() ? qs(p.toDo) : tr("THE LOAD IS STILL ON"))
                              : tr("%1 %2 %3 W%4")
                                    .arg(run->number())
                                    .arg(stateSign(p), onScreen(QString::number(p.volts * p.amps, 'f', 1)), left);
    QPushButton* button = it->second;
    const QString shown = button->fontMetrics().elidedText(words, Qt::ElideRight, button->width() - 3 * kGrid);
    if (shown != button->text())
        button->setText(shown);
    if (words != button->toolTip()) {
        button->setToolTip(words);
        button->setAccessibleName(tr("Bench %1").arg(words));
    }
}

void BenchStrip::show(const bench::Progress& p) {
    setVisible(live_.isRunning());
    const QString state =
        live_.going().size() > 1 ? tr("Bench %1. %2").arg(live_.chosen().number()).arg(stateWords(p)) : stateWords(p);
    say(state_, stateSign(p) + QLatin1Char(' ') +
                    state_->fontMetrics().elidedText(state, Qt::ElideRight, state_->width() - 24));
    say(elapsed_, onScreen(showDuration(std::floor(p.elapsed), 1.0)));
    say(flow_, onScreen(tr("%1 W").arg(p.volts * p.amps, 0, 'f', 2)));
    const QString last =
        p.lastMark ? tr("%1: %2").arg(onScreen(showDuration(p.lastMark->at, 1.0)), markWords(*p.lastMark)) : QString();
    say(last_, last_->fontMetrics().elidedText(last, Qt::ElideRight, last_->width()));
    // What was cut short can be read whole.
    if (state_->toolTip() != state)
        state_->setToolTip(state);
    if (last_->toolTip() != last)
        last_->setToolTip(last);
    const QString spoken = QString::number(static_cast<int>(p.phase)) + QString::number(p.step);
    if (spoken != said_) {
        said_ = spoken;
        setAccessibleName(state);
        QAccessibleEvent event(this, QAccessible::Alert);
        QAccessible::updateAccessibility(&event);
    }
}

} // namespace otterstone::app
