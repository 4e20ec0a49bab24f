#include "bench/runner/end_signals.h"

#include <csignal>
#include <cstdio>

#include <sys/signalfd.h>
#include <unistd.h>

namespace otterstone::bench {

namespace {

sigset_t endSignals() {
    sigset_t set;
    sigemptyset(&set);
    for (const int signal : {SIGINT, SIGTERM, SIGHUP, SIGQUIT, SIGTSTP, SIGTTIN, SIGTTOU})
        sigaddset(&set, signal);
    return set;
}

} // namespace

void holdEndSignals() {
    const sigset_t set = endSignals();
    sigprocmask(SIG_BLOCK, &set, nullptr);
    std::signal(SIGPIPE, SIG_IGN);
}

void releaseEndSignals() {
    const sigset_t set = endSignals();
    sigprocmask(SIG_UNBLOCK, &set, nullptr);
}

std::unique_ptr<QSocketNotifier> onEndSignal(const std::function<void()>& act, const std::function<bool()>& mayPause) {
    const sigset_t set = endSignals();
    const int fd = ::signalfd(-1, &set, SFD_CLOEXEC | SFD_NONBLOCK);
    auto notifier = std::make_unique<QSocketNotifier>(fd, QSocketNotifier::Read);
    QObject::connect(notifier.get(), &QSocketNotifier::activated, [fd, act, mayPause] {
        signalfd_siginfo info{};
        if (::read(fd, &info, sizeof info) <= 0)
            return;
        const auto signal = static_cast<int>(info.ssi_signo);
        if (signal != SIGTSTP && signal != SIGTTIN && signal != SIGTTOU)
            act();
        else if (mayPause())
            ::raise(SIGSTOP);
        else if (signal == SIGTSTP)
            std::fputs("A run that goes is not put to sleep: nobody would watch the load. Ctrl+C ends it.\n", stderr);
    });
    return notifier;
}

} // namespace otterstone::bench
