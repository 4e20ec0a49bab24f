// What takes long says so on a terminal, and nowhere else.
#pragma once

#include <condition_variable>
#include <mutex>
#include <string>
#include <thread>

namespace otterstone::terminal {

/// While it lives, and once half a second has passed, a terminal on standard error shows what is done and for how long:
/// "Searching for a plan: 3 s of at most 10 s". Its line is gone when it ends, before anything else is printed. Where
/// standard error is a file or a pipe nothing is written. Ctrl+C ends the command as always.
class Busy {
public:
    /// `what`: "Working out the findings"; `atMost` in seconds, 0 where nobody knows.
    explicit Busy(std::string what, double atMost = 0.0);
    ~Busy();
    Busy(const Busy&) = delete;
    Busy& operator=(const Busy&) = delete;

private:
    void show(const std::string& what, double atMost);

    std::mutex mutex_;
    std::condition_variable over_;
    bool ended_ = false;
    std::thread thread_; ///< none where there is no terminal
};

/// What `f` gives, told as busy while it works.
template<class F>
auto busyWith(std::string what, F f) {
    const Busy busy(std::move(what));
    return f();
}

inline constexpr const char* kJudging = "Working out what the runs say";
inline constexpr const char* kReadingLog = "Reading the log";

} // namespace otterstone::terminal
