#include "app/gear/gear_card.h"

#include <algorithm>

#include <QPainter>

#include "app/gear/gear_fields.h"
#include "app/theme.h"
#include "app/widgets/on_screen.h"
#include "app/widgets/peel.h"
#include "core/path/bottleneck.h"
#include "core/path/cable.h"

namespace otterstone::app {

namespace {

constexpr int kWidth = 250;
constexpr int kHeight = 128;
constexpr double kDrawing = 44.0;
constexpr double kMostWatts = 100.0; // full height of a tier's bar

// Tiers as bars standing on a line: how high is watts, how far to the right is volts.
void paintTiers(QPainter& p, const QRectF& r, const std::vector<label::Tier>& tiers) {
    const Theme& t = theme();
    p.setFont(app::font(0.72));
    double x = r.left();
    for (const label::Tier& tier : tiers) {
        const double h = std::clamp(tier.watts().value / kMostWatts, 0.06, 1.0) * (r.height() - 14);
        const QRectF bar(x, r.bottom() - 12 - h, 20, h);
        p.fillRect(bar, tier.programmable() ? hatching(t.in, true) : QBrush(t.in));
        p.setPen(t.faint);
        p.drawText(QRectF(x - 6, r.bottom() - 12, 32, 12), Qt::AlignCenter,
                   onScreen(showNumber(tier.high.value, 3)) + QStringLiteral(" V"));
        x += 34;
        if (x + 20 > r.right())
            break;
    }
}

// The share of 5 V 3 A that a cable eats, peeling off its band.
void paintCable(QPainter& p, const QRectF& r, double ohms, bool estimated) {
    const Theme& t = theme();
    const double thick = 20.0;
    const double lost = std::clamp(ohms * 9.0 / 15.0, 0.0, 0.9);
    const QRectF band(r.left(), r.top() + 4, r.width(), thick * (1.0 - lost));
    p.fillRect(band, t.out);
    paintPeel(p, r.left(), r.left() + r.width() * 0.3, 30, band.bottom(), band.top() + thick, r.bottom());
    p.setFont(app::font(0.78));
    p.setPen(t.faint);
    p.drawText(QRectF(r.left(), band.top() + thick + 4, r.width(), 16), Qt::AlignRight | Qt::AlignVCenter,
               QObject::tr("%1%2 % of 15 W")
                   .arg(estimated ? QObject::tr("about ") : QString(), onScreen(showNumber(lost * 100.0, 2))));
}

// A reading of 5 V 1 A with its ± as a band about it.
void paintMeter(QPainter& p, const QRectF& r, const path::Meter& m) {
    const Theme& t = theme();
    const auto volts = m.voltsUpTo(5.0), amps = m.ampsUpTo(1.0);
    const double y = r.center().y() - 6;
    p.setFont(app::font(0.78));
    p.setPen(t.faint);
    if (!volts || !amps) {
        p.drawText(r, Qt::AlignLeft | Qt::AlignVCenter, QObject::tr("accuracy not stated: no ± can be shown"));
        return;
    }
    const double share = volts->gain + volts->offset / 5.0 + amps->gain + amps->offset;
    const double half = std::clamp(share / 0.03, 0.01, 1.0) * r.width() / 2.0; // the whole width is ± 3 %
    p.fillRect(QRectF(r.center().x() - half, y - 8, 2 * half, 16), hatching(t.focus, true));
    p.setPen(QPen(t.ink, 2));
    p.drawLine(QPointF(r.center().x(), y - 11), QPointF(r.center().x(), y + 11));
    p.setPen(QPen(t.line, 1));
    p.drawLine(QPointF(r.left(), y), QPointF(r.right(), y));
    p.setPen(t.faint);
    p.drawText(QRectF(r.left(), r.bottom() - 14, r.width(), 14), Qt::AlignCenter,
               QObject::tr("± %1 % at 5 V 1 A, at most").arg(onScreen(showNumber(share * 100.0, 2))));
}

// How much a battery or a load is, on a line of 100 Wh or 200 W.
void paintAmount(QPainter& p, const QRectF& r, double part, const QString& end, const QColor& colour) {
    p.fillRect(QRectF(r.left(), r.center().y() - 12, std::clamp(part, 0.02, 1.0) * r.width(), 14), colour);
    p.setPen(QPen(theme().line, 1));
    p.drawRect(QRectF(r.left(), r.center().y() - 12, r.width(), 14));
    p.setFont(app::font(0.72));
    p.setPen(theme().faint);
    p.drawText(QRectF(r.left(), r.bottom() - 16, r.width(), 14), Qt::AlignRight | Qt::AlignVCenter, end);
}

} // namespace

GearCard::GearCard(records::Gear gear, int runs, QWidget* parent)
    : QAbstractButton(parent), gear_(std::move(gear)), facts_(factsOf(gear_)), runs_(runs) {
    setFocusPolicy(Qt::StrongFocus);
    setCursor(Qt::PointingHandCursor);
    setText(qs(gear_.name));
    setAccessibleName(kindWords(gear_.kind) + QLatin1Char(' ') + qs(gear_.name) + QStringLiteral(": ") + facts_);
    setToolTip(facts_);
    setSizePolicy(QSizePolicy::Fixed, QSizePolicy::Fixed);
}

QSize GearCard::sizeHint() const { return {kWidth, kHeight}; }

void GearCard::paintDrawing(QPainter& p, const QRectF& r) const {
    using records::GearKind;
    switch (gear_.kind) {
    case GearKind::Charger:
        paintTiers(p, r, gear_.tiers.empty() && gear_.watts ? path::powerRuleTiers(Watts(*gear_.watts)) : gear_.tiers);
        break;
    case GearKind::Trigger: paintTiers(p, r, gear_.tiers); break;
    case GearKind::Cable:
        if (gear_.ohms)
            paintCable(p, r, gear_.ohms->value, false);
        else if (gear_.awg && gear_.metres)
            paintCable(p, r, path::estimatedLoop(*gear_.awg, *gear_.metres).value.value(), true);
        else
            p.fillRect(QRectF(r.left(), r.top() + 4, r.width(), 20), hatching(theme().out, false));
        break;
    case GearKind::Meter: paintMeter(p, r, gear_.meter); break;
    case GearKind::Load:
        paintAmount(p, r, gear_.watts.value_or(0.0) / 200.0, QStringLiteral("200 W"), theme().out);
        break;
    case GearKind::Device:
        paintAmount(p, r, gear_.battery ? gear_.battery->value / 100.0 : 0.0, QStringLiteral("100 Wh"), theme().in);
        break;
    case GearKind::Thermometer:
        p.setFont(app::font(1.2, QFont::DemiBold));
        p.setPen(theme().faint);
        p.drawText(r, Qt::AlignLeft | Qt::AlignVCenter,
                   gear_.kelvin ? QStringLiteral("± %1 K").arg(onScreen(showNumber(*gear_.kelvin)))
                                : QStringLiteral("± ?"));
        break;
    }
}

void GearCard::paintEvent(QPaintEvent*) {
    const Theme& t = theme();
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    p.setPen(QPen(hasFocus() ? t.focus : underMouse() ? t.faint : t.line, hasFocus() ? 2 : 1));
    p.setBrush(t.sheet);
    p.drawRoundedRect(QRectF(rect()).adjusted(1, 1, -1, -1), 4, 4);
    const int inner = kWidth - 3 * kGrid;
    p.setPen(t.ink);
    p.setFont(app::font(1.05, QFont::DemiBold));
    p.drawText(QRect(12, 8, inner - 60, 20), Qt::AlignLeft | Qt::AlignVCenter,
               p.fontMetrics().elidedText(qs(gear_.name), Qt::ElideRight, inner - 60));
    p.setFont(app::font(0.82));
    p.setPen(t.faint);
    p.drawText(QRect(12, 8, inner, 20), Qt::AlignRight | Qt::AlignVCenter,
               runs_ == 1  ? tr("1 run")
               : runs_ > 1 ? tr("%1 runs").arg(runs_)
                           : QString());
    paintDrawing(p, QRectF(12, 34, inner, kDrawing));
    p.setFont(app::font(0.86));
    p.setPen(t.faint);
    p.drawText(QRect(12, 84, inner, 36), Qt::AlignLeft | Qt::AlignTop | Qt::TextWordWrap,
               p.fontMetrics().elidedText(facts_, Qt::ElideRight, 2 * inner - 40));
}

} // namespace otterstone::app
