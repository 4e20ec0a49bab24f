// How long after its start a window can be used, and the memory it has by then: ours with a book, or, built with
// OTTERSTONE_EMPTY, an empty one of the same Qt. bench/start.py runs them beside each other.
// Usage: otterstone_start BEGUN BOOK        BEGUN: CLOCK_MONOTONIC when it was started, ms; prints ms and MB
#include <cstdio>
#include <cstdlib>
#include <ctime>
#include <fstream>

#include <QApplication>
#include <QMainWindow>
#include <QTimer>

#ifndef OTTERSTONE_EMPTY
#include "app/main_window.h"
#include "app/theme.h"
#endif

namespace {

double milliseconds() {
    timespec t{};
    clock_gettime(CLOCK_MONOTONIC, &t);
    return 1e3 * static_cast<double>(t.tv_sec) + 1e-6 * static_cast<double>(t.tv_nsec);
}

double megabytes() {
    std::ifstream statm("/proc/self/statm");
    long pages = 0, resident = 0;
    statm >> pages >> resident;
    return static_cast<double>(resident) * 4096.0 / 1e6;
}

// Usable: it has painted itself, and whatever was to be done before a key is heard is done.
class Watch : public QObject {
public:
    Watch(QObject& window, double begun) : begun_(begun) { window.installEventFilter(this); }

protected:
    bool eventFilter(QObject*, QEvent* event) override {
        if (event->type() == QEvent::Paint && !painted_) {
            painted_ = true;
            QTimer::singleShot(0, this, [this] {
                std::printf("%.1f %.1f\n", milliseconds() - begun_, megabytes());
                QCoreApplication::quit();
            });
        }
        return false;
    }

private:
    double begun_;
    bool painted_ = false;
};

} // namespace

int main(int argc, char** argv) {
    const double begun = argc > 1 ? std::atof(argv[1]) : milliseconds();
    QApplication app(argc, argv);
#ifdef OTTERSTONE_EMPTY
    QMainWindow window;
    window.resize(1280, 800);
#else
    otterstone::app::applyTheme(otterstone::app::systemTheme());
    otterstone::app::MainWindow window;
    window.openBook(QString::fromLocal8Bit(argc > 2 ? argv[2] : ""));
#endif
    const Watch watch(window, begun);
    window.show();
    return QApplication::exec();
}
