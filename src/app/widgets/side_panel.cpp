#include "app/widgets/side_panel.h"

#include <QLabel>
#include <QPushButton>
#include <QScrollArea>
#include <QVBoxLayout>

#include "app/theme.h"

namespace otterstone::app {

QVBoxLayout* addScrollingColumn(QVBoxLayout* outer) {
    auto* scroll = new QScrollArea;
    scroll->setFrameShape(QFrame::NoFrame);
    scroll->setWidgetResizable(true);
    scroll->setFocusPolicy(Qt::NoFocus);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    scroll->setObjectName(QStringLiteral("clear")); // of the page's ground
    auto* inside = new QWidget;
    inside->setObjectName(QStringLiteral("inside"));
    auto* column = new QVBoxLayout(inside);
    column->setContentsMargins(0, 0, kGrid, 0);
    column->setSpacing(kGrid);
    scroll->setWidget(inside);
    outer->addWidget(scroll, 1);
    return column;
}

void emptyLayout(QLayout* layout) {
    while (QLayoutItem* item = layout->takeAt(0)) {
        if (item->widget()) {
            item->widget()->hide();
            item->widget()->deleteLater();
        }
        delete item;
    }
}

SidePanel::SidePanel(const QString& title, QWidget* parent)
    : QFrame(parent), title_(new QLabel(title)), head_(new QHBoxLayout) {
    setObjectName(QStringLiteral("sheet"));
    setMinimumWidth(340);
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(2 * kGrid, kGrid, kGrid, kGrid);
    title_->setFont(app::font(1.0, QFont::DemiBold));
    auto* close = new QPushButton(tr("Close (Esc)"));
    close->setObjectName(QStringLiteral("quiet"));
    head_->addWidget(title_);
    head_->addStretch();
    head_->addWidget(close);
    all->addLayout(head_);
    body_ = addScrollingColumn(all);
    connect(close, &QPushButton::clicked, this, &SidePanel::closed);
}

} // namespace otterstone::app
