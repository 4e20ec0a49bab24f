#include "app/behaviour/matrix_model.h"

#include <algorithm>

#include "app/theme.h"
#include "core/quantity/format.h"
#include "core/quantity/parse.h"

namespace otterstone::app {

namespace {

void remember(std::vector<std::string>& names, const std::string& name) {
    if (std::ranges::find(names, name) == names.end())
        names.push_back(name);
}

} // namespace

std::array<MatrixModel::Axis, 2> MatrixModel::layers() const {
    std::array<Axis, 2> two{};
    std::ranges::copy_if(kinds::kMatrixAxes, two.begin(), [this](Axis a) { return a != rows_ && a != columns_; });
    return two;
}

MatrixModel::OfEach<std::string> MatrixModel::placeOf(const QModelIndex& at) const {
    auto place = layer_;
    place[slot(rows_)] = shown(rows_)[static_cast<std::size_t>(at.row())];
    place[slot(columns_)] = shown(columns_)[static_cast<std::size_t>(at.column())];
    return place;
}

std::vector<std::string>* MatrixModel::row(const QModelIndex& at) {
    const auto place = placeOf(at);
    const auto here = [&](const std::vector<std::string>& r) {
        return std::ranges::all_of(kinds::kMatrixAxes, [&](Axis axis) {
            return kinds::axisName(r[kinds::columnAt(sheet_, kinds::nameOf(axis).key)]) == place[slot(axis)];
        });
    };
    const auto found = std::ranges::find_if(sheet_.rows, here);
    return found == sheet_.rows.end() ? nullptr : &*found;
}

QVariant MatrixModel::data(const QModelIndex& at, int role) const {
    if (role == Qt::TextAlignmentRole)
        return QVariant::fromValue(Qt::AlignRight | Qt::AlignVCenter);
    if (role == Qt::ToolTipRole)
        return tr("18 W, 9 V 18 W, 9 V 2 A, nothing, 18 W stopped after 5 h; empty: not tried");
    if (role != Qt::DisplayRole && role != Qt::EditRole)
        return {};
    const auto* r = const_cast<MatrixModel*>(this)->row(at); // finds, changes nothing
    if (!r)
        return {};
    QStringList words;
    const auto cell = [&](const char* key) { return qs((*r)[kinds::columnAt(sheet_, key)]); };
    const QString volts = cell("volts"), amps = cell("amps"), watts = cell("watts"), happened = cell("happened");
    if (!volts.isEmpty())
        words << tr("%1 V").arg(volts);
    if (!watts.isEmpty())
        words << tr("%1 W").arg(watts);
    else if (!amps.isEmpty())
        words << tr("%1 A").arg(amps);
    if (!happened.isEmpty())
        words << (happened == QLatin1String(kinds::kNothingFlows) ? tr("nothing") : happened);
    if (!cell("after").isEmpty())
        words << cell("after");
    return words.isEmpty() ? QVariant() : QVariant(words.join(QLatin1Char(' ')));
}

QVariant MatrixModel::headerData(int section, Qt::Orientation orientation, int role) const {
    if (role != Qt::DisplayRole)
        return {};
    const std::string& name = shown(orientation == Qt::Vertical ? rows_ : columns_)[static_cast<std::size_t>(section)];
    return name.empty() ? tr("not stated") : qs(name);
}

Qt::ItemFlags MatrixModel::flags(const QModelIndex& at) const {
    return QAbstractTableModel::flags(at) | (readOnly_ ? Qt::NoItemFlags : Qt::ItemIsEditable);
}

bool MatrixModel::put(const QModelIndex& at, const QString& text) {
    const std::string typed = text.trimmed().toStdString();
    if (typed.empty()) {
        if (auto* r = row(at))
            sheet_.rows.erase(sheet_.rows.begin() + (r - sheet_.rows.data()));
        return true;
    }
    const auto place = placeOf(at);
    const auto read = kinds::parseCell(typed, place[slot(rows_)] + ", " + place[slot(columns_)]);
    if (!read) {
        Q_EMIT wrong(qs(read.error().sentence()));
        return false;
    }
    auto* r = row(at);
    if (!r) {
        kinds::addRow(sheet_, {});
        r = &sheet_.rows.back();
        // An empty cell would mean what stands above it.
        for (const Axis axis : kinds::kMatrixAxes) {
            const std::size_t column = kinds::columnAt(sheet_, kinds::nameOf(axis).key);
            const bool stated =
                std::ranges::any_of(sheet_.rows, [&](const auto& each) { return !each[column].empty(); });
            (*r)[column] = place[slot(axis)].empty() && stated ? kinds::kNotStated : place[slot(axis)];
        }
    }
    const auto set = [&](const char* key, const std::string& words) { (*r)[kinds::columnAt(sheet_, key)] = words; };
    set("volts", read->typedVolts);
    set("amps", read->typedAmps);
    set("watts", read->typedWatts);
    set("happened", read->happened);
    set("after", read->after ? showDuration(*read->after, 1.0) : std::string());
    return true;
}

bool MatrixModel::setData(const QModelIndex& at, const QVariant& value, int role) {
    if (role != Qt::EditRole || readOnly_ || !put(at, value.toString()))
        return false;
    Q_EMIT dataChanged(at, at);
    Q_EMIT typed();
    return true;
}

void MatrixModel::paste(const QModelIndex& at, const QString& text) {
    if (readOnly_ || !at.isValid())
        return;
    const records::Sheet before = sheet_;
    const QStringList lines = text.split(QLatin1Char('\n'), Qt::SkipEmptyParts);
    for (qsizetype k = 0; k < lines.size(); ++k) {
        const QStringList cells = lines[k].split(QLatin1Char('\t'));
        for (qsizetype j = 0; j < cells.size(); ++j) {
            const QModelIndex to = sibling(at.row() + static_cast<int>(k), at.column() + static_cast<int>(j), at);
            if (to.isValid() && !put(to, cells[j])) {
                sheet_ = before;
                return;
            }
        }
    }
    Q_EMIT dataChanged(sibling(0, 0, at), sibling(rowCount() - 1, columnCount() - 1, at));
    Q_EMIT typed();
}

// What each axis may hold: of the drawer, of the label, of the sheet, and what was added by hand.
MatrixModel::OfEach<std::vector<std::string>> MatrixModel::namesNow() const {
    OfEach<std::vector<std::string>> names;
    const auto to = [&names](Axis axis) -> std::vector<std::string>& { return names[slot(axis)]; };
    for (const label::Port& p : facts_.label.ports) {
        if (p.takes())
            remember(to(Axis::Into), p.name);
    }
    for (const setup::KnownDevice& d : facts_.devices)
        remember(to(Axis::Into), d.name);
    // Into a device it comes from this bank's outputs, or from its own charger; into this bank from chargers alone.
    const std::string& into = layer(Axis::Into);
    const bool device =
        rows_ == Axis::Into || columns_ == Axis::Into || (!into.empty() && !kinds::portOf(facts_, into));
    if (device) {
        for (const label::Port& p : facts_.label.ports) {
            if (p.gives())
                remember(to(Axis::Source), p.name);
        }
        remember(to(Axis::Source), tr("own charger").toStdString());
    }
    for (const setup::Source& c : facts_.chargers)
        remember(to(Axis::Source), c.name);
    for (const setup::Wire& w : facts_.cables)
        remember(to(Axis::Cable), w.name);
    for (const auto& r : sheet_.rows) {
        const auto cell = [&](Axis axis) {
            return kinds::axisName(r[kinds::columnAt(sheet_, kinds::nameOf(axis).key)]);
        };
        for (const Axis axis : kinds::kMatrixAxes) {
            // A source of another layer does not fill this one.
            if (axis != Axis::Source || device || cell(Axis::Into) == into)
                remember(to(axis), cell(axis));
        }
    }
    for (const Axis axis : kinds::kMatrixAxes) {
        for (const std::string& name : added_[slot(axis)])
            remember(to(axis), name);
        if (to(axis).empty())
            to(axis).emplace_back(); // nothing is stated
    }
    return names;
}

void MatrixModel::anew(const std::function<void()>& change) {
    beginResetModel();
    change();
    names_ = namesNow();
    for (const Axis axis : layers()) {
        if (std::ranges::find(names(axis), layer(axis)) == names(axis).end())
            layer_[slot(axis)] = names(axis).front();
    }
    endResetModel();
    Q_EMIT turned();
}

void MatrixModel::show(const records::Sheet& written, const setup::Facts& facts, bool readOnly, bool another) {
    readOnly_ = readOnly;
    facts_ = facts;
    records::Sheet sheet = kinds::spelledOut(written);
    if (!another && sheet == sheet_ && namesNow() == names_)
        return; // the hand that typed it goes on
    anew([&] {
        sheet_ = std::move(sheet);
        if (!another)
            return;
        added_ = {};
        layer_ = {};
        rows_ = Axis::Source;
        columns_ = Axis::Cable;
        const auto input = std::ranges::find_if(facts_.label.ports, &label::Port::takes);
        if (!sheet_.rows.empty()) {
            for (const Axis axis : layers())
                layer_[slot(axis)] =
                    kinds::axisName(sheet_.rows.front()[kinds::columnAt(sheet_, kinds::nameOf(axis).key)]);
        } else if (input != facts_.label.ports.end()) {
            layer_[slot(Axis::Into)] = input->name;
        }
    });
}

void MatrixModel::turn(Axis rows, Axis columns) {
    if (rows == columns || (rows == rows_ && columns == columns_))
        return;
    anew([&] {
        rows_ = rows;
        columns_ = columns;
    });
}

void MatrixModel::setLayer(Axis axis, const std::string& typed) {
    const std::string name = kinds::axisName(typed);
    anew([&] {
        remember(added_[slot(axis)], name);
        layer_[slot(axis)] = name;
    });
}

void MatrixModel::add(Axis axis, const std::string& name) {
    anew([&] { remember(added_[slot(axis)], name); });
}

bool MatrixModel::step(int by) {
    const Axis outer = layers().front(), inner = layers().back();
    const auto placeIn = [this](Axis axis) {
        return static_cast<int>(std::ranges::find(names(axis), layer(axis)) - names(axis).begin());
    };
    const int inside = static_cast<int>(names(inner).size()), all = inside * static_cast<int>(names(outer).size());
    const int to = placeIn(outer) * inside + placeIn(inner) + by;
    if (to < 0 || to >= all)
        return false;
    const std::string outside = names(outer)[static_cast<std::size_t>(to / inside)],
                      within = names(inner)[static_cast<std::size_t>(to % inside)];
    anew([&] {
        layer_[slot(outer)] = outside;
        layer_[slot(inner)] = within;
    });
    return true;
}

} // namespace otterstone::app
