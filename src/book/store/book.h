// The book: one SQLite file with banks, gear, runs and findings. Every change is on the disk when its call returns.
//
// Invariants, cited by number in tests:
//  1. A call that returns a problem has changed nothing.
//  2. A call that returned a result survives kill -9 and a power cut.
//  3. A book of a newer version, a damaged, foreign or locked file is refused and not touched.
//  4. At most one process writes; it is named to whoever comes second.
#pragma once

#include <functional>
#include <map>
#include <memory>
#include <vector>

#include <QLockFile>
#include <QObject>
#include <QString>

#include "book/names.h"
#include "book/store/trace_store.h"
#include "core/kinds/judge.h"
#include "core/kinds/traced/finding.h"
#include "core/quantity/problem.h"
#include "core/records/planned.h"
#include "core/records/run.h"
#include "core/setup/setup.h"
#include "logs/columns.h"

namespace otterstone::book {

/// A bank's runs, counted.
struct Tally {
    int recharges = 0, drains = 0, sheets = 0;
    std::string newest; ///< when the newest began, ISO 8601
};

class Book : public QObject {
    Q_OBJECT

public:
    /// A new book; a problem when the file exists.
    [[nodiscard]] static Result<std::unique_ptr<Book>> create(const QString& path);
    /// A new book that is filled before it has its name: killed half way, it leaves none. A problem when the file
    /// exists, or of `fill`.
    [[nodiscard]] static Result<std::unique_ptr<Book>> createFilled(const QString& path,
                                                                    const std::function<Result<void>(Book&)>& fill);
    /// Opens for writing, or read-only when file or folder are. Problems: no_book, not_a_book, newer_book,
    /// damaged_book, book_in_use, book_has_two_names (hard links), older_book (of an older version, and it may not be
    /// written to be brought up to date).
    [[nodiscard]] static Result<std::unique_ptr<Book>> open(const QString& path);
    /// Opens to read alone, also while another program writes to it. A book of an older version is opened as by open(),
    /// as it must be brought up to date first. Problems as open().
    [[nodiscard]] static Result<std::unique_ptr<Book>> openToRead(const QString& path);
    ~Book() override;

    /// Records that cannot be read, each as a sentence's part: they are left out wherever the book is shown, the others
    /// are not.
    [[nodiscard]] std::vector<std::string> unreadable() const;
    /// What was put right as it was opened, and what that cost, one sentence's part each; empty as a rule.
    [[nodiscard]] const std::vector<std::string>& mended() const { return mended_; }

    [[nodiscard]] const QString& path() const { return path_; }
    [[nodiscard]] bool readOnly() const { return readOnly_; }

    [[nodiscard]] std::vector<Bank> banks() const;
    [[nodiscard]] std::optional<Bank> bank(Id id) const;
    [[nodiscard]] std::vector<Gear> gear() const;
    /// How many runs use a piece, by its number; those that none uses are left out.
    [[nodiscard]] std::map<Id, int> gearUses() const;
    [[nodiscard]] std::vector<Run> runs(Id bank) const;
    /// Those of all banks that were begun and not yet closed, bank by bank.
    [[nodiscard]] std::vector<Run> openRuns() const;
    [[nodiscard]] std::optional<Run> run(Id id) const;
    /// Of the main trace, or of the one read at a point (AlsoTrace::key()).
    [[nodiscard]] std::vector<ChunkSummary> summaries(Id run, const std::string& point = {}) const;
    [[nodiscard]] trace::Trace chunks(Id run, int firstSeq, int lastSeq, const std::string& point = {}) const;
    [[nodiscard]] trace::Trace trace(Id run, const std::string& point = {}) const;
    [[nodiscard]] setup::Schools schools() const;
    /// All a finding depends on besides its samples, also for a run that is only being written down.
    [[nodiscard]] setup::Setup setupFor(const Bank& bank, const Run& run) const;
    /// What a run's sheet is held against, also for one that is only being filled in.
    [[nodiscard]] setup::Facts factsFor(const Bank& bank, const Run& run) const;
    [[nodiscard]] std::optional<logs::Mapping> mapping(const std::string& header) const;
    /// Runs still to be made, and those done.
    [[nodiscard]] std::vector<PlannedRun> planned() const;
    /// Sheets published of a bank or of the comparison, the newest first.
    [[nodiscard]] std::vector<Publication> publications(const std::string& scope) const;
    /// A choice of the house as it is kept (`choices.h`); empty when there is none.
    [[nodiscard]] std::string choice(const std::string& key) const;

    /// The finding if it is cached and still holds.
    [[nodiscard]] std::optional<kinds::Finding> cachedFinding(Id run) const;
    /// Those of a bank's runs that are cached and still hold.
    [[nodiscard]] std::map<Id, kinds::Finding> cachedFindings(Id bank) const;
    /// The same of every bank in turn, with its runs: what all of them rest on is read once.
    using OfBank = std::function<void(const Bank&, const std::vector<Run>&, std::map<Id, kinds::Finding>)>;
    void eachBanksFindings(const OfBank& of) const;
    /// How many questions the runs of each bank ask, as far as their findings are cached; banks without one are left
    /// out.
    [[nodiscard]] std::map<Id, int> asked() const;
    /// Banks with runs of which nothing was ever worked out.
    [[nodiscard]] std::vector<Id> banksWithoutFindings() const;
    /// How many runs of which kind each bank has; banks without any are left out.
    [[nodiscard]] std::map<Id, Tally> tallies() const;
    /// The finding, worked out and cached when it is not.
    [[nodiscard]] Result<kinds::Finding> finding(Id run);
    /// As finding(), but on a connection of its own and without caching: for a worker's thread.
    [[nodiscard]] static Result<kinds::Finding> workOutElsewhere(const QString& path, Id run);
    /// A finding with the state of the book it was worked out from: what changes meanwhile leaves it without a reader.
    struct WorkedOut {
        std::string key;
        kinds::Finding finding;
        std::string json = {}; ///< as it will be stored, where a worker's thread has made that; else empty
    };
    [[nodiscard]] static Result<WorkedOut> workOutKeyed(const QString& path, Id run);
    /// Caches it under its own key; false when the book cannot be written.
    bool remember(Id run, const WorkedOut& worked);
    /// What is remembered within goes to the disk at once; each by itself would wait for it. False when it cannot.
    bool inOneWrite(const std::function<void()>& remembering);
    /// Stores a cached finding as it reads now, where a neighbour's change has settled it anew.
    void keepSettled(Id run, const kinds::Finding& finding);
    /// The key a finding of this run must have to hold now.
    [[nodiscard]] std::string findingKey(Id run) const;

    /// Insert (id == kNew) or change; the id.
    Result<Id> save(const Bank& bank);
    Result<Id> save(const Gear& gear);
    Result<Id> save(const Run& run);
    /// A run with its samples, all or nothing.
    Result<Id> addRun(const Run& run, const trace::Trace& trace);
    /// As addRun(), but on a connection of its own: for a worker's thread. Call noticeChange() in the book's thread
    /// afterwards.
    [[nodiscard]] static Result<Id> addRunElsewhere(const QString& path, const Run& run, const trace::Trace& trace);
    void noticeChange() { Q_EMIT changed(); }
    /// One more trace of a run, at a point that has none yet.
    Result<void> addTrace(Id run, const AlsoTrace& also, const trace::Trace& trace);
    Result<void> setTraceRemoved(Id run, const std::string& point, bool removed);
    Result<void> setSchools(const setup::Schools& schools);
    /// Removed things stay in the file until the book is next opened, so that undo can bring them back.
    Result<void> setBankRemoved(Id id, bool removed);
    Result<void> setGearRemoved(Id id, bool removed);
    Result<void> setRunRemoved(Id id, bool removed);
    Result<Id> save(const PlannedRun& planned);
    Result<void> setPlannedRemoved(Id id, bool removed);
    Result<Id> publish(const Publication& publication);
    Result<void> setChoice(const std::string& key, const std::string& json);
    Result<void> rememberMapping(const std::string& header, const logs::Mapping& mapping);

Q_SIGNALS:
    void changed();

private:
    static Result<std::unique_ptr<Book>> openAs(const QString& path, bool toRead);
    Book(QString path, bool readOnly, std::unique_ptr<QLockFile> lock, std::unique_ptr<Connection> connection);
    template<class F>
    auto change(F f);
    template<class F>
    auto query(F f) const;

    QString path_;
    bool readOnly_;
    std::unique_ptr<QLockFile> lock_;
    std::unique_ptr<Connection> connection_;
    std::vector<std::string> mended_;
};

/// A file of the book's is its owner's and their group's, as far as the umask lets it be, and nobody else's.
void keepFromOthers(const QString& path);

/// What the file's first 100 bytes say, read without SQLite so that nothing can be changed. Problems as open().
[[nodiscard]] Result<void> inspectHeader(const QString& path);

} // namespace otterstone::book
