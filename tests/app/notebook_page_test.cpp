// A notebook by keyboard alone: devices, rows as a tester writes them, the sentence that follows, and what it settles.
#include <QTest>

#include <QClipboard>
#include <QComboBox>
#include <QGuiApplication>
#include <QLineEdit>
#include <QMenu>
#include <QPushButton>
#include <QToolButton>

#include "app/behaviour/behaviour_view.h"
#include "app/behaviour/notebook_bar.h"
#include "app/behaviour/sheet_model.h"
#include "app/runs/run_page.h"
#include "app/shelf/shelf.h"
#include "app/widgets/figure_button.h"
#include "app/widgets/typing_grid.h"
#include "book/exchange/bundle.h"
#include "book/store/together.h"
#include "core/evidence/evidence.h"
#include "core/judgement/hold.h"
#include "demo_window.h"

using namespace otterstone;
using namespace otterstone::app;
using namespace otterstone::testing;

class NotebookPageTest : public QObject {
    Q_OBJECT

    DemoWindow window_;
    int keys_ = 0;

    [[nodiscard]] BehaviourView* view() const { return window_->runPage()->behaviour(); }
    [[nodiscard]] TypingGrid* grid() const { return view()->grid(); }
    void type(const QString& text, int key) {
        for (const QChar c : text)
            QTest::keyClicks(QApplication::focusWidget(), QString(c));
        QTest::keyClick(QApplication::focusWidget(), static_cast<Qt::Key>(key));
        QCoreApplication::processEvents();
        keys_ += static_cast<int>(text.size()) + 1;
    }
    void press(Qt::Key key) {
        QTest::keyClick(QApplication::focusWidget(), key, Qt::ControlModifier);
        QCoreApplication::processEvents();
        ++keys_;
    }
    void begin(const char* bank) {
        keys_ = 0;
        window_->shelf()->select(window_.bankNamed(bank));
        QTest::keyClick(window_.get(), Qt::Key_B, Qt::ControlModifier);
        QTRY_VERIFY(grid()->hasFocus());
    }
    // Cells by their column's heading; Tab between them, Return behind the last.
    void row(const QStringList& cells) {
        for (qsizetype k = 0; k < cells.size(); ++k)
            type(cells[k], k + 1 < cells.size() ? Qt::Key_Tab : Qt::Key_Return);
    }

    [[nodiscard]] judgement::Judged claimsOf(records::Id bank) const {
        return judgement::holdClaims(book::gatherEvidence(window_.book().path(), {bank})->front());
    }

private Q_SLOTS:
    void initTestCase() { QVERIFY(window_.prepare(false)); }
    void init() { QVERIFY(window_.openCopy()); }
    void cleanup() { window_.close(); }

    void phone_tablet_phone_in_under_a_minute_of_typing() {
        begin("Boulder 20");
        press(Qt::Key_E);
        type("Phone 12.9 Wh", Qt::Key_Return);
        QTRY_VERIFY(grid()->hasFocus());
        row({"0", "20", "full"}); // time, Phone, Bank
        QVERIFY(view()->sentence().contains("Phone was seen once"));
        row({"1:30", "full", ""});
        QVERIFY(view()->sentence().contains("Phone went from 20 % to full"));
        press(Qt::Key_E);
        type("Tablet 28 Wh", Qt::Key_Return);
        row({"1:35", "", "10"});
        row({"3:30", "", "72"});
        press(Qt::Key_E);
        type("Phone 2 11.5 Wh", Qt::Key_Return);
        row({"3:35", "", "", "30"});
        row({"4:30", "", "", "80", "45"}); // and the bank
        QVERIFY2(
            view()->sentence().contains("Phone went from 20 % to full, then Tablet went from 10 to 72 %, then Phone 2 "
                                        "went from 30 to 80 %; the bank went from full to 45 %."),
            qPrintable(view()->sentence()));
        QVERIFY(!view()->sentence().contains("times")); // three batteries: no count of any one
        // A practised tester types four keys a second.
        QVERIFY2(keys_ < 240, qPrintable(QString::number(keys_)));
        const records::Run kept = *window_.book().run(window_->runPage()->run());
        QCOMPARE(kept.sheet->devices.size(), std::size_t(3));
        QCOMPARE(kept.sheet->rows.size(), std::size_t(6));
        QVERIFY(window_->session().history().undo());
        QCOMPARE(window_.book().run(kept.id)->sheet->rows[5][4], std::string());
        QVERIFY(window_->session().history().redo());
        // Away and back by a bundle it is the same.
        QVERIFY(book::exportBundle(window_.book(), window_.file("bundle")).has_value());
        const auto again = book::importBundle(window_.file("bundle"), window_.file("again.otterstone"));
        QVERIFY(again);
        bool found = false;
        for (const records::Bank& b : (*again)->banks()) {
            for (const records::Run& r : (*again)->runs(b.id))
                found = found || r.sheet == kept.sheet;
        }
        QVERIFY(found);
    }

    void one_phone_again_and_again_settles_how_often() {
        const records::Id bank = window_.bankNamed("Boulder 20");
        records::Bank b = *window_.book().bank(bank);
        b.label.charges = *label::parseCharges("4 × phone", "test");
        QVERIFY(window_->session().changeBank(b));
        begin("Boulder 20");
        press(Qt::Key_E);
        type("Phone", Qt::Key_Return);
        row({"14:00", "5", "full"});
        row({"16:00", "full", ""});
        row({"16:10", "8", ""});
        row({"18:20", "full", "40"});
        QVERIFY2(view()->sentence().contains("By its display the full bank charges Phone 2.8 to 3.5 times."),
                 qPrintable(view()->sentence()));
        const auto judged = claimsOf(bank);
        const auto* row = judged.row("charges");
        QVERIFY(row);
        QVERIFY2(row->verdict == judgement::Verdict::FallsShort, row->why.c_str());
        QVERIFY(row->runs == std::vector<long long>{window_->runPage()->run()});
    }

    void a_recharge_by_the_clock_settles_its_claim() {
        const records::Id bank = window_.bankNamed("Dolmen 50");
        records::Bank b;
        b.name = "Slate 5";
        b.label.rechargeTime = Hours(3.0);
        const auto made = window_->session().addBank(b);
        QVERIFY(made);
        QVERIFY(bank != *made);
        begin("Slate 5");
        row({"22:30", "empty"});
        row({"0:30", "60"});
        row({"3:10", "99"});
        row({"3:20", "full"});
        QVERIFY2(view()->sentence().contains("It went from empty to full in 4 h 40 min to 4 h 50 min."),
                 qPrintable(view()->sentence()));
        // Nobody said which charger: that excuses it, until one is named that could give what is needed.
        QCOMPARE(claimsOf(*made).row("recharge_time")->verdict, judgement::Verdict::NotTested);
        records::Gear charger;
        charger.kind = records::GearKind::Charger;
        charger.name = "Strong";
        charger.watts = 65.0;
        const auto piece = window_->session().addGear(charger);
        QVERIFY(piece);
        records::Run run = *window_.book().run(window_->runPage()->run());
        run.charger = *piece;
        QVERIFY(window_->session().changeRun(run, QStringLiteral("name the charger")));
        QCOMPARE(claimsOf(*made).row("recharge_time")->verdict, judgement::Verdict::FallsShort);
    }

    void spare_columns_come_by_a_key_and_by_what_is_pasted() {
        begin("Cobble 10");
        const auto& columns = view()->model()->columns();
        const auto at = [&](const char* key) {
            return static_cast<int>(std::ranges::find(columns, key, &kinds::Column::key) - columns.begin());
        };
        QVERIFY(grid()->isColumnHidden(at("wh")));
        QAction* wattHours = nullptr;
        for (QAction* a : view()->notebook()->columns()->menu()->actions()) {
            if (a->data().toString() == "wh")
                wattHours = a;
        }
        QVERIFY(wattHours);
        wattHours->trigger();
        QVERIFY(!grid()->isColumnHidden(at("wh")));
        QGuiApplication::clipboard()->setText(
            "Time\tPhone 12.9 Wh\tBank\tWh\n0\t20\tfull\t0\n1 h\t60\t70\t6.1\n2 h\tfull\t41\t12.4\n");
        grid()->setCurrentIndex(grid()->model()->index(0, 0));
        press(Qt::Key_V);
        QVERIFY2(view()->sentence().contains("12.4 Wh reached the meter, in 2 h, from full, with 41 % left."),
                 qPrintable(view()->sentence()));
        QCOMPARE(view()->model()->sheet().devices, std::vector<std::string>{"Phone 12.9 Wh"});
        QVERIFY(view()->findChildren<FigureButton*>().size() > 4);
        // Its column goes with its name.
        QTest::mouseClick(view()->notebook()->findChild<QPushButton*>(), Qt::LeftButton);
        view()->notebook()->device()->clear();
        QTest::keyClick(view()->notebook()->device(), Qt::Key_Return);
        QVERIFY(view()->model()->sheet().devices.empty());
        QVERIFY(!view()->sentence().contains("Phone"));
    }
};

QTEST_MAIN(NotebookPageTest)
#include "notebook_page_test.moc"
