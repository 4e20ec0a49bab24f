#include "app/behaviour/matrix_model.h"

#include <algorithm>

#include "app/theme.h"
#include "core/kinds/matrix/matrix.h"
#include "core/quantity/format.h"
#include "core/quantity/parse.h"

namespace otterstone::app {

std::vector<std::string>* MatrixModel::row(const QModelIndex& index, bool make) {
    const std::string& charger = chargers_[static_cast<std::size_t>(index.row())];
    const std::string& cable = cables_[static_cast<std::size_t>(index.column())];
    const auto cell = [this](const std::vector<std::string>& r, const char* key) {
        return r[kinds::columnAt(sheet_, key)];
    };
    for (auto& r : sheet_.rows) {
        if (cell(r, "charger") == charger && cell(r, "cable") == cable && cell(r, "port") == port_ &&
            cell(r, "computer") == computer_)
            return &r;
    }
    if (!make)
        return nullptr;
    kinds::addRow(sheet_, {{"charger", charger}, {"cable", cable}, {"port", port_}, {"computer", computer_}});
    return &sheet_.rows.back();
}

QVariant MatrixModel::data(const QModelIndex& index, int role) const {
    if (role == Qt::TextAlignmentRole)
        return QVariant::fromValue(Qt::AlignRight | Qt::AlignVCenter);
    if (role == Qt::ToolTipRole)
        return tr("18 W, 9 V 18 W or 9 V 2 A; empty: not tried");
    if (role != Qt::DisplayRole && role != Qt::EditRole)
        return {};
    const auto* r = const_cast<MatrixModel*>(this)->row(index, false); // finds, makes nothing
    if (!r)
        return {};
    const auto cell = [&](const char* key) { return qs((*r)[kinds::columnAt(sheet_, key)]); };
    if (!cell("volts").isEmpty() && !cell("watts").isEmpty())
        return tr("%1 V %2 W").arg(cell("volts"), cell("watts"));
    if (!cell("volts").isEmpty() && !cell("amps").isEmpty())
        return tr("%1 V %2 A").arg(cell("volts"), cell("amps"));
    return cell("watts").isEmpty() ? QVariant() : QVariant(tr("%1 W").arg(cell("watts")));
}

QVariant MatrixModel::headerData(int section, Qt::Orientation orientation, int role) const {
    if (role != Qt::DisplayRole)
        return {};
    return qs((orientation == Qt::Vertical ? chargers_ : cables_)[static_cast<std::size_t>(section)]);
}

Qt::ItemFlags MatrixModel::flags(const QModelIndex& index) const {
    return QAbstractTableModel::flags(index) | (readOnly_ ? Qt::NoItemFlags : Qt::ItemIsEditable);
}

bool MatrixModel::setData(const QModelIndex& index, const QVariant& value, int role) {
    if (role != Qt::EditRole || readOnly_)
        return false;
    const std::string text = value.toString().trimmed().toStdString();
    if (text.empty()) {
        if (auto* r = row(index, false)) {
            sheet_.rows.erase(sheet_.rows.begin() + (r - sheet_.rows.data()));
            Q_EMIT typed();
        }
        return true;
    }
    const auto read = kinds::parseCell(text, chargers_[static_cast<std::size_t>(index.row())] + ", " +
                                                 cables_[static_cast<std::size_t>(index.column())]);
    if (!read) {
        Q_EMIT wrong(qs(read.error().sentence()));
        return false;
    }
    auto& r = *row(index, true);
    const auto put = [&](const char* key, const std::optional<double>& v) {
        r[kinds::columnAt(sheet_, key)] = v ? showNumber(*v, 6) : "";
    };
    put("volts", read->volts);
    put("amps", read->amps);
    put("watts", read->watts);
    Q_EMIT dataChanged(index, index);
    Q_EMIT typed();
    return true;
}

void MatrixModel::show(const records::Sheet& sheet, const std::vector<std::string>& chargers,
                       const std::vector<std::string>& cables, bool readOnly) {
    readOnly_ = readOnly;
    auto allChargers = chargers, allCables = cables;
    for (const auto& r : sheet.rows) {
        for (const auto& [key, names] : {std::pair("charger", &allChargers), std::pair("cable", &allCables)}) {
            const std::string& name = r[kinds::columnAt(sheet, key)];
            if (!name.empty() && std::find(names->begin(), names->end(), name) == names->end())
                names->push_back(name);
        }
    }
    if (sheet == sheet_ && allChargers == chargers_ && allCables == cables_)
        return;
    beginResetModel();
    sheet_ = sheet;
    chargers_ = std::move(allChargers);
    cables_ = std::move(allCables);
    endResetModel();
}

void MatrixModel::setLayer(const std::string& port, const std::string& computer) {
    beginResetModel();
    port_ = port;
    computer_ = computer;
    endResetModel();
}

} // namespace otterstone::app
