// A rehearsal at a thousand readings a second in the real window: how long the interface was ever busy, how memory
// grows, what it costs. Usage: otterstone_live_day [SPEED [BENCH_SECONDS [BENCHES [LINES_A_SECOND]]]]
// offscreen: QT_QPA_PLATFORM=offscreen
#include <QApplication>
#include <QTemporaryDir>
#include <QTest>
#include <QThread>
#include <QTimer>

#include <algorithm>
#include <cstdio>
#include <ctime>
#include <fstream>
#include <sys/resource.h>
#include <unistd.h>

#include "app/live/live_page.h"
#include "app/main_window.h"
#include "app/theme.h"

namespace ui = otterstone::app;
namespace bk = otterstone::book;

namespace {

double megabytes() {
    std::ifstream statm("/proc/self/statm");
    long pages = 0, resident = 0;
    statm >> pages >> resident;
    return static_cast<double>(resident) * 4096.0 / 1e6;
}

double cpuSeconds() {
    rusage u{};
    getrusage(RUSAGE_SELF, &u);
    return static_cast<double>(u.ru_utime.tv_sec + u.ru_stime.tv_sec) +
           1e-6 * static_cast<double>(u.ru_utime.tv_usec + u.ru_stime.tv_usec);
}

double milliseconds(clockid_t clock) {
    timespec t{};
    clock_gettime(clock, &t);
    return 1e3 * static_cast<double>(t.tv_sec) + 1e-6 * static_cast<double>(t.tv_nsec);
}

double workedByThread() { return milliseconds(CLOCK_THREAD_CPUTIME_ID); }

// What the host took from this virtual machine so far, by the kernel's own account; 0 on a machine of one's own. Thread
// clocks count it as work.
double stolenMilliseconds() {
    std::ifstream stat("/proc/stat");
    std::string cpu;
    double user = 0, nice = 0, system = 0, idle = 0, iowait = 0, irq = 0, softirq = 0, steal = 0;
    stat >> cpu >> user >> nice >> system >> idle >> iowait >> irq >> softirq >> steal;
    return steal * 1e3 / static_cast<double>(sysconf(_SC_CLK_TCK));
}

// Times every event the interface handles, and names the long ones: what kept it, in whom, and how much of that was
// work of its own.
class WatchedApplication : public QApplication {
public:
    using QApplication::QApplication;

    bool notify(QObject* receiver, QEvent* event) override {
        if (QThread::currentThread() != thread()) // the bench and the recorder have their own
            return QApplication::notify(receiver, event);
        constexpr double kTold = 20.0; // ms
        const double from = milliseconds(CLOCK_MONOTONIC), worked = workedByThread();
        const QEvent::Type type = event->type();
        const QByteArray who = QByteArray(receiver->metaObject()->className()) + ' ' +
                               receiver->objectName().toUtf8(); // it may be gone afterwards
        ++depth_;
        const bool handled = QApplication::notify(receiver, event);
        --depth_;
        if (const double took = milliseconds(CLOCK_MONOTONIC) - from; took > kTold && watching_)
            std::printf("  %8.1f s: %.0f ms, %.0f of them work, depth %d: event %d to %s\n", 1e-3 * (from - start_),
                        took, workedByThread() - worked, depth_, static_cast<int>(type), who.constData());
        return handled;
    }
    void watch() {
        watching_ = true;
        start_ = milliseconds(CLOCK_MONOTONIC);
    }

private:
    bool watching_ = false;
    double start_ = 0.0;
    int depth_ = 0;
};

// The longest the interface's own thread ever was away: a timer that wants to run every 5 ms.
class Beat {
public:
    Beat() {
        timer_.setTimerType(Qt::PreciseTimer);
        QObject::connect(&timer_, &QTimer::timeout, [this] {
            const double now = milliseconds(CLOCK_MONOTONIC), worked = workedByThread();
            gaps_.push_back(now - last_);
            mostWorked_ = std::max(mostWorked_, worked - worked_);
            // What the interface itself worked in that time; the rest of a long gap is the machine's, or a wait.
            const double stolen = stolenMilliseconds();
            if (gaps_.back() > kLong) {
                std::printf("  %8.1f s: away for %.0f ms, %.0f of them work, %.0f taken by the host\n",
                            1e-3 * (last_ - start_), gaps_.back(), worked - worked_, stolen - stolen_);
                ours_ += stolen - stolen_ < kJiffy ? 1 : 0;
            }
            last_ = now;
            worked_ = worked;
            stolen_ = stolen;
        });
        timer_.start(5);
    }
    [[nodiscard]] double seconds() const { return 1e-3 * (milliseconds(CLOCK_MONOTONIC) - start_); }
    void say(const char* when) {
        std::sort(gaps_.begin(), gaps_.end());
        std::printf(
            "the interface's timer of 5 ms, %s: median %.1f, 99.9 %% %.1f, longest %.1f ms; above 50 ms %zu of %zu times\n",
            when, gaps_[gaps_.size() / 2], gaps_[gaps_.size() * 999 / 1000], gaps_.back(),
            static_cast<std::size_t>(gaps_.end() - std::upper_bound(gaps_.begin(), gaps_.end(), kLong)), gaps_.size());
        std::printf(
            "of those above 50 ms, %d while the host took nothing; the interface's thread worked at most %.1f ms between two\n",
            ours_, mostWorked_);
        std::fflush(stdout);
    }

private:
    static constexpr double kLong = 50.0, kJiffy = 10.0; // ms
    QTimer timer_;
    std::vector<double> gaps_;
    double start_ = milliseconds(CLOCK_MONOTONIC), last_ = start_;
    double worked_ = workedByThread(), mostWorked_ = 0.0;
    double stolen_ = stolenMilliseconds();
    int ours_ = 0;
};

constexpr const char* kRest =
    R"({"format": "otterstone-recipe", "version": 1, "key": "day", "name": "A day", "kind": "drain", "needs": ["meter"], "uses": ["load", "thermometer"],
 "limits": {"hours": 168}, "closing_s": 0, "steps": [{"do": "load", "amps": 0.1, "seconds": %s}]})";

} // namespace

int main(int argc, char** argv) {
    WatchedApplication app(argc, argv);
    const double speed = argc > 1 ? std::atof(argv[1]) : 1.0;
    const std::string seconds = argc > 2 ? argv[2] : "86400";
    const int benches = argc > 3 ? std::clamp(std::atoi(argv[3]), 1, ui::LiveBench::kMost) : 1;
    const double lines = argc > 4 ? std::atof(argv[4]) : 1000.0;
    ui::applyTheme(ui::ThemeKind::Light);
    QTemporaryDir folder;
    ui::MainWindow window;
    window.resize(1280, 800); // the offscreen platform's own screen is smaller
    window.resize(1280, 800);
    window.show();
    if (!window.session().create(folder.filePath(QStringLiteral("day.otterstone"))))
        return 1;
    bk::Bank bank;
    bank.name = "Dolmen 50";
    bank.label.energy = otterstone::WattHours(185.0);
    const auto id = window.session().addBank(bank);
    char text[600];
    (void)std::snprintf(text, sizeof text, kRest, seconds.c_str());
    const auto recipe = otterstone::bench::recipeFromJson(text, "day");
    if (!id || !recipe)
        return 1;
    QTest::qWait(5000); // the first painting of the window
    app.watch();
    {
        Beat beat; // what the machine itself does to a timer while nothing goes on
        QTest::qWait(20000);
        beat.say("before it");
    }
    window.showLive(*id);
    ui::LiveBench& live = window.liveBench();
    for (int k = 0; k < benches; ++k) {
        live.begin({*window.session().book().bank(*id), {*recipe, text}, true, speed, lines, 60.0});
        if (!QTest::qWaitFor(
                [&] {
                    return live.going().size() == static_cast<std::size_t>(k) + 1 &&
                           live.going().back()->session().isRunning();
                },
                20000))
            return 1;
    }
    if (!QTest::qWaitFor([&] { return window.liveBench().runner().progress().elapsed > 60.0; }, 120000))
        return 1;
    Beat beat;
    const double cpu = cpuSeconds(), from = window.liveBench().runner().progress().elapsed;
    double told = from;
    app.watch();
    std::printf("%10s %10s\n", "bench, h", "MB");
    while (window.liveBench().isRunning()) {
        QTest::qWait(200);
        const double at = window.liveBench().runner().progress().elapsed;
        if (at - told >= std::atof(seconds.c_str()) / 8.0) {
            told = at;
            std::printf("%10.2f %10.1f\n", at / 3600.0, megabytes());
            std::fflush(stdout);
        }
    }
    const double real = beat.seconds();
    std::printf("  %8.1f s: the run has ended\n", real);
    std::printf("%s s on each bench in %.0f s; %.1f %% of one core\n", seconds.c_str(), real,
                100.0 * (cpuSeconds() - cpu) / real);
    QTest::qWait(2000); // what comes behind the end: its finding, the shelf, the page
    beat.say("with the run");
    for (const auto& run : window.session().book().runs(*id)) {
        long long lost = 0;
        for (const auto& m : run.marks)
            lost += m.what == otterstone::records::Mark::What::Instrument ? 1 : 0;
        std::printf("%s: %zu samples, %lld marks of lost readings\n", run.title.c_str(),
                    window.session().book().trace(run.id).size(), lost);
    }
    return 0;
}
