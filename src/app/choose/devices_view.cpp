#include "app/choose/devices_view.h"

#include <QComboBox>
#include <QHeaderView>
#include <QLabel>
#include <QPushButton>
#include <QShortcut>
#include <QTableWidget>
#include <QVBoxLayout>
#include <QtConcurrent>

#include "app/theme.h"
#include "app/widgets/copy_table.h"
#include "app/widgets/measured_once.h"
#include "app/widgets/on_screen.h"
#include "app/widgets/row_pixels.h"
#include "core/quantity/format.h"

namespace otterstone::app {

DevicesView::DevicesView(QWidget* parent)
    : QWidget(parent), asked_(new QComboBox), turn_(new QPushButton(tr("Turn"))), sentence_(new QLabel),
      hint_(new QLabel), table_(new QTableWidget) {
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    auto* line = new QHBoxLayout;
    asked_->setAccessibleName(tr("What is asked of the devices"));
    for (const kinds::What what : evidence::kOfDevices)
        asked_->addItem(qs(evidence::askedWords(what)), static_cast<int>(what));
    turn_->setObjectName(QStringLiteral("quiet"));
    turn_->setCheckable(true);
    turn_->setToolTip(tr("Banks as rows, devices as columns"));
    line->addWidget(asked_);
    line->addWidget(turn_);
    line->addWidget(sentence_, 1);
    sentence_->setWordWrap(true);
    sentence_->setAccessibleName(tr("What the devices say"));
    column->addLayout(line);
    table_->setAccessibleName(tr("Devices on the banks"));
    table_->setToolTip(tr("Space or a click opens the sum, Return its run"));
    table_->setEditTriggers(QAbstractItemView::NoEditTriggers);
    table_->setSelectionMode(QAbstractItemView::SingleSelection);
    table_->setTabKeyNavigation(false);
    table_->setHorizontalScrollMode(QAbstractItemView::ScrollPerPixel);
    table_->verticalHeader()->setDefaultAlignment(Qt::AlignLeft | Qt::AlignVCenter);
    table_->verticalHeader()->setDefaultSectionSize(rowPixels(28));
    table_->horizontalHeader()->setMinimumSectionSize(104);
    column->addWidget(table_, 1);
    hint_->setObjectName(QStringLiteral("faint"));
    hint_->setWordWrap(true);
    column->addWidget(hint_);
    auto* foot = new QHBoxLayout;
    addCopyButtons(foot, table_);
    foot->addStretch();
    column->addLayout(foot);
    connect(asked_, &QComboBox::activated, this, &DevicesView::fill);
    connect(turn_, &QPushButton::toggled, this, &DevicesView::fill);
    connect(table_, &QTableWidget::cellClicked, this, &DevicesView::explain);
    for (const auto& [key, run] : {std::pair(Qt::Key_Space, false), {Qt::Key_Return, true}, {Qt::Key_Enter, true}}) {
        auto* shortcut = new QShortcut(QKeySequence(key), table_);
        shortcut->setContext(Qt::WidgetShortcut);
        connect(shortcut, &QShortcut::activated, this, [this, run = run] {
            const kinds::Observation* o = at(table_->currentRow(), table_->currentColumn());
            if (o && run)
                Q_EMIT runWanted(o->run);
            else
                explain();
        });
    }
    connect(&worker_, &QFutureWatcherBase::finished, this, [this] {
        all_ = worker_.result();
        // What was seen at all is shown first.
        if (std::ranges::none_of(all_.cells, [this](const auto& c) { return c.seen.what == what(); })) {
            for (int k = asked_->count() - 1; k >= 0; --k) {
                const auto other = static_cast<kinds::What>(asked_->itemData(k).toInt());
                if (std::ranges::any_of(all_.cells, [other](const auto& c) { return c.seen.what == other; }))
                    asked_->setCurrentIndex(k);
            }
        }
        fill();
        Q_EMIT ready();
    });
}

void DevicesView::show(SharedEvidence banks) {
    worker_.setFuture(QtConcurrent::run([banks = std::move(banks)] { return evidence::devicesAcross(*banks); }));
}

kinds::What DevicesView::what() const { return static_cast<kinds::What>(asked_->currentData().toInt()); }

const kinds::Observation* DevicesView::at(int row, int column) const {
    if (row < 0 || column < 0)
        return nullptr;
    const auto device = static_cast<std::size_t>(turn_->isChecked() ? column : row);
    const auto bank = static_cast<std::size_t>(turn_->isChecked() ? row : column);
    return all_.best(what(), device, bank);
}

void DevicesView::fill() {
    const MeasuredOnce columns(table_->horizontalHeader());
    const bool turned = turn_->isChecked();
    QStringList devices, banks;
    for (const evidence::DeviceSeen& d : all_.devices)
        devices << (d.wattHours && d.name.find(" Wh") == std::string::npos
                        ? tr("%1, %2 Wh").arg(qs(d.name), onScreen(showNumber(*d.wattHours, 3)))
                        : qs(d.name));
    for (const std::string& bank : all_.banks)
        banks << qs(bank);
    table_->clear();
    table_->setRowCount(static_cast<int>(turned ? banks.size() : devices.size()));
    table_->setColumnCount(static_cast<int>(turned ? devices.size() : banks.size()));
    table_->setVerticalHeaderLabels(turned ? banks : devices);
    table_->setHorizontalHeaderLabels(turned ? devices : banks);
    const auto ofBank = [this](std::size_t b) {
        return std::ranges::any_of(all_.cells, [b](const auto& c) { return c.bank == b; });
    };
    int without = 0;
    for (std::size_t b = 0; b < all_.banks.size(); ++b) {
        const bool hidden = !ofBank(b);
        without += hidden ? 1 : 0;
        turned ? table_->setRowHidden(static_cast<int>(b), hidden)
               : table_->setColumnHidden(static_cast<int>(b), hidden);
    }
    for (std::size_t d = 0; d < all_.devices.size(); ++d)
        turned ? table_->setColumnHidden(static_cast<int>(d), false) : table_->setRowHidden(static_cast<int>(d), false);
    QStringList led;
    for (std::size_t d = 0; d < all_.devices.size(); ++d) {
        const auto leaders = all_.leaders(what(), d);
        for (std::size_t b = 0; b < all_.banks.size(); ++b) {
            const kinds::Observation* o = all_.best(what(), d, b);
            auto* item = new QTableWidgetItem(o ? onScreen((o->atLeast ? "≥ " : "") + o->value->shown()) : QString());
            item->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
            if (o) {
                const bool best = std::ranges::find(leaders, b) != leaders.end();
                const std::size_t seen = all_.count(what(), d, b);
                item->setToolTip(onScreen(o->where()) +
                                 (o->note.empty() ? QString() : QStringLiteral(": ") + onScreen(o->note)) +
                                 (seen > 1 ? tr("\nthe best of %1").arg(seen) : QString()));
                item->setFont(app::font(1.0, best ? QFont::DemiBold : QFont::Normal));
                item->setData(Qt::AccessibleTextRole, tr("%1 on %2: %3%4")
                                                          .arg(devices[static_cast<int>(d)], banks[static_cast<int>(b)],
                                                               item->text(), best ? tr(", the best") : QString()));
                if (best)
                    item->setText(item->text() + QStringLiteral(" •"));
            }
            table_->setItem(static_cast<int>(turned ? b : d), static_cast<int>(turned ? d : b), item);
        }
        if (leaders.size() == 1 && led.size() < 3)
            led << tr("%1 with %2").arg(qs(all_.devices[d].name), banks[static_cast<int>(leaders.front())]);
    }
    sentence_->setText(
        all_.devices.empty()
            ? tr("No run of these banks says what a device took: a notebook with a device's percent, or "
                 "a matrix into devices, does.")
        : led.isEmpty() ? tr("No device was told apart on two of these banks.")
                        : tr("Best by %1: %2.").arg(qs(evidence::askedWords(what())), led.join(QStringLiteral(", "))));
    hint_->setText(
        (without > 0 ? (without == 1 ? tr("One bank charged no device and is left out. ")
                                     : tr("%1 banks charged no device and are left out. ").arg(without))
                     : QString()) +
        tr("• the best of a device, or not told apart from it by its doubt; ≥ more was not asked for. Times and "
           "points rest on the percents at which each charge began: the tooltip and the working say them."));
}

void DevicesView::explain() {
    if (const kinds::Observation* o = at(table_->currentRow(), table_->currentColumn())) {
        Working w = *o->value;
        if (w.note.empty())
            w.note = o->where() + (o->note.empty() ? "" : ": " + o->note);
        Q_EMIT workingWanted(w);
    }
}

} // namespace otterstone::app
