// What is said of ports, of small loads and of source and load at once, where the rows are those of an ordinary day;
// and whom a gate stops.
#include <QTest>

#include "core/judgement/rank.h"
#include "core/kinds/light_load/light_load.h"
#include "core/kinds/pass_through/pass_through.h"
#include "core/kinds/survey/survey.h"
#include "core/label/conflicts.h"
#include "core/plan/use.h"
#include "sources.h"

using namespace otterstone;
using namespace otterstone::kinds;
using judgement::Cell;
using judgement::Comparison;
using judgement::Passes;

namespace {

Sheet sheetOf(Kind kind, const QString& rows) {
    return sheetFromText(kind, QString(rows).replace(QLatin1String(" / "), QLatin1String("\n")).toStdString());
}

Facts factsOf(const QString& ports) {
    Facts f;
    for (const QString& one : ports.split(QLatin1String(" / "))) {
        const QString name = one.section(' ', 0, 0), way = one.section(' ', 1, 1), tiers = one.section(' ', 2);
        f.label.ports.push_back({name.toStdString(),
                                 way == "in"     ? label::Direction::In
                                 : way == "both" ? label::Direction::Both
                                                 : label::Direction::Out,
                                 *label::parseTiers(tiers.toStdString(), "case"),
                                 {},
                                 {}});
    }
    return f;
}

QString warnings(const Said& said) {
    QString all;
    for (const Warning& w : said.warnings)
        all += QString::fromStdString(w.code + ": " + w.text + "\n");
    return all;
}

} // namespace

class PortJudgementTest : public QObject {
    Q_OBJECT

private Q_SLOTS:
    void surveys_data() {
        QTest::addColumn<QString>("label");
        QTest::addColumn<QString>("rows");
        QTest::addColumn<QString>("sentence"); // begins so
        QTest::addColumn<QString>("never");
        const auto row = [](const char* name, const char* label, const char* rows, const char* sentence,
                            const char* never = "") {
            QTest::newRow(name) << label << rows << QString::fromUtf8(sentence) << QString::fromUtf8(never);
        };
        row("all that was tried holds", "C1 out 5V3A,9V2A",
            "port,asked_v,offered,amps,volts / C1,5,yes,3,5.02 / C1,9,yes,2,9.01",
            "All 2 promised tiers that were tried hold their current.", "not tried");
        row("some were not tried", "C1 out 5V3A,9V2A,12V1.5A",
            "port,asked_v,offered,amps,volts / C1,5,yes,3,5.02 / C1,9,yes,2,8.1",
            "1 of 2 promised tiers that were tried hold their current. 1 was not tried. Out of tolerance: C1 at 9 V (8.1 V at 2 A).");
        row("nothing was tried", "C1 out 5V3A,9V2A", "port,asked_v,note / C1,5,tomorrow",
            "None of the promised tiers was tried.");
        row("an input that is not taken", "C1 both 5V3A,9V2A", "port,way,asked_v,offered / C1,in,9,no",
            "0 of 1 promised tier that was tried holds its current. 3 were not tried. Not taken: C1 in at 9 V.",
            "Not offered");
        row("inputs swapped, seen by their currents", "C1 in 5V2.4A / C2 in 5V0.9A",
            "port,way,asked_v,offered,amps,volts / C1,in,5,yes,0.9,5.0 / C2,in,5,yes,2.4,5.0",
            "The labels of C1 and C2 look swapped");
        row("inputs as printed", "C1 in 5V2.4A / C2 in 5V0.9A",
            "port,way,asked_v,offered,amps,volts / C1,in,5,yes,2.4,5.0 / C2,in,5,yes,0.9,5.0", "All 2 promised tiers",
            "swapped");
        row("outputs swapped, seen by their tiers", "C1 out 5V3A,9V2A,12V1.5A / A out 5V2.4A",
            "port,asked_v,offered / C1,9,no / C1,12,no / A,9,yes / A,12,yes", "The labels of C1 and A look swapped");
        row("a range beside a fixed tier", "C1 out 9V3A,3.3-11V5A", "port,asked_v,offered,amps,volts / C1,9,yes,3,9.0",
            "The promised tier that was tried holds its current. 1 was not tried.");
        row("a second row does not replace the first", "C1 out 9V2A",
            "port,asked_v,offered,amps,volts / C1,9,yes,2,8.1 / C1,9,yes,2,9.0", "0 of 1 promised tier");
        row("a socket for vehicles", "Socket out 12V5A", "port,asked_v,offered,amps,volts / Socket,12,yes,5,11.1",
            "The promised tier that was tried holds its current.", "tolerance");
    }
    void surveys() {
        QFETCH(QString, label);
        QFETCH(QString, rows);
        QFETCH(QString, sentence);
        const auto f = survey(sheetOf(Kind::Survey, rows), factsOf(label));
        const QString said = QString::fromStdString(f.said.sentence);
        QVERIFY2(said.startsWith(sentence), qPrintable(said));
        QFETCH(QString, never);
        QVERIFY2(never.isEmpty() || !said.contains(never), qPrintable(said));
    }
    void rows_that_disagree_are_told() {
        const auto f = survey(
            sheetOf(Kind::Survey, "port,asked_v,offered,amps,volts,note / C1,9,yes,2,8.1,thin cord / C1,9,yes,2,9.0,"),
            factsOf("C1 out 9V2A"));
        QVERIFY2(warnings(f.said).contains("thin cord"), qPrintable(warnings(f.said)));
        QCOMPARE(f.cells.front().tries.size(), std::size_t(2));
        QCOMPARE(f.said.figures.front().parts.size(), std::size_t(4)); // promised, tolerance, both rows
    }

    void small_loads_data() {
        QTest::addColumn<QString>("rows");
        QTest::addColumn<QString>("sentence");
        QTest::addColumn<QString>("warning");
        QTest::newRow("a ladder") << "what,amps,state,after / load,0.1,stays on,300 s / load,0.05,goes off,40 s"
                                  << "The output goes off at 50 mA after 40 s and stays on at 100 mA."
                                  << "";
        QTest::newRow("watched for too short a time")
            << "what,amps,state,after / load,0.1,stays on,20 s / load,0.05,goes off,40 s"
            << "The output goes off at 50 mA after 40 s."
            << "watched_too_short";
        QTest::newRow("the smaller one stays on")
            << "what,amps,state,after / load,0.1,stays on,300 s / load,0.05,goes off,40 s / load,0.03,stays on,300 s"
            << "The output goes off at 50 mA after 40 s and stays on at 100 mA."
            << "ladder_contradicts";
        QTest::newRow("nothing goes off")
            << "what,amps,state,after / load,0.1,stays on,300 s / load,0.01,stays on,300 s"
            << "The output stays on down to 10 mA, the smallest current tried."
            << "";
    }
    void small_loads() {
        QFETCH(QString, rows);
        QFETCH(QString, sentence);
        QFETCH(QString, warning);
        const auto f = lightLoad(sheetOf(Kind::LightLoad, rows), {});
        QCOMPARE(QString::fromStdString(f.said.sentence), sentence);
        QVERIFY2(warning.isEmpty() ? f.said.warnings.empty() : warnings(f.said).contains(warning),
                 qPrintable(warnings(f.said)));
    }

    void what_is_left_when_the_source_goes() {
        const auto f = passThrough(
            sheetOf(
                Kind::PassThrough,
                "corner,in_v,in_a,out_v,out_a,time,back / in alone,9,2,,,, / out alone,,,5,2,, / both,9,2,5,2,, / source removed,,,5,1,300 ms,by itself"),
            {});
        QVERIFY2(f.said.sentence.find("After that it gives 5 V 5 W.") != std::string::npos, f.said.sentence.c_str());
        QVERIFY(f.what == PassClass::Shares);
    }
    // η of 90 ± 5 % each way, no round trip known: net = 0.9·in − out ÷ 0.9, its ± from both, by hand.
    void whether_it_gains_data() {
        QTest::addColumn<double>("in");
        QTest::addColumn<double>("out");
        QTest::addColumn<QString>("told");
        QTest::newRow("much more in") << 60.0 << 20.0 << "It then gains 32 W";
        QTest::newRow("much more out") << 20.0 << 40.0 << "It then loses 26 W";
        QTest::newRow("level") << 50.0 << 40.5 << "It then holds";
        QTest::newRow("a little less in, within what is known of its losses")
            << 44.0 << 40.0 << "Whether it then gains or loses is too close to call (−5 ± 5 W); 49 W would hold it";
    }
    void whether_it_gains() {
        QFETCH(double, in);
        QFETCH(double, out);
        QFETCH(QString, told);
        const auto f = passThrough(
            sheetOf(
                Kind::PassThrough,
                QStringLiteral("corner,in_v,in_a,out_v,out_a / in alone,20,%1,, / out alone,,,20,%2 / both,20,%1,20,%2")
                    .arg(in / 20.0)
                    .arg(out / 20.0)),
            {});
        QVERIFY2(QString::fromStdString(f.said.sentence).contains(told), f.said.sentence.c_str());
    }
    void in_and_out_of_one_port_are_no_contradiction() {
        label::Label l;
        l.ports = {{"C1",
                    label::Direction::Both,
                    *label::parseTiers("9V2.67A", "t"),
                    Watts(24.0),
                    {},
                    *label::parseTiers("9V2A", "t"),
                    Watts(18.0)}};
        QVERIFY(label::conflicts(l).empty());
        l.ports[0].inTiers = *label::parseTiers("9V3A", "t");
        QCOMPARE(label::conflicts(l).size(), std::size_t(1));
    }

    void gates_data() {
        QTest::addColumn<double>("value");
        QTest::addColumn<double>("u");
        QTest::addColumn<bool>("atLeast");
        QTest::addColumn<bool>("unlike");
        QTest::addColumn<int>("passes");
        QTest::newRow("given") << 60.0 << 0.5 << false << false << int(Passes::Yes);
        QTest::newRow("not given, though asked for") << 30.0 << 0.5 << false << false << int(Passes::No);
        QTest::newRow("60 W drawn settle 45 W") << 60.0 << 0.5 << true << false << int(Passes::Yes);
        QTest::newRow("5 W drawn exclude nobody") << 5.0 << 0.1 << true << false << int(Passes::NotKnown);
        QTest::newRow("found under another condition") << 30.0 << 0.5 << false << true << int(Passes::NotKnown);
        QTest::newRow("found under another condition, and enough") << 60.0 << 0.5 << false << true << int(Passes::Yes);
        QTest::newRow("within its doubt") << 44.8 << 0.5 << false << false << int(Passes::NotKnown);
    }
    void gates() {
        QFETCH(double, value);
        QFETCH(double, u);
        Cell c;
        c.value = Working{};
        c.value->unit = Unit::Watt;
        c.value->value = Measured(value, u, otterstone::testing::source("meter"));
        c.condition = "a small charger";
        QFETCH(bool, atLeast);
        QFETCH(bool, unlike);
        QFETCH(int, passes);
        c.atLeast = atLeast;
        c.unlike = unlike;
        std::string why;
        QCOMPARE(int(judgement::passes({"watts_alone", {}, 45.0, {}, "45 W"}, c, why)), passes);
        QCOMPARE(why.find("nobody asked for more") != std::string::npos, atLeast && passes == int(Passes::NotKnown));
    }
    // What one port gives at most is known when it gave way, and the others promise no more.
    void the_most_is_a_bound_until_all_outputs_gave_way_data() {
        QTest::addColumn<QString>("label");
        QTest::addColumn<QString>("rows");
        QTest::addColumn<bool>("atLeast");
        QTest::newRow("nobody asked for more") << "C1 out 9V3A"
                                               << "port,asked_v,amps,volts,state / C1,9,2,9,holds" << true;
        QTest::newRow("it gave way") << "C1 out 9V3A"
                                     << "port,asked_v,amps,volts,state / C1,9,3,9,holds / C1,9,3.5,,tripped" << false;
        QTest::newRow("another gave way")
            << "C1 out 9V3A / A out 5V2.4A"
            << "port,asked_v,amps,volts,state / C1,9,1,9,holds / A,5,2,5,holds / A,5,3,,tripped" << true;
        QTest::newRow("the other promises less")
            << "C1 out 9V3A / A out 5V2.4A"
            << "port,asked_v,amps,volts,state / C1,9,3,9,holds / C1,9,3.5,,tripped" << false;
    }
    void the_most_is_a_bound_until_all_outputs_gave_way() {
        QFETCH(QString, label);
        QFETCH(QString, rows);
        QFETCH(bool, atLeast);
        evidence::Evidence e;
        e.name = "Bank";
        const Facts facts = factsOf(label);
        e.label = facts.label;
        e.sheets = {{7, "stairs", sheetOf(Kind::Staircase, rows), facts}};
        const Comparison c = judgement::compare({e});
        QCOMPARE(c.row("watts_alone")->cells[0].atLeast, atLeast);
        QCOMPARE(c.row("trip_margin")->cells[0].known(), rows.contains("tripped"));
    }
    void a_bank_of_which_half_is_unknown_is_not_the_best() {
        Comparison c;
        c.banks = {"a", "b"};
        for (const judgement::FigureKind& kind : judgement::figureKinds())
            c.rows.push_back({kind, std::vector<Cell>(2)});
        const judgement::Purpose p{
            "own", "Own", "", {}, {{"usable_gentle", 0.0, 100.0, 1.0}, {"weight", 500.0, 0.0, 1.0}}};
        for (const std::size_t bank : {0U, 1U}) {
            Cell& weight =
                c.rows[static_cast<std::size_t>(judgement::figureKind("weight") - judgement::figureKinds().data())]
                    .cells[bank];
            weight.value = Working{};
            weight.value->value = Measured(200.0 + 100.0 * static_cast<double>(bank));
        }
        const auto r = judgement::rank(c, p);
        QVERIFY2(
            r.sentence.starts_with(
                "It cannot be said which is the best for “Own”: of a, which would lead, 50 % of the weight is not known. What would say it: usable at 1 A, 5 V"),
            r.sentence.c_str());
        // Who leads is known well, of the other one nothing is: where that stands says nothing.
        const auto cell = [&c](const char* figure, std::size_t bank) -> Cell& {
            return c.rows[static_cast<std::size_t>(judgement::figureKind(figure) - judgement::figureKinds().data())]
                .cells[bank];
        };
        cell("usable_gentle", 0).value = Working{};
        cell("usable_gentle", 0).value->value = Measured(90.0);
        cell("weight", 1).value.reset();
        const auto known = judgement::rank(c, p);
        QVERIFY2(
            known.sentence.starts_with("a comes out first for “Own”") &&
                known.sentence.ends_with("Of b half of the weight or more is not known, so its place says nothing."),
            known.sentence.c_str());
    }

    // How long a thing runs, and when it does not run at all.
    void planner_data() {
        QTest::addColumn<QString>("need");
        QTest::addColumn<QString>("says");
        QTest::addColumn<bool>("cannot");
        QTest::newRow("hours of use before days") << "Lamp 20 W 8 h"
                                                  << "3 h of use (0.38 of a day's 8 h)" << false;
        QTest::newRow("more than its ports give") << "Heater 30 W 1 h"
                                                  << "its best port is printed with 18 W" << true;
        QTest::newRow("so little that it sleeps") << "Sensor 0.2 W 24 h"
                                                  << "at 50 mA it went to sleep" << true;
        QTest::newRow("a computer takes what it gets") << "Computer 40 Wh 1x"
                                                       << "lasts" << false;
    }
    void planner() {
        QFETCH(QString, need);
        QFETCH(QString, says);
        QFETCH(bool, cannot);
        evidence::Evidence e;
        e.name = "Bank";
        e.label.ports = {{"C1", label::Direction::Out, *label::parseTiers("9V2A", "t"), {}, {}}};
        if (need.startsWith("Lamp"))
            e.label.ports[0].tiers = *label::parseTiers("20V2A", "t");
        Working w;
        w.key = "usable_wh";
        w.value = Measured(60.0, 0.5, otterstone::testing::source("drain"));
        w.unit = Unit::WattHour;
        e.together.usableFigure = w;
        e.sheets = {
            {7,
             "ladder",
             sheetOf(Kind::LightLoad, "what,amps,state,after / load,0.1,stays on,300 s / load,0.05,goes off,40 s"),
             {}}};
        const auto read = plan::parseNeed(need.toStdString(), "need");
        QVERIFY(read);
        const auto use = plan::planUse({e}, {*read}, 0.0).banks.front();
        QVERIFY2(use.sentence.find(says.toStdString()) != std::string::npos, use.sentence.c_str());
        QCOMPARE(!use.cannot.empty(), cannot);
        QCOMPARE(use.sentence.find("lasts") == std::string::npos, cannot); // not both in one breath
    }
};

QTEST_GUILESS_MAIN(PortJudgementTest)
#include "port_judgement_test.moc"
