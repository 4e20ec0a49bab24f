// A rehearsal at a thousand readings a second in the real window: how long the interface was ever busy, how memory
// grows, what it costs. Usage: otterstone_live_day [SPEED [BENCH_SECONDS [BENCHES [LINES_A_SECOND]]]]
// offscreen: QT_QPA_PLATFORM=offscreen
#include <QApplication>
#include <QTemporaryDir>
#include <QTest>

#include <algorithm>
#include <cstdio>
#include <fstream>
#include <sys/resource.h>
#include <unistd.h>

#include "app/live/live_page.h"
#include "app/main_window.h"
#include "app/theme.h"
#include "watched.h"

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

constexpr const char* kRest =
    R"({"format": "otterstone-recipe", "version": 1, "key": "day", "name": "A day", "kind": "drain", "needs": ["meter"], "uses": ["load", "thermometer"],
 "limits": {"hours": 168}, "closing_s": 0, "steps": [{"do": "load", "amps": 0.1, "seconds": %s}]})";

} // namespace

int main(int argc, char** argv) {
    otterstone::watched::WatchedApplication app(argc, argv, 20.0);
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
        otterstone::watched::Beat beat; // what the machine itself does to a timer while nothing goes on
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
    otterstone::watched::Beat beat;
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
