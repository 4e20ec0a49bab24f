// A tester with a decimal comma, and one with degrees Fahrenheit: what they read on each page, what they type, and what
// leaves the window.
#include <QAction>
#include <QApplication>
#include <QClipboard>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QMenuBar>
#include <QRegularExpression>
#include <QSettings>
#include <QTableWidget>

#include "app/choose/choose_page.h"
#include "app/runs/run_page.h"
#include "app/shelf/shelf.h"
#include "app/widgets/on_screen.h"
#include "demo_window.h"
#include "look.h"

using namespace otterstone;
using namespace otterstone::testing;

class ScreenFormTest : public QObject {
    Q_OBJECT

    DemoWindow window_;

    void choose(const QString& words) {
        for (QAction* action : window_->findChildren<QAction*>()) {
            if (action->text().remove(QLatin1Char('&')) == words)
                return action->trigger();
        }
        QFAIL(qPrintable(words + " is not in the menu"));
    }
    // What is read there, not what can be typed over.
    [[nodiscard]] QStringList read() const {
        QStringList all;
        for (auto* label : window_->findChildren<QLabel*>()) {
            if (label->isVisible() && !label->buddy())
                all << label->text();
        }
        for (auto* b : window_->findChildren<QAbstractButton*>()) {
            if (b->isVisible())
                all << b->text() << b->accessibleName();
        }
        for (auto* table : window_->findChildren<QTableWidget*>()) {
            if (!table->isVisible() || table->editTriggers() != QAbstractItemView::NoEditTriggers)
                continue;
            for (int row = 0; row < table->rowCount(); ++row) {
                for (int column = 0; column < table->columnCount(); ++column) {
                    if (const auto* item = table->item(row, column))
                        all << item->text() << item->toolTip();
                }
            }
        }
        for (auto* list : window_->findChildren<QListWidget*>()) {
            for (int row = 0; list->isVisible() && row < list->count(); ++row)
                all << list->item(row)->text();
        }
        return all;
    }
    // What was typed in that words, a title or a version, stays as it was typed.
    [[nodiscard]] QStringList found(const QString& pattern) const {
        QStringList typed;
        for (const records::Bank& b : window_.book().banks()) {
            for (const records::Run& r : window_.book().runs(b.id))
                typed << QString::fromStdString(r.title);
        }
        const QRegularExpression wanted(pattern);
        QStringList hits;
        for (QString text : read()) {
            for (const QString& title : typed)
                text.remove(title);
            if (wanted.match(text).hasMatch())
                hits << text;
        }
        return hits;
    }
    void show(const QString& stage) {
        for (auto* b : window_->findChildren<QAbstractButton*>(QStringLiteral("stage"))) {
            if (b->text() == stage)
                b->click();
        }
        QTest::qWait(400);
    }
    static constexpr const char *kPoint = "(?<![\\w.])\\d+\\.\\d+(?![\\w.])", *kComma = "\\d,\\d",
                                *kCelsius = "\\d.?°C";

private Q_SLOTS:
    void initTestCase() {
        QVERIFY(window_.prepare(true));
        QSettings().clear();
        QVERIFY(window_.openCopy());
    }
    void cleanupTestCase() {
        window_.close();
        QSettings().clear();
    }

    // CLDR, as Qt ships it.
    void a_desktop_says_how_its_country_writes_data() {
        QTest::addColumn<QString>("desktop");
        QTest::addColumn<char>("decimal");
        QTest::addColumn<bool>("fahrenheit");
        QTest::newRow("Germany") << "de_DE" << ',' << false;
        QTest::newRow("Switzerland") << "de_CH" << '.' << false;
        QTest::newRow("United States") << "en_US" << '.' << true;
        QTest::newRow("United Kingdom") << "en_GB" << '.' << false;
        QTest::newRow("France") << "fr_FR" << ',' << false;
        QTest::newRow("none") << "C" << '.' << false;
    }
    void a_desktop_says_how_its_country_writes() {
        QFETCH(QString, desktop);
        QFETCH(char, decimal);
        QFETCH(bool, fahrenheit);
        const ScreenForm form = app::formFor({}, QLocale(desktop));
        QCOMPARE(form.decimal, decimal);
        QCOMPARE(form.fahrenheit, fahrenheit);
        const ScreenForm chosen = app::formFor({'.', true}, QLocale(desktop));
        QCOMPARE(chosen.decimal, '.');
        QVERIFY(chosen.fahrenheit);
    }

    void each_page_has_the_chosen_sign_data() {
        QTest::addColumn<QString>("stage");
        for (auto* b : window_->findChildren<QAbstractButton*>(QStringLiteral("stage")))
            QTest::newRow(qPrintable(b->text())) << b->text();
    }
    void each_page_has_the_chosen_sign() {
        QFETCH(QString, stage);
        choose("Decimal point: 4.85");
        show(stage);
        const auto withPoints = found(kPoint);
        choose("Decimal comma: 4,85");
        QTest::qWait(400);
        const auto left = found(kPoint);
        QVERIFY2(left.isEmpty(), qPrintable(left.join("\n")));
        QCOMPARE(found(kComma).size() >= withPoints.size(), true);
        choose("Degrees Fahrenheit");
        QTest::qWait(400);
        const auto celsius = found(kCelsius);
        QVERIFY2(celsius.isEmpty(), qPrintable(celsius.join("\n")));
        choose("Degrees Celsius");
        choose("Decimal point: 4.85");
        QTest::qWait(400);
        QCOMPARE(found(kPoint).size(), withPoints.size());
    }
};

QTEST_MAIN(ScreenFormTest)
#include "screen_form_test.moc"
