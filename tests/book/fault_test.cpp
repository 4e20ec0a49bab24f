// Invariants 1 and 2 when the disk fills up: old or new state, never half. The limit on a file's size stands for a full
// disk, and is lowered step by step until the very first write fails.
#include <QTest>

#include <QFile>
#include <QTemporaryDir>
#include <QThread>

#include "book/demo/demo.h"
#include "book/exchange/bundle.h"
#include "book/store/book.h"
#include "book/store/check.h"
#include "book/store/sql.h"
#include "full_disk.h"

using namespace otterstone;
using otterstone::testing::FullDisk;

namespace {

trace::Trace longTrace(int samples) {
    trace::Trace t;
    for (int k = 0; k < samples; ++k) {
        t.time.push_back(k);
        t.volts.push_back(5.0);
        t.amps.push_back(1.0 + 0.001 * (k % 50));
    }
    return t;
}

} // namespace

class FaultTest : public QObject {
    Q_OBJECT

private Q_SLOTS:
    void a_run_that_does_not_fit_leaves_the_book_as_it_was() {
        QTemporaryDir folder;
        const QString path = folder.filePath("full.otterstone");
        auto book = book::Book::create(path);
        QVERIFY(book.has_value());
        records::Bank bank;
        bank.name = "Gravel 7";
        bank.id = *(*book)->save(bank);
        records::Run run;
        run.bank = bank.id;
        const trace::Trace t = longTrace(40'000); // about a megabyte
        const auto size = static_cast<rlim_t>(QFile(path).size());
        int refused = 0;
        int taken = 0;
        for (rlim_t room = 0; taken == 0 && room < 4'000'000; room += 60'000) {
            Result<records::Id> id = problem("", "", "");
            {
                const FullDisk full(size + room);
                id = (*book)->addRun(run, t);
            }
            if (id) {
                ++taken;
                QCOMPARE((*book)->trace(*id).size(), t.size());
            } else {
                ++refused;
                QCOMPARE(id.error().code, std::string("book_failed"));
                QVERIFY(!id.error().mend.empty());
                QVERIFY((*book)->runs(bank.id).empty());
            }
            QVERIFY(book::checkBook(path)->faults.empty());
        }
        QVERIFY(refused > 5);
        QCOMPARE(taken, 1);
    }
    // A further trace: it is there or not, never half.
    void a_trace_that_does_not_fit_leaves_the_run_as_it_was() {
        QTemporaryDir folder;
        const QString path = folder.filePath("full.otterstone");
        auto book = book::Book::create(path);
        records::Bank bank;
        bank.name = "Gravel 7";
        records::Run run;
        run.bank = *(*book)->save(bank);
        run.id = *(*book)->addRun(run, longTrace(100));
        const trace::Trace more = longTrace(40'000);
        const auto size = static_cast<rlim_t>(QFile(path).size());
        int refused = 0;
        bool taken = false;
        for (rlim_t room = 0; !taken && room < 4'000'000; room += 120'000) {
            {
                const FullDisk full(size + room);
                taken = (*book)->addTrace(run.id, {path::Point::BankOut, false, {}, "near.csv"}, more).has_value();
            }
            QCOMPARE((*book)->run(run.id)->also.size(), taken ? std::size_t(1) : std::size_t(0));
            QCOMPARE((*book)->trace(run.id).size(), std::size_t(100));
            QVERIFY(book::checkBook(path)->faults.empty());
            refused += taken ? 0 : 1;
        }
        QVERIFY(taken && refused > 3);
    }
    void a_bundle_that_does_not_fit_is_told() {
        QTemporaryDir folder;
        auto book = book::makeDemo(folder.filePath("demo.otterstone"));
        QVERIFY(book.has_value());
        {
            const FullDisk full(200'000);
            const auto done = book::exportBundle(**book, folder.filePath("bundle"));
            QVERIFY(!done.has_value());
            QCOMPARE(done.error().code, std::string("cannot_write"));
        }
        QVERIFY(!QFile::exists(folder.filePath("bundle/book.json"))); // no half bundle passes for a whole one
        QVERIFY(!book::importBundle(folder.filePath("bundle"), folder.filePath("b.otterstone")).has_value());
    }
    // As kill -9 in the middle of a change leaves it: whoever only reads must see the book as it was before.
    void a_half_written_change_hinders_no_reader() {
        QTemporaryDir folder;
        const QString path = folder.filePath("book.otterstone"), left = folder.filePath("left.otterstone");
        records::Id bank = records::kNew;
        {
            auto b = book::Book::create(path);
            QVERIFY(b);
            records::Bank known;
            known.name = "Gravel 7";
            bank = *(*b)->save(known);
        }
        {
            book::Connection writer(path, book::Connection::Mode::ReadWrite);
            writer.run("PRAGMA cache_size = 2");
            book::Transaction half(writer);
            writer.run("UPDATE bank SET name = 'half'");
            writer.run("CREATE TABLE half AS SELECT randomblob(4000000) AS filled"); // more than is kept back: the file
                                                                                     // itself is changed
            QVERIFY(QFile::copy(path, left) && QFile::copy(path + "-journal", left + "-journal"));
        }
        QVERIFY(QFile::copy(left, left + "2") && QFile::copy(left + "-journal", left + "2-journal"));
        const auto report = book::checkBook(left);
        QVERIFY2(report, report ? "" : report.error().sentence().c_str());
        QVERIFY(report->faults.empty());
        const auto read = book::Book::openToRead(left + "2");
        QVERIFY2(read, read ? "" : read.error().sentence().c_str());
        QCOMPARE((*read)->bank(bank)->name, std::string("Gravel 7"));
    }
    void a_book_that_does_not_fit_is_not_begun() {
        QTemporaryDir folder;
        const QString path = folder.filePath("none.otterstone");
        {
            const FullDisk full(8192);
            QVERIFY(!book::Book::create(path).has_value());
        }
        QVERIFY(!QFile::exists(path));
        QVERIFY(book::Book::create(path).has_value()); // what was left behind is in nobody's way
    }
    void changes_from_another_thread_and_this_one_do_not_mix() {
        QTemporaryDir folder;
        const QString path = folder.filePath("two.otterstone");
        auto book = book::Book::create(path);
        records::Bank bank;
        bank.name = "Scree 8";
        bank.id = *(*book)->save(bank);
        records::Run run;
        run.bank = bank.id;
        std::unique_ptr<QThread> importing(QThread::create([&] {
            for (int k = 0; k < 10; ++k)
                QVERIFY(book::Book::addRunElsewhere(path, run, longTrace(20'000)).has_value());
        }));
        importing->start();
        for (int k = 0; k < 50; ++k) {
            bank.notes = std::to_string(k);
            QVERIFY((*book)->save(bank).has_value());
        }
        QVERIFY(importing->wait(60'000));
        QCOMPARE((*book)->runs(bank.id).size(), std::size_t(10));
        QCOMPARE((*book)->bank(bank.id)->notes, std::string("49"));
        QVERIFY(book::checkBook(path)->faults.empty());
    }
};

QTEST_GUILESS_MAIN(FaultTest)
#include "fault_test.moc"
