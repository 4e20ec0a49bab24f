#include "book/book.h"

#include <QDir>
#include <QFile>
#include <QFileInfo>
#include <sys/stat.h>

#include "book/check.h"
#include "book/finding_store.h"
#include "book/plan_store.h"
#include "book/record_store.h"
#include "book/schema.h"
#include "book/sql.h"

namespace otterstone::book {

namespace {

Problem readOnlyProblem(const QString& path) {
    return {"book_read_only", path.toStdString(), "the book is open for reading only.",
            "Copy it to a folder you may write to, or make the file writable."};
}

Result<std::unique_ptr<QLockFile>> lockBook(const QString& path) {
    auto lock = std::make_unique<QLockFile>(path + QStringLiteral(".lock"));
    lock->setStaleLockTime(0); // only a dead process makes a lock stale
    if (lock->tryLock(0))
        return lock;
    if (lock->error() != QLockFile::LockFailedError)
        return problem("cannot_write", path.toStdString(),
                       QFileInfo(QFileInfo(path).absolutePath()).isDir()
                           ? "nothing can be written beside it: the folder may not be written, or the disk is full."
                           : "its folder is not there.",
                       "Make room, or choose another folder.");
    qint64 pid = 0;
    QString host;
    QString program;
    lock->getLockInfo(&pid, &host, &program);
    return problem("book_in_use", path.toStdString(),
                   "the book is open elsewhere, in " +
                       (program.isEmpty() ? QStringLiteral("another program") : program).toStdString() + " (process " +
                       std::to_string(pid) + (host.isEmpty() ? "" : " on " + host.toStdString()) + ").",
                   "Close it there first.");
}

bool mayWrite(const QString& path) {
    // A file without any write permission is meant to be left alone, also by those who could.
    const QFileInfo file(path);
    const bool marked = !(file.permissions() & (QFile::WriteOwner | QFile::WriteGroup | QFile::WriteOther));
    return !marked && file.isWritable() && QFileInfo(file.absolutePath()).isWritable();
}

} // namespace

template<class F>
auto Book::change(F f) {
    using Value = decltype(f(*connection_));
    if (readOnly_)
        return Result<Value>(tl::unexpected(readOnlyProblem(path_)));
    auto result = guarded(path_, [&] {
        Transaction all(*connection_);
        if constexpr (std::is_void_v<Value>) {
            f(*connection_);
            all.commit();
        } else {
            Value value = f(*connection_);
            all.commit();
            return value;
        }
    });
    if (result)
        Q_EMIT changed();
    return result;
}

template<class F>
auto Book::query(F f) const {
    // A failed read of a book that opened whole means a vanished disk: views show nothing rather than stop the program.
    return guarded(path_, [&] { return f(*connection_); }).value_or(decltype(f(*connection_)){});
}

Result<void> inspectHeader(const QString& path) {
    const std::string place = path.toStdString();
    QFile file(path);
    if (!QFileInfo(path).isFile())
        return problem("no_book", place, "there is no such file.", "Check the name, or make a new book.");
    if (!file.open(QIODevice::ReadOnly))
        return problem("no_book", place, "the file cannot be opened: " + file.errorString().toStdString() + ".", "");
    const QByteArray head = file.read(100);
    if (head.size() < 100 || !head.startsWith(QByteArray("SQLite format 3\0", 16)))
        return problem("not_a_book", place, "this is not an Otterstone book.",
                       "Choose a file that ends in .otterstone.");
    const auto number = [&](int at) {
        unsigned v = 0;
        for (int k = 0; k < 4; ++k)
            v = v << 8 | static_cast<unsigned char>(head[at + k]);
        return v;
    };
    if (number(68) != kApplicationId)
        return problem("not_a_book", place, "this is a database, but not an Otterstone book.",
                       "Choose a file that ends in .otterstone.");
    if (static_cast<int>(number(60)) > currentVersion())
        return problem("newer_book", place,
                       "the book was made by a newer Otterstone (book version " + std::to_string(number(60)) +
                           ", this one knows " + std::to_string(currentVersion()) + ").",
                       "Update Otterstone, or export a bundle there and import it here. The book was not changed.");
    unsigned pageSize = static_cast<unsigned char>(head[16]) << 8 | static_cast<unsigned char>(head[17]);
    pageSize = pageSize == 1 ? 65536 : pageSize;
    const bool rollbackPending = QFileInfo::exists(path + QStringLiteral("-journal"));
    if (!rollbackPending && number(24) == number(92) && file.size() < static_cast<qint64>(pageSize) * number(28))
        return problem("damaged_book", place,
                       "the file is cut short: " + std::to_string(file.size()) + " of " +
                           std::to_string(static_cast<qint64>(pageSize) * number(28)) + " bytes are there.",
                       "Take the last whole copy, or a bundle. The file was not changed.");
    return {};
}

Book::Book(QString path, bool readOnly, std::unique_ptr<QLockFile> lock, std::unique_ptr<Connection> connection)
    : path_(std::move(path)), readOnly_(readOnly), lock_(std::move(lock)), connection_(std::move(connection)) {}

Book::~Book() = default;

Result<std::unique_ptr<Book>> Book::create(const QString& path) {
    if (QFileInfo::exists(path))
        return problem("book_exists", path.toStdString(), "there is a file of this name already.",
                       "Choose another name, or open it.");
    auto lock = lockBook(path);
    if (!lock)
        return tl::unexpected(lock.error());
    // Built under another name, so that a file of the book's name is always a whole book.
    const QString building = path + QStringLiteral(".new");
    QFile::remove(building);
    QFile::remove(building + QStringLiteral("-journal")); // a killed one's: it would be rolled back into ours
    auto made = guarded(path, [&] {
        Connection connection(building, Connection::Mode::ReadWrite);
        migrate(connection, migrations());
    });
    if (!made)
        return tl::unexpected(made.error());
    if (!QFile::rename(building, path))
        return problem("book_failed", path.toStdString(), "the book could not be put in its place.",
                       "Check that you may write to the folder.");
    lock->reset();
    return open(path);
}

Result<std::unique_ptr<Book>> Book::createFilled(const QString& path, const std::function<Result<void>(Book&)>& fill) {
    if (QFileInfo::exists(path))
        return problem("book_exists", path.toStdString(), "there is a file of this name already.",
                       "Choose another name.");
    const QString building = path + QStringLiteral(".filling");
    const auto removeBuilding = [&building] { // also what a killed one left
        for (const char* part : {"", "-journal", ".new", ".new-journal"})
            QFile::remove(building + QLatin1String(part));
    };
    removeBuilding();
    Result<void> filled;
    {
        auto book = create(building);
        if (!book) {
            book.error().place = path.toStdString(); // the name it was asked for
            return book;
        }
        filled = fill(**book);
    }
    if (!filled || !QFile::rename(building, path)) {
        removeBuilding();
        return filled ? problem("cannot_write", path.toStdString(), "the book could not be put in its place.",
                                "Check that you may write to the folder.")
                      : tl::unexpected(filled.error());
    }
    return open(path);
}

Result<std::unique_ptr<Book>> Book::open(const QString& path) {
    return openAs(QFileInfo(path).absoluteFilePath(), false);
}

Result<std::unique_ptr<Book>> Book::openToRead(const QString& path) {
    auto book = openAs(QFileInfo(path).absoluteFilePath(), true);
    return book || book.error().code != "older_book" ? std::move(book) : open(path);
}

namespace {

int versionOf(Connection& c) {
    QSqlQuery q = c.run("PRAGMA user_version");
    return q.next() ? q.value(0).toInt() : 0;
}

// SqlError when its schema is not ours or its pages are not whole.
void requireSound(Connection& c) {
    if (const auto foreign = foreignIn(c, versionOf(c)))
        throw SqlError(*foreign);
    QSqlQuery q = c.run("PRAGMA quick_check(1)");
    if (!q.next() || q.value(0).toString() != QStringLiteral("ok"))
        throw SqlError("it is damaged: " + text(q.value(0)));
}

} // namespace

Result<std::unique_ptr<Book>> Book::openAs(const QString& path, bool toRead) {
    if (auto header = inspectHeader(path); !header)
        return tl::unexpected(header.error());
    const bool readOnly = toRead || !mayWrite(path);
    std::unique_ptr<QLockFile> lock;
    if (!readOnly) {
        // SQLite's journal lies beside the name it was opened by: under the other name a crash would not be undone.
        struct stat file {};
        if (::stat(QFile::encodeName(path).constData(), &file) == 0 && file.st_nlink > 1)
            return problem(
                "book_has_two_names", path.toStdString(),
                "this file has another name on its disk (a hard link), and two programs could write to it at once.",
                "Copy it to a file of its own, and open the copy.");
        const QString itself = QFileInfo(path).canonicalFilePath(); // one lock, whatever links lead to it
        auto locked = lockBook(itself.isEmpty() ? path : itself);
        if (!locked)
            return tl::unexpected(locked.error());
        lock = std::move(*locked);
    }
    bool older = false;
    auto opened = guarded(path, [&] {
        // To read alone until it is known: what is refused was not touched (invariant 3).
        auto connection = std::make_unique<Connection>(path, Connection::Mode::ReadOnly);
        older = versionOf(*connection) < currentVersion();
        if (older && readOnly)
            return connection; // refused below, whatever it holds
        requireSound(*connection);
        if (!readOnly) {
            connection = std::make_unique<Connection>(path, Connection::Mode::ReadWrite);
            migrate(*connection, migrations());
            Transaction all(*connection);
            connection->run("DELETE FROM run WHERE removed = 1");
            connection->run("DELETE FROM planned WHERE removed = 1");
            connection->run(
                "UPDATE run SET target_bank_id = NULL WHERE target_bank_id IN (SELECT id FROM bank WHERE removed = 1)");
            connection->run("DELETE FROM bank WHERE removed = 1");
            connection->run("DELETE FROM trace WHERE removed = 1");
            all.commit();
        }
        return connection;
    });
    if (!opened)
        return problem("damaged_book", path.toStdString(), opened.error().text,
                       "Take the last whole copy, or a bundle. The file was not changed.");
    if (older && readOnly)
        return problem("older_book", path.toStdString(),
                       "the book is of an older version and may not be written to, so it cannot be brought up to date.",
                       "Copy it to where it may be changed, and open the copy.");
    return std::unique_ptr<Book>(new Book(path, readOnly, std::move(lock), std::move(*opened)));
}

std::vector<std::string> Book::unreadable() const {
    return query([](Connection& c) { return damagedRecords(c); });
}
std::vector<Bank> Book::banks() const {
    return query([](Connection& c) { return loadBanks(c); });
}
std::optional<Bank> Book::bank(Id id) const {
    return query([&](Connection& c) { return loadBank(c, id); });
}
std::vector<Gear> Book::gear() const {
    return query([](Connection& c) { return loadGear(c); });
}
std::vector<Run> Book::runs(Id bank) const {
    return query([&](Connection& c) { return loadRuns(c, bank); });
}
std::optional<Run> Book::run(Id id) const {
    return query([&](Connection& c) { return loadRun(c, id); });
}
std::vector<ChunkSummary> Book::summaries(Id run, const std::string& point) const {
    return query([&](Connection& c) {
        const auto id = findTrace(c, run, point);
        return id ? loadSummaries(c, *id) : std::vector<ChunkSummary>{};
    });
}
trace::Trace Book::trace(Id run, const std::string& point) const {
    return query([&](Connection& c) { return loadTrace(c, run, point); });
}
trace::Trace Book::chunks(Id run, int firstSeq, int lastSeq, const std::string& point) const {
    return query([&](Connection& c) {
        const auto id = findTrace(c, run, point);
        return id ? loadChunks(c, *id, firstSeq, lastSeq) : trace::Trace{};
    });
}
findings::Schools Book::schools() const {
    return query([](Connection& c) { return loadSchools(c); });
}
findings::Setup Book::setupFor(const Bank& bank, const Run& run) const {
    return query([&](Connection& c) { return setupOf(bank, run, loadBench(c)); });
}
behaviour::Facts Book::factsFor(const Bank& bank, const Run& run) const {
    return query([&](Connection& c) { return factsOf(c, bank, run, loadBench(c)); });
}

std::optional<logs::Mapping> Book::mapping(const std::string& header) const {
    return query([&](Connection& c) { return loadMapping(c, header); });
}

std::optional<findings::Finding> Book::cachedFinding(Id id) const {
    return query([&](Connection& c) -> std::optional<findings::Finding> {
        const auto r = loadRun(c, id);
        const auto b = r ? loadBank(c, r->bank) : std::nullopt;
        return b ? book::cachedFinding(c, *b, *r, loadBench(c)) : std::nullopt;
    });
}

Result<findings::Finding> Book::finding(Id id) {
    if (auto cached = cachedFinding(id))
        return *cached;
    auto worked = workOutKeyed(path_, id);
    if (!worked)
        return tl::unexpected(worked.error());
    remember(id, *worked);
    return std::move(worked->finding);
}

Result<Book::WorkedOut> Book::workOutKeyed(const QString& path, Id id) {
    auto result = guarded(path, [&]() -> Result<WorkedOut> {
        Connection c(path, Connection::Mode::ReadOnly);
        // A lock held while it is worked out would keep the window from saving; so what changed meanwhile is looked for
        // afterwards.
        for (;;) {
            const auto r = loadRun(c, id);
            const auto b = r ? loadBank(c, r->bank) : std::nullopt;
            if (!b)
                return problem("no_run", path.toStdString(), "there is no such run.");
            const Bench bench = loadBench(c);
            std::string key = cacheKey(c, *b, *r, bench);
            auto finding = workOut(c, *b, *r, bench);
            if (!finding)
                return tl::unexpected(finding.error());
            const auto again = loadRun(c, id);
            if (!again || *again == *r)
                return WorkedOut{std::move(key), std::move(*finding)};
        }
    });
    return result ? std::move(*result) : tl::unexpected(result.error());
}

Result<findings::Finding> Book::workOutElsewhere(const QString& path, Id id) {
    auto worked = workOutKeyed(path, id);
    return worked ? Result<findings::Finding>(std::move(worked->finding)) : tl::unexpected(worked.error());
}

void Book::remember(Id id, const WorkedOut& worked) {
    if (readOnly_)
        return;
    // A cache that cannot be written costs time, nothing else.
    (void)guarded(path_, [&] { storeFinding(*connection_, id, worked.key, worked.finding); });
}

std::string Book::findingKey(Id id) const {
    return query([&](Connection& c) {
        const auto r = loadRun(c, id);
        const auto b = r ? loadBank(c, r->bank) : std::nullopt;
        return b ? cacheKey(c, *b, *r, loadBench(c)) : std::string();
    });
}

Result<Id> Book::save(const Bank& bank) {
    return change([&](Connection& c) { return storeBank(c, bank); });
}

Result<Id> Book::save(const Gear& gear) {
    return change([&](Connection& c) { return storeGear(c, gear); });
}

Result<Id> Book::save(const Run& run) {
    return change([&](Connection& c) { return storeRun(c, run); });
}

namespace {

Id storeWhole(Connection& c, const Run& run, const trace::Trace& trace) {
    const Id id = storeRun(c, run);
    if (run.hasTrace())
        saveTrace(c, id, AlsoTrace{run.point, run.byDisplay, {}, {}}.key(), trace);
    return id;
}

} // namespace

Result<Id> Book::addRun(const Run& run, const trace::Trace& trace) {
    return change([&](Connection& c) { return storeWhole(c, run, trace); });
}

Result<void> Book::changeSamples(const Run& run, const trace::Trace& trace) {
    return change([&](Connection& c) {
        c.run("DELETE FROM trace WHERE run_id = ? AND main = 1", run.id);
        (void)storeWhole(c, run, trace);
    });
}

Result<void> Book::addTrace(Id run, const AlsoTrace& also, const trace::Trace& trace) {
    return change([&](Connection& c) {
        const Id id = saveTrace(c, run, also.key(), trace, false);
        c.run("UPDATE trace SET gear_id = ?, log_name = ? WHERE id = ?", also.meter, also.logName, id);
    });
}

Result<void> Book::setTraceRemoved(Id run, const std::string& point, bool removed) {
    return change([&](Connection& c) {
        c.run("UPDATE trace SET removed = ? WHERE run_id = ? AND point = ? AND main = 0", removed, run, point);
    });
}

Result<void> Book::setSchools(const findings::Schools& schools) {
    return change([&](Connection& c) { storeSchools(c, schools); });
}

Result<Id> Book::addRunElsewhere(const QString& path, const Run& run, const trace::Trace& trace) {
    return guarded(path, [&] {
        Connection c(path, Connection::Mode::ReadWrite);
        Transaction all(c);
        const Id id = storeWhole(c, run, trace);
        all.commit();
        return id;
    });
}

Result<void> Book::setBankRemoved(Id id, bool removed) {
    return change([&](Connection& c) { c.run("UPDATE bank SET removed = ? WHERE id = ?", removed, id); });
}

Result<void> Book::setGearRemoved(Id id, bool removed) {
    return change([&](Connection& c) { c.run("UPDATE gear SET removed = ? WHERE id = ?", removed, id); });
}

Result<void> Book::setRunRemoved(Id id, bool removed) {
    return change([&](Connection& c) { c.run("UPDATE run SET removed = ? WHERE id = ?", removed, id); });
}

std::vector<PlannedRun> Book::planned() const {
    return query([](Connection& c) { return loadPlanned(c); });
}
std::vector<Publication> Book::publications(const std::string& scope) const {
    return query([&](Connection& c) { return loadPublications(c, scope); });
}
std::string Book::choice(const std::string& key) const {
    return query([&](Connection& c) { return loadChoice(c, key); });
}

Result<Id> Book::save(const PlannedRun& planned) {
    return change([&](Connection& c) { return storePlanned(c, planned); });
}

Result<void> Book::setPlannedRemoved(Id id, bool removed) {
    return change([&](Connection& c) { c.run("UPDATE planned SET removed = ? WHERE id = ?", removed, id); });
}

Result<Id> Book::publish(const Publication& publication) {
    return change([&](Connection& c) { return storePublication(c, publication); });
}

Result<void> Book::setChoice(const std::string& key, const std::string& json) {
    return change([&](Connection& c) { storeChoice(c, key, json); });
}

Result<void> Book::rememberMapping(const std::string& header, const logs::Mapping& mapping) {
    return change([&](Connection& c) { storeMapping(c, header, mapping); });
}

} // namespace otterstone::book
