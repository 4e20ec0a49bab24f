// E2 and D17: banks side by side, ranked for a purpose, and how long they keep things going.
#include <QTest>

#include <cmath>

#include "core/judgement/rank.h"
#include "core/judgement/verdict.h"
#include "core/kinds/pass_through/pass_through.h"
#include "core/model/simulate.h"
#include "core/plan/use.h"
#include "sources.h"

using namespace otterstone;
using namespace otterstone::judgement;

namespace {

Cell number(const char* key, const Measured& value, const char* conditionClass = "") {
    Cell c;
    c.value = Working{};
    c.value->key = key;
    c.value->value = value;
    c.value->unit = figureKind(key)->unit;
    c.conditionClass = conditionClass;
    c.condition = conditionClass;
    return c;
}

// A comparison of banks with these rows only; the others are unknown.
Comparison table(const std::vector<std::string>& banks, const std::map<std::string, std::vector<Cell>>& rows) {
    Comparison c;
    c.banks = banks;
    for (const FigureKind& kind : figureKinds()) {
        const auto at = rows.find(kind.key);
        c.rows.push_back({kind, at == rows.end() ? std::vector<Cell>(banks.size()) : at->second});
    }
    return c;
}

Purpose weighing(std::vector<Scale> scales, std::vector<Gate> gates = {}) {
    return {"own", "Own", "", std::move(gates), std::move(scales)};
}

const Ranked& of(const Ranking& r, std::size_t bank) {
    for (const Ranked& b : r.banks) {
        if (b.bank == bank)
            return b;
    }
    qFatal("no such bank");
}

Evidence usable(const char* name, double wattHours, double u, double grams) {
    Evidence e;
    e.name = name;
    e.label.weightGrams = grams;
    Working w;
    w.key = "usable_wh";
    w.value = Measured(wattHours, u, otterstone::testing::source(std::string(name) + " drain"));
    w.unit = Unit::WattHour;
    e.together.usableFigure = w;
    return e;
}

kinds::RunEntry measured(long long id, const trace::Trace& trace, records::Kind kind, const label::Label& label,
                         std::optional<double> chargerWatts = {}) {
    setup::Setup s;
    s.meter = *path::parseMeter("volts 0.1%+3mV, amps 0.2%+3mA", "meter");
    s.meter.name = "Bench meter";
    s.pathOhms = Measured(0.0);
    if (chargerWatts)
        s.chargerWatts = Watts(*chargerWatts);
    setRating(s, label);
    kinds::RunEntry e;
    e.run = id;
    e.title = records::kindKey(kind) + " " + std::to_string(id);
    e.charger = chargerWatts ? "charger" : "";
    e.chargerWatts = chargerWatts;
    e.finding = *kinds::analyse(trace, kind, s);
    return e;
}

model::Reading slowly() {
    model::Reading r;
    r.sampleSeconds = 5.0;
    r.idleAfter = 900.0;
    return r;
}

// A bank of 4 Ah, drained at a load and filled by a charger.
Evidence tested(const std::string& name, double volts, double amps, double chargerWatts) {
    model::Bank bank;
    bank.cells.ampHours = 4.0;
    label::Label l;
    l.energy = WattHours(14.8);
    l.weightGrams = 180.0;
    l.price = 20.0;
    l.currency = "crowns";
    l.ports = {{"C", label::Direction::Both, *label::parseTiers("5 V 3 A, 9 V 2 A", "t"), Watts(18), {}}};
    model::DrainPlan drain;
    drain.volts = volts;
    drain.amps = amps;
    model::RechargePlan recharge;
    recharge.chargerWatts = chargerWatts;
    Evidence e;
    e.name = name;
    e.label = l;
    e.runs = {measured(1, model::recharge(bank, recharge, slowly()).trace, records::Kind::Recharge, l, chargerWatts),
              measured(2, model::drain(bank, drain, slowly()).trace, records::Kind::Drain, l)};
    e.together = together::judgeTogether(e.runs, 14.8, {});
    return e;
}

plan::Need need(const char* text) { return plan::parseNeed(text, "row").value(); }

} // namespace

class ChoiceTest : public QObject {
    Q_OBJECT

private Q_SLOTS:
    void a_score_is_the_weighted_sum_between_its_anchors() {
        const auto c = table({"one"}, {{"usable_gentle", {number("usable_gentle", Measured(60.0))}},
                                       {"weight", {number("weight", Measured(250.0))}}});
        const Ranking r = rank(c, weighing({{"usable_gentle", 20.0, 100.0, 3.0}, {"weight", 500.0, 100.0, 1.0}}));
        // 0.75 × (60 − 20) ÷ 80 + 0.25 × (250 − 500) ÷ (100 − 500) = 0.375 + 0.15625
        QVERIFY(std::fabs(r.banks.front().score.value() - 53.125) < 1e-9);
        QCOMPARE(r.banks.front().score.u(), 0.0);
        QVERIFY(std::fabs(r.banks.front().parts[1].points() - 15.625) < 1e-9);
    }
    void beyond_the_anchors_counts_no_more() {
        const auto c = table(
            {"far", "edge"},
            {{"usable_gentle", {number("usable_gentle", Measured(500.0)), number("usable_gentle", Measured(100.0))}}});
        const Ranking r = rank(c, weighing({{"usable_gentle", 0.0, 100.0, 1.0}}));
        QCOMPARE(r.banks[0].score.value(), r.banks[1].score.value());
    }
    // Two normal figures, difference 1, u of the difference √2: Φ(1/√2) = 0.7602 (any table).
    void the_chance_of_being_the_best_follows_the_doubt() {
        const auto c = table(
            {"a", "b"}, {{"usable_gentle",
                          {number("usable_gentle", Measured(51.0, 1.0, otterstone::testing::source("repeats"))),
                           number("usable_gentle", Measured(50.0, 1.0, otterstone::testing::source("repeats")))}}});
        const Ranking r = rank(c, weighing({{"usable_gentle", 0.0, 100.0, 1.0}}), {200000, 10, 1});
        QVERIFY2(std::fabs(of(r, 0).chanceBest - 0.7602) < 0.005, qPrintable(QString::number(of(r, 0).chanceBest)));
    }
    // The same meter read both: its gain moves both alike, and the better one stays the better one.
    void what_one_instrument_errs_does_not_tell_banks_apart() {
        const auto c = table(
            {"a", "b"},
            {{"usable_gentle",
              {number("usable_gentle", Measured(51.0, 1.0, otterstone::testing::source("Bench meter: volts gain"))),
               number("usable_gentle", Measured(50.0, 1.0, otterstone::testing::source("Bench meter: volts gain")))}}});
        QCOMPARE(of(rank(c, weighing({{"usable_gentle", 0.0, 100.0, 1.0}})), 0).chanceBest > 0.999, true);
    }
    void an_unknown_figure_may_lie_anywhere() {
        const auto c =
            table({"known", "unknown"}, {{"usable_gentle", {number("usable_gentle", Measured(75.0)), Cell{}}}});
        const Ranking r = rank(c, weighing({{"usable_gentle", 0.0, 100.0, 1.0}}), {100000, 10, 1});
        QVERIFY(of(r, 1).parts.front().unknown);
        QVERIFY(std::fabs(of(r, 1).chanceBest - 0.25) < 0.01);
        QVERIFY(std::fabs(of(r, 1).score.u() - 100.0 / std::sqrt(12.0)) < 0.3);
    }
    void gates_come_first_data() {
        QTest::addColumn<bool>("known");
        QTest::addColumn<double>("watts");
        QTest::addColumn<bool>("passes");
        QTest::newRow("enough") << true << 45.0 << true;
        QTest::newRow("just enough") << true << 40.0 << true;
        QTest::newRow("too little") << true << 39.9 << false;
        QTest::newRow("not known: it stays in, marked") << false << 0.0 << true;
    }
    void gates_come_first() {
        QFETCH(bool, known);
        QFETCH(double, watts);
        QFETCH(bool, passes);
        const auto c = table(
            {"strong", "asked"},
            {{"watts_alone",
              {number("watts_alone", Measured(60.0)), known ? number("watts_alone", Measured(watts)) : Cell{}}},
             {"usable_gentle", {number("usable_gentle", Measured(10.0)), number("usable_gentle", Measured(90.0))}}});
        const Ranking r =
            rank(c, weighing({{"usable_gentle", 0.0, 100.0, 1.0}}, {{"watts_alone", {}, 40.0, {}, "must give 40 W"}}));
        QCOMPARE(of(r, 1).passes(), passes);
        QCOMPARE(of(r, 1).notKnown.size(), std::size_t(known ? 0 : 1));
        QCOMPARE(r.banks.front().bank, std::size_t(passes ? 1 : 0));
        QCOMPARE(of(r, 1).chanceBest > 0.5, passes);
    }
    void a_text_gate_asks_for_its_codes() {
        Cell cabin, hold;
        cabin.value = remark("flight", "in the cabin");
        cabin.code = "carry-on";
        hold.value = remark("flight", "not on board");
        hold.code = "not-on-board";
        std::string why;
        const Gate gate{"flight", {"carry-on"}, {}, {}, "must fly"};
        QVERIFY(judgement::passes(gate, cabin, why) == Passes::Yes);
        QVERIFY(judgement::passes(gate, hold, why) == Passes::No);
        QCOMPARE(why, std::string("not on board"));
        QVERIFY(judgement::passes(gate, Cell{}, why) == Passes::NotKnown);
    }
    // a leads by energy, b by weight: at three times the weight's weight it is even (0.5·w₁ = 0.25·…): found where the
    // sums cross.
    void it_tells_at_which_weight_another_leads() {
        const auto c = table(
            {"a", "b"},
            {{"usable_gentle", {number("usable_gentle", Measured(80.0)), number("usable_gentle", Measured(50.0))}},
             {"weight", {number("weight", Measured(400.0)), number("weight", Measured(300.0))}}});
        // a: 0.8 w₁ + 0.2 w₂, b: 0.5 w₁ + 0.4 w₂; equal where 0.3 w₁ = 0.2 w₂.
        const Ranking r = rank(c, weighing({{"usable_gentle", 0.0, 100.0, 1.0}, {"weight", 500.0, 0.0, 1.0}}));
        QCOMPARE(r.banks.front().bank, std::size_t(0));
        QVERIFY(r.turnings[1].above && std::fabs(*r.turnings[1].above - 1.6) < 0.11);
        QCOMPARE(r.turnings[1].leaderAbove, std::string("b"));
        QVERIFY(r.turnings[0].below && std::fabs(*r.turnings[0].below - 0.66) < 0.011);
        QVERIFY(!r.turnings[0].above);
    }
    // What differs in its condition from most of its row is marked, and told with the condition; what agrees is not.
    void unlike_conditions_are_marked_data() {
        QTest::addColumn<double>("volts");
        QTest::addColumn<double>("amps");
        QTest::addColumn<double>("charger");
        QTest::addColumn<QString>("marked");
        QTest::newRow("all alike") << 5.0 << 1.0 << 18.0 << "";
        QTest::newRow("a charger too small") << 5.0 << 1.0 << 10.0 << "recharge_80 recharge_100";
        QTest::newRow("no gentle drain") << 9.0 << 1.8 << 18.0
                                         << "usable_gentle delivered_share round_trip wh_per_kg price_per_wh";
    }
    void unlike_conditions_are_marked() {
        QFETCH(double, volts);
        QFETCH(double, amps);
        QFETCH(double, charger);
        QFETCH(QString, marked);
        const Comparison c = compare(
            {tested("one", 5.0, 1.0, 18.0), tested("two", 5.0, 1.0, 18.0), tested("other", volts, amps, charger)});
        QStringList found;
        for (const FigureRow& row : c.rows) {
            QVERIFY2(!row.cells[0].unlike && !row.cells[1].unlike, row.kind.key.c_str());
            if (row.cells[2].unlike) {
                found << QString::fromStdString(row.kind.key);
                QVERIFY2(unlikeWords(row, c.banks).find("other " + row.cells[2].condition) != std::string::npos,
                         row.kind.key.c_str());
            } else {
                QVERIFY(unlikeWords(row, c.banks).empty());
            }
        }
        QCOMPARE(found.join(QLatin1Char(' ')), marked);
        // A ranking weighs such a figure, and says so.
        const Purpose p = weighing({{"usable_gentle", 0.0, 20.0, 1.0}, {"recharge_80", 14400.0, 1800.0, 1.0}});
        const Ranking r = rank(c, p);
        for (std::size_t k = 0; k < r.banks.size(); ++k) {
            for (const Contributed& part : r.banks[k].parts) {
                QCOMPARE(part.unlike, r.banks[k].bank == 2 && found.contains(QString::fromStdString(part.figure)));
                bool said = false;
                for (const Working& w : r.working(k, c, p).parts)
                    said = said || (w.label == figureKind(part.figure)->words &&
                                    w.note.find("another condition") != std::string::npos);
                QCOMPARE(said, part.unlike);
            }
        }
    }
    // Prices in two currencies cannot be held against each other; the rarer one is marked.
    void currencies_are_told_apart() {
        std::vector<Evidence> banks = {tested("one", 5.0, 1.0, 18.0), tested("two", 5.0, 1.0, 18.0),
                                       tested("other", 5.0, 1.0, 18.0)};
        banks[2].label.currency = "marks";
        const Comparison c = compare(banks);
        const FigureRow& row = *c.row("price_per_wh");
        QVERIFY(!row.cells[0].unlike && !row.cells[1].unlike && row.cells[2].unlike);
    }
    // The table's figures are the runs' own, with their workings: usable ÷ rated, weight, price.
    void figures_add_up() {
        const Comparison c = compare({tested("one", 5.0, 1.0, 18.0)});
        const auto value = [&](const char* key) { return c.row(key)->cells[0].value->value.value(); };
        QVERIFY(std::fabs(value("delivered_share") - value("usable_gentle") / 14.8) < 1e-12);
        QVERIFY(std::fabs(value("wh_per_kg") - value("usable_gentle") / 0.18) < 1e-9);
        QVERIFY(std::fabs(value("price_per_wh") - 20.0 / value("usable_gentle")) < 1e-12);
        QVERIFY(value("round_trip") > 0.5 && value("round_trip") < value("delivered_share") + 0.2);
        QVERIFY(value("recharge_80") < value("recharge_100"));
        QCOMPARE(c.row("flight")->cells[0].code, std::string("carry-on"));
        QVERIFY(!c.row("trip_margin")->cells[0].known());
        QCOMPARE(c.row("trip_margin")->cells[0].shown(), std::string("not known"));
    }
    void a_chance_is_written_one_way_data() {
        QTest::addColumn<double>("chance");
        QTest::addColumn<QString>("words");
        QTest::newRow("never") << 0.0 << "0 %";
        QTest::newRow("hardly ever") << 0.004 << "under 1 %";
        QTest::newRow("some") << 0.735 << "74 %";
        QTest::newRow("nearly always") << 0.996 << "over 99 %";
        QTest::newRow("always") << 1.0 << "100 %";
    }
    void a_chance_is_written_one_way() {
        QFETCH(double, chance);
        QFETCH(QString, words);
        QCOMPARE(QString::fromStdString(chanceWords(chance)), words);
    }
    void purposes_survive_their_file() {
        QVERIFY(purposes().size() >= 5);
        for (const Purpose& p : purposes()) {
            const auto again = purposeFromJson(purposeToJson(p), "file");
            QVERIFY2(again, again ? "" : again.error().sentence().c_str());
            QCOMPARE(*again, p);
        }
    }
    // A gate asked for the class by its words once; files name it by its key now.
    void an_older_purpose_still_asks_for_its_class() {
        const auto p = purposeFromJson(
            R"({"gates": [{"figure": "pass_through", "one_of": ["source first", "shares"], "words": "must give"}],
                "scales": [{"figure": "weight", "worst": 900, "best": 100}]})",
            "old.json");
        QVERIFY2(p, p ? "" : p.error().sentence().c_str());
        QCOMPARE(p->gates.front().codes, (std::vector<std::string>{"source_first", "shares"}));
        const auto passing = kinds::passingKeys();
        for (const std::string& code : p->gates.front().codes)
            QVERIFY(std::find(passing.begin(), passing.end(), code) != passing.end());
        QVERIFY(std::find(passing.begin(), passing.end(), "refuses") == passing.end());
    }
    void a_bad_purpose_is_named_data() {
        QTest::addColumn<QString>("json");
        QTest::addColumn<QString>("says");
        QTest::newRow("no JSON") << "weights"
                                 << "not a purpose";
        QTest::newRow("no such figure") << R"({"scales": [{"figure": "colour", "worst": 0, "best": 1}]})"
                                        << "colour";
        QTest::newRow("a text is weighed") << R"({"scales": [{"figure": "flight", "worst": 0, "best": 1}]})"
                                           << "flight";
        QTest::newRow("one anchor twice") << R"({"scales": [{"figure": "weight", "worst": 1, "best": 1}]})"
                                          << "anchors";
        QTest::newRow("weight of nothing")
            << R"({"scales": [{"figure": "weight", "worst": 1, "best": 0, "weight": 0}]})"
            << "weight above 0";
        QTest::newRow("weighs nothing") << R"({"gates": []})"
                                        << "weighs nothing";
        QTest::newRow("a gate without a question") << R"({"gates": [{"figure": "weight"}], "scales": []})"
                                                   << "asks for nothing";
        QTest::newRow("a missing value") << R"({"scales": [{"figure": "weight"}]})"
                                         << "missing";
    }
    void a_bad_purpose_is_named() {
        QFETCH(QString, json);
        QFETCH(QString, says);
        const auto read = purposeFromJson(json.toStdString(), "own.json");
        QVERIFY(!read);
        QVERIFY2(QString::fromStdString(read.error().sentence()).contains(says), read.error().sentence().c_str());
    }

    void needs_are_read_as_people_write_them_data() {
        QTest::addColumn<QString>("typed");
        QTest::addColumn<QString>("shown");
        QTest::addColumn<double>("perDay");
        QTest::newRow("watts and hours") << "Camera 2 W 8 h"
                                         << "Camera 2 W 8 h" << 16.0;
        QTest::newRow("battery and charges") << "Tablet 26.4 Wh 1x"
                                             << "Tablet 26.4 Wh 1x" << 26.4;
        QTest::newRow("all three, empty") << "Field tablet, 26,4 Wh, 5.5 W, 4 h, empty"
                                          << "Field tablet 26.4 Wh 5.5 W 4 h empty" << 22.0;
        QTest::newRow("a name with a digit") << "Camera 2: 1.5W 10h"
                                             << "Camera 2 1.5 W 10 h" << 15.0;
        QTest::newRow("nothing a day") << "Camera 2 W"
                                       << "" << 0.0;
        QTest::newRow("too many hours") << "Camera 2 W 25 h"
                                        << "" << 0.0;
        QTest::newRow("two that ran into one") << "Camera 2 W 8 hTablet 26.4 Wh 1x"
                                               << "" << 0.0;
        QTest::newRow("two on one line") << "Camera 2 W 8 h Tablet 26.4 Wh 1x"
                                         << "" << 0.0;
        QTest::newRow("a figure twice") << "Camera 2 W 8 h 3 W"
                                        << "" << 0.0;
        QTest::newRow("as it is spoken") << "Camera 2 W for 8 h a day, starts empty"
                                         << "Camera 2 W 8 h empty" << 16.0;
        QTest::newRow("a name alone") << "Camera"
                                      << "" << 0.0;
    }
    void needs_are_read_as_people_write_them() {
        QFETCH(QString, typed);
        QFETCH(QString, shown);
        QFETCH(double, perDay);
        const auto read = plan::parseNeed(typed.toStdString(), "row 1");
        QCOMPARE(read ? QString::fromStdString(plan::showNeed(*read)) : QString(), shown);
        if (read)
            QVERIFY(std::fabs(*plan::wattHoursPerDay(*read) - perDay) < 1e-9);
        else
            QVERIFY(!read.error().mend.empty());
    }
    // 115 Wh at 32 W run 3.6 h (the worked value of D17); at 3.6 h a day that is one day.
    void a_load_runs_as_long_as_the_sum_says() {
        const auto p = plan::planUse({usable("bank", 115.0, 1.0, 500.0)}, {need("lamp 32 W 3.6 h")}, 0.0);
        const Measured days = p.banks.front().days->value / Measured(86400.0);
        QVERIFY(std::fabs(days.value() - 115.0 / (32.0 * 3.6)) < 1e-9);
        QVERIFY(std::fabs(days.u() / days.value() - 1.0 / 115.0) < 1e-6);
    }
    // A bank of which nobody read a watt: as often as it charged the phone, so many days of a charge a day. Another
    // device it was not seen to charge, so nothing is reckoned for that.
    void a_notebook_tells_how_long_its_device_lasts() {
        Evidence e;
        e.name = "bank";
        setup::Facts facts;
        facts.run = "7";
        e.sheets.push_back({7, "Evening",
                            kinds::sheetFromText(records::Kind::Notebook,
                                                 "time,Phone 12.9 Wh,bank,happened\n14:00,5,full,\n15:10,full,,\n"
                                                 "15:15,3,,\n15:50,52,,died\n"),
                            facts});
        const auto of = [&e](const char* what) { return plan::planUse({e}, {need(what)}, 1.0).banks.front(); };
        const auto phone = of("Phone 12.9 Wh 1x empty");
        QVERIFY(phone.days);
        const double days = phone.days->value.value() / 86400.0;
        QVERIFY2(std::fabs(days - 1.44) < 0.01, qPrintable(QString::number(days))); // (95 + 49) ÷ 100
        QVERIFY(phone.suffices == judgement::Verdict::Meets);
        QVERIFY2(phone.charges.front().formula.find("Evening: charges Phone") == 0,
                 phone.charges.front().formula.c_str());
        QVERIFY(!of("Tablet 26.4 Wh 1x empty").days);
        // Used twice a day it is empty within the first.
        QVERIFY(of("Phone 12.9 Wh 2x empty").suffices == judgement::Verdict::FallsShort);
    }
    // 60 Wh at 85 % into 30 Wh batteries, 15 Wh a day: empty devices 60·0.85/15 = 3.4 days; a full one adds its own 2
    // days.
    void starting_full_or_empty_makes_a_difference() {
        const auto full =
            plan::planUse({usable("bank", 60.0, 0.5, 300.0)}, {need("tablet 30 Wh 0.5x")}, 0.0).banks.front();
        const auto empty =
            plan::planUse({usable("bank", 60.0, 0.5, 300.0)}, {need("tablet 30 Wh 0.5x empty")}, 0.0).banks.front();
        QVERIFY(std::fabs(empty.days->value.value() / 86400.0 - 3.4) < 1e-9);
        QVERIFY(std::fabs(full.days->value.value() / 86400.0 - 5.4) < 1e-9);
        QVERIFY(std::fabs(full.daysEmpty->value.value() / 86400.0 - 3.4) < 1e-9);
        QVERIFY(std::fabs(full.charges.front().value.value() - 60.0 * 0.85 / 30.0) < 1e-9);
    }
    // The same, by hand: the full tablet draws nothing for its own two days, then 15 Wh a day through 85 % of 60 Wh; a
    // lamp of 10 Wh a day draws from the first hour on.
    void what_is_left_in_it_falls_day_by_day() {
        const auto b =
            plan::planUse({usable("bank", 60.0, 0.5, 300.0)}, {need("tablet 30 Wh 0.5x"), need("lamp 5 W 2 h")}, 0.0)
                .banks.front();
        QCOMPARE(b.left.size(), std::size_t(3));
        QVERIFY(b.left[0].day == 0.0 && b.left[0].share == 1.0);
        QCOMPARE(b.left[1].day, 2.0);
        QVERIFY(std::fabs(b.left[1].share - (1.0 - 2.0 * 10.0 / 60.0)) < 1e-9);
        const double days = 2.0 + (1.0 - 20.0 / 60.0) / (10.0 / 60.0 + 15.0 / 51.0);
        QVERIFY2(std::fabs(b.left[2].day - days) < 1e-9, qPrintable(QString::number(b.left[2].day)));
        QVERIFY(b.left[2].share < 1e-9);
        QVERIFY(std::fabs(b.days->value.value() / 86400.0 - days) < 1e-9);
        const auto weak = plan::planUse({usable("bank", 60.0, 0.5, 300.0)}, {need("kettle 900 W 1 h")}, 0.0);
        QVERIFY(weak.banks.front().cannot.empty() == !weak.banks.front().left.empty());
    }
    // A device whose own battery outlasts the rest does not draw on the bank: torch 100 days, lamp 10 Wh a day from 50
    // Wh is 5 days.
    void a_device_that_lasts_by_itself_takes_nothing() {
        const auto p =
            plan::planUse({usable("bank", 50.0, 0.5, 300.0)}, {need("lamp 5 W 2 h"), need("torch 100 Wh 0.01x")}, 0.0);
        QVERIFY(std::fabs(p.banks.front().days->value.value() / 86400.0 - 5.0) < 1e-9);
    }
    // The formula that is shown gives the value that is shown: 60 Wh × 85 % for 15 Wh a day is 29.4 %, a full battery
    // of 30 Wh saves 58.8 %.
    void the_working_adds_up() {
        const auto b =
            plan::planUse({usable("bank", 60.0, 0.001, 300.0)}, {need("tablet 30 Wh 0.5x")}, 0.0).banks.front();
        QVERIFY2(b.days->formula.starts_with("(1 + ") && b.days->formula.find(") ÷ (") != std::string::npos,
                 b.days->formula.c_str());
        QVERIFY2(b.daysEmpty->formula.starts_with("(1) ÷ ("), b.daysEmpty->formula.c_str());
        const auto idle =
            plan::planUse({usable("bank", 50.0, 0.5, 300.0)}, {need("lamp 5 W 2 h"), need("torch 100 Wh 0.01x")}, 0.0)
                .banks.front();
        QVERIFY(idle.days->formula.find('+') == std::string::npos); // the torch takes nothing
        QVERIFY(idle.days->parts[1].note.find("takes nothing") != std::string::npos);
    }
    void every_charger_says_how_long_a_recharge_takes() {
        Evidence e = tested("bank", 5.0, 1.0, 18.0);
        model::Bank bank;
        bank.cells.ampHours = 4.0;
        model::RechargePlan slow;
        slow.chargerWatts = 9.0;
        slow.volts = 5.0;
        e.runs.push_back(
            measured(3, model::recharge(bank, slow, slowly()).trace, records::Kind::Recharge, e.label, 9.0));
        e.runs.back().charger = "small one";
        e.together = together::judgeTogether(e.runs, 14.8, {});
        const auto use = plan::planUse({e}, {need("lamp 5 W 2 h")}, 7.0).banks.front();
        QCOMPARE(use.ways.size(), std::size_t(2));
        QVERIFY(use.sentence.find("with charger, ") != std::string::npos &&
                use.sentence.find("with small one") != std::string::npos);
    }
    // A computer in use gains, holds, or loses more slowly, by what the best port gives.
    void a_computer_in_use_data() {
        QTest::addColumn<QString>("typed");
        QTest::addColumn<QString>("what");
        QTest::newRow("gains") << "computer 50 Wh 2 W 4 h"
                               << "charging";
        QTest::newRow("loses more slowly") << "computer 50 Wh 30 W 4 h"
                                           << "losing more slowly";
    }
    void a_computer_in_use() {
        QFETCH(QString, typed);
        QFETCH(QString, what);
        const auto use = plan::planUse({tested("bank", 5.0, 1.0, 18.0)}, {need(qPrintable(typed))}, 0.0).banks.front();
        QCOMPARE(use.inUse.size(), std::size_t(1));
        QCOMPARE(QString::fromStdString(kinds::inUseWords(use.inUse.front().balance.what)), what);
    }
    void which_banks_suffice_and_when_to_recharge() {
        const auto p = plan::planUse(
            {usable("small", 20.0, 0.2, 120.0), usable("large", 80.0, 0.8, 400.0), usable("same", 80.0, 0.8, 350.0)},
            {need("lamp 5 W 2 h")}, 7.0);
        QCOMPARE(p.banks[0].suffices, Verdict::FallsShort);
        QCOMPARE(p.banks[1].suffices, Verdict::Meets);
        QCOMPARE(p.banks[0].rechargeOnDay.size(), std::size_t(3)); // after 2, 4 and 6 days
        QVERIFY(std::fabs(p.banks[0].rechargeOnDay.back() - 6.0) < 1e-9);
        QCOMPARE(p.smallestSet, std::vector<std::string>{"same"}); // one is enough, and the lighter of two
        QVERIFY(p.setIsSure);
        const auto ten = plan::planUse({usable("small", 20.0, 0.2, 120.0), usable("large", 80.0, 0.8, 400.0)},
                                       {need("lamp 5 W 2 h")}, 9.5);
        QCOMPARE(ten.smallestSet.size(), std::size_t(2));
        QVERIFY(plan::planUse({usable("small", 20.0, 0.2, 120.0)}, {need("lamp 5 W 2 h")}, 9.5).smallestSet.empty());
    }
    void it_always_says_the_medical_caution() {
        QVERIFY(plan::planUse({}, {}, 0.0).warnings.front().text.find("Medical") == 0);
    }
};

QTEST_APPLESS_MAIN(ChoiceTest)
#include "choice_test.moc"
