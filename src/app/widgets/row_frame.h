// The frame of a row in the window's lists: raised and marked at its left when selected, ringed when it has the focus.
#pragma once

#include <QPainter>
#include <QStyleOptionViewItem>

#include "app/theme.h"

namespace otterstone::app {

inline void paintRowFrame(QPainter* p, const QRect& r, const QStyleOptionViewItem& option) {
    constexpr int kRound = 3, kMark = 6; // pixels
    const Theme& t = theme();
    if (option.state.testFlag(QStyle::State_Selected)) {
        p->setPen(QPen(t.line, 1));
        p->setBrush(t.sheet);
        p->drawRoundedRect(r, kRound, kRound);
        p->fillRect(QRect(r.left(), r.top() + kMark, 3, r.height() - 2 * kMark), t.focus);
    }
    if (option.state.testFlag(QStyle::State_HasFocus)) {
        p->setPen(QPen(t.focus, 2));
        p->setBrush(Qt::NoBrush);
        p->drawRoundedRect(r.adjusted(1, 1, -1, -1), kRound, kRound);
    }
}

} // namespace otterstone::app
