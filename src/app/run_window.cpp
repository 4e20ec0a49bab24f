#include "app/run_window.h"

#include <algorithm>

#include <QApplication>
#include <QScreen>
#include <QSettings>

#include "app/main_window.h"
#include "bench/instruments/off_watcher.h"
#include "bench/runner/end_signals.h"
#include "terminal/unwaiting.h"

namespace otterstone::app {

namespace {
const QString kPlace = QStringLiteral("window"); // among the settings
} // namespace

void prepareToRun() {
    bench::holdEndSignals();
    bench::beginWatcher();
    terminal::printWithoutWaiting();
}

void putWhereItWasLeft(MainWindow& window) {
    const QRect left = QSettings().value(kPlace).toRect();
    const auto screens = QGuiApplication::screens();
    if (left.isValid() && std::any_of(screens.begin(), screens.end(),
                                      [&](const QScreen* s) { return s->availableGeometry().contains(left); }))
        window.setGeometry(left);
}

void keepPlace(const MainWindow& window) { QSettings().setValue(kPlace, window.normalGeometry()); }

int runWindow(MainWindow& window) {
    putWhereItWasLeft(window);
    window.show();
    // Shutdown, a closed terminal, Ctrl+C: the window goes, and a run that goes ends with its load off.
    // It stays as long as a load that should be off is not, but where a person insists.
    LiveBench& live = window.liveBench();
    bool ends = false;
    QObject::connect(&live, &LiveBench::changed, &window, [&] {
        if (ends && !live.isRunning())
            QCoreApplication::exit(0);
    });
    const auto told = bench::onEndSignal(
        [&](bench::EndAsked asked) {
            ends = true;
            if (asked == bench::EndAsked::Again || !live.isRunning())
                return QCoreApplication::exit(live.isRunning() ? 1 : 0);
            for (LiveRun* run : live.going())
                run->stop(QObject::tr("the program was told to end"));
        },
        [&live] { return !live.isRunning(); });
    const int code = QApplication::exec();
    keepPlace(window);
    return code;
}

} // namespace otterstone::app
