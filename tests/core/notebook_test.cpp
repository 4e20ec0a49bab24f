// Notebooks: the cases of tests/cases/notebooks.txt, as a tester would tell them; times as people write them; and how
// often the intervals hold a truth drawn by closed forms.
#include <QRegularExpression>
#include <QTest>

#include <cmath>
#include <map>
#include <random>

#include "case_table.h"
#include "core/kinds/catalogue.h"
#include "core/kinds/notebook/measured.h"
#include "core/kinds/notebook/notebook.h"
#include "core/kinds/notebook/times.h"
#include "core/kinds/observation.h"
#include "core/quantity/parse.h"
#include "core/setup/facts.h"
#include "told.h"
#include "where.h"

using namespace otterstone;
using namespace otterstone::kinds;
using tests::parts;

namespace {

Facts factsFrom(const QString& known) {
    Facts f;
    f.run = "1";
    for (const QString& part : parts(QString(known).replace(", ", ";"), ";")) {
        const QStringList w = parts(part, " ");
        if (w[0] == "rated")
            f.label.energy = WattHours(w[1].toDouble());
        else if (w[0] == "drawer")
            f.devices.push_back({w[1].toStdString(), w[2].toDouble()});
        else if (w[0] == "pad")
            f.label.ports.push_back({"pad", label::Direction::Out, {}, Watts(10.0), {}});
        else if (w[0] == "meter")
            f.meter = path::parseMeter(("volts " + w[1] + "%, amps " + w[1] + "%").toStdString(), "case").value();
    }
    return f;
}

QString flowKey(Flow flow) { return flow == Flow::In ? "in" : flow == Flow::Out ? "out" : "unknown"; }

} // namespace

class NotebookTest : public QObject {
    Q_OBJECT

private Q_SLOTS:
    void what_is_told_data() {
        QTest::addColumn<QStringList>("cells");
        int rows = 0;
        for (const QStringList& cells : tests::rowsOf(where::cases("notebooks.txt"), 4))
            QTest::addRow("%d %s", ++rows, qPrintable(cells[0])) << cells;
        QVERIFY(rows >= 40);
    }
    void what_is_told() {
        QFETCH(QStringList, cells);
        const QString text = parts(cells[2], ";").join('\n');
        const Sheet sheet = sheetFromText(Kind::Notebook, text.toStdString());
        const NotebookFinding f = notebook(sheet, factsFrom(cells[1]));
        std::vector<Observation> seen;
        observe(*of(Kind::Notebook).sheet, {1, "notebook", sheet, factsFrom(cells[1])}, seen);
        tests::holdAgainst(parts(cells[3], ";"), f.said, seen,
                           [&f](const QString& want) { QCOMPARE(flowKey(f.flow), want); });
    }

    void what_was_measured_data() {
        QTest::addColumn<QStringList>("cells");
        int rows = 0;
        for (const QStringList& cells : tests::rowsOf(where::cases("measured.txt"), 4))
            QTest::addRow("%d %s", ++rows, qPrintable(cells[0])) << cells;
        QVERIFY(rows >= 20);
    }
    void what_was_measured() {
        QFETCH(QStringList, cells);
        const QStringList known = parts(QString(cells[1]).replace(',', ';'), ";");
        const Facts facts = factsFrom(cells[1]);
        Setup setup;
        setup.run = facts.run;
        setup.meter = facts.meter;
        setup.byDisplay = known.contains("display");
        setRating(setup, facts.label);
        for (const QString& k : known) {
            if (k.startsWith("cable "))
                setup.pathOhms = Measured(k.mid(6).toDouble());
        }
        Sheet sheet = sheetFromText(Kind::Notebook, parts(cells[2], ";").join('\n').toStdString());
        sheet.held = known.contains("held");
        auto said = judge(sheet, facts);
        if (cells[3].startsWith("nothing")) { // can be said, and why
            QVERIFY(!said && servesAs(sheet) == Kind::Notebook);
            QVERIFY2(QString::fromStdString(said.error().text).contains(cells[3].mid(8).trimmed()),
                     said.error().text.c_str());
            return;
        }
        QVERIFY2(said.has_value(), said ? "" : said.error().text.c_str());
        std::vector<Observation> seen;
        observe(*of(Kind::Notebook).sheet, {1, "notebook", sheet, facts}, seen);
        const auto remarks = said->remarks;
        const Finding f = findingOf(sheet, std::move(*said), facts, setup);
        const auto state = [](const std::optional<KnownState>& s) {
            return s ? QString::fromStdString(typedState(s->state)) : QStringLiteral("unknown");
        };
        tests::holdAgainst(parts(cells[3], ";"), {f.sentence, f.figures, f.warnings, remarks, {}}, seen,
                           [&](const QString& want) {
                               if (want.startsWith("began "))
                                   QCOMPARE(state(f.ends.began), want.mid(6));
                               else if (want.startsWith("ended "))
                                   QCOMPARE(state(f.ends.ended), want.mid(6));
                               else
                                   QCOMPARE(QString::fromStdString(kindKey(f.kind)), want);
                           });
    }

    void times_as_people_write_them_data() {
        QTest::addColumn<QStringList>("typed");
        QTest::addColumn<QString>("seconds"); ///< or the code of what is wrong with it
        const auto row = [](const char* typed, const char* seconds) {
            QTest::newRow(typed) << parts(typed, ";") << QString(seconds);
        };
        row("0; 15; 1 h 12; 1:30", "0 900 4320 5400");
        row("0; +15 min; +15; +1 h", "0 900 1800 5400");
        row("14:05; 14:35; 15:00", "0 1800 3300");
        row("2:15 pm; 3 pm; 3:30 p.m.", "0 2700 4500");
        row("11:50 pm; 12:10 am; 1:00 am", "0 1200 4200");
        row("23:30; 0:15; 6:00; 23:00; 1:00", "0 2700 23400 84600 91800");
        row("14:05; 90; +5", "0 5400 5700");
        row("0:00; 0:30; 25:10", "0 1800 90600");
        row("2026-05-02 22:00; 2026-05-03 06:30; 9:00", "0 30600 39600");
        row("14:05; 14:30; 14:20", "time_steps_back");
        row("0; 30; 20", "time_steps_back");
        row("0; 2:15 pm", "no_clock");
        row("14:05; 2026-05-03 06:30", "no_clock");
        row("soon", "not_a_duration");
    }
    void times_as_people_write_them() {
        QFETCH(QStringList, typed);
        QFETCH(QString, seconds);
        Times times;
        QStringList read;
        for (const QString& t : typed) {
            const auto at = times.next(t.toStdString());
            if (!at) {
                QCOMPARE(QString::fromStdString(at.error().code), seconds);
                return;
            }
            read << QString::number(*at);
        }
        QCOMPARE(read.join(' '), seconds);
    }

    // A phone by constant current to 80 %, then by a falling one (p' = r(100 − p)/20), read every so many minutes, in
    // whole percents or four LEDs: closed forms that share nothing with the sums.
    void intervals_hold_the_truth_data() {
        QTest::addColumn<double>("minutes");
        QTest::addColumn<bool>("leds");
        for (const double m : {1.0, 2.0, 5.0, 10.0, 15.0, 20.0, 30.0, 60.0}) {
            QTest::addRow("percent every %g min", m) << m << false;
            QTest::addRow("four LEDs every %g min", m) << m << true;
        }
    }
    void intervals_hold_the_truth() {
        QFETCH(double, minutes);
        QFETCH(bool, leds);
        std::mt19937 random(17);
        const auto uniform = [&random](double a, double b) { return std::uniform_real_distribution<>(a, b)(random); };
        int held = 0, all = 0;
        std::map<const char*, std::pair<int, int>> each;
        double widest = 0.0; // of a pace, as a share of it
        const auto judge = [&](const Measured& m, double truth, const char* what) {
            const int in = std::fabs(m.value() - truth) <= m.expanded() ? 1 : 0;
            ++all;
            held += in;
            each[what].first += in;
            ++each[what].second;
        };
        for (int k = 0; k < 400; ++k) {
            const double p0 = uniform(2.0, 40.0), rate = uniform(0.5, 1.6); // % a minute
            const double knee = (80.0 - p0) / rate;
            const auto percent = [&](double t) {
                return t < knee ? p0 + rate * t : 100.0 - 20.0 * std::exp(-rate / 20.0 * (t - knee));
            };
            const double first = uniform(0.0, minutes);
            Sheet sheet{Kind::Notebook, {}, {"Phone 10 Wh"}};
            std::vector<double> at, shown; // what the display says in the middle
            // A percent is read until it is nearly full, lights until whenever.
            const double end = leds ? uniform(40.0, 240.0) : 300.0;
            for (double t = first; (shown.empty() || shown.back() < 97.0) && t < end; t += minutes) {
                const double truth = percent(t), lit = std::floor(truth / 25.0);
                // One digit either way, as it likes.
                const double digit =
                    std::clamp(uniform(0.0, 1.0) < 0.5 ? std::floor(truth) : std::ceil(truth), 0.0, 100.0);
                shown.push_back(leds ? 25.0 * lit + 12.5 : digit);
                addRow(sheet, {{"time", std::to_string(t - first) + " min"},
                               {deviceKey(0), leds ? std::to_string(static_cast<int>(lit) + 1) + " of 4"
                                                   : std::to_string(static_cast<int>(digit))}});
                at.push_back(t);
            }
            if (at.size() < 3)
                continue;
            const NotebookFinding f = notebook(sheet, {});
            const Charging& c = f.sittings.front().charging;
            if (c.pace && leds && c.paceTo <= 80.0) {
                judge(*c.pace, rate * 60.0, "pace"); // all of it at constant current
                if (c.paceTo - c.paceFrom == 50.0)
                    widest = std::max(widest, c.pace->expanded() / c.pace->value());
            } else if (c.pace && !leds) {
                double last = 0.0;
                for (std::size_t n = 1; n < at.size(); ++n) {
                    if (shown[n] <= 81.0)
                        last = at[n];
                }
                if (last > 0.0)
                    judge(*c.pace, (percent(last) - percent(first)) / (last - first) * 60.0, "pace");
            }
            if (c.at30)
                judge(*c.at30, percent(first + 30.0), "at30");
            if (c.to80)
                judge(*c.to80, (knee - first) * 60.0, "to80");
            judge(c.gained, percent(at.back()) - percent(first), "gained");
        }
        QString words;
        for (const auto& [what, n] : each)
            words += QStringLiteral("%1 %2 of %3; ").arg(what).arg(n.first).arg(n.second);
        // Lights are bounds, which always hold; a percent's digits scatter.
        const double share = static_cast<double>(held) / all;
        QVERIFY2(all > 200 && share >= 0.92 && share <= (leds ? 1.0 : 0.995), qPrintable(words));
        // Lights that are looked at often tell a pace to a tenth.
        QVERIFY(!leds || minutes > 5.0 || widest < 0.2);
    }

    // A bank of so many charges, its display rounded and its gauge off by up to five points at either end.
    void charges_of_the_bank_hold_the_truth() {
        std::mt19937 random(18);
        const auto uniform = [&random](double a, double b) { return std::uniform_real_distribution<>(a, b)(random); };
        int held = 0, all = 0;
        for (int k = 0; k < 2000; ++k) {
            const double charges = uniform(0.8, 6.0), before = uniform(60.0, 94.0), gained = uniform(30.0, 75.0);
            const double after = before - gained / charges;
            if (after < 10.0)
                continue;
            const auto shown = [&](double truth) { return std::to_string(static_cast<int>(std::round(truth))); };
            Sheet sheet{Kind::Notebook, {}, {"Phone"}};
            const double began = uniform(2.0, 20.0);
            addRow(sheet, {{"time", "0"}, {deviceKey(0), shown(began)}, {"bank", shown(before + uniform(-5.0, 5.0))}});
            addRow(
                sheet,
                {{"time", "1 h"}, {deviceKey(0), shown(began + gained)}, {"bank", shown(after + uniform(-5.0, 5.0))}});
            const NotebookFinding f = notebook(sheet, {});
            if (!f.perBank)
                continue;
            ++all;
            held += f.perBank->low <= charges && charges <= f.perBank->high ? 1 : 0;
        }
        const double share = static_cast<double>(held) / all;
        QVERIFY2(all > 1000 && share >= 0.92 && share <= 0.99,
                 qPrintable(QStringLiteral("%1 of %2").arg(held).arg(all)));
    }

    // One phone again and again until the bank died: what the bank truly gave, less what is lost on the way, is shared
    // out over charges at constant current to 80 % and a falling one above; looked at every so many minutes, a digit
    // either way.
    void a_bank_emptied_into_a_phone_holds_the_truth() {
        std::mt19937 random(19);
        const auto uniform = [&random](double a, double b) { return std::uniform_real_distribution<>(a, b)(random); };
        int held = 0, all = 0, arrived = 0;
        for (int k = 0; k < 600; ++k) {
            const double battery = uniform(8.0, 16.0), rated = uniform(18.0, 74.0), share = uniform(0.5, 0.75),
                         every = uniform(5.0, 40.0);
            double left = rated * share, minutes = 0.0, points = 0.0; // Wh that still arrive
            Sheet sheet{Kind::Notebook, {}, {"Phone " + std::to_string(battery) + " Wh"}};
            const auto look = [&](double percent, const char* bank, const char* happened) {
                const double digit = uniform(0.0, 1.0) < 0.5 ? std::floor(percent) : std::ceil(percent);
                addRow(sheet, {{"time", std::to_string(minutes) + " min"},
                               {deviceKey(0), percent >= 100.0 ? "full" : std::to_string(static_cast<int>(digit))},
                               {"bank", bank},
                               {"happened", happened}});
            };
            bool died = false;
            for (int charge = 0; !died && charge < 12; ++charge) {
                double p = uniform(3.5, 25.0), next = minutes + every;
                look(p, charge == 0 ? "full" : "", "");
                while (p < 100.0 && !died) {
                    const double step = std::min(p < 80.0 ? 1.1 : 0.05 + 1.05 * (100.0 - p) / 20.0, 100.0 - p);
                    const double wh = step / 100.0 * battery;
                    died = wh >= left;
                    const double got = died ? left / battery * 100.0 : step;
                    p += got;
                    points += got;
                    left -= died ? left : wh;
                    minutes += 1.0;
                    if (minutes >= next && p < 99.0 && !died) {
                        look(p, "", "");
                        next += every;
                    }
                }
                look(p, "", died ? "died" : "");
                minutes += 5.0;
            }
            if (!died)
                continue;
            Facts facts;
            facts.run = "1";
            facts.label.energy = WattHours(rated);
            const auto said = notebook(sheet, facts).said;
            const auto of = [&said](const char* key) {
                const auto at = std::ranges::find(said.figures, std::string(key), &Working::key);
                return at == said.figures.end() ? nullptr : &at->value;
            };
            const Measured* charges = of("charges_per_bank");
            const Measured* part = of("arrived_share");
            if (!charges || !part)
                continue;
            ++all;
            held += std::fabs(charges->value() - points / 100.0) <= charges->expanded() ? 1 : 0;
            arrived += std::fabs(part->value() - share) <= part->expanded() ? 1 : 0;
        }
        const QString words = QStringLiteral("%1 and %2 of %3").arg(held).arg(arrived).arg(all);
        QVERIFY2(all > 300 && held >= 0.92 * all && held <= 0.995 * all && arrived >= 0.92 * all, qPrintable(words));
    }

    void a_sheet_keeps_its_devices_through_text() {
        const Sheet sheet =
            sheetFromText(Kind::Notebook, "Time\tPhone 12.9 Wh\tBank\tTorch\n14:05\t22\tfull\t1 of 4\n");
        QCOMPARE(sheet.devices, (std::vector<std::string>{"Phone 12.9 Wh", "Torch"}));
        QCOMPARE(sheet.rows[0][columnAt(sheet, "bank")], std::string("full"));
        QCOMPARE(sheet.rows[0][columnAt(sheet, deviceKey(1))], std::string("1 of 4"));
        Sheet more = sheet;
        addDevice(more, "Tablet");
        QCOMPARE(more.rows[0][columnAt(more, "bank")], std::string("full"));
        removeDevice(more, 0);
        QCOMPARE(more.devices, (std::vector<std::string>{"Torch", "Tablet"}));
        QCOMPARE(more.rows[0][columnAt(more, deviceKey(0))], std::string("1 of 4"));
        QCOMPARE(more.rows[0][columnAt(more, "bank")], std::string("full"));
    }
};

QTEST_APPLESS_MAIN(NotebookTest)
#include "notebook_test.moc"
