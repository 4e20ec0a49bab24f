// The pages one by one: the shelf's signs, the ribbon's widths, the gear panel, removing and bringing back, books from
// the window.
#include <QTest>

#include <QApplication>
#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QProgressBar>
#include <QPushButton>
#include <QSignalSpy>
#include <QStandardPaths>
#include <QTemporaryDir>

#include "../core/sources.h"
#include "app/book_session.h"
#include "app/gear/gear_panel.h"
#include "app/import/import_page.h"
#include "app/intake/port_table.h"
#include "app/main_window.h"
#include "app/runs/ribbon_model.h"
#include "app/runs/run_page.h"
#include "app/runs/trace_curve.h"
#include "app/shelf/shelf.h"
#include "app/theme.h"
#include "app/widgets/flow_layout.h"
#include "app/widgets/working_drawer.h"
#include "book/demo/demo.h"
#include "look.h"

using namespace otterstone;
using namespace otterstone::testing;
using namespace otterstone::app;

class PagesTest : public QObject {
    Q_OBJECT

private Q_SLOTS:
    void initTestCase() {
        applyTheme(ThemeKind::Light);
        auto made = book::makeDemo(folder_.filePath("demo.otterstone"));
        QVERIFY(made.has_value());
    }
    void init() {
        session_ = std::make_unique<BookSession>();
        QVERIFY(session_->open(folder_.filePath("demo.otterstone")).has_value());
    }

    void the_shelf_signs_every_bank() {
        Shelf shelf(*session_);
        shelf.show();
        session_->book().noticeChange();
        auto* list = shelf.findChild<QListWidget*>();
        QCOMPARE(list->count(), 8);
        const auto spoken = [&](int row) { return list->item(row)->data(Qt::AccessibleTextRole).toString(); };
        QVERIFY2(spoken(0).contains("Pebble 5, 18.5 Wh rated"), qPrintable(spoken(0)));
        QVERIFY(spoken(0).contains("flies"));
        QVERIFY(spoken(2).contains("2 contradiction"));
        QVERIFY(spoken(6).contains("no flight"));
        QSignalSpy chosen(&shelf, &Shelf::chosen);
        list->setCurrentRow(3);
        QCOMPARE(chosen.size(), 1);
        shelf.select(session_->book().banks()[5].id);
        QCOMPARE(chosen.size(), 1); // chosen by program: whoever did it knows
        QCOMPARE(list->currentRow(), 5);
    }

    void the_ribbon_is_as_wide_as_the_energy_data() {
        QTest::addColumn<int>("run"); // of Cobble 10
        QTest::addColumn<QString>("kinds");
        QTest::newRow("recharge") << 0 << "charger cable meter cable bank";
        QTest::newRow("gentle drain") << 1 << "bank cable meter cable load";
        QTest::newRow("top tier drain") << 2 << "bank cable meter cable load";
    }
    void the_ribbon_is_as_wide_as_the_energy() {
        QFETCH(int, run);
        QFETCH(QString, kinds);
        const records::Bank bank = session_->book().banks()[1];
        const records::Run r = session_->book().runs(bank.id)[static_cast<std::size_t>(run)];
        const auto f = *session_->book().finding(r.id);
        const Ribbon ribbon = makeRibbon(bank, r, session_->book().gear(), f);
        QStringList found;
        for (const auto& s : ribbon.stretches)
            found << s.kind;
        QCOMPARE(found.join(' '), kinds);
        // Widths meet: what leaves one stretch enters the next.
        for (std::size_t k = 1; k < ribbon.stretches.size(); ++k)
            QCOMPARE(ribbon.stretches[k].wattHoursIn, ribbon.stretches[k - 1].wattHoursOut);
        // Beyond the last thing read nothing is invented.
        const bool drain = r.kind == records::Kind::Drain;
        QVERIFY(!ribbon.stretches.back().wattHoursOut.has_value());
        for (const auto& s : ribbon.stretches) {
            if (s.lossWattHours)
                QVERIFY(std::abs(*s.wattHoursIn - *s.wattHoursOut - *s.lossWattHours) < 1e-9);
        }
        // A recharge reaches back to the wall through the charger's stated efficiency.
        QCOMPARE(ribbon.notches.size(), drain ? std::size_t(2) : std::size_t(3));
        QVERIFY(ribbon.inWords().contains("Grey 1 m"));
    }
    void a_ribbon_without_gear_or_label_claims_nothing() {
        records::Bank bank;
        bank.name = "Unknown";
        records::Run run;
        kinds::Finding f;
        f.wattHours = Measured(10.0);
        f.portWattHours = Measured(10.0);
        Working read;
        read.value = f.wattHours;
        read.unit = Unit::WattHour;
        f.points = {{path::Point::Meter, true, false, read}};
        const Ribbon ribbon = makeRibbon(bank, run, {}, f);
        QVERIFY(!ribbon.stretches.front().wattHoursIn.has_value());
        QVERIFY(ribbon.stretches.front().loss.isEmpty());
        QCOMPARE(ribbon.stretches[1].name, QStringLiteral("not stated"));
        QCOMPARE(ribbon.notches.size(), std::size_t(1));
    }

    void gear_is_chosen_written_down_and_refused() {
        const records::Bank bank = session_->book().banks()[0];
        const records::Run run = session_->book().runs(bank.id)[1];
        GearPanel panel(*session_);
        panel.show();
        panel.openStretch(run.id, placeOf(&records::Run::cable));
        auto* piece = panel.findChild<QComboBox*>();
        QCOMPARE(piece->currentText(), QStringLiteral("Short black"));
        QCOMPARE(piece->count(), 5); // not stated, three cables, a new one
        const auto field = [&](const QString& hint) {
            for (auto* edit : panel.findChildren<QLineEdit*>()) {
                if (edit->placeholderText().startsWith(hint))
                    return edit;
            }
            return static_cast<QLineEdit*>(nullptr);
        };
        QLineEdit* ohms = field("0.115");
        QCOMPARE(ohms->text(), QStringLiteral("0.058 ± 0.008"));
        ohms->setText("0,2 ± 0,02");
        Q_EMIT ohms->editingFinished();
        QCOMPARE(session_->book().gear()[5].ohms->value, 0.2);
        QVERIFY(session_->history().undoText().contains("Short black"));
        ohms->setText("thick");
        Q_EMIT ohms->editingFinished();
        QVERIFY(says(&panel, "“thick” is not a number"));
        QCOMPARE(session_->book().gear()[5].ohms->value, 0.2); // kept as it was
        QVERIFY(session_->history().undo().has_value());
        QCOMPARE(session_->book().gear()[5].ohms->value, 0.058);
        // A new piece is named at once, and the run takes it.
        piece->setCurrentIndex(4);
        Q_EMIT piece->activated(4);
        QCOMPARE(session_->book().gear().back().name, std::string("New cable"));
        QCOMPARE(*session_->book().run(run.id)->cable, session_->book().gear().back().id);
        QVERIFY(session_->history().undo().has_value()); // the run's
        QVERIFY(session_->history().undo().has_value()); // and the drawer's
        QVERIFY(*session_->book().run(run.id) == run);
        panel.openStretch(run.id, placeOf(&records::Run::meter));
        QLineEdit* accuracy = field("volts 0.05%");
        QCOMPARE(accuracy->text(), QStringLiteral("volts 0.05%+2mV, amps 0.1%+3mA, clock 50ppm"));
        accuracy->setText("quite good");
        Q_EMIT accuracy->editingFinished();
        QVERIFY(says(&panel, "is not an accuracy"));
    }
    void ports_are_added_and_removed() {
        PortTable table;
        table.show();
        QSignalSpy edited(&table, &PortTable::edited);
        QTest::mouseClick(button(&table, "Add a port"), Qt::LeftButton);
        QTest::mouseClick(button(&table, "Add a port"), Qt::LeftButton);
        QCOMPARE(table.ports().size(), std::size_t(2));
        QCOMPARE(table.ports()[1].name, std::string("C2"));
        QTest::mouseClick(button(&table, "Remove it"), Qt::LeftButton);
        QCOMPARE(table.ports().size(), std::size_t(1));
        QCOMPARE(edited.size(), 3);
    }
    void a_bank_and_a_run_can_be_removed_and_brought_back() {
        MainWindow window;
        QVERIFY(window.session().create(folder_.filePath("removal.otterstone")).has_value());
        records::Bank bank;
        bank.name = "Scree 8";
        const records::Id id = *window.session().addBank(bank);
        QVERIFY(window.session().removeBank(id).has_value());
        QVERIFY(window.session().book().banks().empty());
        QVERIFY(window.session().history().undo().has_value());
        QCOMPARE(window.session().book().banks().size(), std::size_t(1));
        records::Run run;
        run.bank = id;
        trace::Trace t;
        for (int k = 0; k < 100; ++k) {
            t.time.push_back(k);
            t.volts.push_back(5.0);
            t.amps.push_back(1.0);
        }
        const records::Id added = *book::Book::addRunElsewhere(window.session().book().path(), run, t);
        window.session().noteAddedRun(added, "log");
        QVERIFY(window.session().removeRun(added).has_value());
        QVERIFY(window.session().book().runs(id).empty());
        QVERIFY(window.session().history().undo().has_value());
        QCOMPARE(window.session().book().runs(id).size(), std::size_t(1));
        QVERIFY(window.session().history().undo().has_value()); // the import itself
        QVERIFY(window.session().book().runs(id).empty());
    }
    void a_finding_that_is_not_cached_is_worked_out_elsewhere() {
        QSignalSpy ready(session_.get(), &BookSession::findingReady);
        const records::Bank bank = session_->book().banks()[3];
        records::Gear meter = session_->book().gear()[6];
        meter.clock = Stated(1.01);
        QVERIFY(session_->changeGear(meter).has_value()); // the cached findings do not hold any more
        const records::Id run = session_->book().runs(bank.id)[0].id;
        QVERIFY(!session_->finding(run).has_value());
        QVERIFY(ready.wait(10'000));
        QVERIFY(session_->finding(run).has_value());
        QVERIFY(session_->history().undo().has_value());
    }
    // The answer to an older question is not taken for the answer to the present one.
    void a_finding_that_was_overtaken_is_worked_out_again() {
        const records::Bank bank = session_->book().banks()[3];
        records::Run run = session_->book().runs(bank.id)[1];
        const double whole = session_->book().finding(run.id)->wattHours.value();
        QSignalSpy ready(session_.get(), &BookSession::findingReady);
        run.to = 9000.0;
        QVERIFY(session_->changeRun(run, "cut").has_value());
        QVERIFY(!session_->finding(run.id).has_value()); // on its way
        run.to = 4000.0;
        QVERIFY(session_->changeRun(run, "cut again").has_value());
        QVERIFY(ready.wait(10'000));
        while (!session_->finding(run.id))
            QVERIFY(ready.wait(10'000));
        const double quarter = session_->finding(run.id)->wattHours.value();
        QVERIFY(quarter < 0.2 * whole);
        QVERIFY(std::abs(quarter - book::Book::workOutElsewhere(session_->book().path(), run.id)->wattHours.value()) <
                1e-9);
        QVERIFY(session_->history().undo().has_value() && session_->history().undo().has_value());
    }
    void a_book_that_cannot_be_opened_leaves_the_one_that_is() {
        MainWindow window;
        window.show();
        QVERIFY(window.session().create(folder_.filePath("stays.otterstone")).has_value());
        const QString open = window.session().book().path();
        QVERIFY(!window.openBook(folder_.filePath("nowhere.otterstone")));
        QTRY_VERIFY(says(&window, "there is no such file"));
        QCOMPARE(window.session().book().path(), open);
        QVERIFY(!window.openBook(folder_.filePath("demo.otterstone"))); // held by this test's session
        QTRY_VERIFY(says(&window, "open elsewhere"));
    }
    void the_drawer_says_when_no_uncertainty_is_known() {
        WorkingDrawer drawer;
        drawer.show();
        Working w;
        w.label = "energy";
        w.value = Measured(10.0, 0.01, otterstone::testing::source("meter: volts resolution"));
        w.unit = Unit::WattHour;
        w.partialDoubt = true;
        drawer.open(w);
        QTRY_VERIFY(says(&drawer, "No ± without the meter's accuracy"));
        QTRY_VERIFY(says(&drawer, "10 Wh"));
        w.partialDoubt = false;
        drawer.open(w);
        QTRY_VERIFY(says(&drawer, "10.000 ± 0.020 Wh"));
    }
    void figures_wrap_like_words() {
        QWidget page;
        auto* flow = new FlowLayout(&page, 8);
        for (int k = 0; k < 6; ++k) {
            auto* box = new QWidget;
            box->setFixedSize(100, 30);
            flow->addWidget(box);
        }
        QCOMPARE(flow->heightForWidth(700), 30);
        QCOMPARE(flow->heightForWidth(330), 68);
        QCOMPARE(flow->heightForWidth(100), 6 * 30 + 5 * 8);
    }
    void zoom_and_pan_stay_within_the_run() {
        TraceCurve curve;
        curve.resize(800, 300);
        curve.QWidget::show();
        const records::Id run = session_->book().runs(session_->book().banks()[1].id)[0].id;
        const auto f = session_->book().finding(run);
        curve.show(CurveData(session_->book().summaries(run),
                             [&](int a, int b) { return session_->book().chunks(run, a, b); }),
                   &*f, {}, true);
        for (int k = 0; k < 30; ++k)
            curve.zoom(1.5); // far beyond the whole
        curve.redrawNow();
        for (int k = 0; k < 10; ++k)
            curve.zoom(0.5);
        for (int k = 0; k < 50; ++k)
            curve.pan(0.7); // far beyond the end
        curve.redrawNow();
        curve.setAxis(Axis::Percent);
        curve.setQuantity(Quantity::Temperature);
        curve.redrawNow();
        curve.clear();
        curve.redrawNow();
        QCOMPARE(curve.axis(), Axis::Percent);
    }
    void light_and_dark_keep_their_contrast() {
        const auto contrast = [](const QColor& a, const QColor& b) { // WCAG 2.1, relative luminance
            const auto luminance = [](const QColor& c) {
                const auto part = [](double v) {
                    return v <= 0.04045 ? v / 12.92 : std::pow((v + 0.055) / 1.055, 2.4);
                };
                return 0.2126 * part(c.redF()) + 0.7152 * part(c.greenF()) + 0.0722 * part(c.blueF());
            };
            const double la = luminance(a);
            const double lb = luminance(b);
            return (std::max(la, lb) + 0.05) / (std::min(la, lb) + 0.05);
        };
        for (const ThemeKind kind : {ThemeKind::Light, ThemeKind::Dark}) {
            applyTheme(kind);
            for (const QColor& ground : {theme().paper, theme().sheet}) {
                QVERIFY(contrast(theme().ink, ground) > 10.0);
                QVERIFY(contrast(theme().faint, ground) > 4.5);
                QVERIFY(contrast(theme().warn, ground) > 4.5);
                QVERIFY(contrast(theme().in, ground) > 3.0);
                QVERIFY(contrast(theme().out, ground) > 3.0);
            }
        }
        applyTheme(ThemeKind::Light);
    }

private:
    QTemporaryDir folder_;
    std::unique_ptr<BookSession> session_;
};

int main(int argc, char** argv) {
    QStandardPaths::setTestModeEnabled(true);
    QApplication application(argc, argv);
    PagesTest test;
    return QTest::qExec(&test, argc, argv);
}
#include "pages_test.moc"
