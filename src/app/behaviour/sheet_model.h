// A sheet as a table that always has one empty row more.
#pragma once

#include <QAbstractTableModel>

#include "core/kinds/rows.h"

namespace otterstone::app {

class SheetModel : public QAbstractTableModel {
    Q_OBJECT

public:
    explicit SheetModel(QObject* parent = nullptr) : QAbstractTableModel(parent) {}
    [[nodiscard]] int rowCount(const QModelIndex& parent = {}) const override {
        return parent.isValid() ? 0 : static_cast<int>(sheet_.rows.size()) + 1;
    }
    [[nodiscard]] int columnCount(const QModelIndex& parent = {}) const override {
        return parent.isValid() ? 0 : static_cast<int>(kinds::columnsOf(sheet_.kind).size());
    }
    [[nodiscard]] QVariant data(const QModelIndex& index, int role) const override;
    [[nodiscard]] QVariant headerData(int section, Qt::Orientation orientation, int role) const override;
    [[nodiscard]] Qt::ItemFlags flags(const QModelIndex& index) const override;
    bool setData(const QModelIndex& index, const QVariant& value, int role) override;

    [[nodiscard]] const records::Sheet& sheet() const { return sheet_; }
    /// Not told as typed().
    void show(const records::Sheet& sheet, bool readOnly);
    void paste(const QModelIndex& at, const QString& text);
    void removeSheetRow(int row);
    void setRemarks(std::vector<kinds::Remark> remarks);

Q_SIGNALS:
    void typed();

private:
    records::Sheet sheet_;
    std::vector<kinds::Remark> remarks_;
    bool readOnly_ = false;
};

} // namespace otterstone::app
