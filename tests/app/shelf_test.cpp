// The shelf with many banks: found as one types, put in order, all by keyboard.
#include <QTest>

#include <QComboBox>
#include <QLineEdit>
#include <QListWidget>
#include <QSettings>

#include "app/shelf/shelf.h"
#include "core/records/tags.h"
#include "demo_window.h"

using namespace otterstone;
using namespace otterstone::app;
using namespace otterstone::testing;

class ShelfTest : public QObject {
    Q_OBJECT

    DemoWindow window_;

    [[nodiscard]] QListWidget* list() const { return window_->shelf()->findChild<QListWidget*>(); }
    [[nodiscard]] QStringList seen() const {
        QStringList names;
        for (int row = 0; row < list()->count(); ++row) {
            if (!list()->isRowHidden(row))
                names << list()->item(row)->text();
        }
        return names;
    }
    void add(const std::string& name, double wattHours, const std::string& model) {
        records::Bank bank;
        bank.name = name;
        bank.label.energy = WattHours(wattHours);
        bank.past.bought.model = model;
        QVERIFY(window_->session().addBank(bank));
    }

private Q_SLOTS:
    void initTestCase() { QVERIFY(window_.prepare(false)); }
    void init() {
        QSettings().remove("shelfOrder");
        QVERIFY(window_.openCopy());
    }
    void cleanup() { window_.close(); }

    void few_need_no_search() {
        QCOMPARE(list()->count(), 8);
        QVERIFY(!window_->shelf()->findLine()->isVisible());
        // Asked for, it is there, and goes again.
        QTest::keyClick(window_.get(), Qt::Key_F, Qt::ControlModifier);
        QVERIFY(window_->shelf()->findLine()->isVisible() && window_->shelf()->findLine()->hasFocus());
        QTest::keyClicks(window_->shelf()->findLine(), "cobb last");
        QCOMPARE(seen(), QStringList{"Cobble 10, last year's"});
        QTest::keyClick(window_->shelf()->findLine(), Qt::Key_Return);
        QCOMPARE(window_->shelf()->selected(), window_.bankNamed("Cobble 10, last year's"));
        QVERIFY(list()->hasFocus());
        QTest::keyClick(window_.get(), Qt::Key_F, Qt::ControlModifier);
        // What changes in the book meanwhile does not take the line away from whoever is about to type.
        records::Bank bank = *window_.book().bank(window_.bankNamed("Pebble 5"));
        bank.notes += " It rattles.";
        QVERIFY(window_->session().changeBank(bank));
        QVERIFY(window_->shelf()->findLine()->isVisible() && window_->shelf()->findLine()->hasFocus());
        QTest::keyClick(window_->shelf()->findLine(), Qt::Key_Escape);
        QVERIFY(!window_->shelf()->findLine()->isVisible());
        QCOMPARE(seen().size(), 8);
    }
    void a_hundred_are_found_and_put_in_order() {
        for (int k = 0; k < 92; ++k)
            add("Gravel " + std::to_string(k), 10.0 + k, k % 10 == 3 ? "GR-3 late" : "GR-1");
        QCOMPARE(list()->count(), 100);
        QLineEdit* find = window_->shelf()->findLine();
        QVERIFY(find->isVisible());
        QTest::keyClicks(find, "gr-3 LATE");
        QCOMPARE(seen().size(), 9); // by the model's number: 3, 13, … 83
        QVERIFY(seen().contains("Gravel 13"));
        // What changes in the book leaves what is looked for.
        add("Gravel 93", 1.0, "GR-3 late");
        QCOMPARE(seen().size(), 10);
        QTest::keyClick(find, Qt::Key_Escape);
        QCOMPARE(seen().size(), 101);
        QVERIFY(find->isVisible());
        QComboBox* order = window_->shelf()->order();
        const records::Id chosen = window_->shelf()->selected();
        order->setFocus();
        const auto choose = [&](const char* words) {
            order->setCurrentText(words);
            Q_EMIT order->activated(order->currentIndex());
        };
        choose("by Wh");
        QCOMPARE(seen().mid(0, 3), (QStringList{"Dolmen 50", "Gravel 91", "Gravel 90"}));
        QCOMPARE(window_->shelf()->selected(), chosen); // it goes with its bank
        choose("newest run");
        QCOMPARE(seen().front(), QString("Dolmen 50")); // 6 August
        choose("asks most");
        QCOMPARE(seen().front(), QString("Scree 15"));
        choose("by name");
        QCOMPARE(seen().front(), QString("Boulder 20"));
        QCOMPARE(QSettings().value("shelfOrder").toInt(), 1);
    }
    // A tester lends some banks out and flies with others.
    void banks_stand_in_groups_by_tag_and_by_model() {
        for (const auto& [name, tags] : {std::pair("Cobble 10", "loan; Cabin"), {"Pebble 5", "cabin"}}) {
            records::Bank bank = *window_.book().bank(window_.bankNamed(name));
            bank.tags = records::parseTags(tags);
            QVERIFY(window_->session().changeBank(bank));
        }
        QTest::keyClick(window_.get(), Qt::Key_F, Qt::ControlModifier);
        QTest::keyClicks(window_->shelf()->findLine(), "CABIN");
        QCOMPARE(seen(), (QStringList{"Pebble 5", "Cobble 10"}));
        const auto choose = [&](const char* words) {
            window_->shelf()->order()->setCurrentText(words);
            Q_EMIT window_->shelf()->order()->activated(window_->shelf()->order()->currentIndex());
        };
        choose("by tag");
        QCOMPARE(seen(), (QStringList{"cabin", "Pebble 5", "loan", "Cobble 10"})); // each once, under its first tag
        QTest::keyClick(window_->shelf()->findLine(), Qt::Key_Return);
        QCOMPARE(window_->shelf()->selected(), window_.bankNamed("Pebble 5")); // no heading is chosen
        window_->shelf()->findLine()->clear();
        QCOMPARE(seen().size(), 8 + 3);
        QCOMPARE(seen().mid(4, 1), QStringList{"no tag"});
        // Keys step over a heading.
        QTest::keyClick(list(), Qt::Key_Down);
        QCOMPARE(window_->shelf()->selected(), window_.bankNamed("Cobble 10"));
        // An order that was chosen stays, and with it the row in which it can be taken back.
        QTest::keyClick(window_->shelf()->findLine(), Qt::Key_Escape);
        QVERIFY(window_->shelf()->order()->isVisible());
        window_->shelf()->findLine()->setText("cobble");
        choose("by model");
        QCOMPARE(seen(), (QStringList{"pieces of Cobble 10", "Cobble 10", "Cobble 10, last year's"}));
    }
};

QTEST_MAIN(ShelfTest)
#include "shelf_test.moc"
