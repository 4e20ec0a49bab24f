// Captures (invariants of book/capture.h): whole after every append, in whatever way it ends.
#include <QTest>

#include <QFile>
#include <QRandomGenerator>
#include <QTemporaryDir>

#include <cmath>

#include <sys/stat.h>

#include "book/store/book.h"
#include "book/store/capture.h"
#include "book/store/check.h"
#include "book/store/sql.h"
#include "full_disk.h"

using namespace otterstone;
using book::Batch;
using book::Capture;
using book::LiveSample;
using otterstone::testing::FullDisk;

namespace {

LiveSample sampleAt(long k) {
    LiveSample s;
    s.time = 0.1 * static_cast<double>(k);
    s.volts = 5.0 + 0.0001 * static_cast<double>(k % 37);
    s.amps = 1.0 + 0.0001 * static_cast<double>(k % 53);
    s.celsius = k % 5 == 0 ? std::nan("") : 20.0;
    return s;
}

Batch batchOf(long first, long count, std::size_t traces = 1) {
    Batch b;
    b.samples.resize(traces);
    for (long k = first; k < first + count; ++k) {
        for (auto& list : b.samples)
            list.push_back(sampleAt(k));
    }
    return b;
}
} // namespace

class CaptureTest : public QObject {
    Q_OBJECT

    QTemporaryDir folder_;
    QString path_;
    std::unique_ptr<book::Book> book_;
    records::Run run_;
    int count_ = 0;

    [[nodiscard]] std::unique_ptr<Capture> begin(bool celsius = true, bool two = false) {
        std::vector<book::LiveTrace> traces{{{path::Point::Meter, false, {}, "live"}, celsius, false}};
        if (two)
            traces.push_back({{path::Point::Charger, false, {}, "live"}, false, false});
        auto capture = Capture::begin(path_, run_, traces);
        return capture ? std::move(*capture) : nullptr;
    }

private Q_SLOTS:
    // Not by us: a column that another program, or a damaged disk, cut. What all columns have is kept, and it is told.
    void columns_of_unequal_length_are_cut_and_told_data() {
        QTest::addColumn<QString>("statement");
        QTest::addColumn<int>("left"); // of 5000 samples in two parts of 4096 and 904
        QTest::newRow("all are as long") << "" << 5000;
        QTest::newRow("amps lack four samples")
            << "UPDATE chunk SET amps_a = substr(amps_a, 1, 900 * 8) WHERE seq = 1" << 4996;
        QTest::newRow("half a number of volts")
            << "UPDATE chunk SET volts_v = substr(volts_v, 1, 7203) WHERE seq = 1" << 4996;
        QTest::newRow("temperature lacks one") << "UPDATE chunk SET temperature_c = substr(temperature_c, 1, 903 * 8)"
                                                  " WHERE seq = 1"
                                               << 4999;
        QTest::newRow("the count says more than there is") << "UPDATE chunk SET samples = 950 WHERE seq = 1" << 5000;
    }
    void columns_of_unequal_length_are_cut_and_told() {
        QFETCH(QString, statement);
        QFETCH(int, left);
        auto capture = begin();
        QVERIFY(capture && capture->append(batchOf(0, 5000)));
        const records::Id run = capture->run();
        capture.reset(); // killed
        book_.reset();
        if (!statement.isEmpty()) {
            book::Connection c(path_, book::Connection::Mode::ReadWrite);
            c.run(statement.toUtf8().constData());
        }
        auto opened = book::Book::open(path_);
        QVERIFY2(opened, opened ? "" : opened.error().sentence().c_str());
        QCOMPARE((*opened)->mended().size(), std::size_t(statement.isEmpty() ? 0 : 1));
        const trace::Trace t = (*opened)->trace(run);
        QCOMPARE(int(t.size()), left);
        QVERIFY(!trace::unsound(t) && t.temperature.size() == t.size());
        QCOMPARE(t.volts[t.size() - 1], sampleAt(left - 1).volts);
        (*opened).reset();
        const auto report = book::checkBook(path_);
        QVERIFY2(report->faults.empty(), report->faults.empty() ? "" : report->faults.front().c_str());
        // And it is gone on with behind that.
        auto again = Capture::resume(path_, run);
        QVERIFY(again && (*again)->append(batchOf(6000, 10)));
    }
    void a_book_is_its_owner_s_and_group_s_data() {
        QTest::addColumn<int>("umask");
        QTest::addColumn<int>("mode");
        QTest::newRow("022") << 0022 << 0640;
        QTest::newRow("002") << 0002 << 0660;
        QTest::newRow("027") << 0027 << 0640;
        QTest::newRow("077") << 0077 << 0600;
    }
    void a_book_is_its_owner_s_and_group_s() {
        QFETCH(int, umask);
        QFETCH(int, mode);
        const QString path = folder_.filePath(QStringLiteral("mode-%1.otterstone").arg(umask));
        const mode_t before = ::umask(static_cast<mode_t>(umask));
        auto book = book::Book::create(path);
        ::umask(before);
        QVERIFY(book);
        for (const QString& file : {path, path + ".lock"}) {
            struct stat s {};
            QCOMPARE(::stat(QFile::encodeName(file).constData(), &s), 0);
            QVERIFY2((s.st_mode & 0777 & ~mode) == 0 && (s.st_mode & 0400) != 0, qPrintable(file));
        }
        struct stat s {};
        QCOMPARE(::stat(QFile::encodeName(path).constData(), &s), 0);
        QCOMPARE(int(s.st_mode & 0777), mode);
    }
    void init() {
        path_ = folder_.filePath(QStringLiteral("capture-%1.otterstone").arg(++count_));
        book_ = std::move(*book::Book::create(path_));
        records::Bank bank;
        bank.name = "Gravel 7";
        run_ = {};
        run_.bank = *book_->save(bank);
        run_.title = "live";
    }

    // However it comes in, what is in the book at the end is what a whole trace would have been.
    void batches_of_any_size_make_the_same_trace_data() {
        QTest::addColumn<long>("most");
        QTest::newRow("single samples") << 1L;
        QTest::newRow("a few") << 17L;
        QTest::newRow("about a chunk") << 4096L;
        QTest::newRow("several chunks") << 9000L;
    }
    void batches_of_any_size_make_the_same_trace() {
        QFETCH(long, most);
        const long all = most == 1 ? 300 : 12000;
        auto capture = begin();
        QVERIFY(capture);
        QRandomGenerator random(7);
        for (long k = 0; k < all;) {
            const long count = std::min<long>(all - k, 1 + random.bounded(static_cast<int>(most)));
            QVERIFY(capture->append(batchOf(k, count)));
            k += count;
            QCOMPARE(capture->lastTime(), sampleAt(k - 1).time);
        }
        const auto id = capture->run();
        QVERIFY(capture->finish({"done", {}}));
        trace::Trace whole;
        for (long k = 0; k < all; ++k) {
            const LiveSample s = sampleAt(k);
            whole.time.push_back(s.time);
            whole.volts.push_back(s.volts);
            whole.amps.push_back(s.amps);
            whole.temperature.push_back(s.celsius);
        }
        records::Run other = run_;
        const auto imported = *book_->addRun(other, whole);
        const auto live = book_->summaries(id);
        const auto at_once = book_->summaries(imported);
        QCOMPARE(live.size(), at_once.size());
        for (std::size_t k = 0; k < live.size(); ++k) {
            QCOMPARE(live[k].samples, at_once[k].samples);
            QCOMPARE(live[k].wattHours, at_once[k].wattHours);
            QCOMPARE(live[k].temperature.max, at_once[k].temperature.max);
        }
        const trace::Trace read = book_->trace(id);
        QCOMPARE(read.size(), whole.size());
        for (std::size_t k = 0; k < read.size(); ++k)
            QVERIFY(read.time[k] == whole.time[k] && read.volts[k] == whole.volts[k] && read.amps[k] == whole.amps[k]);
        QVERIFY(!book_->run(id)->open);
        QCOMPARE(book_->run(id)->stopped, std::string("done"));
        QVERIFY(read.voltsStep > 0.0);
        QVERIFY(book::checkBook(path_)->faults.empty());
    }
    void an_unfinished_run_is_there_up_to_its_last_append() { // invariant 2
        auto capture = begin(true, true);
        Batch b = batchOf(0, 5000, 2);
        b.marks.push_back({12.0, records::Mark::What::Percent, 88.0, ""});
        QVERIFY(capture->append(b));
        const auto id = capture->run();
        capture.reset(); // as if the program had ended
        book_.reset();
        book_ = std::move(*book::Book::open(path_));
        const auto run = book_->run(id);
        QVERIFY(run && run->open && !run->capturedAt.empty());
        QCOMPARE(run->marks.size(), 1u);
        QCOMPARE(run->also.size(), 1u);
        QCOMPARE(book_->trace(id).size(), 5000u);
        QCOMPARE(book_->trace(id, run->also.front().key()).size(), 5000u);
        QVERIFY(book_->finding(id)); // it can be judged as far as it came
    }
    void a_run_is_gone_on_with_where_it_stopped_data() {
        QTest::addColumn<long>("before");
        QTest::newRow("nothing yet") << 0L;
        QTest::newRow("in the first chunk") << 100L;
        QTest::newRow("at a chunk's end") << 4096L;
        QTest::newRow("in a later chunk") << 9001L;
    }
    void a_run_is_gone_on_with_where_it_stopped() {
        QFETCH(long, before);
        auto capture = begin(false);
        QVERIFY(capture->append(batchOf(0, before)));
        const auto id = capture->run();
        capture.reset();
        auto again = Capture::resume(path_, id);
        QVERIFY(again);
        if (before > 0)
            QCOMPARE((*again)->lastTime(), sampleAt(before - 1).time);
        QVERIFY((*again)->append(batchOf(before, 6000)));
        QVERIFY((*again)->finish({"done", {}}));
        const trace::Trace t = book_->trace(id);
        QCOMPARE(t.size(), static_cast<std::size_t>(before + 6000));
        double sum = 0.0;
        for (const auto& s : book_->summaries(id))
            sum += s.wattHours;
        double whole = 0.0;
        for (std::size_t k = 1; k < t.size(); ++k)
            whole += (t.power(k) + t.power(k - 1)) * (t.time[k] - t.time[k - 1]) / 7200.0;
        QVERIFY(std::fabs(sum - whole) < 1e-9);
        const auto closed = Capture::resume(path_, id);
        QVERIFY(!closed);
        QCOMPARE(closed.error().code, std::string("no_run"));
    }
    // Of two banks: what was cut off on either is found, what was closed, taken out or taken off the shelf is not.
    void runs_that_were_cut_off_are_found() {
        const auto first = begin()->run();
        auto capture = begin();
        QVERIFY(capture->append(batchOf(0, 50)));
        QVERIFY(capture->finish({"done", {}}));
        records::Bank other;
        other.name = "Pebble 5";
        run_.bank = *book_->save(other);
        const auto second = begin()->run();
        const auto ids = [this] {
            std::vector<records::Id> all;
            for (const records::Run& run : book_->openRuns())
                all.push_back(run.id);
            return all;
        };
        QCOMPARE(ids(), (std::vector<records::Id>{first, second}));
        QVERIFY(book_->setRunRemoved(first, true));
        QCOMPARE(ids(), (std::vector<records::Id>{second}));
        QVERIFY(book_->setRunRemoved(first, false));
        QVERIFY(book_->setBankRemoved(run_.bank, true));
        QCOMPARE(ids(), (std::vector<records::Id>{first}));
    }
    void a_full_disk_costs_nothing_at_any_step() { // invariant 1
        auto capture = begin();
        QVERIFY(capture->append(batchOf(0, 4000)));
        const auto size = static_cast<rlim_t>(QFile(path_).size());
        long next = 4000;
        int refused = 0;
        for (rlim_t room = 0; room < 800'000; room += 20'000) {
            Result<void> done;
            {
                const FullDisk full(size + room);
                done = capture->append(batchOf(next, 1500));
            }
            if (done)
                next += 1500;
            else
                ++refused;
            // Whatever happened, the book holds exactly what was taken.
            QCOMPARE(static_cast<long>(book_->trace(capture->run()).size()), next);
        }
        QVERIFY2(refused >= 3 && next > 4000, qPrintable(QStringLiteral("%1 %2").arg(refused).arg(next)));
        QVERIFY(capture->append(batchOf(next, 10)));
        QVERIFY(capture->finish({"done", {}}));
        QVERIFY(book::checkBook(path_)->faults.empty());
    }
    void a_vanished_book_is_told_and_waited_for() { // invariant 3
        auto capture = begin();
        QVERIFY(capture->append(batchOf(0, 10)));
        const QString away = path_ + QStringLiteral(".away");
        QVERIFY(QFile::rename(path_, away));
        const auto gone = capture->append(batchOf(10, 10));
        QVERIFY(!gone);
        QCOMPARE(gone.error().code, std::string("book_gone"));
        QVERIFY(!QFile::exists(path_));    // none was made in its place
        QVERIFY(QFile::copy(away, path_)); // another file of the same name is not it either
        QVERIFY(!capture->append(batchOf(10, 10)));
        QVERIFY(QFile::remove(path_) && QFile::rename(away, path_));
        QVERIFY(capture->append(batchOf(10, 10)));
        QCOMPARE(book_->trace(capture->run()).size(), 20u);
    }
    void the_window_may_write_the_book_meanwhile() {
        auto capture = begin();
        for (long k = 0; k < 20; ++k) {
            QVERIFY(capture->append(batchOf(k * 100, 100)));
            records::Bank other;
            other.name = "Stone " + std::to_string(k);
            QVERIFY(book_->save(other));
        }
        QCOMPARE(book_->banks().size(), 21u);
        QCOMPARE(book_->trace(capture->run()).size(), 2000u);
    }
};

QTEST_GUILESS_MAIN(CaptureTest)
#include "capture_test.moc"
