// How a book is found whole, locked, made and opened.
#include <QFile>
#include <QFileInfo>
#include <fcntl.h>
#include <sys/stat.h>
#include <unistd.h>

#include "book/store/book.h"
#include "book/store/schema.h"
#include "book/store/sql.h"
#include "book/store/trace_store.h"

#include "core/quantity/say.h"

namespace otterstone::book {

namespace {

Result<std::unique_ptr<QLockFile>> lockBook(const QString& path) {
    auto lock = std::make_unique<QLockFile>(path + QStringLiteral(".lock"));
    lock->setStaleLockTime(0); // only a dead process makes a lock stale
    if (lock->tryLock(0)) {
        keepFromOthers(lock->fileName());
        return lock;
    }
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
                       std::to_string(pid) + (host.isEmpty() ? "" : say(" on {}", host.toStdString())) + ").",
                   "Close it there first.");
}

bool mayWrite(const QString& path) {
    // A file without any write permission is meant to be left alone, also by those who could.
    const QFileInfo file(path);
    const bool marked = !(file.permissions() & (QFile::WriteOwner | QFile::WriteGroup | QFile::WriteOther));
    return !marked && file.isWritable() && QFileInfo(file.absolutePath()).isWritable();
}

} // namespace

void keepFromOthers(const QString& path) {
    struct stat s {};
    const QByteArray name = QFile::encodeName(path);
    if (::stat(name.constData(), &s) == 0)
        ::chmod(name.constData(), s.st_mode & (S_IRUSR | S_IWUSR | S_IRGRP | S_IWGRP));
}

Result<void> inspectHeader(const QString& path) {
    const std::string place = path.toStdString();
    QFile file(path);
    if (!QFileInfo(path).isFile())
        return problem("no_book", place, "there is no such file.", "Check the name, or make a new book.");
    if (!file.open(QIODevice::ReadOnly))
        return problem("no_book", place, say("the file cannot be opened: {}.", file.errorString().toStdString()), "");
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
                       say("the book was made by a newer Otterstone (book version {}, this one knows {}).",
                           std::to_string(number(60)), std::to_string(currentVersion())),
                       "Update Otterstone, or export a bundle there and import it here. The book was not changed.");
    unsigned pageSize = static_cast<unsigned char>(head[16]) * 256u + static_cast<unsigned char>(head[17]);
    pageSize = pageSize == 1 ? 65536 : pageSize;
    const bool rollbackPending = QFileInfo::exists(path + QStringLiteral("-journal"));
    if (!rollbackPending && number(24) == number(92) && file.size() < static_cast<qint64>(pageSize) * number(28))
        return problem("damaged_book", place,
                       say("the file is cut short: {} of {} bytes are there.", std::to_string(file.size()),
                           std::to_string(static_cast<qint64>(pageSize) * number(28))),
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
    if (const int fd = ::open(QFile::encodeName(building).constData(), O_CREAT | O_EXCL | O_WRONLY | O_CLOEXEC, 0660);
        fd >= 0)
        ::close(fd); // SQLite would let everybody read it
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
    Answer q = c.run("PRAGMA user_version");
    return q.next() ? static_cast<int>(q.value(0).whole()) : 0;
}

// SqlError when its schema is not ours or its pages are not whole.
void requireSound(Connection& c) {
    if (const auto foreign = foreignIn(c, versionOf(c)))
        throw SqlError(*foreign);
    // What photographs and files hold is looked at when it is read (a sum tells): a book with hundreds opens as fast.
    std::vector<std::string> tables;
    Answer q = c.run("SELECT name FROM sqlite_master WHERE type = 'table' AND name <> 'attachment_bytes'");
    while (q.next())
        tables.push_back(q.value(0).text());
    for (const std::string& table : tables) {
        q = c.run(("PRAGMA quick_check(\"" + table + "\")").c_str());
        if (!q.next() || q.value(0).text() != "ok")
            throw SqlError(say("it is damaged: {}", q.value(0).text()));
    }
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
    std::vector<std::string> mended;
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
            mended = cutToWhatAllHave(*connection);
            Transaction all(*connection);
            connection->run("DELETE FROM run WHERE removed = 1");
            connection->run("DELETE FROM planned WHERE removed = 1");
            connection->run("DELETE FROM attachment WHERE removed = 1");
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
    std::unique_ptr<Book> book(new Book(path, readOnly, std::move(lock), std::move(*opened)));
    book->mended_ = std::move(mended);
    return book;
}

} // namespace otterstone::book
