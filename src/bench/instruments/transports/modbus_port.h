// An instrument that speaks Modbus, over a serial line (RTU) or TCP. What is written to it are its profile's actions, a
// line each ("amps", "level.cc 1.5"); what is read are the answers to those that ask, in their order.
#pragma once

#include <deque>
#include <memory>

#include <QModbusClient>

#include "bench/instruments/transports/line_port.h"
#include "bench/profiles/profile.h"

namespace otterstone::bench {

class ModbusPort : public LinePort {
    Q_OBJECT

public:
    /// `address`: a serial port, or "host:port".
    ModbusPort(const Profile& profile, const QString& address, QObject* parent = nullptr);
    ~ModbusPort() override;

    /// connected() or lost() follows.
    bool open(OpenMode mode) override;
    void close() override;
    /// What waits, and what is on its way.
    [[nodiscard]] qint64 bytesToWrite() const override;
    bool waitForBytesWritten(int milliseconds) override;

Q_SIGNALS:
    void connected();

protected:
    qint64 writeData(const char* data, qint64 size) override;

private:
    void say(const QByteArray& line);
    void next();
    void giveUp(const QString& why);

    Registers registers_;
    std::unique_ptr<QModbusClient> client_;
    QByteArray typed_;
    std::deque<QByteArray> waiting_; ///< actions; one is on its way at a time
    bool onItsWay_ = false;
    bool isLost_ = false; ///< nothing is said any more: another one is made in its place
};

} // namespace otterstone::bench
