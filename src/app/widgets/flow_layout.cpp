#include "app/widgets/flow_layout.h"

#include <QWidget>

namespace otterstone::app {

FlowLayout::FlowLayout(QWidget* parent, int gap) : QLayout(parent), gap_(gap) { setContentsMargins(0, 0, 0, 0); }

FlowLayout::~FlowLayout() { qDeleteAll(items_); }

QLayoutItem* FlowLayout::takeAt(int index) {
    return index >= 0 && index < items_.size() ? items_.takeAt(index) : nullptr;
}

QSize FlowLayout::minimumSize() const {
    QSize size;
    for (const QLayoutItem* item : items_)
        size = size.expandedTo(item->minimumSize());
    return size;
}

void FlowLayout::setGeometry(const QRect& rect) {
    QLayout::setGeometry(rect);
    arrange(rect, true);
}

int FlowLayout::arrange(const QRect& rect, bool place) const {
    int x = rect.x();
    int y = rect.y();
    int row = 0;
    for (QLayoutItem* item : items_) {
        const QSize size = item->sizeHint();
        if (x > rect.x() && x + size.width() > rect.right() + 1) {
            x = rect.x();
            y += row + gap_;
            row = 0;
        }
        if (place)
            item->setGeometry({QPoint(x, y), size});
        x += size.width() + gap_;
        row = std::max(row, size.height());
    }
    return y + row - rect.y();
}

} // namespace otterstone::app
