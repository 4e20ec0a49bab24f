// Whatever ends the program while a load is on, the load is off within two seconds: signals, crashes, a terminal that
// is gone. By a load that notices nobody's going.
#include <csignal>

#include "live_command.h"
#include "where.h"

using namespace otterstone;
using namespace otterstone::testing;

namespace {

// From a signal to an output that is off. ThreadSanitizer takes seconds to leave a program.
#ifdef __SANITIZE_THREAD__
constexpr qint64 kWithin = 8000;
#else
constexpr qint64 kWithin = 2000;
#endif

} // namespace

class SignalsTest : public QObject {
    Q_OBJECT

    QTemporaryDir folder_;

    static bool begin(LiveCommand& live) {
        if (!live.begin())
            return false;
        QTest::qWait(1200); // some lines are in the book
        return true;
    }

    static void endsInOrder(LiveCommand& live) {
        live.process.terminate();
        QTRY_VERIFY_WITH_TIMEOUT(!live.bench.on, 2000);
        QTRY_VERIFY_WITH_TIMEOUT(live.process.state() == QProcess::NotRunning, 15000);
        QCOMPARE(live.process.exitCode(), 0);
    }
    void startWindow(QProcess& window, const FakeBench& bench, OneBank& one) const {
        one.book.reset();
        QProcessEnvironment own = QProcessEnvironment::systemEnvironment();
        own.insert("QT_QPA_PLATFORM", "offscreen");
        own.insert("XDG_CONFIG_HOME", folder_.filePath("config"));
        own.insert("XDG_DATA_HOME", folder_.filePath("data"));
        window.setProcessEnvironment(own);
        window.start(where::liveWindow(), {one.path, bench.meter.address().text, bench.load.address().text});
    }

private Q_SLOTS:
    void init() { QVERIFY(folder_.isValid()); }
    void the_command_line_switches_off_at_data() {
        QTest::addColumn<int>("signal");
        QTest::addColumn<bool>("inOrder"); // the run is closed, exit 0
        QTest::newRow("Ctrl+C") << SIGINT << true;
        QTest::newRow("told to end") << SIGTERM << true;
        QTest::newRow("its terminal closes") << SIGHUP << true;
        QTest::newRow("Ctrl+backslash") << SIGQUIT << true;
        QTest::newRow("a bad address") << SIGSEGV << false;
        QTest::newRow("an abort") << SIGABRT << false;
        QTest::newRow("a bus error") << SIGBUS << false;
        QTest::newRow("an illegal instruction") << SIGILL << false;
        QTest::newRow("a bad division") << SIGFPE << false;
        QTest::newRow("a call that is not allowed") << SIGSYS << false;
        QTest::newRow("a debugger's stop") << SIGTRAP << false;
        QTest::newRow("killed") << SIGKILL << false;
        QTest::newRow("the power fails") << SIGPWR << true;
        QTest::newRow("its time on the processor is over") << SIGXCPU << true;
        QTest::newRow("a file grew too large") << SIGXFSZ << true;
    }
    void the_command_line_switches_off_at() {
        QFETCH(int, signal);
        QFETCH(bool, inOrder);
        LiveCommand live;
        FakeBench& bench = live.bench;
        QProcess& p = live.process;
        QVERIFY(begin(live));
        const qint64 sent = bench.clock.elapsed();
        QCOMPARE(::kill(static_cast<pid_t>(p.processId()), signal), 0);
        QTRY_VERIFY_WITH_TIMEOUT(!bench.on, 10000);
        QVERIFY2(bench.offAt - sent <= kWithin, qPrintable(QString::number(bench.offAt - sent)));
        QTRY_VERIFY_WITH_TIMEOUT(p.state() == QProcess::NotRunning, 15000);
        QCOMPARE(p.exitStatus() == QProcess::NormalExit && p.exitCode() == 0, inOrder);
        auto book = book::Book::open(live.one.path);
        QVERIFY(book);
        QCOMPARE((*book)->run(1)->open, !inOrder);
        QVERIFY((*book)->trace(1).size() > 2);
    }
    void what_means_nothing_here_ends_nothing_data() {
        QTest::addColumn<int>("signal");
        for (const int signal : {SIGALRM, SIGUSR1, SIGUSR2, SIGVTALRM, SIGPROF, SIGPOLL, SIGPIPE, SIGSTKFLT, SIGRTMIN})
            QTest::newRow(strsignal(signal)) << signal;
    }
    void what_means_nothing_here_ends_nothing() {
        QFETCH(int, signal);
        LiveCommand live;
        QVERIFY(begin(live));
        QCOMPARE(::kill(static_cast<pid_t>(live.process.processId()), signal), 0);
        QTest::qWait(500);
        QVERIFY(live.process.state() == QProcess::Running && live.bench.on);
        endsInOrder(live);
    }
    // Neither a program that was put to sleep by force nor its whole group's end keeps a load on.
    void a_program_that_stands_still_watches_no_load() {
        LiveCommand live;
        QVERIFY(begin(live));
        const auto pid = static_cast<pid_t>(live.process.processId());
        QCOMPARE(::kill(pid, SIGSTOP), 0);
        QTRY_VERIFY_WITH_TIMEOUT(!live.bench.on, 25000);
        QCOMPARE(::kill(pid, SIGCONT), 0);
        QTRY_VERIFY_WITH_TIMEOUT(live.process.state() == QProcess::NotRunning, 15000);
        QCOMPARE(live.process.exitCode(), 5);
        QVERIFY(!live.bench.on);
    }
    // A terminal that was stopped, a pipe that nobody reads: no word holds up a stop.
    void a_terminal_that_takes_no_words_holds_nothing_up_data() {
        QTest::addColumn<bool>("byHeat");
        QTest::newRow("told to end") << false;
        QTest::newRow("too hot") << true;
    }
    void a_terminal_that_takes_no_words_holds_nothing_up() {
        QFETCH(bool, byHeat);
        LiveCommand live;
        FakeBench& bench = live.bench;
        live.words = LiveCommand::Words::NobodyReads;
        QVERIFY(begin(live));
        QTest::qWait(1000);
        const qint64 sent = bench.clock.elapsed();
        if (byHeat)
            bench.celsius = 70.0;
        else
            ::kill(static_cast<pid_t>(live.process.processId()), SIGTERM);
        QTRY_VERIFY_WITH_TIMEOUT(!bench.on, 5000);
        QVERIFY2(bench.offAt - sent <= kWithin, qPrintable(QString::number(bench.offAt - sent)));
        QTRY_VERIFY_WITH_TIMEOUT(live.process.state() == QProcess::NotRunning, 15000);
        QVERIFY(!(*book::Book::open(live.one.path))->run(1)->open);
    }
    void what_is_typed_holds_nothing_up_data() {
        QTest::addColumn<QByteArray>("typed");
        QTest::newRow("a line without an end") << QByteArray("abc");
        QTest::newRow("five thousand zeros") << QByteArray(5000, '\0');
        QTest::newRow("a long line without an end") << QByteArray(60000, 'x');
    }
    void what_is_typed_holds_nothing_up() {
        QFETCH(QByteArray, typed);
        LiveCommand live;
        QVERIFY(begin(live));
        live.process.write(typed);
        QTest::qWait(700);
        QVERIFY(live.bench.on);
        endsInOrder(live);
    }
    void a_pipe_that_breaks_ends_nothing() {
        LiveCommand live;
        FakeBench& bench = live.bench;
        QProcess& p = live.process;
        QVERIFY(begin(live));
        p.closeReadChannel(QProcess::StandardError);
        p.closeReadChannel(QProcess::StandardOutput);
        bench.meter.fail(Fault::Words); // it has something to say
        QTest::qWait(1500);
        bench.meter.fail(Fault::None);
        QTest::qWait(1500);
        QVERIFY(p.state() == QProcess::Running && bench.on);
        p.terminate();
        QTRY_VERIFY_WITH_TIMEOUT(!bench.on, 2000);
        QTRY_VERIFY_WITH_TIMEOUT(p.state() == QProcess::NotRunning, 15000);
    }
    void a_run_that_goes_is_not_put_to_sleep_data() {
        QTest::addColumn<int>("signal");
        QTest::newRow("Ctrl+Z") << SIGTSTP;
        QTest::newRow("a background job that reads") << SIGTTIN;
        QTest::newRow("a background job that writes") << SIGTTOU;
    }
    void a_run_that_goes_is_not_put_to_sleep() {
        QFETCH(int, signal);
        LiveCommand live;
        FakeBench& bench = live.bench;
        QProcess& p = live.process;
        QVERIFY(begin(live));
        ::kill(static_cast<pid_t>(p.processId()), signal);
        QTest::qWait(800);
        bench.celsius = 70.0; // somebody watches still
        QTRY_VERIFY_WITH_TIMEOUT(!bench.on, 2000);
        QTRY_VERIFY_WITH_TIMEOUT(p.state() == QProcess::NotRunning, 15000);
        QCOMPARE(p.exitCode(), 5); // cut short
        if (signal == SIGTSTP)
            QVERIFY(p.readAllStandardError().contains("not put to sleep"));
    }
    void a_load_that_refuses_is_told_of_until_the_second_signal() {
        LiveCommand live;
        FakeBench& bench = live.bench;
        QProcess& p = live.process;
        QVERIFY(begin(live));
        bench.load.fail(Fault::Refuses);
        QByteArray said;
        connect(&p, &QProcess::readyReadStandardError, this, [&] { said += p.readAllStandardError(); });
        p.terminate();
        QTRY_VERIFY_WITH_TIMEOUT(said.count("THE LOAD IS STILL ON") >= 3, 9000); // and rings
        QVERIFY(said.contains('\a'));
        QVERIFY(p.state() == QProcess::Running);
        p.terminate();
        QTRY_VERIFY_WITH_TIMEOUT(p.state() == QProcess::NotRunning, 9000);
        QCOMPARE(p.exitCode(), 5);
        QVERIFY2(said.contains("THE LOAD MAY STILL BE ON"), said.constData());
    }
    void a_load_that_refuses_is_told_of_as_long_as_it_does() {
        LiveCommand live;
        QVERIFY(begin(live));
        live.bench.load.fail(Fault::Refuses);
        live.process.terminate();
        QTest::qWait(16000);
        QVERIFY(live.process.state() == QProcess::Running);
        live.bench.load.fail(Fault::None);
        QTRY_VERIFY_WITH_TIMEOUT(!live.bench.on, 2000);
        QTRY_VERIFY_WITH_TIMEOUT(live.process.state() == QProcess::NotRunning, 15000);
    }
    // The watcher outlives it, and is heard when the load can hear again.
    void a_load_that_could_not_hear_is_switched_off_afterwards() {
        LiveCommand live;
        QVERIFY(begin(live));
        live.bench.load.fail(Fault::Closes);
        ::kill(static_cast<pid_t>(live.process.processId()), SIGKILL);
        QTRY_VERIFY_WITH_TIMEOUT(live.process.state() == QProcess::NotRunning, 5000);
        QTest::qWait(3000);
        QVERIFY(live.bench.on);
        live.bench.load.fail(Fault::None);
        QTRY_VERIFY_WITH_TIMEOUT(!live.bench.on, 4000);
    }
    void a_load_that_is_away_for_a_while_is_switched_off_when_it_is_back() {
        LiveCommand live;
        FakeBench& bench = live.bench;
        QProcess& p = live.process;
        QVERIFY(begin(live));
        bench.load.fail(Fault::Closes); // the run ends; nobody can reach it
        QTest::qWait(6000);
        QVERIFY(p.state() == QProcess::Running && bench.on);
        bench.load.fail(Fault::None);
        QTRY_VERIFY_WITH_TIMEOUT(!bench.on, 2000);
        QTRY_VERIFY_WITH_TIMEOUT(p.state() == QProcess::NotRunning, 9000);
        QCOMPARE(p.exitCode(), 5);
        QVERIFY(p.readAllStandardError().contains("THE LOAD IS STILL ON"));
    }
    // What the window's main() does with signals, by a window of its own that begins a run.
    void the_window_switches_off_at_data() {
        QTest::addColumn<int>("signal");
        QTest::newRow("Ctrl+C") << SIGINT;
        QTest::newRow("shutdown") << SIGTERM;
        QTest::newRow("its terminal closes") << SIGHUP;
        QTest::newRow("Ctrl+backslash") << SIGQUIT;
        QTest::newRow("a crash") << SIGSEGV;
        QTest::newRow("killed") << SIGKILL;
        QTest::newRow("the power fails") << SIGPWR;
        QTest::newRow("an exit() from below, as when the display server is gone") << SIGUSR1;
    }
    void the_window_switches_off_at() {
        QFETCH(int, signal);
        FakeBench bench;
        OneBank one;
        QProcess p;
        startWindow(p, bench, one);
        QTRY_VERIFY_WITH_TIMEOUT(bench.on, 30000);
        QTest::qWait(500);
        const qint64 sent = bench.clock.elapsed();
        ::kill(static_cast<pid_t>(p.processId()), signal);
        QTRY_VERIFY_WITH_TIMEOUT(!bench.on, 10000);
        QVERIFY2(bench.offAt - sent <= kWithin, qPrintable(QString::number(bench.offAt - sent)));
        QTRY_VERIFY_WITH_TIMEOUT(p.state() == QProcess::NotRunning, 15000);
    }
    // It stays, and says so, as long as the load does not switch off; it leaves when somebody insists.
    void the_window_stays_with_a_load_that_is_on() {
        FakeBench bench;
        OneBank one;
        QProcess p;
        startWindow(p, bench, one);
        QTRY_VERIFY_WITH_TIMEOUT(bench.on, 30000);
        QTest::qWait(500);
        bench.load.fail(Fault::Refuses);
        p.terminate();
        QTest::qWait(18000);
        QVERIFY(p.state() == QProcess::Running && bench.on);
        QByteArray said;
        connect(&p, &QProcess::readyReadStandardError, this, [&] { said += p.readAllStandardError(); });
        p.terminate();
        QTRY_VERIFY_WITH_TIMEOUT(p.state() == QProcess::NotRunning, 9000);
        said += p.readAllStandardError();
        QVERIFY2(said.contains("THE LOAD MAY STILL BE ON"), said);
        // The watcher goes on telling it.
        bench.load.fail(Fault::None);
        QTRY_VERIFY_WITH_TIMEOUT(!bench.on, 4000);
    }
};

QTEST_GUILESS_MAIN(SignalsTest)
#include "signals_test.moc"
