// Help: the guide at the place where one is, what is looked for in it, and keys that are those of the menus.
#include <QTest>

#include <QLineEdit>
#include <QMenuBar>
#include <QScrollBar>
#include <QTextBlock>
#include <QTextBrowser>

#include "app/help/figure_words.h"
#include "app/help/help_panel.h"
#include "app/widgets/figure_button.h"
#include "book/store/material.h"
#include "core/judgement/compare.h"
#include "demo_window.h"
#include "look.h"

using namespace otterstone;
using namespace otterstone::app;
using namespace otterstone::testing;

class HelpTest : public QObject {
    Q_OBJECT

    DemoWindow window_;

    [[nodiscard]] QTextBrowser* pages() const { return window_->helpPanel()->pages(); }
    // The first line that is seen.
    [[nodiscard]] QString atTop() const { return pages()->cursorForPosition(QPoint(8, 8)).block().text(); }

private Q_SLOTS:
    void initTestCase() {
        QVERIFY(window_.prepare(false));
        QVERIFY(window_.openCopy());
    }
    void cleanupTestCase() { window_.close(); }

    void each_page_has_its_section_data() {
        QTest::addColumn<QString>("key");
        QTest::addColumn<QString>("section");
        QTest::newRow("intake") << "Alt+1"
                                << "A bank";
        QTest::newRow("bench") << "Alt+2"
                               << "The bench";
        QTest::newRow("live") << "Alt+3"
                              << "Live";
        QTest::newRow("runs") << "Alt+4"
                              << "The finding";
        QTest::newRow("findings") << "Alt+5"
                                  << "Claims and verdicts";
        QTest::newRow("choose") << "Alt+6"
                                << "Choose";
        QTest::newRow("sheet") << "Alt+7"
                               << "The sheet";
        QTest::newRow("plan") << "Alt+8"
                              << "A campaign";
    }
    void each_page_has_its_section() {
        QFETCH(QString, key);
        QFETCH(QString, section);
        QVERIFY(HelpPanel::sections().contains(section));
        QTest::keySequence(window_.get(), QKeySequence(key));
        QTest::keyClick(window_.get(), Qt::Key_F1);
        QVERIFY(window_->helpPanel()->isVisible());
        QTRY_COMPARE(atTop(), section);
        QVERIFY(window_->helpPanel()->findLine()->hasFocus());
        QTest::keyClick(window_.get(), Qt::Key_Escape);
        QVERIFY(!window_->helpPanel()->isVisible());
    }
    void words_are_found_and_found_again() {
        QTest::keyClick(window_.get(), Qt::Key_F1);
        QLineEdit* find = window_->helpPanel()->findLine();
        QTest::keyClicks(find, "stand-in");
        QCOMPARE(pages()->textCursor().selectedText(), QString("stand-in"));
        QTest::keyClick(find, Qt::Key_A, Qt::ControlModifier);
        QTest::keyClicks(find, "hours");
        const int first = pages()->textCursor().selectionStart();
        QTest::keyClick(find, Qt::Key_Return);
        QVERIFY(pages()->textCursor().selectionStart() != first);
        for (int k = 0; k < 200 && pages()->textCursor().selectionStart() != first; ++k)
            QTest::keyClick(find, Qt::Key_Return);
        QCOMPARE(pages()->textCursor().selectionStart(), first); // round and round
        QTest::keyClicks(find, "xyzzy");
        QVERIFY(pages()->textCursor().selectedText().isEmpty());
        QVERIFY(says(window_->helpPanel(), "xyzzy” is not in it"));
        find->clear();
    }
    void a_link_leads_to_another_page_and_back() {
        QTest::keyClick(window_.get(), Qt::Key_F1);
        Q_EMIT pages()->anchorClicked(QUrl("live-bench.md"));
        pages()->setSource(QUrl("live-bench.md"));
        QVERIFY(pages()->toPlainText().contains("stand-in"));
        QTest::mouseClick(button(window_->helpPanel(), "Guide"), Qt::LeftButton);
        QVERIFY(pages()->toPlainText().startsWith("User's guide"));
    }
    // A figure that is added has its line on the guide's page of figures.
    void every_figure_says_what_it_is() {
        int told = 0;
        QStringList dumb;
        const auto look = [&](const Working& w) {
            if (w.key.empty())
                return;
            ++told;
            if (figureWords(w.key).isEmpty() && !dumb.contains(qs(w.key)))
                dumb << qs(w.key);
        };
        const auto all = [&](const std::vector<Working>& figures) { std::ranges::for_each(figures, look); };
        const auto material = book::gatherMaterial(window_.book().path(), {}, "2026-05-01T10:00:00");
        QVERIFY(material.has_value());
        for (const report::BankMaterial& b : material->banks) {
            for (const auto& run : b.evidence.runs)
                all(run.finding->figures);
            for (const auto& sheet : b.evidence.sheets) {
                const auto said = kinds::judge(sheet.sheet, sheet.facts);
                QVERIFY(said.has_value());
                all(said->figures);
            }
            const together::BankFindings& t = b.evidence.together;
            for (const auto* one : {&t.cycles, &t.usableFigure, &t.efficiency}) {
                if (*one)
                    look(**one);
            }
            for (const auto& pair : t.pairs)
                all(pair.figures);
            for (const auto& group : t.repeats)
                look(group.working);
            all(t.life.figures);
        }
        for (const judgement::FigureKind& kind : judgement::figureKinds()) {
            Working w;
            w.key = kind.key;
            look(w);
        }
        QVERIFY2(dumb.isEmpty(), qPrintable(dumb.join(", ")));
        QVERIFY(told > 300);
        QVERIFY(figureWords("delivered_share").startsWith("What came out ÷ what the label promises"));
        QCOMPARE(figureWords("trip:A at 5 V"), figureWords("trip"));
        QVERIFY(figureWords("no_such_figure").isEmpty());
    }
    void a_figure_says_it_at_its_name_and_in_its_working() {
        QTest::keySequence(window_.get(), QKeySequence("Alt+4"));
        FigureButton* figure = nullptr;
        QTRY_VERIFY((figure = window_->findChild<FigureButton*>()) && figure->isVisible());
        const QString words = figureWords(figure->working().key);
        QVERIFY(!words.isEmpty());
        QCOMPARE(figure->whatsThis(), words);
        QVERIFY(figure->toolTip().contains(words.toHtmlEscaped()));
        figure->click();
        QTRY_VERIFY(says(window_.get(), words));
    }
    void every_key_of_the_menus_is_listed() {
        QTest::keyClick(window_.get(), Qt::Key_F1, Qt::ShiftModifier);
        const QString keys = pages()->toPlainText();
        int listed = 0;
        const std::function<void(const QList<QAction*>&)> look = [&](const QList<QAction*>& actions) {
            for (const QAction* action : actions) {
                if (action->menu())
                    look(action->menu()->actions());
                for (const QKeySequence& key : action->shortcuts()) {
                    QVERIFY2(keys.contains(key.toString(QKeySequence::NativeText)), qPrintable(action->text()));
                    ++listed;
                }
            }
        };
        look(window_->menuBar()->actions());
        QVERIFY(listed > 25);
        QVERIFY(keys.contains("pin, first of all, a day of its own, take out"));
    }
};

QTEST_MAIN(HelpTest)
#include "help_test.moc"
