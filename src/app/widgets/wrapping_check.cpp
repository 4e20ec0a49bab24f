#include "app/widgets/wrapping_check.h"

#include <QPainter>
#include <QStyleOptionButton>

#include "app/theme.h"

namespace otterstone::app {

namespace {

constexpr int kBox = 3 * kGrid; // room for the box at the left

} // namespace

WrappingCheck::WrappingCheck(const QString& words, QWidget* parent) : QCheckBox(words, parent) {
    QSizePolicy policy(QSizePolicy::Preferred, QSizePolicy::Preferred);
    policy.setHeightForWidth(true);
    setSizePolicy(policy);
}

int WrappingCheck::heightForWidth(int width) const {
    const QRect words =
        fontMetrics().boundingRect(QRect(0, 0, std::max(60, width - kBox), 10000), Qt::TextWordWrap, text());
    return std::max(words.height(), 2 * kGrid) + kGrid / 2;
}

QSize WrappingCheck::sizeHint() const {
    return {kBox + fontMetrics().horizontalAdvance(text()) + 4, heightForWidth(100000)};
}
QSize WrappingCheck::minimumSizeHint() const { return {140, heightForWidth(100000)}; }

void WrappingCheck::paintEvent(QPaintEvent*) {
    QPainter p(this);
    QStyleOptionButton option;
    initStyleOption(&option);
    option.text.clear();
    option.rect = QRect(0, 0, kBox, std::min(height(), fontMetrics().height() + kGrid / 2));
    style()->drawControl(QStyle::CE_CheckBox, &option, &p, this);
    p.setPen(hasFocus() ? theme().focus : theme().ink);
    p.drawText(QRect(kBox, kGrid / 4, width() - kBox, height()), Qt::TextWordWrap, text());
}

} // namespace otterstone::app
