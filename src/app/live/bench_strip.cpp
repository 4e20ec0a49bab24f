#include "app/live/bench_strip.h"

#include <cmath>

#include <QAccessible>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>

#include "app/live/live_words.h"
#include "app/runs/stamps.h"
#include "app/theme.h"
#include "core/quantity/format.h"

namespace otterstone::app {

BenchStrip::BenchStrip(LiveBench& live, QWidget* parent)
    : QFrame(parent), live_(live), state_(new QLabel), elapsed_(new QLabel), flow_(new QLabel), last_(new QLabel),
      page_(new QPushButton(tr("Show"))), stop_(new QPushButton(tr("Stop"))) {
    setObjectName(QStringLiteral("sheet"));
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(3 * kGrid, kGrid / 2, 2 * kGrid, kGrid / 2);
    row->setSpacing(2 * kGrid);
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
    connect(page_, &QPushButton::clicked, this, &BenchStrip::pageWanted);
    connect(stop_, &QPushButton::clicked, this, [this] { live_.runner().stop(); });
    connect(&live_.runner(), &bench::Session::progressed, this, [this](const bench::Progress& p) { show(p); });
    connect(&live_, &LiveBench::changed, this, [this] { setVisible(live_.isRunning()); });
}

void BenchStrip::show(const bench::Progress& p) {
    setVisible(live_.isRunning());
    QString state = stateWords(p);
    say(state_, stateSign(p.phase) + QLatin1Char(' ') +
                    state_->fontMetrics().elidedText(state, Qt::ElideRight, state_->width() - 24));
    say(elapsed_, qs(showDuration(std::floor(p.elapsed), 1.0)));
    say(flow_, tr("%1 W").arg(QString::number(p.volts * p.amps, 'f', 2)));
    const QString last =
        p.lastMark ? tr("%1: %2").arg(qs(showDuration(p.lastMark->at, 1.0)), markWords(*p.lastMark)) : QString();
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
