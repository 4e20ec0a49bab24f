#include "app/choose/figures_table.h"

#include <algorithm>
#include <numeric>

#include <QHeaderView>
#include <QKeyEvent>

#include "app/help/figure_words.h"
#include "app/theme.h"
#include "app/widgets/measured_once.h"
#include "app/widgets/on_screen.h"
#include "app/widgets/row_pixels.h"

namespace otterstone::app {

namespace {
constexpr std::size_t kBeside = 12;
} // namespace

FiguresTable::FiguresTable(QWidget* parent) : QTableWidget(parent) {
    setAccessibleName(tr("Figures of the banks side by side"));
    setToolTip(tr("Space opens the sum, Enter its run; O puts many banks in the order of a figure"));
    setEditTriggers(NoEditTriggers);
    setTabKeyNavigation(false);
    setSelectionMode(SingleSelection);
    setHorizontalScrollMode(ScrollPerPixel);
    verticalHeader()->setDefaultSectionSize(rowPixels(26));
    verticalHeader()->setSectionResizeMode(QHeaderView::Fixed);
    verticalHeader()->setDefaultAlignment(Qt::AlignLeft | Qt::AlignVCenter);
    verticalHeader()->setMinimumWidth(150);
    horizontalHeader()->setDefaultAlignment(Qt::AlignRight | Qt::AlignVCenter);
    horizontalHeader()->setMinimumSectionSize(92);
    connect(this, &QTableWidget::cellClicked, this, &FiguresTable::explain);
    connect(horizontalHeader(), &QHeaderView::sectionClicked, this, &FiguresTable::sortBy);
}

bool FiguresTable::isTurned() const { return comparison_->banks.size() > kBeside; }

void FiguresTable::show(judgement::SharedComparison comparison) {
    comparison_ = std::move(comparison);
    putInOrder();
    fill();
}

void FiguresTable::sortBy(int figure) {
    const judgement::FigureKind& kind = comparison_->rows[static_cast<std::size_t>(figure)].kind;
    worstFirst_ = kind.key == sortedBy_ && !worstFirst_;
    sortedBy_ = kind.key;
    putInOrder();
    fill();
}

void FiguresTable::putInOrder() {
    order_.resize(comparison_->banks.size());
    std::iota(order_.begin(), order_.end(), std::size_t(0));
    const judgement::FigureRow* by = isTurned() ? comparison_->row(sortedBy_) : nullptr;
    if (!by)
        return;
    const bool more = by->kind.better == judgement::Better::More;
    std::stable_sort(order_.begin(), order_.end(), [&](std::size_t a, std::size_t b) {
        const judgement::Cell &x = by->cells[a], &y = by->cells[b];
        if (!x.known() || !y.known())
            return x.known() && !y.known();
        const bool words = x.value->isText || y.value->isText;
        const bool before = words  ? x.shown() < y.shown()
                            : more ? x.value->value.value() > y.value->value.value()
                                   : x.value->value.value() < y.value->value.value();
        const bool after = words  ? y.shown() < x.shown()
                           : more ? x.value->value.value() < y.value->value.value()
                                  : x.value->value.value() > y.value->value.value();
        return worstFirst_ ? after : before;
    });
}

FiguresTable::Place FiguresTable::placeOf(int row, int column) const {
    const auto r = static_cast<std::size_t>(row), c = static_cast<std::size_t>(column);
    return isTurned() ? Place{c, order_[r]} : Place{r, order_[c]};
}

const judgement::Cell& FiguresTable::cellAt(Place at) const { return comparison_->rows[at.figure].cells[at.bank]; }

void FiguresTable::fill() {
    const MeasuredOnce columns(horizontalHeader());
    const int row = currentRow(), column = currentColumn();
    clear();
    QStringList banks, figures;
    for (const std::size_t b : order_)
        banks << qs(comparison_->banks[b]);
    const bool turned = isTurned();
    for (const judgement::FigureRow& r : comparison_->rows)
        figures << qs(r.kind.words) + (!turned || r.kind.key != sortedBy_ ? QString()
                                       : worstFirst_                      ? QStringLiteral(" ▴")
                                                                          : QStringLiteral(" ▾"));
    setRowCount(static_cast<int>(turned ? banks.size() : figures.size()));
    setColumnCount(static_cast<int>(turned ? figures.size() : banks.size()));
    setHorizontalHeaderLabels(turned ? figures : banks);
    setVerticalHeaderLabels(turned ? banks : figures);
    horizontalHeader()->setSectionsClickable(turned);
    for (int k = 0; k < static_cast<int>(figures.size()); ++k) {
        QTableWidgetItem* head = turned ? horizontalHeaderItem(k) : verticalHeaderItem(k);
        const judgement::FigureKind& kind = comparison_->rows[static_cast<std::size_t>(k)].kind;
        head->setToolTip(figureTip(kind.key, tr("Meant for: %1.").arg(qs(kind.meant))));
        head->setWhatsThis(figureWords(kind.key));
    }
    for (int r = 0; r < rowCount(); ++r) {
        for (int k = 0; k < columnCount(); ++k)
            setItem(r, k, itemFor(placeOf(r, k)));
    }
    if (row >= 0 && row < rowCount() && column < columnCount())
        setCurrentCell(row, column);
}

QTableWidgetItem* FiguresTable::itemFor(Place at) const {
    const judgement::Cell& cell = cellAt(at);
    auto* item = new QTableWidgetItem(
        cell.known() ? onScreen(cell.shown()) + (cell.unlike ? QStringLiteral(" *") : QString()) : QStringLiteral("–"));
    item->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
    QFont f = app::font(0.94);
    f.setItalic(cell.unlike);
    item->setFont(f);
    item->setForeground(!cell.known() || cell.unlike ? theme().faint : theme().ink);
    item->setToolTip(!cell.known() ? tr("not known")
                     : cell.unlike ? tr("unlike the others of this figure: %1").arg(onScreen(cell.condition))
                                   : onScreen(cell.condition));
    item->setData(Qt::AccessibleTextRole,
                  QStringLiteral("%1, %2: %3. %4")
                      .arg(qs(comparison_->rows[at.figure].kind.words), qs(comparison_->banks[at.bank]),
                           onScreen(cell.shown()), item->toolTip()));
    return item;
}

const judgement::Cell* FiguresTable::current() const {
    return currentRow() < 0 || currentColumn() < 0 ? nullptr : &cellAt(placeOf(currentRow(), currentColumn()));
}

void FiguresTable::explain() {
    const judgement::Cell* cell = current();
    if (!cell || !cell->known())
        return;
    Working w = *cell->value;
    if (!cell->condition.empty()) {
        auto& parts = w.parts.changed();
        parts.insert(parts.begin(),
                     remark(cell->unlike ? "condition, unlike the others" : "condition", cell->condition));
    }
    Q_EMIT workingWanted(w);
}

void FiguresTable::keyPressEvent(QKeyEvent* event) {
    const judgement::Cell* cell = current();
    if (cell && event->key() == Qt::Key_Space)
        explain();
    else if (cell && isTurned() && event->key() == Qt::Key_O)
        sortBy(currentColumn());
    else if (cell && cell->run != 0 && (event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter))
        Q_EMIT runWanted(cell->run);
    else
        QTableWidget::keyPressEvent(event);
}

} // namespace otterstone::app
