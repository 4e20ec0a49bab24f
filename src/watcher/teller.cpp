#include "watcher/teller.h"

#include <algorithm>
#include <cctype>
#include <chrono>
#include <cmath>
#include <cstdlib>
#include <thread>

#include <fcntl.h>
#include <netdb.h>
#include <poll.h>
#include <sys/socket.h>
#include <termios.h>
#include <unistd.h>

namespace otterstone::watcher {

namespace {

using Clock = std::chrono::steady_clock;
constexpr auto kAgain = std::chrono::milliseconds(500);
constexpr int kAnswerMs = 400, kStaleMs = 30, kConnectMs = 1000;
constexpr std::size_t kMostStale = 1 << 16, kLongestAnswer = 400;
constexpr int kEnough = 3; // of a load that can say nothing

bool ready(int fd, short what, int milliseconds) {
    pollfd p{fd, what, 0};
    return ::poll(&p, 1, milliseconds) > 0 && (p.revents & what) != 0;
}

} // namespace

std::string Teller::name() const {
    return "the load at " + guard_.where + (guard_.by == Guard::By::Tcp ? ":" + std::to_string(guard_.port) : "");
}

void Teller::close() {
    if (fd_ >= 0)
        ::close(fd_);
    fd_ = -1;
}

int Teller::connectTcp() const {
    addrinfo hints{};
    hints.ai_socktype = SOCK_STREAM;
    addrinfo* found = nullptr;
    if (::getaddrinfo(guard_.where.c_str(), std::to_string(guard_.port).c_str(), &hints, &found) != 0)
        return -1;
    int fd = -1;
    for (const addrinfo* a = found; a && fd < 0; a = a->ai_next) {
        fd = ::socket(a->ai_family, SOCK_STREAM | SOCK_CLOEXEC | SOCK_NONBLOCK, 0);
        if (fd < 0)
            continue;
        int failed = 0;
        socklen_t size = sizeof failed;
        const bool begun = ::connect(fd, a->ai_addr, a->ai_addrlen) == 0 || errno == EINPROGRESS;
        if (!begun || !ready(fd, POLLOUT, kConnectMs) || ::getsockopt(fd, SOL_SOCKET, SO_ERROR, &failed, &size) != 0 ||
            failed != 0) {
            ::close(fd);
            fd = -1;
        }
    }
    ::freeaddrinfo(found);
    return fd;
}

int Teller::openPort() const {
    const int fd = ::open(guard_.where.c_str(), O_RDWR | O_NOCTTY | O_NONBLOCK | O_CLOEXEC);
    termios t{};
    if (fd < 0 || guard_.by == Guard::By::File || ::tcgetattr(fd, &t) != 0)
        return fd;
    ::cfmakeraw(&t);
    t.c_cflag |= CLOCAL | CREAD;
    t.c_cflag &= ~static_cast<tcflag_t>(CRTSCTS | CSTOPB);
    if (guard_.parity != "none")
        t.c_cflag |= PARENB | (guard_.parity == "odd" ? PARODD : 0U);
    ::cfsetspeed(&t, static_cast<speed_t>(guard_.port)); // glibc takes the number itself
    ::tcsetattr(fd, TCSANOW, &t);
    return fd;
}

bool Teller::connected() {
    if (fd_ < 0)
        fd_ = guard_.by == Guard::By::Tcp ? connectTcp() : openPort();
    return fd_ >= 0;
}

bool Teller::send(const std::string& bytes) {
    for (std::size_t from = 0; from < bytes.size();) {
        if (!ready(fd_, POLLOUT, kAnswerMs))
            return false;
        // A socket that is gone fails; what is no socket is written to as a file.
        ssize_t n = ::send(fd_, bytes.data() + from, bytes.size() - from, MSG_DONTWAIT | MSG_NOSIGNAL);
        if (n < 0 && errno == ENOTSOCK)
            n = ::write(fd_, bytes.data() + from, bytes.size() - from);
        if (n <= 0)
            return false;
        from += static_cast<std::size_t>(n);
    }
    return true;
}

// Answers to whoever asked before say nothing of now.
void Teller::dropWhatCame() {
    char bytes[4096];
    for (std::size_t dropped = 0; dropped < kMostStale && ready(fd_, POLLIN, kStaleMs);) {
        const ssize_t n = ::read(fd_, bytes, sizeof bytes);
        if (n == 0)
            return close(); // the other end is gone
        if (n < 0)
            return;
        dropped += static_cast<std::size_t>(n);
    }
}

std::string Teller::answer(int milliseconds, std::size_t enough) {
    std::string text;
    const auto until = Clock::now() + std::chrono::milliseconds(milliseconds);
    const auto whole = [&] { return enough > 0 ? text.size() >= enough : text.find('\n') != std::string::npos; };
    while (!whole() && text.size() < kLongestAnswer) {
        const auto left = std::chrono::duration_cast<std::chrono::milliseconds>(until - Clock::now()).count();
        char bytes[256];
        if (left <= 0 || !ready(fd_, POLLIN, static_cast<int>(left)))
            break;
        const ssize_t n = ::read(fd_, bytes, sizeof bytes);
        if (n <= 0) {
            close();
            break;
        }
        text.append(bytes, static_cast<std::size_t>(n));
    }
    return text;
}

bool Teller::isOff() {
    using Proof = Guard::Proof;
    if (guard_.proof == Proof::None || (guard_.proof != Proof::Echo && guard_.question.empty()))
        return told_ >= kEnough;
    if (guard_.proof == Proof::Echo)
        return answer(kAnswerMs, guard_.off.size()) == guard_.off;
    if (!send(guard_.question)) {
        close();
        return false;
    }
    std::string line = answer(kAnswerMs, 0);
    std::erase_if(line, [](unsigned char c) { return std::isspace(c) != 0; });
    std::transform(line.begin(), line.end(), line.begin(), [](unsigned char c) { return std::toupper(c); });
    if (guard_.proof == Proof::State)
        return line == "0" || line == "OFF";
    char* end = nullptr;
    const double amps = std::strtod(line.c_str(), &end);
    return !line.empty() && *end == '\0' && std::fabs(amps) <= guard_.idleAmps;
}

bool Teller::tell(double seconds) {
    const auto until = Clock::now() + std::chrono::duration<double>(seconds);
    for (auto next = Clock::now(); Clock::now() < until; std::this_thread::sleep_until(next)) {
        next += kAgain;
        if (!connected())
            continue;
        // "Off" goes out first, whatever lies in the line; what is believed is said after it was said once more.
        if (!send(guard_.off)) {
            close();
            continue;
        }
        ++told_;
        if (guard_.proof == Guard::Proof::Echo) {
            if (isOff())
                return true;
            continue;
        }
        dropWhatCame();
        if (fd_ >= 0 && isOff())
            return true;
    }
    return false;
}

} // namespace otterstone::watcher
