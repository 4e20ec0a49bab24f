// D2, D8, D14, D17, D18: what the runs of one bank say together.
#include <QTest>

#include <cmath>

#include "core/kinds/traced/device.h"
#include "core/life/life.h"
#include "core/life/specimens.h"
#include "core/together/bank_findings.h"
#include "sources.h"
#include "traces.h"

using namespace otterstone;
using namespace otterstone::testing;
using kinds::RunEntry;
using setup::Schools;

namespace {

bool near(double a, double b, double relative) { return std::fabs(a - b) <= relative * std::fabs(b); }

path::Meter meter() {
    path::Meter m = *path::parseMeter("volts 0.05%+2mV, amps 0.1%+3mA", "meter");
    m.name = "bench meter";
    return m;
}

RunEntry drained(long long id, double hours, double volts, double amps, const std::string& day, bool settling = false,
                 bool accuracyStated = true) {
    trace::Trace t;
    addLevel(t, 30, volts, 0.0, 10.0);
    addLevel(t, hours * 3600, volts, amps, 10.0);
    addLevel(t, 60, 0.0, 0.0, 10.0);
    setup::Setup s;
    if (accuracyStated)
        s.meter = meter();
    label::Label l;
    l.energy = WattHours(37);
    setRating(s, l);
    s.ends.began = records::usualBeginning(records::Kind::Drain);
    RunEntry r;
    r.run = id;
    r.title = "drain " + std::to_string(id);
    r.startedAt = day;
    r.settling = settling;
    r.finding = *kinds::analyse(t, records::Kind::Drain, s);
    return r;
}

RunEntry filled(long long id, const std::string& day, std::optional<double> chargerEfficiency = {},
                bool accuracyStated = true) {
    setup::Setup s;
    if (accuracyStated)
        s.meter = meter();
    if (chargerEfficiency) {
        s.chargerEfficiency = Measured(*chargerEfficiency);
        s.farOhms = Measured(0.0);
    }
    RunEntry r;
    r.run = id;
    r.title = "recharge " + std::to_string(id);
    r.startedAt = day;
    r.charger = "Hut socket";
    r.finding = *kinds::analyse(recharge(6000), records::Kind::Recharge, s);
    return r;
}

} // namespace

class TogetherTest : public QObject {
    Q_OBJECT

private Q_SLOTS:
    // Common practice: 72/96 = 75 %; × 0.9 = 67.5 %, so + 48 %, not + 32 %.
    void extra_from_the_grid_is_one_over_efficiency_less_one() {
        const Working trip = together::roundTripWorking(Measured(72), Measured(96));
        QVERIFY(near(trip.value.value(), 0.75, 1e-12));
        const Working extra = together::extraFromGrid(Measured(0.675));
        QVERIFY(std::fabs(extra.value.value() - 0.4815) < 1e-4);
        QVERIFY(extra.note.find("not 32 %") != std::string::npos || extra.note.find("not 33 %") != std::string::npos);
    }
    // The same meter on both runs: its gain errors cancel in the quotient.
    void one_meters_gain_cancels_in_the_round_trip() {
        const Measured out = Measured(72, 0.7, otterstone::testing::source("meter: volts gain")),
                       in = Measured(96, 96 * 0.7 / 72, otterstone::testing::source("meter: volts gain"));
        QVERIFY(together::roundTripWorking(out, in).value.u() < 1e-12);
    }
    void pairs_take_the_recharge_before_the_drain() {
        const auto b = together::judgeTogether({filled(1, "2026-01-01", 0.9), drained(2, 4.0, 5.0, 1.0, "2026-01-02"),
                                                filled(3, "2026-01-03"), drained(4, 2.0, 5.0, 2.0, "2026-01-04")},
                                               37.0, {});
        QCOMPARE(b.pairs.size(), std::size_t(2));
        QCOMPARE(b.pairs[0].recharge, 1LL);
        QCOMPARE(b.pairs[1].recharge, 3LL);
        QVERIFY(b.pairs[0].wallToPort.has_value());
        QVERIFY(near(b.pairs[0].wallToPort->value(), 0.9 * b.pairs[0].roundTrip.value(), 1e-9));
        QVERIFY(!b.pairs[1].wallToPort.has_value());
        QCOMPARE(b.inputs.size(), std::size_t(2));
        QCOMPARE(b.inputs[0].charger, std::string("Hut socket"));
    }
    // A ± of the log's digits alone would promise what no meter has: where one meter of two said nothing of its
    // accuracy, no sum of both has one either.
    void without_a_meters_accuracy_no_doubt_is_shown_data() {
        QTest::addColumn<bool>("drain");
        QTest::addColumn<bool>("recharge");
        QTest::newRow("both meters' accuracy is stated") << true << true;
        QTest::newRow("the drain was read off another, of which nothing is known") << false << true;
        QTest::newRow("the recharge was") << true << false;
        QTest::newRow("nobody looked up any") << false << false;
    }
    void without_a_meters_accuracy_no_doubt_is_shown() {
        QFETCH(bool, drain);
        QFETCH(bool, recharge);
        const auto b = together::judgeTogether(
            {filled(1, "2026-01-01", 0.9, recharge), drained(2, 2.0, 5.0, 2.0, "2026-01-02", false, drain),
             filled(3, "2026-01-03", 0.9, recharge), drained(4, 2.0, 5.0, 2.01, "2026-01-04", false, drain)},
            37.0, {});
        const auto shows = [](const Working& w) { return QString::fromStdString(w.shown()).contains("±"); };
        QCOMPARE(b.pairs.size(), std::size_t(2));
        for (const Working& w : b.pairs.front().figures)
            QVERIFY2(shows(w) == (drain && recharge), (w.key + ": " + w.shown()).c_str());
        QVERIFY(b.cycles);
        QVERIFY2(shows(*b.cycles) == recharge, b.cycles->shown().c_str());
        QCOMPARE(b.repeats.size(), std::size_t(2));
        QVERIFY2(shows(b.repeats[0].working) == drain, b.repeats[0].working.shown().c_str());
        QVERIFY2(shows(b.repeats[1].working) == recharge, b.repeats[1].working.shown().c_str());
        for (const together::RepeatGroup& g : b.repeats)
            QCOMPARE(QString::fromStdString(g.sentence).contains("±"), shows(g.working));
        // Beside another piece of the same model, and in the bank's own life: its count against the book's.
        const life::Specimen mine{1, "mine", {}, {drained(2, 2.0, 5.0, 2.0, "2026-01-02", false, drain)}},
            other{2, "other", {}, {drained(3, 2.1, 5.0, 2.0, "2026-01-02", false, recharge)}};
        const life::SideBySide beside = life::compareSpecimens(mine, std::span(&other, 1)).front();
        QCOMPARE(beside.figures.size(), std::size_t(3));
        QVERIFY(shows(beside.figures[0]) == drain && shows(beside.figures[1]) == recharge);
        QVERIFY(shows(beside.figures[2]) == (drain && recharge));
        QCOMPARE(QString::fromStdString(beside.sentence).contains("how well they were metered is not known"),
                 !(drain && recharge));
        records::Past past;
        past.counts = *records::parseCounts("2026-01-01: 10 Wh out; 2026-01-10: 40 Wh out", "test");
        const life::Life life = life::lifeOf(mine.runs, past, 37.0);
        const auto booked = std::find_if(life.figures.begin(), life.figures.end(),
                                         [](const Working& w) { return w.key.starts_with("booked_out"); });
        QVERIFY(booked != life.figures.end());
        QCOMPARE(shows(*booked), drain);
    }
    // Common practice: 259.2 / 86.4 = 3.
    void cycles_are_energy_put_in_over_rated() {
        const Working w = together::cycleCount(Measured(259.2), 86.4);
        QVERIFY(near(w.value.value(), 3.0, 1e-12));
        QVERIFY(w.note.starts_with("3 whole"));
        QVERIFY(together::cycleCount(Measured(258.0), 86.4).note.starts_with("2 whole"));
    }

    void repeats_leave_settling_runs_out() {
        const std::vector<RunEntry> runs = {
            drained(1, 4.4, 5.0, 1.0, "2026-01-01", true), drained(2, 4.00, 5.0, 1.0, "2026-01-02"),
            drained(3, 4.02, 5.0, 1.0, "2026-01-03"), drained(4, 3.98, 5.0, 1.0, "2026-01-04"),
            drained(5, 1.0, 9.0, 2.0, "2026-01-05")};
        const auto b = together::judgeTogether(runs, 37.0, {});
        QCOMPARE(b.repeats.size(), std::size_t(1));
        const auto& g = b.repeats.front();
        QCOMPARE(g.runs, (std::vector<long long>{2, 3, 4}));
        QCOMPARE(g.leftOut, std::vector<long long>{1});
        QVERIFY(near(g.repeats.mean.value(), 20.0, 0.005));
        QCOMPARE(g.working.school, std::string("mean"));
        QCOMPARE(g.working.others.size(), std::size_t(2));
        Schools once;
        once.repeating = setup::Repeating::Once;
        QCOMPARE(together::judgeTogether(runs, 37.0, once).repeats.front().repeats.count, std::size_t(1));
    }

    void only_runs_under_the_same_conditions_repeat_one_another() {
        std::vector<RunEntry> runs = {
            drained(1, 4.00, 5.0, 1.0, "2026-01-02"), drained(2, 4.02, 5.0, 1.0, "2026-01-03"),
            drained(3, 3.00, 5.0, 1.0, "2026-01-04"), drained(4, 3.02, 5.0, 1.0, "2026-01-05")};
        runs[2].conditions = {"outdoors", "Case  on"};
        runs[3].conditions = {"case on", "Outdoors"};
        const auto b = together::judgeTogether(runs, 37.0, {});
        QCOMPARE(b.repeats.size(), std::size_t(2));
        QCOMPARE(b.repeats[0].runs, (std::vector<long long>{1, 2}));
        QCOMPARE(b.repeats[1].runs, (std::vector<long long>{3, 4}));
        QVERIFY(!QString::fromStdString(b.repeats[0].what).contains("outdoors"));
        QVERIFY(b.repeats[1].what.ends_with(", outdoors; Case  on"));
        runs[3].conditions = {"case on"};
        QCOMPARE(together::judgeTogether(runs, 37.0, {}).repeats.size(), std::size_t(1));
    }

    // D17, common practice: 115 Wh, 32 W → 3.6 h.
    void runtime_of_a_load() {
        const Working w = kinds::runtime(Measured(115, 1.0, otterstone::testing::source("drain")), 32, "");
        QVERIFY(near(w.value.value(), 3.59375 * 3600, 1e-12));
        QVERIFY(near(w.value.u() / w.value.value(), 1.0 / 115, 1e-12));
    }

    void repeated_recharges_are_grouped_by_their_power() {
        const auto b = together::judgeTogether(
            {filled(1, "2026-01-01"), filled(2, "2026-01-02"), filled(3, "2026-01-03")}, 37.0, {});
        QCOMPARE(b.repeats.size(), std::size_t(1));
        QVERIFY(b.repeats.front().what.starts_with("recharge at 18 W"));
        QCOMPARE(b.repeats.front().repeats.count, std::size_t(3));
        QVERIFY(b.repeats.front().repeats.mean.contributions().size() >=
                1); // alike to the digit: the scatter is nothing, the meter's error stays
        QVERIFY(b.repeats.front().repeats.mean.u() > 0.0);
    }
    void undated_runs_keep_the_books_order() {
        const auto b = together::judgeTogether(
            {drained(1, 4.0, 5.0, 1.0, ""), filled(2, ""), drained(3, 2.0, 5.0, 2.0, "2020-01-01")}, 37.0, {});
        QCOMPARE(b.pairs.size(), std::size_t(2));
        QCOMPARE(b.pairs[0].drain, 1LL); // its recharge came after it, and is still its only one
        QCOMPARE(b.pairs[0].recharge, 2LL);
    }
    void runs_that_did_not_end_are_left_out() {
        trace::Trace t;
        addLevel(t, 3600, 5.0, 1.0, 10.0); // the log ends under load
        RunEntry half;
        half.run = 9;
        half.finding = *kinds::analyse(t, records::Kind::Drain, {});
        const auto b = together::judgeTogether({filled(1, "2026-01-01"), half, half}, 37.0, {});
        QVERIFY(b.pairs.empty() && b.repeats.empty() && !b.usable && !b.usableFigure);
        QVERIFY(b.cycles.has_value()); // what went in still counts
    }
    void efficiency_is_reckoned_as_the_house_does_data() {
        QTest::addColumn<int>("against");
        QTest::addColumn<QString>("school");
        QTest::newRow("label") << static_cast<int>(setup::Against::Label) << "label";
        QTest::newRow("put in") << static_cast<int>(setup::Against::PutIn) << "put_in";
        QTest::newRow("wall") << static_cast<int>(setup::Against::Wall) << "wall";
    }
    void efficiency_is_reckoned_as_the_house_does() {
        QFETCH(int, against);
        QFETCH(QString, school);
        Schools s;
        s.against = static_cast<setup::Against>(against);
        const auto b =
            together::judgeTogether({filled(1, "2026-01-01", 0.9), drained(2, 4.0, 5.0, 1.0, "2026-01-02")}, 37.0, s);
        QCOMPARE(QString::fromStdString(b.efficiency->school), school);
        QCOMPARE(b.efficiency->others.size(), std::size_t(2));
        const double in = b.pairs.front().figures.front().value.value();
        const double expected = school == "label" ? 20.0 / 37.0 : school == "put_in" ? in : 0.9 * in;
        QVERIFY(near(b.efficiency->value.value(), expected, 0.01));
    }
    void what_went_into_a_device_reaches_back_to_the_wall() {
        trace::Trace t;
        addLevel(t, 30, 5.0, 0.0, 10.0);
        addLevel(t, 4 * 3600, 5.0, 1.0, 10.0);
        addLevel(t, 60, 0.0, 0.0, 10.0);
        setup::Setup s;
        s.device = setup::Device{"lamp", Stated(18.0), {}, {}};
        s.marks = {{0, records::Mark::What::DevicePercent, 10, ""},
                   {14430, records::Mark::What::DevicePercent, 95, ""}};
        RunEntry into;
        into.run = 2;
        into.startedAt = "2026-01-02";
        into.intoDevice = true;
        into.finding = *kinds::analyse(t, records::Kind::Drain, s);
        QVERIFY(near(kinds::figure(into.finding, "stored_wh")->value.value(), 0.85 * 18.0, 1e-9));
        Schools devices;
        devices.drainBy = setup::DrainBy::Devices;
        const auto b = together::judgeTogether({filled(1, "2026-01-01", 0.9), into}, 37.0, devices);
        QVERIFY(b.pairs.front().wallToDevice.has_value());
        QVERIFY(near(b.pairs.front().wallToDevice->value() / b.pairs.front().wallToPort->value(), 0.85 * 18.0 / 20.0,
                     0.01));
        QCOMPARE(b.usableFigure->school, std::string("devices"));
    }
    void a_curve_at_one_voltage_stands_before_a_mixed_one() {
        std::vector<RunEntry> runs = {drained(1, 10.0, 5.0, 0.4, "2026-01-01"), drained(2, 4.0, 5.0, 1.0, "2026-01-02"),
                                      drained(3, 1.9, 5.0, 2.0, "2026-01-03"), drained(4, 1.1, 9.0, 2.0, "2026-01-04")};
        const auto b = together::judgeTogether(runs, 37.0, {});
        QCOMPARE(b.usableTier, std::string("5 V"));
        QCOMPARE(b.usable->points().size(), std::size_t(3));
        QCOMPARE(b.otherDrains.size(), std::size_t(1));
        runs.erase(runs.begin()); // voltages are not mixed: two loads at 5 V, and what else is known, stand before one
                                  // more at 9 V
        const auto fewer = together::judgeTogether(runs, 37.0, {});
        QCOMPARE(fewer.usableTier, std::string("5 V"));
        QCOMPARE(fewer.usable->points().size(), std::size_t(2));
        QCOMPARE(fewer.otherDrains.size(), std::size_t(1));
    }
    void what_is_missing_is_said() {
        QCOMPARE(together::judgeTogether({}, 37.0, {}).missing.size(), std::size_t(2));
        const auto b = together::judgeTogether(
            {drained(1, 4.0, 5.0, 1.0, "2026-01-01"), drained(2, 2.0, 5.0, 2.0, "2026-01-02"), filled(3, "2026-01-03")},
            37.0, {});
        QVERIFY(b.usable.has_value());
        QStringList all;
        for (const auto& m : b.missing)
            all << QString::fromStdString(m);
        QVERIFY(all.join(' ').contains("third load"));
        QVERIFY(all.join(' ').contains("wall"));
    }
    void usable_energy_follows_the_houses_drain() {
        const std::vector<RunEntry> runs = {drained(1, 4.0, 5.0, 1.0, "2026-01-01"),
                                            drained(2, 1.0, 9.0, 2.0, "2026-01-02")};
        const auto b = together::judgeTogether(runs, 37.0, {});
        QCOMPARE(b.usableFigure->school, std::string("gentle_and_near_full"));
        QVERIFY(near(b.usableFigure->value.value(), (20.0 + 18.0) / 2, 0.01));
        Schools hard;
        hard.drainBy = setup::DrainBy::NearFull;
        QVERIFY(near(together::judgeTogether(runs, 37.0, hard).usableFigure->value.value(), 18.0, 0.01));
        Schools powered;
        powered.drainBy = setup::DrainBy::IntoBank;
        QVERIFY(together::judgeTogether(runs, 37.0, powered).usableFigure->note.find("cannot be worked out") !=
                std::string::npos);
    }
};

QTEST_APPLESS_MAIN(TogetherTest)
#include "together_test.moc"
