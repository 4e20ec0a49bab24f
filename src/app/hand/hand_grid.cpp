#include "app/hand/hand_grid.h"

#include <QClipboard>
#include <QGuiApplication>
#include <QHeaderView>
#include <QKeyEvent>

#include "app/hand/hand_model.h"
#include "app/theme.h"

namespace otterstone::app {

HandGrid::HandGrid(HandModel* model, QWidget* parent) : QTableView(parent), model_(model) {
    setModel(model);
    setAccessibleName(tr("Readings"));
    setEditTriggers(QAbstractItemView::AnyKeyPressed | QAbstractItemView::DoubleClicked | QAbstractItemView::EditKeyPressed);
    setSelectionMode(QAbstractItemView::SingleSelection);
    setTabKeyNavigation(true);
    setFont(app::font(1.1));
    verticalHeader()->setDefaultSectionSize(30);
    verticalHeader()->setObjectName(QStringLiteral("rows"));
    horizontalHeader()->setHighlightSections(false);
    for (int k = 0; k < model->columnCount(); ++k)
        setColumnWidth(k, k == 0 ? 96 : 64);
    horizontalHeader()->setStretchLastSection(true);
}

void HandGrid::startTyping() {
    setCurrentIndex(model_->index(model_->rowCount() - 1, 0));
    setFocus();
}

void HandGrid::nextRow() {
    const int row = currentIndex().row() + 1;
    if (row >= model_->rowCount())
        return;
    // The rhythm goes on: a row after "+15 min" begins with "+15 min".
    const QString last = model_->index(row - 1, 0).data().toString();
    if (row == model_->rowCount() - 1 && last.startsWith(QLatin1Char('+')))
        model_->setData(model_->index(row, 0), last, Qt::EditRole);
    const bool timed = !model_->index(row, 0).data().toString().isEmpty();
    setCurrentIndex(model_->index(row, timed ? 1 : 0));
    scrollTo(currentIndex());
}

QModelIndex HandGrid::moveCursor(CursorAction action, Qt::KeyboardModifiers modifiers) {
    // Tab at the end of the last row does not jump back to the top.
    if (action == MoveNext && currentIndex().row() == model_->rowCount() - 1 && currentIndex().column() == model_->columnCount() - 1)
        return currentIndex();
    return QTableView::moveCursor(action, modifiers);
}

void HandGrid::closeEditor(QWidget* editor, QAbstractItemDelegate::EndEditHint hint) {
    const bool byReturn = hint == QAbstractItemDelegate::SubmitModelCache;
    QTableView::closeEditor(editor, byReturn ? QAbstractItemDelegate::NoHint : hint);
    if (byReturn)
        nextRow();
}

void HandGrid::keyPressEvent(QKeyEvent* event) {
    if (event->matches(QKeySequence::Paste)) {
        model_->paste(currentIndex(), QGuiApplication::clipboard()->text());
        return;
    }
    if (state() != EditingState && (event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter)) {
        nextRow();
        return;
    }
    if (state() != EditingState && event->key() == Qt::Key_Delete && event->modifiers() == Qt::ShiftModifier) {
        model_->removeRow(currentIndex().row());
        return;
    }
    if (state() != EditingState && event->key() == Qt::Key_Delete) {
        model_->setData(currentIndex(), QString(), Qt::EditRole);
        return;
    }
    QTableView::keyPressEvent(event);
}

} // namespace otterstone::app
