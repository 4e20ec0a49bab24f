// An instrument on the USB test-and-measurement class, as the kernel shows it: a file that takes a command, and gives
// an answer when a question was asked. Reading waits, so a thread of its own reads.
#pragma once

#include <atomic>
#include <condition_variable>
#include <deque>
#include <mutex>
#include <thread>

#include <QByteArray>

#include "bench/instruments/transports/line_port.h"

namespace otterstone::bench {

class UsbtmcPort : public LinePort {
    Q_OBJECT

public:
    explicit UsbtmcPort(QString path, QObject* parent = nullptr);
    ~UsbtmcPort() override;

    bool open(OpenMode mode) override;
    void close() override;
    [[nodiscard]] qint64 bytesToWrite() const override;
    bool waitForBytesWritten(int milliseconds) override;
    /// -1 when it is closed.
    [[nodiscard]] int descriptor() const { return fd_; }

protected:
    qint64 writeData(const char* data, qint64 size) override;

private:
    void work();
    void sayTheRest();

    QString path_;
    int fd_ = -1;
    std::thread worker_;
    mutable std::mutex mutex_;
    std::condition_variable more_;
    std::deque<QByteArray> toSay_; ///< guarded by mutex_
    std::atomic<bool> ends_{false};
};

} // namespace otterstone::bench
