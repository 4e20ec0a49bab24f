// The parts of the measuring bench's screens on their own: gear fields, the grid's model, the curves.
#include <QTest>

#include <QCheckBox>
#include <QLineEdit>
#include <QSignalSpy>
#include <qcustomplot.h>

#include "../core/sources.h"
#include "app/behaviour/sheet_model.h"
#include "app/findings/usable_plot.h"
#include "app/gear/gear_card.h"
#include "app/gear/gear_fields.h"
#include "app/gear/gear_form.h"
#include "app/gear/ripple_list.h"
#include "app/runs/gauge_curve.h"
#include "app/runs/path_ribbon.h"
#include "app/runs/stamps.h"
#include "app/theme.h"
#include "look.h"

using namespace otterstone;
using namespace otterstone::app;
using namespace otterstone::testing;
using records::Gear;
using records::GearKind;

namespace {

std::optional<GearField> fieldOf(GearKind kind, const QString& label) {
    for (GearField& f : fieldsOf(kind)) {
        if (f.label == label)
            return f;
    }
    return std::nullopt;
}

} // namespace

class GearTest : public QObject {
    Q_OBJECT

private Q_SLOTS:
    void initTestCase() { applyTheme(ThemeKind::Light); }

    // What is typed into a field reads back as the same words, or is refused with a mend.
    void a_field_reads_back_what_it_took_data() {
        QTest::addColumn<int>("kind");
        QTest::addColumn<QString>("label");
        QTest::addColumn<QString>("typed");
        QTest::addColumn<QString>("shown"); // empty: refused
        const auto row = [](GearKind kind, const char* label, const char* typed, const char* shown) {
            QTest::addRow("%s, %s: %s", records::gearKey(kind).c_str(), label, typed)
                << static_cast<int>(kind) << QString::fromUtf8(label) << QString::fromUtf8(typed)
                << QString::fromUtf8(shown);
        };
        row(GearKind::Charger, "Gives at most, W", "65", "65");
        row(GearKind::Charger, "Gives at most, W", "0", "");
        row(GearKind::Charger, "Tiers offered", "5V 3A; 9V 2,22A; 3.3-11V 3A", "5 V 3 A; 9 V 2.22 A; 3.3–11 V 3 A");
        row(GearKind::Charger, "Tiers offered", "fast", "");
        row(GearKind::Charger, "Efficiency, %", "88 ± 2", "88 ± 2");
        row(GearKind::Charger, "Efficiency, %", "88 %", "88");
        row(GearKind::Charger, "Efficiency, %", "140", "");
        row(GearKind::Cable, "Loop resistance, Ω", "0,115 +- 0,015", "0.115 ± 0.015");
        row(GearKind::Cable, "Loop resistance, Ω", "thick", "");
        row(GearKind::Cable, "Length, m", "1,5", "1.5");
        row(GearKind::Cable, "Wire gauge, AWG", "24", "24");
        row(GearKind::Cable, "Wire gauge, AWG", "24.5", "");
        row(GearKind::Cable, "Wire gauge, AWG", "4", "");
        row(GearKind::Cable, "Electronic marker", "yes", "yes");
        row(GearKind::Cable, "Electronic marker", "perhaps", "");
        row(GearKind::Meter, "Accuracy", "volts 0.5%+10mV, amps 1%+5mA", "volts 0.5%+10mV, amps 1%+5mA");
        row(GearKind::Meter, "Accuracy", "volts 0.05%+2mV to 10V, volts 0.1%+5mV",
            "volts 0.05%+2mV to 10V, volts 0.1%+5mV");
        row(GearKind::Meter, "Accuracy", "good", "");
        row(GearKind::Meter, "Clock factor", "0,94", "0.94");
        row(GearKind::Meter, "Clock factor", "56 min 24 s / 1 h", "56 min 24 s / 1 h");
        row(GearKind::Meter, "Clock factor", "slow", "");
        row(GearKind::Meter, "Own draw", "6 mA at 5 V", "6 mA at 5 V");
        row(GearKind::Meter, "Own draw", "0.006 A", "6 mA at 5 V");
        row(GearKind::Meter, "Own draw", "little", "");
        row(GearKind::Load, "Takes at most, W", "150", "150");
        row(GearKind::Load, "Amps at most", "-3", "");
        row(GearKind::Trigger, "Can ask for", "9V 3A", "9 V 3 A");
        row(GearKind::Thermometer, "Accuracy, ± K", "0,8", "0.8");
        row(GearKind::Device, "Battery, Wh", "26.4 ± 0.6", "26.4 ± 0.6");
        row(GearKind::Device, "Burns in use, W", "5.5", "5.5");
        row(GearKind::Device, "Burns in use, W", "a lot", "");
    }
    void a_field_reads_back_what_it_took() {
        QFETCH(int, kind);
        QFETCH(QString, label);
        QFETCH(QString, typed);
        QFETCH(QString, shown);
        const auto field = fieldOf(static_cast<GearKind>(kind), label);
        QVERIFY2(field.has_value(), qPrintable(label));
        Gear g;
        g.kind = static_cast<GearKind>(kind);
        const auto wrong = field->take(g, typed.toStdString());
        QCOMPARE(wrong.has_value(), shown.isEmpty());
        if (wrong) {
            QVERIFY(!wrong->text.empty());
            return;
        }
        QCOMPARE(field->text(g), shown);
        // Emptied, the figure is unknown again.
        QVERIFY(!field->take(g, "  ").has_value());
        QVERIFY(field->text(g).isEmpty());
    }
    void every_kind_has_words_facts_and_a_card_data() {
        QTest::addColumn<int>("kind");
        for (const GearKind kind : records::gearKinds())
            QTest::newRow(records::gearKey(kind).c_str()) << static_cast<int>(kind);
    }
    void every_kind_has_words_facts_and_a_card() {
        QFETCH(int, kind);
        Gear g;
        g.kind = static_cast<GearKind>(kind);
        g.name = "A piece";
        QVERIFY(!kindWords(g.kind).isEmpty() && !kindHint(g.kind).isEmpty());
        QCOMPARE(fieldsOf(g.kind).front().label, QStringLiteral("Name"));
        QCOMPARE(factsOf(g), QStringLiteral("nothing known yet"));
        GearCard card(g, 2);
        QVERIFY(card.accessibleName().contains("A piece"));
        QVERIFY(!card.grab().isNull()); // draws with nothing known
        QSignalSpy clicked(&card, &GearCard::clicked);
        QTest::keyClick(&card, Qt::Key_Space);
        QCOMPARE(clicked.size(), 1);
    }
    // Many rows: the first at once, the others when they are asked for; words of a title are words.
    void what_changed_unfolds() {
        RippleList list;
        list.show();
        list.begin();
        QVERIFY(says(&list, "Looking at what that changes"));
        std::vector<book::Ripple> all;
        for (int k = 1; k <= 15; ++k)
            all.push_back({k, "Pebble 5", "Run <" + std::to_string(k) + ">", {{"energy", "1 Wh", "2 Wh"}}});
        all.back().figures.clear();
        list.add(all);
        list.finish();
        QVERIFY(says(&list, "14 runs say something else now. One run that uses it says what it said."));
        QVERIFY(says(&list, "Run &lt;12&gt;") && !says(&list, "Run &lt;13&gt;"));
        QPushButton* rest = button(&list, "Show the other 3 rows");
        QVERIFY(rest && rest->isVisible());
        rest->click();
        QVERIFY(says(&list, "Run &lt;15&gt;") && says(&list, "nothing that is shown changes") && !rest->isVisible());
        list.begin();
        list.finish();
        QVERIFY(says(&list, "No run uses it.") && !says(&list, "Run"));
    }
    void a_cable_without_a_measured_resistance_says_about() {
        Gear g;
        g.kind = GearKind::Cable;
        g.awg = 28;
        g.metres = 2.0;
        QVERIFY2(factsOf(g).contains("about 0.87"), qPrintable(factsOf(g)));
        g.ohms = Stated(0.91, 0.02);
        QVERIFY(factsOf(g).startsWith("0.91 ± 0.02 Ω"));
    }
    void a_form_does_not_write_over_what_is_being_typed() {
        Gear g;
        g.id = 1;
        g.kind = GearKind::Cable;
        g.name = "Grey";
        g.ohms = Stated(0.1);
        GearForm form;
        form.show(g);
        static_cast<QWidget&>(form).show();
        form.activateWindow();
        QVERIFY(QTest::qWaitForWindowActive(&form));
        QLineEdit* ohms = form.field("Loop resistance, Ω");
        ohms->setFocus();
        QTRY_VERIFY(ohms->hasFocus());
        QTest::keyClick(ohms, Qt::Key_End);
        QTest::keyClicks(ohms, "2");
        form.show(g); // the book changed for another reason
        QCOMPARE(ohms->text(), QStringLiteral("0.12"));
        QSignalSpy edited(&form, &GearForm::edited);
        QTest::keyClick(ohms, Qt::Key_Return);
        QCOMPARE(edited.size(), 1);
        g.ohms = Stated(0.1);
        form.show(g); // an undo: nothing is being typed now
        QCOMPARE(ohms->text(), QStringLiteral("0.1"));
    }

    void the_grid_always_waits_with_one_row_more() {
        SheetModel model;
        model.show(records::Sheet{records::Kind::Notebook, {}}, false);
        QCOMPARE(model.rowCount(), 1);
        QSignalSpy typed(&model, &SheetModel::typed);
        QVERIFY(!model.setData(model.index(0, 1), "", Qt::EditRole)); // nothing is no row
        QVERIFY(model.setData(model.index(0, 0), "0", Qt::EditRole));
        QCOMPARE(model.rowCount(), 2);
        QCOMPARE(typed.size(), 1);
        model.paste(model.index(1, 0), "Time\tV\tA\n+5 min\t5.0\t2\n+5 min\t5.1\t2\n");
        QCOMPARE(model.sheet().rows.size(), std::size_t(3));
        QCOMPARE(model.sheet().rows[2][1], std::string("5.1"));
        QCOMPARE(model.sheet().rows[0][0], std::string("0"));
        model.removeSheetRow(1);
        QCOMPARE(model.sheet().rows.size(), std::size_t(2));
        model.removeSheetRow(9); // nothing there
        QCOMPARE(model.sheet().rows.size(), std::size_t(2));
        QCOMPARE(model.headerData(4, Qt::Horizontal, Qt::DisplayRole).toString(), QStringLiteral("Wh"));
    }

    void the_gauges_curve_tells_its_greatest_error() {
        kinds::GaugeFinding g;
        g.points = {{0, 100, 100, 100}, {600, 50, 75, 82}, {1200, 0, 0, 11}};
        g.worst = g.points[2];
        g.reserve = Measured(4.2, 0.1, otterstone::testing::source("drain"));
        GaugeCurve curve;
        static_cast<QWidget&>(curve).show();
        curve.show(g, true);
        QVERIFY2(curve.accessibleDescription().contains("Greatest error −11 points: it said 0 % with 11 % left"),
                 qPrintable(curve.accessibleDescription()));
        QVERIFY(curve.accessibleDescription().contains("4.20 Wh came out after it had said 0 %") ||
                curve.accessibleDescription().contains("4.2 Wh came out"));
        curve.show(std::nullopt, true);
        QVERIFY(curve.accessibleDescription().contains("No display reading was stamped"));
    }
    void the_usable_plot_shows_its_drains_and_the_load_asked_about() {
        std::vector<together::UsablePoint> points;
        for (const double w : {4.0, 9.0, 18.0})
            points.push_back({1, "drain", w,
                              Measured(40.0 * w / (w + 0.3 + 0.004 * w * w), 0.1,
                                       otterstone::testing::source("own/" + std::to_string(w))),
                              5.0});
        const auto curve = together::UsableCurve::fit(points);
        UsablePlot plot;
        static_cast<QWidget&>(plot).show();
        plot.show(curve, {{2, "elsewhere", 20.0, Measured(37.0), 9.0}}, 12.0);
        auto* custom = plot.findChild<QCustomPlot*>();
        int crosses = 0, drains = 0;
        for (int k = 0; k < custom->graphCount(); ++k) {
            const auto shape = custom->graph(k)->scatterStyle().shape();
            crosses += shape == QCPScatterStyle::ssCross ? custom->graph(k)->dataCount() : 0;
            drains += shape == QCPScatterStyle::ssDiamond ? custom->graph(k)->dataCount() : 0;
        }
        QCOMPARE(drains, 3);
        QCOMPARE(crosses, 1);
        QVERIFY(custom->xAxis->range().contains(12.0));
        const int items = custom->itemCount();
        plot.show(curve, {}, std::nullopt);
        QVERIFY(custom->itemCount() < items); // the asked load's stroke is gone
        plot.show(std::nullopt, {}, std::nullopt);
        QCOMPARE(custom->graphCount(), 0);
    }
    void stamps_have_keys_of_their_own() {
        QSet<int> keys = {Qt::Key_X, Qt::Key_Y, Qt::Key_0, Qt::Key_Plus, Qt::Key_Minus, Qt::Key_Equal};
        for (const StampKind& k : stampKinds()) {
            QVERIFY2(!keys.contains(k.key), qPrintable(k.name));
            keys.insert(k.key);
            QCOMPARE(stampKind(k.what).name, k.name);
        }
        QCOMPARE(stampKinds().size(), std::size_t(9)); // every kind of mark can be stamped
    }
    void wrong_stamps_are_refused_data() {
        QTest::addColumn<int>("what");
        QTest::addColumn<QString>("typed");
        using What = records::Mark::What;
        QTest::newRow("above 100 %") << int(What::Percent) << "101";
        QTest::newRow("no number") << int(What::Percent) << "half";
        QTest::newRow("more lit than there are") << int(What::Leds) << "6 of 5";
        QTest::newRow("no temperature") << int(What::Temperature) << "warm";
        QTest::newRow("no duration") << int(What::Estimate) << "soon";
        QTest::newRow("an empty note") << int(What::Note) << "  ";
    }
    void wrong_stamps_are_refused() {
        QFETCH(int, what);
        QFETCH(QString, typed);
        QVERIFY(!readStamp(static_cast<records::Mark::What>(what), 0.0, typed).has_value());
    }
};

QTEST_MAIN(GearTest)
#include "gear_test.moc"
