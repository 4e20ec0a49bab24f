// A stack whose pages bring their own scrolling. The ordinary one asks every page, shown or not, for its best height at
// every width whenever anything in one of them changes; with a dozen pages of wrapped words that takes longer than a
// meter's reading.
#pragma once

#include <QStackedWidget>

namespace otterstone::app {

class PageStack : public QStackedWidget {
public:
    using QStackedWidget::QStackedWidget;
    /// What was set as its least size; its pages are not asked.
    [[nodiscard]] QSize sizeHint() const override { return minimumSize(); }
    [[nodiscard]] QSize minimumSizeHint() const override { return minimumSize(); }
    [[nodiscard]] bool hasHeightForWidth() const override { return false; }
};

} // namespace otterstone::app
