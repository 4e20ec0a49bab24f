#include "app/choose/choice_bars.h"

#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>

#include "app/theme.h"
#include "app/widgets/on_screen.h"
#include "core/judgement/verdict.h"
#include "core/quantity/format.h"

namespace otterstone::app {

namespace {

constexpr double kName = 132.0, kWords = 210.0, kRow = 34.0, kKeyRow = 20.0;

// Pieces are told apart by lightness, edge and hatching, and named in the key in the same order.
QColor pieceColour(std::size_t k, std::size_t of) {
    const Theme& t = theme();
    const double share = of > 1 ? static_cast<double>(k) / static_cast<double>(of - 1) : 0.0;
    const QColor from = t.in, to = t.kind == ThemeKind::Dark ? QColor(0x3A, 0x4C, 0x58) : QColor(0xC9, 0xD9, 0xE2);
    return QColor::fromRgbF(static_cast<float>(from.redF() + share * (to.redF() - from.redF())),
                            static_cast<float>(from.greenF() + share * (to.greenF() - from.greenF())),
                            static_cast<float>(from.blueF() + share * (to.blueF() - from.blueF())));
}

QString keyWords(const judgement::Purpose& p, std::size_t k) {
    return QStringLiteral("%1 %2").arg(k + 1).arg(qs(judgement::figureKind(p.scales[k].figure)->words));
}

// Lays the key out in lines; `draw` gets each entry's place.
template<class F>
double layOutKey(const judgement::Purpose& p, double width, F draw) {
    const QFontMetricsF metrics(app::font(0.84));
    double x = 0.0, y = 0.0;
    for (std::size_t k = 0; k < p.scales.size(); ++k) {
        const double wide = 22.0 + metrics.horizontalAdvance(keyWords(p, k)) + 18.0;
        if (x > 0.0 && x + wide > width) {
            x = 0.0;
            y += kKeyRow;
        }
        draw(k, QPointF(x, y));
        x += wide;
    }
    return y + kKeyRow;
}

} // namespace

int choiceHeight(const judgement::Ranking& ranking, const judgement::Purpose& purpose, int width) {
    return static_cast<int>(static_cast<double>(ranking.banks.size()) * kRow + 12.0 +
                            layOutKey(purpose, width, [](std::size_t, QPointF) {}));
}

void paintChoice(QPainter& p, const QRectF& area, const judgement::Comparison& comparison,
                 const judgement::Ranking& ranking, const judgement::Purpose& purpose) {
    const Theme& t = theme();
    p.setRenderHint(QPainter::Antialiasing);
    const double left = area.left() + kName, full = area.width() - kName - kWords;
    double y = area.top();
    for (const judgement::Ranked& r : ranking.banks) {
        const double base = y + 6.0, height = kRow - 14.0;
        p.setFont(app::font(0.98, QFont::DemiBold));
        p.setPen(r.passes() ? t.ink : t.faint);
        p.drawText(
            QRectF(area.left(), y, kName - 10, kRow - 2), Qt::AlignLeft | Qt::AlignVCenter,
            p.fontMetrics().elidedText(qs(comparison.banks[r.bank]), Qt::ElideRight, static_cast<int>(kName) - 10));
        double x = left;
        for (std::size_t k = 0; k < r.parts.size(); ++k) {
            const double wide = full * r.parts[k].points() / 100.0;
            const QRectF piece(x, base, wide, height);
            if (r.passes())
                p.fillRect(piece,
                           r.parts[k].unknown ? hatching(t.loss, false) : QBrush(pieceColour(k, r.parts.size())));
            p.setPen(QPen(r.passes() ? t.paper : t.line, 1));
            p.setBrush(Qt::NoBrush);
            p.drawRect(piece);
            if (wide > 16.0) {
                p.setFont(app::font(0.78));
                p.setPen(!r.passes() || r.parts[k].unknown || k * 2 >= r.parts.size() ? t.ink : t.paper);
                p.drawText(piece, Qt::AlignCenter,
                           QString::number(k + 1) + (r.parts[k].unlike ? QStringLiteral("*") : QString()));
            }
            x += wide;
        }
        // The whisker is the score's ±.
        const double u = full * r.score.expanded() / 100.0;
        p.setPen(QPen(t.ink, 1.2));
        if (u > 1.0) {
            const double mid = base + height / 2.0, from = std::max(left, x - u), to = std::min(left + full, x + u);
            p.drawLine(QPointF(from, mid), QPointF(to, mid));
            for (const double end : {from, to})
                p.drawLine(QPointF(end, mid - 4), QPointF(end, mid + 4));
        }
        p.setFont(app::font(0.9));
        p.setPen(t.ink);
        const QString words =
            r.passes() ? QObject::tr(r.notKnown.empty() ? "%1 · best: %2" : "%1 · best: %2 ?")
                             .arg(onScreen(show(r.score, Unit::Point)), onScreen(judgement::chanceWords(r.chanceBest)))
                       : QObject::tr("out: %1").arg(onScreen(r.stoppedBy.front()));
        p.drawText(QRectF(area.right() - kWords + 12, y, kWords - 12, kRow - 2), Qt::AlignLeft | Qt::AlignVCenter,
                   p.fontMetrics().elidedText(words, Qt::ElideRight, static_cast<int>(kWords) - 12));
        p.setPen(QPen(t.line, 1));
        p.drawLine(QPointF(left, base), QPointF(left, base + height));
        y += kRow;
    }
    y += 6.0;
    p.setFont(app::font(0.84));
    layOutKey(purpose, area.width(), [&](std::size_t k, QPointF at) {
        p.fillRect(QRectF(area.left() + at.x(), y + at.y() + 4, 14, 12), pieceColour(k, purpose.scales.size()));
        p.setPen(t.faint);
        p.drawText(QPointF(area.left() + at.x() + 20, y + at.y() + 14), keyWords(purpose, k));
    });
}

ChoiceBars::ChoiceBars(QWidget* parent) : QWidget(parent) {
    setAccessibleName(tr("Scores and what makes them up"));
    setToolTip(tr("Click a bank to see how its score comes about"));
}

void ChoiceBars::show(judgement::SharedComparison comparison, const judgement::Ranking& ranking,
                      const judgement::Purpose& purpose) {
    comparison_ = std::move(comparison);
    ranking_ = ranking;
    purpose_ = purpose;
    setFixedHeight(choiceHeight(ranking_, purpose_, std::max(width(), 300)));
    setAccessibleDescription(onScreen(ranking_.sentence));
    update();
}

void ChoiceBars::paintEvent(QPaintEvent*) {
    QPainter p(this);
    paintChoice(p, QRectF(rect()), *comparison_, ranking_, purpose_);
}

void ChoiceBars::resizeEvent(QResizeEvent*) {
    if (const int tall = choiceHeight(ranking_, purpose_, width()); tall != height())
        setFixedHeight(tall);
}

void ChoiceBars::mousePressEvent(QMouseEvent* event) {
    const int place = static_cast<int>(event->position().y() / kRow);
    if (place >= 0 && place < static_cast<int>(ranking_.banks.size()))
        Q_EMIT placeWanted(place);
}

} // namespace otterstone::app
