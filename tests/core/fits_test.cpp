// The fits under the sums: straight lines, curves, repeats (B1, D8, D15, D18), held against certified and closed-form
// values.
#include <QTest>

#include <cmath>
#include <random>

#include "core/quantity/curve_fit.h"
#include "core/quantity/line.h"
#include "core/quantity/repeats.h"
#include "sources.h"

using namespace otterstone;

namespace {

bool near(double a, double b, double relative) { return std::fabs(a - b) <= relative * std::fabs(b); }

// NIST StRD, linear regression, "Norris" (calibration of ozone monitors, lower difficulty). Data and certified values
// as in the copy that ships with the GNU Scientific Library's tests (fit/test.c) and on NIST's pages; quoted.
const std::vector<double> kNorrisX = {0.2, 337.4, 118.2, 884.6, 10.1,  226.5, 666.3, 996.3, 448.6, 777.0, 558.2, 0.4,
                                      0.6, 775.5, 666.9, 338.0, 447.5, 11.6,  556.0, 228.1, 995.8, 887.6, 120.2, 0.3,
                                      0.3, 556.8, 339.1, 887.2, 999.0, 779.0, 11.1,  118.3, 229.2, 669.1, 448.9, 0.5};
const std::vector<double> kNorrisY = {0.1, 338.8, 118.1, 888.0, 9.2,   228.1, 668.5, 998.5, 449.1, 778.9, 559.2, 0.3,
                                      0.1, 778.1, 668.8, 339.3, 448.9, 10.8,  557.7, 228.3, 998.0, 888.8, 119.6, 0.3,
                                      0.6, 557.6, 339.3, 888.0, 998.5, 778.9, 10.2,  117.6, 228.9, 668.4, 449.2, 0.2};

// NIST StRD, nonlinear regression, "Misra1a" (dental research, lower difficulty): y = b1·(1 − e^(−b2·x)), the very form
// of a first-order rise. Quoted from memory; scipy's curve_fit gives the same in tests/reference.
const std::vector<double> kMisraX = {77.6,  114.9, 141.1, 190.8, 239.9, 289.0, 332.8,
                                     378.4, 434.8, 477.3, 536.8, 593.1, 689.1, 760.0};
const std::vector<double> kMisraY = {10.07, 14.73, 17.94, 23.93, 29.61, 35.18, 40.02,
                                     44.82, 50.76, 55.05, 61.01, 66.40, 75.47, 81.78};

const CurveModel kRise{[](double x, std::span<const double> p) { return p[0] * (1.0 - std::exp(-p[1] * x)); },
                       [](double x, std::span<const double> p, std::span<double> g) {
                           g[0] = 1.0 - std::exp(-p[1] * x);
                           g[1] = p[0] * x * std::exp(-p[1] * x);
                       }};

} // namespace

class FitsTest : public QObject {
    Q_OBJECT

private Q_SLOTS:
    void nist_norris_line_comes_out_to_ten_digits() {
        const auto line = fitLine(kNorrisX, kNorrisY);
        QVERIFY(line.has_value());
        QVERIFY(near(line->intercept, -0.262323073774029, 1e-9));
        QVERIFY(near(line->slope, 1.00211681802045, 1e-12));
        QVERIFY(near(line->uIntercept, 0.232818234301152, 1e-10));
        QVERIFY(near(line->uSlope, 0.429796848199937e-03, 1e-10));
        QVERIFY(near(line->residual, 0.884796396144373, 1e-10));
        QCOMPARE(line->dof, 34.0);
    }

    void nist_misra1a_curve_from_both_certified_starts_data() {
        QTest::addColumn<double>("b1");
        QTest::addColumn<double>("b2");
        QTest::newRow("far start") << 500.0 << 0.0001;
        QTest::newRow("near start") << 250.0 << 0.0005;
    }
    void nist_misra1a_curve_from_both_certified_starts() {
        QFETCH(double, b1);
        QFETCH(double, b2);
        const auto fit = fitCurve(kRise, {b1, b2}, kMisraX, kMisraY);
        QVERIFY(fit.has_value());
        QVERIFY(near(fit->parameters[0], 2.3894212918e+02, 1e-7));
        QVERIFY(near(fit->parameters[1], 5.5015643181e-04, 1e-7));
        QVERIFY(near(fit->u(0), 2.7070075241e+00, 1e-5));
        QVERIFY(near(fit->u(1), 7.2668688436e-06, 1e-5));
        QVERIFY(near(fit->residual, 1.0187876330e-01, 1e-6));
    }

    // Weights: a point known ten times better pulls a hundred times as hard. Closed form of the weighted mean for a
    // line of no slope.
    void weights_count_as_squares() {
        const std::vector<double> x = {-1, 1, -1, 1}, y = {0, 0, 1, 1}, u = {0.1, 0.1, 1, 1};
        const auto line = fitLine(x, y, u);
        QVERIFY(line.has_value());
        QVERIFY(std::fabs(line->intercept - 2.0 / 202.0) < 1e-12);
        QVERIFY(std::fabs(line->uIntercept - 1.0 / std::sqrt(202.0)) < 1e-12);
        QVERIFY(std::fabs(line->slope) < 1e-12);
    }

    void lines_that_cannot_be_are_none_data() {
        QTest::addColumn<QList<double>>("x");
        QTest::addColumn<QList<double>>("y");
        QTest::newRow("one point") << QList<double>{1} << QList<double>{2};
        QTest::newRow("two points have no scatter") << QList<double>{1, 2} << QList<double>{2, 3};
        QTest::newRow("all at one x") << QList<double>{3, 3, 3} << QList<double>{1, 2, 3};
        QTest::newRow("unequal lengths") << QList<double>{1, 2, 3} << QList<double>{1, 2};
    }
    void lines_that_cannot_be_are_none() {
        QFETCH(QList<double>, x);
        QFETCH(QList<double>, y);
        QVERIFY(
            !fitLine({x.data(), static_cast<std::size_t>(x.size())}, {y.data(), static_cast<std::size_t>(y.size())}));
    }

    void a_curve_through_too_few_points_is_none() {
        const std::vector<double> x = {1, 2}, y = {1, 2}, u = {0.1, 0.1};
        QVERIFY(!fitCurve(kRise, {1, 1}, x, y));
        QVERIFY(!fitCurve(kRise, {1, 1}, std::span(x).first(1), std::span(y).first(1), std::span(u).first(1)));
    }

    // D18. Published example: JCGM 100:2008, H.2, the five observations of V: mean 4.9990, s(mean) 0.0032.
    void repeats_of_gum_h2() {
        const std::vector<Measured> volts = {5.007, 4.994, 5.005, 4.990, 4.999};
        const Repeats r = repeats(volts, otterstone::testing::source("repeats"));
        QVERIFY(std::fabs(r.mean.value() - 4.9990) < 1e-9);
        QVERIFY(std::fabs(r.mean.u() - 0.0032) < 5e-5);
        QCOMPARE(r.mean.degreesOfFreedom(), 4.0);
        // t for 4 degrees of freedom and 95 %: 2.776 (any table of Student's t).
        QVERIFY(near(r.mean.expanded() / r.mean.u(), 2.776, 2e-4));
        QVERIFY(r.drift.has_value());
        QVERIFY(!r.drift->seen());
    }

    void an_error_common_to_all_repeats_does_not_average_out() {
        std::vector<Measured> values;
        for (double v : {10.0, 10.0, 10.0, 10.0})
            values.push_back(Measured(v, 0.1, otterstone::testing::source("meter: volts gain")));
        QVERIFY(std::fabs(repeats(values, otterstone::testing::source("repeats")).mean.u() - 0.1) < 1e-12);
        values.clear();
        for (int k = 0; k < 4; ++k)
            values.push_back(Measured(10.0, 0.1, otterstone::testing::source("own/" + std::to_string(k))));
        QVERIFY(std::fabs(repeats(values, otterstone::testing::source("repeats")).mean.u() - 0.05) < 1e-12);
    }

    void a_drift_is_seen_and_scatter_is_not() {
        const std::vector<Measured> falling = {10.0, 9.81, 9.59, 9.41, 9.20};
        QVERIFY(repeats(falling, otterstone::testing::source("repeats")).drift->seen());
        QVERIFY(repeats(falling, otterstone::testing::source("repeats")).drift->perRun < -0.15);
        const std::vector<Measured> scatter = {10.0, 9.8, 10.1, 9.9, 10.05};
        QVERIFY(!repeats(scatter, otterstone::testing::source("repeats")).drift->seen());
        QVERIFY(!repeats(std::vector<Measured>{10.0, 9.0}, otterstone::testing::source("repeats")).drift.has_value());
        QCOMPARE(repeats(std::vector<Measured>{10.0}, otterstone::testing::source("repeats")).mean.value(), 10.0);
    }

    // 95 % of intervals from few repeats hold the truth: the t-factor is what makes it so.
    void t_intervals_of_three_repeats_hold_the_truth() {
        std::mt19937_64 random(20261123);
        std::normal_distribution<double> noise(50.0, 0.7);
        int inside = 0;
        constexpr int kRuns = 4000;
        for (int k = 0; k < kRuns; ++k) {
            const std::vector<Measured> v = {noise(random), noise(random), noise(random)};
            const Repeats r = repeats(v, otterstone::testing::source("repeats"));
            inside += std::fabs(r.mean.value() - 50.0) <= r.mean.expanded();
        }
        QVERIFY(std::fabs(inside / double(kRuns) - 0.95) < 0.012);
    }
};

QTEST_APPLESS_MAIN(FitsTest)
#include "fits_test.moc"
