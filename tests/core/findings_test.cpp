// D1, D3, D5, D7, B2, C3, C8: what runs say, with their workings.
#include <QTest>

#include <cmath>
#include <set>

#include <nlohmann/json.hpp>

#include "core/kinds/traced/json.h"
#include "sources.h"
#include "traces.h"

using namespace otterstone;
using namespace otterstone::testing;
using records::Kind;
using setup::Setup;
using trace::Trace;

namespace {

Trace drain(double hours = 3.0, double volts = 5.0, double amps = 2.0) {
    Trace t;
    addLevel(t, 20, volts, 0.0);
    addLevel(t, hours * 3600.0, volts, amps);
    addLevel(t, 60, 0.0, 0.0);
    return t;
}

Setup rated(double wh) {
    Setup s;
    label::Label l;
    l.energy = WattHours(wh);
    s.rating = label::ratedEnergy(l);
    return s;
}

bool near(double a, double b, double relative) { return std::fabs(a - b) <= relative * std::fabs(b); }

bool warns(const kinds::Finding& f, const char* code) {
    for (const Warning& w : f.warnings) {
        if (w.code == code)
            return true;
    }
    return false;
}

QStringList labelsIn(const Working& w) {
    QStringList all{QString::fromStdString(w.label)};
    for (const Working& part : w.parts)
        all += labelsIn(part);
    return all;
}

} // namespace

class FindingsTest : public QObject {
    Q_OBJECT

private Q_SLOTS:
    void delivered_share_is_energy_at_the_port_over_rated() {
        const auto f = kinds::analyse(drain(), Kind::Drain, rated(37.0));
        QVERIFY(f.has_value());
        QVERIFY(near(f->drain->deliveredShare->value(), 30.0 / 37.0, 1e-3));
        QVERIFY(near(f->drain->activeSeconds, 10800.0, 1e-3));
        QVERIFY(f->sentence.find("of the printed 37 Wh") != std::string::npos);
        QVERIFY(f->sentence.find("reached the meter") != std::string::npos); // no cable known: no port claimed
        QVERIFY(warns(*f, "meter_accuracy_unknown"));
    }
    void equivalent_charge_names_its_voltage() {
        Setup s = rated(37.0);
        s.cellVolts = Volts(3.7);
        const auto f = kinds::analyse(drain(), Kind::Drain, s);
        QVERIFY(near(f->drain->equivalentMah->value(), 30.0 / 3.7 * 1000.0, 1e-3));
        QVERIFY(kinds::figure(*f, "equivalent_mah")->label.find("3.7 V") != std::string::npos);
    }
    void the_working_opens_down_to_samples_label_and_accuracy() {
        Setup s = rated(37.0);
        s.meter = *path::parseMeter("volts 0.1%+1mV, amps 0.2%+2mA", "");
        const auto f = kinds::analyse(drain(), Kind::Drain, s);
        const QStringList labels = labelsIn(*kinds::figure(*f, "delivered_share"));
        for (const char* needed : {"samples", "accuracy of the meter", "rated energy", "energy at the meter"})
            QVERIFY2(labels.contains(QLatin1String(needed)), needed);
    }
    void a_cable_refers_the_energy_to_the_port() {
        Setup s = rated(37.0);
        s.pathOhms = Measured(0.1, 0.005, otterstone::testing::source("cable"));
        const auto out = kinds::analyse(drain(), Kind::Drain, s);
        QVERIFY(near(out->portWattHours.value() - out->wattHours.value(), 0.1 * 4.0 * 3.0, 1e-3)); // I²R·t
        QVERIFY(near(out->portWattHours.from(otterstone::testing::source("cable")), 0.005 * 12.0, 1e-3));
        QVERIFY(out->sentence.find("reached the port") != std::string::npos);
        const auto in = kinds::analyse(recharge(), Kind::Recharge, s);
        QVERIFY(in->portWattHours.value() < in->wattHours.value());
    }
    void gain_offset_clock_and_resistance_make_the_uncertainty() {
        // C8 by hand: each term from its definition, added in squares (JCGM 100, 5.1.2).
        Setup s;
        s.meter = *path::parseMeter("volts 0.05%+2mV, amps 0.1%+3mA, clock 50ppm", "");
        const auto f = kinds::analyse(drain(1.0), Kind::Drain, s);
        const double e = f->wattHours.value();
        const double q = f->milliampHours->value() / 1000.0;
        const double root3 = std::sqrt(3.0);
        double voltHours = 5.0 * (3600.0 + 20.0) / 3600.0;
        const double expected = std::sqrt(
            std::pow(e * 0.0005 / root3, 2) + std::pow(e * 0.001 / root3, 2) + std::pow(q * 0.002 / root3, 2) +
            std::pow(voltHours * 0.003 / root3, 2) + std::pow(e * 50e-6 / root3, 2) +
            2.0 * std::pow(f->plateauPower / 3600.0, 2) / 12.0); // on and off happened somewhere within a second
        QVERIFY(near(f->wattHours.u(), expected, 2e-3));
        // Energy over charge: the amps' gain and the clock cancel.
        QVERIFY(std::fabs(f->meanVolts->from(otterstone::testing::source("meter: amps gain"))) < 1e-12);
        QVERIFY(std::fabs(f->meanVolts->from(otterstone::testing::source("meter: clock"))) < 1e-12);
        QVERIFY(std::fabs(f->meanVolts->from(otterstone::testing::source("meter: volts gain"))) > 1e-4);
    }
    void a_slow_clock_scales_energy_and_time() {
        Setup s;
        s.clock = Measured(1.06, 0.001, otterstone::testing::source("stopwatch"));
        const auto slow = kinds::analyse(drain(), Kind::Drain, s);
        const auto plain = kinds::analyse(drain(), Kind::Drain, {});
        QVERIFY(near(slow->wattHours.value(), 1.06 * plain->wattHours.value(), 1e-12));
        QVERIFY(near(slow->durationSeconds, 1.06 * plain->durationSeconds, 1e-12));
        QVERIFY(near(slow->wattHours.from(otterstone::testing::source("stopwatch")), plain->wattHours.value() * 0.001,
                     1e-9));
    }
    void a_run_stopped_early_gives_a_flagged_estimate() {
        Trace t;
        addLevel(t, 3600, 5.0, 2.0);
        addLevel(t, 60, 5.1, 0.0); // the tester unplugged
        Setup s = rated(18.5);
        s.marks = {{3600.0, records::Mark::What::Percent, 35.0, ""}};
        const auto f = kinds::analyse(t, Kind::Drain, s);
        QVERIFY(near(f->drain->projectedWattHours->value(), f->wattHours.value() / 0.65, 1e-9));
        QVERIFY(f->drain->projectedWattHours->u() > 0.4); // the display's ± 5 points
        QVERIFY(kinds::figure(*f, "projected_wh")->note.find("estimate") != std::string::npos);
    }
    void a_cut_off_run_needs_no_estimate() {
        Setup s = rated(37.0);
        s.marks = {{10820.0, records::Mark::What::Percent, 7.0, ""}}; // the gauge was wrong; the bank was empty
        QVERIFY(!kinds::analyse(drain(), Kind::Drain, s)->drain->projectedWattHours.has_value());
    }
    void heat_is_told_by_the_testers_mark() {
        Setup s = rated(37.0);
        s.marks = {{10820.0, records::Mark::What::Trip, std::nullopt, "heat"}};
        const auto f = kinds::analyse(drain(), Kind::Drain, s);
        QCOMPARE(f->drain->endedBy, trace::EndedBy::Heat);
        QVERIFY(warns(*f, "stopped_by_heat"));
        QVERIFY(f->sentence.find("until heat stopped it") != std::string::npos);
        QCOMPARE(kinds::toContract(*f).at("ended_by").get<std::string>(), std::string("cutoff"));
    }

    void times_of_a_recharge() {
        const auto f = kinds::analyse(recharge(), Kind::Recharge, {});
        const auto& r = *f->recharge;
        QVERIFY(r.endOfCharge.has_value());
        QVERIFY(std::fabs(r.timeTo100->value() - (3600 + 3594.9)) < 2.0);
        QVERIFY(near(r.plateauWatts.value(), 18.0, 1e-3));
        QVERIFY(r.timeTo50->value() < r.timeTo80->value() && r.timeTo80->value() < r.timeTo100->value());
    }
    void a_claim_is_tested_only_with_a_charger_that_could_meet_it_data() {
        QTest::addColumn<double>("charger"); // 0: not stated
        QTest::addColumn<double>("claimed");
        QTest::addColumn<bool>("tested");
        QTest::newRow("strong enough") << 20.0 << 1.9 << true;
        QTest::newRow("just the claim's") << 18.0 << 1.9 << true;
        QTest::newRow("too small") << 10.0 << 1.9 << false;
        QTest::newRow("not stated") << 0.0 << 1.9 << false;
        // What took no longer than is claimed meets the claim, whatever the charger.
        QTest::newRow("too small, and quick enough") << 10.0 << 2.0 << true;
        QTest::newRow("not stated, and quick enough") << 0.0 << 2.0 << true;
    }
    void a_claim_is_tested_only_with_a_charger_that_could_meet_it() {
        QFETCH(double, charger);
        QFETCH(double, claimed);
        QFETCH(bool, tested);
        Setup s;
        s.claimedRecharge = Hours(claimed);
        s.claimedInput = Watts(18.0);
        if (charger > 0.0)
            s.chargerWatts = Watts(charger);
        const auto f = kinds::analyse(recharge(), Kind::Recharge, s);
        QCOMPARE(f->recharge->againstClaim.has_value(), tested);
        if (tested)
            QVERIFY(near(*f->recharge->againstClaim, 7194.9 / (3600.0 * claimed), 1e-3));
        else
            QVERIFY(kinds::figure(*f, "against_claim")->note.find("not tested") == 0);
    }
    void the_displays_own_estimate_is_held_against_the_time_taken() {
        // 75 min taken where 72 min were said is + 4.2 %. Common practice, no published source.
        Trace t;
        addLevel(t, 60.0 * 60.0, 9.0, 2.0);
        add(
            t, 15.0 * 60.0, 1.0, [](double) { return 9.0; },
            [](double x) { return 2.0 * std::exp(-x / 300.4); }); // a taper to 5 %, else it would not be full
        addLevel(t, 900, 9.0, 0.01);
        Setup s;
        s.marks = {{0.0, records::Mark::What::Estimate, 72.0 * 60.0, ""}};
        const auto f = kinds::analyse(t, Kind::Recharge, s);
        QVERIFY(std::fabs(*f->recharge->againstDisplay - 0.042) < 0.0005);
        QVERIFY(kinds::figure(*f, "against_display")->formula.find("1 h 12 min") != std::string::npos);
        QVERIFY(!kinds::analyse(t, Kind::Recharge, {})->recharge->againstDisplay.has_value());
    }
    void an_unseen_end_of_charge_is_unknown_not_zero() {
        Trace t;
        addLevel(t, 1800, 9.0, 2.0);
        const auto f = kinds::analyse(t, Kind::Recharge, {});
        QVERIFY(!f->recharge->endOfCharge.has_value());
        QVERIFY(warns(*f, "end_of_charge_not_seen"));
        QVERIFY(kinds::toContract(*f).at("end_of_charge_s").is_null());
    }

    void negative_currents_are_the_other_direction() {
        Trace t = drain();
        t.amps.negate();
        const auto f = kinds::analyse(t, Kind::Drain, rated(37.0));
        QVERIFY(near(f->wattHours.value(), 30.0, 1e-3));
        QVERIFY(warns(*f, "direction_reversed"));
    }
    void a_counter_off_by_more_than_two_percent_is_told() {
        Setup s;
        s.counterWattHours = 30.3;
        QVERIFY(!warns(*kinds::analyse(drain(), Kind::Drain, s), "counter_differs"));
        s.counterWattHours = 31.5;
        QVERIFY(warns(*kinds::analyse(drain(), Kind::Drain, s), "counter_differs"));
    }
    void watts_alone_make_a_finding_without_charge() {
        Trace t;
        for (int k = 0; k <= 3600; ++k) {
            t.time.push_back(k);
            t.watts.push_back(10.0);
        }
        const auto f = kinds::analyse(t, Kind::Drain, rated(18.5));
        QVERIFY(near(f->wattHours.value(), 10.0, 1e-9));
        QVERIFY(!f->milliampHours.has_value());
        QVERIFY(kinds::toContract(*f).at("charge_mah").is_null());
        QVERIFY(warns(*f, "no_current"));
    }
    void nothing_to_analyse_is_a_problem() {
        Trace still;
        addLevel(still, 100, 5.0, 0.0);
        QCOMPARE(kinds::analyse(still, Kind::Drain, {}).error().code, std::string("nothing_flowed"));
        Setup s;
        s.from = 1e6;
        QCOMPARE(kinds::analyse(drain(), Kind::Drain, s).error().code, std::string("too_few_samples"));
    }

    void a_cached_finding_says_the_same_data() {
        QTest::addColumn<bool>("isDrain");
        QTest::newRow("drain") << true;
        QTest::newRow("recharge") << false;
    }
    void a_cached_finding_says_the_same() {
        QFETCH(bool, isDrain);
        Setup s = rated(37.0);
        s.meter = *path::parseMeter("volts 0.05%+2mV, amps 0.1%+3mA, clock 50ppm", "");
        s.pathOhms = Measured(0.1, 0.005, otterstone::testing::source("cable"));
        s.claimedRecharge = Hours(2.0);
        s.chargerWatts = Watts(20.0);
        const auto f = kinds::analyse(isDrain ? drain() : recharge(), isDrain ? Kind::Drain : Kind::Recharge, s);
        const std::string text = kinds::toCache(*f);
        const auto again = kinds::fromCache(text);
        QVERIFY(again.has_value());
        QCOMPARE(kinds::toCache(*again), text);
        const auto json = nlohmann::json::parse(text);
        QCOMPARE(again->figures.size(), f->figures.size());
        for (std::size_t k = 0; k < f->figures.size(); ++k) {
            QCOMPARE(kinds::asText(again->figures[k]), kinds::asText(f->figures[k]));
            QCOMPARE(again->figures[k].others.size(), f->figures[k].others.size());
            QCOMPARE(again->figures[k].value.u(), f->figures[k].value.u());
        }
        // Each working is written once, however many figures hold it, and a number that none has is no finding.
        std::set<std::string> nodes;
        for (const auto& node : json.at("workings").at("nodes"))
            QVERIFY2(nodes.insert(node.dump()).second, node.dump().c_str());
        for (const nlohmann::json& wrong : {nlohmann::json(100000), nlohmann::json(-1), nlohmann::json("first")}) {
            nlohmann::json broken = json;
            broken["figures"][0] = wrong;
            QVERIFY(!kinds::fromCache(broken.dump()).has_value());
        }
        for (const char* none : {"", "[]", "{}", R"({"method": -1})", "{\"method\": 1e999}", "\xff"})
            QVERIFY2(!kinds::fromCache(none).has_value(), none);
        for (std::size_t end = 0; end < text.size(); end += 97) // broken off
            QVERIFY(!kinds::fromCache(text.substr(0, end)).has_value());
    }
};

QTEST_APPLESS_MAIN(FindingsTest)
#include "findings_test.moc"
