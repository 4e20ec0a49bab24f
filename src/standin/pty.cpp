#include "standin/pty.h"

#include <cerrno>
#include <cstdlib>
#include <cstring>
#include <fcntl.h>
#include <poll.h>
#include <termios.h>
#include <unistd.h>

namespace otterstone::standin {

namespace {

constexpr std::pair<int, speed_t> kRates[] = {{9600, B9600},   {19200, B19200},   {38400, B38400},
                                              {57600, B57600}, {115200, B115200}, {230400, B230400}};

} // namespace

Result<void> Pty::open(int baud) {
    close();
    const auto failed = [this](const char* what) {
        const std::string why = std::strerror(errno);
        close();
        return problem("no_pseudo_terminal", link_, std::string(what) + ": " + why + ".");
    };
    master_ = ::posix_openpt(O_RDWR | O_NOCTTY | O_NONBLOCK | O_CLOEXEC);
    if (master_ < 0 || ::grantpt(master_) != 0 || ::unlockpt(master_) != 0)
        return failed("no pseudo-terminal can be had");
    char name[128];
    if (::ptsname_r(master_, name, sizeof name) != 0)
        return failed("the pseudo-terminal has no name");
    termios raw{};
    if (::tcgetattr(master_, &raw) == 0) {
        ::cfmakeraw(&raw);
        for (const auto& [rate, speed] : kRates) {
            if (rate == baud)
                ::cfsetspeed(&raw, speed);
        }
        ::tcsetattr(master_, TCSANOW, &raw);
    }
    // Opened and closed once: from now on the system tells whether somebody listens.
    if (const int other = ::open(name, O_RDWR | O_NOCTTY | O_CLOEXEC); other >= 0)
        ::close(other);
    ::unlink(link_.c_str());
    if (::symlink(name, link_.c_str()) != 0)
        return failed("its name cannot be put in place");
    return {};
}

void Pty::close() {
    if (master_ < 0)
        return;
    ::unlink(link_.c_str());
    ::close(master_);
    master_ = -1;
    waiting_.clear();
    sent_ = 0;
}

bool Pty::heard() const {
    if (master_ < 0)
        return false;
    pollfd p{master_, POLLOUT, 0};
    return ::poll(&p, 1, 0) >= 0 && !(p.revents & POLLHUP);
}

int Pty::baud() const {
    termios settings{};
    if (master_ < 0 || ::tcgetattr(master_, &settings) != 0)
        return 0;
    for (const auto& [rate, speed] : kRates) {
        if (::cfgetospeed(&settings) == speed)
            return rate;
    }
    return 0;
}

void Pty::write(const std::string& bytes) {
    waiting_ += bytes;
    flush();
}

std::string Pty::read() {
    std::string all;
    char bytes[512];
    for (ssize_t got = 0; master_ >= 0 && (got = ::read(master_, bytes, sizeof bytes)) > 0;)
        all.append(bytes, static_cast<std::size_t>(got));
    return all;
}

void Pty::waitForRoom(int milliseconds) const {
    pollfd p{master_, POLLOUT, 0};
    (void)::poll(&p, 1, milliseconds);
}

void Pty::flush() {
    while (master_ >= 0 && !waiting_.empty()) {
        const ssize_t count = ::write(master_, waiting_.data(), waiting_.size());
        if (count < 0 && errno == EINTR)
            continue;
        if (count <= 0)
            return; // full, or nobody there: later
        waiting_.erase(0, static_cast<std::size_t>(count));
        sent_ += static_cast<std::size_t>(count);
    }
}

} // namespace otterstone::standin
