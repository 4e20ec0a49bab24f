// Verdicts, plan, choice, use and sheet in the real window, by the keyboard.
#include <QTest>

#include <QCheckBox>
#include <QClipboard>
#include <QComboBox>
#include <QLineEdit>
#include <QListWidget>
#include <QMimeData>
#include <QPlainTextEdit>
#include <QSignalSpy>
#include <QTextBrowser>

#include "app/choose/bank_picker.h"
#include "app/choose/choose_page.h"
#include "app/choose/devices_view.h"
#include "app/choose/figures_table.h"
#include "app/choose/overlay_plot.h"
#include "app/choose/purpose_editor.h"
#include "app/choose/use_bands.h"
#include "app/choose/use_view.h"
#include "app/findings/claims_table.h"
#include "app/findings/findings_page.h"
#include "app/live/live_page.h"
#include "app/live/setup_view.h"
#include "app/plan/plan_page.h"
#include "app/report/report_page.h"
#include "app/runs/run_page.h"
#include "app/widgets/figure_button.h"
#include "app/widgets/working_drawer.h"
#include "book/store/material.h"
#include "demo_window.h"
#include "look.h"
#include "report/writers.h"

using namespace otterstone;
using namespace otterstone::app;
using namespace otterstone::testing;
using judgement::Verdict;

class JudgementPageTest : public QObject {
    Q_OBJECT

    DemoWindow window_;

    [[nodiscard]] book::Book& book() const { return window_.book(); }
    [[nodiscard]] records::Id bankNamed(const std::string& name) const { return window_.bankNamed(name); }
    ClaimsTable* claimsOf(const char* bank) {
        QSignalSpy ready(&window_->session(), &BookSession::togetherReady);
        const records::Id id = bankNamed(bank);
        window_->showFindings(id);
        // Other pages ask of the bank they show as well.
        const auto ofThisBank = [&] {
            return std::any_of(ready.begin(), ready.end(), [id](const QList<QVariant>& r) { return r.front() == id; });
        };
        if (!QTest::qWaitFor(ofThisBank, 20000))
            return nullptr;
        QTest::qWait(50); // what was made just now is laid out
        return window_->findingsPage()->claims();
    }
    // The row of a verdict; -1 for none.
    static int rowOf(const ClaimsTable* table, const QString& verdict) {
        for (int r = 0; r < table->rowCount(); ++r) {
            if (table->item(r, 2) && table->item(r, 2)->text().endsWith(verdict))
                return r;
        }
        return -1;
    }
    ChoosePage* choose() {
        QSignalSpy ready(&window_->session(), &BookSession::evidenceReady);
        QTest::keyClick(window_.get(), Qt::Key_6, Qt::AltModifier);
        ChoosePage* page = window_->choosePage();
        if (!ready.wait(20000) || !QTest::qWaitFor([page] { return !page->isRanking(); }, 20000))
            return nullptr;
        QTest::qWait(50);
        return page;
    }

    // Many that are not tested stand in one line, until it is opened.
    static void unfold(ClaimsTable* table) {
        for (int r = 0; r < table->rowCount(); ++r) {
            table->setCurrentCell(r, 0);
            if (table->current())
                continue;
            const int before = table->rowCount();
            QTest::keyClick(table, Qt::Key_Space);
            QVERIFY(table->rowCount() > before);
            return;
        }
    }

private Q_SLOTS:
    void initTestCase() { QVERIFY(window_.prepare(true)); }
    void init() { QVERIFY(window_.openCopy()); }
    void cleanup() { window_.close(); }

    // More banks than fit beside each other stand as rows, are found by words, and come in the order of a figure.
    void many_banks_are_rows_that_are_found_and_put_in_order() {
        for (int k = 0; k < 10; ++k) {
            records::Bank bank;
            bank.name = "Gravel " + std::to_string(k + 1);
            bank.label.weightGrams = 900.0 - 40.0 * k; // among the demo's
            bank.notes = k < 3 ? "from the north beach" : "";
            QVERIFY(window_->session().addBank(bank));
        }
        ChoosePage* page = choose();
        QVERIFY(page);
        FiguresTable* table = page->table();
        const auto banks = page->banks().size();
        QVERIFY(banks > 12);
        QVERIFY(table->isTurned());
        QCOMPARE(table->rowCount(), static_cast<int>(banks));
        const auto& rows = page->comparison().rows;
        const auto weight = static_cast<int>(
            std::find_if(rows.begin(), rows.end(), [](const auto& r) { return r.kind.key == "weight"; }) -
            rows.begin());
        table->setCurrentCell(0, weight);
        table->setFocus();
        const auto grams = [&] {
            std::vector<double> all;
            all.reserve(static_cast<std::size_t>(table->rowCount()));
            for (int r = 0; r < table->rowCount(); ++r)
                all.push_back(table->item(r, weight)->text() == QStringLiteral("–")
                                  ? -1.0
                                  : table->item(r, weight)->text().section(QLatin1Char(' '), 0, 0).toDouble());
            return all;
        };
        for (const bool up : {true, false}) { // the lightest first, then the heaviest; unknown ones last either way
            QTest::keyClick(table, Qt::Key_O);
            std::vector<double> known = grams();
            const auto none = std::find(known.begin(), known.end(), -1.0);
            QVERIFY(std::all_of(none, known.end(), [](double g) { return g < 0.0; }));
            known.erase(none, known.end());
            QVERIFY(known.size() >= 10);
            QVERIFY(up ? std::is_sorted(known.begin(), known.end()) : std::is_sorted(known.rbegin(), known.rend()));
        }
        // Space opens the sum of the bank that is shown there, wherever it was kept.
        QString opened;
        connect(table, &FiguresTable::workingWanted, table, [&](const Working& w) { opened = qs(w.shown()); });
        QTest::keyClick(table, Qt::Key_Space);
        QCOMPARE(opened, table->item(table->currentRow(), weight)->text());
        QVERIFY(window_->drawer()->isVisible());
        QTest::keyClicks(page->picker()->findLine(), QStringLiteral("north gravel"));
        QTest::keyClick(page->picker()->findLine(), Qt::Key_Return);
        QCOMPARE(page->banks().size(), std::size_t(3));
        QTRY_VERIFY(!table->isTurned());
        QCOMPARE(table->columnCount(), 3);
        QCOMPARE(table->verticalHeaderItem(weight)->text(), QStringLiteral("weight"));
    }

    void one_key_goes_from_a_verdict_to_its_run_and_opens_its_sum() {
        ClaimsTable* table = claimsOf("Cobble 10");
        QVERIFY(table);
        QVERIFY(says(window_->findingsPage(), QStringLiteral("Of 13 claims")));
        const int row = rowOf(table, QStringLiteral("meets"));
        QVERIFY(row >= 0);
        table->setCurrentCell(row, 0);
        table->setFocus();
        const long long run = table->current()->runs.back();
        QTest::keyClick(table, Qt::Key_Space);
        QVERIFY(window_->drawer()->isVisible());
        QVERIFY(table->current()->finding->parts.front().note.find("guard band") != std::string::npos);
        QTest::keyClick(table, Qt::Key_Return);
        QCOMPARE(window_->runPage()->run(), run);
        QVERIFY(window_->runPage()->isVisible());
    }
    // The label's Wh are judged by the school that is chosen in the verdict's own sum.
    void another_school_of_the_labels_energy_is_made_the_houses_and_undone() {
        QVERIFY(claimsOf("Cobble 10"));
        // The table is made anew with each answer of the book.
        const auto energy = [&]() -> const judgement::Held* {
            ClaimsTable* table = window_->findingsPage()->claims();
            for (int r = 0; table && r < table->rowCount(); ++r) {
                table->setCurrentCell(r, 0);
                if (table->current() && table->current()->claim.key == "energy")
                    return table->current();
            }
            return nullptr;
        };
        QVERIFY(energy() && energy()->verdict == Verdict::TooClose);
        QTest::keyClick(window_->findingsPage()->claims(), Qt::Key_Space);
        const auto press = [&](const QString& begins) {
            for (auto* b : window_->drawer()->findChildren<QPushButton*>()) {
                if (b->isVisible() && (b->accessibleName().startsWith(begins) || b->text().startsWith(begins))) {
                    b->click();
                    return true;
                }
            }
            return false;
        };
        QTRY_VERIFY(says(window_->drawer(), QStringLiteral("Testers disagree: the label's Wh by")));
        QVERIFY(press(QStringLiteral("what came out of the port")));
        QTRY_VERIFY(press(QStringLiteral("Make it the house's choice")));
        QCOMPARE(book().schools().labelBy, setup::LabelBy::CameOut);
        QTRY_VERIFY(energy() && energy()->verdict == Verdict::FallsShort);
        QCOMPARE(energy()->claim.condition, std::string("by what came out of the port"));
        QVERIFY(window_->session().history().undo().has_value());
        QTRY_VERIFY(energy() && energy()->verdict == Verdict::TooClose);
    }
    void what_is_not_settled_goes_into_the_plan_and_starts_from_there() {
        ClaimsTable* table = claimsOf("Menhir 27");
        QVERIFY(table);
        unfold(table);
        int row = -1;
        for (int r = 0; r < table->rowCount(); ++r) {
            table->setCurrentCell(r, 0);
            if (table->current() && table->current()->claim.key == "together:C1+C2")
                row = r;
        }
        QVERIFY(row >= 0);
        table->setCurrentCell(row, 0);
        QCOMPARE(table->current()->verdict, Verdict::NotTested);
        QTest::keyClick(table, Qt::Key_P);
        QCOMPARE(book().planned().size(), std::size_t(1));
        QCOMPARE(book().planned().front().recipe, std::string("sharing-round"));
        QTest::keyClick(window_->findingsPage()->claims(), Qt::Key_P);
        QCOMPARE(book().planned().size(), std::size_t(1)); // once is enough
        QTest::keyClick(window_.get(), Qt::Key_8, Qt::AltModifier);
        PlanPage* plan = window_->planPage();
        QVERIFY(plan->isVisible());
        QVERIFY(QTest::qWaitFor([plan] { return plan->plan() && !plan->isPlanning(); }, 30000));
        row = -1;
        for (int r = 0; r < plan->table()->rowCount(); ++r) {
            if (plan->table()->item(r, 4)->text().contains(QStringLiteral("C1 65 W + C2 20 W at once")))
                row = r;
        }
        QVERIFY(row >= 0);
        plan->table()->setCurrentCell(row, 0);
        button(plan, QStringLiteral("Start it live…"))->click();
        QVERIFY(window_->livePage()->isVisible());
        QVERIFY(window_->livePage()->setup()->recipes()->currentItem()->text().contains(QStringLiteral("haring")));
        window_->showPlan();
        button(plan, QStringLiteral("Write it down by hand…"))->click();
        QVERIFY(window_->runPage()->isVisible());
        QCOMPARE(book().run(window_->runPage()->run())->kind, records::Kind::Sharing);
        // Taken out, it is no entry any more; the claim still wants its run.
        QVERIFY(window_->session().removePlanned(book().planned().front().id));
        QVERIFY(book().planned().empty());
        QVERIFY(window_->session().history().undo());
        QCOMPARE(book().planned().size(), std::size_t(1));
    }
    void many_that_are_not_tested_stand_in_one_line() {
        ClaimsTable* table = claimsOf("Boulder 20");
        QVERIFY(table);
        const int folded = table->rowCount();
        QVERIFY(rowOf(table, QStringLiteral("not tested")) < 0);
        QVERIFY2(table->item(folded - 1, 0)
                     ->text()
                     .contains(QStringLiteral(" not tested: a survey of C1 and A would settle")),
                 qPrintable(table->item(folded - 1, 0)->text()));
        unfold(table);
        QVERIFY(table->rowCount() > folded + 3);
        QCOMPARE(rowOf(table, QStringLiteral("not tested")), folded);
        table->setCurrentCell(folded - 1, 0);
        QTest::keyClick(table, Qt::Key_Space);
        QCOMPARE(table->rowCount(), folded);
    }
    void a_scale_settles_the_weight() {
        ClaimsTable* table = claimsOf("Scree 15");
        QVERIFY(table);
        records::Bank bank = *book().bank(bankNamed("Scree 15"));
        bank.scale.grams = Stated(301, 1.0);
        QSignalSpy ready(&window_->session(), &BookSession::togetherReady);
        QVERIFY(window_->session().changeBank(bank));
        QVERIFY(ready.wait(20000));
        table = window_->findingsPage()->claims();
        for (int r = 0; r < table->rowCount(); ++r) {
            if (table->item(r, 0)->text() == QStringLiteral("302 g"))
                QVERIFY(table->item(r, 2)->text().endsWith(QStringLiteral("meets")));
        }
    }

    void two_and_twelve_banks_stay_side_by_side_data() {
        QTest::addColumn<int>("banks");
        QTest::newRow("two") << 2;
        QTest::newRow("twelve") << 12;
    }
    void two_and_twelve_banks_stay_side_by_side() {
        QFETCH(int, banks);
        for (int k = static_cast<int>(book().banks().size()); k < banks; ++k) {
            records::Bank more = book().banks()[static_cast<std::size_t>(k) % 7];
            more.id = records::kNew;
            more.name = "Skerry stone " + std::to_string(k);
            QVERIFY(window_->session().addBank(more));
        }
        ChoosePage* page = choose();
        QVERIFY(page);
        const auto boxes = page->findChildren<QCheckBox*>();
        int left = static_cast<int>(page->banks().size());
        for (QCheckBox* box : boxes) {
            if (left > banks && box->isVisible() && box->isChecked()) {
                box->click();
                --left;
            }
        }
        QTRY_COMPARE(page->table()->columnCount(), banks);
        QCOMPARE(page->table()->rowCount(), static_cast<int>(judgement::figureKinds().size()));
        for (int k = 0; k < banks; ++k) // each column is wide enough for what stands in it
            for (int r = 0; r < page->table()->rowCount(); ++r)
                QVERIFY(QFontMetrics(page->table()->item(r, k)->font())
                            .horizontalAdvance(page->table()->item(r, k)->text()) < page->table()->columnWidth(k));
        for (const auto view : {ChoosePage::Purpose, ChoosePage::Curves, ChoosePage::Use, ChoosePage::Figures}) {
            page->setView(view);
            QVERIFY(!page->grab().isNull());
        }
        QTRY_VERIFY(!page->isRanking());
        QCOMPARE(page->ranking().banks.size(), static_cast<std::size_t>(banks));
    }
    void unlike_conditions_are_marked_and_told() {
        ChoosePage* page = choose();
        QVERIFY(page);
        bool marked = false;
        for (const judgement::FigureRow& row : page->comparison().rows) {
            for (const judgement::Cell& cell : row.cells)
                marked = marked || cell.unlike;
        }
        QVERIFY(marked);
        QVERIFY(says(page, QStringLiteral("too small for its 60 W")));
        // Space opens the sum with its condition, Return goes to the run.
        for (int r = 0; r < page->table()->rowCount(); ++r) {
            if (page->table()->verticalHeaderItem(r)->text() == QStringLiteral("recharge to full"))
                page->table()->setCurrentCell(r, 1);
        }
        QTest::keyClick(page->table(), Qt::Key_Space);
        QVERIFY(window_->drawer()->isVisible());
        QTest::keyClick(page->table(), Qt::Key_Return);
        QVERIFY(window_->runPage()->isVisible());
        QCOMPARE(book().run(window_->runPage()->run())->title, std::string("From empty, 9 V"));
    }
    void weights_change_the_order_and_can_be_undone() {
        ChoosePage* page = choose();
        QVERIFY(page);
        page->setView(ChoosePage::Purpose);
        const auto first = [page] {
            if (!QTest::qWaitFor([page] { return !page->isRanking(); }))
                return std::string();
            return page->comparison().banks[page->ranking().banks.front().bank];
        };
        QCOMPARE(first(), std::string("Menhir 27")); // the largest that flies
        auto* editor = page->findChild<PurposeEditor*>();
        const auto field = [editor](const QString& name) {
            for (QLineEdit* e : editor->findChildren<QLineEdit*>()) {
                if (e->accessibleName() == name && e->isVisible())
                    return e;
            }
            return static_cast<QLineEdit*>(nullptr);
        };
        const auto type = [&](const QString& name, const QString& text) {
            QLineEdit* e = field(name);
            QVERIFY2(e, qPrintable(name));
            e->setFocus();
            e->selectAll();
            QTest::keyClicks(e, text);
            QTest::keyClick(e, Qt::Key_Return);
            QTest::qWait(50);
        };
        type(QStringLiteral("Weight of usable at 1 A, 5 V"), QStringLiteral("0,01"));
        type(QStringLiteral("Weight of delivered share"), QStringLiteral("9"));
        QVERIFY(first() != "Menhir 27");
        QCOMPARE(page->purpose().key, std::string("own"));
        // Less counts: a gate takes banks out.
        for (QCheckBox* box : editor->findChildren<QCheckBox*>()) {
            if (box->isVisible() && box->text() == QStringLiteral("must give while it is charged"))
                box->click();
        }
        QTRY_VERIFY(!page->isRanking());
        QVERIFY(std::any_of(page->ranking().banks.begin(), page->ranking().banks.end(),
                            [](const auto& b) { return b.stoppedBy.size() == 1; }));
        type(QStringLiteral("recharge to 80 % that counts fully"), QStringLiteral("nonsense"));
        QVERIFY(says(editor, QStringLiteral("nonsense")));
        while (window_->session().history().canUndo())
            QVERIFY(window_->session().history().undo());
        QSignalSpy ready(&window_->session(), &BookSession::evidenceReady);
        page->open();
        QVERIFY(ready.wait(20000));
        QTRY_COMPARE(page->purpose().key, std::string("plane"));
        QTRY_COMPARE(first(), std::string("Menhir 27"));
    }
    void what_is_to_be_kept_going_is_answered_and_kept() {
        ChoosePage* page = choose();
        QVERIFY(page);
        page->setView(ChoosePage::Use);
        UseView* use = page->use();
        QTest::keyClicks(use->needs(), QStringLiteral("Camera 2 W 8 h"));
        QTest::keyClick(use->needs(), Qt::Key_Return);
        QTest::keyClicks(use->needs(), QStringLiteral("Tablet 26.4 Wh 5.5 W 3 h"));
        QTest::keyClicks(use->days(), QStringLiteral("2"));
        QTest::keyClick(use->days(), Qt::Key_Return);
        QVERIFY(says(use, QStringLiteral("The devices use 32.5 Wh a day.")));
        QCOMPARE(use->plan().banks.size(), std::size_t(8));
        QVERIFY(!use->plan().smallestSet.empty());
        QVERIFY(says(use, QStringLiteral("Medical equipment")));
        use->needs()->appendPlainText(QStringLiteral("Lamp forever"));
        QVERIFY(says(use, QStringLiteral("row 3")));
        QCOMPARE(use->plan().banks.size(), std::size_t(8)); // the other rows still count
        const QString path = book().path();
        window_.close();
        QVERIFY(window_.open(path));
        QVERIFY(window_->choosePage()->use()->needs()->toPlainText().startsWith(QStringLiteral("Camera 2 W 8 h")));
        QCOMPARE(window_->choosePage()->use()->days()->text(), QStringLiteral("2"));
    }
    // One question has one answer: a device of the drawer charges with its own efficiency wherever it is asked.
    void the_sheet_says_of_use_what_the_window_says() {
        ChoosePage* page = choose();
        QVERIFY(page);
        page->setView(ChoosePage::Use);
        UseView* use = page->use();
        QTest::keyClicks(use->needs(), QStringLiteral("Field tablet 26.4 Wh 5.5 W 3 h"));
        QTest::keyClicks(use->days(), QStringLiteral("4"));
        QTest::keyClick(use->days(), Qt::Key_Return);
        const auto devices = book().gear();
        QVERIFY(std::any_of(devices.begin(), devices.end(),
                            [](const records::Gear& g) { return g.name == "Field tablet" && g.efficiency; }));
        const auto material = book::gatherMaterial(book().path(), {}, "2026-05-01T10:00:00");
        QVERIFY(material.has_value());
        const report::Content sheet = report::makeContent(*material);
        QVERIFY(sheet.choice);
        const auto& told = sheet.choice->use;
        QCOMPARE(told.sentence, use->plan().sentence);
        QCOMPARE(told.banks.size(), use->plan().banks.size());
        for (std::size_t k = 0; k < told.banks.size(); ++k)
            QCOMPARE(told.banks[k].sentence, use->plan().banks[k].sentence);
        // A click on a band opens the sum behind it.
        QSignalSpy working(use, &UseView::workingWanted);
        QTest::mouseClick(use->bands(), Qt::LeftButton, Qt::NoModifier, QPoint(200, 8));
        QCOMPARE(working.count(), 1);
        QCOMPARE(working.first().first().value<Working>().shown(), use->plan().banks.front().days->shown());
        // Whatever is asked is drawn in a moment.
        use->needs()->setPlainText(QStringLiteral("Sensor 0.000000001 W 1 h\nTablet 26.4 Wh 1000000000x"));
        use->days()->clear();
        (void)use->bands()->grab();
    }
    void tables_and_curves_are_copied() {
        ChoosePage* page = choose();
        QVERIFY(page);
        QWidget* figures = page->table()->parentWidget();
        button(figures, QStringLiteral("Copy as Markdown"))->click();
        QVERIFY(QGuiApplication::clipboard()->text().contains(QStringLiteral("| Pebble 5 |")));
        QVERIFY(QGuiApplication::clipboard()->text().contains(QStringLiteral("---: |")));
        button(figures, QStringLiteral("Copy for a spreadsheet"))->click();
        QVERIFY(QGuiApplication::clipboard()->text().contains(QStringLiteral("\tCobble 10\t")));
        page->setView(ChoosePage::Curves);
        button(page, QStringLiteral("Copy as SVG and PNG"))->click();
        const QMimeData* copied = QGuiApplication::clipboard()->mimeData();
        const QByteArray svg = copied->data(QStringLiteral("image/svg+xml"));
        QVERIFY(svg.contains("<svg"));
        QVERIFY(svg.contains("Pebble 5"));
        QVERIFY(!svg.contains(">text<")); // what an item of the plot says while nobody told it anything
        QVERIFY(copied->hasImage());
    }

    // Which bank charges the head torch how, as a table, turned, and as curves over one another.
    void devices_are_compared_across_the_banks() {
        ChoosePage* page = choose();
        QVERIFY(page);
        DevicesView* view = page->devices();
        QTRY_VERIFY(!view->devices().devices.empty());
        page->setView(ChoosePage::Devices);
        QVERIFY(view->isVisible() && view->asked()->hasFocus());
        const int heat = view->asked()->findData(static_cast<int>(kinds::What::DeviceHeat));
        view->asked()->setCurrentIndex(heat);
        Q_EMIT view->asked()->activated(heat);
        QTableWidget* table = view->table();
        const auto rowOf = [&](const QString& name) {
            for (int r = 0; r < table->rowCount(); ++r) {
                if (table->verticalHeaderItem(r)->text().startsWith(name))
                    return r;
            }
            return -1;
        };
        const auto columnOf = [&](const QString& name) {
            for (int k = 0; k < table->columnCount(); ++k) {
                if (table->horizontalHeaderItem(k)->text() == name)
                    return k;
            }
            return -1;
        };
        const int torch = rowOf("Head torch");
        QVERIFY(torch >= 0 && columnOf("Pebble 5") >= 0);
        int filled = 0, best = 0;
        for (int k = 0; k < table->columnCount(); ++k) {
            filled += table->item(torch, k)->text().isEmpty() ? 0 : 1;
            best += table->item(torch, k)->text().contains(QStringLiteral("•")) ? 1 : 0;
        }
        QVERIFY2(filled >= 2 && best == 1 && best < filled, qPrintable(QString("%1 of %2").arg(best).arg(filled)));
        QSignalSpy working(page, &ChoosePage::workingWanted), run(page, &ChoosePage::runWanted);
        table->setCurrentCell(torch, columnOf("Pebble 5"));
        const QString text = table->currentItem()->text();
        table->setFocus();
        QTest::keyClick(table, Qt::Key_Space);
        QCOMPARE(working.size(), 1);
        QTest::keyClick(table, Qt::Key_Return);
        QCOMPARE(run.size(), 1);
        page->setView(ChoosePage::Devices);
        view->turn()->click();
        QVERIFY(rowOf("Pebble 5") >= 0);
        QCOMPARE(table->item(rowOf("Pebble 5"), torch)->text(), text);
        page->setView(ChoosePage::Curves);
        const int curves = page->curveKind()->findData("Head torch");
        QVERIFY(curves > 1);
        page->curveKind()->setCurrentIndex(curves);
        Q_EMIT page->curveKind()->activated(curves);
        QVERIFY(page->plot()->accessibleDescription().contains("Pebble 5") &&
                page->plot()->accessibleDescription().contains("Shingle 10 pad, pad"));
        page->curveKind()->setCurrentIndex(0);
        Q_EMIT page->curveKind()->activated(0);
        QVERIFY(page->plot()->accessibleDescription().contains("Cobble 10"));
    }
    void any_table_and_curve_is_copied_by_key() {
        ClaimsTable* table = claimsOf("Cobble 10");
        QVERIFY(table);
        table->setFocus();
        QTest::keyClick(window_.get(), Qt::Key_C, Qt::ControlModifier | Qt::ShiftModifier);
        QVERIFY(QGuiApplication::clipboard()->text().startsWith(QStringLiteral("The label claims\tFound\tVerdict\t")));
        QVERIFY(QGuiApplication::clipboard()->text().contains(QStringLiteral("37 Wh in the cells\t")));
        window_->showRuns(bankNamed("Cobble 10"), book().runs(bankNamed("Cobble 10"))[0].id);
        QTest::qWait(200);
        QTest::keyClick(window_.get(), Qt::Key_C, Qt::ControlModifier | Qt::ShiftModifier);
        QVERIFY(QGuiApplication::clipboard()->mimeData()->data(QStringLiteral("image/svg+xml")).contains("<svg"));
        window_->showBench();
        QTest::keyClick(window_.get(), Qt::Key_C, Qt::ControlModifier | Qt::ShiftModifier);
        QVERIFY(says(window_.get(), QStringLiteral("no table or curve")));
    }
    void the_sheet_is_written_remembered_and_says_what_changed() {
        QSignalSpy ready(&window_->session(), &BookSession::materialReady);
        const records::Id pebble = bankNamed("Pebble 5");
        window_->showReport(pebble);
        QVERIFY(ready.wait(20000));
        ReportPage* page = window_->reportPage();
        QVERIFY(page->findChild<QTextBrowser*>()->toPlainText().contains(QStringLiteral("Claims and verdicts")));
        for (const char* ending : {"html", "pdf", "md", "csv", "json"}) {
            const QString file = window_.file(QStringLiteral("pebble.") + QLatin1String(ending));
            page->publish()->setChecked(ending == std::string("html"));
            QVERIFY2(page->write(file), ending);
            QVERIFY(QFileInfo(file).size() > 2000);
        }
        QVERIFY(!page->write(QStringLiteral("/nowhere/at/all.pdf")));
        QVERIFY(says(window_.get(), QStringLiteral("could not be written")));
        QCOMPARE(book().publications("Pebble 5").size(), std::size_t(1));
        for (records::Gear g : book().gear()) {
            if (g.name == "Bench meter") {
                g.clock = Stated(1.03, 0.001);
                ready.clear();
                QVERIFY(window_->session().changeGear(g));
            }
        }
        QTRY_VERIFY_WITH_TIMEOUT(page->findChild<QTextBrowser*>()->toPlainText().contains(
                                     QStringLiteral("What changed since it was last published")),
                                 20000);
        QTRY_VERIFY_WITH_TIMEOUT(
            page->findChild<QTextBrowser*>()->toPlainText().contains(QStringLiteral("meter Bench meter")), 20000);
    }
    // The figures of a run's page and the rows of its section in the sheet show the same text.
    void screen_and_sheet_show_the_same_digits() {
        QSignalSpy ready(&window_->session(), &BookSession::materialReady);
        window_->showReport(bankNamed("Boulder 20"));
        QVERIFY(ready.wait(20000));
        const report::Content content = window_->reportPage()->content();
        int compared = 0;
        for (const records::Run& run : book().runs(bankNamed("Boulder 20"))) {
            window_->showRuns(run.bank, run.id);
            QTRY_VERIFY_WITH_TIMEOUT(window_->session().finding(run.id).has_value(), 20000);
            QTest::qWait(50);
            for (const report::Section& s : content.sections) {
                if (s.key != "run:" + std::to_string(run.id))
                    continue;
                for (const report::Block& b : s.blocks) {
                    const auto* table = std::get_if<report::Table>(&b);
                    for (auto* figure : window_->runPage()->findChildren<FigureButton*>()) {
                        for (std::size_t r = 0; table && r < table->rows.size(); ++r) {
                            if (figure->isVisible() && table->rows[r][0].text == figure->working().label &&
                                !figure->working().isText) {
                                QCOMPARE(table->rows[r][1].text, figure->working().shown());
                                ++compared;
                            }
                        }
                    }
                }
            }
        }
        QVERIFY2(compared > 15, qPrintable(QString::number(compared)));
    }
    void a_hostile_name_stays_a_name() {
        records::Bank bank = *book().bank(bankNamed("Pebble 5"));
        bank.name = "<script>alert(1)</script> סלע";
        QVERIFY(window_->session().changeBank(bank));
        QSignalSpy ready(&window_->session(), &BookSession::materialReady);
        window_->showReport(bank.id);
        QVERIFY(ready.wait(20000));
        QVERIFY(window_->reportPage()->findChild<QTextBrowser*>()->toPlainText().startsWith(
            QString::fromStdString(bank.name)));
        const QString file = window_.file(QStringLiteral("hostile.html"));
        QVERIFY(window_->reportPage()->write(file));
        QFile f(file);
        QVERIFY(f.open(QIODevice::ReadOnly));
        QVERIFY(!f.readAll().contains("<script"));
    }
};

QTEST_MAIN(JudgementPageTest)
#include "judgement_page_test.moc"
