// Runs to be made, published sheets, choices, and what a scale said: kept, undone, and carried by a bundle.
#include <QTest>

#include <QTemporaryDir>

#include "book/demo/demo.h"
#include "book/exchange/bundle.h"
#include "book/store/check.h"
#include "book/store/choices.h"
#include "book/store/material.h"
#include "book/store/moved.h"
#include "book/store/together.h"
#include "core/kinds/rows.h"
#include "core/plan/campaign/wishes.h"
#include "core/setup/method.h"
#include "report/material.h"

using namespace otterstone;
using namespace otterstone::book;

class PlanTest : public QObject {
    Q_OBJECT

    QTemporaryDir folder_;

private Q_SLOTS:
    void what_was_decided_survives_reopening_and_a_bundle_data() {
        QTest::addColumn<bool>("bundle");
        QTest::newRow("reopened") << false;
        QTest::newRow("through a bundle") << true;
    }
    void what_was_decided_survives_reopening_and_a_bundle() {
        QFETCH(bool, bundle);
        const QString path = folder_.filePath(bundle ? QStringLiteral("a.otterstone") : QStringLiteral("b.otterstone"));
        Bank bank;
        bank.name = "Pebble";
        bank.label.charges = {{2.5, 12.4, "tablet"}, {3.0, {}, "phone 2"}};
        bank.scale = {Stated(120.4, 0.5), label::SizeMm{98, 45, 23}};
        const PlannedRun planned{kNew, 1, records::Kind::Sharing, "sharing-round", "together:C1+A", "A sharing round.",
                                 false};
        {
            auto book = Book::create(path).value();
            bank.id = book->save(bank).value();
            PlannedRun p = planned;
            p.bank = bank.id;
            const Id kept = book->save(p).value();
            p.words = "another";
            const Id dropped = book->save(p).value();
            QVERIFY(book->setPlannedRemoved(dropped, true));
            QCOMPARE(book->planned().size(), std::size_t(1));
            QVERIFY(book->setPlannedRemoved(dropped, false));
            QCOMPARE(book->planned().size(), std::size_t(2));
            QVERIFY(book->setPlannedRemoved(dropped, true));
            p = book->planned().front();
            QCOMPARE(p.id, kept);
            p.done = true;
            QVERIFY(book->save(p));
            QVERIFY(book->publish({kNew, "Pebble", "2026-05-01T10:00:00", 2, "{\"a\":1}"}));
            QVERIFY(book->publish({kNew, "Pebble", "2026-05-02T10:00:00", 2, "{\"a\":2}"}));
            QVERIFY(book->setChoice("needs", needsToText({{"Camera 2 W 8 h"}, 3.0})));
            if (bundle)
                QVERIFY(exportBundle(*book, folder_.filePath(QStringLiteral("bundle"))));
        }
        const auto book = bundle ? importBundle(folder_.filePath(QStringLiteral("bundle")),
                                                folder_.filePath(QStringLiteral("c.otterstone")))
                                       .value()
                                 : Book::open(path).value();
        const Bank again = book->banks().front();
        QCOMPARE(again.label.charges, bank.label.charges);
        QVERIFY(again.scale == bank.scale);
        QCOMPARE(book->planned().size(), std::size_t(1));
        PlannedRun p = book->planned().front();
        QVERIFY(p.done);
        p.id = kNew;
        p.bank = 1;
        p.done = false;
        QVERIFY(p == planned);
        const auto published = book->publications("Pebble");
        QCOMPARE(published.size(), std::size_t(2));
        QCOMPARE(published.front().at, std::string("2026-05-02T10:00:00")); // the newest first
        QVERIFY(book->publications("comparison").empty());
        QCOMPARE(purposeOr(book->choice(choice::purpose)).key, std::string("plane")); // nothing kept: the first
        const Needs needs = needsFromText(book->choice(choice::needs), "").value();
        QCOMPARE(needs.lines, std::vector<std::string>{"Camera 2 W 8 h"});
        QCOMPARE(needs.days, 3.0);
    }
    void a_choice_that_cannot_be_read_is_told_data() {
        QTest::addColumn<QString>("key");
        QTest::addColumn<QString>("text");
        QTest::addColumn<QString>("told"); // as the whole of what is wrong with the book begins
        const auto row = [](const char* name, const char* key, const char* text, const char* told) {
            QTest::newRow(name) << QString::fromLatin1(key) << QString::fromLatin1(text) << QString::fromLatin1(told);
        };
        row("prices that are no JSON", "prices", "EUR please", "the house's prices: this is not JSON");
        row("rates as a list", "prices",
            R"({"format": "otterstone-prices", "version": 1, "currency": "EUR", "rates": [1]})",
            "the house's prices: rates");
        row("prices of another kind", "prices", R"({"format": "otterstone-wishes"})", "the house's prices: ");
        row("needs as a number", "needs", "12", "the house's needs: these are no needs");
        row("needs of numbers", "needs", R"({"needs": [1, 2], "days": 3})", "the house's needs: these are no needs");
        row("a purpose cut off", "purpose", "{\"key\": \"own\", \"sca", "the house's purpose: ");
        row("a purpose that weighs what is no figure", "purpose",
            R"({"scales": [{"figure": "luck", "worst": 0, "best": 1}]})", "the house's purpose: \"luck\"");
        row("a campaign in words", "campaign", "tomorrow", "the house's campaign: ");
    }
    // The book is shown with the rest of what the house chose, `check` names the one, and a bundle goes without it.
    void a_choice_that_cannot_be_read_is_told() {
        QFETCH(QString, key);
        QFETCH(QString, text);
        QFETCH(QString, told);
        const QString path = folder_.filePath(QStringLiteral("choice-%1.otterstone").arg(QTest::currentDataTag()));
        const QString bundle = path + QStringLiteral(".bundle");
        {
            auto book = Book::create(path).value();
            Bank bank;
            bank.name = "Pebble 5";
            QVERIFY(book->save(bank));
            for (const ChoiceKind& kind : choiceKinds())
                QVERIFY(kind.check(book->choice(kind.key), "") || book->choice(kind.key).empty());
            QVERIFY(book->setChoice(key.toStdString(), text.toStdString()));
            QVERIFY(exportBundle(*book, bundle));
        }
        const auto report = checkBook(path);
        QVERIFY(report);
        QCOMPARE(report->faults.size(), std::size_t(1));
        QVERIFY2(QString::fromStdString(report->faults.front()).startsWith(told), report->faults.front().c_str());
        const auto book = Book::openToRead(path);
        QVERIFY(book);
        QCOMPARE((*book)->banks().size(), std::size_t(1));
        const auto again = importBundle(bundle, path + QStringLiteral(".again"));
        QVERIFY(again);
        QVERIFY((*again)->choice(key.toStdString()).empty());
    }
    void a_campaign_follows_its_banks_into_another_book() {
        const QString bundle = folder_.filePath(QStringLiteral("campaign-bundle"));
        plan::campaign::Wishes w;
        w.hours = "daily 8-22";
        {
            auto book = Book::create(folder_.filePath(QStringLiteral("campaign.otterstone"))).value();
            Bank bank;
            bank.name = "Gravel 7";
            const Id gone = book->save(bank).value();
            bank.name = "Pebble 5";
            const Id stays = book->save(bank).value();
            QVERIFY(stays != 1);
            QVERIFY(book->setBankRemoved(gone, true));
            w.banks = {gone, stays};
            w.pins = {{{stays, records::Kind::Drain, "gentle-drain", ""}, "2026-09-07T10:00:00"}};
            w.kept = {
                "2026-09-07T08:00:00",
                {{{gone, records::Kind::Drain, "", ""}, "gone", "2026-09-07T08:00:00", "2026-09-07T09:00:00", ""},
                 {{stays, records::Kind::Drain, "", ""}, "stays", "2026-09-07T08:00:00", "2026-09-07T09:00:00", ""}}};
            QVERIFY(book->setChoice("campaign", wishesToText(w)));
            QVERIFY(exportBundle(*book, bundle));
        }
        const auto book = importBundle(bundle, folder_.filePath(QStringLiteral("campaign-2.otterstone"))).value();
        const auto again = plan::campaign::wishesFromText(book->choice("campaign"), "book");
        QVERIFY(again);
        const Id now = book->banks().front().id;
        QCOMPARE(again->banks, std::vector<long long>{now});
        QCOMPARE(again->pins.size(), std::size_t(1));
        QCOMPARE(again->pins.front().job.bank, now);
        QCOMPARE(again->kept.jobs.size(), std::size_t(1));
        QCOMPARE(again->kept.jobs.front().words, std::string("stays"));
        QCOMPARE(again->hours, w.hours);
    }
    void a_book_without_banks_has_no_sheet() {
        const auto book = Book::create(folder_.filePath(QStringLiteral("empty.otterstone"))).value();
        const auto material = gatherMaterial(book->path(), {}, "2026-05-01");
        QVERIFY(!material);
        QCOMPARE(material.error().code, std::string("no_bank"));
    }
    // Invariant 3 of the book: one that cannot be brought up to date is refused, not shown as if it were empty.
    void an_older_book_that_may_not_be_written_is_refused() {
        const QString path = folder_.filePath(QStringLiteral("old.otterstone"));
        {
            auto book = Book::create(path).value();
            Bank bank;
            bank.name = "old";
            QVERIFY(book->save(bank));
        }
        QFile file(path);
        QVERIFY(file.open(QIODevice::ReadWrite));
        QVERIFY(file.seek(63)); // the last byte of user_version
        QVERIFY(file.putChar(5));
        file.close();
        QVERIFY(file.setPermissions(QFile::ReadOwner));
        const auto opened = Book::open(path);
        QVERIFY(!opened);
        QCOMPARE(opened.error().code, std::string("older_book"));
        QVERIFY(file.setPermissions(QFile::ReadOwner | QFile::WriteOwner));
    }
    void a_book_is_read_beside_its_writer() {
        const QString path = folder_.filePath(QStringLiteral("beside.otterstone"));
        auto writer = Book::create(path).value();
        Bank bank;
        bank.name = "beside";
        QVERIFY(writer->save(bank));
        const auto reader = Book::openToRead(path);
        QVERIFY(reader);
        QVERIFY((*reader)->readOnly());
        QCOMPARE((*reader)->banks().size(), std::size_t(1));
        QVERIFY(!(*reader)->save(bank));
        QVERIFY(writer->save(bank)); // the reader holds nobody up
        QCOMPARE((*reader)->banks().size(), std::size_t(2));
        QVERIFY(!Book::openToRead(folder_.filePath(QStringLiteral("none.otterstone"))));
    }
    void evidence_holds_what_each_bank_has() {
        const auto book = Book::create(folder_.filePath(QStringLiteral("two.otterstone"))).value();
        Bank a, b;
        a.name = "a";
        b.name = "b";
        const Id first = book->save(a).value();
        (void)book->save(b);
        Run run;
        run.bank = first;
        run.kind = records::Kind::LightLoad;
        run.title = "ladder";
        run.sheet = records::Sheet{records::Kind::LightLoad, {}};
        kinds::addRow(*run.sheet, {{"amps", "0.05"}, {"state", "stays on"}});
        QVERIFY(book->addRun(run, {}));
        const auto all = gatherEvidence(book->path()).value();
        QCOMPARE(all.size(), std::size_t(2));
        QCOMPARE(all[0].sheets.size(), std::size_t(1));
        QVERIFY(all[0].runs.empty() && all[1].sheets.empty());
        QCOMPARE(gatherEvidence(book->path(), {first})->size(), std::size_t(1));
    }
    // A sheet published by an earlier method: which of its figures moved, and why.
    void a_book_of_an_earlier_method_says_what_moved() {
        const QString path = folder_.filePath(QStringLiteral("moved.otterstone"));
        const auto made = makeDemo(path);
        QVERIFY(made.has_value());
        Book& book = **made;
        QVERIFY(movedFigures(path).empty()); // nothing was published
        const Bank bank = book.banks().front();
        const auto material = gatherMaterial(path, {bank.id}, "2026-05-02T10:00:00+00:00").value();
        report::Published said = report::whatIsSaid(material, report::makeContent(material));
        const std::string was = said.figures.front().second;
        said.figures.front().second = "1.234 Wh";
        QVERIFY(book.publish(
                        {kNew, bank.name, "2026-05-02T10:00:00+00:00", setup::kMethodVersion - 1, report::toJson(said)})
                    .has_value());
        const auto moved = movedFigures(path);
        QCOMPARE(moved.size(), std::size_t(1));
        QCOMPARE(moved.front().figures.size(), std::size_t(1));
        QCOMPARE(moved.front().figures.front().after, was);
        const std::string sentence = moved.front().sentence();
        for (const std::string& words : {bank.name, std::string("2026-05-02"), std::string("1.234 Wh then"),
                                         setup::whyFiguresMove(setup::kMethodVersion - 1)})
            QVERIFY2(sentence.find(words) != std::string::npos, sentence.c_str());
        QVERIFY(
            book.publish({kNew, bank.name, "2026-05-03T10:00:00+00:00", setup::kMethodVersion, report::toJson(said)})
                .has_value());
        QVERIFY(movedFigures(path).empty()); // published anew: the next sheet tells
    }
};

QTEST_GUILESS_MAIN(PlanTest)
#include "plan_test.moc"
