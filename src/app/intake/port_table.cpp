#include "app/intake/port_table.h"

#include <QComboBox>
#include <QHeaderView>
#include <QLabel>
#include <QPushButton>
#include <QTableWidget>
#include <QVBoxLayout>

#include "app/theme.h"
#include "app/widgets/on_screen.h"
#include "app/widgets/row_pixels.h"
#include "core/label/port_rules.h"
#include "core/quantity/format.h"
#include "core/quantity/parse.h"

namespace otterstone::app {

namespace {

enum Column { Name, DirectionColumn, Tiers, WattsAlone, WattsShared, InTiers, InWatts, Best, Columns };

QString wattsText(const std::optional<Watts>& w) { return w ? qs(showNumber(w->value)) : QString(); }

} // namespace

PortTable::PortTable(QWidget* parent) : QWidget(parent), table_(new QTableWidget(0, Columns)), problem_(new QLabel) {
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(0, 0, 0, 0);
    all->setSpacing(kGrid / 2);
    table_->setHorizontalHeaderLabels({tr("Port"), tr("Direction"), tr("Tiers"), tr("W alone"), tr("W shared"),
                                       tr("Tiers in"), tr("W in"), tr("Best")});
    table_->horizontalHeaderItem(InTiers)->setToolTip(
        tr("What a port both ways takes, where that is printed by itself; empty: the same tiers both ways."));
    table_->horizontalHeader()->setSectionResizeMode(QHeaderView::ResizeToContents);
    table_->horizontalHeader()->setSectionResizeMode(Tiers, QHeaderView::Stretch);
    table_->verticalHeader()->hide();
    table_->setAccessibleName(tr("Ports"));
    table_->setTabKeyNavigation(false);
    table_->setMinimumHeight(120);
    table_->verticalHeader()->setDefaultSectionSize(rowPixels(38));
    all->addWidget(table_);
    problem_->setObjectName(QStringLiteral("problem"));
    problem_->setWordWrap(true);
    problem_->hide();
    all->addWidget(problem_);
    auto* buttons = new QHBoxLayout;
    auto* add = new QPushButton(tr("Add a port"));
    auto* remove = new QPushButton(tr("Remove it"));
    for (QPushButton* b : {add, remove})
        b->setObjectName(QStringLiteral("quiet"));
    buttons->addWidget(add);
    buttons->addWidget(remove);
    buttons->addStretch();
    all->addLayout(buttons);
    connect(add, &QPushButton::clicked, this, [this] {
        label::Port port;
        port.name = QStringLiteral("C%1").arg(ports_.size() + 1).toStdString();
        ports_.push_back(port);
        fill();
        Q_EMIT edited();
        table_->setCurrentCell(static_cast<int>(ports_.size()) - 1, Name);
        table_->setFocus();
    });
    connect(remove, &QPushButton::clicked, this, [this] {
        const int row = table_->currentRow();
        if (row < 0 || row >= static_cast<int>(ports_.size()))
            return;
        ports_.erase(ports_.begin() + row);
        fill();
        Q_EMIT edited();
    });
    connect(table_, &QTableWidget::cellChanged, this, [this](int row, int) { readRow(row); });
}

void PortTable::show(const std::vector<label::Port>& ports) {
    if (ports == ports_ && table_->rowCount() == static_cast<int>(ports.size()))
        return;
    ports_ = ports;
    fill();
}

void PortTable::fill() {
    const QSignalBlocker quiet(table_);
    problem_->hide();
    table_->setRowCount(static_cast<int>(ports_.size()));
    for (int row = 0; row < table_->rowCount(); ++row) {
        const label::Port& p = ports_[static_cast<std::size_t>(row)];
        const auto cell = [&](int column, const QString& text, bool editable = true) {
            auto* item = new QTableWidgetItem(text);
            if (!editable)
                item->setFlags(Qt::ItemIsEnabled | Qt::ItemIsSelectable);
            table_->setItem(row, column, item);
        };
        cell(Name, qs(p.name));
        cell(DirectionColumn, {}, false);
        cell(Tiers, qs(label::showTiers(p.tiers)));
        table_->item(row, Tiers)->setToolTip(table_->item(row, Tiers)->text()); // in case it is longer than two lines
        cell(WattsAlone, wattsText(p.watts));
        cell(WattsShared, wattsText(p.sharedWatts));
        const bool both = p.direction == label::Direction::Both;
        cell(InTiers, both ? qs(label::showTiers(p.inTiers)) : QString(), both);
        table_->item(row, InTiers)->setToolTip(table_->item(row, InTiers)->text());
        cell(InWatts, both ? wattsText(p.inWatts) : QString(), both);
        const auto most = label::mostWatts(p, p.gives() ? label::Way::Out : label::Way::In);
        cell(Best, most ? tr("%1 W").arg(onScreen(showNumber(most->value, 4))) : QString(), false);
        auto* direction = new QComboBox;
        direction->addItems({tr("in"), tr("out"), tr("both")});
        direction->setCurrentIndex(static_cast<int>(p.direction));
        direction->setAccessibleName(tr("Direction of %1").arg(qs(p.name)));
        connect(direction, &QComboBox::activated, this, [this, row](int index) {
            label::Port& port = ports_[static_cast<std::size_t>(row)];
            port.direction = static_cast<label::Direction>(index);
            if (port.direction != label::Direction::Both) {
                port.inTiers.clear();
                port.inWatts.reset();
            }
            fill();
            Q_EMIT edited();
        });
        table_->setCellWidget(row, DirectionColumn, direction);
    }
}

void PortTable::readRow(int row) {
    const auto text = [&](int column) {
        return table_->item(row, column) ? table_->item(row, column)->text().toStdString() : std::string();
    };
    label::Port port = ports_[static_cast<std::size_t>(row)];
    port.name = text(Name);
    std::optional<Problem> wrong;
    if (const auto tiers = label::parseTiers(text(Tiers), "tiers of " + port.name))
        port.tiers = *tiers;
    else
        wrong = tiers.error();
    if (const auto taken = label::parseTiers(text(InTiers), "tiers in of " + port.name))
        port.inTiers = *taken;
    else
        wrong = taken.error();
    const auto watts = [&](int column, std::optional<Watts>& into) {
        if (trimmed(text(column)).empty()) {
            into.reset();
            return;
        }
        const auto v = parseNumber(text(column), "watts of " + port.name);
        if (v && *v > 0.0)
            into = Watts(*v);
        else
            wrong = v ? Problem{"not_positive", port.name, "watts must be greater than 0.", ""} : v.error();
    };
    watts(WattsAlone, port.watts);
    watts(WattsShared, port.sharedWatts);
    watts(InWatts, port.inWatts);
    problem_->setVisible(wrong.has_value());
    if (wrong) {
        problem_->setText(qs(wrong->sentence()));
        return; // the cell keeps what was typed; the port keeps what it was
    }
    ports_[static_cast<std::size_t>(row)] = port;
    fill();
    Q_EMIT edited();
}

} // namespace otterstone::app
