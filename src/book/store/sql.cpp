#include "book/store/sql.h"

#include <atomic>

#include <QFileInfo>
#include <QSqlError>

namespace otterstone::book {

namespace {

std::atomic<int> nextConnection{0};

// A change that a crash left half written must be taken back before anybody reads, and SQLite lets only a writer do
// that.
void takeBackHalfWritten(const QString& path) {
    if (!QFileInfo::exists(path + QStringLiteral("-journal")))
        return;
    try {
        Connection(path, Connection::Mode::ReadWrite).run("SELECT count(*) FROM sqlite_master");
    } catch (const SqlError&) {
        // On a medium for reading only it stays; whoever reads will hear of it.
        return;
    }
}

} // namespace

Connection::Connection(const QString& path, Mode mode)
    : name_(QStringLiteral("book-%1").arg(nextConnection++)),
      database_(QSqlDatabase::addDatabase(QStringLiteral("QSQLITE"), name_)) {
    if (mode == Mode::ReadOnly)
        takeBackHalfWritten(path);
    database_.setDatabaseName(path);
    database_.setConnectOptions(mode == Mode::ReadOnly
                                    ? QStringLiteral("QSQLITE_OPEN_READONLY;QSQLITE_BUSY_TIMEOUT=10000")
                                    : QStringLiteral("QSQLITE_BUSY_TIMEOUT=10000"));
    try {
        if (!database_.open())
            throw SqlError(database_.lastError().text().toStdString());
        // A book may come from a stranger: its schema runs nothing, its pages are looked at before they are used, and
        // it cannot have all of the memory.
        run("PRAGMA trusted_schema = OFF");
        run("PRAGMA cell_size_check = ON");
        run("PRAGMA hard_heap_limit = 200000000");
        run("PRAGMA foreign_keys = ON");
        // Every commit reaches the disk before it returns, and a book at rest is one file.
        if (mode == Mode::ReadWrite) {
            run("PRAGMA journal_mode = DELETE");
            run("PRAGMA synchronous = FULL");
        }
    } catch (...) {
        prepared_.clear();
        database_ = QSqlDatabase();
        QSqlDatabase::removeDatabase(name_);
        throw;
    }
}

Connection::~Connection() {
    prepared_.clear();
    database_.close();
    database_ = QSqlDatabase();
    QSqlDatabase::removeDatabase(name_);
}

Answer::~Answer() {
    if (of_)
        of_->giveBack(sql_, std::move(query_));
}

QSqlQuery Connection::taken(const char* sql) {
    auto known = prepared_.extract(sql);
    return known ? std::move(known.mapped()) : prepare(sql);
}

void Connection::giveBack(const std::string& sql, QSqlQuery query) {
    query.finish(); // its lock goes at once
    prepared_.emplace(sql, std::move(query));
}

QSqlQuery Connection::prepare(const char* sql) {
    QSqlQuery query(database_);
    query.setForwardOnly(true);
    if (!query.prepare(QString::fromUtf8(sql)))
        throw SqlError(query.lastError().text().toStdString());
    return query;
}

void Connection::execute(QSqlQuery& query) {
    if (!query.exec())
        throw SqlError(query.lastError().text().toStdString());
}

Transaction::Transaction(Connection& connection) : connection_(connection) { connection_.run("BEGIN IMMEDIATE"); }

Transaction::~Transaction() {
    if (!open_)
        return;
    try {
        connection_.run("ROLLBACK");
    } catch (const SqlError&) {
        // SQLite has rolled back by itself (disk full, I/O error); there is nothing left to undo.
        open_ = false;
    }
}

void Transaction::commit() {
    connection_.run("COMMIT");
    open_ = false;
}

} // namespace otterstone::book
