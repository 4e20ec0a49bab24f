// How soon a campaign is planned, and how well: sixty jobs in two seconds against a minute, three hundred jobs, a plan
// made anew after one run has ended, and how long the window's thread is kept meanwhile.
// Usage: otterstone_campaign [SECONDS of the long search, 60; 0 for the window's thread alone]
#include <chrono>
#include <cstdio>
#include <cstdlib>
#include <ctime>

#include <QApplication>
#include <QElapsedTimer>
#include <QTableWidget>
#include <QTemporaryDir>
#include <QTimer>

#include "../tests/core/campaign_checks.h"
#include "app/plan/plan_page.h"
#include "app/theme.h"
#include "book/demo/demo.h"
#include "core/plan/campaign/search.h"

using namespace otterstone;
using namespace otterstone::plan::campaign;
namespace checks = otterstone::testing;

namespace {

struct Searched {
    Answer answer;
    double first = -1.0; // s until there was an answer
};

Searched search(const plan::campaign::Problem& p, double seconds) {
    const auto begun = std::chrono::steady_clock::now();
    const auto passed = [&] { return std::chrono::duration<double>(std::chrono::steady_clock::now() - begun).count(); };
    Searched s;
    s.answer = solve(p, [&](const Answer&) {
        if (s.first < 0.0)
            s.first = passed();
        return passed() < seconds;
    });
    return s;
}

void compare(int jobs, unsigned seed, double brief, double lengthy) {
    std::mt19937 random(seed);
    const plan::campaign::Problem p = checks::drawn(random, jobs, false);
    const Searched quick = search(p, brief), thorough = search(p, lengthy);
    const Schedule &a = quick.answer.schedule, &b = thorough.answer.schedule;
    std::printf(
        "%4d jobs, seed %u: first answer %6.3f s; in %4.1f s value %.1f, %.2f h; in %4.0f s value %.1f, %.2f h; "
        "bound %.2f h; left out %zu and %zu\n",
        jobs, seed, quick.first, brief, a.value, a.makespan / 3600.0, lengthy, b.value, b.makespan / 3600.0,
        thorough.answer.bounds.makespan / 3600.0, a.leftOut.size(), b.leftOut.size());
    std::fflush(stdout);
}

// The first job to begin has ended: what is left is planned anew from then.
void again(int jobs, unsigned seed) {
    std::mt19937 random(seed);
    plan::campaign::Problem p = checks::drawn(random, jobs, false);
    const Answer before = search(p, 2.0).answer;
    if (before.schedule.placed.empty())
        return;
    const std::size_t done = before.schedule.placed.front().job;
    if (p.jobs[done].bank)
        p.banks[*p.jobs[done].bank].now = before.schedule.placed.front().end;
    p.jobs[done].value = 0.0;
    p.jobs[done].seconds = 1.0;
    p.jobs[done].needs.clear();
    p.jobs[done].hands.clear();
    const Searched after = search(p, 0.5);
    std::printf("%4d jobs, seed %u: planned anew: first answer %.3f s, in 0.5 s %.2f h (before: %.2f h)\n", jobs, seed,
                after.first, after.answer.schedule.makespan / 3600.0, before.schedule.makespan / 3600.0);
    std::fflush(stdout);
}

// The longest that the window's thread was kept while the demo was planned and drawn, with its list, ms.
void interfaceThread() {
    QTemporaryDir folder;
    const QString path = folder.filePath(QStringLiteral("demo.otterstone"));
    if (!book::makeDemo(path))
        return;
    app::BookSession session;
    if (!session.open(path))
        return;
    Wishes w = *wishesFromText(session.book().choice("campaign"), "demo");
    w.loads = 8;
    w.repeats = 2;
    if (!session.changeChoice("campaign", wishesToText(w), QStringLiteral("wish")))
        return;
    app::PlanPage page(session);
    page.setSeconds(5.0);
    page.resize(1000, 700);
    page.show();
    const auto worked = [] { // ms of processor time of this thread
        timespec t{};
        clock_gettime(CLOCK_THREAD_CPUTIME_ID, &t);
        return 1e3 * static_cast<double>(t.tv_sec) + 1e-6 * static_cast<double>(t.tv_nsec);
    };
    QElapsedTimer since;
    qint64 longest = 0;
    double before = 0.0, most = 0.0;
    QTimer beat;
    beat.setInterval(1);
    QObject::connect(&beat, &QTimer::timeout, [&] {
        longest = std::max(longest, since.elapsed());
        most = std::max(most, worked() - before);
        since.restart();
        before = worked();
    });
    page.refresh();
    QCoreApplication::processEvents();
    since.start();
    before = worked();
    beat.start();
    while (page.isPlanning())
        QCoreApplication::processEvents(QEventLoop::WaitForMoreEvents);
    std::printf(
        "the plan page's thread while the demo is planned for 5 s: kept for %lld ms at the most, %.0f ms of work, %d "
        "rows\n",
        static_cast<long long>(longest), most, page.table()->rowCount());
}

} // namespace

int main(int argc, char** argv) {
    QApplication application(argc, argv);
    app::applyTheme(app::ThemeKind::Light);
    const double lengthy = argc > 1 ? std::atof(argv[1]) : 60.0;
    if (lengthy > 0.0) {
        for (const unsigned seed : {1U, 2U, 3U})
            compare(60, seed, 2.0, lengthy);
        for (const unsigned seed : {1U, 2U})
            compare(300, seed, 20.0, lengthy);
        for (const unsigned seed : {1U, 2U, 3U})
            again(60, seed);
    }
    interfaceThread();
    return 0;
}
