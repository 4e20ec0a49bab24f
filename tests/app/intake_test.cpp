// Every field of a label and of the scale: what is typed, what is kept, what is said where it is not understood.
#include <QTest>

#include <functional>

#include <QCheckBox>
#include <QLineEdit>
#include <QPlainTextEdit>
#include <QTemporaryDir>

#include "app/intake/intake_page.h"
#include "app/main_window.h"
#include "app/theme.h"
#include "core/quantity/format.h"
#include "core/records/tags.h"
#include "look.h"

using namespace otterstone;
using namespace otterstone::testing;

namespace {

using Kept = std::function<std::string(const records::Bank&)>;

// What became of a field, as text; "-" for nothing.
template<class T>
Kept of(std::optional<T> label::Label::*member) {
    return [member](const records::Bank& b) -> std::string {
        const auto& v = b.label.*member;
        if (!v)
            return "-";
        if constexpr (requires { v->value; })
            return showNumber(v->value, 7);
        else
            return showNumber(static_cast<double>(*v), 7);
    };
}
std::string sides(const std::optional<label::SizeMm>& s) {
    return s ? showNumber(s->length) + " " + showNumber(s->width) + " " + showNumber(s->height) : "-";
}

struct Field {
    const char* name;
    Kept kept;
};
const std::vector<Field>& fields() {
    using L = label::Label;
    static const std::vector<Field> kAll = {
        {"Name", [](const records::Bank& b) { return b.name; }},
        {"Also printed", [](const records::Bank& b) { return b.label.alsoPrinted; }},
        {"Capacity", of(&L::capacity)},
        {"Cell voltage", of(&L::cellVolts)},
        {"Energy", of(&L::energy)},
        {"Total output", of(&L::totalWatts)},
        {"Total current", of(&L::totalAmps)},
        {"Rated output", of(&L::outputCapacity)},
        {"stated at", of(&L::outputVolts)},
        {"Recharge claim", of(&L::rechargeTime)},
        {"with input of", of(&L::inputWatts)},
        {"Weight", of(&L::weightGrams)},
        {"Size", [](const records::Bank& b) { return sides(b.label.size); }},
        {"Price", of(&L::price)},
        {"Warranty", of(&L::warrantyMonths)},
        {"Together", [](const records::Bank& b) { return label::showShared(b.label.shared); }},
        {"Charges",
         [](const records::Bank& b) { return b.label.charges.empty() ? "-" : label::showCharges(b.label.charges); }},
        {"On the scale",
         [](const records::Bank& b) {
             return b.scale.grams
                        ? showNumber(b.scale.grams->value) + " ± " + showNumber(b.scale.grams->expanded.value_or(0.0))
                        : "-";
         }},
        {"By the rule", [](const records::Bank& b) { return sides(b.scale.size); }},
        {"It came", [](const records::Bank& b) { return records::showCame(b.past); }},
        {"It counts itself", [](const records::Bank& b) { return records::showCounts(b.past.counts); }},
        {"Model number", [](const records::Bank& b) { return b.past.bought.model; }},
        {"Markings", [](const records::Bank& b) { return b.past.bought.markings; }},
        {"Tags", [](const records::Bank& b) { return records::showTags(b.tags); }},
        {"Bought at", [](const records::Bank& b) { return b.past.bought.where; }},
        {"Paid", [](const records::Bank& b) { return records::showPaid(b.past.bought); }},
        {"Ordered", [](const records::Bank& b) { return b.past.bought.orderedOn; }},
        {"In the box",
         [](const records::Bank& b) {
             return records::showContents(b.past.bought.contents) + " = " +
                    records::contentsWeight(b.past.bought.contents);
         }},
        {"Specimen of", [](const records::Bank& b) { return std::to_string(b.past.specimenOf.value_or(0)); }},
    };
    return kAll;
}
const Kept& keptOf(const QString& name) {
    return std::find_if(fields().begin(), fields().end(), [&](const Field& f) { return name == QLatin1String(f.name); })
        ->kept;
}

} // namespace

class IntakeTest : public QObject {
    Q_OBJECT

    QTemporaryDir folder_;
    std::unique_ptr<app::MainWindow> window_;
    int count_ = 0;

    [[nodiscard]] QWidget* page() const { return window_->intakePage(); }
    [[nodiscard]] QLineEdit* field(const QString& name) const { return page()->findChild<QLineEdit*>(name); }
    [[nodiscard]] records::Bank bank() const { return window_->session().book().banks().front(); }
    void type(const QString& name, const QString& text) const {
        QLineEdit* edit = field(name);
        QVERIFY2(edit, qPrintable(name));
        edit->setFocus();
        edit->selectAll();
        if (text.isEmpty())
            QTest::keyClick(edit, Qt::Key_Delete);
        edit->insert(text); // signs that no key of a test has
        QTest::keyClick(edit, Qt::Key_Return);
    }

    [[nodiscard]] bool newWindow() {
        window_ = std::make_unique<app::MainWindow>();
        window_->resize(1280, 800);
        window_->show();
        window_->activateWindow();
        return QTest::qWaitForWindowActive(window_.get());
    }
    // Another bank is shown, and then this one as it stands in the book.
    void openAgain() {
        records::Bank other;
        other.name = "Another";
        const auto id = window_->session().book().save(other);
        QVERIFY(id);
        window_->showIntake(*id);
        QCOMPARE(field("Name")->text(), QString("Another"));
        window_->showIntake(bank().id);
    }

private Q_SLOTS:
    void init() {
        app::applyTheme(app::ThemeKind::Light);
        if (!window_)
            QVERIFY(newWindow());
        QVERIFY(window_->session().create(folder_.filePath(QStringLiteral("%1.otterstone").arg(++count_))));
        QTest::keyClick(window_.get(), Qt::Key_N, Qt::ControlModifier);
        QTRY_VERIFY(page()->isVisible());
        records::Bank sister;
        sister.name = "Sister";
        QVERIFY(window_->session().book().save(sister));
    }
    void cleanupTestCase() { window_.reset(); }

    void each_field_is_read_as_people_write_and_shown_again_data() {
        QTest::addColumn<QString>("name");
        QTest::addColumn<QString>("text");
        QTest::addColumn<QString>("kept");
        QTest::addColumn<QString>("shown");
        const auto row = [](const char* name, const char* text, const char* kept, const char* shown) {
            QTest::addRow("%s: %s", name, text) << name << text << kept << shown;
        };
        row("Name", "  Gravel 7 ", "Gravel 7", "Gravel 7");
        row("Also printed", "15.4V 18.5Wh", "15.4V 18.5Wh", "15.4V 18.5Wh");
        row("Capacity", "20,000", "20", "20000");
        row("Capacity", "20 000", "20", "20000");
        row("Cell voltage", "3,65", "3.65", "3.65");
        row("Energy", "74.5", "74.5", "74.5");
        row("Total output", "65", "65", "65");
        row("Total current", "4,8", "4.8", "4.8");
        row("Rated output", "12000", "12", "12000");
        row("stated at", "5", "5", "5");
        row("Recharge claim", "1h30", "1.5", "1 h 30 min");
        row("Recharge claim", "2,4", "2.4", "2 h 24 min");
        row("Recharge claim", "90 min", "1.5", "1 h 30 min");
        row("with input of", "30", "30", "30");
        row("Weight", "352,5", "352.5", "352.5");
        row("Size", "106 × 68 x 25", "106 68 25", "106 × 68 × 25");
        row("Size", "106*68*25.5", "106 68 25.5", "106 × 68 × 25.5");
        row("Price", "59,90", "59.9", "59.9");
        row("Warranty", "24", "24", "24");
        row("Together", "C1 45 W + A 15 W", "C1 45 W + A 15 W", "C1 45 W + A 15 W");
        row("Charges", "4x 12,4 Wh tablet", "4 × 12.4 Wh tablet", "4 × 12.4 Wh tablet");
        row("On the scale", "352 ± 1", "352 ± 1", "352 ± 1");
        row("On the scale", "352", "352 ± 0", "352");
        row("By the rule", "106,5 x 68 x 25", "106.5 68 25", "106.5 × 68 × 25");
        row("It came", "2026-04-02 58%", "2026-04-02 at 58 %", "2026-04-02 at 58 %");
        row("It came", "3 of 4", "at 50 to 75 %", "at 50 to 75 %");
        row("It counts itself", "2026-04-02: 312 Wh out,41 cycles", "2026-04-02: 312 Wh out, 41 cycles",
            "2026-04-02: 312 Wh out, 41 cycles");
        row("Specimen of", "Sister", "2", "Sister");
        row("Model number", " GR-7 b ", "GR-7 b", "GR-7 b");
        row("Tags", "loan, Cabin; LOAN", "loan; Cabin", "loan; Cabin");
        row("Markings", "CE, UN 38.3", "CE, UN 38.3", "CE, UN 38.3");
        row("Bought at", "Harbour shop", "Harbour shop", "Harbour shop");
        row("Paid", "54,90 EUR", "54.9 EUR", "54.9 EUR");
        row("Paid", "€ 12", "12 €", "12 €");
        row("Paid", "0", "0", "0");
        row("Ordered", "2026-03-28", "2026-03-28", "2026-03-28");
        row("In the box", "C cable 0,5 m 28 g;bag 12g;; leaflet",
            "C cable 0,5 m 28 g; bag 12 g; leaflet = 40 g of those weighed", "C cable 0,5 m 28 g; bag 12 g; leaflet");
        row("In the box", "bag", "bag = ", "bag");
    }
    void each_field_is_read_as_people_write_and_shown_again() {
        QFETCH(QString, name);
        QFETCH(QString, text);
        QFETCH(QString, kept);
        QFETCH(QString, shown);
        type(name, text);
        QCOMPARE(QString::fromStdString(keptOf(name)(bank())), kept);
        // Opened again it stands there as it is kept.
        openAgain();
        QCOMPARE(field(name)->text(), shown);
        QCOMPARE(QString::fromStdString(keptOf(name)(bank())), kept);
        type(name, shown);
        QCOMPARE(QString::fromStdString(keptOf(name)(bank())), kept); // typed again as shown it is the same
    }
    void an_empty_field_is_nothing_printed() {
        const std::pair<const char*, const char*> filled[] = {{"Capacity", "5000"},
                                                              {"Recharge claim", "2 h"},
                                                              {"Size", "10 x 20 x 30"},
                                                              {"Together", "C1 45 W + A 15 W"},
                                                              {"Charges", "4 x 12 Wh"},
                                                              {"On the scale", "120 ± 1"},
                                                              {"By the rule", "10 x 20 x 30"},
                                                              {"Paid", "3 EUR"},
                                                              {"Ordered", "2026-03-28"},
                                                              {"In the box", "bag 12 g"}};
        for (const auto& [name, text] : filled) {
            const std::string before = keptOf(name)(bank());
            type(name, text);
            QVERIFY2(keptOf(name)(bank()) != before, name);
            type(name, "");
            QVERIFY2(keptOf(name)(bank()) == before, name);
        }
    }
    void what_is_not_understood_is_told_and_not_kept_data() {
        QTest::addColumn<QString>("name");
        QTest::addColumn<QString>("good");
        QTest::addColumn<QString>("text");
        QTest::addColumn<QString>("says");
        const auto row = [](const char* name, const char* good, const char* text, const char* says) {
            QTest::addRow("%s: %s", name, text) << name << good << text << says;
        };
        row("Name", "Gravel 7", "", "a bank needs a name");
        row("Capacity", "5000", "five", "“five” is not a number");
        row("Capacity", "5000", "0", "greater than 0");
        row("Paid", "3 EUR", "dear", "“dear” is no price");
        row("Paid", "3 EUR", "-3 EUR", "is no price");
        row("Ordered", "2026-03-28", "in March", "“in March” is no day");
        row("In the box", "bag 12 g", "0 g", "does not say of what");
        row("In the box", "bag 12 g", "bag 0 g", "cannot be");
        row("Energy", "18.5", "-18.5", "greater than 0");
        row("Energy", "18.5", "18.5.2", "18.5.2");
        row("Recharge claim", "2 h", "soon", "soon");
        row("Size", "10 x 20 x 30", "10 x 20", "three sides");
        row("By the rule", "10 x 20 x 30", "10", "three sides");
        row("Together", "C1 45 W + A 15 W", "C1", "C1");
        row("Charges", "4 x 12 Wh", "often", "often");
        row("On the scale", "120 ± 1", "heavy", "heavy");
        row("On the scale", "120 ± 1", "0", "greater than 0");
        row("It came", "2026-04-02", "2026-13-02", "is no day");
        row("It counts itself", "2026-04-02: 3 cycles", "3 cycles", "is no day");
        row("Specimen of", "Sister", "Nobody's", "no other bank on the shelf");
    }
    void what_is_not_understood_is_told_and_not_kept() {
        QFETCH(QString, name);
        QFETCH(QString, good);
        QFETCH(QString, text);
        QFETCH(QString, says);
        type(name, good);
        const std::string kept = keptOf(name)(bank());
        type(name, text);
        QTRY_VERIFY2(otterstone::testing::says(page(), says), qPrintable(says));
        QVERIFY(field(name)->property("wrong").toBool());
        QCOMPARE(keptOf(name)(bank()), kept);
        // The other fields go on being kept.
        type(name == "Price" ? "Weight" : "Price", "12");
        QCOMPARE(keptOf("Price")(bank()), std::string("12"));
        QCOMPARE(keptOf(name)(bank()), kept);
        type(name, good);
        QTRY_VERIFY(!field(name)->property("wrong").toBool());
        QVERIFY(!otterstone::testing::says(page(), says) || good.contains(says));
    }
    void claims_and_notes_are_kept() {
        for (QCheckBox* box : page()->findChildren<QCheckBox*>())
            QTest::mouseClick(box, Qt::LeftButton, Qt::NoModifier, QPoint(8, box->height() / 2));
        auto* notes = page()->findChild<QPlainTextEdit*>();
        notes->setFocus();
        QTest::keyClicks(notes, "a dent at the left edge");
        QVERIFY(bank().label.claimsPassThrough && bank().label.claimsLowCurrentMode);
        QCOMPARE(bank().notes, std::string("a dent at the left edge"));
        openAgain();
        QCOMPARE(page()->findChild<QPlainTextEdit*>()->toPlainText(), QString("a dent at the left edge"));
        for (QCheckBox* box : page()->findChildren<QCheckBox*>())
            QVERIFY(box->isChecked());
    }
    void every_field_of_the_form_is_tried_here() {
        for (QLineEdit* edit : page()->findChildren<QLineEdit*>()) {
            const bool known = std::any_of(fields().begin(), fields().end(),
                                           [&](const Field& f) { return edit->objectName() == QLatin1String(f.name); });
            QVERIFY2(known || edit->objectName().isEmpty() || edit->objectName().startsWith("qt_"),
                     qPrintable(edit->objectName()));
        }
    }
};

QTEST_MAIN(IntakeTest)
#include "intake_test.moc"
