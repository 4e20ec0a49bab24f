// What the tests of whole runs share: marks, sound traces, a short drain, and a computer that can be made to sleep.
#pragma once

#include <QFile>

#include <atomic>
#include <chrono>
#include <cmath>
#include <thread>

#include "bench_harness.h"
#include "book/demo/demo.h"
#include "book/store/capture.h"
#include "book/store/check.h"

namespace otterstone::testing {

using bench::StopKind;
using What = records::Mark::What;

inline std::atomic<double> slept{0.0};
inline const bench::SystemClocks kSleepy{bench::SystemClocks{}.awake,
                                         [] { return bench::SystemClocks{}.always() + slept.load(); }};

inline bool hasMark(const records::Run& run, What what, const char* words) {
    return std::any_of(run.marks.begin(), run.marks.end(), [&](const records::Mark& m) {
        return m.what == what && m.text.find(words) != std::string::npos;
    });
}

inline QString allMarks(const records::Run& run) {
    QStringList all;
    for (const auto& m : run.marks)
        all << QStringLiteral("%1 %2 %3")
                   .arg(m.at)
                   .arg(QString::fromStdString(records::markKey(m.what)), QString::fromStdString(m.text));
    return all.join(QLatin1Char('\n'));
}

// Times never step back, and no sample is one that was not there.
inline bool sound(const trace::Trace& t, double mostVolts = 5.3, double mostAmps = 1.1) {
    for (std::size_t k = 0; k < t.size(); ++k) {
        const bool flows = t.amps[k] > 0.05;
        if ((k > 0 && t.time[k] < t.time[k - 1]) || t.volts[k] > mostVolts || t.amps[k] > mostAmps ||
            (flows && t.volts[k] < 4.5))
            return false;
    }
    return t.size() > 0;
}

inline constexpr const char* kSpeed = "5"; // five seconds of silence are one real one: time enough to come back

/// The longest that this machine held a thread up, s: one that sleeps a little at a time tells what it slept longer.
class HeldUp {
public:
    HeldUp()
        : thread_([this] {
              using Clock = std::chrono::steady_clock;
              constexpr auto kNap = std::chrono::milliseconds(5);
              while (!done_) {
                  const auto before = Clock::now();
                  std::this_thread::sleep_for(kNap);
                  const double longer = std::chrono::duration<double>(Clock::now() - before - kNap).count();
                  longest_ = std::max(longest_.load(), longer);
              }
          }) {}
    ~HeldUp() {
        done_ = true;
        thread_.join();
    }
    HeldUp(const HeldUp&) = delete;
    HeldUp& operator=(const HeldUp&) = delete;
    [[nodiscard]] double seconds() const { return longest_; }

private:
    std::atomic<bool> done_{false};
    std::atomic<double> longest_{0.0};
    std::thread thread_;
};

// The gentle drain without its long waits.
inline bench::Recipe quickDrain() {
    bench::Recipe r = recipe("gentle-drain");
    r.steps[1].seconds = 2.0;
    r.closingSeconds = 2.0;
    return r;
}

/// Started, and its load on.
inline void started(bench::Session& session, const bench::Plan& plan, Standin& standin) {
    session.start(plan);
    QTRY_VERIFY_WITH_TIMEOUT(session.progress().loadOn && session.progress().amps > 0.5, 20000);
    QVERIFY(standin.truth().at("load_on").get<bool>());
}

} // namespace otterstone::testing
