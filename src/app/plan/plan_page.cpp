#include "app/plan/plan_page.h"

#include <QHeaderView>
#include <QLabel>
#include <QPushButton>
#include <QTableWidget>
#include <QVBoxLayout>

#include "app/theme.h"

namespace otterstone::app {

namespace {

enum Column { kState, kBank, kRun, kWords, kColumns };

} // namespace

PlanPage::PlanPage(BookSession& session, QWidget* parent)
    : QWidget(parent), session_(session), table_(new QTableWidget), sentence_(new QLabel),
      start_(new QPushButton(tr("Start it live…"))), write_(new QPushButton(tr("Write it down by hand…"))),
      done_(new QPushButton(tr("It is done"))), drop_(new QPushButton(tr("Take it out"))) {
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(3 * kGrid, kGrid, 2 * kGrid, kGrid);
    auto* title = new QLabel(tr("Runs to be made"));
    title->setFont(app::font(1.6, QFont::DemiBold));
    all->addWidget(title);
    sentence_->setWordWrap(true);
    sentence_->setFont(app::font(1.1));
    all->addWidget(sentence_);
    table_->setColumnCount(kColumns);
    table_->setHorizontalHeaderLabels({QString(), tr("Bank"), tr("Run"), tr("What and why")});
    table_->setObjectName(QStringLiteral("roomy"));
    table_->setAccessibleName(tr("Runs to be made"));
    table_->setEditTriggers(QTableWidget::NoEditTriggers);
    table_->setSelectionBehavior(QTableWidget::SelectRows);
    table_->setSelectionMode(QTableWidget::SingleSelection);
    table_->setTabKeyNavigation(false);
    table_->setShowGrid(false);
    table_->verticalHeader()->hide();
    table_->horizontalHeader()->setSectionResizeMode(QHeaderView::ResizeToContents);
    table_->horizontalHeader()->setSectionResizeMode(kWords, QHeaderView::Stretch);
    for (int k = 0; k < kColumns; ++k)
        table_->horizontalHeaderItem(k)->setTextAlignment(Qt::AlignLeft | Qt::AlignVCenter);
    all->addWidget(table_, 1);
    auto* line = new QHBoxLayout;
    start_->setObjectName(QStringLiteral("primary"));
    for (QPushButton* b : {start_, write_, done_, drop_})
        line->addWidget(b);
    line->addStretch();
    all->addLayout(line);
    connect(table_, &QTableWidget::currentCellChanged, this, &PlanPage::showCurrent);
    connect(table_, &QTableWidget::cellActivated, this, [this] {
        if (const records::PlannedRun* p = current(); p && !p->recipe.empty())
            Q_EMIT startWanted(*p);
    });
    connect(start_, &QPushButton::clicked, this, [this] {
        if (const records::PlannedRun* p = current())
            Q_EMIT startWanted(*p);
    });
    connect(write_, &QPushButton::clicked, this, [this] {
        if (const records::PlannedRun* p = current())
            Q_EMIT writeWanted(*p);
    });
    connect(done_, &QPushButton::clicked, this, [this] {
        if (const records::PlannedRun* p = current()) {
            records::PlannedRun after = *p;
            after.done = !after.done;
            tell(session_.changePlanned(after, after.done ? tr("a planned run is done")
                                                          : tr("a planned run is still to be made")));
        }
    });
    connect(drop_, &QPushButton::clicked, this, [this] {
        if (const records::PlannedRun* p = current())
            tell(session_.removePlanned(p->id));
    });
    connect(&session_, &BookSession::changed, this, [this] {
        if (isVisible())
            refresh();
    });
}

void PlanPage::showCurrent() {
    const records::PlannedRun* p = current();
    start_->setEnabled(p && !p->recipe.empty());
    for (QPushButton* b : {write_, done_, drop_})
        b->setEnabled(p != nullptr);
    done_->setText(p && p->done ? tr("It is still to be made") : tr("It is done"));
}

void PlanPage::tell(const Result<void>& done) {
    if (!done)
        Q_EMIT problem(qs(done.error().sentence()));
}

const records::PlannedRun* PlanPage::current() const {
    const int r = table_->currentRow();
    return r >= 0 && r < static_cast<int>(planned_.size()) ? &planned_[static_cast<std::size_t>(r)] : nullptr;
}

void PlanPage::refresh() {
    if (!session_.isOpen())
        return;
    planned_ = session_.book().planned();
    std::stable_sort(planned_.begin(), planned_.end(), [](const auto& a, const auto& b) { return a.done < b.done; });
    const auto open = std::count_if(planned_.begin(), planned_.end(), [](const auto& p) { return !p.done; });
    sentence_->setText(
        planned_.empty()
            ? tr("Nothing is planned. The verdict table of a bank (Findings) offers, for each claim that is not settled, the run that would settle it.")
        : open == 1 ? tr("One run is to be made.")
                    : tr("%1 runs are to be made.").arg(open));
    const int before = table_->currentRow();
    table_->setRowCount(static_cast<int>(planned_.size()));
    for (int r = 0; r < table_->rowCount(); ++r) {
        const records::PlannedRun& p = planned_[static_cast<std::size_t>(r)];
        const auto bank = session_.book().bank(p.bank);
        const QString cells[] = {p.done ? tr("done") : tr("open"), bank ? qs(bank->name) : QString(),
                                 qs(records::kindWords(p.kind)), qs(p.words)};
        for (int k = 0; k < kColumns; ++k) {
            auto* item = new QTableWidgetItem(cells[k]);
            item->setForeground(p.done ? theme().faint : theme().ink);
            item->setToolTip(cells[k]);
            table_->setItem(r, k, item);
        }
    }
    if (table_->rowCount() > 0)
        table_->setCurrentCell(std::clamp(before, 0, table_->rowCount() - 1), kBank);
    showCurrent();
}

} // namespace otterstone::app
