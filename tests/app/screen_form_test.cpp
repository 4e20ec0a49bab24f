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
#include <qcustomplot.h>

#include "app/report/pictures.h"
#include "app/runs/run_page.h"
#include "app/runs/trace_curve.h"
#include "app/widgets/on_screen.h"
#include "demo_window.h"
#include "look.h"
#include "report/writers.h"

using namespace otterstone;
using namespace otterstone::testing;

class ScreenFormTest : public QObject {
    Q_OBJECT

    DemoWindow window_;
    qsizetype points_ = 0, celsius_ = 0; // seen on all pages

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
    [[nodiscard]] QLineEdit* field(const QString& name) const {
        for (auto* edit : window_->findChildren<QLineEdit*>()) {
            if (edit->isVisible() && edit->accessibleName() == name)
                return edit;
        }
        return nullptr;
    }
    void show(const QString& stage) {
        for (auto* b : window_->findChildren<QAbstractButton*>(QStringLiteral("stage"))) {
            if (b->text() == stage)
                b->click();
        }
        // What is worked out beside it arrives, and then nothing more.
        QStringList before;
        for (int still = 0, turns = 0; still < 3 && turns < 50; ++turns) {
            QTest::qWait(150);
            still = read() == before ? still + 1 : 0;
            before = read();
        }
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
        points_ += withPoints.size();
        celsius_ += found(kCelsius).size();
        choose("Decimal comma: 4,85");
        QTRY_VERIFY_WITH_TIMEOUT(found(kComma).size() >= withPoints.size(), 20000); // what is judged beside it arrives
        const auto left = found(kPoint);
        QVERIFY2(left.isEmpty(), qPrintable(left.join("\n")));
        choose("Degrees Fahrenheit");
        QTRY_VERIFY_WITH_TIMEOUT(found(kComma).size() >= withPoints.size(), 20000);
        const auto celsius = found(kCelsius);
        QVERIFY2(celsius.isEmpty(), qPrintable(celsius.join("\n")));
        choose("Degrees Celsius");
        choose("Decimal point: 4.85");
        QTRY_COMPARE_WITH_TIMEOUT(found(kPoint).size(), withPoints.size(), 20000);
    }
    void there_was_something_to_change() {
        QVERIFY2(points_ > 100, qPrintable(QString::number(points_)));
        QVERIFY2(celsius_ > 0, qPrintable(QString::number(celsius_)));
    }

    // On the axis stand whole degrees of the kind that is shown, where the readings in °C lie.
    void a_curve_of_temperature_has_the_chosen_degrees() {
        const records::Id cobble = window_.bankNamed("Cobble 10");
        window_->showRuns(cobble, window_.book().runs(cobble)[2].id);
        auto* curve = window_->runPage()->findChild<app::TraceCurve*>();
        auto* plot = curve->findChild<QCustomPlot*>();
        const auto ticks = [&](const QString& degrees) {
            choose(degrees);
            QTest::qWait(400);
            curve->setQuantity(app::Quantity::Temperature);
            curve->redrawNow();
            return std::pair(plot->yAxis->ticker(), plot->yAxis->label());
        };
        choose("Decimal point: 4.85");
        QCOMPARE(ticks("Degrees Celsius").second, QStringLiteral("°C"));
        QVERIFY(button(curve, "°C"));
        const auto [ticker, label] = ticks("Degrees Fahrenheit");
        QCOMPARE(label, QStringLiteral("°F"));
        QVERIFY(button(curve, "°F"));
        QVector<double> at;
        QVector<QString> words;
        ticker->generate({-5.0, 45.0}, QLocale::c(), 'g', 6, at, nullptr, &words);
        QCOMPARE(at.size(), words.size());
        int told = 0;
        for (qsizetype k = 0; k < at.size(); ++k) {
            QCOMPARE(words[k].isEmpty(), at[k] < 0.0); // the room below is the phases'
            if (words[k].isEmpty())
                continue;
            QVERIFY(std::fabs(words[k].toDouble() - (at[k] * 1.8 + 32.0)) < 1e-9);
            ++told;
        }
        QVERIFY(told >= 3);
        choose("Degrees Celsius");
    }

    void a_sheet_is_the_same_for_everybody() {
        const auto drawn = [&] {
            std::map<std::string, std::string> pages;
            bool ready = false;
            const auto heard =
                connect(&window_->session(), &app::BookSession::materialReady, this,
                        [&](const report::Material& material, const report::Content& content) {
                            for (const auto& [key, drawing] : app::drawPictures(window_.book(), material, content))
                                pages[key] = app::toPage(drawing);
                            pages["words"] = report::toHtml(content, {});
                            ready = true;
                        });
            window_->session().gatherMaterial({window_.bankNamed("Cobble 10")});
            if (!QTest::qWaitFor([&] { return ready; }, 20000))
                pages.clear();
            disconnect(heard);
            return pages;
        };
        choose("Decimal point: 4.85");
        const auto plain = drawn();
        QVERIFY2(plain.size() > 3, qPrintable(QString::number(plain.size())));
        choose("Decimal comma: 4,85");
        choose("Degrees Fahrenheit");
        const auto other = drawn();
        QCOMPARE(other.size(), plain.size());
        for (const auto& [key, page] : plain) {
            if (key != "words") // its hour is in it
                QVERIFY2(other.at(key) == page, key.c_str());
        }
        QVERIFY(!QString::fromStdString(other.at("words")).contains(QRegularExpression("\\d,\\d+ (± |Wh)")));
        choose("Degrees Celsius");
    }

    // What is typed is read with either sign; what leaves the window has a point.
    void fields_and_files_stay_as_they_are() {
        choose("Decimal comma: 4,85");
        choose("Degrees Fahrenheit");
        const records::Id cobble = window_.bankNamed("Cobble 10");
        window_->showIntake(cobble);
        QTest::qWait(200);
        auto* energy = field("Energy, Wh");
        QVERIFY(energy);
        const QString before = energy->text();
        QVERIFY2(!before.contains(QLatin1Char(',')), qPrintable(before));
        const auto type = [&](const QString& text) {
            energy->setFocus();
            energy->selectAll();
            QTest::keyClicks(energy, text);
            QTest::keyClick(energy, Qt::Key_Return);
        };
        type("37,5");
        QCOMPARE(window_.book().bank(cobble)->label.energy->value, 37.5);
        type(before);
        const auto run = window_.book().runs(cobble).front();
        const auto finding = window_.book().finding(run.id);
        QVERIFY(finding.has_value());
        QVERIFY(QString::fromStdString(finding->sentence).contains(QRegularExpression(kPoint)));
        choose("Degrees of the desktop");
        choose("Decimal sign of the desktop");
        QVERIFY(app::screenForm().isPlain()); // as the tests' own desktop has it
    }
};

QTEST_MAIN(ScreenFormTest)
#include "screen_form_test.moc"
