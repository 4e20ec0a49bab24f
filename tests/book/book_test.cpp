// The book keeps what it is given, refuses what it must, and takes back what it is told to. Invariants: book.h.
#include <unistd.h>

#include <QTest>

#include <QFile>
#include <QTemporaryDir>
#include <nlohmann/json.hpp>

#include "book/demo/demo.h"
#include "book/store/book.h"
#include "book/store/check.h"
#include "book/store/history.h"
#include "book/store/json_records.h"
#include "book/store/schema.h"
#include "book/store/sql.h"
#include "core/label/members.h"
#include "core/records/members.h"

using namespace otterstone;
using book::Book;

namespace {

trace::Trace longTrace(int samples) {
    trace::Trace t;
    for (int k = 0; k < samples; ++k) {
        t.time.push_back(k * 0.5);
        t.volts.push_back(5.0 + 0.001 * (k % 40));
        t.amps.push_back(1.0 + 0.01 * (k % 13));
    }
    t.voltsStep = 0.001;
    return t;
}

records::Bank fullBank() {
    records::Bank b;
    b.name = "Gravel 7";
    b.notes = "made up";
    label::Label& l = b.label;
    l.capacity = AmpHours(7.0);
    l.cellVolts = Volts(3.7);
    l.energy = WattHours(25.9);
    l.outputCapacity = AmpHours(4.2);
    l.outputVolts = Volts(5.0);
    l.alsoPrinted = "3.7V";
    l.totalWatts = Watts(18.0);
    l.totalAmps = Amps(3.0);
    l.weightGrams = 160.0;
    l.size = label::SizeMm{90, 60, 20};
    l.rechargeTime = Hours(2.0);
    l.inputWatts = Watts(18.0);
    l.price = 20.0;
    l.currency = "crowns";
    l.warrantyMonths = 12;
    l.claimsPassThrough = true;
    label::Port p;
    p.name = "C";
    p.direction = label::Direction::Both;
    p.tiers = {{Volts(5), Volts(5), Amps(3)}, {Volts(3.3), Volts(11), Amps(3)}};
    p.watts = Watts(18.0);
    p.sharedWatts = Watts(9.0);
    l.ports = {p};
    return b;
}

// Something else in every member that files keep, whichever there are.
struct Fill {
    double next = 2.0;
    template<class T>
    void operator()(const char*, std::optional<T>& member) {
        member = T(next += 1.0);
    }
    void operator()(const char*, std::optional<int>& member) { member = static_cast<int>(next += 1.0); }
    void operator()(const char*, std::optional<Stated>& member) { member = Stated(next += 1.0, 0.5); }
    void operator()(const char*, std::optional<label::SizeMm>& member) {
        member = label::SizeMm{next += 1.0, next += 1.0, next += 1.0};
    }
    void operator()(const char*, std::optional<path::OwnDraw>& member) { member = path::OwnDraw{next += 1.0, 9.0}; }
    void operator()(const char* key, std::string& member) { member = std::string(key) + " in words"; }
    void operator()(const char*, bool& member) { member = true; }
    void operator()(const char*, std::vector<label::Tier>& member) {
        member = {{Volts(5.0), Volts(5.0), Amps(next += 0.5)}, {Volts(3.3), Volts(11.0), Amps(3.0)}};
    }
    void operator()(const char*, std::vector<label::SharedLimit>& member) {
        member = label::parseShared("C 9 W + A 9 W", "").value();
    }
    void operator()(const char*, std::vector<label::ChargesClaim>& member) {
        member = label::parseCharges("4 × 12.4 Wh tablet; 3 × phone 2", "").value();
    }
};

QByteArray bytesOf(const QString& path) {
    QFile file(path);
    return file.open(QIODevice::ReadOnly) ? file.readAll() : QByteArray();
}

void writeAt(const QString& path, qint64 at, const QByteArray& bytes) {
    QFile file(path);
    QVERIFY(file.open(QIODevice::ReadWrite));
    file.seek(at);
    file.write(bytes);
}

} // namespace

class BookTest : public QObject {
    Q_OBJECT

private Q_SLOTS:
    void init() { folder_ = std::make_unique<QTemporaryDir>(); }

    void what_was_saved_is_read_again_after_opening() {
        records::Id bank = 0;
        records::Id run = 0;
        records::Run r;
        r.title = "gentle";
        r.startedAt = "2026-04-02T10:00:00Z";
        r.marks = {{12.5, records::Mark::What::Percent, 80.0, ""},
                   {99.0, records::Mark::What::Note, std::nullopt, "warm"}};
        r.logWarnings = {{"lines_skipped", "1 line was skipped: line 3 (no time in it)."}};
        r.from = 1.0;
        {
            auto b = Book::create(path());
            QVERIFY(b.has_value());
            bank = *(*b)->save(fullBank());
            records::Gear meter;
            meter.name = "Bench meter";
            meter.meter = *path::parseMeter("volts 0.05%+2mV, amps 0.1%+3mA, clock 50ppm", "");
            r.meter = *(*b)->save(meter);
            r.bank = bank;
            run = *(*b)->addRun(r, longTrace(10'000));
        }
        auto b = Book::open(path());
        QVERIFY(b.has_value());
        records::Bank wanted = fullBank();
        wanted.id = bank;
        QVERIFY(*(*b)->bank(bank) == wanted);
        r.id = run;
        QVERIFY(*(*b)->run(run) == r);
        const trace::Trace t = (*b)->trace(run);
        const trace::Trace was = longTrace(10'000);
        QCOMPARE(t.size(), was.size());
        QVERIFY(t.time == was.time);
        QCOMPARE(t.volts[9'999], was.volts[9'999]);
        QCOMPARE(t.voltsStep, was.voltsStep);
        QCOMPARE((*b)->gear().front().meter.name, std::string("Bench meter"));
    }
    // Whatever is added to a label, a port or a piece of gear comes back, from the book and from a bundle.
    void every_member_is_kept() {
        records::Bank bank;
        bank.name = "Gravel 7";
        bank.tags = {"loan", "cabin"};
        label::eachMember(bank.label, Fill{});
        label::Port port;
        port.name = "C";
        port.direction = label::Direction::Both;
        port.tiers = {{Volts(5), Volts(5), Amps(3)}};
        label::eachMember(port, Fill{});
        bank.label.ports = {port};
        std::vector<records::Gear> gear;
        for (const records::GearKind kind : records::gearKinds()) {
            records::Gear g;
            g.kind = kind;
            g.name = records::gearKey(kind);
            records::eachMember(g, Fill{});
            if (g.reads())
                g.meter.name = g.name;
            gear.push_back(g);
        }
        {
            auto b = Book::create(path());
            QVERIFY(b.has_value());
            bank.id = *(*b)->save(bank);
            for (records::Gear& g : gear)
                g.id = *(*b)->save(g);
        }
        auto b = Book::open(path());
        QVERIFY(b.has_value());
        QVERIFY(*(*b)->bank(bank.id) == bank);
        const auto kept = (*b)->gear();
        for (const records::Gear& g : gear)
            QVERIFY2(std::find(kept.begin(), kept.end(), g) != kept.end(), g.name.c_str());
        QVERIFY(book::bankFromJson(book::toJson(bank)) == bank);
        for (const records::Gear& g : gear)
            QVERIFY2(book::gearFromJson(book::toJson(g)) == g, g.name.c_str());
    }
    void chunk_summaries_add_up_to_the_whole() {
        auto b = Book::create(path());
        records::Run r;
        r.bank = *(*b)->save(fullBank());
        const trace::Trace t = longTrace(3 * static_cast<int>(book::kChunkRows) + 5);
        const records::Id run = *(*b)->addRun(r, t);
        double energy = 0.0;
        long long samples = 0;
        for (const auto& s : (*b)->summaries(run)) {
            energy += s.wattHours;
            samples += s.samples;
        }
        QCOMPARE((*b)->summaries(run).size(), std::size_t(4));
        QCOMPARE(samples, static_cast<long long>(t.size()));
        QVERIFY(std::abs(energy - (*b)->finding(run)->wattHours.value()) < 1e-9);
        QCOMPARE((*b)->chunks(run, 1, 1).time.front(), t.time[book::kChunkRows]);
    }
    void a_finding_is_cached_until_something_it_rests_on_changes() {
        auto b = Book::create(path());
        records::Gear meter;
        meter.name = "Meter";
        meter.id = *(*b)->save(meter);
        records::Run r;
        r.bank = *(*b)->save(fullBank());
        r.meter = meter.id;
        r.id = *(*b)->addRun(r, longTrace(5000));
        QVERIFY(!(*b)->cachedFinding(r.id).has_value());
        const double energy = (*b)->finding(r.id)->wattHours.value();
        QVERIFY((*b)->cachedFinding(r.id).has_value());
        r.notes = "words change no sum";
        QVERIFY((*b)->save(r).has_value());
        QVERIFY((*b)->cachedFinding(r.id).has_value());
        meter.clock = Stated(0.94);
        QVERIFY((*b)->save(meter).has_value());
        QVERIFY(!(*b)->cachedFinding(r.id).has_value());
        QVERIFY(std::abs((*b)->finding(r.id)->wattHours.value() - 0.94 * energy) < 1e-9);
    }
    void a_mapping_is_remembered_per_header() {
        auto b = Book::create(path());
        logs::Mapping m;
        m.columns = {{logs::Role::Volts, "3"}};
        m.units = {{logs::Role::Volts, "mV"}};
        QVERIFY((*b)->rememberMapping("t;a;b", m).has_value());
        QVERIFY(*(*b)->mapping("t;a;b") == m);
        QVERIFY(!(*b)->mapping("t;a").has_value());
    }

    // Invariant 3.
    void what_cannot_be_opened_is_told_and_not_touched_data() {
        QTest::addColumn<QString>("code");
        QTest::addColumn<QString>("says");
        QTest::newRow("newer") << "newer_book"
                               << "made by a newer Otterstone";
        QTest::newRow("truncated") << "damaged_book"
                                   << "cut short";
        QTest::newRow("scrambled") << "damaged_book"
                                   << "damaged";
        QTest::newRow("foreign database") << "not_a_book"
                                          << "not an Otterstone book";
        QTest::newRow("text") << "not_a_book"
                              << "not an Otterstone book";
        QTest::newRow("missing") << "no_book"
                                 << "no such file";
    }
    void what_cannot_be_opened_is_told_and_not_touched() {
        QFETCH(QString, code);
        QFETCH(QString, says);
        const QString tag = QString::fromLatin1(QTest::currentDataTag());
        {
            auto b = Book::create(path());
            records::Run r;
            r.bank = *(*b)->save(fullBank());
            QVERIFY((*b)->addRun(r, longTrace(20'000)).has_value());
        }
        QFile file(path());
        if (tag == "newer")
            writeAt(path(), 60, QByteArray("\0\0\x03\xE7", 4));
        else if (tag == "truncated")
            QVERIFY(file.resize(file.size() / 2));
        else if (tag == "scrambled")
            writeAt(path(), 4096, QByteArray(8192, '\x5A'));
        else if (tag == "foreign database")
            writeAt(path(), 68, QByteArray(4, '\0'));
        else if (tag == "text")
            writeAt(path(), 0, "time_s,volts,amps");
        else
            QVERIFY(file.remove());
        const QByteArray before = bytesOf(path());
        const auto b = Book::open(path());
        QVERIFY(!b.has_value());
        const QString sentence = QString::fromStdString(b.error().sentence());
        QCOMPARE(QString::fromStdString(b.error().code), code);
        QVERIFY2(sentence.contains(says) && sentence.contains(path()), qPrintable(sentence));
        QCOMPARE(bytesOf(path()), before);
        QVERIFY(tag == "scrambled" ? !book::checkBook(path()).has_value() || !book::checkBook(path())->faults.empty()
                                   : !book::checkBook(path()).has_value());
    }
    // Invariant 4.
    void a_book_open_elsewhere_names_who_holds_it() {
        auto first = Book::create(path());
        const QByteArray before = bytesOf(path());
        const auto second = Book::open(path());
        QVERIFY(!second.has_value());
        QCOMPARE(second.error().code, std::string("book_in_use"));
        QVERIFY(second.error().text.find(std::to_string(QCoreApplication::applicationPid())) != std::string::npos);
        QCOMPARE(bytesOf(path()), before);
    }
    // Also by another name of it.
    void links_lead_to_the_same_lock() {
        auto first = Book::create(path());
        const QString link = path() + ".link", second = path() + ".second";
        QVERIFY(QFile::link(path(), link));
        const auto byLink = Book::open(link);
        QVERIFY(!byLink && byLink.error().code == "book_in_use");
        first->reset();
        QCOMPARE(::link(QFile::encodeName(path()).constData(), QFile::encodeName(second).constData()), 0);
        const auto byOther = Book::open(second);
        QVERIFY(!byOther && byOther.error().code == "book_has_two_names");
        QVERIFY(Book::openToRead(second)); // looking does no harm
        QFile::remove(link);
        QFile::remove(second);
        QVERIFY(Book::open(path()));
    }
    void a_read_only_book_opens_for_reading() {
        records::Id bank = 0;
        {
            auto b = Book::create(path());
            bank = *(*b)->save(fullBank());
        }
        const QByteArray before = bytesOf(path());
        QVERIFY(QFile::setPermissions(path(), QFile::ReadOwner));
        {
            auto b = Book::open(path());
            QVERIFY(b.has_value());
            QVERIFY((*b)->readOnly());
            QVERIFY((*b)->bank(bank).has_value());
            const auto changed = (*b)->save(fullBank());
            QVERIFY(!changed.has_value());
            QCOMPARE(changed.error().code, std::string("book_read_only"));
            QVERIFY(!(*b)->setBankRemoved(bank, true).has_value());
        }
        QCOMPARE(bytesOf(path()), before);
    }
    void an_old_book_grows_into_the_present_one() {
        {
            book::Connection c(path(), book::Connection::Mode::ReadWrite);
            book::migrate(c, book::migrations().first(1));
            c.run("INSERT INTO bank (name, capacity_ah, length_mm, width_mm, height_mm, claims_low_current)"
                  " VALUES ('Old stone', 10.05, 90, 60, 20, 1)");
        }
        auto b = Book::open(path());
        QVERIFY(b.has_value());
        const records::Bank old = (*b)->banks().front();
        QCOMPARE(old.name, std::string("Old stone"));
        QCOMPARE(old.label.capacity->value, 10.05);
        QVERIFY(old.label.size == (label::SizeMm{90, 60, 20}) && old.label.claimsLowCurrentMode);
        QVERIFY(old.tags.empty() && !old.label.energy);
        QVERIFY((*b)->rememberMapping("x", {}).has_value()); // a table of version 2
    }
    // Statements are kept, but none that is at work: a loop within a loop over the same words has rows of its own, one
    // that broke off begins anew, and what was bound before is forgotten.
    void a_statement_at_work_is_given_to_nobody_else() {
        book::Connection c(path(), book::Connection::Mode::ReadWrite);
        c.run("CREATE TABLE n (k INTEGER)");
        for (int k = 1; k <= 3; ++k)
            c.run("INSERT INTO n VALUES (?)", k);
        constexpr const char* kFrom = "SELECT k FROM n WHERE k >= ? ORDER BY k";
        QList<int> seen;
        auto outer = c.run(kFrom, 1);
        while (outer.next()) {
            auto inner = c.run(kFrom, 2);
            QVERIFY(inner.next());
            seen << static_cast<int>(outer.value(0).whole()) * 10 +
                        static_cast<int>(inner.value(0).whole()); // and breaks off
        }
        QCOMPARE(seen, (QList<int>{12, 22, 32}));
        outer = c.run(kFrom, 3);
        QVERIFY(outer.next() && static_cast<int>(outer.value(0).whole()) == 3 && !outer.next());
        // Who broke off holds no lock: another may write.
        (void)c.run(kFrom, 1).next();
        book::Connection other(path(), book::Connection::Mode::ReadWrite);
        other.run("PRAGMA busy_timeout = 0");
        other.run("INSERT INTO n VALUES (?)", 4);
        auto all = c.run("SELECT count(*) FROM n");
        QVERIFY(all.next() && static_cast<int>(all.value(0).whole()) == 4);
    }
    void a_migration_that_fails_leaves_the_version_before() {
        { auto b = Book::create(path()); }
        book::Connection c(path(), book::Connection::Mode::ReadWrite);
        static constexpr const char* kHalf[] = {"CREATE TABLE half (x)", "CREATE NONSENSE"};
        const book::Migration steps[] = {{book::currentVersion() + 1, kHalf}};
        bool failed = false;
        try {
            book::migrate(c, steps);
        } catch (const book::SqlError&) {
            failed = true;
        }
        QVERIFY(failed);
        auto q = c.run("PRAGMA user_version");
        QVERIFY(q.next());
        QCOMPARE(static_cast<int>(q.value(0).whole()), book::currentVersion());
        q = c.run("SELECT count(*) FROM sqlite_schema WHERE name = 'half'");
        QVERIFY(q.next());
        QCOMPARE(static_cast<int>(q.value(0).whole()), 0);
    }
    // Invariant 1.
    void a_change_that_fails_changes_nothing() {
        auto b = Book::create(path());
        records::Run r;
        r.bank = 4711; // no such bank
        QVERIFY(!(*b)->addRun(r, longTrace(100)).has_value());
        QVERIFY((*b)->runs(4711).empty());
        QVERIFY(book::checkBook(path())->faults.empty());
    }
    void a_changed_sample_is_found_by_the_check() {
        {
            auto b = Book::create(path());
            records::Run r;
            r.bank = *(*b)->save(fullBank());
            QVERIFY((*b)->addRun(r, longTrace(5000)).has_value());
        }
        QVERIFY(book::checkBook(path())->faults.empty());
        {
            book::Connection c(path(), book::Connection::Mode::ReadWrite);
            c.run("UPDATE chunk SET amps_a = zeroblob(length(amps_a)) WHERE seq = 1");
        }
        const auto report = book::checkBook(path());
        QVERIFY(report.has_value());
        QVERIFY(report->faults.front().find("chunk 1") != std::string::npos);
    }
    void strangers_can_ask_the_overview() {
        auto b = book::makeDemo(path());
        QVERIFY(b.has_value());
        book::Connection c(path(), book::Connection::Mode::ReadOnly);
        auto q = c.run("SELECT bank, energy_wh FROM run_overview WHERE kind = 'drain' ORDER BY energy_wh DESC");
        QVERIFY(q.next());
        QCOMPARE(QString::fromStdString(q.value(0).text()), QStringLiteral("Dolmen 50"));
    }

    void undo_and_redo_walk_through_all_changes() {
        auto b = Book::create(path());
        Book& book = **b;
        book::History history;
        records::Bank bank = fullBank();
        bank.id = *book.save(bank);
        records::Bank renamed = bank;
        renamed.name = "Scree 8";
        const auto saving = [&book](const records::Bank& value) {
            return [&book, value]() -> Result<void> {
                auto r = book.save(value);
                return r ? Result<void>{} : tl::unexpected(r.error());
            };
        };
        QVERIFY(history.perform({"rename", saving(renamed), saving(bank)}).has_value());
        QVERIFY(history
                    .perform({"remove", [&] { return book.setBankRemoved(bank.id, true); },
                              [&] { return book.setBankRemoved(bank.id, false); }})
                    .has_value());
        QVERIFY(book.banks().empty());
        QVERIFY(history.undo().has_value());
        QCOMPARE(book.banks().front().name, std::string("Scree 8"));
        QVERIFY(history.undo().has_value());
        QCOMPARE(book.banks().front().name, std::string("Gravel 7"));
        QVERIFY(!history.canUndo());
        QVERIFY(history.redo().has_value());
        QCOMPARE(book.banks().front().name, std::string("Scree 8"));
        QVERIFY(history.perform({"again", saving(bank), saving(renamed)}).has_value());
        QVERIFY(!history.canRedo()); // a new change drops what could be redone
        const auto failing = [] { return Result<void>(problem("no", "", "no")); };
        QVERIFY(!history.perform({"fails", failing, failing}).has_value());
        QCOMPARE(history.undoText(), QStringLiteral("again"));
    }

private:
    [[nodiscard]] QString path() const { return folder_->filePath(QStringLiteral("test.otterstone")); }
    std::unique_ptr<QTemporaryDir> folder_;
};

QTEST_GUILESS_MAIN(BookTest)
#include "book_test.moc"
