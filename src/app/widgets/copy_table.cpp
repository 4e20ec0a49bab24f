#include "app/widgets/copy_table.h"

#include <QClipboard>
#include <QGuiApplication>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QPushButton>
#include <QTableWidget>

#include "app/theme.h"
#include "report/writers.h"

namespace otterstone::app {

report::Table tableShown(const QTableWidget& table) {
    report::Table t;
    const bool names = !table.verticalHeader()->isHidden();
    if (names)
        t.columns.push_back({"name", ""});
    for (int k = 0; k < table.columnCount(); ++k) {
        const QTableWidgetItem* first = table.item(0, k);
        t.columns.push_back({std::to_string(k), table.horizontalHeaderItem(k) ? table.horizontalHeaderItem(k)->text().toStdString() : std::string(), first && (first->textAlignment() & Qt::AlignRight) != 0});
    }
    for (int r = 0; r < table.rowCount(); ++r) {
        std::vector<report::Cell> row;
        if (names)
            row.push_back(report::Cell::words(table.verticalHeaderItem(r) ? table.verticalHeaderItem(r)->text().toStdString() : std::string()));
        for (int k = 0; k < table.columnCount(); ++k)
            row.push_back(report::Cell::words(table.item(r, k) ? table.item(r, k)->text().toStdString() : std::string()));
        t.rows.push_back(std::move(row));
    }
    return t;
}

void addCopyButtons(QHBoxLayout* line, QTableWidget* table) {
    const auto add = [&](const QString& words, auto write) {
        auto* b = new QPushButton(words);
        b->setObjectName(QStringLiteral("quiet"));
        QObject::connect(b, &QPushButton::clicked, table, [table, write] { QGuiApplication::clipboard()->setText(QString::fromStdString(write(tableShown(*table)))); });
        line->addWidget(b);
    };
    add(QObject::tr("Copy as Markdown"), [](const report::Table& t) { return report::toMarkdown(t); });
    add(QObject::tr("Copy for a spreadsheet"), [](const report::Table& t) { return report::toTsv(t); });
}

} // namespace otterstone::app
