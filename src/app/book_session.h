// The open book, its undo history and its findings: what all pages share. Findings are worked out off the interface's
// thread.
#pragma once

#include <functional>
#include <map>
#include <memory>
#include <set>

#include <QFutureWatcher>
#include <QObject>
#include <QPointer>

#include "book/store/book.h"
#include "book/store/history.h"
#include "book/store/material.h"
#include "book/store/ripples.h"
#include "book/store/together.h"

namespace otterstone::app {

/// What is known of some banks, held by all who show it: of a hundred it is some hundred megabytes.
using SharedEvidence = std::shared_ptr<const std::vector<evidence::Evidence>>;

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
    [[nodiscard]] std::optional<kinds::Finding> finding(records::Id run);

    /// Works out what the runs of a bank say together, and of its label; togetherReady() follows.
    void judgeTogether(records::Id bank);
    /// Looks in a worker for records that cannot be read, and whether published figures have moved; toTell() says so.
    void lookThrough();
    /// Gathers all that is known of these banks (of all when none is named); evidenceReady() follows.
    void gatherEvidence(const std::vector<records::Id>& banks);
    /// What a sheet is made from, and the sheet; materialReady() follows.
    void gatherMaterial(const std::vector<records::Id>& banks);

    /// Opens another book; the one open stays when that fails.
    Result<void> open(const QString& path);
    Result<void> create(const QString& path);
    void adopt(std::unique_ptr<book::Book> book);

    // Commands: each can be undone.
    Result<records::Id> addBank(const records::Bank& bank);
    Result<void> changeBank(const records::Bank& after);
    Result<void> removeBank(records::Id id);
    Result<void> changeRun(const records::Run& after, const QString& what);
    /// Several at once, undone at once.
    Result<void> changeRuns(const std::vector<records::Run>& after, const QString& what);
    Result<void> removeRun(records::Id id);
    /// Works out anew every run that uses it; rippling() and rippled() then say what changed, also after undo.
    Result<void> changeGear(const records::Gear& after);
    Result<records::Id> addGear(const records::Gear& gear);
    Result<void> removeGear(records::Id id);
    Result<void> changeSchools(const setup::Schools& after);
    Result<records::Id> addRun(const records::Run& run, const trace::Trace& trace);
    Result<void> addTrace(records::Id run, const records::AlsoTrace& also, const trace::Trace& trace);
    Result<void> removeTrace(records::Id run, const std::string& point);
    Result<records::Id> addPlanned(const records::PlannedRun& planned);
    Result<void> changePlanned(const records::PlannedRun& after, const QString& what);
    Result<void> removePlanned(records::Id id);
    /// A choice of the house by its key (`book/store/choices.h`).
    Result<void> changeChoice(const std::string& key, const std::string& json, const QString& what);
    /// A run that a worker has added already.
    void noteAddedRun(records::Id id, const QString& title);
    /// What the book did not take of a live run (book/exchange/rescue.h), into that run.
    [[nodiscard]] Result<records::Id> bringInRest(const QString& rescue);

Q_SIGNALS:
    void opened();
    void changed();
    void findingReady(long long run);
    void findingFailed(long long run, const QString& sentence);
    /// A figure of this piece of gear was corrected, or (kNew) the house's choices were changed: what was said of an
    /// earlier correction is said no more.
    void rippling(long long gear);
    /// What it changed, some banks at a time: one row per run that uses the gear, and per bank whose runs together say
    /// something else. `all`: there are no more.
    void rippled(const std::vector<otterstone::book::Ripple>& ripples, bool all, long long gear);
    void togetherReady(long long bank, const otterstone::together::BankFindings& findings,
                       const otterstone::judgement::Judged& judged);
    void evidenceReady(const otterstone::app::SharedEvidence& evidence);
    void materialReady(const otterstone::report::Material& material, const otterstone::report::Content& content);
    void materialFailed(const QString& sentence);
    /// What whoever opens this book should know: records that are left out, published figures that read differently
    /// now.
    void toTell(const QStringList& sentences);

private:
    template<class Work, class Done>
    void inWorker(Work work, Done done);
    void keepAll(const std::vector<book::FreshFinding>& fresh);
    void keepFinding(records::Id run, const book::Book::WorkedOut& worked);
    Result<void> savingWithRipples(const std::function<Result<void>()>& save, records::Id gear);
    void stopRippling();
    std::unique_ptr<book::Book> book_;
    book::History history_;
    std::set<records::Id> workingOut_;
    std::map<records::Id, book::Book::WorkedOut> kept_; ///< the latest of each run that was worked out here
    std::map<records::Id, bool> judging_;               ///< banks that are judged now; asked for once more meanwhile
    QPointer<QFutureWatcher<book::Rippled>> rippling_;
    int generation_ = 0; ///< of the open book: answers for an older one are dropped
};

} // namespace otterstone::app
