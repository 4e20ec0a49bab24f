// otterstone-watcher: a process of its own beside each program that switches a load. It holds the loads that may be on,
// and says "off" to them when the other end of its pipe closes: after a crash, kill -9, a memory that is full, any
// exit. It says it, too, to a load of which the program has said nothing for kUnwatchedSeconds: a program that stands
// still watches nobody. Without Qt, and small: whoever looks for memory to free finds little here.
#include <cerrno>
#include <chrono>
#include <csignal>
#include <cstring>
#include <map>
#include <thread>
#include <vector>

#include <poll.h>
#include <sys/socket.h>
#include <sys/stat.h>
#include <unistd.h>

#include "watcher/teller.h"

namespace {

using namespace otterstone::watcher;
using Clock = std::chrono::steady_clock;

constexpr double kTellSeconds = 60.0; // then whoever reads the words has pulled the plug, or nobody is there
constexpr int kLookMs = 500;

struct Held {
    Guard guard;
    int fd = -1;
    Clock::time_point heard = Clock::now();
    bool told = false; ///< it was switched off because nobody watched
};

void say(const std::string& words) {
    const std::string line = "otterstone: " + words + "\n";
    if (const pollfd p{STDERR_FILENO, POLLOUT, 0}; ::poll(const_cast<pollfd*>(&p), 1, 0) > 0) [[maybe_unused]]
        const auto written = ::write(STDERR_FILENO, line.data(), line.size());
}

// Whether it is off. `why`: "the program that held it is gone".
bool tellOff(const Guard& guard, int fd, const std::string& why) {
    Teller teller(guard, fd);
    const bool off = teller.tell(kTellSeconds);
    if (off)
        say(why + "; " + teller.name() + " was switched off.");
    else
        say("\a" + why + "; THE LOAD MAY STILL BE ON (" + teller.name() +
            " did not say that it is off). Pull the plug out of the bank.");
    return off;
}

// A message and the descriptor that came with it. False: the other end is gone.
bool receive(std::map<int, Held>& all) {
    char bytes[kLongestMessage];
    iovec into{bytes, sizeof bytes};
    alignas(cmsghdr) char beside[CMSG_SPACE(sizeof(int))];
    msghdr m{};
    m.msg_iov = &into;
    m.msg_iovlen = 1;
    m.msg_control = beside;
    m.msg_controllen = sizeof beside;
    const ssize_t n = ::recvmsg(kPipe, &m, MSG_CMSG_CLOEXEC);
    if (n < 0 && errno == EINTR)
        return true;
    if (n <= 0)
        return false;
    int fd = -1;
    for (const cmsghdr* c = CMSG_FIRSTHDR(&m); c; c = CMSG_NXTHDR(&m, const_cast<cmsghdr*>(c))) {
        if (c->cmsg_level == SOL_SOCKET && c->cmsg_type == SCM_RIGHTS)
            std::memcpy(&fd, CMSG_DATA(c), sizeof fd);
    }
    const auto message = decode({bytes, static_cast<std::size_t>(n)});
    if (!message) {
        if (fd >= 0)
            ::close(fd);
        return true;
    }
    const auto at = all.find(message->id);
    if (message->what == Message::What::Alive) {
        if (at != all.end())
            at->second.heard = Clock::now(), at->second.told = false;
        return true;
    }
    if (at != all.end()) {
        if (at->second.fd >= 0)
            ::close(at->second.fd);
        all.erase(at);
    }
    if (message->what == Message::What::Guard)
        all[message->id] = {message->guard, fd, Clock::now(), false};
    else if (fd >= 0)
        ::close(fd);
    return true;
}

} // namespace

int main() {
    for (int signal = 1; signal < NSIG; ++signal) {
        if (signal != SIGKILL && signal != SIGSTOP && signal != SIGCHLD)
            std::signal(signal, SIG_IGN);
    }
    struct stat pipe {};
    if (::fstat(kPipe, &pipe) != 0 || !S_ISSOCK(pipe.st_mode)) {
        say("this is started by the programs that switch loads; by itself it watches nothing.");
        return 2;
    }
    std::map<int, Held> all;
    for (;;) {
        pollfd p{kPipe, POLLIN, 0};
        if (::poll(&p, 1, kLookMs) > 0 && !receive(all))
            break;
        // One that said that it is off is held no more: whoever switches it on again says so, or is somebody else.
        for (auto at = all.begin(); at != all.end();) {
            Held& held = at->second;
            const bool unwatched = !held.told && Clock::now() - held.heard >= std::chrono::seconds(kUnwatchedSeconds);
            held.told = held.told || unwatched;
            if (unwatched && tellOff(held.guard, ::dup(held.fd), "the program that holds it stands still")) {
                ::close(held.fd);
                at = all.erase(at);
            } else {
                ++at;
            }
        }
    }
    std::vector<std::thread> tellers;
    for (const auto& [id, held] : all)
        tellers.emplace_back(tellOff, held.guard, held.fd, "the program that held it is gone");
    for (std::thread& t : tellers)
        t.join();
    return 0;
}
