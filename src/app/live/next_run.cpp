#include "app/live/next_run.h"

#include <algorithm>
#include <chrono>

#include <QDateTime>

#include "app/theme.h"
#include "book/store/choices.h"

namespace otterstone::app {

NextRun::NextRun(BookSession& session, LiveBench& live, QObject* parent)
    : QObject(parent), session_(session), live_(live) {}

std::pair<std::string, std::size_t> NextRun::groundOf(const JobToDo& job) const {
    return {session_.book().choice(book::choice::campaign), session_.book().runs(job.bank).size()};
}

void NextRun::follow(int bench) {
    waiting_.erase(bench);
    like_.erase(bench);
    if (auto choice = live_.choiceOf(bench))
        like_.emplace(bench, std::move(*choice));
}

void NextRun::leave(int bench) {
    waiting_.erase(bench);
    like_.erase(bench);
}

QString NextRun::offer(int bench, const JobToDo& job, const QString& words) {
    last_ = job;
    const auto like = like_.find(bench);
    if (!job.byItself || like == like_.end())
        return tr("The plan has next on this gear: %1. Ctrl+Shift+R sets it up.").arg(words);
    // No bank has to cool in a rehearsal.
    const double in = like->second.rehearse ? notice_ : std::max(notice_, *job.byItself);
    auto timer = std::make_unique<QTimer>();
    timer->setSingleShot(true);
    connect(timer.get(), &QTimer::timeout, this, [this, bench] { begin(bench); });
    timer->start(std::chrono::milliseconds(static_cast<long long>(in * 1000.0)));
    waiting_[bench] = {job, groundOf(job), std::move(timer)};
    return tr("The plan has next on this gear: %1. It needs no hands, and begins by itself at %2; Ctrl+. keeps it from "
              "that.")
        .arg(words, QDateTime::currentDateTime()
                        .addMSecs(static_cast<qint64>(in * 1000.0))
                        .toString(QStringLiteral("HH:mm:ss")));
}

std::optional<JobToDo> NextRun::take() { return std::exchange(last_, std::nullopt); }

bool NextRun::keepBack() {
    const bool any = !waiting_.empty();
    waiting_.clear();
    return any;
}

void NextRun::clear() {
    waiting_.clear();
    like_.clear();
    last_.reset();
}

void NextRun::begin(int bench) {
    auto waiting = waiting_.extract(bench);
    const auto like = like_.find(bench);
    if (waiting.empty() || like == like_.end())
        return;
    const JobToDo& job = waiting.mapped().job;
    waiting.mapped().timer.release()->deleteLater(); // it is calling
    if (groundOf(job) != waiting.mapped().ground) {  // the tester may have taken it out, or made it by hand
        Q_EMIT problem(
            tr("What the plan had next does not begin by itself: the plan or its bank has changed meanwhile. "
               "Ctrl+Shift+R sets it up."));
        return;
    }
    if (last_ && last_->bank == job.bank && last_->recipe == job.recipe)
        last_.reset();
    LiveBench::Choice choice = like->second;
    for (const RecipeText& r : readRecipes().all) {
        if (r.recipe.key == job.recipe)
            choice.recipe = job.watts ? bench::atWatts(r, *job.watts) : r;
    }
    const auto bank = live_.bank(job.bank);
    if (!bank || choice.recipe.recipe.key != job.recipe) {
        Q_EMIT problem(tr("What the plan has next could not begin by itself: its %1 is not there any more.")
                           .arg(bank ? tr("recipe") : tr("bank")));
        return;
    }
    choice.bank = *bank;
    choice.gear = job.gear;
    choice.ends = {}; // as the run before it left the bank
    choice.samplesPerSecond.reset();
    choice.byItself = true;
    live_.begin(choice);
}

} // namespace otterstone::app
