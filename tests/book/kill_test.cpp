// Invariant 2: what was confirmed survives kill -9 at any moment, and the book opens whole without a repair.
#include <QTest>

#include <QProcess>
#include <QRandomGenerator>
#include <QTemporaryDir>

#include <set>

#include "book/store/book.h"
#include "book/store/check.h"
#include "where.h"

using namespace otterstone;

class KillTest : public QObject {
    Q_OBJECT

private Q_SLOTS:
    void fifty_kills_lose_nothing_that_was_confirmed() {
        QTemporaryDir folder;
        const QString path = folder.filePath("killed.otterstone");
        { QVERIFY(book::Book::create(path).has_value()); }
        QRandomGenerator random(20261123); // the moments are random, the test is the same every time
        std::set<long long> banks;
        std::set<long long> runs;
        const auto few = [&] {
            return banks.size() <= 50 || runs.size() <= 10;
        }; // on a slow machine more kills are needed
        for (int round = 0; round < 50 || (few() && round < 500); ++round) {
            QProcess writer;
            writer.start(where::killWriter(), {path});
            QVERIFY(writer.waitForStarted());
            QVERIFY2(writer.waitForReadyRead(20'000), "the writer could not open the book");
            QTest::qSleep(random.bounded(60));
            writer.kill();
            QVERIFY(writer.waitForFinished());
            const QStringList lines =
                QString::fromLatin1(writer.readAllStandardOutput()).split('\n', Qt::SkipEmptyParts);
            for (const QString& line : lines) {
                if (line.startsWith("bank "))
                    banks.insert(line.mid(5).toLongLong());
                else if (line.startsWith("run "))
                    runs.insert(line.mid(4).toLongLong());
            }
        }
        QVERIFY(!few());
        auto b = book::Book::open(path);
        QVERIFY2(b.has_value(), b ? "" : b.error().sentence().c_str());
        for (long long id : banks) {
            const auto bank = (*b)->bank(id);
            QVERIFY(bank.has_value());
            QCOMPARE(bank->notes, std::string("edited"));
        }
        for (long long id : runs) {
            QVERIFY((*b)->run(id).has_value());
            QCOMPARE((*b)->summaries(id).size(), std::size_t(5));
        }
        const auto report = book::checkBook(path);
        QVERIFY(report.has_value());
        QVERIFY2(report->faults.empty(), report->faults.empty() ? "" : report->faults.front().c_str());
    }
};

QTEST_GUILESS_MAIN(KillTest)
#include "kill_test.moc"
