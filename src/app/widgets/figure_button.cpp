#include "app/widgets/figure_button.h"

#include <QFontMetrics>
#include <QPainter>

#include "app/help/figure_words.h"
#include "app/theme.h"
#include "app/widgets/on_screen.h"

namespace otterstone::app {

namespace {
QFont nameFont() { return app::font(0.9); }
QFont valueFont() { return app::font(1.35, QFont::DemiBold); }
} // namespace

FigureButton::FigureButton(Working working, QWidget* parent) : QAbstractButton(parent), working_(std::move(working)) {
    setFocusPolicy(Qt::StrongFocus);
    setCheckable(true);
    setCursor(Qt::PointingHandCursor);
    const QString value = working_.isText ? onScreen(working_.note) : onScreen(working_.shown());
    setText(value);
    setAccessibleName(onScreen(working_.label) + QStringLiteral(": ") + value);
    setAccessibleDescription(tr("Opens the working of this figure"));
    setToolTip(figureTip(working_.key, tr("Space or a click opens its working.")));
    setWhatsThis(figureWords(working_.key));
    setSizePolicy(QSizePolicy::Fixed, QSizePolicy::Fixed);
}

QSize FigureButton::sizeHint() const {
    const QFontMetrics name(nameFont());
    const QFontMetrics value(valueFont());
    return {std::max(name.horizontalAdvance(onScreen(working_.label)), value.horizontalAdvance(text())) + 2 * kGrid + 6,
            name.height() + value.height() + kGrid};
}

void FigureButton::paintEvent(QPaintEvent*) {
    const Theme& t = theme();
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    if (isChecked() || underMouse()) {
        p.setPen(Qt::NoPen);
        p.setBrush(t.line);
        p.setOpacity(isChecked() ? 0.8 : 0.4);
        p.drawRoundedRect(rect(), 3, 3);
        p.setOpacity(1.0);
    }
    if (hasFocus()) {
        p.setPen(QPen(t.focus, 2));
        p.setBrush(Qt::NoBrush);
        p.drawRoundedRect(rect().adjusted(1, 1, -1, -1), 3, 3);
    }
    const int x = kGrid;
    p.setFont(nameFont());
    p.setPen(t.faint);
    const QFontMetrics name(nameFont());
    p.drawText(x, kGrid / 2 + name.ascent(), onScreen(working_.label));
    p.setFont(valueFont());
    p.setPen(t.ink);
    const QFontMetrics value(valueFont());
    const int base = kGrid / 2 + name.height() + value.ascent();
    p.drawText(x, base, text());
    // A short stroke under the number says that there is more beneath it.
    p.setPen(QPen(t.faint, 1, Qt::DotLine));
    p.drawLine(x, base + 4, x + value.horizontalAdvance(text()), base + 4);
}

} // namespace otterstone::app
