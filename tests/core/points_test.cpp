// Runs read at several points, with other clocks, other windows and other gear between: what B1, B2, B3, B4 and C3 make
// of them together.
#include <QTest>

#include <algorithm>
#include <cmath>
#include <functional>

#include <nlohmann/json.hpp>

#include "ask.h"
#include "core/kinds/traced/json.h"
#include "core/together/changes.h"
#include "traces.h"

using namespace otterstone;
using namespace otterstone::testing;
using path::Point;
using records::Kind;
using records::Mark;
using setup::Setup;

namespace {

// A source of 5.2 V; behind `ohms` of cable what a meter sees; loads from 0 to 3 A and an hour at 2 A.
trace::Trace behind(double ohms, double offset = 0.0) {
    trace::Trace t;
    for (const double amps : {0.0, 0.5, 1.0, 1.5, 3.0})
        addLevel(t, 60, 5.2 - amps * ohms + offset, amps);
    addLevel(t, 3600, 5.2 - 2.0 * ohms + offset, 2.0);
    return t;
}

setup::Reading reading(const trace::Trace& t, Point point, const char* name = "second") {
    setup::Reading r;
    r.point = point;
    r.trace = &t;
    r.meter.name = name;
    return r;
}

// What every figure of a finding is worth, walked through with its parts and its schools.
void walk(const Working& w, const std::function<void(const Working&)>& see) {
    see(w);
    for (const Working& p : w.parts)
        walk(p, see);
    for (const Working& o : w.others)
        walk(o, see);
}

} // namespace

class PointsTest : public QObject {
    Q_OBJECT

private Q_SLOTS:
    void a_difference_of_the_voltmeters_stays_out_of_the_resistance_data() {
        QTest::addColumn<double>("ohms");
        QTest::addColumn<double>("offset");
        for (const double ohms : {0.02, 0.085, 0.4}) {
            for (const double offset : {-0.03, 0.0, 0.05})
                QTest::addRow("%g ohm, %g V apart", ohms, offset) << ohms << offset;
        }
    }
    void a_difference_of_the_voltmeters_stays_out_of_the_resistance() {
        QFETCH(double, ohms);
        QFETCH(double, offset);
        const trace::Trace near = behind(0.0), far = behind(ohms, offset);
        Setup s;
        s.also = {reading(near, Point::BankOut)};
        const auto f = kinds::analyse(far, Kind::Drain, s);
        QVERIFY(f->links.front().ohms.has_value());
        QVERIFY2(near_(f->links.front().ohms->value.value(), ohms),
                 qPrintable(QString::number(f->links.front().ohms->value.value())));
        QVERIFY(f->referred);
        QVERIFY(about(f->portWattHours.value(), kinds::analyse(near, Kind::Drain, {})->wattHours.value(), 1e-9));
    }
    void meters_that_were_not_started_together_are_laid_over_one_another() {
        const trace::Trace near = behind(0.0);
        trace::Trace far = behind(0.1);
        for (double& t : far.time)
            t += 1234.5;
        Setup s;
        s.also = {reading(near, Point::BankOut)};
        QVERIFY(near_(kinds::analyse(far, Kind::Drain, s)->links.front().ohms->value.value(), 0.1));
        // A stated shift stands before the one that is found; a wrong one finds no steady pair, or a wrong line.
        s.also.front().shift = 1234.5;
        QVERIFY(near_(kinds::analyse(far, Kind::Drain, s)->links.front().ohms->value.value(), 0.1));
    }
    void each_trace_has_its_own_clock() {
        trace::Trace near = behind(0.0);
        for (double& t : near.time)
            t *= 0.94; // its meter counts 0.94 s for each true one
        const trace::Trace far = behind(0.1);
        Setup s;
        s.also = {reading(near, Point::BankOut)};
        s.also.front().clock = Measured(1.0 / 0.94);
        const auto f = kinds::analyse(far, Kind::Drain, s);
        QVERIFY(about(f->portWattHours.value(), kinds::analyse(behind(0.0), Kind::Drain, {})->wattHours.value(), 1e-9));
        QVERIFY(near_(f->links.front().ohms->value.value(), 0.1));
    }
    void a_window_cuts_all_traces_alike() {
        const trace::Trace near = behind(0.0), far = behind(0.1);
        Setup s;
        s.from = 300;
        s.to = 2100;
        s.also = {reading(near, Point::BankOut)};
        const auto f = kinds::analyse(far, Kind::Drain, s);
        QVERIFY(about(f->wattHours.value(), 5.0 * 2.0 * 0.5, 1e-3));
        QVERIFY(about(f->portWattHours.value(), 5.2 * 2.0 * 0.5, 1e-3));
    }
    void input_and_output_at_once_stand_side_by_side() {
        const trace::Trace out = behind(0.05);
        Setup s;
        s.also = {reading(out, Point::BankOut)};
        const auto f = kinds::analyse(recharge(), Kind::Recharge, s);
        QVERIFY(at(*f, Point::BankOut) && at(*f, Point::BankOut)->read);
        QVERIFY(!f->referred); // the input's own port is as before
        QVERIFY(about(f->portWattHours.value(), f->wattHours.value(), 1e-12));
    }
    void a_display_beside_a_meter_is_held_apart() {
        const trace::Trace shown = behind(0.0, 0.3);
        Setup s;
        s.pathOhms = Measured(0.1);
        s.also = {reading(shown, Point::BankOut, "the bank's display")};
        s.also.front().byDisplay = true;
        const auto f = kinds::analyse(behind(0.1), Kind::Drain, s);
        // The port is referred from the meter; the display is another school's figure.
        const Working* port = kinds::figure(*f, "energy_at_port_wh");
        QVERIFY(port->value.value() < at(*f, Point::BankOut)->energy.value.value());
        const auto display = std::find_if(port->others.begin(), port->others.end(),
                                          [](const Working& w) { return w.school == "display"; });
        QVERIFY(display != port->others.end());
        s.schools.measuredAt = setup::MeasuredAt::Display;
        QVERIFY(kinds::analyse(behind(0.1), Kind::Drain, s)->sentence.find("came out by the bank's own display") !=
                std::string::npos);
    }
    void a_wall_meter_gives_the_chargers_efficiency_away() {
        trace::Trace wall;
        addLevel(wall, 20, 230.0, 0.0);
        addLevel(wall, 3600, 230.0, 20.0 / 230.0);
        addLevel(wall, 7200, 230.0, 0.001);
        Setup s;
        s.farOhms = Measured(0.0);
        s.also = {reading(wall, Point::Wall)};
        const auto f = kinds::analyse(recharge(), Kind::Recharge, s);
        QVERIFY(about(at(*f, Point::Wall)->energy.value.value(), 20.0, 0.03));
        QVERIFY(f->recharge->wallWattHours.has_value());
        const auto charger =
            std::find_if(f->links.begin(), f->links.end(), [](const auto& l) { return l.from == Point::Wall; });
        QVERIFY(charger != f->links.end() && charger->lossWattHours &&
                !charger->ohms); // mains volts make no cable resistance
    }
    void own_draw_counts_only_where_it_matters_data() {
        QTest::addColumn<double>("amps");
        QTest::addColumn<bool>("counted");
        QTest::newRow("a milliampere") << 0.00001 << false;
        QTest::newRow("thirty") << 0.030 << true;
    }
    void own_draw_counts_only_where_it_matters() {
        QFETCH(double, amps);
        QFETCH(bool, counted);
        Setup s;
        s.meter = *path::parseMeter("volts 0.05%+2mV, amps 0.1%+3mA", "meter");
        s.ownDraw = path::OwnDraw{amps, 5.0};
        const auto f = kinds::analyse(behind(0.0), Kind::Drain, s);
        QCOMPARE(f->portWattHours.value() > f->wattHours.value(), counted);
        bool told = false;
        walk(*kinds::figure(*f, "energy_at_port_wh"), [&](const Working& w) { told = told || w.key == "own_draw_wh"; });
        QVERIFY(told); // both views are shown either way
        QVERIFY(kinds::analyse(recharge(), Kind::Recharge, s)->portWattHours.value() ==
                kinds::analyse(recharge(), Kind::Recharge, {})->portWattHours.value());
    }
    void measured_below_predicted_is_asked_about() {
        Setup s;
        s.predicted =
            path::predictTier({{{Volts(9), Volts(9), Amps(3)}}, {}}, {}, {{{Volts(9), Volts(9), Amps(3)}}, {}});
        QVERIFY(warns(*kinds::analyse(recharge(), Kind::Recharge, s), "below_predicted")); // 18 W of 27
        s.predicted =
            path::predictTier({{{Volts(9), Volts(9), Amps(2)}}, {}}, {}, {{{Volts(9), Volts(9), Amps(3)}}, {}});
        const auto fits = kinds::analyse(recharge(), Kind::Recharge, s);
        QVERIFY(!warns(*fits, "below_predicted"));
        QVERIFY(kinds::figure(*fits, "predicted_tier")->note.find("charger decides") != std::string::npos);
    }
    void what_a_full_bank_draws_is_told() {
        const auto f = kinds::analyse(recharge(), Kind::Recharge, {});
        QVERIFY(about(*f->recharge->idleWatts, 0.09, 0.1));
        QVERIFY(f->recharge->untilEndWattHours.value() < f->wattHours.value());
    }
    // A gap has its own doubt (C2); it is not counted once more as coarse sampling.
    void a_gap_is_not_doubted_twice() {
        trace::Trace t;
        addLevel(t, 3600, 5.0, 2.0);
        for (double x : {4600.0, 4601.0, 4602.0}) {
            t.time.push_back(x);
            t.volts.push_back(5.0);
            t.amps.push_back(0.5);
        }
        const auto f = kinds::analyse(t, Kind::Drain, {});
        QCOMPARE(f->gaps.size(), std::size_t(1));
        QVERIFY(f->wattHours.from(ErrorSource::ofRun("", "gap at 3599 s")) > 0.1);
        QVERIFY(std::fabs(f->wattHours.from(ErrorSource::ofRun("", "between samples"))) < 0.001);
    }
    void the_hottest_moment_is_found_in_a_long_trace() {
        trace::Trace t;
        addLevel(t, 30000, 5.0, 2.0);
        for (std::size_t k = 0; k < t.size(); ++k)
            t.temperature.push_back(k == 12345 ? 61.5
                                               : 20.0 + 15.0 * (1.0 - std::exp(-static_cast<double>(k) / 2000.0)));
        const auto f = kinds::analyse(t, Kind::Drain, {});
        QCOMPARE(f->heat->hottest, 61.5);
        QVERIFY(f->heat->rise && about(f->heat->rise->value(), 15.0, 0.02));
    }
    void stamps_of_what_happened_are_listed() {
        Setup s;
        s.marks = {{100, Mark::What::Unplugged, {}, "charger error"},
                   {130, Mark::What::Plugged, {}, ""},
                   {10, Mark::What::Percent, 3.0, ""}};
        const auto f = kinds::analyse(recharge(), Kind::Recharge, s);
        QVERIFY(kinds::figure(*f, "stamps")->note.find("charger error") != std::string::npos);
        QVERIFY(kinds::figure(*f, "stamps")->note.find("plugged in at 2 min 10 s") != std::string::npos);
    }

    // Every figure has a place or says that it needs none, and its budget adds up (C8).
    void every_figure_has_a_point_and_a_budget_that_adds_up() {
        const trace::Trace near = behind(0.0);
        Setup s;
        s.meter = *path::parseMeter("volts 0.05%+2mV, amps 0.1%+3mA, clock 50ppm", "meter");
        s.meter.name = "bench meter";
        s.cellVolts = Volts(3.7);
        label::Label l;
        l.energy = WattHours(14);
        l.capacity = AmpHours(3.8);
        l.cellVolts = Volts(3.7);
        setRating(s, l);
        s.also = {reading(near, Point::BankOut)};
        s.also.front().meter = s.meter;
        s.also.front().meter.name = "twin meter";
        s.marks = {{0, Mark::What::Percent, 100, ""}};
        int seen = 0;
        for (const Kind kind : {Kind::Drain, Kind::Recharge}) {
            s.ends.began = records::Stating{records::usualBeginning(kind).state, true};
            s.ends.ended =
                records::Stating{kind == Kind::Drain ? records::State::empty() : records::State::full(), true};
            const auto f = kinds::analyse(kind == Kind::Drain ? behind(0.1) : recharge(), kind, s);
            QVERIFY(f.has_value());
            for (const Working& figure : f->figures) {
                walk(figure, [&](const Working& w) {
                    if (w.isText)
                        return;
                    ++seen;
                    QVERIFY2(!w.label.empty(), w.key.c_str());
                    const bool energy =
                        w.unit == Unit::WattHour || w.unit == Unit::Volt || w.unit == Unit::Watt || w.unit == Unit::Ohm;
                    QVERIFY2(!energy || !w.point.empty(), w.label.c_str());
                    double squares = 0.0;
                    for (const Contribution& c : w.value.contributions())
                        squares += c.u * c.u;
                    QVERIFY2(std::fabs(std::sqrt(squares) - w.value.u()) <= 1e-12 + 1e-9 * w.value.u(),
                             w.label.c_str());
                    const std::string table = kinds::budgetText(w);
                    QCOMPARE(table.empty(), !w.value.hasDoubt());
                    QCOMPARE(static_cast<std::size_t>(std::count(table.begin(), table.end(), '\n')),
                             table.empty() ? 0 : w.value.budget().size() + 1);
                });
            }
        }
        QVERIFY(seen > 40);
    }

    void what_changed_is_listed_and_nothing_else() {
        Setup s;
        label::Label l;
        l.energy = WattHours(14);
        setRating(s, l);
        s.ends.ended = records::Stating{records::State::empty(), false};
        const auto before = kinds::analyse(behind(0.1), Kind::Drain, s);
        QVERIFY(together::changesBetween(*before, *before).empty());
        s.clock = Measured(0.94);
        const auto after = kinds::analyse(behind(0.1), Kind::Drain, s);
        QStringList labels;
        for (const auto& c : together::changesBetween(*before, *after)) {
            labels << QString::fromStdString(c.label);
            QVERIFY(c.before != c.after);
        }
        QVERIFY(labels.contains("delivered share") && labels.contains("energy out of the port") &&
                labels.contains("charge"));
        QVERIFY(!labels.contains("mean volts")); // a clock changes no volts
        // A figure that is new on one side reads unknown on the other.
        s.cellVolts = Volts(3.7);
        bool fresh = false;
        for (const auto& c : together::changesBetween(*after, *kinds::analyse(behind(0.1), Kind::Drain, s)))
            fresh = fresh || (c.before == "unknown" && c.label.starts_with("equivalent charge"));
        QVERIFY(fresh);
    }
    void the_contract_keeps_its_old_keys_and_gains_new_ones() {
        const auto json = kinds::toContract(*kinds::analyse(behind(0.1), Kind::Drain, {}));
        for (const char* key : {"kind",
                                "samples",
                                "skipped_lines",
                                "duration_s",
                                "energy_wh",
                                "energy_u_wh",
                                "charge_mah",
                                "mean_volts",
                                "mean_watts",
                                "peak_watts",
                                "point",
                                "gaps",
                                "phases",
                                "warnings",
                                "energy_at_port_wh",
                                "energy_at_port_u_wh",
                                "delivered_share",
                                "delivered_share_u",
                                "equivalent_mah",
                                "ended_by",
                                "interruptions",
                                "active_s",
                                "points",
                                "links",
                                "gauge",
                                "heat",
                                "restarts",
                                "transferred_share"})
            QVERIFY2(json.contains(key), key);
        QVERIFY(json["gauge"].is_null() && json["delivered_share"].is_null()); // unknown is null, never 0
    }

private:
    [[nodiscard]] static bool near_(double a, double b) { return std::fabs(a - b) <= 1e-9 + 1e-6 * std::fabs(b); }
};

QTEST_APPLESS_MAIN(PointsTest)
#include "points_test.moc"
