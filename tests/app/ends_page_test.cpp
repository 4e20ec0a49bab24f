// What a run really was, as a tester says it: the run page's questions by keyboard, the import page's usual, About this
// run, the shelf's sign.
#include <QTest>

#include <QAbstractItemView>
#include <QApplication>
#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>

#include "app/import/import_page.h"
#include "app/runs/about_panel.h"
#include "app/runs/ends_bar.h"
#include "app/runs/run_page.h"
#include "app/widgets/ends_fields.h"
#include "app/widgets/figure_button.h"
#include "demo_window.h"
#include "look.h"

using namespace otterstone;
using namespace otterstone::app;
using namespace otterstone::testing;
using records::Mark;

class EndsPageTest : public QObject {
    Q_OBJECT

private Q_SLOTS:
    void initTestCase() { QVERIFY(window_.prepare(true)); }
    void init() { QVERIFY(window_.openCopy()); }
    void cleanup() { window_.close(); }

    // A drain that shut off while the display said 40 %: it asks, one key answers, undo takes it back.
    void a_question_is_answered_by_one_key_and_undone() {
        const auto run = addDrain(4.0, [](records::Run& r) {
            r.ends.began = records::usualBeginning(r.kind);
            r.marks.push_back({4.0 * 3600.0, Mark::What::Percent, 40.0, ""});
        });
        window_->showRuns(window_.bankNamed("Pebble 5"), run);
        RunPage* page = window_->runPage();
        QTRY_COMPARE(page->ends()->questions().size(), 1);
        QCOMPARE(page->ends()->questions().front(),
                 QString("When the output went off the display said 40 %. What was it?"));
        QVERIFY2(!page->sentence().contains("of the printed"), qPrintable(page->sentence()));
        QVERIFY(!page->figure("delivered_share"));
        QTRY_COMPARE(window_.book().asked()[window_.bankNamed("Pebble 5")], 1);

        QTest::keyClick(page, Qt::Key_1); // it was empty: the display is wrong
        QTRY_VERIFY(page->ends()->questions().isEmpty());
        QTRY_VERIFY2(page->sentence().contains("of the printed"), qPrintable(page->sentence()));
        QVERIFY(page->figure("delivered_share"));
        QCOMPARE(window_.book().run(run)->ends.ending, std::optional(records::Ending::CutOff));
        QTRY_VERIFY(!window_.book().asked().contains(window_.bankNamed("Pebble 5")));

        QTest::keyClick(window_.get(), Qt::Key_Z, Qt::ControlModifier);
        QTRY_COMPARE(page->ends()->questions().size(), 1);
        QTRY_VERIFY(!page->figure("delivered_share"));
        QVERIFY(!page->sentence().contains("of the printed"));

        QTest::keyClick(page, Qt::Key_2); // heat
        QTRY_VERIFY2(page->sentence().contains("until heat stopped it"), qPrintable(page->sentence()));
        QTRY_VERIFY(page->figure("projected_wh"));
        QTest::keyClick(page, Qt::Key_1); // nothing asks any more: the key does nothing
        QCOMPARE(window_.book().run(run)->ends.ending, std::optional(records::Ending::Heat));
    }

    // The device's state at both ends is said beside the bank's, and shown under the sentence.
    void the_device_is_said_beside_the_bank() {
        const auto run = addDrain(4.0, [](records::Run& r) { r.ends.began = records::usualBeginning(r.kind); });
        window_->showRuns(window_.bankNamed("Pebble 5"), run);
        QTest::keyClick(window_.get(), Qt::Key_T, Qt::ControlModifier);
        auto* fields = window_->findChild<AboutPanel*>()->findChild<EndsFields*>();
        QTRY_VERIFY(fields->device()->isVisible());
        fields->device()->setFocus();
        QTest::keyClicks(fields->device(), "20 % to full");
        QTest::keyClick(fields->device(), Qt::Key_Return);
        QTRY_COMPARE(window_.book().run(run)->ends.deviceBegan, std::optional(records::State::at(20.0)));
        QTRY_VERIFY2(window_->runPage()->ends()->ends().contains("The device began at 20 % (as stated) and ended full"),
                     qPrintable(window_->runPage()->ends()->ends()));
        fields->device()->selectAll();
        QTest::keyClicks(fields->device(), "20");
        QTest::keyClick(fields->device(), Qt::Key_Return);
        QTRY_VERIFY(says(window_.get(), QStringLiteral("does not say how the device began and ended")));
        QCOMPARE(window_.book().run(run)->ends.deviceBegan, std::optional(records::State::at(20.0)));
    }

    // Of a run that has not begun nothing else is asked, whatever recipe is chosen.
    void before_a_run_only_its_beginning_is_asked() {
        EndsFields fields;
        fields.onlyBegan();
        for (const records::Kind kind : {records::Kind::Recharge, records::Kind::Drain}) {
            fields.setKind(kind);
            QVERIFY(fields.device()->isHidden() && fields.ended()->isHidden() && !fields.began()->isHidden());
        }
    }

    // A digit is typed where nothing is asked: in the cells of a sheet.
    void digits_are_typed_where_nothing_is_asked() {
        const auto run = addDrain(4.0, [](records::Run& r) {
            r.ends.began = records::usualBeginning(r.kind);
            r.marks.push_back({4.0 * 3600.0, Mark::What::Percent, 40.0, ""});
        });
        window_->showRuns(window_.bankNamed("Pebble 5"), run);
        QTRY_COMPARE(window_->runPage()->ends()->questions().size(), 1);
        window_->newSheet(window_.bankNamed("Pebble 5"), records::Kind::Staircase);
        QWidget* cells = nullptr;
        QTRY_VERIFY((cells = QApplication::focusWidget()) && cells->inherits("QAbstractItemView"));
        auto* grid = static_cast<QAbstractItemView*>(cells);
        const QModelIndex at = grid->currentIndex();
        QTest::keyClick(cells, Qt::Key_1);
        QTest::keyClick(QApplication::focusWidget(), Qt::Key_Return);
        QTRY_COMPARE(grid->model()->data(at).toString(), QString("1"));
        QVERIFY(!window_.book().run(run)->ends.ending);
    }

    // Old runs said nothing: taken as before, marked, and one press says it for all of the bank.
    void one_press_answers_for_all_runs_of_a_bank() {
        const records::Id bank = window_.bankNamed("Pebble 5");
        for (records::Run r : window_.book().runs(bank)) {
            r.ends = {};
            r.startedAt.clear(); // or the run before would say it
            std::erase_if(r.marks, [](const Mark& m) { return m.what == Mark::What::Percent; });
            QVERIFY(window_.book().save(r).has_value());
        }
        const auto run = window_.book().runs(bank)[1];
        window_->showRuns(bank, run.id);
        RunPage* page = window_->runPage();
        QTRY_VERIFY2(page->sentence().contains("if it began full"), qPrintable(page->sentence()));
        QVERIFY2(page->ends()->ends().contains("taken so: nobody said"), qPrintable(page->ends()->ends()));
        QTest::mouseClick(button(page->ends(), "All of this bank did"), Qt::LeftButton);
        QTRY_VERIFY2(!page->sentence().contains("if it began"), qPrintable(page->sentence()));
        for (const records::Run& r : window_.book().runs(bank)) {
            if (!records::hasSheet(r.kind))
                QCOMPARE(r.ends.began, std::optional(records::usualBeginning(r.kind)));
        }
        QTest::keyClick(window_.get(), Qt::Key_Z, Qt::ControlModifier);
        QTRY_VERIFY(page->sentence().contains("if it began full"));
        for (const records::Run& r : window_.book().runs(bank))
            QVERIFY(!r.ends.began);
    }

    void about_this_run_says_how_it_began_and_ended() {
        const auto run = addDrain(4.0, [](records::Run&) {});
        window_->showRuns(window_.bankNamed("Pebble 5"), run);
        RunPage* page = window_->runPage();
        QTRY_VERIFY(!page->sentence().isEmpty());
        QTest::keyClick(window_.get(), Qt::Key_T, Qt::ControlModifier);
        auto* about = window_->aboutPanel();
        QTRY_VERIFY(about->isVisible());
        auto* fields = about->findChild<EndsFields*>();
        QVERIFY(fields && fields->isVisible());
        type(fields->began(), "92 %");
        QTRY_COMPARE(records::typedBegan(window_.book().run(run)->ends), std::string("92 %"));
        QTRY_VERIFY2(page->sentence().contains("from 92 % until it shut off"), qPrintable(page->sentence()));
        type(fields->ended(), "unplugged at 30 %");
        QTRY_VERIFY2(page->sentence().contains("until it was unplugged, with 30 % left"), qPrintable(page->sentence()));
        type(fields->began(), "half");
        QTRY_VERIFY(says(about, "is no state of a bank"));
        QCOMPARE(records::typedBegan(window_.book().run(run)->ends), std::string("92 %"));
    }

    // The usual is there to be seen on the import page, follows the kind, and is stated when it is left.
    void the_import_page_shows_the_usual() {
        QFile log(window_.file("log.csv"));
        QVERIFY(log.open(QIODevice::WriteOnly));
        log.write("time,volts,amps\n");
        for (int k = 0; k < 400; ++k)
            log.write(QByteArray::number(k * 30) + (k < 380 ? ",9.0,1.0\n" : ",9.0,0.0\n"));
        log.close();
        window_->bringIn(log.fileName());
        auto* page = window_->importPage();
        QTRY_VERIFY(page && page->isVisible());
        auto* fields = page->findChild<EndsFields*>();
        QCOMPARE(fields->began()->currentText(), QString("full"));
        for (auto* radio : page->findChildren<QAbstractButton*>()) {
            if (radio->text().startsWith("Recharge"))
                radio->click();
        }
        QCOMPARE(fields->began()->currentText(), QString("empty"));
        type(fields->began(), "2 of 4");
        QTest::mouseClick(button(page, "Take it into the book"), Qt::LeftButton);
        QTRY_VERIFY(window_->runPage()->isVisible());
        const auto run = window_.book().run(window_->runPage()->run());
        QVERIFY(run.has_value());
        QCOMPARE(records::typedBegan(run->ends), std::string("25 to 50 %"));
    }

private:
    template<class F>
    records::Id addDrain(double hours, F f) {
        records::Run r;
        r.bank = window_.bankNamed("Pebble 5");
        r.title = "Overnight";
        f(r);
        trace::Trace t;
        for (double at = 0.0; at < hours * 3600.0 + 600.0; at += 10.0) {
            t.time.push_back(at);
            const bool on = at < hours * 3600.0;
            t.volts.append({on ? 5.05 : 0.0});
            t.amps.append({on ? 0.8 : 0.0});
        }
        return window_->session().addRun(r, t).value_or(records::kNew);
    }
    static void type(QComboBox* box, const char* text) {
        box->setFocus();
        box->lineEdit()->selectAll();
        QTest::keyClicks(box->lineEdit(), text);
        QTest::keyClick(box->lineEdit(), Qt::Key_Return);
    }

    DemoWindow window_;
};

QTEST_MAIN(EndsPageTest)
#include "ends_page_test.moc"
