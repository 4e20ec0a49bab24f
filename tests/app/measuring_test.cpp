// The measuring bench as a tester works it: by hand, by keyboard, along the path, with stamps and schools.
#include <QTest>

#include <fstream>
#include <map>

#include <QApplication>
#include <QCheckBox>
#include <QClipboard>
#include <QComboBox>
#include <QFile>
#include <QLineEdit>
#include <QPushButton>
#include <QSignalSpy>

#include "app/behaviour/behaviour_view.h"
#include "app/behaviour/sheet_model.h"
#include "app/findings/findings_page.h"
#include "app/findings/house_panel.h"
#include "app/gear/bench_page.h"
#include "app/gear/gear_card.h"
#include "app/gear/gear_form.h"
#include "app/gear/gear_panel.h"
#include "app/import/import_page.h"
#include "app/runs/about_panel.h"
#include "app/runs/ends_bar.h"
#include "app/runs/measured_path.h"
#include "app/runs/path_ribbon.h"
#include "app/runs/run_page.h"
#include "app/runs/stamp_bar.h"
#include "app/runs/stamps.h"
#include "app/runs/trace_curve.h"
#include "app/shelf/shelf.h"
#include "app/widgets/figure_button.h"
#include "app/widgets/typing_grid.h"
#include "app/widgets/working_drawer.h"
#include "book/store/together.h"
#include "core/kinds/catalogue.h"
#include "core/setup/prices.h"
#include "demo_window.h"
#include "logs/csv.h"
#include "look.h"

using namespace otterstone;
using namespace otterstone::app;
using namespace otterstone::testing;

class MeasuringTest : public QObject {
    Q_OBJECT

private Q_SLOTS:
    void initTestCase() { QVERIFY(window_.prepare(false)); }
    void init() {
        applyTheme(ThemeKind::Light);
        QVERIFY(window_.openCopy());
    }
    void cleanup() { window_.close(); }

    // Five readings off a display, typed with nothing but the keyboard.
    void five_display_readings_make_a_finding_by_keyboard_alone() {
        open("Pebble 5");
        const auto before = window_->session().book().runs(window_.bankNamed("Pebble 5")).size();
        QTest::keyClick(window_.get(), Qt::Key_H, Qt::ControlModifier);
        QVERIFY(window_->runPage()->isVisible());
        QTRY_VERIFY(view()->grid()->hasFocus());
        const auto type = [&](const QString& text, int key) {
            for (const QChar c : text) // to whoever has the keyboard: the first key opens the cell's editor
                QTest::keyClicks(QApplication::focusWidget(), QString(c));
            QTest::keyClick(QApplication::focusWidget(), static_cast<Qt::Key>(key));
            QCoreApplication::processEvents(); // an editor commits from the event loop
        };
        for (const auto& [time, volts, amps] : {std::tuple{"0", "5,1", "1.6"},
                                                {"+30 min", "5.06", "1.6"},
                                                {"", "5.05", "1.6"},
                                                {"", "5.04", "1.59"},
                                                {"", "0", "0"}}) {
            if (*time)
                type(QString::fromUtf8(time), Qt::Key_Tab);
            type(QString::fromUtf8(volts), Qt::Key_Tab);
            type(QString::fromUtf8(amps), Qt::Key_Return);
        }
        QCOMPARE(view()->model()->sheet().rows.size(), std::size_t(6)); // the sixth carries only the rhythm on
        QVERIFY2(view()->sentence().contains("Wh flowed in 2 h"), qPrintable(view()->sentence()));
        QVERIFY(says(view(), "Nobody wrote which way energy flowed"));
        QVERIFY(!window_->runPage()->measuredPath()->isVisible());
        choose("Which way", 1);
        choose("Read off", 1);
        QTRY_VERIFY2(view()->sentence().contains("Wh came out by the bank's own display"),
                     qPrintable(view()->sentence()));
        QVERIFY(view()->sentence().contains("of the printed 18.5 Wh"));
        QVERIFY(window_->runPage()->measuredPath()->isVisible());
        QCOMPARE(window_->runPage()->measuredPath()->ribbon()->ribbon().notches.front().at, path::Point::BankOut);
        // Nobody said that it began full: one click does, and its neighbours were heard.
        QTRY_VERIFY2(window_->runPage()->notedEnds()->ends().startsWith("Began"),
                     qPrintable(window_->runPage()->notedEnds()->ends()));
        const auto runs = window_->session().book().runs(window_.bankNamed("Pebble 5"));
        QCOMPARE(runs.size(), before + 1);
        QVERIFY(runs.back().sheet && runs.back().byDisplay && !runs.back().meter);
        const auto evidence = book::gatherEvidence(window_->session().book().path(), {runs.back().bank});
        QVERIFY(std::ranges::any_of(evidence->front().runs, [&](const auto& r) { return r.run == runs.back().id; }));
        // Written on later: a changed cell changes the finding, and one step back brings it back.
        const QString sentence = view()->sentence();
        view()->model()->setData(view()->model()->index(1, 2), "2.6", Qt::EditRole);
        QTRY_VERIFY(view()->sentence() != sentence && view()->sentence().contains("came out"));
        QVERIFY(window_->session().history().undo().has_value());
        QCOMPARE(window_->session().book().run(runs.back().id)->sheet->rows[1][2], std::string("1.6"));
        QTRY_COMPARE(view()->sentence(), sentence);
    }
    void rows_are_written_as_csv() {
        open("Pebble 5", 3);
        view()->saveRows(window_.file("rows.csv"));
        QFile csv(window_.file("rows.csv"));
        QVERIFY(csv.open(QIODevice::ReadOnly));
        const auto again = kinds::sheetFromText(records::Kind::Notebook, csv.readAll().toStdString());
        QCOMPARE(again.rows, run().sheet->rows);
        QSignalSpy problem(view(), &BehaviourView::problem);
        view()->saveRows(window_.file("no such folder/rows.csv"));
        QVERIFY(problem.size() == 1 && problem.front().front().toString().contains("could not be written"));
    }
    void a_slip_is_told_while_typing_and_rows_can_be_pasted() {
        open("Pebble 5");
        window_->writeByHand(window_.bankNamed("Pebble 5"));
        QApplication::clipboard()->setText("Time\tV\tA\tW\n0\t19.3\t3.28\t44\n30 min\t19.3\t2.28\t44\n");
        QTest::keyClick(view()->grid(), Qt::Key_V, Qt::ControlModifier);
        QCOMPARE(view()->model()->sheet().rows.size(), std::size_t(2));
        QTRY_VERIFY(says(view(), "19.3 V × 3.28 A is 63.3 W, not 44. Was it 2.28 A"));
        QVERIFY(view()->model()->data(view()->model()->index(0, 3), Qt::ToolTipRole).toString().contains("63.3"));
        view()->model()->setData(view()->model()->index(0, 2), "2.28", Qt::EditRole);
        QTRY_VERIFY(!says(view(), "63.3"));
        view()->grid()->setCurrentIndex(view()->model()->index(1, 0));
        QTest::keyClick(view()->grid(), Qt::Key_Delete, Qt::ShiftModifier);
        QCOMPARE(view()->model()->sheet().rows.size(), std::size_t(1));
        QTRY_VERIFY(!view()->sentence().contains("Wh"));
    }
    void counters_alone_are_a_run() {
        open("Pebble 5");
        window_->writeByHand(window_.bankNamed("Pebble 5"));
        view()->model()->paste({}, "Time\tWh\tBank\tWhat happened\n0\t\tfull\t\n3 h 10 min\t16,2\t\tdied\n");
        QTRY_VERIFY2(view()->sentence().startsWith("16.2 Wh"), qPrintable(view()->sentence()));
        QVERIFY(view()->sentence().contains("From the meter's counters"));
        QVERIFY(says(view(), "The counter was read once"));
        const records::Id id = window_->runPage()->run();
        QVERIFY(book::Book::workOutElsewhere(window_->session().book().path(), id)->drain->deliveredShare.has_value());
        view()->model()->paste(view()->model()->index(1, 0), "Time\tV\tmAh\n\t5.1\t5000\n");
        QTRY_VERIFY(says(view(), "5000 mAh × 5.1 V is 25.5 Wh, not 16.2"));
        QVERIFY(!window_->runPage()->measuredPath()->isVisible());
    }

    // The ribbon with the keyboard alone: composes, refers, explains.
    void the_ribbon_composes_refers_and_explains_by_keyboard() {
        open("Cobble 10", 1);
        PathRibbon* ribbon = window_->runPage()->ribbon();
        const std::size_t notches = ribbon->ribbon().notches.size();
        ribbon->setFocus();
        for (int k = 0; k < 3; ++k)
            QTest::keyClick(ribbon, Qt::Key_Right); // bank, cable, meter, the place for a further cable
        QTest::keyClick(ribbon, Qt::Key_Return);
        QComboBox* piece = window_->gearPanel()->piece();
        QTRY_VERIFY(piece->hasFocus());
        QTest::keyClick(piece, Qt::Key_Down);
        QTest::keyClick(piece, Qt::Key_Down);
        QTRY_VERIFY(run().farCable.has_value());
        QTRY_COMPARE(ribbon->ribbon().notches.size(), notches + 1); // the load can be referred to now
        QTest::keyClick(window_.get(), Qt::Key_Escape);
        ribbon->setFocus();
        QTest::keyClick(ribbon, Qt::Key_Up);
        QTest::keyClick(ribbon, Qt::Key_Right);
        QVERIFY2(window_->runPage()->referred().startsWith("At the meter: "),
                 qPrintable(window_->runPage()->referred()));
        QTest::keyClick(ribbon, Qt::Key_Right);
        QVERIFY(window_->runPage()->referred().contains("At the load: "));
        QVERIFY(window_->runPage()->referred().contains("less than at the port"));
        QVERIFY(ribbon->accessibleName().contains("load"));
        QTest::keyClick(ribbon, Qt::Key_Space);
        QVERIFY(window_->drawer()->isVisible());
        QCOMPARE(window_->drawer()->shownWorking().key, std::string("energy_at:load"));
        QVERIFY(window_->session().history().undo().has_value()); // both choices of a piece, step by step
        QVERIFY(window_->session().history().undo().has_value());
        QVERIFY(!run().farCable.has_value());
    }
    void the_notch_is_dragged_along_the_band() {
        open("Cobble 10", 0);
        PathRibbon* ribbon = window_->runPage()->ribbon();
        QSignalSpy chosen(ribbon, &PathRibbon::pointChosen);
        QTest::mousePress(ribbon, Qt::LeftButton, {}, QPoint(ribbon->width() - 60, 20));
        QTest::mouseMove(ribbon, QPoint(10, 20));
        QTest::mouseRelease(ribbon, Qt::LeftButton, {}, QPoint(10, 20));
        QVERIFY(chosen.size() >= 2);
        QCOMPARE(chosen.front().front().value<path::Point>(), path::Point::BankIn);
        QCOMPARE(chosen.back().front().value<path::Point>(), path::Point::Wall);
        QVERIFY(window_->runPage()->referred().contains("more than at the port"));
    }

    void a_clock_of_094_is_listed_for_every_run_of_the_meter_and_undone() {
        window_->showBench();
        GearCard* card = nullptr;
        for (auto* c : window_->benchPage()->findChildren<GearCard*>()) {
            if (c->text() == "Pocket meter")
                card = c;
        }
        QVERIFY(card);
        const records::Id pocket = card->gear().id; // the drawer makes its cards anew after each change
        int users = 0;
        for (const records::Bank& b : window_->session().book().banks()) {
            for (const records::Run& r : window_->session().book().runs(b.id))
                users += uses(r, pocket) ? 1 : 0;
        }
        QVERIFY(users >= 3);
        std::map<records::Id, double> before;
        const auto energies = [&] {
            std::map<records::Id, double> all;
            book::Book& book = window_->session().book();
            for (const records::Bank& b : book.banks()) {
                for (const records::Run& r : book.runs(b.id)) {
                    if (uses(r, pocket))
                        all[r.id] = book.finding(r.id)->portWattHours.value();
                }
            }
            return all;
        };
        before = energies();
        QTest::keyClick(card, Qt::Key_Return);
        QSignalSpy rippled(&window_->session(), &BookSession::rippled);
        QLineEdit* clock = window_->gearPanel()->form()->field("Clock factor");
        clock->setFocus();
        QTest::keyClicks(clock, "0,94");
        QTest::keyClick(clock, Qt::Key_Return);
        const auto ended = [&] {
            return std::count_if(rippled.begin(), rippled.end(), [](const auto& said) { return said.at(1).toBool(); });
        };
        QTRY_COMPARE_WITH_TIMEOUT(ended(), 1, 20'000);
        int listed = 0, pairs = 0;
        for (const auto& said : rippled) {
            for (const book::Ripple& r : said.front().value<std::vector<book::Ripple>>()) {
                listed += r.run != records::kNew && !r.figures.empty() ? 1 : 0;
                for (const auto& f : r.figures)
                    pairs += f.label.find("delivered share") == 0 ? 1 : 0;
            }
        }
        QCOMPARE(listed, users);
        QVERIFY(says(window_->gearPanel(), QStringLiteral("%1 runs say something else now.").arg(users)));
        QVERIFY(pairs >= 3); // their delivered shares are among what changed
        QTRY_VERIFY(says(window_->gearPanel(), "What changed"));
        for (const auto& [run, wattHours] : energies())
            QVERIFY2(std::abs(wattHours / before[run] - 0.94) < 0.002,
                     qPrintable(QString::number(wattHours / before[run])));
        QVERIFY(window_->session().history().undo().has_value());
        for (const auto& [run, wattHours] : energies())
            QVERIFY2(std::abs(wattHours - before[run]) < 1e-9,
                     qPrintable(
                         QStringLiteral("%1 %2 %3").arg(run).arg(wattHours, 0, 'g', 17).arg(before[run], 0, 'g', 17)));
        QTRY_COMPARE(ended(), 2); // undo says what it changed back
    }
    void a_wrong_figure_of_gear_is_told_and_nothing_is_kept() {
        window_->showBench();
        QTest::mouseClick(button(window_->benchPage(), "+ cable"), Qt::LeftButton);
        GearForm* form = window_->gearPanel()->form();
        QTRY_VERIFY(form->field("Wire gauge, AWG"));
        for (const auto& [label, text, complaint] : {std::tuple{"Wire gauge, AWG", "99", "from 10 to 40"},
                                                     {"Electronic marker", "maybe", "neither yes nor no"},
                                                     {"Length, m", "-1", "above 0"},
                                                     {"Loop resistance, Ω", "thick", "not a number"}}) {
            QLineEdit* edit = form->field(QString::fromUtf8(label));
            QVERIFY2(edit, label);
            edit->setText(text);
            Q_EMIT edit->editingFinished();
            QTRY_VERIFY2(says(form, complaint), complaint);
            edit->clear();
            Q_EMIT edit->editingFinished();
        }
        form->field("Wire gauge, AWG")->setText("24");
        form->field("Length, m")->setText("1,5");
        Q_EMIT form->field("Length, m")->editingFinished();
        const records::Gear kept = window_->session().book().gear().back();
        QCOMPARE(*kept.awg, 24);
        QCOMPARE(*kept.metres, 1.5);
        QVERIFY(factsOf(kept).contains("about 0.27"));
    }

    void stamps_are_set_by_one_key_changed_and_taken_away() {
        open("Menhir 27", 1);
        TraceCurve* curve = window_->runPage()->curve();
        const auto stamped = run().marks.size();
        curve->setFocus();
        for (int k = 0; k < 30; ++k)
            QTest::keyClick(curve, Qt::Key_Right);
        QTest::keyClick(curve, Qt::Key_P);
        QLineEdit* line = window_->runPage()->stamps()->line();
        QTRY_VERIFY(line->hasFocus());
        QTest::keyClicks(line, "101");
        QTest::keyClick(line, Qt::Key_Return);
        QTRY_VERIFY(says(window_->runPage(), "a display says 0 to 100 %"));
        line->setText("65 %");
        QTest::keyClick(line, Qt::Key_Return);
        QCOMPARE(run().marks.size(), stamped + 1);
        QVERIFY(curve->hasFocus());
        QTest::keyClick(curve, Qt::Key_U); // asks nothing
        QCOMPARE(run().marks.size(), stamped + 2);
        QTest::keyClick(curve, Qt::Key_L);
        QTest::keyClicks(line, "2 of 5");
        QTest::keyClick(line, Qt::Key_Return);
        const records::Run after = run();
        const auto leds = std::find_if(after.marks.begin(), after.marks.end(),
                                       [](const auto& m) { return m.what == records::Mark::What::Leds; });
        QVERIFY(leds != after.marks.end() && records::ledsInAll(*leds) == 5);
        QTRY_VERIFY(window_->session().finding(window_->runPage()->run()).has_value());
        QVERIFY(window_->session().finding(window_->runPage()->run())->gauge->points.size() >= 8);
        for (int k = 0; k < 3; ++k)
            QVERIFY(window_->session().history().undo().has_value());
        QCOMPARE(run().marks.size(), stamped);
    }
    void stamps_read_what_they_wrote_data() {
        QTest::addColumn<int>("what");
        QTest::addColumn<QString>("typed");
        QTest::addColumn<QString>("words");
        using What = records::Mark::What;
        QTest::newRow("percent") << int(What::Percent) << "45 %"
                                 << "45 %";
        QTest::newRow("leds") << int(What::Leds) << "2 of 5"
                              << "2 of 5 LEDs";
        QTest::newRow("four are meant") << int(What::Leds) << "3"
                                        << "3 of 4 LEDs";
        QTest::newRow("fahrenheit") << int(What::Temperature) << "104 °F"
                                    << "40 °C";
        QTest::newRow("estimate") << int(What::Estimate) << "72 min"
                                  << "says 1 h 12 min";
        QTest::newRow("device") << int(What::DevicePercent) << "80"
                                << "device 80 %";
        QTest::newRow("trip") << int(What::Trip) << "heat"
                              << "trip: heat";
        QTest::newRow("note") << int(What::Note) << "moved the cable"
                              << "moved the cable";
    }
    void stamps_read_what_they_wrote() {
        QFETCH(int, what);
        QFETCH(QString, typed);
        QFETCH(QString, words);
        const auto m = readStamp(static_cast<records::Mark::What>(what), 10.0, typed);
        QVERIFY(m.has_value());
        QCOMPARE(markWords(*m), words);
        QCOMPARE(markWords(*readStamp(m->what, 10.0, typedWords(*m))), words);
    }

    void heat_shows_what_was_delivered_and_flags_the_estimate() {
        open("Boulder 20", 2);
        const QString sentence = window_->runPage()->sentence();
        QVERIFY2(sentence.contains("until heat stopped it after"), qPrintable(sentence));
        QTRY_VERIFY(says(window_->runPage(), "Heat stopped the run: what was delivered counts, the rest is unknown"));
        FigureButton* estimate = window_->runPage()->figure("projected_wh");
        QVERIFY(estimate && QString::fromStdString(estimate->working().label).startsWith("estimate"));
        const double delivered = window_->runPage()->figure("energy_at_port_wh")->working().value.value();
        QVERIFY(!window_->runPage()->figure("capacity")); // what came out until it got too hot is none
        QVERIFY(estimate->working().value.value() > 2.0 * delivered);
        QVERIFY(!sentence.contains(QString::fromStdString(showValue(estimate->working().value, Unit::WattHour))));
        // Nor does what the runs say together count it as a drain to the end.
        window_->showFindings(window_.bankNamed("Boulder 20"));
        QTRY_VERIFY(window_->findingsPage()->findings().usableFigure.has_value());
        QCOMPARE(window_->findingsPage()->findings().usable->points().size(), std::size_t(1)); // the gentle one alone
    }

    void a_school_is_switched_in_the_working_and_made_the_houses() {
        open("Shingle 10 pad", 1);
        const QString before = window_->runPage()->sentence();
        QTest::mouseClick(window_->runPage()->figure("delivered_share"), Qt::LeftButton);
        WorkingDrawer* drawer = window_->drawer();
        const double printed = drawer->shownWorking().value.value();
        drawer->showSchool("mah_other");
        QVERIFY(drawer->shownWorking().value.value() > printed); // 10 Ah × 3.6 V is less than 37 Wh
        QTRY_VERIFY(button(drawer, "Make it the house's choice"));
        QTest::mouseClick(button(drawer, "Make it the house's choice"), Qt::LeftButton);
        QCOMPARE(answerOf(window_->session().book().schools(), "reference"), std::string("mah_other"));
        QTRY_VERIFY(window_->runPage()->sentence().contains("of the rated 36 Wh"));
        QVERIFY(window_->session().history().undo().has_value());
        QTRY_COMPARE(window_->runPage()->sentence(), before);
        window_->showHouse();
        QComboBox* full = window_->housePanel()->box("full_when");
        full->setCurrentIndex(1);
        Q_EMIT full->activated(1);
        QCOMPARE(answerOf(window_->session().book().schools(), "full_when"), std::string("gauge_says"));
    }

    void the_findings_page_answers_how_long_it_will_run() {
        window_->showFindings(window_.bankNamed("Cobble 10"));
        FindingsPage* page = window_->findingsPage();
        QTRY_VERIFY(page->load());
        const auto& f = page->findings();
        QVERIFY(f.usable.has_value() && f.usable->loads() >= 3);
        QVERIFY(!f.repeats.empty() && f.repeats.front().repeats.count == 3);
        QVERIFY(f.pairs.size() >= 2);
        page->load()->setText("7 W");
        const QString expected = QString::fromStdString(f.usable->runtimeOf(7.0).shown());
        QTRY_VERIFY2(says(page, expected), qPrintable(expected));
        page->load()->setText("60 W");
        QTRY_VERIFY(says(page, "beyond the loads that were tried"));
        page->load()->setText("26 Wh");
        QTRY_VERIFY(says(page, "charges"));
        page->load()->setText("a lot");
        QTRY_VERIFY(says(page, "Write watts, as in 32 W"));
        QVERIFY(says(page, "came out again"));
    }
    void a_settling_run_leaves_the_repeats_and_comes_back() {
        open("Cobble 10", 3);
        QTest::keyClick(window_.get(), Qt::Key_T, Qt::ControlModifier);
        QVERIFY(window_->aboutPanel()->isVisible());
        for (auto* box : window_->aboutPanel()->findChildren<QCheckBox*>()) {
            if (box->text().startsWith("A settling run"))
                box->click();
        }
        QVERIFY(run().settling);
        QCOMPARE(book::workOutTogether(window_->session().book().path(), window_.bankNamed("Cobble 10"))
                     ->repeats.front()
                     .repeats.count,
                 std::size_t(2));
        auto* ambient = named<QLineEdit>(window_->aboutPanel(), "Ambient");
        ambient->setText("68 °F");
        Q_EMIT ambient->editingFinished();
        QVERIFY(std::abs(*run().ambient - 20.0) < 1e-9);
        ambient->setText("cosy");
        Q_EMIT ambient->editingFinished();
        QTRY_VERIFY(says(window_->aboutPanel(), "is not a temperature"));
        QVERIFY(window_->session().history().undo().has_value());
        QVERIFY(window_->session().history().undo().has_value());
        QVERIFY(!run().settling);
    }
    void a_second_trace_joins_a_run_and_measures_its_cable() {
        open("Menhir 27", 2);
        const records::Id id = window_->runPage()->run();
        const trace::Trace near = window_->session().book().trace(id, "bank out");
        QVERIFY(near.size() > 100);
        QVERIFY(window_->session().removeTrace(id, "bank out").has_value());
        QVERIFY(run().also.empty());
        const QString path = window_.file(QStringLiteral("near.csv"));
        {
            std::ofstream out(path.toStdString());
            logs::writeTrace(out, near);
        }
        window_->importPage()->addTo(id);
        window_->bringIn(path);
        auto* meter = named<QComboBox>(window_->importPage(), "Meter");
        meter->setCurrentText("Twin meter");
        auto* point = named<QComboBox>(window_->importPage(), "Point of the path");
        QVERIFY(point->findText("meter") < 0); // taken by the main trace
        point->setCurrentText("bank out");
        QTest::mouseClick(button(window_->importPage(), "Take it into the book"), Qt::LeftButton);
        QTRY_VERIFY(window_->runPage()->isVisible());
        QCOMPARE(run().also.size(), std::size_t(1));
        QTRY_VERIFY(window_->runPage()->figure("ohms:bank out"));
        const Measured ohms = window_->runPage()->figure("ohms:bank out")->working().value;
        QVERIFY2(std::abs(ohms.value() - 0.0602) <= 1.5 * ohms.expanded(),
                 qPrintable(QString::fromStdString(show(ohms, Unit::Ohm))));
        QVERIFY(window_->session().history().undo().has_value());
        QVERIFY(run().also.empty());
        QVERIFY(window_->session().history().redo().has_value());
        QCOMPARE(run().also.size(), std::size_t(1));
    }
    void a_drain_poured_into_another_bank_is_a_lower_bound() {
        open("Pebble 5", 1);
        window_->showAbout(window_->runPage()->run());
        AboutPanel* about = window_->aboutPanel();
        auto* into = named<QComboBox>(about, "Poured into");
        QVERIFY(into->findText("Pebble 5") < 0); // not into itself
        into->setCurrentText("Cobble 10");
        Q_EMIT into->activated(into->currentIndex());
        QTRY_VERIFY(run().target.has_value());
        auto* after = named<QLineEdit>(about, "It said after, %");
        QTRY_VERIFY(after->isVisible());
        after->setText("140");
        Q_EMIT after->editingFinished();
        QTRY_VERIFY(says(about, "must be from 0 to 100"));
        after->setText("38");
        Q_EMIT after->editingFinished();
        QCOMPARE(*run().target->endPercent, 38.0);
        const auto share = [&] {
            const FigureButton* figure = window_->runPage()->figure("transferred_share");
            return figure ? figure->working().value.value() : 0.0;
        };
        QTRY_VERIFY(std::abs(share() - 0.38 * 37.0 / 18.5) < 1e-9);
        into->setCurrentIndex(0);
        Q_EMIT into->activated(0);
        QTRY_VERIFY(!run().target.has_value());
    }
    void the_houses_thresholds_are_read_and_refused() {
        window_->showHouse();
        HousePanel* house = window_->housePanel();
        auto* volts = named<QLineEdit>(house, "Another nominal voltage, V");
        volts->setText("3,85");
        Q_EMIT volts->editingFinished();
        QCOMPARE(window_->session().book().schools().otherCellVolts, 3.85);
        auto* time = named<QLineEdit>(house, "… for");
        time->setText("a while");
        Q_EMIT time->editingFinished();
        QTRY_VERIFY(says(house, "“a while”"));
        time->setText("20 min");
        Q_EMIT time->editingFinished();
        QCOMPARE(window_->session().book().schools().fullSeconds, 1200.0);
        auto* share = named<QLineEdit>(house, "Power is low below, % of the plateau");
        share->setText("80");
        Q_EMIT share->editingFinished();
        QTRY_VERIFY(says(house, "a share below 50 %"));
        QCOMPARE(window_->session().book().schools().fullShare, 0.05);
    }
    // Typed as a tester would, with slips on the way, and undone.
    void prices_are_reckoned_in_the_houses_currency() {
        window_->showHouse();
        HousePanel* house = window_->housePanel();
        auto* currency = named<QLineEdit>(house, "Prices in");
        auto* rates = named<QLineEdit>(house, "One of each other currency is worth");
        const auto prices = [&] { return setup::pricesFromText(window_->session().book().choice("prices"), "book"); };
        QTest::keyClicks(currency, "EUR");
        QTest::keyClick(currency, Qt::Key_Return);
        QCOMPARE(prices()->currency, std::string("EUR"));
        QTest::keyClicks(rates, "EUR 25");
        QTest::keyClick(rates, Qt::Key_Return);
        QTRY_VERIFY(says(house, "the house's own currency"));
        QVERIFY(prices()->rates.empty());
        rates->selectAll();
        QTest::keyClicks(rates, "crowns 0,04");
        QTest::keyClick(rates, Qt::Key_Return);
        QVERIFY(!says(house, "the house's own currency"));
        QCOMPARE(showRates(prices()->rates), std::string("crowns 0.04"));
        currency->selectAll();
        QTest::keyClicks(currency, "GBP");
        QTest::keyClick(currency, Qt::Key_Return);
        QTRY_VERIFY(says(house, "The rates are in EUR"));
        QCOMPARE(prices()->currency, std::string("EUR"));
        QTest::keyClick(window_.get(), Qt::Key_Z, Qt::ControlModifier);
        QTRY_VERIFY(prices()->rates.empty() && prices()->currency == "EUR");
        QCOMPARE(currency->text(), QString("EUR"));
        QTRY_VERIFY(rates->text().isEmpty());
    }
    void the_display_against_the_truth_has_a_view_of_its_own() {
        open("Menhir 27", 1);
        QTest::mouseClick(button(window_->runPage(), "display against truth"), Qt::LeftButton);
        QTRY_VERIFY(says(window_->runPage(), "Greatest error −12 points"));
        QVERIFY(says(window_->runPage(), "came out after it had said 0 %"));
        QVERIFY(!window_->runPage()->curve()->isVisible());
        open("Menhir 27", 2);
        QTRY_VERIFY(button(window_->runPage(), "at the bank out"));
        QTest::mouseClick(button(window_->runPage(), "at the bank out"), Qt::LeftButton);
        QTRY_VERIFY(window_->runPage()->curve()->isVisible());
    }
    void a_read_only_book_shows_everything_and_changes_nothing() {
        const QString path = window_.file(QStringLiteral("read-only.otterstone"));
        QVERIFY(QFile::copy(window_.file(QStringLiteral("demo.otterstone")), path));
        QFile::setPermissions(path, QFile::ReadOwner | QFile::ReadUser | QFile::ReadGroup | QFile::ReadOther);
        QVERIFY(window_->openBook(path));
        QVERIFY(window_->session().book().readOnly());
        window_->showBench();
        QVERIFY(!button(window_->benchPage(), "+ cable")->isEnabled());
        open("Pebble 5", 0);
        QVERIFY(!window_->runPage()->stamps()->isEnabled());
        open("Pebble 5", 3); // written down by hand
        QVERIFY(!view()->model()->setData(view()->model()->index(1, 1), "9", Qt::EditRole));
        window_->showFindings(window_.bankNamed("Cobble 10"));
        QTRY_VERIFY(window_->findingsPage()->findings().usable.has_value());
        const auto runs = window_->session().book().runs(window_.bankNamed("Pebble 5")).size();
        window_->writeByHand(window_.bankNamed("Pebble 5"));
        QCOMPARE(window_->session().book().runs(window_.bankNamed("Pebble 5")).size(), runs);
    }
    // Stamps that older books have besides the rows count, and are told.
    void stamps_stay_with_what_was_written_by_hand() {
        open("Pebble 5", 3);
        records::Run r = run();
        QVERIFY(r.sheet && kinds::servedAs(r) == records::Kind::Drain);
        r.marks.push_back({600.0, records::Mark::What::Unplugged, {}, ""});
        QVERIFY(window_->session().changeRun(r, "a stamp").has_value());
        QTRY_VERIFY(says(window_->runPage()->measuredPath(), "unplugged at 10 min"));
        QVERIFY(view()->model()->setData(view()->model()->index(1, 6), "70", Qt::EditRole));
        QCOMPARE(run().marks.size(), std::size_t(1));
    }
    void all_new_controls_have_names_and_fit() {
        window_->showBench();
        for (auto* card : window_->benchPage()->findChildren<GearCard*>())
            QVERIFY(card->accessibleName().contains(card->text()) && card->focusPolicy() & Qt::TabFocus);
        for (QWidget* page : {static_cast<QWidget*>(window_->runPage()), static_cast<QWidget*>(window_->aboutPanel()),
                              static_cast<QWidget*>(window_->housePanel())}) {
            for (auto* edit : page->findChildren<QLineEdit*>())
                QVERIFY2(!edit->accessibleName().isEmpty() || edit->parentWidget()->inherits("QComboBox") ||
                             edit == window_->runPage()->stamps()->line(),
                         qPrintable(edit->placeholderText()));
            for (auto* box : page->findChildren<QComboBox*>())
                QVERIFY(!box->accessibleName().isEmpty());
        }
        window_->resize(1280, 800);
        QVERIFY(window_->minimumSizeHint().width() <= 1280);
    }

private:
    void open(const std::string& name, std::size_t run = 0) {
        const records::Id id = window_.bankNamed(name);
        window_->showRuns(id, window_->session().book().runs(id)[run].id);
        QTRY_VERIFY(!window_->runPage()->sentence().isEmpty() &&
                    !window_->runPage()->sentence().contains("Working it out"));
    }
    [[nodiscard]] BehaviourView* view() const { return window_->runPage()->behaviour(); }
    void choose(const char* box, int item) {
        auto* combo = named<QComboBox>(view(), box);
        QVERIFY(combo && combo->isVisible());
        combo->setCurrentIndex(item);
        Q_EMIT combo->activated(item);
        QCoreApplication::processEvents();
    }
    [[nodiscard]] records::Run run() const { return *window_->session().book().run(window_->runPage()->run()); }
    template<class T>
    [[nodiscard]] static T* named(QWidget* in, const QString& name) {
        for (auto* w : in->findChildren<T*>()) {
            if (w->accessibleName() == name)
                return w;
        }
        return nullptr;
    }

    DemoWindow window_;
};

QTEST_MAIN(MeasuringTest)
#include "measuring_test.moc"
