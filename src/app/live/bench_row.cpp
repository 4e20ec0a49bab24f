#include "app/live/bench_row.h"

#include <cmath>

#include <QGridLayout>
#include <QPainter>
#include <QPainterPath>
#include <QPushButton>

#include "app/live/live_words.h"
#include "app/theme.h"
#include "app/widgets/on_screen.h"
#include "core/quantity/format.h"

namespace otterstone::app {

namespace {

constexpr int kInOneLine = 4;
constexpr double kThinnest = 2.0, kThickest = 9.0; // pixels of a band

QFont headFont() { return app::font(0.95, QFont::DemiBold); }
QFont figureFont() { return app::font(1.05, QFont::DemiBold); }
QFont smallFont() { return app::font(0.85); }

} // namespace

BenchRibbon::BenchRibbon(const LiveRun& run, QString bank, QWidget* parent)
    : QAbstractButton(parent), bank_(std::move(bank)), number_(run.number()) {
    setCheckable(true);
    setFocusPolicy(Qt::StrongFocus);
    setCursor(Qt::PointingHandCursor);
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    intoBank_ = run.plan().recipe.kind == records::Kind::Recharge;
    show(run.progress());
}

QSize BenchRibbon::sizeHint() const {
    return {240, QFontMetrics(headFont()).height() + QFontMetrics(figureFont()).height() +
                     QFontMetrics(smallFont()).height() + static_cast<int>(kThickest) + 2 * kGrid};
}

QSize BenchRibbon::minimumSizeHint() const { return {120, sizeHint().height()}; }

void BenchRibbon::show(const bench::Progress& p) {
    watts_ = p.volts * p.amps;
    peak_ = std::max(peak_, watts_);
    wants_ = wantsHands(p);
    share_ = p.ownEnd && *p.ownEnd > 0.0 ? std::optional(std::clamp(p.elapsed / *p.ownEnd, 0.0, 1.0)) : std::nullopt;
    head_ = QStringLiteral("%1 %2 %3").arg(number_).arg(stateSign(p), bank_);
    figures_ = onScreen(tr("%1 W · %2 Wh").arg(watts_, 0, 'f', 2).arg(p.wattHours, 0, 'f', 2));
    const QString left =
        p.ownEnd ? tr("%1 to go").arg(onScreen(showDuration(std::max(0.0, *p.ownEnd - p.elapsed)))) : QString();
    next_ = !p.stillOn.empty()                 ? tr("THE LOAD IS STILL ON")
            : p.phase == bench::Phase::Waiting ? tr("now you: %1").arg(qs(p.toDo))
            : p.phase == bench::Phase::Running ? left
                                               : stateWords(p);
    const QString spoken = tr("Bench %1, %2: %3, %4").arg(number_).arg(bank_, figures_, next_);
    if (spoken != accessibleName()) {
        setAccessibleName(spoken);
        setToolTip(spoken);
        update();
    }
}

void BenchRibbon::paintEvent(QPaintEvent*) {
    const Theme& t = theme();
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const QRectF all = QRectF(rect()).adjusted(1, 1, -1, -1);
    p.setBrush(isChecked() ? t.sheet : Qt::transparent);
    p.setPen(hasFocus() ? QPen(t.focus, 2) : isChecked() ? QPen(t.ink, 1.4) : QPen(t.line, underMouse() ? 1.6 : 1.0));
    p.drawRoundedRect(all, 3, 3);
    const double x = all.left() + kGrid, width = all.width() - 2 * kGrid;
    double y = all.top() + kGrid / 2.0;
    const auto line = [&](const QFont& font, const QColor& colour, const QString& words) {
        p.setFont(font);
        p.setPen(colour);
        const QFontMetrics m(font);
        p.drawText(QRectF(x, y, width, m.height()), Qt::AlignVCenter,
                   m.elidedText(words, Qt::ElideRight, static_cast<int>(width)));
        y += m.height();
    };
    line(headFont(), t.ink, head_);
    line(figureFont(), t.ink, figures_);
    line(smallFont(), wants_ ? t.warn : t.faint, next_);
    // The way that lies behind, full; what is ahead, dotted. Without a known end the whole is dotted, and a short piece
    // says that something flows.
    const double middle = y + kGrid / 4.0 + kThickest / 2;
    const double come = x + width * share_.value_or(peak_ > 0.0 ? 0.06 : 0.0);
    const QColor colour = intoBank_ ? t.in : t.out;
    p.setPen(QPen(t.faint, 1.2, Qt::DotLine));
    p.drawLine(QPointF(come, middle), QPointF(x + width, middle));
    const double thick = peak_ > 0.0 ? kThinnest + (kThickest - kThinnest) * std::min(1.0, watts_ / peak_) : 0.0;
    if (come > x && thick > 0.0) {
        QPainterPath band(QPointF(x, middle - kThinnest / 2));
        band.cubicTo({x + (come - x) * 0.4, middle - kThinnest / 2}, {x + (come - x) * 0.6, middle - thick / 2},
                     {come, middle - thick / 2});
        band.lineTo(come, middle + thick / 2);
        band.cubicTo({x + (come - x) * 0.6, middle + thick / 2}, {x + (come - x) * 0.4, middle + kThinnest / 2},
                     {x, middle + kThinnest / 2});
        band.closeSubpath();
        p.setPen(Qt::NoPen);
        p.setBrush(colour);
        p.drawPath(band);
    }
}

BenchRow::BenchRow(BookSession& session, LiveBench& live, QWidget* parent)
    : QWidget(parent), session_(session), live_(live), grid_(new QGridLayout(this)),
      another_(new QPushButton(tr("Another run  (0)"), this)) {
    grid_->setContentsMargins(3 * kGrid, kGrid, 2 * kGrid, 0);
    grid_->setSpacing(kGrid);
    another_->setObjectName(QStringLiteral("quiet"));
    another_->setToolTip(tr("What the next run is to be, while these go on"));
    another_->setSizePolicy(QSizePolicy::Fixed, QSizePolicy::Fixed);
    connect(another_, &QPushButton::clicked, this, &BenchRow::anotherWanted);
    connect(&live_, &LiveBench::progressed, this, [this](const LiveRun* run, const bench::Progress& p) {
        if (const auto it = ribbons_.find(run); it != ribbons_.end() && isVisible())
            it->second->show(p);
    });
    hide();
}

BenchRibbon* BenchRow::ribbon(int number) const {
    for (const auto& [run, ribbon] : ribbons_) {
        if (run->number() == number)
            return ribbon;
    }
    return nullptr;
}

void BenchRow::refresh(bool setup) {
    const auto going = live_.going();
    std::vector<const LiveRun*> shown;
    for (const auto& [run, ribbon] : ribbons_)
        shown.push_back(run);
    std::sort(shown.begin(), shown.end(), [](auto* a, auto* b) { return a->number() < b->number(); });
    if (!std::equal(shown.begin(), shown.end(), going.begin(), going.end())) {
        for (const auto& [run, ribbon] : ribbons_) {
            grid_->removeWidget(ribbon);
            ribbon->hide();
            ribbon->deleteLater(); // it may be what was just pressed
        }
        ribbons_.clear();
        grid_->removeWidget(another_);
        int place = 0;
        for (LiveRun* run : going) {
            const auto bank = session_.book().bank(run->plan().run.bank);
            auto* ribbon = new BenchRibbon(*run, bank ? qs(bank->name) : QString());
            connect(ribbon, &BenchRibbon::clicked, this, [this, number = run->number()] { Q_EMIT wanted(number); });
            grid_->addWidget(ribbon, place / kInOneLine, place % kInOneLine);
            ribbons_[run] = ribbon;
            ++place;
        }
        for (int column = 0; column < kInOneLine; ++column)
            grid_->setColumnStretch(column, column < place ? 1 : 0);
        grid_->addWidget(another_, 0, kInOneLine, Qt::AlignTop);
    }
    for (const auto& [run, ribbon] : ribbons_) {
        ribbon->setChecked(!setup && run == &live_.chosen());
        ribbon->setVisible(setup || going.size() > 1); // a run that is alone is shown large anyway
        ribbon->show(run->progress());
    }
    another_->setEnabled(live_.hasRoom());
    another_->setVisible(!setup);
    setVisible(!going.empty());
}

} // namespace otterstone::app
