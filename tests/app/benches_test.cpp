// Several runs at once in the real window: by keys on the simulated bench, and on instruments that share nothing with
// it.
#include <QTest>

#include <QCheckBox>
#include <QComboBox>
#include <QDir>
#include <QElapsedTimer>
#include <QLineEdit>
#include <QListWidget>
#include <QRadioButton>
#include <QScopeGuard>
#include <QSettings>
#include <QSignalSpy>
#include <QStandardPaths>

#include "app/live/bench_row.h"
#include "app/live/bench_strip.h"
#include "app/live/instrument_panel.h"
#include "app/live/live_page.h"
#include "app/live/next_run.h"
#include "app/live/running_view.h"
#include "app/live/setup_view.h"
#include "app/plan/job_to_do.h"
#include "app/runs/run_page.h"
#include "app/runs/stamp_entry.h"
#include "app/shelf/shelf.h"
#include "bench/fake_bench.h"
#include "book/store/capture.h"
#include "demo_window.h"
#include "look.h"

using namespace otterstone;
using namespace otterstone::app;
using namespace otterstone::testing;

namespace {

constexpr const char* kHour =
    R"({"format": "otterstone-recipe", "version": 1, "key": "hour", "name": "An hour", "kind": "drain", "needs": ["meter", "load"],
    "uses": ["thermometer"], "closing_s": 1, "steps": [{"do": "load", "amps": 1, "seconds": 3600}]})";
} // namespace

class BenchesTest : public QObject {
    Q_OBJECT

    DemoWindow window_;

    static void forget() {
        QSettings().remove(QStringLiteral("live"));
        for (const char* folder : {"recipes", "instruments", "setups"})
            QDir(QStandardPaths::writableLocation(QStandardPaths::AppDataLocation) + '/' + folder).removeRecursively();
    }
    [[nodiscard]] LiveBench& live() { return window_->liveBench(); }
    [[nodiscard]] LivePage* page() { return window_->livePage(); }

    // By keyboard, from the shelf.
    void rehearse(const std::string& bank, const QString& speed) {
        window_->shelf()->select(window_.bankNamed(bank));
        QTest::keyClick(window_.get(), Qt::Key_R, Qt::ControlModifier);
        SetupView* setup = page()->setup();
        QTRY_VERIFY(setup->isVisible() && setup->recipes()->hasFocus());
        QCOMPARE(setup->bank(), window_.bankNamed(bank));
        QTest::keyClick(setup->recipes(), Qt::Key_Home);
        setup->speed()->setText(speed);
        const auto before = live().going().size();
        QTest::keyClick(setup->start(), Qt::Key_Space);
        QTRY_COMPARE_WITH_TIMEOUT(live().going().size(), before + 1, 20000);
        QTRY_VERIFY_WITH_TIMEOUT(
            live().chosen().plan().run.bank == window_.bankNamed(bank) && live().chosen().progress().loadOn, 30000);
    }
    // A set-up of this name, in use from now on, with the instruments of a bench that is not the shipped one.
    void setUp(const QString& name, const FakeBench& bench, const std::string& meter = {}) {
        QVERIFY(live().setups().add(name));
        for (const auto& [role, instrument] : bench.instruments()) {
            QVERIFY(live().saveProfile(instrument.profile));
            live().setups().place(role, {instrument.profile.key, instrument.address.text.toStdString(),
                                         role == "meter" ? meter : std::string()});
        }
    }
    void beginReal(const std::string& bank, const char* recipe = kHour) {
        live().begin({*window_.book().bank(window_.bankNamed(bank)),
                      {bench::recipeFromJson(recipe, "recipe").value(), recipe},
                      false,
                      1.0,
                      {},
                      45.0});
    }
    void beginReal(const std::string& bank, FakeBench& on) {
        beginReal(bank);
        QTRY_VERIFY_WITH_TIMEOUT(on.on && live().chosen().progress().amps > 0.5, 20000);
    }
    [[nodiscard]] std::vector<records::Run> newRuns(const std::string& bank) {
        std::vector<records::Run> all;
        for (const records::Run& run : window_.book().runs(window_.bankNamed(bank))) {
            if (!run.recipe.empty() && run.startedAt >= begun_.toStdString())
                all.push_back(run);
        }
        return all;
    }
    // What went wrong with an instrument; a machine that was busy for seconds says so of itself.
    static std::string wrongWithInstruments(const records::Run& run) {
        for (const records::Mark& m : run.marks) {
            if (m.what == records::Mark::What::Instrument && !m.text.starts_with("this computer stood still"))
                return m.text;
        }
        return {};
    }
    QString begun_;

private Q_SLOTS:
    void initTestCase() { QVERIFY(window_.prepare(false)); }
    void init() {
        forget();
        begun_ = QDateTime::currentDateTime().toString(Qt::ISODate);
        QVERIFY(window_.openCopy());
    }
    void cleanup() {
        window_.close();
        forget();
    }

    void two_rehearsals_go_and_keys_choose_between_them() {
        QSignalSpy ended(&live(), &LiveBench::ended);
        rehearse("Pebble 5", "60");
        QVERIFY(page()->showsRun());
        QTest::keyClick(page()->running(), Qt::Key_0); // another one, while it goes
        QTRY_VERIFY(page()->setup()->isVisible());
        rehearse("Cobble 10", "60");
        QCOMPARE(live().going().size(), 2u);
        QCOMPARE(live().chosen().number(), 2);
        QTRY_VERIFY(page()->benches()->isVisible() && page()->benches()->ribbon(1)->isVisible());
        QTRY_VERIFY(page()->benches()->ribbon(1)->accessibleName().contains("Pebble 5"));
        QTRY_VERIFY(page()->benches()->ribbon(1)->accessibleName().contains(" W · "));
        QVERIFY(page()->benches()->ribbon(2)->isChecked() && !page()->benches()->ribbon(1)->isChecked());
        QTRY_VERIFY(says(page()->running(), "Cobble 10"));

        QTest::keyClick(page()->running(), Qt::Key_1);
        QCOMPARE(live().chosen().number(), 1);
        QTRY_VERIFY(page()->running()->isVisible() && says(page()->running(), "Pebble 5"));
        // A stamp goes to the one that is shown; figures that are typed choose nothing.
        QTest::keyClick(page()->running(), Qt::Key_P);
        QLineEdit* line = page()->running()->stamps()->line();
        QTRY_VERIFY(line->hasFocus());
        QTest::keyClicks(line, "92");
        QCOMPARE(line->text(), QString("92"));
        QTest::keyClick(line, Qt::Key_Return);
        QCOMPARE(live().chosen().number(), 1);

        // On another page the strip has both, and the keys mean the chosen one.
        QTest::keyClick(window_.get(), Qt::Key_1, Qt::AltModifier);
        auto* strip = window_->findChild<BenchStrip*>();
        QTRY_VERIFY(strip->isVisible() && says(strip, "Bench 1."));
        QPushButton* other = nullptr;
        for (auto* b : strip->findChildren<QPushButton*>()) {
            if (b->isVisible() && b->accessibleName().startsWith("Bench 2"))
                other = b;
        }
        QVERIFY(other);
        QTRY_COMPARE_WITH_TIMEOUT(live().going().front()->progress().marks > 0, true, 5000);
        QTest::keyClick(window_.get(), Qt::Key_Period, Qt::ControlModifier);
        QVERIFY(ended.wait(20000));
        QCOMPARE(qvariant_cast<LiveRun*>(ended.first()[1])->number(), 1);
        QVERIFY(!page()->isVisible()); // whoever is elsewhere stays there
        QCOMPARE(live().going().size(), 1u);
        QCOMPARE(live().chosen().number(), 2);
        QVERIFY(live().chosen().progress().loadOn);
        QTest::keyClick(window_.get(), Qt::Key_Period, Qt::ControlModifier | Qt::ShiftModifier);
        QVERIFY(ended.size() == 2 || ended.wait(20000));
        QVERIFY(live().going().empty() && !strip->isVisible());

        const auto first = newRuns("Pebble 5"), second = newRuns("Cobble 10");
        QVERIFY(first.size() == 1 && second.size() == 1);
        const auto stamped = [](const records::Run& run) {
            return std::any_of(run.marks.begin(), run.marks.end(), [](const records::Mark& m) {
                return m.what == records::Mark::What::Percent && m.number == 92.0;
            });
        };
        QVERIFY(stamped(first.front()) && !stamped(second.front()));
        QCOMPARE(QString::fromStdString(first.front().stopped), QString("the tester stopped it"));
        QCOMPARE(QString::fromStdString(second.front().stopped), QString("the tester stopped all"));
        QVERIFY(window_.book().trace(first.front().id).size() > 10 &&
                window_.book().trace(second.front().id).size() > 10);
    }

    void what_is_at_work_is_not_given_away_data() {
        QTest::addColumn<QString>("bank");
        QTest::addColumn<bool>("ownBench"); // other instruments
        QTest::addColumn<QString>("meter"); // the piece of the drawer
        QTest::addColumn<QString>("told");
        const QString who = "is at work on bench 1 (Pebble 5, An hour)";
        QTest::newRow("the same instruments") << "Cobble 10" << false << "Grey meter" << who;
        QTest::newRow("other instruments, the same piece of the drawer") << "Cobble 10" << true << "first"
                                                                         << "“%1” " + who;
        QTest::newRow("other instruments, the same bank") << "Pebble 5" << true << "second"
                                                          << "This bank is at work already, on bench 1";
        QTest::newRow("other instruments, another piece, another bank") << "Cobble 10" << true << "second"
                                                                        << "";
    }
    void what_is_at_work_is_not_given_away() {
        QFETCH(QString, bank);
        QFETCH(bool, ownBench);
        QFETCH(QString, meter);
        QFETCH(QString, told);
        std::vector<std::string> meters;
        for (const records::Gear& g : window_.book().gear()) {
            if (g.kind == records::GearKind::Meter)
                meters.push_back(g.name);
        }
        QVERIFY(meters.size() >= 2);
        FakeBench one, two;
        setUp("Left", one, meters[0]);
        beginReal("Pebble 5", one);
        QSignalSpy problems(&live(), &LiveBench::problem);
        if (ownBench)
            setUp("Right", two, meter == "first" ? meters[0] : meters[1]);
        beginReal(bank.toStdString());
        if (!told.isEmpty()) {
            QCOMPARE(problems.size(), 1);
            const QString expected = told.contains('%') ? told.arg(QString::fromStdString(meters[0])) : told;
            QVERIFY2(problems.first().first().toString().contains(expected),
                     qPrintable(problems.first().first().toString()));
            QCOMPARE(live().going().size(), 1u);
            QVERIFY(says(window_.get(), expected.left(20)));
        } else {
            QTRY_VERIFY_WITH_TIMEOUT(two.on, 20000);
            QCOMPARE(live().going().size(), 2u);
            QVERIFY(problems.empty());
        }
        QVERIFY(one.on && live().going().front()->progress().loadOn); // nobody disturbed it
        live().stopAll();
        QTRY_VERIFY_WITH_TIMEOUT(live().going().empty(), 20000);
        QVERIFY(!one.on && !two.on);
        // Each run has the piece its set-up names.
        const auto named = [&](const records::Run& run) {
            for (const records::Gear& g : window_.book().gear()) {
                if (run.meter == g.id)
                    return g.name;
            }
            return std::string();
        };
        QCOMPARE(named(newRuns("Pebble 5").front()), meters[0]);
        if (told.isEmpty())
            QCOMPARE(named(newRuns("Cobble 10").front()), meters[1]);
    }

    // What happens to one bench while another one goes on beside it.
    void what_one_bench_suffers_leaves_the_other_alone_data() {
        QTest::addColumn<int>("fault");
        QTest::addColumn<QString>("instrument");
        QTest::newRow("its load answers no more") << int(Fault::Silent) << "load";
        QTest::newRow("its load is pulled out") << int(Fault::Closes) << "load";
        QTest::newRow("its load says NaN") << int(Fault::NotANumber) << "load";
        QTest::newRow("its meter is silent") << int(Fault::Silent) << "meter";
        QTest::newRow("its meter prints words") << int(Fault::Words) << "meter";
        QTest::newRow("its meter is pulled out") << int(Fault::Closes) << "meter";
        QTest::newRow("its thermometer says NaN") << int(Fault::NotANumber) << "thermometer";
        QTest::newRow("its bank gets hot") << int(Fault::None) << "hot";
    }
    void what_one_bench_suffers_leaves_the_other_alone() {
        QFETCH(int, fault);
        QFETCH(QString, instrument);
        FakeBench hurt, well;
        setUp("Left", hurt);
        beginReal("Pebble 5", hurt);
        setUp("Right", well);
        beginReal("Cobble 10", well);
        LiveRun* second = live().withNumber(2);
        QVERIFY(second && live().going().size() == 2);
        const auto readings = [&] {
            return second->progress().health.empty() ? 0LL : second->progress().health.front().readings;
        };
        const qint64 at = hurt.clock.elapsed();
        const long long before = readings();
        if (instrument == "hot")
            hurt.celsius = 60.0;
        else
            (instrument == "load"    ? hurt.load
             : instrument == "meter" ? hurt.meter
                                     : hurt.thermometer)
                .fail(static_cast<Fault>(fault));
        // The load that is hurt goes off, or is said to be on; ten seconds of silence are allowed.
        const auto* first = live().withNumber(1);
        QTRY_VERIFY_WITH_TIMEOUT(!hurt.on || !first->progress().stillOn.empty(), 40000);
        const auto lasted = static_cast<long long>(hurt.clock.elapsed() - at);
        QVERIFY(well.on && second->progress().loadOn);
        QTRY_VERIFY(readings() > before + lasted / 200); // one each 100 ms
        for (FakeInstrument* i : {&hurt.load, &hurt.meter, &hurt.thermometer})
            i->fail(Fault::None);
        QTRY_VERIFY_WITH_TIMEOUT(live().going().size() == 1, 40000);
        QVERIFY(!hurt.on && well.on);
        live().stopAll();
        QTRY_VERIFY_WITH_TIMEOUT(live().going().empty(), 20000);
        const records::Run run = newRuns("Cobble 10").front();
        QCOMPARE(wrongWithInstruments(run), std::string());
        QCOMPARE(QString::fromStdString(run.stopped), QString("the tester stopped all"));
    }

    // On real instruments, with their set-up and their piece of the drawer: not before its time, and on no other bench.
    void what_begins_by_itself_begins_on_the_instruments_of_the_run_before_it_data() {
        QTest::addColumn<QString>("tester");
        QTest::addColumn<bool>("begins");
        QTest::newRow("it begins") << "" << true;
        QTest::newRow("kept back by Ctrl+.") << "keeps it back" << false;
        QTest::newRow("the run before it was stopped") << "stopped it" << false;
        QTest::newRow("its meter has a run of another bank meanwhile") << "uses the meter" << false;
    }
    void what_begins_by_itself_begins_on_the_instruments_of_the_run_before_it() {
        QFETCH(QString, tester);
        QFETCH(bool, begins);
        constexpr const char* kBrief =
            R"({"format": "otterstone-recipe", "version": 1, "key": "brief", "name": "Two seconds", "kind": "drain",
            "needs": ["meter", "load"], "closing_s": 1, "steps": [{"do": "load", "amps": 1, "seconds": 2}]})";
        QVERIFY(live().saveRecipe(kHour));
        std::vector<records::Gear> meters;
        for (const records::Gear& g : window_.book().gear()) {
            if (g.kind == records::GearKind::Meter)
                meters.push_back(g);
        }
        FakeBench used, other;
        setUp("Left", used, meters[0].name);
        setUp("Right", other, meters[1].name); // chosen for what is set up by hand from now on
        live().setups().choose("left");
        QSignalSpy started(&live(), &LiveBench::started), ended(&live(), &LiveBench::ended);
        beginReal("Pebble 5", kBrief);
        QTRY_VERIFY_WITH_TIMEOUT(used.on, 20000);
        live().setups().choose("right");
        if (tester == "stopped it")
            live().chosen().stop();
        QVERIFY(ended.count() > 0 || ended.wait(20000));
        QVERIFY(!used.on);
        if (tester == "uses the meter") {
            live().setups().choose("left");
            beginReal("Scree 15", used);
        }
        const auto before = static_cast<int>(started.count());
        QElapsedTimer since;
        std::optional<qint64> begun; // ms behind the offer
        connect(&live(), &LiveBench::started, this, [&] { begun = begun.value_or(since.elapsed()); });
        const auto unwatched = qScopeGuard([&] { disconnect(&live(), &LiveBench::started, this, nullptr); });
        window_->nextRun()->setNotice(1.0);
        since.start();
        const JobToDo job{window_.bankNamed("Cobble 10"), records::Kind::Drain, "hour", {}, {meters[0].name}, 3.0};
        const QString words = window_->nextRun()->offer(1, job, "An hour of Cobble 10");
        QCOMPARE(words.contains("begins by itself at"), tester != "stopped it");
        if (tester == "keeps it back")
            QTest::keyClick(window_.get(), Qt::Key_Period, Qt::ControlModifier);
        if (!begins) {
            QTest::qWait(4000);
            QVERIFY(!begun);
            QCOMPARE(static_cast<int>(started.count()), before);
            QCOMPARE(live().going().size(), std::size_t(tester == "uses the meter" ? 1 : 0));
            QVERIFY(newRuns("Cobble 10").empty() && !other.on);
            QCOMPARE(says(window_.get(), "is at work on bench 1 (Scree 15, An hour)"), tester == "uses the meter");
            live().stopAll();
            QTRY_VERIFY_WITH_TIMEOUT(live().going().empty(), 20000);
            return;
        }
        QTRY_VERIFY_WITH_TIMEOUT(used.on && live().chosen().progress().amps > 0.5, 20000);
        QVERIFY(begun && *begun > 2800); // the bank has to cool for three seconds; a timer may be a twentieth early
        QVERIFY(!other.on);
        QVERIFY(says(window_.get(), "Begun by itself on bench 1: Cobble 10, An hour."));
        live().stopAll();
        QTRY_VERIFY_WITH_TIMEOUT(live().going().empty(), 20000);
        QVERIFY(!used.on);
        const records::Run run = newRuns("Cobble 10").front();
        QVERIFY(run.meter == meters[0].id);
        QCOMPARE(wrongWithInstruments(run), std::string());
    }

    void stop_all_waits_for_nobody() {
        FakeBench deaf, second, third;
        setUp("Left", deaf);
        beginReal("Pebble 5", deaf);
        setUp("Middle", second);
        beginReal("Cobble 10", second);
        setUp("Right", third);
        beginReal("Scree 15", third);
        QCOMPARE(live().going().size(), 3u);
        deaf.load.fail(Fault::Deaf);
        const qint64 a = second.clock.elapsed(), b = third.clock.elapsed();
        QTest::keyClick(window_.get(), Qt::Key_Period, Qt::ControlModifier | Qt::ShiftModifier);
        QTRY_VERIFY_WITH_TIMEOUT(!second.on && !third.on, 5000);
        QVERIFY2(second.offAt - a <= 1000 && third.offAt - b <= 1000,
                 qPrintable(QString("%1 %2").arg(second.offAt - a).arg(third.offAt - b)));
        // The one that does not hear is on, and that is said.
        QTRY_VERIFY_WITH_TIMEOUT(!live().withNumber(1)->progress().stillOn.empty(), 15000);
        QVERIFY(deaf.on);
        QVERIFY(live().withNumber(1)->wantsHands());
        // Wherever one is, and whichever run is chosen.
        QTest::keyClick(window_.get(), Qt::Key_1, Qt::AltModifier);
        QTRY_VERIFY(says(window_->findChild<BenchStrip*>(), "⚠"));
        deaf.load.fail(Fault::None);
        QTRY_VERIFY_WITH_TIMEOUT(live().going().empty(), 30000);
        QVERIFY(!deaf.on);
    }

    void a_window_that_goes_switches_every_load_off() {
        FakeBench one, two;
        setUp("Left", one);
        beginReal("Pebble 5", one);
        setUp("Right", two);
        beginReal("Cobble 10", two);
        const QString path = window_.book().path();
        window_.close();
        QTRY_VERIFY_WITH_TIMEOUT(!one.on && !two.on, 5000);
        auto book = book::Book::open(path);
        QVERIFY(book);
        for (const records::Bank& bank : (*book)->banks()) {
            for (const records::Run& run : (*book)->runs(bank.id))
                QVERIFY2(!run.open, run.title.c_str());
        }
    }

    // Of several meters that lie on a bench each has its own place in the run.
    void a_recharge_is_read_off_the_input_meter() {
        std::vector<records::Gear> meters;
        for (const records::Gear& g : window_.book().gear()) {
            if (g.kind == records::GearKind::Meter)
                meters.push_back(g);
        }
        QVERIFY(meters.size() >= 3);
        FakeBench out, in;
        setUp("Left", out, meters[0].name);
        const std::string key = FakeBench::profile(bench::Kind::Meter).key;
        live().setups().place("input meter", {key, in.meter.address().text.toStdString(), meters[1].name});
        FakeBench wall;
        live().setups().place("wall meter", {key, wall.meter.address().text.toStdString(), meters[2].name});
        const char* recipe =
            R"({"format": "otterstone-recipe", "version": 1, "key": "in", "name": "In", "kind": "recharge", "needs": ["input meter"],
            "uses": ["wall meter", "thermometer"], "closing_s": 1, "steps": [{"do": "rest", "seconds": 3600}]})";
        in.on = wall.on = true;
        in.amps = 1.0;
        wall.amps = 1.2;
        beginReal("Pebble 5", recipe);
        QTRY_VERIFY_WITH_TIMEOUT(live().chosen().progress().amps > 0.5, 20000);
        QTest::qWait(1500);
        live().stopAll();
        QTRY_VERIFY_WITH_TIMEOUT(live().going().empty(), 20000);
        const records::Run run = newRuns("Pebble 5").front();
        QVERIFY(run.meter == meters[1].id);
        QCOMPARE(run.also.size(), 1u);
        QCOMPARE(run.also.front().point, path::Point::Wall);
        QVERIFY(run.also.front().meter == meters[2].id);
    }

    // What goes on elsewhere takes nothing away from what is being set up.
    void a_plans_watts_stay_while_other_things_change() {
        window_->shelf()->select(window_.bankNamed("Cobble 10"));
        QTest::keyClick(window_.get(), Qt::Key_3, Qt::AltModifier);
        SetupView* setup = page()->setup();
        setup->chooseRecipe("steady-power-drain");
        QVERIFY(!says(setup, "7.25 W"));
        setup->takePlan({}, 7.25);
        QVERIFY(says(setup, "7.25 W"));
        live().setups().choose("bench"); // as when a run begins or ends
        QVERIFY(says(setup, "7.25 W"));
        QTest::keyClick(setup->recipes(), Qt::Key_Home);
        setup->chooseRecipe("steady-power-drain");
        QVERIFY(says(setup, "7.25 W"));
        window_->shelf()->select(window_.bankNamed("Pebble 5")); // planned for the other bank
        QTest::keyClick(window_.get(), Qt::Key_3, Qt::AltModifier);
        QVERIFY(!says(setup, "7.25 W"));
    }
    void a_run_that_was_left_open_is_gone_on_with_while_another_goes() {
        records::Run open;
        open.bank = window_.bankNamed("Cobble 10");
        open.title = "left alone";
        open.recipe = kHour;
        auto capture =
            book::Capture::begin(window_.book().path(), open, {{{path::Point::Meter, false, {}, "live"}, true, false}});
        QVERIFY(capture);
        capture->reset();
        rehearse("Pebble 5", "60");
        QVERIFY(page()->showsRun());
        QVERIFY(says(page(), "“left alone” of Cobble 10 was going when the program ended"));
        QTest::mouseClick(button(page(), "Go on with it"), Qt::LeftButton);
        QTRY_VERIFY(page()->setup()->isVisible());
        QVERIFY(says(page()->setup(), "Going on with “left alone”"));
        QCOMPARE(live().going().size(), 1u); // the other one goes on
        live().stopAll();
        QTRY_VERIFY_WITH_TIMEOUT(live().going().empty(), 20000);
    }

    // Named benches, by the panel as a tester does it.
    void set_ups_are_made_chosen_and_forgotten() {
        const FakeBench one, two;
        for (const auto& [role, instrument] : one.instruments())
            QVERIFY(live().saveProfile(instrument.profile));
        window_->shelf()->select(window_.bankNamed("Pebble 5"));
        QTest::keyClick(window_.get(), Qt::Key_3, Qt::AltModifier);
        Q_EMIT page()->instrumentsWanted();
        InstrumentPanel* panel = window_->instrumentPanel();
        QTRY_VERIFY(panel->isVisible());
        QCOMPARE(panel->setups()->count(), 1);
        QVERIFY(!panel->removeSetup()->isEnabled());
        QTest::keyClicks(panel->setupName(), "Window sill");
        QTest::keyClick(panel->setupName(), Qt::Key_Return);
        QCOMPARE(panel->setups()->currentText(), QString("Window sill"));
        const auto place = [&](const char* role, const QString& address) {
            panel->profile(role)->setCurrentIndex(panel->profile(role)->findData(QString("fake-") + role));
            panel->address(role)->lineEdit()->selectAll();
            QTest::keyClicks(panel->address(role)->lineEdit(), address);
        };
        place("meter", one.meter.address().text);
        place("load", one.load.address().text);
        QVERIFY(panel->piece("meter")->count() > 2);
        panel->piece("meter")->setCurrentIndex(2);
        Q_EMIT panel->piece("meter")->activated(2);
        panel->also(records::GearKind::Cable)->setCurrentIndex(1);
        Q_EMIT panel->also(records::GearKind::Cable)->activated(1);
        const QString meter = panel->piece("meter")->currentText(),
                      cable = panel->also(records::GearKind::Cable)->currentText();
        // A name that is there is not made a second time.
        QTest::keyClicks(panel->setupName(), "window SILL");
        QTest::keyClick(panel->setupName(), Qt::Key_Return);
        QTRY_VERIFY(says(window_.get(), "is there already"));
        QCOMPARE(panel->setups()->count(), 2);
        // Any script will do; nothing will not.
        panel->setupName()->setText(QString::fromUtf8("窓辺"));
        QTest::keyClick(panel->setupName(), Qt::Key_Return);
        QCOMPARE(panel->setups()->currentText(), QString::fromUtf8("窓辺"));
        QVERIFY(!live().setups().add("  "));
        QVERIFY(!live().setups().add(QString::fromUtf8("窓辺")));
        live().setups().remove();
        live().setups().choose("window-sill");
        panel->open();
        // The page offers both; what is chosen there is what counts.
        SetupView* setup = page()->setup();
        setup->onInstruments()->setChecked(true);
        QTRY_COMPARE(setup->setups()->count(), 2);
        QVERIFY(setup->setups()->isVisible());
        QVERIFY(says(setup, "✓ load: Fake load at " + one.load.address().text));
        QVERIFY(says(setup, "On it lie: " + meter + ", " + cable));
        const int other = 1 - setup->setups()->currentIndex();
        setup->setups()->setCurrentIndex(other);
        Q_EMIT setup->setups()->activated(other);
        QTRY_VERIFY(says(setup, "✗ load: needed, not set up"));
        // They outlive the window.
        live().setups().choose("window-sill");
        window_.close();
        QVERIFY(window_.openCopy());
        QCOMPARE(live().instrument("load")->address.text, one.load.address().text);
        live().setups().remove();
        QCOMPARE(live().setups().read().all.size(), 1u);
        QVERIFY(!live().instrument("load"));
    }
};

QTEST_MAIN(BenchesTest)
#include "benches_test.moc"
