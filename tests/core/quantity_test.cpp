// Numbers, durations, digits and uncertainty.
#include <QTest>

#include <array>
#include <cmath>
#include <random>

#include "core/quantity/format.h"
#include "core/quantity/measured.h"
#include "core/quantity/parse.h"
#include "core/quantity/problem.h"
#include "core/quantity/say.h"
#include "core/quantity/screen_form.h"
#include "core/quantity/shared_list.h"
#include "core/quantity/speech.h"
#include "sources.h"

using namespace otterstone;

class QuantityTest : public QObject {
    Q_OBJECT

private Q_SLOTS:
    void a_sentence_takes_its_words() {
        QCOMPARE(say("{} reached the port: {} of the printed {}", std::string("57.9 Wh"), "78 %", std::string("74 Wh")),
                 std::string("57.9 Wh reached the port: 78 % of the printed 74 Wh"));
        QCOMPARE(say("{1} of {0}", "74 Wh", "57.9 Wh"), std::string("57.9 Wh of 74 Wh")); // as another language may
        QCOMPARE(say("nothing was drawn yet"), std::string("nothing was drawn yet"));
        // What stands in a place is words, whatever it holds: names are typed by people.
        QCOMPARE(say("{} gave way", "C1 {} {0} %s"), std::string("C1 {} {0} %s gave way"));
    }
    // What is wrong and how to mend it are said in the other language; places, what was typed and braces stay.
    void a_problem_is_told_in_the_other_language() {
        speak([](std::string_view pattern) { return "«" + std::string(pattern) + "»"; });
        const auto plain = problem("bad_needs", "needs.json", "these are no needs.", "Write {\"needs\": []}.").value();
        const auto typed = problem("bad_date", "line 3", say("“{}” is no day.", "31 February"), "").value();
        speak(nullptr);
        QCOMPARE(plain.sentence(), std::string("needs.json: «these are no needs.» «Write {\"needs\": []}.»"));
        QCOMPARE(typed.sentence(), std::string("line 3: «“31 February” is no day.»"));
    }

    // Copies hold one list until one of them changes its own; no other sees that.
    void a_shared_list_is_copied_when_one_changes_it() {
        const SharedList<std::string> first{"a", "b"};
        SharedList<std::string> second = first;
        QCOMPARE(&second[0], &first[0]);
        second.push_back("c");
        QVERIFY(&second[0] != &first[0]);
        QCOMPARE(first.size(), std::size_t(2));
        QCOMPARE(second.size(), std::size_t(3));
        const std::string* own = &second[0];
        second.changed().front() = "d"; // nobody else holds it: it stays where it is
        QCOMPARE(&second[0], own);
        QCOMPARE(first.front(), std::string("a"));
        SharedList<std::string> third = second;
        third.clear();
        QVERIFY(third.empty() && second.size() == 3);
        // Of figures: a doubt that is added to a copy is the copy's alone.
        const Measured one(5.0, 0.1, ErrorSource::ofBench("a", "x"));
        const Measured two = one.with(ErrorSource::ofBench("b", "y"), 0.2);
        QCOMPARE(one.contributions().size(), std::size_t(1));
        QCOMPARE(two.contributions().size(), std::size_t(2));
        QVERIFY(std::fabs(one.u() - 0.1) < 1e-15 && std::fabs(two.u() - std::hypot(0.1, 0.2)) < 1e-15);
    }

    void numbers_are_read_as_people_write_them_data() {
        QTest::addColumn<QString>("text");
        QTest::addColumn<bool>("whole");
        QTest::addColumn<double>("value"); // NaN: refused
        const double no = NAN;
        QTest::newRow("decimal comma") << "4,85" << false << 4.85;
        QTest::newRow("decimal point") << "4.85" << false << 4.85;
        QTest::newRow("thousands in a whole field") << "20,000" << true << 20000.0;
        QTest::newRow("the same in a field of readings") << "4,850" << false << 4.85;
        QTest::newRow("zero before the comma is decimal") << "0,125" << true << 0.125;
        QTest::newRow("space groups") << "20 000" << true << 20000.0;
        QTest::newRow("no-break space groups") << "20\u00A0000" << true << 20000.0;
        QTest::newRow("point groups, comma decimal") << "1.234,5" << false << 1234.5;
        QTest::newRow("comma groups, point decimal") << "1,234.5" << false << 1234.5;
        QTest::newRow("several groups") << "1.234.567" << false << 1234567.0;
        QTest::newRow("apostrophe groups") << "26'800" << true << 26800.0;
        QTest::newRow("exponent") << "1e-3" << false << 0.001;
        QTest::newRow("plus sign") << "+3.7" << false << 3.7;
        QTest::newRow("typographic minus") << "−3.7" << false << -3.7;
        QTest::newRow("spaces around") << "  12 " << false << 12.0;
        QTest::newRow("words") << "about 5" << false << no;
        QTest::newRow("unit behind") << "5V" << false << no;
        QTest::newRow("empty") << "" << false << no;
        QTest::newRow("infinity") << "inf" << false << no;
        QTest::newRow("lone comma") << "," << false << no;
        QTest::newRow("gaps and a comma") << "1 234,567" << true << 1234.567;
        QTest::newRow("gaps behind the point") << "0.123 456 7" << false << 0.1234567;
        QTest::newRow("groups and an exponent") << "1,234.5e-2" << false << 12.345;
        QTest::newRow("groups behind a sign") << "-1.234.567" << false << -1234567.0;
        QTest::newRow("two points") << "18.5.2" << false << no;
        QTest::newRow("two commas") << "3,7,5" << false << no;
        QTest::newRow("a group of two") << "12,34,567" << false << no;
        QTest::newRow("a last group of two") << "1.234.56" << true << no;
        QTest::newRow("a first group of four") << "1234.567.890" << false << no;
        QTest::newRow("a gap between two numbers") << "5 9" << false << no;
        QTest::newRow("a gap in a fraction") << "3.7 5" << false << no;
        QTest::newRow("two kinds of groups") << "1'234.567,8" << false << no;
        QTest::newRow("a fraction that ends in a gap's group of four") << "0.123 4567" << false << no;
        QTest::newRow("points, a comma, a point") << "1.234,5.6" << false << no;
        QTest::newRow("comma behind the point's groups") << "1,234,567.8" << false << 1234567.8;
        QTest::newRow("an apostrophe alone") << "'" << false << no;
        QTest::newRow("an apostrophe at the end") << "12'" << false << no;
        QTest::newRow("an exponent alone") << "e5" << false << no;
        QTest::newRow("a point in the exponent") << "1e3.5" << false << no;
        QTest::newRow("a comma behind it") << "-2e-3," << false << no;
        QTest::newRow("a point before an exponent") << ".e5" << false << no;
        QTest::newRow("a point before the digits") << ".5" << false << 0.5;
        QTest::newRow("groups in the exponent") << "1e1,000,000" << false << no;
        QTest::newRow("a sign alone") << "-" << false << no;
    }
    void numbers_are_read_as_people_write_them() {
        QFETCH(QString, text);
        QFETCH(bool, whole);
        QFETCH(double, value);
        const auto read = parseNumber(text.toStdString(), "field", whole ? Expect::WholeNumber : Expect::AnyNumber);
        QCOMPARE(read.has_value(), !std::isnan(value));
        if (read)
            QCOMPARE(*read, value);
        else
            QVERIFY(read.error().sentence().find("field") == 0); // says where
    }

    // Whatever is typed is a number or a problem, and never the end of the program.
    void any_text_is_answered() {
        const std::string signs = "0159.,'-+eE \xC2\xA0";
        std::mt19937 random(20261125);
        int numbers = 0;
        for (int k = 0; k < 200'000; ++k) {
            std::string text;
            for (auto n = random() % 9; n > 0; --n)
                text += signs[random() % signs.size()];
            const auto read = parseNumber(text, "field", k % 2 == 0 ? Expect::WholeNumber : Expect::AnyNumber);
            QVERIFY(!read || std::isfinite(*read));
            numbers += read ? 1 : 0;
        }
        QVERIFY(numbers > 1000);
    }

    void durations_are_read_and_echoed_data() {
        QTest::addColumn<QString>("text");
        QTest::addColumn<double>("seconds"); // negative: refused
        QTest::addColumn<QString>("echo");
        QTest::newRow("1h12") << "1h12" << 4320.0 << "1 h 12 min";
        QTest::newRow("decimal hours are no minutes") << "1.2 h" << 4320.0 << "1 h 12 min";
        QTest::newRow("minutes") << "72 min" << 4320.0 << "1 h 12 min";
        QTest::newRow("comma") << "1,5 h" << 5400.0 << "1 h 30 min";
        QTest::newRow("clock") << "1:12" << 4320.0 << "1 h 12 min";
        QTest::newRow("clock with seconds") << "0:01:30" << 90.0 << "1 min 30 s";
        QTest::newRow("spelled") << "1 h 12 min 5 s" << 4325.0 << "1 h 12 min";
        QTest::newRow("seconds") << "45s" << 45.0 << "45 s";
        QTest::newRow("days") << "2 d 3 h" << 183600.0 << "2 d 3 h";
        QTest::newRow("bare number in hours") << "3" << 10800.0 << "3 h";
        QTest::newRow("units in the wrong order") << "5 min 1 h" << -1.0 << "";
        QTest::newRow("minute 75") << "1:75" << -1.0 << "";
        QTest::newRow("words") << "soon" << -1.0 << "";
        QTest::newRow("empty") << " " << -1.0 << "";
        QTest::newRow("a number of days beyond any figure") << "999999999999999d" << -1.0 << "";
        QTest::newRow("the same by the clock") << "999999999999999:00" << -1.0 << "";
    }
    void durations_are_read_and_echoed() {
        QFETCH(QString, text);
        QFETCH(double, seconds);
        QFETCH(QString, echo);
        const auto read = parseDuration(text.toStdString(), "time", 3600.0);
        QCOMPARE(read.has_value(), seconds >= 0.0);
        if (read) {
            QVERIFY(std::fabs(*read - seconds) < 1e-9);
            QCOMPARE(QString::fromStdString(showDuration(*read)), echo);
        }
    }
    void what_is_too_long_for_whole_seconds_is_shown() {
        QCOMPARE(QString::fromStdString(showDuration(1e22)), "115740740740740736 d");
    }
    void a_bare_number_without_a_unit_is_a_problem() { QVERIFY(!parseDuration("3", "time").has_value()); }

    void digits_follow_the_uncertainty_data() {
        QTest::addColumn<double>("value");
        QTest::addColumn<double>("u"); // standard
        QTest::addColumn<int>("unit");
        QTest::addColumn<QString>("shown");
        const int wh = static_cast<int>(Unit::WattHour);
        const int share = static_cast<int>(Unit::Share);
        const int s = static_cast<int>(Unit::Second);
        QTest::newRow("one digit from 3 on") << 57.934 << 0.2 << wh << "57.9 ± 0.4 Wh";
        QTest::newRow("two digits below 3") << 57.934 << 0.07 << wh << "57.93 ± 0.14 Wh";
        QTest::newRow("rounding reaches the next digit") << 57.934 << 0.48 << wh << "57.9 ± 1.0 Wh";
        QTest::newRow("doubt above ten") << 8843.0 << 21.0 << static_cast<int>(Unit::MilliampHour) << "8840 ± 40 mAh";
        QTest::newRow("share as percent") << 0.7829 << 0.0025 << share << "78.3 ± 0.5 %";
        QTest::newRow("nothing known") << 74.0 << 0.0 << wh << "74 Wh";
        QTest::newRow("no digits boasted") << 0.540541 << 0.0 << share << "54.1 %";
        const int celsius = static_cast<int>(Unit::Celsius);
        QTest::newRow("a tenth of a degree") << 23.4567 << 0.0 << celsius << "23.5 °C";
        QTest::newRow("a hot one") << 104.26 << 0.0 << celsius << "104.3 °C";
        QTest::newRow("a cold one") << -0.34 << 0.0 << celsius << "−0.3 °C";
        QTest::newRow("minutes") << 4325.0 << 60.0 << s << "1 h 12 min ± 2 min";
        QTest::newRow("seconds when they are known") << 4325.0 << 1.0 << s << "1 h 12 min 5 s ± 2 s";
        QTest::newRow("a doubt in minutes beside minutes") << 4440.0 << 96.0 << s << "1 h 14 min ± 3 min";
        QTest::newRow("a minute at the least") << 4440.0 << 17.0 << s << "1 h 14 min ± 1 min";
        QTest::newRow("seconds of less than an hour") << 440.0 << 48.0 << s << "7 min 20 s ± 1 min 36 s";
        QTest::newRow("days with a doubt of hours have no minutes") << 130320.0 << 6960.0 << s << "1 d 12 h ± 4 h";
        QTest::newRow("days known to an hour have") << 130320.0 << 1800.0 << s << "1 d 12 h 12 min ± 1 h";
        QTest::newRow("negative") << -1.25 << 0.05 << wh << "−1.25 ± 0.10 Wh";
    }
    void digits_follow_the_uncertainty() {
        QFETCH(double, value);
        QFETCH(double, u);
        QFETCH(int, unit);
        QFETCH(QString, shown);
        const Measured m = u > 0.0 ? Measured(value, u, otterstone::testing::source("test")) : Measured(value);
        QCOMPARE(QString::fromStdString(show(m, static_cast<Unit>(unit))), shown);
    }

    // What a tester with a decimal comma, and one with degrees Fahrenheit, see of a text; and what is no figure.
    void figures_are_shown_as_a_tester_writes_them_data() {
        QTest::addColumn<QString>("text");
        QTest::addColumn<QString>("comma");
        QTest::addColumn<QString>("fahrenheit");
        const auto row = [](const char* text, const char* comma, const char* fahrenheit) {
            QTest::newRow(text) << QString::fromUtf8(text) << QString::fromUtf8(comma) << QString::fromUtf8(fahrenheit);
        };
        row("16.05 ± 0.07 Wh, 86.7 % of the label.", "16,05 ± 0,07 Wh, 86,7 % of the label.",
            "16.05 ± 0.07 Wh, 86.7 % of the label.");
        // NIST SP 811:2008, B.9: t/°F = 9/5 · t/°C + 32; the fixed points are common knowledge.
        row("0 °C", "0 °C", "32 °F");
        row("100 °C", "100 °C", "212 °F");
        row("37.0 °C", "37,0 °C", "98.6 °F");
        row("-40 °C", "-40 °C", "−40 °F");
        row("−17.8 °C", "−17,8 °C", "0.0 °F"); // −0.04
        row("−18 °C", "−18 °C", "0 °F");
        row("−10 °C", "−10 °C", "14 °F");
        row("41.3 ± 0.5 °C", "41,3 ± 0,5 °C", "106.3 ± 0.9 °F");
        row("It stopped at 60.2 °C, above the limit of 60 °C.", "It stopped at 60,2 °C, above the limit of 60 °C.",
            "It stopped at 140.4 °F, above the limit of 140 °F.");
        row("21\u00A0°C", "21\u00A0°C", "70\u00A0°F");
        row("a rise of 12.5 K", "a rise of 12,5 K", "a rise of 12.5 K");
        row("at 0.5", "at 0,5", "at 0.5");
        row("ended at 4.2.", "ended at 4,2.", "ended at 4.2.");
        row("(2.5)", "(2,5)", "(2.5)");
        row("127.732(71)", "127,732(71)", "127.732(71)");
        row("1.5 to 2.5 V", "1,5 to 2,5 V", "1.5 to 2.5 V");
        // These are names.
        for (const char* name :
             {"version 0.3.0", "127.0.0.1:5025", "C1.2", "USB-2.0", "log-1.5.csv", "a/1.5", "5V 2.4A", "38,5 °C",
              "case_1.2", "v1.5", "2026-11-30T08:00:00", "°C", "", ".5", "run 1.5.csv is read"})
            row(name, name, name);
    }
    void figures_are_shown_as_a_tester_writes_them() {
        QFETCH(const QString, text);
        QFETCH(const QString, comma);
        QFETCH(const QString, fahrenheit);
        const auto in = [&](const ScreenForm& form) {
            return QString::fromStdString(inForm(text.toStdString(), form));
        };
        QCOMPARE(in({}), text);
        QCOMPARE(in({',', false}), comma);
        QCOMPARE(in({'.', true}), fahrenheit);
        QCOMPARE(in({',', true}), QString::fromStdString(inForm(fahrenheit.toStdString(), {',', false})));
    }
    void degrees_go_there_and_back() {
        for (const double celsius : {-40.0, -17.7, 0.0, 21.0, 36.6, 60.0, 100.0})
            QVERIFY(std::fabs(celsiusOf(fahrenheitOf(celsius)) - celsius) < 1e-12);
    }

    void one_source_is_one_error() {
        const Measured gain(1.0, 0.01, otterstone::testing::source("meter: volts gain"));
        const Measured energy = Measured(10.0) * gain;
        const Measured charge = Measured(2.0, 0.002, otterstone::testing::source("meter: amps gain"));
        // The same gain in both halves cancels; different sources add in squares.
        QVERIFY(std::fabs((energy / gain).u()) < 1e-15);
        QVERIFY(std::fabs((energy - energy).u()) < 1e-15);
        const Measured ratio = energy / charge;
        QVERIFY(std::fabs(ratio.u() / ratio.value() - std::hypot(0.01, 0.001)) < 1e-12);
        QCOMPARE(ratio.contributions().size(), std::size_t(2));
    }
    void few_repeats_widen_the_interval() {
        // Student's t for 95 % and 2 degrees of freedom is 4.303: any statistics table; checked with scipy in
        // reference/.
        const Measured mean(10.0, 0.1, otterstone::testing::source("repeats"), 2.0);
        QVERIFY(std::fabs(mean.expanded() - 0.4303) < 5e-5);
        QVERIFY(std::fabs(Measured(10.0, 0.1, otterstone::testing::source("meter")).expanded() - 0.2) < 1e-15);
        // Welch-Satterthwaite (JCGM 100, G.4.1): u^4 / (u1^4/2).
        const Measured both = mean.with(otterstone::testing::source("meter"), 0.1);
        QVERIFY(std::fabs(both.degreesOfFreedom() - 8.0) < 1e-9);
    }
    void a_measured_figure_is_read_with_its_interval() {
        for (const char* text : {"0.085±0.01", "0.085 +- 0.01", "0,085 +/- 0,01"}) {
            const auto m = parseMeasured(text, "ohms", otterstone::testing::source("cable"));
            QVERIFY(m.has_value());
            QCOMPARE(m->value(), 0.085);
            QVERIFY(std::fabs(m->expanded() - 0.01) < 1e-15);
        }
        QVERIFY(!parseMeasured("0.085±-1", "ohms", otterstone::testing::source("cable")).has_value());
    }
};

QTEST_APPLESS_MAIN(QuantityTest)
#include "quantity_test.moc"
