// D8: usable energy against load, from few drains and what else is known.
#include <QTest>

#include <cmath>

#include "core/model/simulate.h"
#include "core/together/bank_findings.h"
#include "generated_banks.h"
#include "sources.h"

using namespace otterstone;
using namespace otterstone::testing;
using together::UsableCurve;
using together::UsableKnown;
using together::UsablePoint;

namespace {

std::vector<UsablePoint> drainsOf(double e0, double p0, double r, std::initializer_list<double> loads,
                                  double relative = 0.002) {
    std::vector<UsablePoint> points;
    long long id = 1;
    for (double p : loads) {
        const double e = e0 * p / (p + p0 + r * p * p);
        points.push_back({id, "drain", p, Measured(e, e * relative, source("own/" + std::to_string(id))), 5.0});
        ++id;
    }
    return points;
}

// A drain at the port itself, with a meter's ± of 0.3 %.
std::optional<UsablePoint> drained(const model::Bank& bank, double amps) {
    model::Reading reading;
    reading.sampleSeconds = 20.0;
    reading.noiseVolts = reading.noiseAmps = 0.0;
    const auto run = model::drain(bank, {.volts = 5.0, .amps = amps}, reading);
    if (run.truth.stoppedByHeat || run.truth.seconds < 600.0 ||
        run.truth.seconds > 39.0 * 3600.0) // the simulation ends after forty hours
        return std::nullopt;
    const double wh = run.truth.portWattHours;
    return UsablePoint{1, "drain", wh * 3600.0 / run.truth.seconds,
                       Measured(wh, 0.0015 * wh, source("own/" + std::to_string(amps))), 5.0};
}

bool near(double a, double b, double relative) { return std::fabs(a - b) <= relative * std::fabs(b); }

} // namespace

class UsableTest : public QObject {
    Q_OBJECT

private Q_SLOTS:
    void many_drains_find_the_curve_again_data() {
        QTest::addColumn<double>("e0");
        QTest::addColumn<double>("p0");
        QTest::addColumn<double>("r");
        QTest::newRow("small bank") << 17.0 << 0.15 << 0.006;
        QTest::newRow("large bank") << 95.0 << 0.3 << 0.0015;
        QTest::newRow("hardly any resistive loss") << 40.0 << 0.3 << 0.0004;
    }
    void many_drains_find_the_curve_again() {
        QFETCH(double, e0);
        QFETCH(double, p0);
        QFETCH(double, r);
        const auto c = UsableCurve::fit(drainsOf(e0, p0, r, {1.0, 2.5, 5, 10, 18, 30}));
        QVERIFY(c.has_value());
        for (const double watts : {1.0, 7.0, 30.0}) {
            const double truth = e0 * watts / (watts + p0 + r * watts * watts);
            QVERIFY2(std::fabs(c->at(watts).value() - truth) <= c->at(watts).expanded(),
                     qPrintable(QString::number(watts)));
            QVERIFY(near(c->at(watts).value(), truth, 0.01));
        }
    }
    void one_drain_answers_with_a_wide_band() {
        const auto one = UsableCurve::fit(drainsOf(34, 0.2, 0.004, {5}), {.ratedWattHours = 37.0});
        const auto three = UsableCurve::fit(drainsOf(34, 0.2, 0.004, {1.5, 5, 12}), {.ratedWattHours = 37.0});
        QVERIFY(one.has_value() && three.has_value());
        QCOMPARE(one->loads(), std::size_t(1));
        QVERIFY(one->at(1.5).u() > 3.0 * three->at(1.5).u());
        QVERIFY(one->at(15).u() > 2.0 * three->at(15).u());
        QVERIFY(one->at(5).expanded() < 0.02 * one->at(5).value()); // where it was drained it is known
        QVERIFY(one->extrapolates(1.5) && !one->extrapolates(6.0));
        QVERIFY(one->runtimeOf(1.5).note.find("beyond") != std::string::npos);
    }
    void none_gives_no_curve() { QVERIFY(!UsableCurve::fit({})); }
    void the_cells_hold_no_less_than_came_out_and_no_more_than_went_in() {
        const auto byRecharge =
            UsableCurve::fit(drainsOf(15, 0.05, 0.001, {5, 6, 8}), {.putInWattHours = 17.5, .ratedWattHours = 18.5});
        QVERIFY(byRecharge->emptyLoadWattHours() < 17.5);
        // Drains whose scatter wants a steep curve: still not more than the cells can hold.
        std::vector<UsablePoint> odd;
        for (const auto& [watts, wh] : {std::pair{1.0, 9.0}, std::pair{5.0, 14.0}, std::pair{10.0, 16.0}})
            odd.push_back({1, "drain", watts, Measured(wh, 0.1, source("own/" + std::to_string(watts))), 5.0});
        const auto c = UsableCurve::fit(odd, {.ratedWattHours = 18.5});
        QVERIFY(c && c->emptyLoadWattHours() <= 1.05 * 18.5 && c->emptyLoadWattHours() >= 16.0);
    }
    // The only recharge of this bank began at half: it put in 9 Wh where drains gave 15.
    void a_recharge_that_put_in_less_than_came_out_bounds_nothing() {
        const auto partly =
            UsableCurve::fit(drainsOf(16, 0.1, 0.002, {5}), {.putInWattHours = 9.0, .ratedWattHours = 18.5});
        const auto none = UsableCurve::fit(drainsOf(16, 0.1, 0.002, {5}), {.ratedWattHours = 18.5});
        QCOMPARE(partly->most(), none->most());
        QCOMPARE(partly->at(1.0).value(), none->at(1.0).value());
    }
    void it_says_when_it_extrapolates() {
        const auto c = UsableCurve::fit(drainsOf(40, 0.3, 0.004, {4, 10, 20}));
        QVERIFY(!c->extrapolates(29.9) && !c->extrapolates(2.7));
        QVERIFY(c->extrapolates(30.1) && c->extrapolates(2.6));
        QVERIFY(c->runtimeOf(45).note.find("beyond") != std::string::npos);
        QVERIFY(c->runtimeOf(10).note.empty());
    }
    // 40 Wh that lose 0.3 W and 0.004 per W; at the root of 4 × 16 W that is 40 × 8 ÷ 8.556 = 37.4 Wh. Of those 85 % in
    // a battery of 15 Wh: 2.119 charges, 0.85 give or take 0.10 alone being ± 0.288 (2 × 0.10 ÷ √3 × 2.119 ÷ 0.85).
    void a_battery_is_charged_so_often() {
        const auto c = UsableCurve::fit(drainsOf(40, 0.3, 0.004, {4, 8, 16}));
        QVERIFY(near(c->middlingLoad(), 8.0, 1e-12));
        const Working w = c->chargesOf(15.0);
        QVERIFY2(near(w.value.value(), 2.119, 0.01), w.shown().c_str());
        QVERIFY2(w.value.expanded() > 0.28 && w.value.expanded() < 0.33, w.shown().c_str());
        QCOMPARE(w.label, std::string("full charges of 15 Wh"));
        QVERIFY2(w.note.find("85 ± 10 %") == 0, w.note.c_str());
    }
    void an_error_that_all_drains_share_stays_in_the_band() {
        auto points = drainsOf(40, 0.3, 0.004, {4, 8, 12, 16, 20}, 1e-5);
        for (auto& p : points)
            p.wattHours = Measured(p.wattHours.value()).with(source("meter: volts gain"), 0.01 * p.wattHours.value());
        const auto c = UsableCurve::fit(points);
        QVERIFY(c->at(10).u() / c->at(10).value() >= 0.0099);
    }

    // The band holds what the simulated banks truly give, from a third of the lowest to three times the highest load
    // that was drained, with one, two and three drains; what else is known: the rating, and of every other bank a
    // recharge. The simulated banks do not follow the curve's formula.
    void the_band_holds_the_truth_of_generated_banks() {
        int in[3][3] = {}, of[3][3] = {};
        double widths[3] = {};
        for (int number = 0; number < kGeneratedBanks; ++number) {
            model::Bank bank = generatedBank(number);
            bank.cells.ampHours *= 0.4; // small enough to be drained by a small load in the time a simulation has
            const double cells = bank.cells.storedWattHours(1.0);
            model::Reading reading;
            reading.sampleSeconds = 20.0;
            UsableKnown known{.ratedWattHours =
                                  cells * (0.95 + 0.01 * (number % 11))}; // labels are rounded, up and down
            if (number % 2 == 0)
                known.putInWattHours = model::recharge(bank, {}, reading).truth.portWattHours;
            const std::vector<std::vector<double>> sets = {{0.8}, {0.5, 1.0}, {0.4, 0.7, 1.0}};
            for (std::size_t n = 0; n < sets.size(); ++n) {
                std::vector<UsablePoint> points;
                for (const double amps : sets[n]) {
                    if (const auto p = drained(bank, amps))
                        points.push_back(*p);
                }
                QCOMPARE(points.size(), n + 1);
                const auto curve = UsableCurve::fit(points, known);
                QVERIFY(curve.has_value());
                QVERIFY2(curve->emptyLoadWattHours() <=
                             std::max({cells, known.putInWattHours.value_or(0.0), 1.05 * *known.ratedWattHours}) + 1e-9,
                         qPrintable(QString::number(number)));
                const double third = sets[n].front() / 3.0, within = (sets[n].front() + sets[n].back()) / 2.0 * 1.05,
                             thrice = 3.0 * sets[n].back();
                for (const auto& [place, amps] : {std::pair{0, third}, std::pair{1, within}, std::pair{2, thrice}}) {
                    const auto truth = drained(bank, amps);
                    if (!truth)
                        continue;
                    const Measured said = curve->at(truth->watts);
                    ++of[n][place];
                    in[n][place] += std::fabs(said.value() - truth->wattHours.value()) <= said.expanded() ? 1 : 0;
                    if (place == 0)
                        widths[n] += said.expanded() / said.value() / kGeneratedBanks;
                }
            }
        }
        for (int n = 0; n < 3; ++n) {
            for (int place = 0; place < 3; ++place) {
                QVERIFY2(
                    of[n][place] >= 30,
                    qPrintable(
                        QStringLiteral("%1 drains, place %2: only %3 banks").arg(n + 1).arg(place).arg(of[n][place])));
                QVERIFY2(in[n][place] >= 0.9 * of[n][place], qPrintable(QStringLiteral("%1 drains, place %2: %3 of %4")
                                                                            .arg(n + 1)
                                                                            .arg(place)
                                                                            .arg(in[n][place])
                                                                            .arg(of[n][place])));
            }
        }
        qInfo("width at a third of the lowest load: %.3f, %.3f, %.3f of the value", widths[0], widths[1], widths[2]);
        QVERIFY(widths[1] < widths[0] && widths[2] < widths[1]);
    }
};

QTEST_APPLESS_MAIN(UsableTest)
#include "usable_test.moc"
