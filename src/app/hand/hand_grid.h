// The grid itself: Return goes to the next cell and from a row's last filled cell to the next row; a spreadsheet's cells can be pasted.
#pragma once

#include <QTableView>

namespace otterstone::app {

class HandModel;

class HandGrid : public QTableView {
    Q_OBJECT

public:
    explicit HandGrid(HandModel* model, QWidget* parent = nullptr);
    void startTyping();

protected:
    void keyPressEvent(QKeyEvent* event) override;
    QModelIndex moveCursor(CursorAction action, Qt::KeyboardModifiers modifiers) override;
    void closeEditor(QWidget* editor, QAbstractItemDelegate::EndEditHint hint) override;

private:
    void nextRow();

    HandModel* model_;
};

} // namespace otterstone::app
