#include "app/widgets/typing_grid.h"

#include <QClipboard>
#include <QGuiApplication>
#include <QHeaderView>
#include <QKeyEvent>

#include "app/theme.h"
#include "app/widgets/row_pixels.h"

namespace otterstone::app {

TypingGrid::TypingGrid(QAbstractItemModel* source, QWidget* parent) : QTableView(parent) {
    setModel(source);
    setEditTriggers(QAbstractItemView::AnyKeyPressed | QAbstractItemView::DoubleClicked |
                    QAbstractItemView::EditKeyPressed);
    setSelectionMode(QAbstractItemView::SingleSelection);
    setTabKeyNavigation(true);
    setFont(app::font(1.1));
    for (QHeaderView* header : {horizontalHeader(), verticalHeader()})
        header->setFont(app::font(1.0)); // what is typed is larger than what names it
    verticalHeader()->setDefaultSectionSize(rowPixels(30));
    verticalHeader()->setObjectName(QStringLiteral("rows"));
    horizontalHeader()->setHighlightSections(false);
    horizontalHeader()->setStretchLastSection(true);
}

void TypingGrid::startTyping() {
    setCurrentIndex(model()->index(model()->rowCount() - 1, 0));
    setFocus();
}

void TypingGrid::nextRow() {
    const int row = currentIndex().row() + 1;
    if (row >= model()->rowCount())
        return;
    if (beginRow)
        beginRow(row);
    // What stands there already need not be typed: on to the first empty cell, below one that was filled if there is
    // one.
    const auto filled = [this](int r, int column) { return !model()->index(r, column).data().toString().isEmpty(); };
    int first = -1, below = -1;
    for (int column = 0; column < model()->columnCount(); ++column) {
        if (isColumnHidden(column) || filled(row, column))
            continue;
        first = first < 0 ? column : first;
        if (below < 0 && filled(row - 1, column))
            below = column;
    }
    setCurrentIndex(model()->index(row, below >= 0 ? below : std::max(0, first)));
    scrollTo(currentIndex());
}

QModelIndex TypingGrid::moveCursor(CursorAction action, Qt::KeyboardModifiers modifiers) {
    // Tab at the end of the last row does not jump back to the top.
    if (action == MoveNext && currentIndex().row() == model()->rowCount() - 1 &&
        currentIndex().column() == model()->columnCount() - 1)
        return currentIndex();
    return QTableView::moveCursor(action, modifiers);
}

void TypingGrid::closeEditor(QWidget* editor, QAbstractItemDelegate::EndEditHint hint) {
    const bool byReturn = hint == QAbstractItemDelegate::SubmitModelCache;
    QTableView::closeEditor(editor, byReturn ? QAbstractItemDelegate::NoHint : hint);
    if (byReturn)
        nextRow();
}

void TypingGrid::keyPressEvent(QKeyEvent* event) {
    if (event->matches(QKeySequence::Paste)) {
        if (paste)
            paste(currentIndex(), QGuiApplication::clipboard()->text());
        return;
    }
    if (state() != EditingState && (event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter) &&
        !(event->modifiers() & Qt::ControlModifier)) {
        nextRow();
        return;
    }
    if (state() != EditingState && event->key() == Qt::Key_Delete && event->modifiers() == Qt::ShiftModifier) {
        if (removeRow)
            removeRow(currentIndex().row());
        return;
    }
    if (state() != EditingState && event->key() == Qt::Key_Delete) {
        model()->setData(currentIndex(), QString(), Qt::EditRole);
        return;
    }
    QTableView::keyPressEvent(event);
}

} // namespace otterstone::app
