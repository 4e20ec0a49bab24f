#include "app/behaviour/sheet_model.h"

#include "app/theme.h"

namespace otterstone::app {

QVariant SheetModel::data(const QModelIndex& index, int role) const {
    const auto row = static_cast<std::size_t>(index.row());
    const auto column = static_cast<std::size_t>(index.column());
    const kinds::Column& c = columns_[column];
    if (role == Qt::TextAlignmentRole)
        return QVariant::fromValue((c.number ? Qt::AlignRight : Qt::AlignLeft) | Qt::AlignVCenter);
    if (row >= sheet_.rows.size() || column >= sheet_.rows[row].size())
        return {};
    for (const kinds::Remark& r : remarks_) {
        if (r.row != row || r.column != c.key)
            continue;
        if (role == Qt::ToolTipRole)
            return qs(r.problem.sentence());
        if (role == Qt::ForegroundRole)
            return theme().warn;
        if (role == Qt::FontRole)
            return app::font(1.0, QFont::DemiBold);
    }
    if (role == Qt::DisplayRole || role == Qt::EditRole)
        return qs(sheet_.rows[row][column]);
    return role == Qt::ToolTipRole ? headerData(index.column(), Qt::Horizontal, role) : QVariant();
}

QVariant SheetModel::headerData(int section, Qt::Orientation orientation, int role) const {
    if (orientation == Qt::Vertical)
        return role == Qt::DisplayRole ? QVariant(section + 1) : QVariant();
    const kinds::Column& c = columns_[static_cast<std::size_t>(section)];
    if (role == Qt::DisplayRole)
        return qs(c.words);
    if (role != Qt::ToolTipRole)
        return {};
    QStringList words;
    for (const std::string& w : c.choices)
        words << qs(w);
    return words.isEmpty() ? qs(c.hint) : tr("%1. One of: %2").arg(qs(c.hint), words.join(QStringLiteral(", ")));
}

Qt::ItemFlags SheetModel::flags(const QModelIndex& index) const {
    return QAbstractTableModel::flags(index) | (readOnly_ ? Qt::NoItemFlags : Qt::ItemIsEditable);
}

bool SheetModel::setData(const QModelIndex& index, const QVariant& value, int role) {
    if (role != Qt::EditRole || readOnly_)
        return false;
    const auto row = static_cast<std::size_t>(index.row());
    const std::string text = value.toString().trimmed().toStdString();
    if (row >= sheet_.rows.size()) {
        if (text.empty())
            return false;
        beginInsertRows({}, index.row() + 1, index.row() + 1);
        sheet_.rows.emplace_back(columns_.size());
        endInsertRows();
    }
    std::string& cell = sheet_.rows[row][static_cast<std::size_t>(index.column())];
    if (cell == text)
        return true;
    cell = text;
    Q_EMIT dataChanged(index, index);
    Q_EMIT typed();
    return true;
}

void SheetModel::show(const records::Sheet& sheet, bool readOnly) {
    readOnly_ = readOnly;
    if (sheet == sheet_)
        return;
    take(sheet);
}

void SheetModel::take(records::Sheet sheet) {
    beginResetModel();
    sheet_ = std::move(sheet);
    columns_ = kinds::columnsOf(sheet_);
    for (auto& row : sheet_.rows)
        row.resize(columns_.size());
    remarks_.clear();
    endResetModel();
}

void SheetModel::change(const std::function<void(records::Sheet&)>& how) {
    if (readOnly_)
        return;
    records::Sheet sheet = sheet_;
    how(sheet);
    take(std::move(sheet));
    Q_EMIT typed();
}

void SheetModel::paste(const QModelIndex& at, const QString& text) {
    if (readOnly_)
        return;
    const auto fresh =
        kinds::sheetFromText(sheet_, text.toStdString(), static_cast<std::size_t>(std::max(0, at.column())));
    change([&](records::Sheet& sheet) {
        while (sheet.devices.size() < fresh.devices.size())
            kinds::addDevice(sheet, fresh.devices[sheet.devices.size()]);
        auto row = static_cast<std::size_t>(std::max(0, at.row()));
        for (const auto& source : fresh.rows) {
            if (row >= sheet.rows.size())
                sheet.rows.emplace_back(source.size());
            for (std::size_t k = 0; k < source.size(); ++k) {
                if (!source[k].empty())
                    sheet.rows[row][k] = source[k];
            }
            ++row;
        }
    });
}

void SheetModel::removeSheetRow(int row) {
    if (readOnly_ || row < 0 || row >= static_cast<int>(sheet_.rows.size()))
        return;
    beginRemoveRows({}, row, row);
    sheet_.rows.erase(sheet_.rows.begin() + row);
    endRemoveRows();
    Q_EMIT typed();
}

void SheetModel::setRemarks(std::vector<kinds::Remark> remarks) {
    remarks_ = std::move(remarks);
    Q_EMIT dataChanged(index(0, 0), index(rowCount() - 1, columnCount() - 1));
}

} // namespace otterstone::app
