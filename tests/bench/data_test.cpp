// Instrument profiles and recipes: what is taken, what is refused and where, and what a recipe will do.
#include <QTest>

#include <QFile>
#include <QProcess>
#include <QThread>

#include "bench/profiles/profile.h"
#include "bench/recipes/recipe.h"
#include "bench/runner/sleep_inhibitor.h"
#include "core/judgement/compare.h"
#include "core/plan/campaign/aims.h"
#include "where.h"

using namespace otterstone;
using namespace otterstone::bench;

namespace {

label::Label threeTiers() {
    label::Label l;
    l.energy = WattHours(37.0);
    l.ports = {{"C1",
                label::Direction::Both,
                {{Volts(5), Volts(5), Amps(3)}, {Volts(9), Volts(9), Amps(2)}, {Volts(20), Volts(20), Amps(1.5)}},
                {},
                {}}};
    return l;
}

std::string change(const std::string& text, const QString& what, const QString& by) {
    QString s = QString::fromStdString(text);
    if (!s.contains(what))
        return {};
    return s.replace(what, by).toStdString();
}

} // namespace

// Stands for the login manager on a bus of the test's own.
class Manager : public QObject {
    Q_OBJECT
    Q_CLASSINFO("D-Bus Interface", "org.freedesktop.login1.Manager")

public:
    QString why;
public Q_SLOTS:
    QDBusUnixFileDescriptor Inhibit(const QString&, const QString&, const QString& reason, const QString&) {
        why = reason;
        QFile file(QStringLiteral("/dev/null"));
        (void)file.open(QIODevice::ReadOnly);
        return QDBusUnixFileDescriptor(file.handle());
    }
};

class DataTest : public QObject {
    Q_OBJECT

private Q_SLOTS:
    // What a plan knows a run by: the watts that its recipe says, and none where it draws a current or a share.
    void a_recipe_says_its_watts() {
        int constant = 0;
        for (const bench::RecipeText& r : bench::builtinRecipes()) {
            const auto at = bench::wattsOf(bench::atWatts(r, 12.5).recipe);
            QVERIFY2(!at || *at == 12.5, r.recipe.key.c_str());
            QVERIFY2(!bench::wattsOf(r.recipe) || r.recipe.key == "steady-power-drain", r.recipe.key.c_str());
            constant += at ? 1 : 0;
        }
        QCOMPARE(constant, 1);
    }
    // The recipes that a campaign asks for by their keys.
    void every_run_that_a_figure_wants_has_its_recipe() {
        int named = 0;
        for (const judgement::FigureKind& figure : judgement::figureKinds()) {
            for (const auto& [kind, key] : plan::campaign::runsFor(figure.key)) {
                if (*key == '\0') // by hand
                    continue;
                const auto& all = builtinRecipes();
                QVERIFY2(std::any_of(all.begin(), all.end(),
                                     [&, kind = kind, key = key](const RecipeText& r) {
                                         return r.recipe.key == key && r.recipe.kind == kind;
                                     }),
                         key);
                ++named;
            }
        }
        QVERIFY(named >= 10);
    }
    void a_share_of_watts_becomes_watts() {
        for (const RecipeText& r : builtinRecipes()) {
            const RecipeText at = atWatts(r, 6.7);
            if (r.recipe.key != "steady-power-drain") {
                QCOMPARE(at.json, r.json);
                continue;
            }
            const Step& was = r.recipe.steps.back();
            const Step& is = at.recipe.steps.back();
            QVERIFY(was.ofTier && !is.ofTier);
            QCOMPARE(is.level, 6.7);
            QCOMPARE(at.recipe.name, std::string("Steady-power drain, 6.7 W"));
            QCOMPARE(at.recipe.key, r.recipe.key);
            // It reads back as what it is, and takes as long as the energy lasts.
            QVERIFY(*recipeFromJson(at.json, "again") == at.recipe);
            QVERIFY(std::abs(*estimateSeconds(at.recipe, threeTiers(), 26.8, {}) - 4.0 * 3600.0) < 300.0);
        }
    }
    void profiles_read_back_what_they_write() {
        const auto all = builtinProfiles();
        QVERIFY(all.size() >= 5);
        for (const Profile& p : all) {
            const auto again = profileFromJson(toJson(p), "test");
            QVERIFY2(again.has_value(), again ? "" : again.error().sentence().c_str());
            QVERIFY2(*again == p, p.key.c_str());
        }
    }
    void a_profile_is_refused_where_it_is_wrong_data() {
        QTest::addColumn<QString>("what");
        QTest::addColumn<QString>("by");
        QTest::addColumn<QString>("place");
        QTest::newRow("no JSON") << "\"kind\": \"meter\","
                                 << "\"kind\" \"meter\","
                                 << "meter.json";
        QTest::newRow("another file") << "otterstone-instrument"
                                      << "otterstone-recipe"
                                      << "meter.json";
        QTest::newRow("from tomorrow") << "\"version\": 1"
                                       << "\"version\": 2"
                                       << "meter.json";
        QTest::newRow("unknown kind") << "\"kind\": \"meter\""
                                      << "\"kind\": \"scale\""
                                      << "meter.json: kind";
        QTest::newRow("no name") << "\"name\""
                                 << "\"nmae\""
                                 << "meter.json: name";
        QTest::newRow("a key nobody knows") << "\"delimiter\""
                                            << "\"delimeter\""
                                            << "meter.json: lines.delimeter";
        QTest::newRow("baud as text") << "115200"
                                      << "\"fast\""
                                      << "meter.json: connection.serial.baud";
        QTest::newRow("column beyond the line") << "\"amps\": 3"
                                                << "\"amps\": 7"
                                                << "meter.json: lines";
        QTest::newRow("a column without meaning") << "\"amps\": 3"
                                                  << "\"amps\": 3, \"colour\": 4"
                                                  << "meter.json: lines.columns.colour";
        QTest::newRow("no volts") << "\"volts\": 2, "
                                  << ""
                                  << "meter.json: lines.units.volts";
        QTest::newRow("volts in kilograms") << "\"volts\": \"V\""
                                            << "\"volts\": \"kg\""
                                            << "meter.json: lines";
        QTest::newRow("neither lines nor SCPI") << "\"lines\""
                                                << "\"words\""
                                                << "meter.json: ";
        QTest::newRow("connected twice") << "{ \"serial\": { \"baud\": 115200 } }"
                                         << "{ \"serial\": {}, \"tcp\": {} }"
                                         << "meter.json: connection.tcp";
    }
    void a_profile_is_refused_where_it_is_wrong() {
        QFETCH(QString, what);
        QFETCH(QString, by);
        QFETCH(QString, place);
        QFile file(where::share("instruments/printing-meter.json"));
        QVERIFY(file.open(QIODevice::ReadOnly));
        const std::string text = change(file.readAll().toStdString(), what, by);
        QVERIFY(!text.empty());
        const auto p = profileFromJson(text, "meter.json");
        QVERIFY2(!p, "it was taken");
        QCOMPARE(QString::fromStdString(p.error().place), place);
        QVERIFY(!p.error().text.empty());
    }
    void commands_can_be_spelled_otherwise() {
        const auto p = profileFromJson(
            R"({"format":"otterstone-instrument","version":1,"key":"k","name":"n","kind":"load","connection":{"tcp":{"port":30000},"ending":"crlf"},
            "scpi":{"level.cc":"CURR:STAT:L1 {value}","off":"LOAD OFF"}})",
            "test");
        QVERIFY2(p.has_value(), p ? "" : p.error().sentence().c_str());
        QCOMPARE(p->command("level.cc", 1.5), std::string("CURR:STAT:L1 1.5"));
        QCOMPARE(p->command("off"), std::string("LOAD OFF"));
        QCOMPARE(p->command("on"), std::string("INPut ON")); // the usual one
        QCOMPARE(p->command("level.cp", 1e-7), std::string("SOURce:POWer 0"));
        QCOMPARE(p->command("level.cp", 100.0), std::string("SOURce:POWer 100"));
        QCOMPARE(p->command("dance"), std::string());
        QCOMPARE(p->ending, std::string("\r\n"));
        for (const char* wrong : {R"("level.cc":"CURR")", R"("jump":"JUMP")", R"("on":7)"}) {
            const auto refused = profileFromJson(
                std::string(
                    R"({"format":"otterstone-instrument","version":1,"key":"k","name":"n","kind":"load","connection":{"tcp":{}},"scpi":{)") +
                    wrong + "}}",
                "test");
            QVERIFY2(!refused, wrong);
        }
    }
    void recipes_say_what_they_will_do() {
        QStringList keys;
        for (const RecipeText& r : builtinRecipes()) {
            keys << QString::fromStdString(r.recipe.key);
            const auto sentences = describe(r.recipe, threeTiers());
            QVERIFY2(sentences.size() >= 2 && sentences.size() <= 14, r.recipe.key.c_str());
            for (const std::string& s : sentences)
                QVERIFY2((s.ends_with('.') || s.ends_with(':')), s.c_str());
            QVERIFY(!r.recipe.about.empty());
        }
        // One for each run the issue of the live bench names.
        for (const char* key : {"gentle-drain", "steady-power-drain", "top-tier-drain", "recharge-to-taper",
                                "load-staircase", "light-load-ladder", "pass-through", "sharing-round", "port-survey",
                                "input-matrix", "heat-soak", "device-charge"})
            QVERIFY2(keys.contains(QLatin1String(key)), key);
    }
    void a_recipe_is_refused_where_it_is_wrong_data() {
        QTest::addColumn<QString>("what");
        QTest::addColumn<QString>("by");
        QTest::addColumn<QString>("place");
        QTest::newRow("a key nobody knows") << "\"until\""
                                            << "\"utnil\""
                                            << "r: steps[3].seconds";
        QTest::newRow("nothing to draw") << "\"amps\": 1.0, "
                                         << ""
                                         << "r: steps[3].load";
        QTest::newRow("too much to draw") << "\"amps\": 1.0"
                                          << "\"amps\": 1000"
                                          << "r: steps[3].amps";
        QTest::newRow("two amounts") << "\"amps\": 1.0"
                                     << "\"amps\": 1.0, \"watts\": 3"
                                     << "r: steps[3].load";
        QTest::newRow("no such step") << "\"do\": \"rest\""
                                      << "\"do\": \"sing\""
                                      << "r: steps[2].do";
        QTest::newRow("for ever") << "\"seconds\": 20"
                                  << "\"until\": \"time\""
                                  << "r: steps[2].seconds";
        QTest::newRow("an instrument it doesn't name") << "\"load\"\n"
                                                       << "\"thermometer\"\n"
                                                       << "r: needs";
        QTest::newRow("an instrument there is not") << "\"thermometer\""
                                                    << "\"telescope\""
                                                    << "r: uses";
        QTest::newRow("limits nobody knows") << "\"celsius\": 60"
                                             << "\"kelvin\": 333"
                                             << "r: limits.kelvin";
        QTest::newRow("no steps") << "\"steps\": ["
                                  << "\"steps\": [], \"notes\": ["
                                  << "r: steps";
        QTest::newRow("too hot a limit") << "\"celsius\": 60"
                                         << "\"celsius\": 600"
                                         << "r: limits.celsius";
    }
    void a_recipe_is_refused_where_it_is_wrong() {
        QFETCH(QString, what);
        QFETCH(QString, by);
        QFETCH(QString, place);
        const std::string text = change(builtinRecipes().front().json, what, by);
        QVERIFY(!text.empty());
        const auto r = recipeFromJson(text, "r");
        QVERIFY2(!r, "it was taken");
        QCOMPARE(QString::fromStdString(r.error().place), place);
    }
    void any_cut_of_a_recipe_is_refused_without_harm() {
        // A small stand-in for fuzzing: every prefix, and every single character replaced.
        const std::string whole = builtinRecipes().front().json;
        for (std::size_t k = 0; k + 3 < whole.size(); ++k)
            QVERIFY(!recipeFromJson(whole.substr(0, k), "r"));
        for (std::size_t k = 0; k < whole.size(); ++k) {
            for (const char c : {'\0', '}', '"', '\xff', '9'}) {
                std::string changed = whole;
                changed[k] = c;
                const auto r = recipeFromJson(changed, "r");
                if (!r)
                    QVERIFY(!r.error().text.empty());
            }
        }
    }
    void levels_and_tiers_follow_the_label_data() {
        QTest::addColumn<bool>("top");
        QTest::addColumn<double>("volts");
        QTest::addColumn<double>("tierVolts");
        QTest::addColumn<double>("amps");
        QTest::newRow("5 V") << false << 5.0 << 5.0 << 3.0;
        QTest::newRow("9 V") << false << 9.0 << 9.0 << 2.0;
        QTest::newRow("the best: 30 W") << true << 5.0 << 20.0 << 1.5;
        QTest::newRow("one it has not") << false << 15.0 << 15.0 << 3.0;
    }
    void levels_and_tiers_follow_the_label() {
        QFETCH(bool, top);
        QFETCH(double, volts);
        QFETCH(double, tierVolts);
        QFETCH(double, amps);
        Step s;
        s.what = Step::Do::Ask;
        s.top = top;
        s.volts = volts;
        const auto tier = tierFor(s, threeTiers());
        QCOMPARE(tier.high.value, tierVolts);
        QCOMPARE(tier.amps.value, amps);
        Step draw;
        draw.what = Step::Do::Load;
        draw.ofTier = true;
        draw.level = 0.9;
        QCOMPARE(levelAt(draw, tier), 0.9 * amps);
        draw.mode = Mode::Power;
        QCOMPARE(levelAt(draw, tier), 0.9 * amps * tierVolts);
    }
    void a_duration_is_reckoned_from_the_energy() {
        const auto& gentle = builtinRecipes().front().recipe;
        // 20 s, 30 Wh at 5 W, a minute: 6 h 1 min 20 s.
        QCOMPARE(*estimateSeconds(gentle, threeTiers(), 30.0, {}), 20.0 + 6.0 * 3600.0 + 60.0);
        QVERIFY(!estimateSeconds(gentle, threeTiers(), {}, {}));
        for (const RecipeText& r : builtinRecipes()) {
            if (r.recipe.key == "load-staircase")
                QVERIFY(estimateSeconds(r.recipe, threeTiers(), {}, {})
                            .has_value()); // steps of known length need no energy
        }
    }
    // Ten minutes, a minute, another ten: whoever plugs it in first is there anyway.
    void a_course_says_when_it_waits_for_hands() {
        Recipe r;
        r.closingSeconds = 30.0;
        const auto step = [&r](Step::Do what, double seconds, const char* text) {
            r.steps.emplace_back();
            r.steps.back().what = what;
            r.steps.back().seconds = seconds;
            r.steps.back().text = text;
        };
        step(Step::Do::Tell, 0.0, "Plug the load into C1.");
        step(Step::Do::Rest, 600.0, "");
        step(Step::Do::Tell, 0.0, "Plug it into C2.");
        step(Step::Do::Rest, 60.0, "");
        step(Step::Do::Tell, 0.0, "Press the button.");
        step(Step::Do::Rest, 600.0, "");
        const auto course = courseOf(r, threeTiers(), {}, {});
        QVERIFY(course && course->seconds == 1290.0 && course->hands.size() == 2);
        QVERIFY(course->hands[0].at == 600.0 && course->hands[0].what == "Plug it into C2.");
        QVERIFY(course->hands[1].at == 660.0 && course->hands[1].what == "Press the button.");
    }
    void the_computer_is_kept_awake_while_it_is_asked_to() {
        SleepInhibitor none(QDBusConnection(QStringLiteral("no such bus")));
        QVERIFY(!none.hold("test"));
        QVERIFY(!none.trouble().isEmpty());
        // A bus of our own, with a stand-in for the login manager on it.
        QProcess daemon;
        daemon.start(QStringLiteral("dbus-daemon"), {"--session", "--print-address", "--nofork"});
        QVERIFY2(daemon.waitForStarted() && daemon.waitForReadyRead(5000), "dbus-daemon is not there");
        const QString address = QString::fromUtf8(daemon.readLine()).trimmed();
        {
            auto server = QDBusConnection::connectToBus(address, QStringLiteral("manager"));
            Manager manager;
            QVERIFY(server.registerObject(QStringLiteral("/org/freedesktop/login1"), &manager,
                                          QDBusConnection::ExportAllSlots));
            QVERIFY(server.registerService(QStringLiteral("org.freedesktop.login1")));
            // The caller blocks, so the manager answers from a thread's own loop: here simply another connection served
            // by Qt's D-Bus thread.
            manager.moveToThread(&thread_);
            thread_.start();
            SleepInhibitor inhibitor(QDBusConnection::connectToBus(address, QStringLiteral("window")));
            QVERIFY2(inhibitor.hold("a run goes"), qPrintable(inhibitor.trouble()));
            QVERIFY(inhibitor.isHeld());
            QCOMPARE(manager.why, QStringLiteral("a run goes"));
            inhibitor.release();
            QVERIFY(!inhibitor.isHeld());
            thread_.quit();
            thread_.wait();
        }
        QDBusConnection::disconnectFromBus(QStringLiteral("manager"));
        QDBusConnection::disconnectFromBus(QStringLiteral("window"));
        daemon.terminate();
        daemon.waitForFinished();
    }

private:
    QThread thread_;
};

QTEST_GUILESS_MAIN(DataTest)
#include "data_test.moc"
