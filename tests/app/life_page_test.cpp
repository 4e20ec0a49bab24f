// The line of a bank's life and the list of its runs, as a tester uses them: by key, by click, by typing.
#include <QTest>

#include <QLabel>
#include <QLineEdit>
#include <QListWidget>

#include "app/findings/findings_page.h"
#include "app/intake/intake_page.h"
#include "app/runs/life_line.h"
#include "app/runs/run_list.h"
#include "app/runs/run_page.h"
#include "demo_window.h"
#include "look.h"

using namespace otterstone;
using namespace otterstone::app;
using namespace otterstone::testing;

class LifePageTest : public QObject {
    Q_OBJECT

private Q_SLOTS:
    void initTestCase() { QVERIFY(window_.prepare(true)); }
    void init() { QVERIFY(window_.openCopy()); }
    void cleanup() { window_.close(); }

    void the_line_leads_from_run_to_run() {
        RunPage* page = shown("Dolmen 50");
        LifeLine* line = page->life();
        QTRY_VERIFY(line->accessibleDescription().contains("After three months in the hut: 93 % → empty"));
        line->setFocus();
        QTest::keyClick(line, Qt::Key_End);
        QTRY_VERIFY2(page->sentence().contains("from 93 %"), qPrintable(page->sentence()));
        const records::Id last = page->run();
        QTest::keyClick(line, Qt::Key_Left);
        QTRY_VERIFY2(page->sentence().contains("went into the port"), qPrintable(page->sentence()));
        QTest::keyClick(line, Qt::Key_Home);
        QVERIFY(page->run() != last);
        QTest::mouseClick(line, Qt::LeftButton, Qt::NoModifier, line->place(last).center().toPoint());
        QCOMPARE(page->run(), last);
        QCOMPARE(page->list()->list()->currentItem()->text(), QString("After three months in the hut"));
    }

    void the_list_is_searched_as_one_types() {
        RunPage* page = shown("Cobble 10");
        QListWidget* list = page->list()->list();
        const auto found = [list] {
            QStringList titles;
            for (int k = 0; k < list->count(); ++k) {
                if (!list->item(k)->isHidden())
                    titles << list->item(k)->text();
            }
            return titles;
        };
        QCOMPARE(found().size(), 14);
        QTest::keyClicks(page->list()->find(), "gentle");
        QCOMPARE(found(), (QStringList{"Gentle, 1 A at 5 V", "Gentle again", "Gentle, third time"}));
        QTest::keyClicks(page->list()->find(), " 04-22");
        QCOMPARE(found(), QStringList{"Gentle, third time"});
        page->list()->find()->clear();
        QTest::keyClicks(page->list()->find(), "recharge");
        QCOMPARE(found().size(), 3);
        page->list()->find()->clear();
        list->setFocus();
        list->setCurrentRow(0);
        QTest::keyClick(list, Qt::Key_Down);
        QTRY_VERIFY2(page->sentence().contains("of the printed 37 Wh"), qPrintable(page->sentence()));
        QVERIFY(list->hasFocus()); // and on with the next
    }

    // In the order of their days, whatever the order in the book.
    void the_list_follows_the_line() {
        RunPage* page = shown("Cobble 10");
        QListWidget* list = page->list()->list();
        QTRY_COMPARE(list->item(6)->text(), QString("From empty, hut socket 10"));
        QTRY_COMPARE(list->item(13)->text(), QString("Broke off in the night, replugged"));
        QVERIFY(list->item(13)->data(Qt::AccessibleTextRole).toString().contains("empty → full"));
    }

    void a_run_that_asks_shows_it_in_the_list() {
        RunPage* page = shown("Scree 15");
        page->list()->find()->setFocus();
        QTest::keyClicks(page->list()->find(), "asks");
        QListWidget* list = page->list()->list();
        const auto shownRows = [list] {
            int rows = 0;
            for (int k = 0; k < list->count(); ++k)
                rows += list->item(k)->isHidden() ? 0 : 1;
            return rows;
        };
        QTRY_COMPARE(shownRows(), 1);
    }

    void a_narrow_window_keeps_the_line() {
        RunPage* page = shown("Cobble 10");
        QTRY_VERIFY(page->life()->isVisible() && page->list()->isVisible());
        window_->resize(1000, 700);
        QTRY_VERIFY(!page->list()->isVisible());
        QVERIFY(page->life()->isVisible());
    }

    void what_is_written_at_intake_is_told_in_the_findings() {
        const records::Id bank = window_.bankNamed("Pebble 5");
        window_->showIntake(bank);
        const auto type = [&](const char* name, const char* text) {
            auto* edit = window_->intakePage()->findChild<QLineEdit*>(name);
            QVERIFY(edit);
            edit->setFocus();
            edit->selectAll();
            edit->insert(text);
            QTest::keyClick(edit, Qt::Key_Return);
        };
        type("It came", "2026-03-30 at 61 %");
        type("It counts itself", "2026-05-01: 70 Wh out, 4 cycles");
        type("Specimen of", "Scree 15");
        QCOMPARE(window_.book().bank(bank)->past.specimenOf, std::optional(window_.bankNamed("Scree 15")));
        window_->showFindings(bank);
        for (const char* said :
             {"It came on 2026-03-30, at 61 %.", "it counted 70 Wh out, 4 cycles itself", "Beside “Scree 15”"})
            QTRY_VERIFY2(says(window_->findingsPage(), QString::fromUtf8(said)), said);
        // Undone it is gone again.
        QTest::keyClick(window_.get(), Qt::Key_Z, Qt::ControlModifier);
        QTRY_VERIFY(!window_.book().bank(bank)->past.specimenOf);
        QTRY_VERIFY(!says(window_->findingsPage(), QStringLiteral("Beside “Scree 15”")));
    }

    void specimens_stand_side_by_side() {
        window_->showFindings(window_.bankNamed("Cobble 10, last year's"));
        QTRY_VERIFY(
            says(window_->findingsPage(), QStringLiteral("Beside “Cobble 10”, 12 months older, this one gives 9")));
    }

private:
    RunPage* shown(const char* bank) {
        window_->showRuns(window_.bankNamed(bank));
        return window_->runPage();
    }
    DemoWindow window_;
};

QTEST_MAIN(LifePageTest)
#include "life_page_test.moc"
