// A grid for typing: Return goes on to the next row, to where the one above has something, Tab to the next cell, a
// spreadsheet's cells can be pasted, Shift+Del takes a row away.
#pragma once

#include <functional>

#include <QTableView>

namespace otterstone::app {

class TypingGrid : public QTableView {
    Q_OBJECT

public:
    explicit TypingGrid(QAbstractItemModel* model, QWidget* parent = nullptr);
    void startTyping();
    /// As wide as the widest of a column's cells, in pixels.
    [[nodiscard]] int contentsWidth(int column) const { return sizeHintForColumn(column); }

    /// Lays text over the cells from one on; removes a row. Without them these keys do nothing.
    std::function<void(const QModelIndex&, const QString&)> paste;
    std::function<void(int)> removeRow;
    /// Called with a row before its first cell is sought.
    std::function<void(int)> beginRow;

protected:
    void keyPressEvent(QKeyEvent* event) override;
    QModelIndex moveCursor(CursorAction action, Qt::KeyboardModifiers modifiers) override;
    void closeEditor(QWidget* editor, QAbstractItemDelegate::EndEditHint hint) override;
    void nextRow();
};

} // namespace otterstone::app
