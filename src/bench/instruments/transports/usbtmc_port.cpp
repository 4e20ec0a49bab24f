#include "bench/instruments/transports/usbtmc_port.h"

#include <cerrno>
#include <chrono>
#include <cstdint>
#include <cstring>
#include <utility>

#include <QFile>
#include <fcntl.h>
#include <linux/usb/tmc.h>
#include <poll.h>
#include <sys/ioctl.h>
#include <unistd.h>

namespace otterstone::bench {

namespace {

constexpr int kPollMs = 10;
constexpr int kAnswerPatienceMs =
    1000; // an answer that is later than this belongs to nobody, and "off" waits no longer
constexpr std::size_t kMostAtOnce = 4096;

} // namespace

UsbtmcPort::UsbtmcPort(QString path, QObject* parent) : LinePort(parent), path_(std::move(path)) {}

UsbtmcPort::~UsbtmcPort() { UsbtmcPort::close(); }

bool UsbtmcPort::open(OpenMode mode) {
    fd_ = ::open(QFile::encodeName(path_).constData(), O_RDWR | O_CLOEXEC | O_NOCTTY | O_NONBLOCK);
    if (fd_ < 0) {
        setErrorString(QString::fromLocal8Bit(std::strerror(errno)));
        return false;
    }
    std::uint32_t patience = kAnswerPatienceMs;
    (void)::ioctl(fd_, USBTMC_IOCTL_SET_TIMEOUT, &patience); // where it is one; what stands in for one waits by itself
    ends_ = false;
    worker_ = std::thread([this] { work(); });
    return QIODevice::open(mode | QIODevice::Unbuffered);
}

void UsbtmcPort::close() {
    if (fd_ < 0)
        return;
    ends_ = true;
    {
        const std::lock_guard lock(mutex_);
        more_.notify_all();
    }
    worker_.join();
    ::close(fd_);
    fd_ = -1;
    QIODevice::close();
}

qint64 UsbtmcPort::writeData(const char* data, qint64 size) {
    const std::lock_guard lock(mutex_);
    toSay_.emplace_back(data, size);
    more_.notify_all();
    return size;
}

qint64 UsbtmcPort::bytesToWrite() const {
    const std::lock_guard lock(mutex_);
    qint64 all = 0;
    for (const QByteArray& line : toSay_)
        all += line.size();
    return all;
}

bool UsbtmcPort::waitForBytesWritten(int milliseconds) {
    for (int waited = 0; bytesToWrite() > 0 && waited < milliseconds; waited += kPollMs)
        std::this_thread::sleep_for(std::chrono::milliseconds(kPollMs));
    return bytesToWrite() == 0;
}

// One command after the other: after a question its answer is awaited before anything else is said, as the class wants
// it.
void UsbtmcPort::work() {
    const auto failed = [this](int error) {
        const QString why = QString::fromLocal8Bit(std::strerror(error));
        QMetaObject::invokeMethod(
            this, [this, why] { Q_EMIT lost(why); }, Qt::QueuedConnection);
    };
    while (!ends_) {
        QByteArray line;
        {
            std::unique_lock lock(mutex_);
            more_.wait(lock, [this] { return !toSay_.empty() || ends_; });
            if (ends_)
                break;
            line = toSay_.front();
            toSay_.pop_front();
        }
        if (::write(fd_, line.constData(), static_cast<std::size_t>(line.size())) != line.size())
            return failed(errno);
        if (!line.contains('?'))
            continue;
        QByteArray answer;
        for (int waited = 0; !answer.endsWith('\n') && waited < kAnswerPatienceMs && !ends_;) {
            char bytes[kMostAtOnce];
            const ssize_t got = ::read(fd_, bytes, sizeof bytes);
            if (got > 0) {
                answer.append(bytes, got);
            } else if (got < 0 && (errno == EAGAIN || errno == EINTR)) {
                // The kernel's driver waits in the call itself, and tells nobody beforehand that there is something.
                pollfd p{fd_, POLLIN, 0};
                (void)::poll(&p, 1, kPollMs);
                waited += kPollMs;
            } else if (got < 0 && errno == ETIMEDOUT) {
                break;
            } else {
                return failed(got == 0 ? ENODEV : errno);
            }
        }
        if (answer.isEmpty() && ends_)
            return sayTheRest();
        if (answer.isEmpty()) // whoever asked would take the next answer for this one's: all is begun anew
            return failed(ETIMEDOUT);
        if (answer.endsWith('\n'))
            answer.chop(1);
        QMetaObject::invokeMethod(
            this, [this, answer] { put(answer); }, Qt::QueuedConnection);
    }
    sayTheRest();
}

// What is set is set, "off" above all; nobody waits for answers any more.
void UsbtmcPort::sayTheRest() {
    const std::lock_guard lock(mutex_);
    for (const QByteArray& line : std::exchange(toSay_, {})) {
        if (!line.contains('?') && ::write(fd_, line.constData(), static_cast<std::size_t>(line.size())) < 0)
            return;
    }
}

} // namespace otterstone::bench
