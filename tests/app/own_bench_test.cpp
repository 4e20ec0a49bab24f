// The tester's own instruments and recipes from the window, runs that a crash left open, and what is refused before a
// run begins.
#include <QTest>

#include <QCheckBox>
#include <QComboBox>
#include <QLineEdit>
#include <QListWidget>
#include <QMessageBox>
#include <QPlainTextEdit>
#include <QRadioButton>
#include <QSettings>
#include <QTimer>

#include "../bench/bench_harness.h"
#include "app/live/bench_strip.h"
#include "app/live/instrument_panel.h"
#include "app/live/live_page.h"
#include "app/live/recipe_panel.h"
#include "app/live/running_view.h"
#include "app/live/setup_view.h"
#include "app/shelf/shelf.h"
#include "book/store/capture.h"
#include "demo_window.h"
#include "look.h"

using namespace otterstone;
using namespace otterstone::app;
using namespace otterstone::testing;
using What = records::Mark::What;

namespace {

// A load from the first second on.
constexpr const char* kAtOnce =
    R"({"format": "otterstone-recipe", "version": 1, "key": "at-once", "name": "At once", "kind": "drain", "needs": ["meter", "load"], "uses": ["trigger"],
    "closing_s": 1, "steps": [{"do": "load", "amps": 1.0, "until": "cut-off"}]})";

} // namespace

class OwnBenchTest : public QObject {
    Q_OBJECT

    DemoWindow window_;

    [[nodiscard]] static QString own(const char* folder) {
        return QStandardPaths::writableLocation(QStandardPaths::AppDataLocation) + '/' + folder;
    }
    static void forget() {
        QSettings().remove(QStringLiteral("live"));
        QDir(own("recipes")).removeRecursively();
        QDir(own("instruments")).removeRecursively();
        QDir(own("setups")).removeRecursively();
    }
    static void write(const char* folder, const char* name, const QByteArray& text) {
        QVERIFY(QDir().mkpath(own(folder)));
        QFile file(own(folder) + '/' + name);
        QVERIFY(file.open(QIODevice::WriteOnly) && file.write(text) == text.size());
    }

    SetupView* setUp(const std::string& bank) {
        window_->shelf()->select(window_.bankNamed(bank));
        QTest::keyClick(window_.get(), Qt::Key_3, Qt::AltModifier);
        return window_->livePage()->setup();
    }
    static QRadioButton* choice(QWidget* in, const QString& words) {
        for (auto* r : in->findChildren<QRadioButton*>()) {
            if (r->text().remove('&').contains(words))
                return r;
        }
        return nullptr;
    }
    static QLineEdit* field(QWidget* in, const QString& name) {
        for (auto* f : in->findChildren<QLineEdit*>()) {
            if (f->accessibleName() == name)
                return f;
        }
        return nullptr;
    }
    static void tickAll(SetupView* setup) {
        for (QCheckBox* c : setup->checks())
            c->setChecked(true);
    }
    static int rowOf(QListWidget* list, const QString& words) {
        for (int k = 0; k < list->count(); ++k) {
            if (list->item(k)->text().contains(words))
                return k;
        }
        return -1;
    }
    // In the panel, as a tester does: the profile from the list, the address typed.
    void connectTo(const char* role, const char* profile, const QString& address) {
        InstrumentPanel* panel = window_->instrumentPanel();
        QComboBox* profiles = panel->profile(role);
        profiles->setCurrentIndex(profiles->findData(QString::fromLatin1(profile)));
        QVERIFY(profiles->currentIndex() > 0);
        QLineEdit* line = panel->address(role)->lineEdit();
        line->selectAll();
        QTest::keyClicks(line, address);
    }
    void connectTo(const Standin& standin) {
        connectTo("meter", "printing-meter", standin.at("meter").text);
        connectTo("load", "scpi-load", standin.at("load").text);
    }
    // A drain as a crash leaves it: open, with ten seconds of it in the book.
    records::Id leaveOpen(const QString& path) {
        records::Run run;
        run.bank = window_.bankNamed("Pebble 5");
        run.title = "left alone";
        run.recipe = kAtOnce;
        auto capture = book::Capture::begin(path, run, {{{path::Point::Meter, false, {}, "live"}, true, false}});
        book::Batch b;
        b.samples.resize(1);
        for (int k = 0; k <= 20; ++k)
            b.samples[0].push_back({0.5 * k, 5.0, 1.0, 20.0});
        return capture && (*capture)->append(b) ? (*capture)->run() : records::kNew;
    }
    records::Id openWithOpenRun() {
        const QString path = window_->session().book().path();
        const records::Id run = leaveOpen(path);
        window_.close();
        return window_.open(path) ? run : records::kNew;
    }

private Q_SLOTS:
    void initTestCase() { QVERIFY(window_.prepare(false)); }
    void init() {
        forget();
        QVERIFY(window_.openCopy());
    }
    void cleanup() {
        window_.close();
        forget();
    }

    void instruments_are_set_up_and_measure() {
        Standin standin({"--speed", "1", "--rate", "20"});
        QVERIFY(standin.ok());
        write("recipes", "at-once.json", kAtOnce);
        SetupView* setup = setUp("Pebble 5");
        setup->chooseRecipe("at-once");
        QTest::mouseClick(button(setup, "Instruments…"), Qt::LeftButton);
        QTRY_VERIFY(window_->instrumentPanel()->isVisible());
        connectTo(standin);
        choice(setup, "that are set up")->setChecked(true);
        QVERIFY(says(setup, "✓ meter:") && says(setup, "✓ load:") && says(setup, standin.at("load").text));
        QVERIFY(says(setup, "○ trigger: would help, not set up"));
        tickAll(setup);
        QCOMPARE(setup->start()->text(), QString("Start the run"));
        QTest::mouseClick(setup->start(), Qt::LeftButton);
        auto& runner = window_->liveBench().runner();
        QTRY_VERIFY_WITH_TIMEOUT(runner.progress().loadOn && runner.progress().amps > 0.5, 30000);
        QVERIFY(!window_->instrumentPanel()->isVisible()); // the run has the window for itself
        RunningView* running = window_->livePage()->running();
        QTRY_VERIFY(says(running, "4.9") && says(running, "At once · Pebble 5"));
        QSignalSpy ended(&window_->liveBench(), &LiveBench::ended);
        QTest::keyClick(window_.get(), Qt::Key_Period, Qt::ControlModifier);
        QVERIFY(ended.wait(20000));
        QVERIFY(!standin.truth().at("load_on").get<bool>());
        const auto run = window_.book().run(qvariant_cast<bench::Outcome>(ended.first().first()).run);
        QVERIFY(run && !run->open);
        QCOMPARE(run->logName, std::string("captured live"));
        // They are remembered.
        window_.close();
        QVERIFY(window_.openCopy());
        QCOMPARE(window_->liveBench().instrument("load")->address.text, standin.at("load").text);
    }
    void what_is_missing_or_wrong_is_told_before_it_begins_data() {
        QTest::addColumn<bool>("real");
        QTest::addColumn<QString>("speed");
        QTest::addColumn<QString>("celsius");
        QTest::addColumn<QString>("says");
        QTest::newRow("no instruments") << true << "500"
                                        << "60"
                                        << "needs a meter";
        QTest::newRow("standing still") << false << "0"
                                        << "60"
                                        << "0.1 to 5000 times";
        QTest::newRow("too fast") << false << "5001"
                                  << "60"
                                  << "0.1 to 5000 times";
        QTest::newRow("no number") << false << "fast"
                                   << "60"
                                   << "0.1 to 5000 times";
        QTest::newRow("a limit that melts it") << false << "500"
                                               << "91"
                                               << "20 to 90 °C";
        QTest::newRow("a limit below the room") << false << "500"
                                                << "19"
                                                << "20 to 90 °C";
        QTest::newRow("a limit in words") << false << "500"
                                          << "warm"
                                          << "20 to 90 °C";
    }
    void what_is_missing_or_wrong_is_told_before_it_begins() {
        QFETCH(bool, real);
        QFETCH(QString, speed);
        QFETCH(QString, celsius);
        QFETCH(QString, says);
        SetupView* setup = setUp("Pebble 5");
        choice(setup, real ? "that are set up" : "simulated bench")->setChecked(true);
        if (real)
            QVERIFY(otterstone::testing::says(setup, "✗ meter: needed, not set up"));
        setup->speed()->setText(speed);
        field(setup, "Stop above, °C")->setText(celsius);
        tickAll(setup);
        const auto before = window_.book().runs(window_.bankNamed("Pebble 5")).size();
        QTest::mouseClick(setup->start(), Qt::LeftButton);
        QTRY_VERIFY(otterstone::testing::says(window_.get(), says));
        QVERIFY(!window_->liveBench().isRunning());
        QCOMPARE(window_.book().runs(window_.bankNamed("Pebble 5")).size(), before);
    }
    void a_limit_may_be_written_in_fahrenheit() {
        SetupView* setup = setUp("Pebble 5");
        choice(setup, "simulated bench")->setChecked(true);
        field(setup, "Stop above, °C")->setText("140 °F");
        tickAll(setup);
        QTest::mouseClick(setup->start(), Qt::LeftButton);
        QTRY_VERIFY(window_->liveBench().isRunning());
        QVERIFY(std::fabs(window_->liveBench().chosen().plan().limits.celsius - 60.0) < 1e-9);
        window_->liveBench().chosen().stop();
        QTRY_VERIFY_WITH_TIMEOUT(!window_->liveBench().isRunning(), 20000);
    }
    void an_instrument_that_does_not_answer_ends_it_before_a_run_is_made() {
        SetupView* setup = setUp("Pebble 5");
        window_->liveBench().setInstrument("meter", "printing-meter", "/dev/there-is-no-such-port");
        window_->liveBench().setInstrument("load", "scpi-load", "127.0.0.1:1");
        choice(setup, "that are set up")->setChecked(true);
        tickAll(setup);
        const auto before = window_.book().runs(window_.bankNamed("Pebble 5")).size();
        QSignalSpy ended(&window_->liveBench(), &LiveBench::ended);
        QTest::mouseClick(setup->start(), Qt::LeftButton);
        QVERIFY(ended.wait(20000));
        QTRY_VERIFY(says(setup, "It did not begin: the load does not answer at 127.0.0.1:1"));
        QCOMPARE(window_.book().runs(window_.bankNamed("Pebble 5")).size(), before);
        QVERIFY(!setup->start()->isEnabled()); // a new look at the bench first
    }

    void a_meter_that_is_not_in_the_list_is_heard_and_kept() {
        Standin standin({"--speed", "20", "--rate", "2"});
        QVERIFY(standin.ok());
        QTest::mouseClick(button(setUp("Pebble 5"), "Instruments…"), Qt::LeftButton);
        InstrumentPanel* panel = window_->instrumentPanel();
        panel->address("meter")->setEditText(standin.at("meter").text);
        QTest::mouseClick(panel->listenButton(), Qt::LeftButton);
        QVERIFY(!panel->listenButton()->isEnabled());
        QTRY_VERIFY_WITH_TIMEOUT(panel->keepButton()->isVisible(), 20000);
        QVERIFY(says(panel, "It prints lines like") && says(panel, "•"));
        QTest::mouseClick(panel->keepButton(), Qt::LeftButton);
        QTRY_VERIFY(says(window_.get(), "needs a name"));
        QTest::keyClicks(panel->name(), "Meter of the Harbour (2)");
        QTest::mouseClick(panel->keepButton(), Qt::LeftButton);
        QTRY_VERIFY(says(panel, "Kept"));
        QCOMPARE(panel->profile("meter")->currentData().toString(), QString("meter-of-the-harbour-2"));
        const auto kept = window_->liveBench().instrument("meter");
        QVERIFY(kept && kept->address.text == standin.at("meter").text);
        QCOMPARE(kept->profile.name, std::string("Meter of the Harbour (2)"));
        QVERIFY(kept->profile.lines && QFile::exists(own("instruments") + "/meter-of-the-harbour-2.json"));
    }
    void a_silent_port_is_told() {
        QTest::mouseClick(button(setUp("Pebble 5"), "Instruments…"), Qt::LeftButton);
        InstrumentPanel* panel = window_->instrumentPanel();
        panel->address("meter")->setEditText("/dev/there-is-no-such-port");
        QTest::mouseClick(panel->listenButton(), Qt::LeftButton);
        QTRY_VERIFY_WITH_TIMEOUT(panel->listenButton()->isEnabled(), 20000);
        QVERIFY(!says(panel, "Listening") && !panel->keepButton()->isVisible());
    }

    void a_recipe_is_changed_checked_and_kept_beside_the_built_in_one() {
        SetupView* setup = setUp("Pebble 5");
        QListWidget* list = setup->recipes();
        const int before = list->count();
        setup->chooseRecipe("gentle-drain");
        QTest::mouseClick(button(setup, "Edit this recipe…"), Qt::LeftButton);
        RecipePanel* panel = window_->recipePanel();
        QTRY_VERIFY(panel->isVisible());
        const QString text = panel->text()->toPlainText();
        QVERIFY(says(panel, "Draw 1 A"));
        panel->text()->setPlainText(text.left(text.size() / 2));
        QVERIFY(!panel->saveButton()->isEnabled());
        QVERIFY(says(panel, "recipe") && !says(panel, "Draw 1 A"));
        QString mine = text;
        mine.replace("\"gentle-drain\"", "\"My drain\"")
            .replace("\"Gentle drain\"", "\"Half an amp\"")
            .replace("\"amps\": 1.0", "\"amps\": 0.5");
        panel->text()->setPlainText(mine);
        QVERIFY(panel->saveButton()->isEnabled() && says(panel, "Draw 0.5 A"));
        QTest::mouseClick(panel->saveButton(), Qt::LeftButton);
        QTRY_VERIFY(says(window_.get(), "small letters, digits"));
        QVERIFY(panel->isVisible() && list->count() == before);
        panel->text()->setPlainText(mine.replace("\"My drain\"", "\"half-an-amp\""));
        QTest::mouseClick(panel->saveButton(), Qt::LeftButton);
        QTRY_VERIFY(!panel->isVisible());
        QCOMPARE(list->count(), before + 1);
        QVERIFY(rowOf(list, "Gentle drain") >= 0);
        QCOMPARE(list->currentRow(), rowOf(list, "Half an amp")); // what was kept is chosen
        QVERIFY(says(setup, "Draw 0.5 A"));
        // One of the same key takes the place of the built-in one.
        QVERIFY(window_->liveBench().saveRecipe(QString(mine)
                                                    .replace("\"half-an-amp\"", "\"gentle-drain\"")
                                                    .replace("Half an amp", "Gentler")
                                                    .toStdString()));
        QCOMPARE(list->count(), before + 1);
        QVERIFY(rowOf(list, "Gentle drain") < 0 && rowOf(list, "Gentler") >= 0);
    }
    void own_files_that_cannot_be_used_are_told_and_can_be_mended() {
        write(
            "recipes", "broken.json",
            R"({"format": "otterstone-recipe", "version": 1, "key": "broken", "name": "Broken", "kind": "drain", "needs": ["load"], "steps": [{"do": "dance"}]})");
        write("instruments", "deaf.json", "{");
        SetupView* setup = setUp("Pebble 5");
        tickAll(setup);
        QVERIFY(setup->start()->isEnabled());
        const int row = rowOf(setup->recipes(), "✗ broken.json");
        QVERIFY(row > 0);
        setup->recipes()->setCurrentRow(row);
        QVERIFY(says(setup, "cannot be used") && says(setup, "dance") && !says(setup, "What it will do"));
        QVERIFY(!setup->start()->isEnabled());
        QTest::mouseClick(button(setup, "Edit this recipe…"), Qt::LeftButton);
        RecipePanel* panel = window_->recipePanel();
        QTRY_VERIFY(panel->isVisible() && !panel->saveButton()->isEnabled());
        panel->text()->setPlainText(panel->text()->toPlainText().replace(
            "{\"do\": \"dance\"}", R"({"do": "load", "amps": 1, "until": "cut-off"})"));
        QVERIFY(panel->saveButton()->isEnabled());
        QTest::mouseClick(panel->saveButton(), Qt::LeftButton);
        QTRY_VERIFY(rowOf(setup->recipes(), "Broken") > 0);
        QVERIFY(rowOf(setup->recipes(), "✗") < 0);
        QTest::mouseClick(button(setup, "Instruments…"), Qt::LeftButton);
        QVERIFY(says(window_->instrumentPanel(), "deaf.json"));
    }

    void a_run_left_open_comes_first_and_is_closed() {
        Standin standin({"--speed", "1", "--watchdog", "0"});
        QCOMPARE(standin.say("INPut ON\nINPut?", "load"), QByteArray("1")); // a load that nobody switched off
        const records::Id id = openWithOpenRun();
        QVERIFY(id != records::kNew);
        LivePage* page = window_->livePage();
        QTRY_VERIFY(page->isVisible());
        QVERIFY(says(page, "“left alone” of Pebble 5 was going when the program ended") && says(page, "10 s"));
        window_->liveBench().setInstrument("load", "scpi-load", standin.at("load").text);
        QTest::mouseClick(button(page, "Close it as it is"), Qt::LeftButton);
        QVERIFY(!says(page, "was going when the program ended"));
        const auto run = window_.book().run(id);
        QVERIFY(run && !run->open && !run->stopped.empty());
        QCOMPARE(window_.book().trace(id).size(), 21u);
        QTRY_VERIFY_WITH_TIMEOUT(!standin.truth().at("load_on").get<bool>(), 10000);
    }
    void a_run_left_open_is_gone_on_with() {
        Standin standin({"--speed", "1", "--rate", "20"});
        const records::Id id = openWithOpenRun();
        LivePage* page = window_->livePage();
        QTRY_VERIFY(page->isVisible());
        const auto before = window_.book().runs(window_.bankNamed("Pebble 5")).size();
        // Its recipe may be a stranger's: shown first, and begun like any other, after the four points.
        auto* setup = page->findChild<SetupView*>();
        const auto goOn = [&] {
            QTest::mouseClick(button(page, "Go on with it"), Qt::LeftButton);
            QTRY_VERIFY(says(setup, "Going on with “left alone”") && says(setup, "It stops at"));
            QVERIFY(!setup->start()->isEnabled());
            tickAll(setup);
            QTest::mouseClick(setup->start(), Qt::LeftButton);
        };
        goOn();
        QTRY_VERIFY(says(window_.get(), "No instruments are set up"));
        QVERIFY(window_.book().run(id)->open);
        window_->liveBench().setInstrument("meter", "printing-meter", standin.at("meter").text);
        window_->liveBench().setInstrument("load", "scpi-load", standin.at("load").text);
        goOn();
        auto& runner = window_->liveBench().runner();
        QTRY_VERIFY_WITH_TIMEOUT(runner.progress().loadOn && runner.progress().amps > 0.5, 30000);
        QSignalSpy ended(&window_->liveBench(), &LiveBench::ended);
        QTest::keyClick(window_.get(), Qt::Key_Period, Qt::ControlModifier);
        QVERIFY(ended.wait(20000));
        const auto run = window_.book().run(id);
        QVERIFY(run && !run->open);
        QVERIFY(std::any_of(run->marks.begin(), run->marks.end(), [](const auto& m) {
            return m.what == What::Instrument && m.text.find("gone on with after a break") != std::string::npos;
        }));
        QVERIFY(window_.book().trace(id).size() > 21);
        QCOMPARE(window_.book().runs(window_.bankNamed("Pebble 5")).size(), before);
    }
    void a_window_that_closes_asks_while_a_run_goes() {
        QSignalSpy ended(&window_->liveBench(), &LiveBench::ended);
        SetupView* setup = setUp("Cobble 10");
        setup->speed()->setText("50");
        tickAll(setup);
        QTest::mouseClick(setup->start(), Qt::LeftButton);
        QTRY_VERIFY_WITH_TIMEOUT(window_->liveBench().runner().progress().loadOn, 30000);
        const auto answer = [](QMessageBox::StandardButton with) {
            QTimer::singleShot(200, [with] {
                auto* box = qobject_cast<QMessageBox*>(QApplication::activeModalWidget());
                QVERIFY(box && box->windowTitle() == "A run is going");
                QTest::mouseClick(box->button(with), Qt::LeftButton);
            });
        };
        answer(QMessageBox::No);
        QVERIFY(!window_->close());
        QVERIFY(window_->isVisible() && window_->liveBench().isRunning());
        answer(QMessageBox::Yes);
        QVERIFY(window_->close());
        const QString path = window_.book().path();
        const records::Id bank = window_.bankNamed("Cobble 10");
        window_.close();
        auto book = book::Book::open(path);
        QVERIFY(book);
        const records::Run last = (*book)->runs(bank).back();
        QVERIFY2(!last.open && last.stopped == "the window was closed", (last.title + ": " + last.stopped).c_str());
        QVERIFY((*book)->trace(last.id).size() > 0);
    }
};

QTEST_MAIN(OwnBenchTest)
#include "own_bench_test.moc"
