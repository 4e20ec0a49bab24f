#include "app/plan/plan_page.h"

#include <QDateTime>
#include <QFileDialog>
#include <QLabel>
#include <QPrintPreviewDialog>
#include <QPrinter>
#include <QPushButton>
#include <QSaveFile>
#include <QTableWidget>
#include <QTextDocument>
#include <QTimer>

#include "app/plan/tide_view.h"
#include "app/plan/wishes_panel.h"
#include "app/theme.h"
#include "app/widgets/on_screen.h"
#include "book/store/choices.h"
#include "core/plan/campaign/day_sheet.h"
#include "core/plan/campaign/files.h"
#include "core/quantity/date.h"
#include "core/quantity/format.h"

namespace otterstone::app {

namespace campaign = plan::campaign;

// Beside the panel, which says the same, and where there are few lines, the tide needs the room.
void PlanPage::makeRoom() {
    constexpr int kNarrow = 800, kFewLines = 34;
    wishesWords_->setVisible(width() >= kNarrow && height() >= kFewLines * sentence_->fontMetrics().lineSpacing());
}

void PlanPage::resizeEvent(QResizeEvent*) { makeRoom(); }

double PlanPage::now() const { return clock_.value_or(bench::clockNow()); }

QString PlanPage::sentence() const { return sentence_->text(); }

void PlanPage::refresh() {
    if (!session_.isOpen())
        return;
    if (auto wishes = bench::wishesOf(session_.book())) {
        wishes_ = std::move(*wishes);
    } else {
        wishes_ = {};
        Q_EMIT problem(qs(wishes.error().sentence()));
    }
    panel_->show(wishes_, session_.book().banks(), now());
    planner_.plan(session_.book().path(), wishes_, now(), seconds_);
    progress_->setText(tr("Planning …"));
    stop_->setVisible(true);
}

void PlanPage::take(const PlanPointer& plan) {
    constexpr int kSoonMs = 150;
    if (tide_->isHeld()) { // what is held does not slip out of the hand
        QTimer::singleShot(kSoonMs, this, [this, plan] { take(plan); });
        return;
    }
    if (!plan->campaign.fresh.empty())
        book::remember(session_.book(), plan->campaign.fresh);
    plan_ = plan;
    tide_->show(plan_, before_);
    const campaign::Problem& p = plan_->campaign.drawn.problem;
    const campaign::Schedule& s = plan_->told.answer.schedule;
    QString words = onScreen(plan_->sure ? sentenceOf(p, plan_->told) : std::string());
    if (!plan_->sure)
        words = tr("%1 jobs so far, in %2; looking for a better order.")
                    .arg(s.placed.size())
                    .arg(onScreen(showDuration(s.makespan)));
    if (p.jobs.empty())
        words = tr(
            "Nothing is to be done: nothing that was asked is open. “Aims and hours” says what is to be known; the verdict table of a bank (Findings) offers the run for a claim.");
    else if (plan_->sure)
        words += tr(" By this plan it ends %1.")
                     .arg(qs(campaign::dayAndTime(plan_->campaign.begins + s.makespan, plan_->campaign.begins)));
    QStringList more;
    for (const campaign::OneMore& o : plan_->told.oneMore) {
        if (o.helps() || o.more > 1) // another is only tried where the first helps
            more << onScreen(oneMoreWords(o));
    }
    if (!more.isEmpty())
        words += QStringLiteral(" ") + tr("Scarce: %1.").arg(more.join(QStringLiteral("; ")));
    QStringList told;
    for (const std::string& caution : campaign::cautionsOf(p, s))
        told << onScreen(caution);
    for (const std::string& warning : plan_->campaign.drawn.warnings)
        told << onScreen(warning);
    sentence_->setText(words);
    sentence_->setToolTip(told.join(QStringLiteral("\n")));
    const std::string next = nowAndNext(p, s, plan_->campaign.begins);
    now_->setText(qs(next));
    now_->setVisible(!next.empty());
    const std::string lived = livedSentence(plan_->campaign.wishes.kept, plan_->campaign.lived);
    lived_->setText(onScreen(lived));
    lived_->setVisible(!lived.empty());
    wishesWords_->setText(wishesInWords(wishes_));
    const int moved = before_ && plan_->sure ? movedBetween(*before_, *plan_) : 0;
    progress_->setText(plan_->searching ? tr("Planning …")
                       : moved == 1     ? tr("One run moved.")
                       : moved > 1      ? tr("%1 runs moved.").arg(moved)
                       : before_        ? tr("No run moved.")
                                        : QString());
    told_->setText(told.isEmpty() ? QString() : told.front());
    told_->setToolTip(told.join(QStringLiteral("\n")));
    told_->setVisible(!told.isEmpty());
    stop_->setVisible(plan_->searching);
    // The tide is painted in this turn of the loop and its list in the next: no turn keeps the window for both.
    table_->setUpdatesEnabled(false);
    QTimer::singleShot(0, table_, [this] { table_->setUpdatesEnabled(true); });
    fillTable();
    for (const auto& [bench, pieces] : std::exchange(offers_, {}))
        sayNext(bench, pieces);
}

void PlanPage::fillTable() {
    rows_ = rowsOf(*plan_);
    const QSignalBlocker quiet(table_);
    table_->setRowCount(static_cast<int>(rows_.size()));
    int chosen = -1;
    for (int r = 0; r < table_->rowCount(); ++r) {
        const PlanRow& row = rows_[static_cast<std::size_t>(r)];
        for (int k = 0; k < table_->columnCount(); ++k) {
            auto* item = new QTableWidgetItem(row.cells[static_cast<std::size_t>(k)]);
            item->setForeground(row.strength == PlanRow::Strength::Faint  ? theme().faint
                                : row.strength == PlanRow::Strength::Warn ? theme().warn
                                                                          : theme().ink);
            item->setToolTip(row.cells[static_cast<std::size_t>(k)]);
            table_->setItem(r, k, item);
        }
        if (chosen < 0 && chosen_ && row.key == *chosen_ && (row.job || row.placed))
            chosen = r;
    }
    if (chosen < 0) {
        const auto first =
            std::find_if(rows_.begin(), rows_.end(), [](const PlanRow& r) { return r.placed.has_value(); });
        chosen = first == rows_.end() ? (rows_.empty() ? -1 : 0) : static_cast<int>(first - rows_.begin());
    }
    if (chosen >= 0)
        table_->setCurrentCell(chosen, kWhen);
    showCurrent();
}

void PlanPage::restyle() {
    makeRoom();
    if (plan_)
        fillTable();
    tide_->viewport()->update();
}

const PlanRow* PlanPage::row() const {
    const int r = table_->currentRow();
    return r >= 0 && r < static_cast<int>(rows_.size()) ? &rows_[static_cast<std::size_t>(r)] : nullptr;
}

std::optional<std::size_t> PlanPage::job() const { return row() ? row()->job : std::nullopt; }

std::optional<JobToDo> PlanPage::toDo() const {
    const auto k = job();
    return k ? std::optional(toDo(*k, row()->placed)) : std::nullopt;
}

JobToDo PlanPage::toDo(std::size_t k, std::optional<std::size_t> placed) const {
    const campaign::JobKey& key = plan_->campaign.drawn.jobs[k].key;
    JobToDo todo{key.bank, key.kind, key.recipe, plan_->campaign.drawn.jobs[k].watts, {}, {}};
    if (key.variant == campaign::kAsNeeded) // what brings a bank there is run by a recipe, too
        todo.recipe = key.kind == records::Kind::Recharge ? "recharge-to-taper" : "steady-power-drain";
    if (placed) {
        for (const std::size_t piece : plan_->told.answer.schedule.placed[*placed].pieces)
            todo.gear.push_back(plan_->campaign.drawn.problem.pieces[piece].id);
    }
    return todo;
}

void PlanPage::offerNext(int bench, std::set<std::string> pieces) {
    offers_[bench] = std::move(pieces);
    refresh();
}

// Only where nothing has to be plugged, the tester said that such runs may go on alone, and a recipe does it.
std::optional<double> PlanPage::beginsByItself(std::size_t placed) const {
    const campaign::Placed& p = plan_->told.answer.schedule.placed[placed];
    const campaign::Problem& problem = plan_->campaign.drawn.problem;
    const campaign::Job& job = problem.jobs[p.job];
    if (!job.hands.empty() || job.unattended.value_or(problem.unattended) == campaign::Unattended::Never)
        return std::nullopt;
    return std::max(0.0, plan_->campaign.begins + p.from - now());
}

void PlanPage::sayNext(int bench, const std::set<std::string>& pieces) {
    const auto& placed = plan_->told.answer.schedule.placed;
    std::optional<std::size_t> next;
    for (std::size_t k = 0; k < placed.size(); ++k) {
        const JobToDo todo = toDo(placed[k].job, k);
        const bool on = std::any_of(todo.gear.begin(), todo.gear.end(),
                                    [&](const std::string& name) { return pieces.contains(name); });
        if (on && !todo.recipe.empty() && (!next || placed[k].from < placed[*next].from))
            next = k;
    }
    if (!next)
        return;
    const campaign::Placed& p = placed[*next];
    JobToDo todo = toDo(p.job, *next);
    todo.byItself = beginsByItself(*next);
    const std::string at = campaign::dayAndTime(plan_->campaign.begins + p.from, plan_->campaign.begins);
    Q_EMIT nextKnown(bench, todo, tr("%1, %2").arg(qs(plan_->campaign.drawn.problem.jobs[p.job].id), qs(at)));
}

void PlanPage::showCurrent() {
    const PlanRow* r = row();
    tide_->choose(r ? r->placed : std::nullopt);
    const auto todo = toDo();
    const bool fixed = r && r->job && plan_->campaign.drawn.problem.jobs[*r->job].pin.has_value();
    const bool asNeeded = r && r->job && plan_->campaign.drawn.problem.jobs[*r->job].asNeeded;
    start_->setEnabled(todo && !todo->recipe.empty());
    write_->setEnabled(todo.has_value());
    pin_->setEnabled(r && r->job && !asNeeded && (r->placed || fixed));
    pin_->setText(fixed ? tr("Let it move (P)") : tr("Pin it there (P)"));
    for (QPushButton* b : {first_, ownDay_, out_})
        b->setEnabled(r && r->job && !asNeeded);
    const auto in = [&](const std::vector<campaign::JobKey>& keys) {
        return r && std::find(keys.begin(), keys.end(), r->key) != keys.end();
    };
    wired_->setEnabled(r && r->job);
    wired_->setText(in(wishes_.wired) ? tr("It wants hands (H)") : tr("No hands needed (H)"));
    first_->setText(in(wishes_.first) ? tr("In any order (F)") : tr("First of all (F)"));
    ownDay_->setText(in(wishes_.ownDay) ? tr("On any day (D)") : tr("A day of its own (D)"));
    back_->setVisible(!wishes_.out.empty());
    back_->setText(tr("Put back what was taken out (%1)").arg(wishes_.out.size()));
    agree_->setEnabled(plan_ && plan_->sure && !plan_->told.answer.schedule.placed.empty());
}

void PlanPage::chooseRow(int r) {
    if (r < 0 || r >= static_cast<int>(rows_.size()))
        return;
    chosen_ = rows_[static_cast<std::size_t>(r)].key;
    showCurrent();
}

void PlanPage::chooseJob(std::size_t placed) {
    for (std::size_t r = 0; r < rows_.size(); ++r) {
        if (rows_[r].placed == placed)
            table_->setCurrentCell(static_cast<int>(r), kWhen);
    }
}

void PlanPage::keep(const campaign::Wishes& wishes, const QString& what) {
    if (plan_ && plan_->sure)
        before_ = plan_;
    if (const auto kept = session_.changeChoice(book::choice::campaign, wishesToText(wishes), what); !kept)
        Q_EMIT problem(qs(kept.error().sentence()));
}

// The job begins so many seconds from the plan's beginning.
void PlanPage::pinAt(std::size_t k, double seconds) {
    const campaign::Drawn& drawn = plan_->campaign.drawn.jobs[k];
    if (drawn.key.variant == campaign::kAsNeeded) {
        Q_EMIT problem(
            tr("“%1” is only there to bring the bank where another run wants it, and goes with that one: pin that one.")
                .arg(qs(plan_->campaign.drawn.problem.jobs[k].id)));
        return;
    }
    campaign::Wishes next = wishes_;
    std::erase_if(next.pins, [&](const campaign::Pin& pin) { return pin.job == drawn.key; });
    next.pins.push_back({drawn.key, campaign::isoOf(plan_->campaign.begins + std::max(0.0, seconds))});
    chosen_ = drawn.key;
    keep(next, tr("pin a run"));
}

void PlanPage::shift(std::size_t placed, double seconds) {
    const std::size_t k = plan_->told.answer.schedule.placed[placed].job;
    double from = plan_->told.answer.schedule.placed[placed].from;
    for (const campaign::Pin& pin : wishes_.pins) { // what was asked already while it is planned anew
        if (pin.job == plan_->campaign.drawn.jobs[k].key)
            from = secondsOf(pin.at).value_or(0.0) - plan_->campaign.begins;
    }
    pinAt(k, from + seconds);
}

void PlanPage::togglePin() {
    const auto k = job();
    if (!k)
        return;
    const campaign::JobKey key = plan_->campaign.drawn.jobs[*k].key;
    campaign::Wishes next = wishes_;
    if (std::erase_if(next.pins, [&](const campaign::Pin& pin) { return pin.job == key; }) > 0)
        return keep(next, tr("let a run move"));
    if (row()->placed)
        pinAt(*k, plan_->told.answer.schedule.placed[*row()->placed].from);
}

void PlanPage::toggle(std::vector<campaign::JobKey> campaign::Wishes::*list, const QString& in, const QString& out) {
    const auto k = job();
    if (!k || (plan_->campaign.drawn.problem.jobs[*k].asNeeded && list != &campaign::Wishes::wired))
        return;
    const campaign::JobKey key = plan_->campaign.drawn.jobs[*k].key;
    campaign::Wishes next = wishes_;
    if (std::erase(next.*list, key) > 0)
        return keep(next, out);
    (next.*list).push_back(key);
    keep(next, in);
}

void PlanPage::takeOut() {
    const auto k = job();
    if (!k || plan_->campaign.drawn.problem.jobs[*k].asNeeded)
        return;
    const campaign::Drawn drawn = plan_->campaign.drawn.jobs[*k];
    if (drawn.own != 0) {
        if (const auto removed = session_.removePlanned(drawn.own); !removed)
            Q_EMIT problem(qs(removed.error().sentence()));
        return;
    }
    campaign::Wishes next = wishes_;
    next.out.push_back(drawn.key);
    keep(next, tr("take a run out of the plan"));
}

void PlanPage::putBack() {
    campaign::Wishes next = wishes_;
    next.out.clear();
    keep(next, tr("put back what was taken out of the plan"));
}

void PlanPage::agree() {
    if (!plan_)
        return;
    campaign::Wishes next = wishes_;
    next.kept = bench::agreedOn(plan_->campaign, plan_->told.answer.schedule);
    keep(next, tr("agree on a plan"));
    before_.reset(); // from now on it is held against what was agreed on
    Q_EMIT done(tr("Agreed on: runs that are made now take their places in it, and what is late is told."));
}

void PlanPage::agreeOnce() {
    const auto& kept = wishes_.kept.jobs;
    if (row() && row()->job &&
        std::none_of(kept.begin(), kept.end(), [&](const campaign::KeptJob& j) { return j.job == row()->key; }))
        agree();
}

void PlanPage::planFromNow() {
    campaign::Wishes next = wishes_;
    next.from.clear();
    if (const auto until = secondsOf(next.until); until && *until <= now()) {
        Q_EMIT done(tr("The end, %1 %2, is past: planned without one. “Aims and hours” names another.")
                        .arg(qs(campaign::dayWords(*until)), qs(campaign::clockWords(*until))));
        next.until.clear();
        next.untilWhat.clear();
    }
    if (next == wishes_)
        refresh();
    else
        keep(next, tr("plan from now"));
}

void PlanPage::saveAs(const QString& title, const QString& filter, const QString& name, const std::string& text) {
    const QString path = QFileDialog::getSaveFileName(this, title, name, filter);
    if (path.isEmpty())
        return;
    QSaveFile file(path);
    if (!file.open(QIODevice::WriteOnly) || file.write(text.data(), static_cast<qint64>(text.size())) < 0 ||
        !file.commit())
        Q_EMIT problem(tr("%1 could not be written: %2.").arg(path, file.errorString()));
    else
        Q_EMIT done(tr("Written: %1").arg(path));
}

void PlanPage::printDaySheet() {
    QTextDocument document;
    document.setHtml(qs(campaign::daySheetOf(plan_->campaign.drawn, plan_->told, plan_->campaign.begins)));
    QPrinter printer(QPrinter::HighResolution);
    printer.setPageSize(QPageSize(QPageSize::A4));
    QPrintPreviewDialog dialog(&printer, this);
    dialog.setWindowTitle(tr("Day sheet"));
    connect(&dialog, &QPrintPreviewDialog::paintRequested, this, [&](QPrinter* on) { document.print(on); });
    dialog.exec();
}

} // namespace otterstone::app
