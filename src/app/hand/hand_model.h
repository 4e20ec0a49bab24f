// The rows a tester types, as a table that always has one empty row more.
#pragma once

#include <QAbstractTableModel>

#include "core/kinds/traced/hand.h"

namespace otterstone::app {

class HandModel : public QAbstractTableModel {
    Q_OBJECT

public:
    explicit HandModel(QObject* parent = nullptr) : QAbstractTableModel(parent) {}
    [[nodiscard]] int rowCount(const QModelIndex& parent = {}) const override {
        return parent.isValid() ? 0 : static_cast<int>(rows_.size()) + 1;
    }
    [[nodiscard]] int columnCount(const QModelIndex& parent = {}) const override {
        return parent.isValid() ? 0 : static_cast<int>(records::kHandColumns);
    }
    [[nodiscard]] QVariant data(const QModelIndex& index, int role) const override;
    [[nodiscard]] QVariant headerData(int section, Qt::Orientation orientation, int role) const override;
    [[nodiscard]] Qt::ItemFlags flags(const QModelIndex& index) const override {
        return QAbstractTableModel::flags(index) | Qt::ItemIsEditable;
    }
    bool setData(const QModelIndex& index, const QVariant& value, int role) override;

    [[nodiscard]] const std::vector<records::HandRow>& rows() const { return rows_; }
    void setRows(std::vector<records::HandRow> rows);
    /// Lays a spreadsheet's cells over the table from a cell on.
    void paste(const QModelIndex& at, const QString& text);
    void removeRow(int row);
    void setRemarks(const std::vector<kinds::HandRemark>& remarks);

Q_SIGNALS:
    void typed();

private:
    std::vector<records::HandRow> rows_;
    std::vector<kinds::HandRemark> remarks_;
};

} // namespace otterstone::app
