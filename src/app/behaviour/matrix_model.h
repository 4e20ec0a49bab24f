// A matrix sheet as a table: two of its axes down and across, the other two as layers of which one is shown.
#pragma once

#include <array>
#include <functional>

#include <QAbstractTableModel>

#include "core/kinds/matrix/matrix.h"
#include "core/kinds/rows.h"

namespace otterstone::app {

class MatrixModel : public QAbstractTableModel {
    Q_OBJECT

public:
    using Axis = kinds::MatrixAxis;
    explicit MatrixModel(QObject* parent = nullptr) : QAbstractTableModel(parent) {}
    [[nodiscard]] int rowCount(const QModelIndex& parent = {}) const override {
        return parent.isValid() ? 0 : static_cast<int>(shown(rows_).size());
    }
    [[nodiscard]] int columnCount(const QModelIndex& parent = {}) const override {
        return parent.isValid() ? 0 : static_cast<int>(shown(columns_).size());
    }
    [[nodiscard]] QVariant data(const QModelIndex& index, int role) const override;
    [[nodiscard]] QVariant headerData(int section, Qt::Orientation orientation, int role) const override;
    [[nodiscard]] Qt::ItemFlags flags(const QModelIndex& index) const override;
    bool setData(const QModelIndex& index, const QVariant& value, int role) override;

    [[nodiscard]] const records::Sheet& sheet() const { return sheet_; }
    [[nodiscard]] bool readOnly() const { return readOnly_; }
    /// Names of the drawer and the label come first, those of the sheet behind them. `another` than the run before
    /// begins with the first layer.
    void show(const records::Sheet& sheet, const setup::Facts& facts, bool readOnly, bool another);
    /// Lays a spreadsheet's cells over the grid from one on: all of them, or none and told as wrong().
    void paste(const QModelIndex& at, const QString& text);

    [[nodiscard]] const std::vector<std::string>& names(Axis axis) const { return names_[slot(axis)]; }
    [[nodiscard]] Axis rows() const { return rows_; }
    [[nodiscard]] Axis columns() const { return columns_; }
    /// The two that are its layers, in their order.
    [[nodiscard]] std::array<Axis, 2> layers() const;
    [[nodiscard]] const std::string& layer(Axis axis) const { return layer_[slot(axis)]; }
    /// Turns the table: what goes down, and what across. Precondition: two of them.
    void turn(Axis rows, Axis columns);
    /// A name is added when it is a new one.
    void setLayer(Axis axis, const std::string& name);
    void add(Axis axis, const std::string& name);
    /// To the layer before or behind; stays at the ends.
    bool step(int by);

Q_SIGNALS:
    void typed();
    void wrong(const QString& sentence);
    void turned(); ///< axes, layers or names are others

private:
    static constexpr std::size_t slot(Axis axis) { return static_cast<std::size_t>(axis); }
    template<class T>
    using OfEach = std::array<T, kinds::kMatrixAxes.size()>;
    [[nodiscard]] const std::vector<std::string>& shown(Axis axis) const { return names_[slot(axis)]; }
    [[nodiscard]] OfEach<std::string> placeOf(const QModelIndex& at) const;
    [[nodiscard]] std::vector<std::string>* row(const QModelIndex& at);
    [[nodiscard]] bool put(const QModelIndex& at, const QString& text);
    [[nodiscard]] OfEach<std::vector<std::string>> namesNow() const;
    void anew(const std::function<void()>& change);

    records::Sheet sheet_{records::Kind::Matrix, {}};
    setup::Facts facts_;
    OfEach<std::vector<std::string>> names_, added_;
    OfEach<std::string> layer_;
    Axis rows_ = Axis::Source, columns_ = Axis::Cable;
    bool readOnly_ = false;
};

} // namespace otterstone::app
