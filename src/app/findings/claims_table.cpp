#include "app/findings/claims_table.h"

#include <QHeaderView>
#include <QKeyEvent>
#include <QScrollBar>

#include "app/theme.h"
#include "app/widgets/on_screen.h"

namespace otterstone::app {

namespace {

enum Column { kClaim, kFound, kVerdict, kWhy, kColumns };
constexpr int kRoomForReasons = 680; // pixels
// What else speaks of it, one a line.
QString seenWords(const judgement::Held& row) {
    QStringList lines;
    for (const std::string& line : row.seen)
        lines << onScreen(line);
    return lines.join(QLatin1Char('\n'));
}

constexpr std::size_t kFewUntested = 3; // are shown; more are folded into one line

} // namespace

QString verdictSign(judgement::Verdict v) {
    switch (v) {
    case judgement::Verdict::Meets: return QStringLiteral("▲");
    case judgement::Verdict::FallsShort: return QStringLiteral("▼");
    case judgement::Verdict::TooClose: return QStringLiteral("◆");
    case judgement::Verdict::NotTested: return QStringLiteral("·");
    }
    return {};
}

QColor verdictColour(judgement::Verdict v) {
    return v == judgement::Verdict::FallsShort  ? theme().warn
           : v == judgement::Verdict::NotTested ? theme().faint
                                                : theme().ink;
}

ClaimsTable::ClaimsTable(QWidget* parent) : QTableWidget(parent) {
    setColumnCount(kColumns);
    setHorizontalHeaderLabels(
        {tr("The label claims"), tr("Found"), tr("Verdict"), tr("Because, and what would settle it")});
    setObjectName(QStringLiteral("roomy"));
    setAccessibleName(tr("Claims and verdicts"));
    setEditTriggers(NoEditTriggers);
    setSelectionBehavior(SelectRows);
    setSelectionMode(SingleSelection);
    setTabKeyNavigation(false);
    setShowGrid(false);
    setWordWrap(true);
    verticalHeader()->hide();
    horizontalHeader()->setSectionResizeMode(kClaim, QHeaderView::ResizeToContents);
    horizontalHeader()->setSectionResizeMode(kFound, QHeaderView::ResizeToContents);
    horizontalHeader()->setSectionResizeMode(kVerdict, QHeaderView::ResizeToContents);
    horizontalHeader()->setSectionResizeMode(kWhy, QHeaderView::Stretch);
    for (int k = 0; k < kColumns; ++k)
        horizontalHeaderItem(k)->setTextAlignment(Qt::AlignLeft | Qt::AlignVCenter);
    setVerticalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    connect(this, &QTableWidget::cellClicked, this, [this](int at, int) {
        if (at >= 0 && at < static_cast<int>(rows_.size()) && !rows_[static_cast<std::size_t>(at)]) {
            unfolded_ = !unfolded_;
            fill();
        } else if (const judgement::Held* row = current(); row && row->finding)
            Q_EMIT workingWanted(*row->finding);
    });
}

void ClaimsTable::show(const judgement::Judged& judged) {
    judged_ = judged;
    fill();
}

void ClaimsTable::fill() {
    const int before = currentRow();
    rows_ = judged_.inOrder();
    const std::size_t untested = judged_.count(judgement::Verdict::NotTested);
    if (untested > kFewUntested) {
        const auto fold = rows_.insert(rows_.end() - static_cast<std::ptrdiff_t>(untested), nullptr);
        if (!unfolded_)
            rows_.erase(fold + 1, rows_.end());
    }
    clearSpans();
    setRowCount(static_cast<int>(rows_.size()));
    for (int r = 0; r < rowCount(); ++r) {
        if (!rows_[static_cast<std::size_t>(r)]) {
            auto* fold = new QTableWidgetItem((unfolded_ ? QStringLiteral("▾  ") : QStringLiteral("▸  ")) +
                                              onScreen(judged_.untested()));
            fold->setForeground(theme().faint);
            fold->setToolTip(tr("Space or a click shows them one by one."));
            setItem(r, 0, fold);
            setSpan(r, 0, 1, kColumns);
            continue;
        }
        const judgement::Held& row = *rows_[static_cast<std::size_t>(r)];
        const QString verdict = qs(judgement::verdictWords(row.verdict));
        const QString why =
            onScreen(row.why) + (row.next.words.empty() ? QString() : QStringLiteral(". ") + onScreen(row.next.words));
        const QString found = row.finding
                                  ? (row.finding->isText ? onScreen(row.finding->note) : onScreen(row.finding->shown()))
                                  : QStringLiteral("–");
        const QString cells[] = {onScreen(row.claim.words), found,
                                 verdictSign(row.verdict) + QStringLiteral("  ") + verdict, why};
        for (int k = 0; k < kColumns; ++k) {
            auto* item = new QTableWidgetItem(cells[k]);
            item->setForeground(k == kVerdict                                               ? verdictColour(row.verdict)
                                : row.verdict == judgement::Verdict::NotTested || k == kWhy ? theme().faint
                                                                                            : theme().ink);
            item->setFont(app::font(k == kWhy ? 0.92 : 1.0,
                                    k == kVerdict && row.verdict != judgement::Verdict::NotTested ? QFont::DemiBold
                                                                                                  : QFont::Normal));
            item->setToolTip(k == kClaim     ? tr("meant: %1").arg(onScreen(row.claim.condition))
                             : k == kVerdict ? why
                             : k == kWhy     ? seenWords(row)
                                             : QString());
            item->setData(Qt::AccessibleTextRole,
                          QStringLiteral("%1: %2, %3").arg(onScreen(row.claim.words), verdict, why));
            setItem(r, k, item);
        }
    }
    resizeRowsToContents();
    updateGeometry();
    if (rowCount() > 0)
        setCurrentCell(std::clamp(before, 0, rowCount() - 1), 0);
}

const judgement::Held* ClaimsTable::current() const {
    const int r = currentRow();
    return r >= 0 && r < static_cast<int>(rows_.size()) ? rows_[static_cast<std::size_t>(r)] : nullptr;
}

QSize ClaimsTable::sizeHint() const {
    return {700, horizontalHeader()->sizeHint().height() + verticalHeader()->length() + 14};
}

void ClaimsTable::resizeEvent(QResizeEvent* event) {
    QTableWidget::resizeEvent(event);
    // Beside an open working there is no room for the reasons; they stand in the working, and in the tip.
    const bool narrow = width() < kRoomForReasons;
    if (isColumnHidden(kWhy) != narrow) {
        setColumnHidden(kWhy, narrow);
        horizontalHeader()->setSectionResizeMode(kClaim, narrow ? QHeaderView::Stretch : QHeaderView::ResizeToContents);
    }
    resizeRowsToContents();
    updateGeometry();
}

// Space opens the sum; Return goes to the run behind the verdict, or plans the one that would settle it; P plans it in
// any case.
void ClaimsTable::keyPressEvent(QKeyEvent* event) {
    const judgement::Held* row = current();
    const bool go = event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter;
    if (!row && (go || event->key() == Qt::Key_Space) && currentRow() >= 0) {
        unfolded_ = !unfolded_;
        fill();
    } else if (row && event->key() == Qt::Key_Space && row->finding)
        Q_EMIT workingWanted(*row->finding);
    else if (row && go && !row->runs.empty())
        Q_EMIT runWanted(row->runs.back());
    else if (row && (go || event->key() == Qt::Key_P) && !row->next.words.empty())
        Q_EMIT planWanted(*row);
    else if (event->key() == Qt::Key_Tab || event->key() == Qt::Key_Backtab)
        event->ignore();
    else
        QTableWidget::keyPressEvent(event);
}

} // namespace otterstone::app
