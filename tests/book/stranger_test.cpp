// Books that come from strangers, or from a dying disk: five hundred damaged copies of the demo. Each is read in part or refused, in words of ours, in bounded time
// and memory; what is refused is not changed.
#include <random>

#include <QCryptographicHash>
#include <QFile>
#include <QProcess>
#include <QTemporaryDir>
#include <QTest>

#include <sys/resource.h>

#include "book/book.h"
#include "book/check.h"
#include "book/demo.h"
#include "book/schema.h"
#include "book/sql.h"

using namespace otterstone;

namespace {

constexpr rlim_t kMostMemory = 300'000'000;
constexpr int kMostMs = 5000;

QByteArray hashOf(const QString& path) {
    QFile file(path);
    return file.open(QIODevice::ReadOnly) ? QCryptographicHash::hash(file.readAll(), QCryptographicHash::Sha256) : QByteArray();
}

struct Ran {
    int code = -1;
    QString errors, out;
    qint64 ms = 0;
};

Ran run(const QStringList& arguments) {
    QProcess p;
    p.setChildProcessModifier([] {
        const rlimit most{kMostMemory, kMostMemory};
        ::setrlimit(RLIMIT_DATA, &most);
    });
    QElapsedTimer took;
    took.start();
    p.start(QStringLiteral(OTTERSTONE_CLI), arguments);
    const bool ended = p.waitForFinished(3 * kMostMs);
    if (!ended)
        p.kill();
    return {ended && p.exitStatus() == QProcess::NormalExit ? p.exitCode() : -1, QString::fromUtf8(p.readAllStandardError()), QString::fromUtf8(p.readAllStandardOutput()), took.elapsed()};
}

} // namespace

class StrangerTest : public QObject {
    Q_OBJECT

    QTemporaryDir folder_;
    QString whole_;
    std::mt19937 random_{14};

    unsigned any(std::size_t below) { return std::uniform_int_distribution<unsigned>(0, static_cast<unsigned>(below) - 1)(random_); }
    QString copy() {
        const QString path = folder_.filePath(QStringLiteral("damaged.otterstone"));
        for (const char* part : {"", "-journal", "-wal", "-shm", ".lock"})
            QFile::remove(path + QLatin1String(part));
        QFile::copy(whole_, path);
        return path;
    }
    // With foreign keys and checks off: what a stranger's tool can write.
    static bool change(const QString& path, const QStringList& statements) {
        try {
            book::Connection c(path, book::Connection::Mode::ReadWrite);
            c.run("PRAGMA foreign_keys = OFF");
            c.run("PRAGMA ignore_check_constraints = ON");
            for (const QString& s : statements)
                c.run(s.toUtf8().constData());
            return true;
        } catch (const book::SqlError&) {
            return false; // SQLite itself has nothing of it
        }
    }
    // Nothing but words, in time, and no change by a look.
    void judge(const QString& path, const QString& what) {
        const QByteArray before = hashOf(path);
        const Ran checked = run({"check", path});
        QVERIFY2(checked.code == 0 || (checked.code >= 2 && checked.code <= 4), qPrintable(what + ": " + QString::number(checked.code) + checked.errors));
        QVERIFY2(checked.ms <= kMostMs, qPrintable(what));
        QVERIFY2(hashOf(path) == before, qPrintable(what + " was changed by check"));
        QVERIFY2(checked.code == 0 || checked.errors.contains("otterstone-cli: "), qPrintable(what));
        for (const char* raw : {"json.exception", "_error.", "terminate", "std::", "bad_alloc"})
            QVERIFY2(!checked.errors.contains(QLatin1String(raw)), qPrintable(what + ": " + checked.errors));
    }
    // As judge(), and opened for writing as a person does.
    void judgeOpened(const QString& path, const QString& what) {
        judge(path, what);
        const QByteArray before = hashOf(path);
        const Ran found = run({"findings", path});
        QVERIFY2(found.code == 0 || (found.code >= 2 && found.code <= 4), qPrintable(what + ": " + QString::number(found.code) + found.errors));
        QVERIFY2(found.ms <= kMostMs, qPrintable(what + QString::number(found.ms)));
        if (found.code != 0)
            QVERIFY2(hashOf(path) == before, qPrintable(what + " was refused, and changed: " + found.errors));
    }

private Q_SLOTS:
    void initTestCase() {
        whole_ = folder_.filePath(QStringLiteral("whole.otterstone"));
        auto demo = book::makeDemo(whole_);
        QVERIFY(demo);
        // One with every table filled.
        QVERIFY((*demo)->save(book::PlannedRun{book::kNew, (*demo)->banks().front().id, findings::Kind::Drain, "", "", "by hand", false}));
        QVERIFY((*demo)->publish({book::kNew, "comparison", "2026-05-01", 3, "{\"figures\": [], \"means\": {}}"}));
        QVERIFY((*demo)->setChoice("needs", "{\"needs\": [], \"days\": 1}"));
        QVERIFY((*demo)->rememberMapping("t,v,a", {}));
        demo->reset();
        QCOMPARE(run({"check", whole_}).code, 0);
    }
    void bits_that_flip() {
        for (int k = 0; k < 170; ++k) {
            const QString path = copy();
            QFile file(path);
            QVERIFY(file.open(QIODevice::ReadWrite));
            QByteArray bytes = file.readAll();
            const unsigned many = 1 + any(20);
            for (unsigned n = 0; n < many; ++n) {
                const auto at = static_cast<qsizetype>(k % 3 == 0 ? any(4096) : any(static_cast<std::size_t>(bytes.size())));
                bytes[at] = static_cast<char>(bytes[at] ^ (1 << any(8)));
            }
            file.seek(0);
            file.write(bytes);
            file.close();
            k % 4 == 0 ? judgeOpened(path, QStringLiteral("flipped %1").arg(k)) : judge(path, QStringLiteral("flipped %1").arg(k));
            if (QTest::currentTestFailed())
                return;
        }
    }
    void files_that_are_cut() {
        for (int k = 0; k < 60; ++k) {
            const QString path = copy();
            QVERIFY(QFile::resize(path, static_cast<qint64>(any(static_cast<std::size_t>(QFileInfo(path).size())))));
            judgeOpened(path, QStringLiteral("cut %1").arg(k));
            if (QTest::currentTestFailed())
                return;
        }
    }
    // Each column of each table, each with things that it should not hold.
    void cells_of_another_kind() {
        std::vector<std::pair<QString, QString>> columns;
        {
            book::Connection c(whole_, book::Connection::Mode::ReadOnly);
            QSqlQuery q = c.run("SELECT m.name, x.name FROM sqlite_master m, pragma_table_xinfo(m.name) x WHERE m.type = 'table' AND m.name NOT LIKE 'sqlite%'");
            while (q.next())
                columns.emplace_back(q.value(0).toString(), q.value(1).toString());
        }
        QVERIFY(columns.size() > 90);
        const QStringList wrong{"'nonsense'", "x'ff00'", "1e308", "-9223372036854775807", "NULL", "'[1, {\"a\": 1e400}]'", "'{\"clock_factor\": 1e308, \"point\": 3, \"target\": [], \"recipe\": {}}'", "zeroblob(3000000)", "9e999"};
        int made = 0;
        for (std::size_t k = 0; k < columns.size(); ++k) {
            for (int n = 0; n < 3; ++n) {
                const QString value = wrong[static_cast<qsizetype>((k + static_cast<std::size_t>(n) * 4) % static_cast<std::size_t>(wrong.size()))];
                const QString path = copy();
                const auto& [table, column] = columns[k];
                if (!change(path, {QStringLiteral("UPDATE \"%1\" SET \"%2\" = %3 WHERE rowid = (SELECT min(rowid) FROM \"%1\")").arg(table, column, value)}) &&
                    !change(path, {QStringLiteral("UPDATE \"%1\" SET \"%2\" = %3").arg(table, column, QString(value).replace("3000000", "3000"))}))
                    continue;
                ++made;
                const QString what = table + "." + column + " = " + value;
                made % 5 == 0 ? judgeOpened(path, what) : judge(path, what);
                if (QTest::currentTestFailed())
                    return;
            }
        }
        QVERIFY2(made >= 250, qPrintable(QString::number(made)));
    }
    void schemas_of_another_kind_data() {
        QTest::addColumn<QStringList>("statements");
        QTest::addColumn<QString>("says");
        const auto row = [](const char* name, const QStringList& statements, const char* says) { QTest::newRow(name) << statements << QString::fromUtf8(says); };
        row("a trigger", {"CREATE TRIGGER t AFTER DELETE ON run BEGIN DELETE FROM bank; END"}, "trigger");
        row("a view for a table", {"ALTER TABLE gear RENAME TO other", "CREATE VIEW gear AS SELECT * FROM other"}, "which no book has");
        row("a view without end for a table", {"DROP TABLE mark", "CREATE VIEW mark AS WITH RECURSIVE n(x) AS (SELECT 1 UNION ALL SELECT x + 1 FROM n) SELECT x AS run_id, x AS position, 1.0 AS at_s, 'note' AS what, 1 AS number, '' AS text FROM n"}, "mark");
        row("a virtual table", {"DROP TABLE mark", "CREATE VIRTUAL TABLE mark USING fts5(run_id, position, at_s, what, number, text)"}, "which no book has");
        row("a table less", {"DROP TABLE house"}, "has no table “house”");
        row("a table more", {"CREATE TABLE extra (x)"}, "which no book has");
        row("a column less", {"ALTER TABLE bank DROP COLUMN price"}, "bank");
        row("a column more", {"ALTER TABLE bank ADD COLUMN secret"}, "bank");
        row("a computed column", {"ALTER TABLE bank DROP COLUMN price", "ALTER TABLE bank ADD COLUMN price AS (abs(-1))"}, "bank");
        row("another view", {"DROP VIEW run_overview", "CREATE VIEW run_overview AS SELECT randomblob(1000000) AS run FROM run"}, "run_overview");
        row("a version of none of ours", {"PRAGMA user_version = 0"}, "");
        row("another application's", {"PRAGMA application_id = 7"}, "not an Otterstone book");
        row("a version to come", {"PRAGMA user_version = 1000"}, "newer");
    }
    void schemas_of_another_kind() {
        QFETCH(QStringList, statements);
        QFETCH(QString, says);
        const QString path = copy();
        QVERIFY(change(path, statements));
        judgeOpened(path, QString::fromLatin1(QTest::currentDataTag()));
        const QByteArray before = hashOf(path);
        const auto opened = book::Book::open(path);
        QVERIFY(!opened);
        QVERIFY2(QString::fromStdString(opened.error().sentence()).contains(says), opened.error().sentence().c_str());
        QCOMPARE(hashOf(path), before);
    }
    // A bad record does not take the book with it.
    void a_bad_run_is_named_and_the_rest_is_shown() {
        const QString path = copy();
        QVERIFY(change(path, {"UPDATE run SET details = '{\"ambient_c\": \"warm\"}' WHERE id = 3", "UPDATE gear SET details = '{\"clock_factor\": 1000}' WHERE id = 7", "UPDATE bank SET price = 'much' WHERE id = 2"}));
        const Ran checked = run({"check", path});
        QCOMPARE(checked.code, 3);
        for (const char* words : {"run 3", "ambient_c: this should be a number", "gear", "clock_factor: no clock runs so", "bank 2", "price: this should be a number"})
            QVERIFY2(checked.errors.contains(QLatin1String(words)), qPrintable(checked.errors));
        auto book = book::Book::open(path);
        QVERIFY(book);
        QCOMPARE((*book)->unreadable().size(), std::size_t(3));
        QVERIFY((*book)->banks().size() >= 5 && !(*book)->runs((*book)->banks().front().id).empty());
        QVERIFY(!(*book)->run(3));
        book->reset(); // or it is open elsewhere
        const Ran found = run({"findings", path});
        QCOMPARE(found.code, 0);
        QVERIFY2(found.errors.contains("run 3"), qPrintable(found.errors)); // told there too
    }
};

QTEST_GUILESS_MAIN(StrangerTest)
#include "stranger_test.moc"
