// A start lays out what is looked at and nothing else; what is built later is there as if it had always been.
#include <QAbstractButton>
#include <QComboBox>
#include <QLabel>
#include <QPlainTextEdit>

#include "app/choose/choose_page.h"
#include "app/choose/use_view.h"
#include "app/findings/findings_page.h"
#include "app/findings/house_panel.h"
#include "app/gear/bench_page.h"
#include "app/gear/gear_panel.h"
#include "app/help/help_panel.h"
#include "app/import/import_page.h"
#include "app/intake/intake_page.h"
#include "app/live/instrument_panel.h"
#include "app/live/live_page.h"
#include "app/plan/plan_page.h"
#include "app/report/report_page.h"
#include "app/runs/about_panel.h"
#include "app/runs/run_page.h"
#include "app/shelf/shelf.h"
#include "app/start/start_page.h"
#include "app/text_size.h"
#include "core/judgement/purpose.h"
#include "demo_window.h"
#include "look.h"

using namespace otterstone;
using namespace otterstone::app;

class StartTest : public QObject {
    Q_OBJECT

    testing::DemoWindow window_;

    template<class... Widgets>
    [[nodiscard]] int built() const {
        return (0 + ... + (window_->findChild<Widgets*>() ? 1 : 0));
    }
    [[nodiscard]] int builtOfAll() const {
        return built<StartPage, IntakePage, ImportPage, RunPage, BenchPage, FindingsPage, LivePage, PlanPage,
                     ChoosePage, ReportPage, GearPanel, AboutPanel, HelpPanel, HousePanel, InstrumentPanel>();
    }
    // What Tab comes to from the first stage on, once round.
    [[nodiscard]] std::vector<QWidget*> onTheWay() const {
        std::vector<QWidget*> all;
        auto* first = window_->findChild<QAbstractButton*>(QStringLiteral("stage"));
        first->setFocus(Qt::TabFocusReason);
        for (int k = 0; k < 400; ++k) {
            QWidget* at = QApplication::focusWidget();
            if (!at || (at == first && k > 0))
                break;
            all.push_back(at);
            QTest::keyClick(at, Qt::Key_Tab, Qt::ControlModifier);
            if (QApplication::focusWidget() == at) // it has no grid to leave
                QTest::keyClick(at, Qt::Key_Tab);
        }
        return all;
    }

private Q_SLOTS:
    void initTestCase() { QVERIFY(window_.prepare(true)); }
    void init() { QVERIFY(window_.openCopy()); }
    void cleanup() { window_.close(); }

    void a_start_builds_the_page_that_is_shown() {
        QCOMPARE(built<RunPage>(), 1);
        QVERIFY(window_->runPage()->isVisible());
        // Before the book there was a window, and it showed what can be done without one.
        QCOMPARE(builtOfAll() - built<StartPage>(), 1);
        window_->showChoose();
        QCOMPARE(built<ChoosePage>(), 1);
        window_->showHelp();
        QCOMPARE(builtOfAll() - built<StartPage>(), 3);
        auto* once = window_->choosePage();
        window_->showRuns(window_->shelf()->selected());
        window_->showChoose();
        QCOMPARE(window_->choosePage(), once);
        QCOMPARE(window_->findChildren<ChoosePage*>().size(), 1);
    }

    // The page of Choose asks the book for the house's purpose and needs as it is opened; here it was open before.
    void what_is_built_later_knows_what_the_book_says() {
        const judgement::Purpose& last = judgement::purposes().back();
        QVERIFY(window_->session().changeChoice("purpose", judgement::purposeToJson(last), {}));
        QVERIFY(window_->session().changeChoice("needs", R"({"days": 3, "needs": ["Camera 2 W 8 h"]})", {}));
        QCOMPARE(built<ChoosePage>(), 0);
        window_->showChoose();
        auto* page = window_->choosePage();
        QCOMPARE(page->findChild<UseView*>()->needs()->toPlainText(), QStringLiteral("Camera 2 W 8 h"));
        QComboBox* purposes = nullptr;
        for (auto* box : page->findChildren<QComboBox*>()) {
            if (box->accessibleName() == QStringLiteral("Purpose"))
                purposes = box;
        }
        QVERIFY(purposes);
        QTRY_COMPARE(purposes->currentData().toString().toStdString(), last.key);
        // And another book, opened while it is there.
        QVERIFY(QFile::copy(window_.file(QStringLiteral("demo.otterstone")),
                            window_.file(QStringLiteral("other.otterstone"))));
        QVERIFY(window_->openBook(window_.file(QStringLiteral("other.otterstone"))));
        QVERIFY(page->findChild<UseView*>()->needs()->toPlainText() != QStringLiteral("Camera 2 W 8 h"));
        QFile::remove(window_.file(QStringLiteral("other.otterstone")));
    }

    // Theme and size of the text, chosen before, are those of what is built later.
    void what_is_built_later_wears_what_all_wear() {
        const auto asked = qScopeGuard([] {
            setTextSize(1.0);
            applyTheme(ThemeKind::Light);
        });
        const auto title = [this]() -> QLabel* {
            for (auto* label : window_->benchPage()->findChildren<QLabel*>()) {
                if (label->text() == QStringLiteral("Bench"))
                    return label;
            }
            return nullptr;
        };
        window_->showBench();
        QVERIFY(title());
        const double usual = title()->font().pointSizeF();
        QCOMPARE(title()->palette().color(QPalette::WindowText), theme().ink);
        window_.close();
        QVERIFY(window_.openCopy());
        setTextSize(1.5);
        applyTheme(ThemeKind::Dark);
        QCOMPARE(built<BenchPage>(), 0);
        window_->showBench();
        QVERIFY(title());
        QCOMPARE(title()->font().pointSizeF(), 1.5 * usual);
        QCOMPARE(title()->palette().color(QPalette::WindowText), theme().ink);
    }

    // Stages, then the page, then the panel beside it, also where the panel was there before the page.
    void tab_goes_through_it_where_it_stands() {
        window_->showHouse();
        window_->showFindings(window_->shelf()->selected());
        window_->showHouse();
        QTest::qWait(300); // what is worked out beside it arrives
        const std::vector<QWidget*> way = onTheWay();
        int place = 0, page = 0, panel = 0;
        for (const QWidget* w : way) {
            const bool inPage = window_->findingsPage()->isAncestorOf(w),
                       inPanel = window_->housePanel()->isAncestorOf(w);
            page += inPage ? 1 : 0;
            panel += inPanel ? 1 : 0;
            const int now = inPage ? 1 : inPanel ? 2 : place;
            QVERIFY2(now >= place, qPrintable(QStringLiteral("back to the page at “%1”").arg(w->accessibleName())));
            place = now;
        }
        QVERIFY(page > 2);
        QVERIFY(panel > 2);
    }

    // On no page does the keyboard begin where a key would take something away.
    void enter_on_a_fresh_page_takes_nothing_away() {
        const auto banks = window_.book().banks().size();
        for (int key = Qt::Key_1; key <= Qt::Key_8; ++key) {
            window_->showRuns(window_.bankNamed("Boulder 20")); // from where the keyboard comes along
            window_->runPage()->setFocus();
            QTest::keyClick(window_.get(), static_cast<Qt::Key>(key), Qt::AltModifier);
            QWidget* at = QApplication::focusWidget();
            QVERIFY(at);
            const auto* button = qobject_cast<QPushButton*>(at);
            const QString does = button ? button->text() : QString();
            for (const char* away : {"Take", "Remove", "Forget"})
                QVERIFY2(!does.startsWith(QLatin1String(away)), qPrintable(does));
        }
        window_->showRuns(window_.bankNamed("Boulder 20"));
        window_->runPage()->setFocus();
        window_->showIntake(window_.bankNamed("Boulder 20"));
        QTest::keyClick(QApplication::focusWidget(), Qt::Key_Return);
        QCOMPARE(window_.book().banks().size(), banks);
    }

    // Whoever starts without a book that can be opened sees what can be done.
    void without_a_book_the_first_step_is_shown() {
        window_.close();
        MainWindow window;
        QVERIFY(!window.openBook(window_.file(QStringLiteral("not-there.otterstone"))));
        window.show();
        QVERIFY(QTest::qWaitForWindowActive(&window));
        QTRY_VERIFY(testing::says(&window, "No book is open"));
        QVERIFY(!testing::says(&window, "This book is empty"));
        QVERIFY(!testing::button(&window, "Put the first bank on the shelf")->isVisible()); // there is none yet
        QVERIFY(testing::button(&window, "Look at the demo: Skerry Point")->isVisible());
        QTest::keyClick(&window, Qt::Key_F1);
        QTRY_VERIFY(window.helpPanel()->isVisible());
        QVERIFY(window.session().create(window_.file(QStringLiteral("fresh.otterstone"))).has_value());
        QTRY_VERIFY(testing::says(&window, "This book is empty"));
        QVERIFY(!testing::says(&window, "No book is open"));
        QVERIFY(testing::button(&window, "Put the first bank on the shelf")->isVisible());
    }
};

QTEST_MAIN(StartTest)
#include "start_test.moc"
