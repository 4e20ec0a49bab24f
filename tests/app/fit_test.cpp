// The window on small screens: every page opens, and what one would press next lies in view.
#include <cmath>

#include <QCheckBox>
#include <QHeaderView>
#include <QLineEdit>
#include <QScopeGuard>
#include <QScreen>
#include <QSettings>
#include <QTableView>
#include <QTest>

#include "app/import/import_page.h"
#include "app/live/instrument_panel.h"
#include "app/live/live_page.h"
#include "app/live/recipe_panel.h"
#include "app/live/setup_view.h"
#include "app/plan/plan_page.h"
#include "app/report/report_page.h"
#include "app/run_window.h"
#include "app/runs/run_page.h"
#include "app/shelf/shelf.h"
#include "app/text_size.h"
#include "demo_window.h"
#include "look.h"

using namespace otterstone;
using namespace otterstone::testing;

namespace {

constexpr QSize kSizes[] = {{1366, 768}, {1280, 776}, {1024, 640}};
constexpr QSize kFrame{2, 26}; // a window manager's title bar and borders take that much of a screen

} // namespace

class FitTest : public QObject {
    Q_OBJECT

private:
    DemoWindow window_;

    void open(const QString& page) {
        const records::Id bank = window_.bankNamed("Cobble 10");
        if (page == QStringLiteral("intake"))
            window_->showIntake(bank);
        else if (page == QStringLiteral("bench"))
            window_->showBench();
        else if (page == QStringLiteral("live"))
            window_->showLive(bank);
        else if (page == QStringLiteral("live beside the recipe")) {
            window_->showLive(bank);
            button(window_->livePage(), QStringLiteral("Edit this recipe…"))->click();
        } else if (page == QStringLiteral("live beside the instruments")) {
            window_->showLive(bank);
            button(window_->livePage(), QStringLiteral("Instruments…"))->click();
        } else if (page == QStringLiteral("runs"))
            window_->showRuns(bank, window_.book().runs(bank).front().id);
        else if (page == QStringLiteral("about a run"))
            window_->showAbout(window_.book().runs(bank).front().id);
        else if (page == QStringLiteral("by hand"))
            window_->writeByHand(bank);
        else if (page == QStringLiteral("findings"))
            window_->showFindings(bank);
        else if (page == QStringLiteral("choose"))
            window_->showChoose();
        else if (page == QStringLiteral("sheet"))
            window_->showReport(bank);
        else if (page == QStringLiteral("plan"))
            window_->showPlan();
        else if (page == QStringLiteral("house"))
            window_->showHouse();
        else if (page == QStringLiteral("import"))
            window_->bringInText(QStringLiteral("time,V,A\n0,5.1,1\n1,5.1,1\n2,5.1,1\n3,5.1,1\n"));
        QTest::qWait(120);
    }

private Q_SLOTS:
    void initTestCase() { QVERIFY(window_.prepare(false)); }
    void init() { QVERIFY(window_.openCopy()); }
    void cleanup() { window_.close(); }

    void what_one_presses_next_lies_in_view_data() {
        QTest::addColumn<QString>("page");
        QTest::addColumn<QSize>("screen");
        QTest::addColumn<double>("text"); // of its usual size
        for (const char* page :
             {"intake", "bench", "live", "live beside the recipe", "live beside the instruments", "runs", "about a run",
              "by hand", "findings", "choose", "sheet", "plan", "house", "import"}) {
            for (const QSize& size : kSizes)
                QTest::addRow("%s, %d x %d", page, size.width(), size.height())
                    << QString::fromLatin1(page) << size << 1.0;
            QTest::addRow("%s, larger text", page) << QString::fromLatin1(page) << kSizes[0] << 1.3;
        }
    }
    void what_one_presses_next_lies_in_view() {
        QFETCH(QString, page);
        QFETCH(QSize, screen);
        QFETCH(double, text);
        const auto asked = qScopeGuard([] { app::setTextSize(1.0); });
        app::setTextSize(text);
        window_->resize(screen - kFrame);
        open(page);
        window_->resize(screen - kFrame);
        QTest::qWait(60);
        QVERIFY2(window_->width() <= screen.width() - kFrame.width() &&
                     window_->height() <= screen.height() - kFrame.height(),
                 qPrintable(QStringLiteral("the window is %1 x %2").arg(window_->width()).arg(window_->height())));
        for (auto* b : window_->findChildren<QPushButton*>(QStringLiteral("primary"))) {
            if (!b->isVisible())
                continue;
            const QRect whole(b->mapTo(window_.get(), QPoint()), b->size());
            QVERIFY2(window_->rect().contains(whole),
                     qPrintable(b->text() + QStringLiteral(" lies outside the window")));
            QVERIFY2(b->visibleRegion().boundingRect() == b->rect(),
                     qPrintable(b->text() + QStringLiteral(" is cut off")));
            QVERIFY2(b->height() >= b->minimumSizeHint().height(),
                     qPrintable(b->text() + QStringLiteral(" is squeezed")));
        }
    }
    // A page's own buttons, besides those that scroll with what they belong to, are not pushed over its edges.
    void a_rehearsal_shows_its_stop_on_a_small_screen() {
        window_->resize(QSize(1024, 640) - kFrame);
        window_->rehearse(window_.bankNamed("Cobble 10"));
        for (auto* check : window_->livePage()->findChildren<QCheckBox*>())
            check->setChecked(true);
        auto* start = button(window_->livePage(), QStringLiteral("Start the rehearsal"));
        QVERIFY(start && start->isEnabled() && start->visibleRegion().boundingRect() == start->rect());
        start->click();
        QTRY_VERIFY_WITH_TIMEOUT(window_->livePage()->showsRun(), 20000);
        QTest::qWait(200);
        QPushButton* stop = nullptr;
        for (auto* b : window_->livePage()->findChildren<QPushButton*>()) {
            if (b->isVisible() && b->text().contains(QStringLiteral("Stop")))
                stop = b;
        }
        QVERIFY(stop);
        QVERIFY2(stop->visibleRegion().boundingRect() == stop->rect(), "the stop is not in view");
        stop->click();
        QTRY_VERIFY_WITH_TIMEOUT(!window_->liveBench().runner().isRunning(), 20000);
    }
    // By keys, at once, and kept.
    void text_has_a_size_of_the_testers_own() {
        const auto asked = qScopeGuard([] { app::setTextSize(1.0); });
        window_->showFindings(window_.bankNamed("Cobble 10"));
        const double body = QApplication::font().pointSizeF();
        QHash<QWidget*, double> before;
        for (auto* w : window_->findChildren<QWidget*>())
            before[w] = w->font().pointSizeF();
        QHash<QTableView*, int> rows; // pixels: a line that grows wants a row that does
        for (auto* table : window_->findChildren<QTableView*>())
            rows[table] = table->verticalHeader()->defaultSectionSize();
        QTest::keyClick(window_.get(), Qt::Key_Plus, Qt::ControlModifier);
        QTest::keyClick(window_.get(), Qt::Key_Plus, Qt::ControlModifier);
        QVERIFY(says(window_.get(), "Text at 120 %"));
        QCOMPARE(QApplication::font().pointSizeF(), 1.2 * body);
        for (auto [w, points] : before.asKeyValueRange()) {
            if (w->isVisible())
                QVERIFY2(std::abs(w->font().pointSizeF() - 1.2 * points) < 0.01,
                         qPrintable(QString("%1 “%4” has %2, had %3")
                                        .arg(w->metaObject()->className())
                                        .arg(w->font().pointSizeF())
                                        .arg(points)
                                        .arg(w->property("text").toString())));
        }
        for (auto [table, pixels] : rows.asKeyValueRange())
            QVERIFY2(std::abs(table->verticalHeader()->defaultSectionSize() - 1.2 * pixels) <= 1.5,
                     qPrintable(table->accessibleName() + QStringLiteral(" cuts its rows")));
        QCOMPARE(QSettings().value("textSize").toDouble(), 1.2);
        for (int k = 0; k < 20; ++k)
            QTest::keyClick(window_.get(), Qt::Key_Minus, Qt::ControlModifier);
        QVERIFY(says(window_.get(), "Text at 80 %"));
        QTest::keyClick(window_.get(), Qt::Key_0, Qt::ControlModifier);
        QVERIFY(std::abs(QApplication::font().pointSizeF() - body) < 0.01);
        // What is painted for paper is no matter of the tester's eyes.
        app::setTextSize(1.5);
        const app::PaperScope paper;
        QVERIFY(std::abs(app::font(1.0).pointSizeF() - body) < 0.01);
    }
    // It comes up where it was left, but not on a screen that is gone or has become smaller.
    void it_comes_up_where_it_was_left() {
        QTemporaryDir settings;
        QSettings::setPath(QSettings::NativeFormat, QSettings::UserScope, settings.path());
        const QRect free = QGuiApplication::primaryScreen()->availableGeometry();
        app::MainWindow first;
        first.setGeometry(free.adjusted(10, 20, -30, -40));
        app::keepPlace(first);
        app::MainWindow second;
        app::putWhereItWasLeft(second);
        QCOMPARE(second.geometry(), first.geometry());
        QSettings().setValue(QStringLiteral("window"), free.translated(free.width() / 2, 0));
        app::MainWindow third;
        const QRect made = third.geometry();
        app::putWhereItWasLeft(third);
        QCOMPARE(third.geometry(), made);
    }

    // Good news is quiet: what is red says that something is wrong.
    void the_end_of_a_good_run_is_not_told_in_red() {
        window_->rehearse(window_.bankNamed("Pebble 5"));
        for (auto* check : window_->livePage()->findChildren<QCheckBox*>())
            check->setChecked(true);
        for (auto* edit : window_->livePage()->findChildren<QLineEdit*>()) {
            if (edit->accessibleName() == QStringLiteral("Times as fast as real"))
                edit->setText(QStringLiteral("5000"));
        }
        button(window_->livePage(), QStringLiteral("Start the rehearsal"))->click();
        QLabel* told = nullptr;
        const auto ended = [&] {
            for (auto* label : window_->findChildren<QLabel*>(QStringLiteral("said"))) {
                if (label->isVisible() && label->text().contains(QStringLiteral("ended:")))
                    told = label;
            }
            return told != nullptr;
        };
        QTRY_VERIFY_WITH_TIMEOUT(ended(), 60000);
        QVERIFY2(told->property("look") == QStringLiteral("told"), qPrintable(told->text()));
    }
};

QTEST_MAIN(FitTest)
#include "fit_test.moc"
