// A thin, throwing layer over QtSql, internal to this folder: nothing of it crosses the folder's edge.
#pragma once

#include <optional>
#include <set>
#include <stdexcept>
#include <string>
#include <type_traits>
#include <unordered_map>
#include <utility>

#include <QSqlDatabase>
#include <QSqlQuery>
#include <QString>
#include <QVariant>

#include "book/store/damage.h"
#include "core/quantity/problem.h"

namespace otterstone::book {

/// A statement failed. Turned into a Problem by guarded().
class SqlError : public std::runtime_error {
public:
    using std::runtime_error::runtime_error;
};

class Connection;

/// What a statement answers, row by row. The statement goes back to its connection when this ends, so that the next one
/// of the same words need not be prepared; the connection outlives it.
class Answer {
public:
    /// `of`: null for a statement that is not kept.
    Answer(Connection* of, std::string sql, QSqlQuery query)
        : of_(of), sql_(std::move(sql)), query_(std::move(query)) {}
    Answer(Answer&& other) noexcept
        : of_(std::exchange(other.of_, nullptr)), sql_(std::move(other.sql_)), query_(std::move(other.query_)) {}
    Answer& operator=(Answer&& other) noexcept {
        std::swap(of_, other.of_);
        std::swap(sql_, other.sql_);
        std::swap(query_, other.query_);
        return *this;
    }
    ~Answer();
    Answer(const Answer&) = delete;
    Answer& operator=(const Answer&) = delete;

    bool next() { return query_.next(); }
    /// No more rows are wanted: its lock goes at once.
    void finish() { query_.finish(); }
    [[nodiscard]] QVariant value(int at) const { return query_.value(at); }
    [[nodiscard]] QVariant lastInsertId() const { return query_.lastInsertId(); }
    [[nodiscard]] const QSqlQuery& query() const { return query_; }

private:
    Connection* of_;
    std::string sql_;
    QSqlQuery query_;
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
    Answer run(const char* sql, Values&&... values) {
        QSqlQuery query = taken(sql);
        (query.addBindValue(toVariant(std::forward<Values>(values))), ...);
        execute(query);
        // A statement keeps what was bound to it: a picture would stay in memory.
        constexpr bool large = (std::is_same_v<std::remove_cvref_t<Values>, QByteArray> || ...);
        return {large ? nullptr : this, sql, std::move(query)};
    }
    /// For values that are bound one by one.
    [[nodiscard]] QSqlQuery prepare(const char* sql);
    static void execute(QSqlQuery& query);
    [[nodiscard]] QSqlDatabase& database() { return database_; }
    /// Records that were passed over since they are damaged, each told once: "run 12 of “Pebble 5”: details: this
    /// should be a number".
    void passOver(const std::string& record, const Damage& damage) {
        passedOver_.insert(record + ": " + damage.what());
    }
    [[nodiscard]] const std::set<std::string>& passedOver() const { return passedOver_; }

    static QVariant toVariant(const std::string& s) { return QString::fromStdString(s); }
    static QVariant toVariant(const QString& s) { return s; }
    static QVariant toVariant(const char* s) { return QString::fromUtf8(s); }
    static QVariant toVariant(const QByteArray& b) { return b; }
    static QVariant toVariant(const QVariant& v) { return v; }
    static QVariant toVariant(double v) { return v; }
    static QVariant toVariant(long long v) { return QVariant(static_cast<qlonglong>(v)); }
    static QVariant toVariant(int v) { return v; }
    static QVariant toVariant(bool v) { return v ? 1 : 0; }
    template<class T>
    static QVariant toVariant(const std::optional<T>& v) {
        return v ? toVariant(*v) : QVariant();
    }

private:
    friend class Answer;
    [[nodiscard]] QSqlQuery taken(const char* sql);
    void giveBack(const std::string& sql, QSqlQuery query);

    QString name_;
    QSqlDatabase database_;
    std::unordered_multimap<std::string, QSqlQuery> prepared_; ///< by their words; none of them is at work
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

[[nodiscard]] inline std::string text(const QVariant& v) { return v.toString().toStdString(); }

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
