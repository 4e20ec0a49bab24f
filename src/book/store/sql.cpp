#include "book/store/sql.h"

#include <QFileInfo>
#include <simdjson.h>
#include <sqlite3.h>

namespace otterstone::book {

namespace {

constexpr int kPatienceMs = 10'000; // for another one that writes

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

Connection::Connection(const QString& path, Mode mode) {
    if (mode == Mode::ReadOnly)
        takeBackHalfWritten(path);
    try {
        open(path, mode);
    } catch (...) {
        close();
        throw;
    }
}

Connection::~Connection() { close(); }

void Connection::open(const QString& path, Mode mode) {
    const int how = mode == Mode::ReadOnly ? SQLITE_OPEN_READONLY : SQLITE_OPEN_READWRITE | SQLITE_OPEN_CREATE;
    // One thread has it: no mutex of its own is wanted.
    if (sqlite3_open_v2(path.toUtf8().constData(), &database_, how | SQLITE_OPEN_NOMUTEX, nullptr) != SQLITE_OK)
        fail();
    sqlite3_busy_timeout(database_, kPatienceMs);
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
}

void Connection::close() {
    for (const auto& [sql, statement] : prepared_)
        sqlite3_finalize(statement);
    prepared_.clear();
    sqlite3_close_v2(std::exchange(database_, nullptr));
}

void Connection::fail() const { throw SqlError(database_ ? sqlite3_errmsg(database_) : "there is not enough memory"); }

Answer Connection::prepare(const char* sql) {
    if (auto known = prepared_.extract(sql))
        return {*this, known.mapped()};
    sqlite3_stmt* statement = nullptr;
    if (sqlite3_prepare_v3(database_, sql, -1, SQLITE_PREPARE_PERSISTENT, &statement, nullptr) != SQLITE_OK)
        fail();
    return {*this, statement};
}

void Connection::giveBack(sqlite3_stmt* statement) {
    sqlite3_reset(statement);          // its lock goes at once
    sqlite3_clear_bindings(statement); // else a picture would stay in memory
    prepared_.emplace(sqlite3_sql(statement), statement);
}

Answer::~Answer() {
    if (statement_)
        of_->giveBack(statement_);
}

void Answer::bound(int code) {
    if (code != SQLITE_OK)
        of_->fail();
}

void Answer::bind(const std::string& text) {
    bound(sqlite3_bind_text64(statement_, ++bound_, text.data(), text.size(), SQLITE_TRANSIENT, SQLITE_UTF8));
}
void Answer::bind(const char* text) { bind(std::string(text)); }
void Answer::bind(const QString& text) {
    if (text.isNull())
        return bind(std::nullopt);
    bind(text.toStdString());
}
void Answer::bind(const QByteArray& blob) {
    if (blob.isNull())
        return bind(std::nullopt);
    bound(sqlite3_bind_blob64(statement_, ++bound_, blob.constData(), static_cast<sqlite3_uint64>(blob.size()),
                              SQLITE_TRANSIENT));
}
void Answer::bind(double value) { bound(sqlite3_bind_double(statement_, ++bound_, value)); }
void Answer::bind(long long value) { bound(sqlite3_bind_int64(statement_, ++bound_, value)); }
void Answer::bind(std::nullopt_t) { bound(sqlite3_bind_null(statement_, ++bound_)); }

bool Answer::step() {
    switch (sqlite3_step(statement_)) {
    case SQLITE_ROW: return true;
    case SQLITE_DONE: return false;
    default: of_->fail();
    }
}

void Answer::execute() { state_ = step() ? State::Ahead : State::Done; }

bool Answer::next() {
    if (state_ == State::Rows && !step())
        state_ = State::Done;
    else if (state_ == State::Ahead)
        state_ = State::Rows;
    return state_ == State::Rows;
}

void Answer::finish() {
    sqlite3_reset(statement_);
    state_ = State::Done;
}

long long Answer::lastInsertId() const { return sqlite3_last_insert_rowid(of_->database_); }

bool Cell::isNull() const { return sqlite3_column_type(statement_, at_) == SQLITE_NULL; }
bool Cell::isWhole() const { return sqlite3_column_type(statement_, at_) == SQLITE_INTEGER; }
bool Cell::isNumber() const { return isWhole() || sqlite3_column_type(statement_, at_) == SQLITE_FLOAT; }
bool Cell::isText() const { return sqlite3_column_type(statement_, at_) == SQLITE_TEXT; }
bool Cell::isBlob() const { return sqlite3_column_type(statement_, at_) == SQLITE_BLOB; }
long long Cell::whole() const { return sqlite3_column_int64(statement_, at_); }
double Cell::number() const { return sqlite3_column_double(statement_, at_); }
std::string Cell::text() const {
    const auto* words = reinterpret_cast<const char*>(sqlite3_column_text(statement_, at_));
    if (!words)
        return {};
    const auto length = static_cast<std::size_t>(size());
    return simdjson::validate_utf8(words, length) ? std::string(words, length)
                                                  : QString::fromUtf8(words, size()).toStdString();
}
QByteArray Cell::bytes() const {
    const void* data = sqlite3_column_blob(statement_, at_);
    return data ? QByteArray(static_cast<const char*>(data), size()) : QByteArray();
}
int Cell::size() const { return sqlite3_column_bytes(statement_, at_); }
std::string Cell::name() const { return sqlite3_column_name(statement_, at_); }

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
