#include "app/hand/hand_model.h"

#include "app/theme.h"

namespace otterstone::app {

namespace {

constexpr const char* kColumnKeys[] = {"time", "volts", "amps", "watts", "percent", "temperature", "note"};

} // namespace

QVariant HandModel::data(const QModelIndex& index, int role) const {
    const auto row = static_cast<std::size_t>(index.row());
    const auto column = static_cast<std::size_t>(index.column());
    if (row >= rows_.size()) // the waiting row offers the rhythm of the one above
        return role == Qt::ForegroundRole ? QVariant(theme().faint) : QVariant();
    const std::string& text = cell(rows_[row], column);
    for (const kinds::HandRemark& r : remarks_) {
        if (r.row != row || r.column != kColumnKeys[column])
            continue;
        if (role == Qt::ToolTipRole)
            return qs(r.problem.sentence());
        if (role == Qt::ForegroundRole)
            return theme().warn;
        if (role == Qt::FontRole)
            return app::font(1.0, QFont::DemiBold);
    }
    if (role == Qt::DisplayRole || role == Qt::EditRole)
        return qs(text);
    if (role == Qt::TextAlignmentRole)
        return QVariant::fromValue(column + 1 == records::kHandColumns ? Qt::AlignLeft | Qt::AlignVCenter
                                                                       : Qt::AlignRight | Qt::AlignVCenter);
    return {};
}

QVariant HandModel::headerData(int section, Qt::Orientation orientation, int role) const {
    if (role != Qt::DisplayRole)
        return {};
    if (orientation == Qt::Vertical)
        return section + 1;
    const QString names[] = {tr("Time"), tr("V"), tr("A"), tr("W"), tr("%"), tr("°C"), tr("Note")};
    return names[section];
}

bool HandModel::setData(const QModelIndex& index, const QVariant& value, int role) {
    if (role != Qt::EditRole)
        return false;
    const auto row = static_cast<std::size_t>(index.row());
    const std::string text = value.toString().trimmed().toStdString();
    if (row >= rows_.size()) {
        if (text.empty())
            return false;
        beginInsertRows({}, index.row() + 1, index.row() + 1);
        rows_.emplace_back();
        endInsertRows();
    }
    cell(rows_[row], static_cast<std::size_t>(index.column())) = text;
    Q_EMIT dataChanged(index, index);
    Q_EMIT typed();
    return true;
}

void HandModel::setRows(std::vector<records::HandRow> rows) {
    beginResetModel();
    rows_ = std::move(rows);
    remarks_.clear();
    endResetModel();
    Q_EMIT typed();
}

void HandModel::paste(const QModelIndex& at, const QString& text) {
    const auto column = static_cast<std::size_t>(std::max(0, at.column()));
    const auto fresh = kinds::rowsFromText(text.toStdString(), column);
    std::vector<records::HandRow> rows = rows_;
    auto row = static_cast<std::size_t>(std::max(0, at.row()));
    for (const records::HandRow& source : fresh) {
        if (row >= rows.size())
            rows.resize(row + 1);
        for (std::size_t k = column; k < records::kHandColumns; ++k) {
            if (!cell(source, k).empty())
                cell(rows[row], k) = cell(source, k);
        }
        ++row;
    }
    setRows(std::move(rows));
}

void HandModel::removeRow(int row) {
    if (row < 0 || row >= static_cast<int>(rows_.size()))
        return;
    beginRemoveRows({}, row, row);
    rows_.erase(rows_.begin() + row);
    endRemoveRows();
    Q_EMIT typed();
}

void HandModel::setRemarks(const std::vector<kinds::HandRemark>& remarks) {
    remarks_ = remarks;
    Q_EMIT dataChanged(index(0, 0), index(rowCount() - 1, columnCount() - 1));
}

} // namespace otterstone::app
