#include "app/run_window.h"

#include <QApplication>

#include "app/main_window.h"
#include "bench/instruments/last_word.h"
#include "bench/runner/end_signals.h"

namespace otterstone::app {

void prepareToRun() {
    bench::holdEndSignals();
    bench::prepareLastWords();
}

int runWindow(MainWindow& window) {
    window.show();
    // Shutdown, a closed terminal, Ctrl+C: the window goes, and a run that goes ends with its load off.
    const auto told =
        bench::onEndSignal([] { QCoreApplication::exit(0); }, [&window] { return !window.liveBench().isRunning(); });
    return QApplication::exec();
}

} // namespace otterstone::app
