#include "app/hand/hand_grid.h"

#include "app/hand/hand_model.h"

namespace otterstone::app {

HandGrid::HandGrid(HandModel* model, QWidget* parent) : TypingGrid(model, parent), model_(model) {
    setAccessibleName(tr("Readings"));
    paste = [model](const QModelIndex& at, const QString& text) { model->paste(at, text); };
    removeRow = [model](int row) { model->removeRow(row); };
    for (int k = 0; k < model->columnCount(); ++k)
        setColumnWidth(k, k == 0 ? 96 : 64);
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

} // namespace otterstone::app
