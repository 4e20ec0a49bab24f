// D9 to D12 found by the live bench: the recipes on stand-ins whose policies are known, over the real pseudo-terminal
// and TCP.
#include "../core/generated_banks.h"
#include "bench_harness.h"

#include <cmath>

#include "core/kinds/light_load/light_load.h"
#include "core/kinds/matrix/matrix.h"
#include "core/kinds/pass_through/pass_through.h"
#include "core/kinds/sharing/sharing.h"
#include "core/kinds/survey/survey.h"

using namespace otterstone;
using namespace otterstone::kinds;
using namespace otterstone::testing;

class BehaviourLiveTest : public QObject {
    Q_OBJECT

    // A run of this recipe with this bank, from the plan to the sheet in the book.
    void run(const model::Bank& bank, const char* key, const char* rate, std::optional<records::Run>& found,
             Facts& facts, std::vector<bench::Source> sources = {}) {
        Standin standin({"--speed", "50000", "--in-step", "--rate", rate, "--charge", "0.7", "--charger-watts", "45",
                         "--charger-tiers", "5 V 3 A, 9 V 3 A, 15 V 3 A", "--cable-ohms", "0.06"},
                        bank);
        QVERIFY(standin.ok());
        OneBank one;
        records::Bank known = *one.book->bank(one.bank);
        known.label = labelOf(bank);
        QVERIFY(one.book->save(known));
        bench::Plan plan = planFor(recipe(key), one, standin);
        plan.sources = std::move(sources);
        bench::Session session;
        const auto outcome = runToEnd(session, plan, 60000);
        QVERIFY2(bench::isOrderly(outcome.stop.kind), outcome.stop.why.c_str());
        QCOMPARE(standin.truth().at("load_on").get<bool>(), false);
        QCOMPARE(standin.truth().at("second_load_on").get<bool>(), false);
        found = *one.book->run(outcome.run);
        QVERIFY(found->sheet);
        const auto finding = one.book->finding(outcome.run);
        QVERIFY2(finding && !finding->sentence.empty(), finding ? "" : finding.error().sentence().c_str());
        facts.label = known.label;
        facts.pathOhms = Measured(0.06);
    }
    static void rows() {
        QTest::addColumn<int>("number");
        for (int k = 0; k < kGeneratedBanks; ++k)
            QTest::addRow("bank %d", k) << k;
    }

private Q_SLOTS:
    void staircase_data() { rows(); }
    void staircase() {
        QFETCH(int, number);
        const model::Bank bank = generatedBank(number);
        std::optional<records::Run> run_;
        Facts facts;
        run(bank, "load-staircase", "5", run_, facts);
        const auto f = kinds::staircase(*run_->sheet, facts);
        QCOMPARE(f.stairs.size(), std::size_t(1));
        const Stair& s = f.stairs.front();
        const auto port =
            std::find_if(bank.ports.begin(), bank.ports.end(), [&](const model::Port& p) { return p.name == s.port; });
        QVERIFY(port != bank.ports.end());
        const double trip = port->tripAmps > 0.0 ? port->tripAmps : bank.overCurrentAmps;
        // The last good step is as read: the meter's own error counts.
        QVERIFY2(s.lastGood && s.firstBad && *s.lastGood <= trip * 1.002 + 0.004 && trip <= *s.firstBad,
                 f.said.sentence.c_str());
        QVERIFY2(s.recovery == expected(bank.recovery.how), f.said.sentence.c_str());
    }
    void sharing_data() { rows(); }
    void sharing() {
        QFETCH(int, number);
        const model::Bank bank = generatedBank(number);
        std::optional<records::Run> run_;
        Facts facts;
        run(bank, "sharing-round", "5", run_, facts);
        const auto f = kinds::sharing(*run_->sheet, facts);
        QCOMPARE(f.rounds.size(), bank.ports.size() * (bank.ports.size() - 1));
        using Policy = model::Sharing::Policy;
        for (const Round& r : f.rounds) {
            const SharedPort &first = r.ports[0], &second = r.ports[1];
            switch (bank.sharing.policy) {
            case Policy::Independent:
                QVERIFY2(!first.fellToFive() && !second.fellToFive() && *first.kept() > 0.97 && *second.kept() > 0.97,
                         f.said.sentence.c_str());
                break;
            case Policy::FallBackToFive:
                QVERIFY2(first.fellToFive() && second.fellToFive(), f.said.sentence.c_str());
                break;
            case Policy::FirstKeeps:
                QVERIFY2(!first.fellToFive() && *first.kept() > 0.9 && (second.fellToFive() || second.starved()),
                         f.said.sentence.c_str());
                break;
            case Policy::SplitAmps: // each at most its share of the total
                if (first.starved() || second.starved())
                    break; // the other is alone then
                for (const SharedPort* p : {&first, &second})
                    QVERIFY2(p->starved() || (p->fellToFive() && *p->togetherWatts / *p->togetherVolts <=
                                                                     bank.sharing.totalAmps / 2.0 * 1.06),
                             f.said.sentence.c_str());
                break;
            }
        }
    }
    void pass_through_data() { rows(); }
    void pass_through() {
        QFETCH(int, number);
        const model::Bank bank = generatedBank(number);
        std::optional<records::Run> run_;
        Facts facts;
        run(bank, "pass-through", "20", run_, facts);
        const auto f = passThrough(*run_->sheet, facts);
        const PassClass classes[] = {PassClass::Refuses, PassClass::SourceFirst, PassClass::LoadFirst,
                                     PassClass::Shares, PassClass::SlowsBoth};
        QVERIFY2(f.what == classes[static_cast<int>(bank.passThrough)], f.said.sentence.c_str());
        if (f.what == PassClass::Refuses)
            return;
        QVERIFY(f.dropOutSeconds);
        QVERIFY2(std::fabs(*f.dropOutSeconds - bank.renegotiateSeconds) <= 0.15,
                 qPrintable(QStringLiteral("%1 s, truth %2 s").arg(*f.dropOutSeconds).arg(bank.renegotiateSeconds)));
    }
    void light_load_data() { rows(); }
    void light_load() {
        QFETCH(int, number);
        const model::Bank bank = generatedBank(number);
        std::optional<records::Run> run_;
        Facts facts;
        run(bank, "light-load-ladder", "1", run_, facts);
        const auto f = lightLoad(*run_->sheet, facts);
        QVERIFY2(f.plain.offAt && f.plain.onAt && *f.plain.offAt < bank.lightLoad.belowAmps &&
                     bank.lightLoad.belowAmps <= *f.plain.onAt,
                 f.said.sentence.c_str());
        QVERIFY2(std::fabs(*f.plain.secondsToOff - bank.lightLoad.afterSeconds) <= 2.5, f.said.sentence.c_str());
        QVERIFY(f.lowModeHelps == true);
    }
    void survey_and_matrix_data() {
        QTest::addColumn<int>("number");
        for (int k = 0; k < kGeneratedBanks; ++k)
            QTest::addRow("bank %d", k) << k;
    }
    void survey_and_matrix() {
        QFETCH(int, number);
        model::Bank bank = generatedBank(number);
        bank.overCurrentAmps = 3.4;
        std::optional<records::Run> run_;
        Facts facts;
        run(bank, "port-survey", "5", run_, facts);
        for (const SurveyCell& c : kinds::survey(*run_->sheet, facts).cells)
            QVERIFY2(
                c.in || (c.promised() ? c.state == TierState::Holds : c.state == TierState::NotOffered),
                qPrintable(
                    QString("%1 %2 V: %3").arg(c.port.c_str()).arg(c.tierVolts).arg(tierStateWords(c.state).c_str())));
        std::vector<bench::Source> sources;
        for (const char* tiers : {"5 V 2 A", "5 V 3 A, 9 V 2 A", "5 V 3 A, 9 V 3 A, 15 V 3 A"}) {
            const double watts = label::bestTier(tiersOf(tiers))->watts().value;
            facts.chargers.push_back({tiers, {tiersOf(tiers), Watts(watts)}, {}});
            sources.push_back(
                {tiers, "plain", "C1",
                 nlohmann::json{{"tiers", tiers}, {"watts", watts}, {"ohms", 0.06}, {"amps", 3.0}, {"port", "C1"}}
                     .dump()});
        }
        facts.cables = {{"plain", Amps(3.0), 0.06, {}}};
        const auto chargers = facts.chargers;
        run(bank, "input-matrix", "5", run_, facts, sources);
        facts.chargers = chargers;
        facts.label.ports[0].tiers = bank.ports[0].takes;
        const auto m = matrix(*run_->sheet, facts);
        QCOMPARE(m.cells.size(), std::size_t(3));
        for (const MatrixCell& c : m.cells)
            QVERIFY2(c.predicted && std::fabs(*c.volts - c.predicted->best.volts.value) < 0.6 && c.why.empty(),
                     qPrintable(QString("%1: %2 V, %3 W").arg(c.source.c_str()).arg(*c.volts).arg(*c.watts)));
    }
};

QTEST_GUILESS_MAIN(BehaviourLiveTest)
#include "behaviour_live_test.moc"
