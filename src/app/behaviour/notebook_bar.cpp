#include "app/behaviour/notebook_bar.h"

#include <QAction>
#include <QComboBox>
#include <QCompleter>
#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QPushButton>
#include <QStringListModel>
#include <QToolButton>

#include "app/behaviour/sheet_model.h"
#include "app/theme.h"
#include "app/widgets/flow_layout.h"
#include "app/widgets/on_screen.h"
#include "app/widgets/typing_grid.h"
#include "app/widgets/window_key.h"
#include "core/quantity/format.h"

namespace otterstone::app {

namespace {

constexpr qlonglong kDisplay = -1; // among the meters

// In the list of ways.
enum Flow { NotSaid, Out, In };

bool ofMeter(const std::string& column) {
    return column == "v" || column == "a" || column == "w" || column == "wh" || column == "mah";
}

} // namespace

NotebookBar::NotebookBar(SheetModel* model, TypingGrid* grid, QWidget* parent)
    : QWidget(parent), model_(model), grid_(grid), row_(new FlowLayout(this, kGrid)), device_(new QLineEdit),
      columns_(new QToolButton), menu_(new QMenu(columns_)), reader_(new QComboBox), flow_(new QComboBox) {
    auto* heading = new QLabel(tr("Devices"));
    heading->setMinimumHeight(device_->sizeHint().height());
    row_->addWidget(heading);
    device_->setPlaceholderText(tr("Add one: Phone 12.9 Wh, or 3350 mAh"));
    device_->setAccessibleName(tr("Device"));
    device_->setToolTip(tr(
        "Its name and its battery in Wh, or in mAh and volts; “health 91 %” where that is known. Devices of the gear drawer need their name alone. (Ctrl+E)"));
    device_->setMinimumWidth(250);
    device_->setCompleter(new QCompleter(new QStringListModel(this), this));
    device_->completer()->setCaseSensitivity(Qt::CaseInsensitive);
    row_->addWidget(device_);
    columns_->setText(tr("More columns"));
    columns_->setToolTip(tr("Volts, amps, counters, heat, … (Ctrl+K)"));
    columns_->setPopupMode(QToolButton::InstantPopup);
    columns_->setMenu(menu_);
    row_->addWidget(columns_);
    reader_->setAccessibleName(tr("Read off"));
    reader_->setToolTip(tr("What volts, amps, watts and counters were read off"));
    flow_->setAccessibleName(tr("Which way"));
    flow_->setToolTip(tr("Which way energy flowed past the meter: then this is a drain or a recharge as well"));
    flow_->addItems({tr("which way: as it is written"), tr("out of the bank"), tr("into the bank")});
    row_->addWidget(reader_);
    row_->addWidget(flow_);
    connect(reader_, &QComboBox::activated, this, [this] {
        const qlonglong chosen = reader_->currentData().toLongLong();
        Q_EMIT readerChosen(chosen == kDisplay ? records::kNew : chosen, chosen == kDisplay);
    });
    connect(flow_, &QComboBox::activated, this, &NotebookBar::chooseFlow);
    addWindowKey(this, Qt::CTRL | Qt::Key_E, [this] {
        edited_.reset();
        device_->clear();
        device_->setFocus();
    });
    addWindowKey(this, Qt::CTRL | Qt::Key_K, [this] { columns_->showMenu(); });
    connect(device_, &QLineEdit::returnPressed, this, &NotebookBar::takeDevice);
    connect(model_, &QAbstractItemModel::modelReset, this, &NotebookBar::fill);
    // A cell that is typed into a column nobody used before keeps that column.
    connect(model_, &SheetModel::typed, this, &NotebookBar::chooseColumns);
}

void NotebookBar::show(const setup::Facts& facts, const records::Run& run, const std::vector<records::Gear>& gear,
                       bool another) {
    if (another)
        asked_.clear();
    reader_->clear();
    reader_->addItem(tr("read off a meter that is not named"), static_cast<qlonglong>(records::kNew));
    reader_->addItem(tr("read off the bank's own display"), kDisplay);
    for (const records::Gear& g : gear) {
        if (g.kind == records::GearKind::Meter)
            reader_->addItem(tr("read off %1").arg(qs(g.name)), static_cast<qlonglong>(g.id));
    }
    reader_->setCurrentIndex(std::max(
        0, reader_->findData(run.byDisplay ? kDisplay : static_cast<qlonglong>(run.meter.value_or(records::kNew)))));
    reader_->setEnabled(!model_->readOnly());
    flow_->setEnabled(!model_->readOnly());
    QStringList known;
    for (const setup::KnownDevice& d : facts.devices)
        known << QStringLiteral("%1 %2 Wh").arg(qs(d.name), onScreen(showNumber(d.wattHours)));
    qobject_cast<QStringListModel*>(device_->completer()->model())->setStringList(known);
    device_->setEnabled(!model_->readOnly());
    fill();
}

void NotebookBar::ask(const std::set<std::string>& columns) {
    asked_ = columns;
    chooseColumns();
}

void NotebookBar::fill() {
    // Chips wrap with the rest of the row: before the field in which the next is written.
    const std::initializer_list<QWidget*> last = {device_, columns_, reader_, flow_};
    for (QWidget* w : last)
        row_->removeWidget(w);
    for (QPushButton* chip : std::exchange(chips_, {})) {
        row_->removeWidget(chip);
        chip->hide();
        chip->deleteLater();
    }
    for (std::size_t k = 0; k < model_->sheet().devices.size(); ++k) {
        auto* chip = new QPushButton(qs(model_->sheet().devices[k]));
        chip->setObjectName(QStringLiteral("quiet"));
        chip->setToolTip(tr("Write it anew, or leave it empty to take the column away"));
        connect(chip, &QPushButton::clicked, this, [this, k] {
            edited_ = k;
            device_->setText(qs(model_->sheet().devices[k]));
            device_->setFocus();
            device_->selectAll();
        });
        row_->addWidget(chip);
        chips_.push_back(chip);
    }
    for (QWidget* w : last)
        row_->addWidget(w);
    menu_->clear();
    for (const kinds::Column& c : model_->columns()) {
        if (!c.spare)
            continue;
        auto* action = menu_->addAction(tr("%1: %2").arg(qs(c.words), qs(c.hint)));
        action->setCheckable(true);
        action->setData(qs(c.key));
        connect(action, &QAction::triggered, this, [this, key = c.key](bool on) {
            on ? (void)asked_.insert(key) : (void)asked_.erase(key);
            chooseColumns();
            grid_->setFocus();
        });
    }
    menu_->addSeparator();
    auto* held = menu_->addAction(tr("Each reading stands until the next, as one of a load that is switched"));
    held->setCheckable(true);
    held->setChecked(model_->sheet().held);
    connect(held, &QAction::triggered, this,
            [this](bool on) { model_->change([on](records::Sheet& sheet) { sheet.held = on; }); });
    chooseColumns();
}

void NotebookBar::chooseColumns() {
    const auto shown = kinds::shownColumns(model_->sheet());
    bool metered = false;
    for (std::size_t k = 0; k < shown.size(); ++k) {
        const kinds::Column& c = model_->columns()[k];
        const bool seen = shown[k] || asked_.contains(c.key);
        grid_->setColumnHidden(static_cast<int>(k), !seen);
        metered = metered || (seen && ofMeter(c.key));
        for (QAction* a : menu_->actions()) {
            if (a->data().toString().toStdString() != c.key)
                continue;
            a->setChecked(seen);
            a->setEnabled(!shown[k]); // what holds something stays
        }
    }
    reader_->setVisible(metered);
    flow_->setVisible(metered && model_->sheet().devices.empty()); // else what the devices took tells it
    showFlow();
    Q_EMIT columnsChanged();
}

void NotebookBar::showFlow() {
    int flow = NotSaid;
    const std::size_t way = kinds::columnAt(model_->sheet(), "way");
    for (const auto& row : model_->sheet().rows) {
        if (flow == NotSaid && way < row.size() && !row[way].empty())
            flow = row[way] == "in" ? In : Out;
    }
    flow_->setCurrentIndex(flow);
}

// Written where it would be by hand: in the column of ways, beside the first row.
void NotebookBar::chooseFlow(int flow) {
    const int row = grid_->currentIndex().row(), column = grid_->currentIndex().column();
    model_->change([flow](records::Sheet& sheet) {
        const std::size_t way = kinds::columnAt(sheet, "way");
        if (sheet.rows.empty())
            sheet.rows.emplace_back();
        sheet.rows.front().resize(std::max(sheet.rows.front().size(), kinds::columnsOf(sheet).size()));
        for (auto& cells : sheet.rows) {
            if (way < cells.size() && (cells[way] == "in" || cells[way] == "out"))
                cells[way].clear();
        }
        sheet.rows.front()[way] = flow == In ? "in" : flow == Out ? "out" : "";
    });
    grid_->setCurrentIndex(model_->index(std::max(0, row), std::max(0, column)));
    grid_->setFocus();
}

void NotebookBar::takeDevice() {
    const std::string heading = device_->text().trimmed().toStdString();
    const auto edited = std::exchange(edited_, std::nullopt);
    device_->clear();
    if (heading.empty() && !edited)
        return;
    const int current = grid_->currentIndex().row(); // gone when the columns change
    model_->change([&](records::Sheet& sheet) {
        if (edited && *edited < sheet.devices.size()) {
            if (heading.empty())
                kinds::removeDevice(sheet, *edited);
            else
                sheet.devices[*edited] = heading;
        } else if (sheet.devices.size() < kinds::kMostDevices) {
            kinds::addDevice(sheet, heading);
        }
    });
    grid_->setFocus();
    // On to the new column, in the row that is being written.
    const int row = std::max(0, std::min(current, model_->rowCount() - 1));
    const int column = static_cast<int>(edited ? *edited + 1 : model_->sheet().devices.size());
    const bool timed = !model_->index(row, 0).data().toString().isEmpty();
    grid_->setCurrentIndex(model_->index(row, timed ? column : 0));
}

} // namespace otterstone::app
