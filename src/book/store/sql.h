// A thin, throwing layer over SQLite, internal to this folder: nothing of it crosses the folder's edge.
#pragma once

#include <optional>
#include <set>
#include <stdexcept>
#include <string>
#include <type_traits>
#include <unordered_map>
#include <utility>

#include <QByteArray>
#include <QString>

#include "book/store/damage.h"
#include "core/quantity/problem.h"

struct sqlite3;
struct sqlite3_stmt;

namespace otterstone::book {

/// A statement failed. Turned into a Problem by guarded().
class SqlError : public std::runtime_error {
public:
    using std::runtime_error::runtime_error;
};

class Connection;

/// One cell of the row that stands there, until the next one does. SQLite turns one type into another where it is asked
/// for; a Row does not.
class Cell {
public:
    Cell(sqlite3_stmt* statement, int at) : statement_(statement), at_(at) {}
    [[nodiscard]] bool isNull() const;
    [[nodiscard]] bool isWhole() const;
    [[nodiscard]] bool isNumber() const; ///< whole or not
    [[nodiscard]] bool isText() const;
    [[nodiscard]] bool isBlob() const;
    [[nodiscard]] long long whole() const;
    [[nodiscard]] double number() const;
    [[nodiscard]] std::string text() const;
    [[nodiscard]] QByteArray bytes() const;
    [[nodiscard]] int size() const;         ///< of its text or blob, bytes
    [[nodiscard]] std::string name() const; ///< of its column

private:
    sqlite3_stmt* statement_;
    int at_;
};

/// A statement with its values, and what it answers, row by row. It goes back to its connection when this ends, so that
/// the next one of the same words need not be prepared; the connection outlives it.
class Answer {
public:
    Answer(Connection& of, sqlite3_stmt* statement) : of_(&of), statement_(statement) {}
    Answer(Answer&& other) noexcept
        : of_(other.of_), statement_(std::exchange(other.statement_, nullptr)), bound_(other.bound_),
          state_(other.state_) {}
    Answer& operator=(Answer&& other) noexcept {
        std::swap(of_, other.of_);
        std::swap(statement_, other.statement_);
        std::swap(bound_, other.bound_);
        std::swap(state_, other.state_);
        return *this;
    }
    ~Answer();
    Answer(const Answer&) = delete;
    Answer& operator=(const Answer&) = delete;

    /// The next value, in order. A null QString or QByteArray is no value.
    void bind(const std::string& text);
    void bind(const char* text);
    void bind(const QString& text);
    void bind(const QByteArray& blob);
    void bind(double value);
    void bind(long long value);
    void bind(int value) { bind(static_cast<long long>(value)); }
    void bind(bool value) { bind(static_cast<long long>(value)); }
    void bind(std::nullopt_t);
    template<class T>
    void bind(const std::optional<T>& value) {
        value ? bind(*value) : bind(std::nullopt);
    }
    /// Does it, as far as its first row.
    void execute();

    bool next();
    /// No more rows are wanted: its lock goes at once.
    void finish();
    [[nodiscard]] Cell value(int at) const { return {statement_, at}; }
    [[nodiscard]] long long lastInsertId() const;

private:
    enum class State { Ready, Ahead, Rows, Done }; ///< Ahead: the first row is there, and was not asked for yet
    [[nodiscard]] bool step();
    void bound(int code);
    Connection* of_;
    sqlite3_stmt* statement_;
    int bound_ = 0;
    State state_ = State::Ready;
};

/// One connection of one thread to a book's file. Move-free: hold it where it is used.
class Connection {
public:
    enum class Mode { ReadWrite, ReadOnly };
    Connection(const QString& path, Mode mode);
    ~Connection();
    Connection(const Connection&) = delete;
    Connection& operator=(const Connection&) = delete;

    /// Runs a statement with its values bound in order.
    template<class... Values>
    Answer run(const char* sql, const Values&... values) {
        Answer answer = prepare(sql);
        (answer.bind(values), ...);
        answer.execute();
        return answer;
    }
    /// For values that are bound one by one.
    [[nodiscard]] Answer prepare(const char* sql);
    /// Records that were passed over since they are damaged, each told once: "run 12 of “Pebble 5”: details: this
    /// should be a number".
    void passOver(const std::string& record, const Damage& damage) { passOver(record + ": " + damage.what()); }
    void passOver(const std::string& told) { passedOver_.insert(told); }
    [[nodiscard]] const std::set<std::string>& passedOver() const { return passedOver_; }

private:
    friend class Answer;
    void open(const QString& path, Mode mode);
    void close();
    void giveBack(sqlite3_stmt* statement);
    [[noreturn]] void fail() const;

    sqlite3* database_ = nullptr;
    std::unordered_multimap<std::string, sqlite3_stmt*> prepared_; ///< by their words; none of them is at work
    std::set<std::string> passedOver_;
};

/// All or nothing: rolled back unless commit() was reached. Begins with the write lock, so that it cannot fail half
/// way.
class Transaction {
public:
    explicit Transaction(Connection& connection);
    ~Transaction();
    Transaction(const Transaction&) = delete;
    Transaction& operator=(const Transaction&) = delete;
    void commit();

private:
    Connection& connection_;
    bool open_ = true;
};

/// Runs f and turns an SqlError, or Damage, into the problem every failed change to a book is told with.
template<class F>
auto guarded(const QString& place, F f) -> Result<decltype(f())> {
    try {
        if constexpr (std::is_void_v<decltype(f())>) {
            f();
            return {};
        } else {
            return f();
        }
    } catch (const SqlError& error) {
        return problem("book_failed", place.toStdString(),
                       std::string("the book could not be read or written: ") + error.what() + ".",
                       "Nothing was changed. Check that the disk has room and the file may be written.");
    } catch (const Damage& damage) {
        return problem("damaged_record", place.toStdString(),
                       std::string("what is written there is damaged: ") + damage.what() + ".",
                       "Take it from the last whole copy, or from a bundle.");
    }
}

} // namespace otterstone::book
