#include "app/book_session.h"

#include <QtConcurrent>

#include "app/theme.h"

namespace otterstone::app {

BookSession::BookSession(QObject* parent) : QObject(parent) {}
BookSession::~BookSession() = default;

void BookSession::adopt(std::unique_ptr<book::Book> book) {
    ++generation_;
    workingOut_.clear();
    history_.clear();
    book_ = std::move(book);
    connect(book_.get(), &book::Book::changed, this, &BookSession::changed);
    Q_EMIT opened();
    Q_EMIT changed();
}

Result<void> BookSession::open(const QString& path) {
    if (book_ && QFileInfo(path).absoluteFilePath() == book_->path())
        return {};
    auto book = book::Book::open(path);
    if (!book)
        return tl::unexpected(book.error());
    adopt(std::move(*book));
    return {};
}

Result<void> BookSession::create(const QString& path) {
    auto book = book::Book::create(path);
    if (!book)
        return tl::unexpected(book.error());
    adopt(std::move(*book));
    return {};
}

std::optional<findings::Finding> BookSession::finding(book::Id run) {
    if (!book_)
        return std::nullopt;
    if (auto cached = book_->cachedFinding(run))
        return cached;
    if (!workingOut_.insert(run).second)
        return std::nullopt;
    auto* watcher = new QFutureWatcher<Result<findings::Finding>>(this);
    connect(watcher, &QFutureWatcherBase::finished, this, [this, watcher, run, generation = generation_] {
        watcher->deleteLater();
        if (generation != generation_)
            return;
        workingOut_.erase(run);
        const Result<findings::Finding> result = watcher->result();
        if (!result) {
            Q_EMIT findingFailed(run, qs(result.error().sentence()));
            return;
        }
        book_->remember(run, *result);
        Q_EMIT findingReady(run);
    });
    watcher->setFuture(QtConcurrent::run([path = book_->path(), run] { return book::Book::workOutElsewhere(path, run); }));
    return std::nullopt;
}

Result<book::Id> BookSession::addBank(const book::Bank& bank) {
    auto id = std::make_shared<book::Id>(book::kNew);
    auto done = history_.perform({tr("put %1 on the shelf").arg(qs(bank.name)),
                                  [this, bank, id]() -> Result<void> {
                                      if (*id != book::kNew)
                                          return book_->setBankRemoved(*id, false);
                                      const auto saved = book_->save(bank);
                                      if (!saved)
                                          return tl::unexpected(saved.error());
                                      *id = *saved;
                                      return {};
                                  },
                                  [this, id] { return book_->setBankRemoved(*id, true); }});
    if (!done)
        return tl::unexpected(done.error());
    return *id;
}

namespace {

template<class T>
std::function<Result<void>()> saving(book::Book& book, T value) {
    return [&book, value]() -> Result<void> {
        const auto saved = book.save(value);
        return saved ? Result<void>{} : tl::unexpected(saved.error());
    };
}

} // namespace

Result<void> BookSession::changeBank(const book::Bank& after) {
    const auto before = book_->bank(after.id);
    if (!before || *before == after)
        return {};
    return history_.perform({tr("change the label of %1").arg(qs(after.name)), saving(*book_, after), saving(*book_, *before)});
}

Result<void> BookSession::removeBank(book::Id id) {
    const auto bank = book_->bank(id);
    if (!bank)
        return {};
    return history_.perform({tr("take %1 off the shelf").arg(qs(bank->name)), [this, id] { return book_->setBankRemoved(id, true); },
                             [this, id] { return book_->setBankRemoved(id, false); }});
}

Result<void> BookSession::changeRun(const book::Run& after, const QString& what) {
    const auto before = book_->run(after.id);
    if (!before || *before == after)
        return {};
    return history_.perform({what, saving(*book_, after), saving(*book_, *before)});
}

Result<void> BookSession::removeRun(book::Id id) {
    return history_.perform({tr("remove a run"), [this, id] { return book_->setRunRemoved(id, true); },
                             [this, id] { return book_->setRunRemoved(id, false); }});
}

Result<void> BookSession::changeGear(const book::Gear& after) {
    for (const book::Gear& before : book_->gear()) {
        if (before.id == after.id && !(before == after))
            return history_.perform({tr("change %1").arg(qs(after.name)), saving(*book_, after), saving(*book_, before)});
    }
    return {};
}

void BookSession::noteAddedRun(book::Id id, const QString& title) {
    history_.note({tr("bring in %1").arg(title), [this, id] { return book_->setRunRemoved(id, false); },
                   [this, id] { return book_->setRunRemoved(id, true); }});
    book_->noticeChange();
}

} // namespace otterstone::app
