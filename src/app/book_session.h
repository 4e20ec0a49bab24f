// The open book, its undo history and its findings: what all pages share. Findings are worked out off the interface's
// thread.
#pragma once

#include <functional>
#include <map>
#include <memory>
#include <set>

#include <QObject>

#include "book/book.h"
#include "book/history.h"
#include "book/material.h"
#include "book/together.h"

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

    /// Works out what the runs of a bank say together, and of its label; togetherReady() follows.
    void judgeTogether(book::Id bank);
    /// Looks in a worker for records that cannot be read, and whether published figures have moved; toTell() says so.
    void lookThrough();
    /// Gathers all that is known of these banks (of all when none is named); evidenceReady() follows.
    void gatherEvidence(const std::vector<book::Id>& banks);
    /// What a sheet is made from; materialReady() follows.
    void gatherMaterial(const std::vector<book::Id>& banks);

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
    /// Works out anew every run that uses it; rippled() then says what changed, also after undo.
    Result<void> changeGear(const book::Gear& after);
    Result<book::Id> addGear(const book::Gear& gear);
    Result<void> removeGear(book::Id id);
    Result<void> changeSchools(const findings::Schools& after);
    /// Readings by hand: a new run, or other samples for one that is there.
    Result<book::Id> addRun(const book::Run& run, const trace::Trace& trace);
    Result<void> changeSamples(const book::Run& after, const trace::Trace& trace);
    Result<void> addTrace(book::Id run, const book::AlsoTrace& also, const trace::Trace& trace);
    Result<void> removeTrace(book::Id run, const std::string& point);
    Result<book::Id> addPlanned(const book::PlannedRun& planned);
    Result<void> changePlanned(const book::PlannedRun& after, const QString& what);
    Result<void> removePlanned(book::Id id);
    /// The house's purpose ("purpose") or needs ("needs").
    Result<void> changeChoice(const std::string& key, const std::string& json, const QString& what);
    /// A run that a worker has added already.
    void noteAddedRun(book::Id id, const QString& title);

Q_SIGNALS:
    void opened();
    void changed();
    void findingReady(long long run);
    void findingFailed(long long run, const QString& sentence);
    /// What a corrected figure changed: one row per run that uses the gear, and per bank whose runs together say
    /// something else.
    void rippled(const std::vector<otterstone::book::Ripple>& ripples);
    void togetherReady(long long bank, const otterstone::findings::BankFindings& findings,
                       const otterstone::judgement::Judged& judged);
    void evidenceReady(const std::vector<otterstone::evidence::Evidence>& evidence);
    void materialReady(const otterstone::report::Material& material);
    void materialFailed(const QString& sentence);
    /// What whoever opens this book should know: records that are left out, published figures that read differently
    /// now.
    void toTell(const QStringList& sentences);

private:
    template<class Work, class Done>
    void inWorker(Work work, Done done);
    void keepAll(const std::vector<book::Snapshot::OfRun>& fresh);
    void keepFinding(book::Id run, const book::Book::WorkedOut& worked);
    Result<void> savingWithRipples(const std::function<Result<void>()>& save, book::Id gear);
    std::unique_ptr<book::Book> book_;
    book::History history_;
    std::set<book::Id> workingOut_;
    std::map<book::Id, book::Book::WorkedOut> kept_; ///< the latest of each run that was worked out here
    int generation_ = 0;                             ///< of the open book: answers for an older one are dropped
};

} // namespace otterstone::app
