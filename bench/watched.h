// How long the interface's own thread was kept, and by what. For what is measured, never for tests.
#pragma once

#include <algorithm>
#include <cstdio>
#include <ctime>
#include <fstream>
#include <string>
#include <unistd.h>
#include <vector>

#include <QApplication>
#include <QThread>
#include <QTimer>

namespace otterstone::watched {

inline double milliseconds(clockid_t clock) {
    timespec t{};
    clock_gettime(clock, &t);
    return 1e3 * static_cast<double>(t.tv_sec) + 1e-6 * static_cast<double>(t.tv_nsec);
}

inline double workedByThread() { return milliseconds(CLOCK_THREAD_CPUTIME_ID); }

// What the host took from this virtual machine so far, by the kernel's own account; 0 on a machine of one's own. Thread
// clocks count it as work.
inline double stolenMilliseconds() {
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
    /// Events that take longer than `told` ms are named.
    WatchedApplication(int& argc, char** argv, double told) : QApplication(argc, argv), told_(told) {}

    bool notify(QObject* receiver, QEvent* event) override {
        if (QThread::currentThread() != thread()) // the bench and the recorder have their own
            return QApplication::notify(receiver, event);
        const double from = milliseconds(CLOCK_MONOTONIC), worked = workedByThread();
        const QEvent::Type type = event->type();
        const QByteArray who = QByteArray(receiver->metaObject()->className()) + ' ' +
                               receiver->objectName().toUtf8(); // it may be gone afterwards
        ++depth_;
        const bool handled = QApplication::notify(receiver, event);
        --depth_;
        if (const double took = milliseconds(CLOCK_MONOTONIC) - from; took > told_ && watching_) {
            ++long_;
            std::printf("  %8.1f s: %.0f ms, %.0f of them work, depth %d: event %d to %s\n", 1e-3 * (from - start_),
                        took, workedByThread() - worked, depth_, static_cast<int>(type), who.constData());
        }
        return handled;
    }
    void watch() {
        watching_ = true;
        start_ = milliseconds(CLOCK_MONOTONIC);
    }

    /// Events that were named so far.
    [[nodiscard]] int named() const { return long_; }

private:
    double told_;
    int long_ = 0;
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

} // namespace otterstone::watched
