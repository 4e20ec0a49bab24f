#include "app/choose/figures_table.h"

#include <QHeaderView>
#include <QKeyEvent>

#include "app/theme.h"

namespace otterstone::app {

FiguresTable::FiguresTable(QWidget* parent) : QTableWidget(parent) {
    setAccessibleName(tr("Figures of the banks side by side"));
    setEditTriggers(NoEditTriggers);
    setTabKeyNavigation(false);
    setSelectionMode(SingleSelection);
    setHorizontalScrollMode(ScrollPerPixel);
    verticalHeader()->setDefaultSectionSize(26);
    verticalHeader()->setSectionResizeMode(QHeaderView::Fixed);
    verticalHeader()->setDefaultAlignment(Qt::AlignLeft | Qt::AlignVCenter);
    verticalHeader()->setMinimumWidth(150);
    horizontalHeader()->setDefaultAlignment(Qt::AlignRight | Qt::AlignVCenter);
    horizontalHeader()->setMinimumSectionSize(92);
    horizontalHeader()->setSectionResizeMode(QHeaderView::ResizeToContents);
    connect(this, &QTableWidget::cellClicked, this, &FiguresTable::explain);
}

void FiguresTable::show(const judgement::Comparison& c) {
    const int row = currentRow(), column = currentColumn();
    comparison_ = c;
    clear();
    setRowCount(static_cast<int>(c.rows.size()));
    setColumnCount(static_cast<int>(c.banks.size()));
    QStringList banks, figures;
    for (const std::string& b : c.banks)
        banks << qs(b);
    for (const judgement::FigureRow& r : c.rows)
        figures << qs(r.kind.words);
    setHorizontalHeaderLabels(banks);
    setVerticalHeaderLabels(figures);
    for (int r = 0; r < rowCount(); ++r) {
        const judgement::FigureRow& figure = c.rows[static_cast<std::size_t>(r)];
        verticalHeaderItem(r)->setToolTip(tr("meant for: %1").arg(qs(figure.kind.meant)));
        for (int k = 0; k < columnCount(); ++k) {
            const judgement::Cell& cell = figure.cells[static_cast<std::size_t>(k)];
            auto* item =
                new QTableWidgetItem(cell.known() ? qs(cell.shown()) + (cell.unlike ? QStringLiteral(" *") : QString())
                                                  : QStringLiteral("–"));
            item->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
            QFont f = app::font(0.94);
            f.setItalic(cell.unlike);
            item->setFont(f);
            item->setForeground(!cell.known() || cell.unlike ? theme().faint : theme().ink);
            item->setToolTip(!cell.known() ? tr("not known")
                             : cell.unlike ? tr("unlike the others of its row: %1").arg(qs(cell.condition))
                                           : qs(cell.condition));
            item->setData(
                Qt::AccessibleTextRole,
                QStringLiteral("%1, %2: %3. %4").arg(figures[r], banks[k], qs(cell.shown()), item->toolTip()));
            setItem(r, k, item);
        }
    }
    if (row >= 0 && row < rowCount() && column < columnCount())
        setCurrentCell(row, column);
}

const judgement::Cell* FiguresTable::current() const {
    const int r = currentRow(), k = currentColumn();
    return r < 0 || k < 0 ? nullptr : &comparison_.rows[static_cast<std::size_t>(r)].cells[static_cast<std::size_t>(k)];
}

void FiguresTable::explain() {
    const judgement::Cell* cell = current();
    if (!cell || !cell->known())
        return;
    Working w = *cell->value;
    if (!cell->condition.empty())
        w.parts.insert(w.parts.begin(),
                       remark(cell->unlike ? "condition, unlike the others" : "condition", cell->condition));
    Q_EMIT workingWanted(w);
}

void FiguresTable::keyPressEvent(QKeyEvent* event) {
    const judgement::Cell* cell = current();
    if (cell && event->key() == Qt::Key_Space)
        explain();
    else if (cell && cell->run != 0 && (event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter))
        Q_EMIT runWanted(cell->run);
    else
        QTableWidget::keyPressEvent(event);
}

} // namespace otterstone::app
