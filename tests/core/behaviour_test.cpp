// D9 to D12, the survey and the matrix: against banks whose policies are known, against the sums' own check values, and
// as a person writes them down.
#include <QTest>

#include <cmath>

#include "core/kinds/cells/cells.h"
#include "core/kinds/directions/directions.h"
#include "core/kinds/light_load/light_load.h"
#include "core/kinds/matrix/matrix.h"
#include "core/kinds/pass_through/pass_through.h"
#include "core/kinds/sharing/sharing.h"
#include "core/kinds/survey/survey.h"
#include "core/label/usb_facts.h"
#include "core/model/bench.h"
#include "core/model/hands.h"
#include "generated_banks.h"

using namespace otterstone;
using namespace otterstone::kinds;
using namespace otterstone::testing;

namespace {

Sheet sheetOf(Kind kind, std::initializer_list<const char*> lines) {
    std::string text;
    for (const char* line : lines)
        text += std::string(line) + "\n";
    return sheetFromText(kind, text);
}

model::Tools tools() {
    model::Tools t;
    t.charger.tiers = tiersOf("5 V 3 A, 9 V 3 A, 15 V 3 A");
    t.charger.watts = 45.0;
    return t;
}

Facts factsOf(const model::Bank& bank) {
    Facts f;
    f.label = labelOf(bank);
    f.pathOhms = Measured(tools().cable.ohms);
    return f;
}

void rows() {
    QTest::addColumn<int>("number");
    for (int k = 0; k < kGeneratedBanks; ++k)
        QTest::addRow("bank %d", k) << k;
}

} // namespace

class BehaviourTest : public QObject {
    Q_OBJECT

private Q_SLOTS:
    void a_staircase_finds_trip_resistance_and_recovery_data() { rows(); }
    void a_staircase_finds_trip_resistance_and_recovery() {
        QFETCH(int, number);
        const model::Bank bank = generatedBank(number);
        for (const std::size_t port : {0u, 1u}) {
            const Facts facts = factsOf(bank);
            const double rated = port == 0 ? 3.0 : 2.4,
                         trip = bank.ports[port].tripAmps > 0.0 ? bank.ports[port].tripAmps : bank.overCurrentAmps;
            const auto f = staircase(model::staircaseByHand(bank, port, 5.0, rated, tools()), facts);
            QCOMPARE(f.stairs.size(), std::size_t(1));
            const Stair& s = f.stairs.front();
            QVERIFY(s.lastGood && s.firstBad && *s.lastGood <= trip && trip <= *s.firstBad);
            QVERIFY(s.margin() && s.margin()->first <= trip / rated - 1.0 && trip / rated - 1.0 <= s.margin()->second);
            QVERIFY(s.recovery == expected(bank.recovery.how));
            if (s.recovery == Recovery::ByItself)
                QVERIFY(std::fabs(*s.recoverySeconds - bank.recovery.seconds) <=
                        8.0 + 1.0); // it tripped somewhere within the step
            // The output's own resistance, inside its stated interval (± half a written digit on top).
            QVERIFY2(std::fabs(s.ohms->value() - bank.output.outputOhms) <= s.ohms->expanded() + 0.0005,
                     qPrintable(QString::number(s.ohms->value())));
            QVERIFY(f.said.remarks.empty());
        }
    }
    void sharing_finds_who_falls_back_data() { rows(); }
    void sharing_finds_who_falls_back() {
        QFETCH(int, number);
        const model::Bank bank = generatedBank(number);
        const auto f = sharing(model::sharingByHand(bank, tools()), factsOf(bank));
        QCOMPARE(f.rounds.size(), bank.ports.size() * (bank.ports.size() - 1));
        using Policy = model::Sharing::Policy;
        for (const Round& r : f.rounds) {
            const SharedPort &first = r.ports[0], &second = r.ports[1];
            switch (bank.sharing.policy) {
            case Policy::Independent:
                QVERIFY(!first.fellToFive() && !second.fellToFive() && *first.kept() > 0.97 && *second.kept() > 0.97);
                QVERIFY(*r.fairness > 0.999);
                break;
            case Policy::FallBackToFive: QVERIFY(first.fellToFive() && second.fellToFive()); break;
            case Policy::FirstKeeps:
                QVERIFY(!first.fellToFive() && *first.kept() > 0.97);
                QVERIFY(second.fellToFive() || second.starved());
                break;
            case Policy::SplitAmps:
                QVERIFY(first.fellToFive() && second.fellToFive());
                QVERIFY2(std::fabs(*r.mostAmps - *r.fewestAmps) <= 0.05 * *r.mostAmps, f.said.sentence.c_str());
                break;
            }
        }
        QCOMPARE(f.orderMatters, bank.sharing.policy == Policy::FirstKeeps);
        QCOMPARE(f.splitAmps.has_value(), bank.sharing.policy == Policy::SplitAmps);
        if (f.splitAmps)
            QVERIFY2(std::fabs(*f.splitAmps / bank.sharing.totalAmps - 1.0) < 0.06,
                     qPrintable(QString::number(*f.splitAmps)));
    }
    void pass_through_finds_the_class_and_the_balance_data() { rows(); }
    void pass_through_finds_the_class_and_the_balance() {
        QFETCH(int, number);
        const model::Bank bank = generatedBank(number);
        const auto f = passThrough(model::passThroughByHand(bank, 0, 1, tools()), factsOf(bank));
        const PassClass classes[] = {PassClass::Refuses, PassClass::SourceFirst, PassClass::LoadFirst,
                                     PassClass::Shares, PassClass::SlowsBoth};
        QVERIFY2(f.what == classes[static_cast<int>(bank.passThrough)], f.said.sentence.c_str());
        if (f.what == PassClass::Refuses)
            return;
        // What the cells really did with both plugged in.
        model::Bench bench(bank, 0.7, 20.0);
        bench.plugLoad(1, tools().cable, {9.0, 5.0});
        bench.setLoad(1, {model::Load::Mode::ConstantCurrent, 1.0, true});
        bench.plugCharger(0, tools().charger, tools().cable);
        const double before = bench.bank().pack().storedWattHours();
        for (int k = 0; k < 3000; ++k)
            bench.step(0.1);
        const double net = (bench.bank().pack().storedWattHours() - before) * 12.0; // W, mean over 5 min
        if (f.balance == Balance::Gains)
            QVERIFY(net > 0.0);
        if (f.balance == Balance::Loses)
            QVERIFY(net < 0.0);
        // Drop-out: what the firmware's renegotiation takes, to a hundredth of a second.
        QVERIFY(f.dropOutSeconds);
        QVERIFY2(std::fabs(*f.dropOutSeconds - bank.renegotiateSeconds) < 0.02,
                 qPrintable(QString::number(*f.dropOutSeconds)));
    }
    void a_light_load_finds_the_current_and_the_time_data() { rows(); }
    void a_light_load_finds_the_current_and_the_time() {
        QFETCH(int, number);
        const model::Bank bank = generatedBank(number);
        const auto f = lightLoad(model::lightLoadByHand(bank, 1, tools()), factsOf(bank));
        QVERIFY(f.plain.offAt && f.plain.onAt && *f.plain.offAt < bank.lightLoad.belowAmps &&
                bank.lightLoad.belowAmps <= *f.plain.onAt);
        QVERIFY(std::fabs(*f.plain.secondsToOff - bank.lightLoad.afterSeconds) <= 0.6);
        QVERIFY(f.lowModeHelps == true);
        QCOMPARE(*f.bankWatts, bank.standbyWatts);
    }
    void the_predicted_tier_is_what_the_bank_takes_data() { rows(); }
    void the_predicted_tier_is_what_the_bank_takes() {
        QFETCH(int, number);
        const model::Bank bank = generatedBank(number);
        std::vector<model::NamedCharger> chargers;
        Facts facts = factsOf(bank);
        facts.label.ports[0].tiers = bank.ports[0].takes; // its input side
        for (const auto& [name, tiers, watts] : {std::tuple("small", "5 V 2 A", 10.0),
                                                 {"middle", "5 V 3 A, 9 V 2 A", 18.0},
                                                 {"large", "5 V 3 A, 9 V 3 A, 15 V 3 A", 45.0},
                                                 {"odd", "5 V 3 A, 20 V 2 A", 40.0}}) {
            model::Charger c;
            c.tiers = tiersOf(tiers);
            c.watts = watts;
            chargers.push_back({name, c});
            facts.chargers.push_back({name, {c.tiers, Watts(watts)}, {}});
        }
        facts.cables = {{"thin", Amps(1.5), 0.05, {}}, {"plain", Amps(3.0), 0.05, {}}};
        const auto f = matrix(
            model::matrixByHand(bank, 0, chargers, {{"thin", {0.05, 1.5}}, {"plain", {0.05, 3.0}}}, tools()), facts);
        QCOMPARE(f.cells.size(), std::size_t(8));
        for (const MatrixCell& c : f.cells) {
            QVERIFY(c.predicted);
            QVERIFY2(std::fabs(*c.volts - c.predicted->best.volts.value) < 0.5,
                     qPrintable(QString("%1 %2: %3 V").arg(c.source.c_str(), c.cable.c_str()).arg(*c.volts)));
            QVERIFY2(c.why.empty() && *c.watts <= c.predicted->best.watts().value * 1.001,
                     qPrintable(QString::number(*c.watts)));
        }
        const MatrixCell& best = *f.layers.at(0).best;
        QCOMPARE(*best.watts, *std::max_element(f.cells.begin(), f.cells.end(), [](const auto& a, const auto& b) {
                                   return *a.watts < *b.watts;
                               })->watts);
        QVERIFY(best.cable == "plain" && best.source != "small");
    }
    void a_survey_of_an_honest_label_holds_and_of_swapped_ones_says_so_data() { rows(); }
    void a_survey_of_an_honest_label_holds_and_of_swapped_ones_says_so() {
        QFETCH(int, number);
        model::Bank bank = generatedBank(number);
        bank.overCurrentAmps = 3.4;
        Facts facts = factsOf(bank);
        const auto honest = survey(model::surveyByHand(bank, facts.label, tools()), facts);
        for (const SurveyCell& c : honest.cells)
            QVERIFY2(
                c.in || (c.promised() ? c.state == TierState::Holds : c.state == TierState::NotOffered),
                qPrintable(
                    QString("%1 %2 V: %3").arg(c.port.c_str()).arg(c.tierVolts).arg(tierStateWords(c.state).c_str())));
        QVERIFY(honest.swapped.empty());
        if (bank.ports[0].gives.size() < 3)
            return; // two ports with the same tiers can't be told apart
        std::swap(facts.label.ports[0].tiers, facts.label.ports[1].tiers);
        facts.label.ports[0].tiers = tiersOf("5 V 2.4 A");
        const auto swapped = survey(model::surveyByHand(bank, facts.label, tools()), facts);
        QVERIFY2(swapped.swapped.size() == 1 && swapped.said.sentence.find("look swapped") != std::string::npos,
                 swapped.said.sentence.c_str());
    }
    void who_gives_when_two_are_joined_data() { rows(); }
    void who_gives_when_two_are_joined() {
        QFETCH(int, number);
        const model::Bank bank = generatedBank(number), other = generatedBank(number + 1);
        const auto f = directions(model::directionsByHand(bank, 0, other, "the other", tools()), factsOf(bank));
        const bool takes =
            bank.dualRole == model::DualRole::TakesFirst && other.dualRole == model::DualRole::GivesFirst;
        QCOMPARE(f.joints.size(), std::size_t(2));
        QVERIFY(f.joints[0].result == (takes ? Direction::Takes : Direction::Gives));
        QVERIFY(f.joints[1].result == Direction::Gives);
    }

    // Check values of the design's own sums. Common practice, no published source.
    void margins_and_splits_are_those_of_the_sums() {
        const auto f = staircase(
            sheetOf(Kind::Staircase, {"port,asked_v,amps,volts,state", "C,20,146,20.1,holds", "C,20,148,0,tripped"}),
            [] {
                Facts facts;
                facts.label.ports = {{"C", label::Direction::Out, {{Volts(20.0), Volts(20.0), Amps(140.0)}}, {}, {}}};
                return facts;
            }());
        QVERIFY(std::fabs(f.stairs.front().margin()->first - 0.043) < 0.0005 &&
                std::fabs(f.stairs.front().margin()->second - 0.057) < 0.0005);
        const auto s = sharing(sheetOf(Kind::Sharing, {"round,port,alone_v,alone_a,together_v,together_a",
                                                       "1,A,5,2.4,5,1.2", ",B,5,2.4,5,1.2", ",C,5,2.4,5,1.2"}),
                               {});
        QCOMPARE(*s.splitAmps, 3.6);
    }
    // The path comes off with its ±: a straight line knows nothing of it.
    void a_staircase_carries_the_paths_doubt() {
        Facts facts;
        facts.pathOhms = Measured(0.060, 0.010, ErrorSource::ofBench("cable", "resistance"));
        const auto f = staircase(
            sheetOf(Kind::Staircase, {"port,asked_v,amps,volts,state", "C,5,0.5,5.05,holds", "C,5,1,5.0,holds",
                                      "C,5,2,4.9,holds", "C,5,3,4.8,holds", "C,5,3.5,0,tripped"}),
            facts);
        const Stair& s = f.stairs.front();
        QVERIFY(std::fabs(s.ohms->value() - 0.040) < 1e-9); // 0.1 Ω seen, 0.06 Ω of them the cable's
        QVERIFY(std::fabs(s.ohms->u() - 0.010) < 1e-6);
        QCOMPARE(s.fitted, std::size_t(4));
        bool told = false;
        for (const Working& w : f.said.figures)
            told = told || w.formula.find("4 steps that held") != std::string::npos;
        QVERIFY(told);
    }
    void volts_that_rise_with_the_load_are_an_error_told() {
        Facts facts;
        facts.pathOhms = Measured(0.25, 0.01, ErrorSource::ofBench("cable", "resistance")); // stated too large
        const auto f = staircase(sheetOf(Kind::Staircase, {"port,asked_v,amps,volts,state", "C,5,0.5,5.05,holds",
                                                           "C,5,1,5.0,holds", "C,5,2,4.9,holds", "C,5,3,4.8,holds"}),
                                 facts);
        bool told = false, given = false;
        for (const Warning& w : f.said.warnings)
            told = told || w.code == "negative_resistance";
        for (const Working& w : f.said.figures)
            given = given || w.key.starts_with("output_ohms");
        QVERIFY(told && !given);
    }
    // R. Jain, D. Chiu, W. Hawe (1984): 1 for equal shares, k/n when k of n share alike and the rest get nothing.
    void jains_index_has_its_limits() {
        QCOMPARE(jainIndex({2.0, 2.0, 2.0}), 1.0);
        QCOMPARE(jainIndex({1.0, 0.0, 0.0, 0.0}), 0.25);
        QVERIFY(std::fabs(jainIndex({1.0, 1.0, 0.0}) - 2.0 / 3.0) < 1e-12);
    }
    void sharing_reads_as_one_sentence() {
        Facts facts;
        facts.label.ports = {{"C1", label::Direction::Both, {}, {}, {}}, {"A", label::Direction::Out, {}, {}, {}}};
        const auto f = sharing(sheetOf(Kind::Sharing, {"round,port,alone_v,alone_a,together_v,together_a",
                                                       "1,C1,9.0,2.0,5.0,1.8", ",A,5.0,1.0,5.0,1.0"}),
                               facts);
        QCOMPARE(QString::fromStdString(f.said.sentence),
                 QStringLiteral("With both outputs in use, C1 fell from 9 V 18 W to 5 V 9 W and A kept 5 V 5 W."));
    }
    void a_hole_is_not_tried_and_never_fails() {
        Facts facts;
        facts.label.ports = {{"C1", label::Direction::Out, tiersOf("5 V 3 A, 9 V 2 A"), {}, {}}};
        const auto f = survey(sheetOf(Kind::Survey, {"port,asked_v,offered,amps,volts", "C1,5,yes,3,5.02"}), facts);
        QVERIFY(f.cells[1].state == TierState::NotTried);
        QCOMPARE(f.said.sentence, std::string("The promised tier that was tried holds its current. 1 was not tried."));
    }
    void what_a_person_gets_wrong_is_told_with_its_place_data() {
        QTest::addColumn<int>("kind");
        QTest::addColumn<QString>("text");
        QTest::addColumn<QString>("code");
        const auto row = [](const char* name, Kind kind, const char* text, const char* code) {
            QTest::newRow(name) << static_cast<int>(kind) << text << code;
        };
        row("letters for amps", Kind::Staircase, "port,amps,volts\nC1,two,5\n", "not_a_number");
        row("negative", Kind::Staircase, "port,amps,volts\nC1,-2,5\n", "negative");
        row("unknown word", Kind::LightLoad, "what,amps,state\nload,0.1,perhaps\n", "unknown_word");
        row("half a step", Kind::LightLoad, "what,amps,state\nload,0.1,\n", "half_step");
        row("no port", Kind::Sharing, "round,port,alone_v\n1,,5\n", "no_port");
        row("no corner", Kind::PassThrough, "corner,in_v\n,5\n", "no_corner");
        row("cell without amps", Kind::Cells, "cell,volts\n1,4.1\n", "half_row");
    }
    void what_a_person_gets_wrong_is_told_with_its_place() {
        QFETCH(int, kind);
        QFETCH(QString, text);
        QFETCH(QString, code);
        const auto said = judge(sheetFromText(static_cast<Kind>(kind), text.toStdString()), {});
        QVERIFY(!said);
        QCOMPARE(QString::fromStdString(said.error().code), code);
        QVERIFY(said.error().place.starts_with("row 1, "));
    }
    void cells_are_summed_and_held_against_the_input() {
        const auto f =
            cells(sheetOf(Kind::Cells, {"cell,volts,amps", "1,4.02,1.5", "2,4.11,1.5", "input,9.0,1.6"}), {});
        QVERIFY(std::fabs(f.share->value() - (4.02 + 4.11) * 1.5 / 14.4) < 1e-9);
        QCOMPARE(f.said.warnings.front().code, std::string("cells_uneven"));
        const auto above =
            cells(sheetOf(Kind::Cells, {"cell,volts,amps", "1,4.0,2.5", "2,4.0,2.5", "input,9.0,1.6"}), {});
        QCOMPARE(above.said.warnings.front().code, std::string("cells_above_input"));
    }
    // A6, row by row: the values as the design quotes them, from memory of the standards named there.
    void usb_facts_stand_as_quoted_data() {
        QTest::addColumn<int>("fact");
        QTest::addColumn<double>("value");
        using label::Fact;
        const std::pair<Fact, double> all[] = {{Fact::SourceLow, 4.75},          {Fact::SourceHigh, 5.5},
                                               {Fact::OldSourceHigh, 5.25},      {Fact::FixedTolerance, 0.05},
                                               {Fact::TypeCDefault2, 0.5},       {Fact::TypeCDefault3, 0.9},
                                               {Fact::TypeCMedium, 1.5},         {Fact::TypeCHigh, 3.0},
                                               {Fact::DedicatedPort, 1.5},       {Fact::CableUnmarked, 3.0},
                                               {Fact::CableUnmarkedWatts, 60.0}, {Fact::CableMarked, 5.0},
                                               {Fact::CableMarkedWatts, 100.0},  {Fact::CableExtendedWatts, 240.0},
                                               {Fact::DropForward, 0.5},         {Fact::DropReturn, 0.25},
                                               {Fact::RuleNine, 15.0},           {Fact::RuleFifteen, 27.0},
                                               {Fact::RuleTwenty, 45.0},         {Fact::RuleTwentyEight, 100.0}};
        for (const auto& [fact, value] : all)
            QTest::newRow(std::string(label::usbFacts()[static_cast<std::size_t>(fact)].what).c_str())
                << static_cast<int>(fact) << value;
        QCOMPARE(std::size(all), label::usbFacts().size());
    }
    void usb_facts_stand_as_quoted() {
        QFETCH(int, fact);
        QFETCH(double, value);
        const label::UsbFact& row = label::usbFacts()[static_cast<std::size_t>(fact)];
        QCOMPARE(static_cast<int>(row.fact), fact);
        QCOMPARE(label::usbFact(row.fact), value);
        QVERIFY(!row.standard.empty() && row.standard.starts_with("USB"));
    }
    void tolerances_follow_the_facts() {
        QVERIFY(label::toleranceOf(5.0).holds(5.45) && !label::toleranceOf(5.0, true).holds(5.45) &&
                !label::toleranceOf(5.0).holds(4.74));
        QVERIFY(label::toleranceOf(20.0).holds(19.0) && !label::toleranceOf(20.0).holds(18.9));
    }
    void combinations_are_read_and_contradict() {
        const auto shared = label::parseShared("C1 45W + A 15 W; C1 30W + C2 15W + A 15W", "shared");
        QVERIFY(shared && shared->size() == 2 && (*shared)[1].total().value == 60.0);
        QCOMPARE(*label::parseShared(label::showShared(*shared), "again"), *shared);
        for (const char* bad : {"C1 45W", "C1 + A", "C1 45W + A 15V"})
            QVERIFY(!label::parseShared(bad, "shared"));
        label::Label l;
        l.ports = {{"C1", label::Direction::Both, tiersOf("20 V 2.25 A"), {}, {}},
                   {"A", label::Direction::Out, tiersOf("5 V 3 A"), {}, Watts(12.0)}};
        l.shared = *label::parseShared("C1 30W + A 15W", "shared");
        QCOMPARE(label::promisedTogether(l, "a", {"A", "C1"})->value, 15.0);
        QCOMPARE(label::promisedTogether(l, "A", {"A", "C2"})->value, 12.0);
        QVERIFY(!label::promisedTogether(l, "A", {"A"}));
    }
};

QTEST_APPLESS_MAIN(BehaviourTest)
#include "behaviour_test.moc"
