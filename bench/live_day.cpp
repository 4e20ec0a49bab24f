// A rehearsal at a thousand readings a second in the real window: how long the interface was ever busy, how memory grows, what it costs.
// Usage: otterstone_live_day [SPEED [BENCH_SECONDS]]       offscreen: QT_QPA_PLATFORM=offscreen
#include <QApplication>
#include <QElapsedTimer>
#include <QTemporaryDir>
#include <QTest>
#include <QTimer>

#include <algorithm>
#include <cstdio>
#include <fstream>
#include <ctime>
#include <sys/resource.h>

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
    return static_cast<double>(u.ru_utime.tv_sec + u.ru_stime.tv_sec) + 1e-6 * static_cast<double>(u.ru_utime.tv_usec + u.ru_stime.tv_usec);
}

double threadMilliseconds() {
    timespec t{};
    clock_gettime(CLOCK_THREAD_CPUTIME_ID, &t);
    return 1e3 * static_cast<double>(t.tv_sec) + 1e-6 * static_cast<double>(t.tv_nsec);
}

class Beat {
public:
    Beat() {
        clock_.start();
        timer_.setTimerType(Qt::PreciseTimer);
        QObject::connect(&timer_, &QTimer::timeout, [this] {
            const qint64 now = clock_.nsecsElapsed();
            gaps_.push_back(static_cast<double>(now - last_) * 1e-6);
            last_ = now;
            // What the interface itself worked in that time; the rest of a long gap is the machine's, or a wait.
            const double worked = threadMilliseconds();
            mostWorked_ = std::max(mostWorked_, worked - worked_);
            worked_ = worked;
        });
        timer_.start(5);
    }
    [[nodiscard]] double seconds() const { return static_cast<double>(clock_.elapsed()) * 1e-3; }
    void say(const char* when) {
        std::sort(gaps_.begin(), gaps_.end());
        std::printf("the interface's timer of 5 ms, %s: median %.1f, 99.9 %% %.1f, longest %.1f ms; above 50 ms %zu of %zu times\n", when, gaps_[gaps_.size() / 2], gaps_[gaps_.size() * 999 / 1000], gaps_.back(),
                    static_cast<std::size_t>(gaps_.end() - std::upper_bound(gaps_.begin(), gaps_.end(), 50.0)), gaps_.size());
        std::printf("the interface's thread worked at most %.1f ms between two of them\n", mostWorked_);
        std::fflush(stdout);
    }

private:
    QElapsedTimer clock_;
    QTimer timer_;
    std::vector<double> gaps_;
    qint64 last_ = 0;
    double worked_ = threadMilliseconds(), mostWorked_ = 0.0;
};

constexpr const char* kRest = R"({"format": "otterstone-recipe", "version": 1, "key": "day", "name": "A day", "kind": "drain", "needs": ["meter"], "uses": ["load", "thermometer"],
 "limits": {"hours": 900}, "closing_s": 0, "steps": [{"do": "load", "amps": 0.1, "seconds": %s}]})";

} // namespace

int main(int argc, char** argv) {
    QApplication app(argc, argv);
    const double speed = argc > 1 ? std::atof(argv[1]) : 1.0;
    const std::string seconds = argc > 2 ? argv[2] : "86400";
    ui::applyTheme(ui::ThemeKind::Light);
    QTemporaryDir folder;
    ui::MainWindow window;
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
    {
        Beat beat; // what the machine itself does to a timer while nothing goes on
        QTest::qWait(20000);
        beat.say("before it");
    }
    window.showLive(*id);
    window.liveBench().begin({*window.session().book().bank(*id), {*recipe, text}, true, speed, 1000.0, 60.0});
    if (!QTest::qWaitFor([&] { return window.liveBench().runner().progress().elapsed > 60.0; }, 120000))
        return 1;
    // The longest the interface's own thread ever was away: a timer that wants to run every 5 ms.
    Beat beat;
    const double cpu = cpuSeconds(), from = window.liveBench().runner().progress().elapsed;
    double told = from;
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
    std::printf("%.0f s on the bench in %.0f s; %.1f %% of one core\n", told - from, real, 100.0 * (cpuSeconds() - cpu) / real);
    beat.say("with the run");
    return 0;
}
