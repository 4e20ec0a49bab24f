// What a correction changes, worked out beside the window.
#include "app/book_session.h"

#include <QtConcurrent>

#include "app/theme.h"

namespace otterstone::app {

Result<void> BookSession::savingWithRipples(const std::function<Result<void>()>& save, records::Id gear) {
    // What was said before can still be worked out afterwards, by the bench as it was: nothing of it waits here.
    const auto before = book::benchNow(book_->path());
    if (auto saved = save(); !saved || !before)
        return saved;
    stopRippling();
    auto* watcher = new QFutureWatcher<book::Rippled>(this);
    rippling_ = watcher;
    Q_EMIT rippling(gear);
    connect(watcher, &QFutureWatcherBase::resultsReadyAt, this, [this, watcher, gear](int from, int to) {
        std::vector<book::FreshFinding> fresh;
        std::vector<book::Ripple> rows;
        for (int k = from; k < to && watcher == rippling_; ++k) {
            const book::Rippled of = watcher->resultAt(k);
            fresh.insert(fresh.end(), of.fresh.begin(), of.fresh.end());
            rows.insert(rows.end(), of.rows.begin(), of.rows.end());
        }
        keepAll(fresh);
        if (!rows.empty())
            Q_EMIT rippled(rows, false, gear);
    });
    auto done = std::make_shared<Result<void>>();
    connect(watcher, &QFutureWatcherBase::finished, this, [this, watcher, done, gear] {
        watcher->deleteLater();
        if (watcher != rippling_)
            return;
        if (*done)
            Q_EMIT rippled({}, true, gear);
        else
            Q_EMIT toTell({qs(done->error().sentence())});
    });
    const auto work = [done](QPromise<book::Rippled>& told, const QString& path, const setup::Bench& was,
                             records::Id of) {
        *done = book::tellRipples(path, was, of, [&](book::Rippled bank) {
            if (!bank.rows.empty() || !bank.fresh.empty())
                told.addResult(std::move(bank));
            return !told.isCanceled();
        });
    };
    watcher->setFuture(QtConcurrent::run(work, book_->path(), *before, gear));
    return {};
}

// Findings that an earlier correction still works out would not be asked for any more.
void BookSession::stopRippling() {
    if (rippling_)
        rippling_->cancel();
    rippling_.clear();
}

} // namespace otterstone::app
