// A sheet as a table that always has one empty row more.
#pragma once

#include <functional>

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
        return parent.isValid() ? 0 : static_cast<int>(columns_.size());
    }
    [[nodiscard]] QVariant data(const QModelIndex& index, int role) const override;
    [[nodiscard]] QVariant headerData(int section, Qt::Orientation orientation, int role) const override;
    [[nodiscard]] Qt::ItemFlags flags(const QModelIndex& index) const override;
    bool setData(const QModelIndex& index, const QVariant& value, int role) override;

    [[nodiscard]] const records::Sheet& sheet() const { return sheet_; }
    [[nodiscard]] const std::vector<kinds::Column>& columns() const { return columns_; }
    [[nodiscard]] bool readOnly() const { return readOnly_; }
    /// Not told as typed().
    void show(const records::Sheet& sheet, bool readOnly);
    void paste(const QModelIndex& at, const QString& text);
    void removeSheetRow(int row);
    /// Its rows and columns as another hand left them; told as typed().
    void change(const std::function<void(records::Sheet&)>& how);
    void setRemarks(std::vector<kinds::Remark> remarks);

Q_SIGNALS:
    void typed();

private:
    void take(records::Sheet sheet);

    records::Sheet sheet_;
    std::vector<kinds::Column> columns_; ///< of the sheet
    std::vector<kinds::Remark> remarks_;
    bool readOnly_ = false;
};

} // namespace otterstone::app
