// Anything at any moment: a signal, a cable, the disk, somebody else at the load, the clock, garbage. Whatever it was,
// the load is off, or is said to be on; and of what the meter had printed half a second before, nothing is missing.
// OTTERSTONE_STORM=500 makes it five hundred times; OTTERSTONE_STORM_SEED gives other ones.
#include <csignal>
#include <random>

#include "live_command.h"
#include "where.h"

using namespace otterstone;
using namespace otterstone::testing;

namespace {

enum class What { Signal, StandsStill, Instrument, Disk, SomebodyElse, Clock, Words };

struct Trouble {
    What what = What::Signal;
    QByteArray name;
    int number = 0; ///< the signal, or which instrument
    Fault fault = Fault::None;
    double after = 1.0; ///< s
};

constexpr int kAtOnce = 5;
constexpr int kLinesASecond = 10;
constexpr int kMayBeMissing = kLinesASecond / 2; // 0.5 s
constexpr int kWithinMs = 45'000;                // one that stands still is noticed after 20 s

Trouble draw(std::mt19937& random) {
    const auto upTo = [&random](int most) { return std::uniform_int_distribution<int>(0, most - 1)(random); };
    static const std::pair<const char*, int> kSignals[] = {
        {"INT", SIGINT},   {"TERM", SIGTERM}, {"HUP", SIGHUP},   {"QUIT", SIGQUIT}, {"KILL", SIGKILL},
        {"SEGV", SIGSEGV}, {"ABRT", SIGABRT}, {"BUS", SIGBUS},   {"SYS", SIGSYS},   {"TRAP", SIGTRAP},
        {"PWR", SIGPWR},   {"XCPU", SIGXCPU}, {"XFSZ", SIGXFSZ}, {"ALRM", SIGALRM}, {"USR1", SIGUSR1}};
    static const std::pair<const char*, Fault> kFaults[] = {
        {"silent", Fault::Silent},         {"deaf", Fault::Deaf},
        {"NaN", Fault::NotANumber},        {"infinite", Fault::Infinite},
        {"stuck", Fault::Stuck},           {"words", Fault::Words},
        {"refuses", Fault::Refuses},       {"lies", Fault::Lies},
        {"closes", Fault::Closes},         {"floods", Fault::Floods},
        {"reconnects", Fault::Reconnects}, {"wrong range", Fault::WrongRange}};
    Trouble t;
    t.after = 0.2 + 0.01 * upTo(400);
    const int kind = upTo(100);
    if (kind < 40) {
        const auto& [name, signal] = kSignals[upTo(static_cast<int>(std::size(kSignals)))];
        t = {What::Signal, name, signal, Fault::None, t.after};
    } else if (kind < 43) {
        t = {What::StandsStill, "stands still", 0, Fault::None, t.after};
    } else if (kind < 75) {
        const auto& [name, fault] = kFaults[upTo(static_cast<int>(std::size(kFaults)))];
        const int which = upTo(2);
        t = {What::Instrument, QByteArray(which == 0 ? "load " : "meter ") + name, which, fault, t.after};
    } else if (kind < 83) {
        t = {What::Disk, "the disk goes and comes", 0, Fault::None, t.after};
    } else if (kind < 93) {
        t = {What::SomebodyElse, "8 A", 0, Fault::None, t.after};
    } else if (kind < 96) {
        t = {What::Clock, "the clock goes on", 0, Fault::None, t.after};
    } else {
        t = {What::Words, "garbage is typed", 0, Fault::None, t.after};
    }
    return t;
}

struct Trial {
    LiveCommand live;
    Trouble trouble;
    QByteArray said;
    long printed = 0; ///< lines of the meter when it struck
    qint64 struckAt = -1;
    bool over = false;

    void strike() {
        struckAt = live.bench.clock.elapsed();
        printed = live.bench.printed;
        const auto pid = static_cast<pid_t>(live.process.processId());
        switch (trouble.what) {
        case What::Signal: ::kill(pid, trouble.number); break;
        case What::StandsStill: ::kill(pid, SIGSTOP); break;
        case What::Instrument: (trouble.number == 0 ? live.bench.load : live.bench.meter).fail(trouble.fault); break;
        case What::Disk:
            (void)QFile::rename(live.one.path, live.one.path + ".away");
            QTimer::singleShot(1500, [path = live.one.path] { (void)QFile::rename(path + ".away", path); });
            break;
        case What::SomebodyElse: live.bench.amps = 8.0; break;
        case What::Clock: break; // it does so by itself
        case What::Words:
            live.process.write(QByteArray(3000, '\0') + "\xff\xfe"
                                                        "abc");
            break;
        }
        // A run that goes on all the same is ended by its tester. One that a person must tell twice is told twice.
        if (trouble.what != What::StandsStill)
            QTimer::singleShot(9000, &live.process, [this] { live.process.terminate(); });
    }
    [[nodiscard]] bool saidOn() const { return said.contains("LOAD IS STILL ON") || said.contains("MAY STILL BE ON"); }
    [[nodiscard]] bool safe() const { return !live.bench.on || saidOn(); }
};

} // namespace

class StormTest : public QObject {
    Q_OBJECT

private Q_SLOTS:
    void whatever_happens_the_load_is_off_or_said_to_be_on() {
        const int all = std::max(1, qEnvironmentVariable("OTTERSTONE_STORM", "20").toInt());
        const auto seed = qEnvironmentVariable("OTTERSTONE_STORM_SEED", "1").toUInt();
        std::mt19937 random(seed);
        std::map<QByteArray, int> counted;
        int off = 0, told = 0;
        for (int first = 0; first < all; first += kAtOnce) {
            std::vector<std::unique_ptr<Trial>> now;
            for (int k = first; k < std::min(first + kAtOnce, all); ++k) {
                auto t = std::make_unique<Trial>();
                t->trouble = draw(random);
                t->live.bench.counts = true;
                if (t->trouble.what == What::Clock) {
                    QProcessEnvironment odd = QProcessEnvironment::systemEnvironment();
                    odd.insert("LD_PRELOAD", where::oddMachine());
                    odd.insert("ODD_CLOCK", QString("%1:39600").arg(3 + int(t->trouble.after)));
                    t->live.process.setProcessEnvironment(odd);
                }
                connect(&t->live.process, &QProcess::readyReadStandardError, this,
                        [one = t.get()] { one->said += one->live.process.readAllStandardError(); });
                QVERIFY2(t->live.begin(), t->trouble.name);
                now.push_back(std::move(t));
            }
            for (auto& t : now)
                QTimer::singleShot(static_cast<int>(t->trouble.after * 1000.0), this,
                                   [one = t.get()] { one->strike(); });
            QElapsedTimer waited;
            waited.start();
            const auto done = [](const auto& t) {
                return t->struckAt >= 0 && t->live.process.state() == QProcess::NotRunning && t->safe();
            };
            const auto ends = [&done](const auto& t) {
                // One that says that its load is on, goes on saying so: that is its end here.
                return done(t) || (t->struckAt >= 0 && t->saidOn()) ||
                       (t->trouble.what == What::StandsStill && t->struckAt >= 0 && !t->live.bench.on);
            };
            while (waited.elapsed() < kWithinMs && !std::all_of(now.begin(), now.end(), ends))
                QTest::qWait(50);
            for (auto& t : now) {
                const QByteArray how = QByteArray::number(first) + ": " + t->trouble.name + " after " +
                                       QByteArray::number(t->trouble.after) + " s: " + t->said.right(400);
                QVERIFY2(ends(t), how);
                QVERIFY2(t->safe(), how);
                ++counted[t->trouble.name];
                t->live.bench.on ? ++told : ++off;
                t->live.process.kill();
                t->live.process.waitForFinished(5000);
                QTest::qWait(600); // the watcher lets go, too
                auto book = book::Book::open(t->live.one.path);
                QVERIFY2(book, how + (book ? QByteArray() : QByteArray::fromStdString(book.error().sentence())));
                const trace::Trace trace = (*book)->trace(1);
                QVERIFY2(trace.size() > 0, how);
                const auto number = [&trace](std::size_t k) {
                    return std::lround((trace.volts[k] - FakeBench::kCountFrom) / FakeBench::kCountStep);
                };
                for (std::size_t k = 1; k < trace.size() && number(k) <= t->printed; ++k)
                    QVERIFY2(number(k) == number(k - 1) + 1, how + " line " + QByteArray::number(int(number(k))));
                QVERIFY2(number(trace.size() - 1) >= t->printed - kMayBeMissing - 1,
                         how + ": line " + QByteArray::number(int(number(trace.size() - 1))) + " of " +
                             QByteArray::number(int(t->printed)));
            }
        }
        for (const auto& [name, times] : counted)
            qInfo("%4d × %s", times, name.constData());
        qInfo("%d off, %d said to be on, seed %u", off, told, seed);
    }
};

QTEST_GUILESS_MAIN(StormTest)
#include "storm_test.moc"
