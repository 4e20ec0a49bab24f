#include "app/widgets/wrapped_label.h"

#include <algorithm>

#include <QEvent>

namespace otterstone::app {

namespace {
constexpr std::size_t kWidths = 8; // one layout asks for three or four
} // namespace

WrappedLabel::WrappedLabel(const QString& text, QWidget* parent) : QLabel(text, parent) { setWordWrap(true); }

int WrappedLabel::heightForWidth(int width) const {
    if (of_ != text()) {
        asked_.clear();
        of_ = text();
    }
    const auto known = std::ranges::find(asked_, width, &Asked::width);
    if (known != asked_.end())
        return known->height;
    if (asked_.size() == kWidths)
        asked_.clear();
    asked_.push_back({width, QLabel::heightForWidth(width)});
    return asked_.back().height;
}

bool WrappedLabel::event(QEvent* event) {
    switch (event->type()) {
    case QEvent::Polish:
    case QEvent::FontChange:
    case QEvent::StyleChange:
    case QEvent::ContentsRectChange: asked_.clear(); break;
    default: break;
    }
    return QLabel::event(event);
}

} // namespace otterstone::app
