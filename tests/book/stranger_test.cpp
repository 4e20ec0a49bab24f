// Books that come from strangers, or from a dying disk: five hundred damaged copies of the demo. Each is read in part
// or refused, in words of ours, in bounded time and memory; what is refused is not changed.
#include <QProcess>
#include <QTest>

#include <sys/resource.h>

#include "book/store/book.h"
#include "book/store/check.h"
#include "damaged_books.h"
#include "where.h"

using namespace otterstone;
using Copy = testing::DamagedBooks::Copy;

namespace {

constexpr rlim_t kMostMemory = 300'000'000;
constexpr int kMostMs = 5000;

QByteArray bytesOf(const QString& path) {
    QFile file(path);
    return file.open(QIODevice::ReadOnly) ? file.readAll() : QByteArray();
}

struct Ran {
    int code = -1;
    QString errors, out;
    qint64 ms = 0;
};

Ran run(const QStringList& arguments) {
    QProcess p;
#ifndef __SANITIZE_ADDRESS__ // which alone maps more than that
    p.setChildProcessModifier([] {
        const rlimit most{kMostMemory, kMostMemory};
        ::setrlimit(RLIMIT_DATA, &most);
    });
#endif
    QElapsedTimer took;
    took.start();
    p.start(where::cli(), arguments);
    const bool ended = p.waitForFinished(3 * kMostMs);
    if (!ended)
        p.kill();
    return {ended && p.exitStatus() == QProcess::NormalExit ? p.exitCode() : -1,
            QString::fromUtf8(p.readAllStandardError()), QString::fromUtf8(p.readAllStandardOutput()), took.elapsed()};
}

} // namespace

class StrangerTest : public QObject {
    Q_OBJECT

    testing::DamagedBooks books_;

    // Nothing but words, in time, and no change by a look.
    void judge(const QString& path, const QString& what) {
        const QByteArray before = bytesOf(path);
        const Ran checked = run({"check", path});
        QVERIFY2(checked.code == 0 || (checked.code >= 2 && checked.code <= 4),
                 qPrintable(what + ": " + QString::number(checked.code) + checked.errors));
        QVERIFY2(checked.ms <= kMostMs, qPrintable(what));
        QVERIFY2(bytesOf(path) == before, qPrintable(what + " was changed by check"));
        QVERIFY2(checked.code == 0 || checked.errors.contains("otterstone-cli: "), qPrintable(what));
        for (const char* raw : {"json.exception", "_error.", "terminate", "std::", "bad_alloc"})
            QVERIFY2(!checked.errors.contains(QLatin1String(raw)), qPrintable(what + ": " + checked.errors));
    }
    // As judge(), and opened for writing as a person does.
    void judgeOpened(const QString& path, const QString& what) {
        judge(path, what);
        const QByteArray before = bytesOf(path);
        const Ran found = run({"findings", path});
        QVERIFY2(found.code == 0 || (found.code >= 2 && found.code <= 4),
                 qPrintable(what + ": " + QString::number(found.code) + found.errors));
        QVERIFY2(found.ms <= kMostMs, qPrintable(what + QString::number(found.ms)));
        if (found.code != 0)
            QVERIFY2(bytesOf(path) == before, qPrintable(what + " was refused, and changed: " + found.errors));
    }

private Q_SLOTS:
    void initTestCase() {
        QVERIFY(books_.prepare());
        QCOMPARE(run({"check", books_.whole()}).code, 0);
    }
    void bits_that_flip_data() { testing::DamagedBooks::rounds(5); }
    void bits_that_flip() {
        books_.flipped(34, [this](const Copy& c) {
            c.number % 4 == 0 ? judgeOpened(c.path, c.what) : judge(c.path, c.what);
            return !QTest::currentTestFailed();
        });
    }
    void files_that_are_cut() {
        books_.cut(60, [this](const Copy& c) {
            judgeOpened(c.path, c.what);
            return !QTest::currentTestFailed();
        });
    }
    void cells_of_another_kind_data() { testing::DamagedBooks::rounds(testing::DamagedBooks::kRounds); }
    void cells_of_another_kind() {
        QFETCH(int, round);
        const int made = books_.cells(round, [this](const Copy& c) {
            c.number % 5 == 4 ? judgeOpened(c.path, c.what) : judge(c.path, c.what);
            return !QTest::currentTestFailed();
        });
        QVERIFY2(QTest::currentTestFailed() || made >= 40, qPrintable(QString::number(made)));
    }
    void schemas_of_another_kind_data() {
        QTest::addColumn<QStringList>("statements");
        QTest::addColumn<QString>("says");
        for (const testing::DamagedBooks::Schema& s : testing::DamagedBooks::schemas())
            QTest::newRow(s.name) << s.statements << QString::fromUtf8(s.says);
    }
    void schemas_of_another_kind() {
        QFETCH(QStringList, statements);
        QFETCH(QString, says);
        const QString path = books_.copy();
        QVERIFY(books_.change(path, statements));
        judgeOpened(path, QString::fromLatin1(QTest::currentDataTag()));
        const QByteArray before = bytesOf(path);
        const auto opened = book::Book::open(path);
        QVERIFY(!opened);
        QVERIFY2(QString::fromStdString(opened.error().sentence()).contains(says), opened.error().sentence().c_str());
        QCOMPARE(bytesOf(path), before);
    }
    // A bad record does not take the book with it.
    void a_bad_run_is_named_and_the_rest_is_shown() {
        const QString path = books_.copy();
        QVERIFY(books_.change(path, {"UPDATE run SET details = '{\"ambient_c\": \"warm\"}' WHERE id = 3",
                                     "UPDATE gear SET details = '{\"clock_factor\": 1000}' WHERE id = 7",
                                     "UPDATE bank SET price = 'much' WHERE id = 2"}));
        const Ran checked = run({"check", path});
        QCOMPARE(checked.code, 3);
        for (const char* words : {"run 3", "ambient_c: this should be a number", "gear",
                                  "clock_factor: no clock runs so", "bank 2", "price: this should be a number"})
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
