// The layer over SQLite: what is bound comes back, what cannot be done is told, and nothing in silence. What SQLite
// itself does is as sqlite.org says (datatype3.html, lang_corefunc.html).
#include <QTemporaryDir>
#include <QTest>

#include "book/store/damage.h"
#include "book/store/sql.h"

using namespace otterstone;
using book::Answer;
using book::Connection;
using book::Damage;
using book::Row;
using book::SqlError;

class SqlTest : public QObject {
    Q_OBJECT

    QTemporaryDir folder_;
    [[nodiscard]] QString path() const { return folder_.filePath(QStringLiteral("a bank’s, ключ.sqlite")); }

    template<class Do>
    static std::string complaint(Do what) {
        try {
            what();
        } catch (const std::runtime_error& error) {
            return error.what();
        }
        return {};
    }

private Q_SLOTS:
    void init() {
        QFile::remove(path());
        Connection c(path(), Connection::Mode::ReadWrite);
        c.run("CREATE TABLE t (id INTEGER PRIMARY KEY, v)");
    }

    void texts_come_back_as_they_were_data() {
        QTest::addColumn<QByteArray>("text");
        QTest::newRow("empty") << QByteArray("", 0);
        QTest::newRow("plain") << QByteArray("Pebble 5");
        QTest::newRow("any script") << QByteArray("Камень 石 🪨");
        QTest::newRow("a nought within") << QByteArray("a\0b", 3);
        QTest::newRow("a quote") << QByteArray("'; DROP TABLE t; --");
        QTest::newRow("long") << QByteArray(3'000'000, 'x');
    }
    void texts_come_back_as_they_were() {
        QFETCH(QByteArray, text);
        Connection c(path(), Connection::Mode::ReadWrite);
        const std::string given = text.toStdString();
        c.run("INSERT INTO t (v) VALUES (?)", given);
        c.run("INSERT INTO t (v) VALUES (?)", QString::fromUtf8(text));
        Answer q = c.run("SELECT v FROM t ORDER BY id");
        for (int k = 0; k < 2; ++k) {
            QVERIFY(q.next());
            QVERIFY(q.value(0).isText());
            QVERIFY(Row(q).text(0) == given);
        }
        QVERIFY(!q.next());
        QVERIFY(!q.next()); // nor begins anew
    }

    void numbers_and_blobs_come_back_as_they_were() {
        Connection c(path(), Connection::Mode::ReadWrite);
        const QByteArray bytes("\0\xff\x01", 3);
        c.run("INSERT INTO t (v) VALUES (?)", 0.1 + 0.2);
        c.run("INSERT INTO t (v) VALUES (?)", std::numeric_limits<long long>::min());
        c.run("INSERT INTO t (v) VALUES (?)", true);
        c.run("INSERT INTO t (v) VALUES (?)", bytes);
        c.run("INSERT INTO t (v) VALUES (?)", QByteArray("", 0));
        QCOMPARE(c.run("INSERT INTO t (v) VALUES (?)", QByteArray()).lastInsertId(), 6LL);
        c.run("INSERT INTO t (v) VALUES (?)", std::optional<double>());
        c.run("INSERT INTO t (v) VALUES (?)", QString());
        c.run("INSERT INTO t (v) VALUES (?)", std::optional(7));
        Answer q = c.run("SELECT v FROM t ORDER BY id");
        const Row row(q);
        QVERIFY(q.next());
        QVERIFY(row.number(0) == 0.1 + 0.2);
        QVERIFY(q.next());
        QVERIFY(row.whole(0) == std::numeric_limits<long long>::min());
        QVERIFY(q.next());
        QVERIFY(row.flag(0));
        QVERIFY(q.next());
        QCOMPARE(row.blob(0), bytes);
        QVERIFY(q.next());
        QVERIFY(!row.empty(0) && row.blob(0).isEmpty()); // none, and one with nothing in it, are two
        for (int k = 0; k < 3; ++k) {
            QVERIFY(q.next());
            QVERIFY(row.empty(0));
            QVERIFY(!row.maybe(0));
        }
        QVERIFY(q.next());
        QCOMPARE(row.maybeWhole(0).value_or(0), 7LL);
        QVERIFY(!q.next());
    }

    void a_cell_of_another_type_names_its_column_data() {
        QTest::addColumn<QString>("cell");
        QTest::addColumn<QString>("asked");
        QTest::addColumn<QString>("says");
        QTest::newRow("a text for a number") << "'12'"
                                             << "number"
                                             << "v: this should be a number";
        QTest::newRow("nothing for a number") << "NULL"
                                              << "number"
                                              << "v: this should be a number";
        QTest::newRow("a figure nobody has") << "1e300"
                                             << "number"
                                             << "v: no figure has this number";
        QTest::newRow("a broken number for a whole one") << "1.5"
                                                         << "whole"
                                                         << "v: this should be a whole number";
        QTest::newRow("a two for yes") << "2"
                                       << "flag"
                                       << "v: this should be 0 or 1";
        QTest::newRow("a blob for a text") << "x'41'"
                                           << "text"
                                           << "v: this should be a text";
        QTest::newRow("a number for a text") << "12"
                                             << "text"
                                             << "v: this should be a text";
        QTest::newRow("a text for a blob") << "'A'"
                                           << "blob"
                                           << "v: this should be a blob";
    }
    void a_cell_of_another_type_names_its_column() {
        QFETCH(QString, cell);
        QFETCH(QString, asked);
        QFETCH(QString, says);
        Connection c(path(), Connection::Mode::ReadWrite);
        c.run(QStringLiteral("INSERT INTO t (v) VALUES (%1)").arg(cell).toUtf8().constData());
        Answer q = c.run("SELECT v FROM t");
        QVERIFY(q.next());
        const Row row(q);
        const std::string said = complaint([&] {
            if (asked == QStringLiteral("number"))
                (void)row.number(0);
            else if (asked == QStringLiteral("whole"))
                (void)row.whole(0);
            else if (asked == QStringLiteral("flag"))
                (void)row.flag(0);
            else if (asked == QStringLiteral("text"))
                (void)row.text(0);
            else
                (void)row.blob(0);
        });
        QCOMPARE(QString::fromStdString(said), says);
    }

    // JSON, and whoever reads it, would choke on the bytes.
    void what_is_no_utf8_becomes_some() {
        Connection c(path(), Connection::Mode::ReadWrite);
        c.run("INSERT INTO t (v) VALUES (CAST(x'41ff42' AS TEXT))");
        Answer q = c.run("SELECT v FROM t");
        QVERIFY(q.next());
        QCOMPARE(QString::fromStdString(Row(q).text(0)), QStringLiteral("A\uFFFDB"));
        QCOMPARE(QString::fromStdString(book::inShort(q.value(0))), QStringLiteral("A\uFFFDB"));
    }

    // abs() of the least whole number is an overflow: the first row is there, the second fails.
    void what_fails_in_the_midst_of_an_answer_is_told() {
        Connection c(path(), Connection::Mode::ReadWrite);
        c.run("INSERT INTO t (v) VALUES (1)");
        c.run("INSERT INTO t (v) VALUES (?)", std::numeric_limits<long long>::min());
        Answer q = c.run("SELECT abs(v) FROM t ORDER BY id");
        QVERIFY(q.next());
        QVERIFY_EXCEPTION_THROWN(q.next(), SqlError);
        QCOMPARE(QString::fromStdString(complaint([&] { c.run("SELECT nobody FROM t"); })),
                 QStringLiteral("no such column: nobody"));
        QVERIFY(c.run("SELECT count(*) FROM t").next()); // and it goes on being of use
    }

    // The same words at work twice are two statements; afterwards they are kept, without what was bound to them.
    void a_statement_is_used_again() {
        Connection c(path(), Connection::Mode::ReadWrite);
        for (int k = 1; k <= 3; ++k)
            c.run("INSERT INTO t (v) VALUES (?)", k);
        const char* const from = "SELECT id, v FROM t WHERE id > ? ORDER BY id";
        int pairs = 0;
        Answer outer = c.run(from, 0);
        while (outer.next()) {
            Answer inner = c.run(from, outer.value(0).whole());
            while (inner.next())
                ++pairs;
        }
        QCOMPARE(pairs, 3);
        Answer unbound = c.prepare(from);
        unbound.execute();
        QVERIFY2(!unbound.next(), "nothing is greater than nothing");
    }

    void what_is_not_committed_is_not_there() {
        Connection c(path(), Connection::Mode::ReadWrite);
        const auto rows = [&] {
            Answer q = c.run("SELECT count(*) FROM t");
            return q.next() ? q.value(0).whole() : -1;
        };
        {
            book::Transaction all(c);
            c.run("INSERT INTO t (v) VALUES (1)");
        }
        QCOMPARE(rows(), 0LL);
        {
            book::Transaction all(c);
            c.run("INSERT INTO t (v) VALUES (1)");
            all.commit();
        }
        QCOMPARE(rows(), 1LL);
    }

    void who_only_reads_changes_nothing() {
        Connection c(path(), Connection::Mode::ReadOnly);
        QVERIFY(QString::fromStdString(complaint([&] {
                    c.run("INSERT INTO t (v) VALUES (1)");
                })).contains(QStringLiteral("readonly")));
        QVERIFY(!complaint([&] {
                     Connection(folder_.filePath(QStringLiteral("none")), Connection::Mode::ReadOnly);
                 }).empty());
        QVERIFY(!QFile::exists(folder_.filePath(QStringLiteral("none"))));
    }
};

QTEST_GUILESS_MAIN(SqlTest)
#include "sql_test.moc"
