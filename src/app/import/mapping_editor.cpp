#include "app/import/mapping_editor.h"

#include <QComboBox>
#include <QGridLayout>
#include <QLabel>

#include "app/theme.h"

namespace otterstone::app {

namespace {

using logs::Role;

struct RoleWords {
    Role role;
    const char* name;
    QStringList units;
};

const std::vector<RoleWords>& rolesShown() {
    static const std::vector<RoleWords> kRoles = {
        {Role::Time,
         QT_TRANSLATE_NOOP("MappingEditor", "Time"),
         {QStringLiteral("s"), QStringLiteral("ms"), QStringLiteral("min"), QStringLiteral("h")}},
        {Role::Volts,
         QT_TRANSLATE_NOOP("MappingEditor", "Volts"),
         {QStringLiteral("V"), QStringLiteral("mV"), QStringLiteral("µV")}},
        {Role::Amps,
         QT_TRANSLATE_NOOP("MappingEditor", "Amps"),
         {QStringLiteral("A"), QStringLiteral("mA"), QStringLiteral("µA")}},
        {Role::Watts, QT_TRANSLATE_NOOP("MappingEditor", "Watts"), {QStringLiteral("W"), QStringLiteral("mW")}},
        {Role::Temperature,
         QT_TRANSLATE_NOOP("MappingEditor", "Temperature"),
         {QStringLiteral("°C"), QStringLiteral("°F"), QStringLiteral("K")}},
        {Role::Percent, QT_TRANSLATE_NOOP("MappingEditor", "Display %"), {QStringLiteral("%")}}};
    return kRoles;
}

QString unitOf(const logs::ColumnChoice& c, const QStringList& units) {
    for (const QString& u : units) {
        const auto scale = logs::unitFor(c.role, u.toStdString());
        if (scale && scale->factor == c.factor && scale->offset == c.offset)
            return u;
    }
    return {};
}

} // namespace

MappingEditor::MappingEditor(QWidget* parent) : QWidget(parent) {
    auto* grid = new QGridLayout(this);
    grid->setContentsMargins(0, 0, 0, 0);
    grid->setHorizontalSpacing(kGrid);
    grid->setVerticalSpacing(kGrid / 2);
    grid->setColumnStretch(3, 1);
    int at = 0;
    for (const RoleWords& words : rolesShown()) {
        auto* label = new QLabel(tr(words.name));
        Row row{words.role, new QComboBox, new QComboBox, new QLabel};
        row.column->setAccessibleName(tr("Column for %1").arg(tr(words.name)));
        row.unit->setAccessibleName(tr("Unit of %1").arg(tr(words.name)));
        row.column->setMinimumWidth(190);
        row.unit->setMinimumWidth(80);
        row.unit->addItem(QString());
        row.unit->addItems(words.units);
        row.reason->setObjectName(QStringLiteral("faint"));
        row.reason->setWordWrap(true);
        label->setBuddy(row.column);
        grid->addWidget(label, at, 0);
        grid->addWidget(row.column, at, 1);
        grid->addWidget(row.unit, at, 2);
        grid->addWidget(row.reason, at, 3);
        connect(row.column, &QComboBox::activated, this, [this, row](int index) {
            // Columns are named by their number: names may repeat.
            Q_EMIT columnChosen(row.role, index == 0 ? QString() : QString::number(index));
        });
        connect(row.unit, &QComboBox::activated, this,
                [this, row] { Q_EMIT unitChosen(row.role, row.unit->currentText()); });
        rows_.push_back(row);
        ++at;
    }
}

void MappingEditor::show(const std::vector<std::string>& names, const logs::Recognition* found,
                         const logs::Mapping& hand) {
    for (const Row& row : rows_) {
        row.column->clear();
        row.column->addItem(tr("none"));
        for (std::size_t k = 0; k < names.size(); ++k)
            row.column->addItem(QStringLiteral("%1: %2").arg(k + 1).arg(qs(names[k])));
        const logs::ColumnChoice* choice = found ? found->column(row.role) : nullptr;
        row.column->setCurrentIndex(choice ? static_cast<int>(choice->index) + 1 : 0);
        if (!choice && hand.columns.contains(row.role))
            row.column->setCurrentIndex(QString::fromStdString(hand.columns.at(row.role)).toInt());
        QStringList units;
        for (int k = 1; k < row.unit->count(); ++k)
            units << row.unit->itemText(k);
        row.unit->setCurrentText(choice ? unitOf(*choice, units) : QString());
        row.unit->setEnabled(choice && (row.role != logs::Role::Time || found->timeForm == logs::TimeForm::Elapsed));
        row.reason->setText(choice ? qs(choice->reason) : QString());
    }
}

} // namespace otterstone::app
