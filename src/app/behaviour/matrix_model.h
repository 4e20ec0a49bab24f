// A matrix sheet as chargers down and cables across, for one port with the computer on, off or not asked about.
#pragma once

#include <QAbstractTableModel>

#include "core/kinds/rows.h"

namespace otterstone::app {

class MatrixModel : public QAbstractTableModel {
    Q_OBJECT

public:
    explicit MatrixModel(QObject* parent = nullptr) : QAbstractTableModel(parent) {}
    [[nodiscard]] int rowCount(const QModelIndex& parent = {}) const override {
        return parent.isValid() ? 0 : static_cast<int>(chargers_.size());
    }
    [[nodiscard]] int columnCount(const QModelIndex& parent = {}) const override {
        return parent.isValid() ? 0 : static_cast<int>(cables_.size());
    }
    [[nodiscard]] QVariant data(const QModelIndex& index, int role) const override;
    [[nodiscard]] QVariant headerData(int section, Qt::Orientation orientation, int role) const override;
    [[nodiscard]] Qt::ItemFlags flags(const QModelIndex& index) const override;
    bool setData(const QModelIndex& index, const QVariant& value, int role) override;

    [[nodiscard]] const records::Sheet& sheet() const { return sheet_; }
    /// Names of the gear drawer come first, others from the sheet behind them.
    void show(const records::Sheet& sheet, const std::vector<std::string>& chargers,
              const std::vector<std::string>& cables, bool readOnly);
    /// Which of its layers is shown.
    void setLayer(const std::string& port, const std::string& computer);

Q_SIGNALS:
    void typed();
    void wrong(const QString& sentence);

private:
    [[nodiscard]] std::vector<std::string>* row(const QModelIndex& index, bool make);
    records::Sheet sheet_{records::Kind::Matrix, {}};
    std::vector<std::string> chargers_, cables_;
    std::string port_, computer_;
    bool readOnly_ = false;
};

} // namespace otterstone::app
