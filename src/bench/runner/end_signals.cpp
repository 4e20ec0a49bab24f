#include "bench/runner/end_signals.h"

#include <algorithm>
#include <csignal>
#include <iostream>
#include <span>

#include <QElapsedTimer>
#include <sys/signalfd.h>
#include <unistd.h>

namespace otterstone::bench {

namespace {

constexpr qint64 kInsistsMs = 1000; // a terminal that closes says it twice, a shell and the kernel at once

constexpr int kByAPerson[] = {SIGINT, SIGTERM, SIGHUP, SIGQUIT};
constexpr int kByTheSystem[] = {SIGPWR, SIGXCPU, SIGXFSZ};
constexpr int kPause[] = {SIGTSTP, SIGTTIN, SIGTTOU};
constexpr int kNotHeard[] = {SIGPIPE, SIGUSR1, SIGUSR2, SIGALRM, SIGPROF, SIGVTALRM, SIGPOLL, SIGSTKFLT};

sigset_t endSignals() {
    sigset_t set;
    sigemptyset(&set);
    for (const auto& all :
         {std::span<const int>(kByAPerson), std::span<const int>(kByTheSystem), std::span<const int>(kPause)}) {
        for (const int signal : all)
            sigaddset(&set, signal);
    }
    return set;
}

void hear(void (*how)(int)) {
    for (const int signal : kNotHeard)
        std::signal(signal, how);
    for (int signal = SIGRTMIN; signal <= SIGRTMAX; ++signal)
        std::signal(signal, how);
}

} // namespace

void holdEndSignals() {
    const sigset_t set = endSignals();
    sigprocmask(SIG_BLOCK, &set, nullptr);
    hear(SIG_IGN);
}

void releaseEndSignals() {
    const sigset_t set = endSignals();
    sigprocmask(SIG_UNBLOCK, &set, nullptr);
    hear(SIG_DFL);
}

std::unique_ptr<QSocketNotifier> onEndSignal(const std::function<void(EndAsked)>& act,
                                             const std::function<bool()>& mayPause) {
    const sigset_t set = endSignals();
    const int fd = ::signalfd(-1, &set, SFD_CLOEXEC | SFD_NONBLOCK);
    auto notifier = std::make_unique<QSocketNotifier>(fd, QSocketNotifier::Read);
    QObject::connect(
        notifier.get(), &QSocketNotifier::activated, [fd, act, mayPause, first = QElapsedTimer()]() mutable {
            signalfd_siginfo info{};
            if (::read(fd, &info, sizeof info) <= 0)
                return;
            const auto signal = static_cast<int>(info.ssi_signo);
            const auto among = [signal](std::span<const int> all) {
                return std::find(all.begin(), all.end(), signal) != all.end();
            };
            if (!among(kPause)) {
                const bool again = first.isValid() && first.elapsed() >= kInsistsMs && among(kByAPerson);
                if (!first.isValid())
                    first.start();
                act(again ? EndAsked::Again : EndAsked::First);
            } else if (mayPause()) {
                ::raise(SIGSTOP);
            } else if (signal == SIGTSTP) {
                std::cerr << "A run that goes is not put to sleep: nobody would watch the load. Ctrl+C ends it.\n";
            }
        });
    return notifier;
}

} // namespace otterstone::bench
