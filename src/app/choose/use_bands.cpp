#include "app/choose/use_bands.h"

#include <algorithm>
#include <cmath>

#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>

#include "app/findings/claims_table.h"
#include "app/theme.h"
#include "app/widgets/on_screen.h"
#include "core/quantity/format.h"

namespace otterstone::app {

namespace {

constexpr double kBandName = 132.0, kBandWords = 132.0, kBand = 26.0, kLane = 19.0, kAxis = 20.0, kPad = 3.0;
constexpr double kMostDays = 40.0, kMostPieces = 24.0; // shown day by day, in a day; of more a lane is one band

// Days in which the band's story is told: those asked for, or until the last bank is empty.
double spanOf(const plan::UsePlan& use, double days) {
    double span = days;
    for (const plan::BankUse& b : use.banks) {
        if (b.days && !(days > 0.0))
            span = std::max(span, (b.days->value.value() + b.days->value.expanded()) / 86400.0);
    }
    return span > 0.0 ? span * 1.04 : 1.0;
}

double stepOf(double span) {
    double step = 1.0;
    for (const double next : {2.0, 5.0, 7.0, 14.0, 28.0, 56.0, 112.0, 364.0, 3640.0}) {
        if (span / step > 12.0)
            step = next;
    }
    while (span / step > 12.0)
        step *= 10.0;
    return span < 2.0 ? 0.25 : step;
}

class UseDraughtsman {
public:
    UseDraughtsman(QPainter& p, const QRectF& area, const plan::UsePlan& use, const std::vector<plan::Need>& needs,
                   double days)
        : p_(p), area_(area), use_(use), needs_(needs), days_(days), span_(spanOf(use, days)) {}

    void draw() {
        p_.setRenderHint(QPainter::Antialiasing);
        double y = area_.top();
        for (const plan::BankUse& b : use_.banks) {
            band(b, y);
            y += kBand;
        }
        axis(y);
        y += kAxis;
        for (const plan::Need& n : needs_) {
            lane(n, y);
            y += kLane;
        }
        if (days_ > 0.0) { // until when it is to last
            p_.setPen(QPen(theme().ink, 1, Qt::DashLine));
            p_.drawLine(QPointF(at(days_), area_.top()), QPointF(at(days_), y));
        }
    }

private:
    [[nodiscard]] double left() const { return area_.left() + kBandName; }
    [[nodiscard]] double width() const { return area_.width() - kBandName - kBandWords; }
    [[nodiscard]] double at(double day) const { return left() + width() * std::min(day, span_) / span_; }

    void name(const QString& words, double y, double height, bool strong) {
        p_.setFont(strong ? app::font(0.98, QFont::DemiBold) : app::font(0.88));
        p_.setPen(strong ? theme().ink : theme().faint);
        p_.drawText(QRectF(area_.left(), y, kBandName - 10, height), Qt::AlignLeft | Qt::AlignVCenter,
                    p_.fontMetrics().elidedText(words, Qt::ElideRight, static_cast<int>(kBandName) - 10));
    }
    void told(const QString& words, double y, double height, const QColor& colour) {
        p_.setFont(app::font(0.88));
        p_.setPen(colour);
        p_.drawText(QRectF(area_.right() - kBandWords + 12, y, kBandWords - 12, height),
                    Qt::AlignLeft | Qt::AlignVCenter,
                    p_.fontMetrics().elidedText(words, Qt::ElideRight, static_cast<int>(kBandWords) - 12));
    }

    // One filling: from full at `from`, through its knots; what lies beyond the picture is cut off.
    void falls(double from, const std::vector<plan::Left>& knots, double top, double base, bool first) {
        QPainterPath path(QPointF(at(from), base));
        for (const plan::Left& k : knots)
            path.lineTo(left() + width() * (from + k.day) / span_, base - (base - top) * k.share);
        path.closeSubpath();
        QColor colour = theme().out;
        colour.setAlphaF(first ? 0.55F : 0.3F);
        p_.save();
        p_.setClipRect(QRectF(left(), top - 2, width(), base - top + 4));
        p_.fillPath(path, colour);
        p_.setPen(QPen(theme().out, 1.4));
        for (std::size_t k = 1; k < knots.size(); ++k)
            p_.drawLine(
                QPointF(left() + width() * (from + knots[k - 1].day) / span_, base - (base - top) * knots[k - 1].share),
                QPointF(left() + width() * (from + knots[k].day) / span_, base - (base - top) * knots[k].share));
        p_.restore();
    }

    void band(const plan::BankUse& b, double y) {
        const Theme& t = theme();
        const double top = y + kPad, base = y + kBand - kPad;
        name(qs(b.bank), y, kBand, true);
        p_.setPen(QPen(t.line, 1));
        p_.drawLine(QPointF(left(), base), QPointF(left() + width(), base));
        if (!b.days || b.left.empty()) {
            const QString why = b.cannot.empty() ? QObject::tr("not known yet") : QObject::tr("does not run it");
            p_.fillRect(QRectF(left(), top, width(), base - top), hatching(t.loss, false));
            told(why, y, kBand, t.faint);
            return;
        }
        falls(0.0, b.left, top, base, true);
        const double rhythm = b.daysEmpty->value.value() / 86400.0;
        for (const double day : b.rechargeOnDay) {
            if (day >= span_)
                break;
            falls(day, {{0.0, 1.0}, {rhythm, 0.0}}, top, base, false);
            p_.setPen(QPen(t.in, 2)); // filled up
            p_.drawLine(QPointF(at(day), base), QPointF(at(day), top));
            p_.drawLine(QPointF(at(day), top), QPointF(at(day) - 3.5, top + 5));
            p_.drawLine(QPointF(at(day), top), QPointF(at(day) + 3.5, top + 5));
        }
        // Until when: the whisker is its ±.
        const double lasts = b.days->value.value() / 86400.0, u = b.days->value.expanded() / 86400.0;
        if (lasts - u < span_ && u > 0.0) {
            p_.setPen(QPen(t.ink, 1.2));
            const double from = at(std::max(0.0, lasts - u)), to = at(lasts + u), mid = base - 3.0;
            p_.drawLine(QPointF(from, mid), QPointF(to, mid));
            for (const double end : {from, to})
                p_.drawLine(QPointF(end, mid - 3), QPointF(end, mid + 3));
        }
        const bool asked = b.suffices != judgement::Verdict::NotTested;
        const QString days =
            QObject::tr("%1 d").arg(onScreen(otterstone::show(b.days->value / Measured(86400.0), Unit::None)));
        told((asked ? verdictSign(b.suffices) + QLatin1Char(' ') : QString()) + days, y, kBand,
             asked ? verdictColour(b.suffices) : t.ink);
    }

    void axis(double y) {
        p_.setFont(app::font(0.8));
        const double step = stepOf(span_);
        for (double day = 0.0; day <= span_; day += step) {
            p_.setPen(QPen(theme().line, 1));
            p_.drawLine(QPointF(at(day), y), QPointF(at(day), y + 4));
            p_.setPen(theme().faint);
            p_.drawText(QRectF(at(day) - 30, y + 3, 60, kAxis - 4), Qt::AlignHCenter | Qt::AlignTop,
                        day == 0.0 ? QObject::tr("0 d") : onScreen(showNumber(day, 4)));
        }
    }

    // When it is used in a day, or how often it is charged; an edge alone while its own battery does it.
    void lane(const plan::Need& n, double y) {
        const Theme& t = theme();
        name(qs(n.name), y, kLane, false);
        const double perDay = *plan::wattHoursPerDay(n);
        told(QObject::tr("%1 Wh a day").arg(onScreen(showNumber(perDay, 3))), y, kLane, t.faint);
        const double own = n.startsFull && n.battery ? n.battery->value / perDay : 0.0;
        const double pieces = n.watts && n.hoursPerDay ? 1.0 : std::max(1.0, std::round(n.chargesPerDay.value_or(1.0)));
        const double share = n.watts && n.hoursPerDay ? *n.hoursPerDay / 24.0
                                                      : std::min(0.6, 0.12 * n.chargesPerDay.value_or(1.0)) / pieces;
        const auto piece = [&](double from, double to) {
            const QRectF box(at(from), y + 6, std::max(1.0, at(to) - at(from)), kLane - 12);
            if (from < own) {
                p_.setPen(QPen(t.faint, 1));
                p_.setBrush(Qt::NoBrush);
                p_.drawRect(box);
            } else {
                p_.fillRect(box, t.out);
            }
        };
        if (span_ > kMostDays || pieces > kMostPieces) {
            if (own > 0.0)
                piece(0.0, std::min(own, span_));
            if (own < span_)
                piece(own, span_);
            return;
        }
        for (double day = 0.0; day < span_; day += 1.0) {
            for (double k = 0.0; k < pieces; k += 1.0) {
                const double from = day + k / pieces;
                if (from < span_)
                    piece(from, std::min(from + share, span_));
            }
        }
    }

    QPainter& p_;
    QRectF area_;
    const plan::UsePlan& use_;
    const std::vector<plan::Need>& needs_;
    double days_;
    double span_;
};

} // namespace

int useHeight(const plan::UsePlan& use, const std::vector<plan::Need>& needs) {
    return use.banks.empty() ? 0
                             : static_cast<int>(kBand * static_cast<double>(use.banks.size()) + kAxis +
                                                kLane * static_cast<double>(needs.size()) + kPad);
}

void paintUse(QPainter& painter, const QRectF& area, const plan::UsePlan& use, const std::vector<plan::Need>& needs,
              double days) {
    UseDraughtsman(painter, area, use, needs, days).draw();
}

UseBands::UseBands(QWidget* parent) : QWidget(parent) {
    setAccessibleName(tr("How each bank empties day by day"));
    setToolTip(tr("Each band is what is left in the bank; an arrow fills it up again. Below, when the devices draw: an "
                  "edge alone while their own batteries do"));
}

void UseBands::show(const plan::UsePlan& use, const std::vector<plan::Need>& needs, double days) {
    use_ = use;
    needs_ = needs;
    days_ = days;
    setFixedHeight(useHeight(use_, needs_));
    setAccessibleDescription(onScreen(use_.sentence));
    update();
}

void UseBands::paintEvent(QPaintEvent*) {
    QPainter p(this);
    if (!use_.banks.empty())
        paintUse(p, QRectF(rect()), use_, needs_, days_);
}

void UseBands::mousePressEvent(QMouseEvent* event) {
    const int row = static_cast<int>(event->position().y() / kBand);
    if (row >= 0 && row < static_cast<int>(use_.banks.size()))
        Q_EMIT bankWanted(row);
}

} // namespace otterstone::app
