#include "app/run_window.h"

#include <algorithm>

#include <QApplication>
#include <QScreen>
#include <QSettings>

#include "app/main_window.h"
#include "bench/instruments/last_word.h"
#include "bench/runner/end_signals.h"

namespace otterstone::app {

namespace {
const QString kPlace = QStringLiteral("window"); // among the settings
} // namespace

void prepareToRun() {
    bench::holdEndSignals();
    bench::prepareLastWords();
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
    const auto told =
        bench::onEndSignal([] { QCoreApplication::exit(0); }, [&window] { return !window.liveBench().isRunning(); });
    const int code = QApplication::exec();
    keepPlace(window);
    return code;
}

} // namespace otterstone::app
