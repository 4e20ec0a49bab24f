// The open book, its undo history and its findings: what all pages share. Findings are worked out off the interface's thread.
#pragma once

#include <memory>
#include <set>

#include <QObject>

#include "book/book.h"
#include "book/history.h"

namespace otterstone::app {

class BookSession : public QObject {
    Q_OBJECT

public:
    explicit BookSession(QObject* parent = nullptr);
    ~BookSession() override;

    [[nodiscard]] bool isOpen() const { return book_ != nullptr; }
    /// Precondition: isOpen().
    [[nodiscard]] book::Book& book() const { return *book_; }
    [[nodiscard]] book::History& history() { return history_; }
    /// The finding when it is at hand; otherwise nothing, and findingReady() follows.
    [[nodiscard]] std::optional<findings::Finding> finding(book::Id run);

    /// Opens another book; the one open stays when that fails.
    Result<void> open(const QString& path);
    Result<void> create(const QString& path);
    void adopt(std::unique_ptr<book::Book> book);

    // Commands: each can be undone.
    Result<book::Id> addBank(const book::Bank& bank);
    Result<void> changeBank(const book::Bank& after);
    Result<void> removeBank(book::Id id);
    Result<void> changeRun(const book::Run& after, const QString& what);
    Result<void> removeRun(book::Id id);
    Result<void> changeGear(const book::Gear& after);
    /// A run that a worker has added already.
    void noteAddedRun(book::Id id, const QString& title);

Q_SIGNALS:
    void opened();
    void changed();
    void findingReady(long long run);
    void findingFailed(long long run, const QString& sentence);

private:
    std::unique_ptr<book::Book> book_;
    book::History history_;
    std::set<book::Id> workingOut_;
    int generation_ = 0; ///< of the open book: answers for an older one are dropped
};

} // namespace otterstone::app
