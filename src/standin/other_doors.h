// The same bench by the other ways instruments are connected: its load on Modbus and as a USB instrument's file, and a
// plug in the wall that tells its watts on a page. Nothing listens beyond loopback.
#pragma once

#include <QModbusTcpServer>
#include <QTcpServer>
#include <QTimer>

#include "standin/pty.h"
#include "standin/world.h"

namespace otterstone::standin {

class OtherDoors : public QObject {
    Q_OBJECT

public:
    explicit OtherDoors(World& world, QObject* parent = nullptr);

    /// `folder`: for the USB instrument's name. 0: any free port.
    [[nodiscard]] Result<void> open(const QString& folder, int modbusPort, int plugPort);
    [[nodiscard]] int modbusPort() const { return modbusPort_; }
    [[nodiscard]] int plugPort() const { return plug_.serverPort(); }
    [[nodiscard]] const std::string& usb() const { return usb_->link(); }
    /// What the registers hold now, and what was said to the USB instrument; called with each tick.
    void tick();

private:
    void written(QModbusDataUnit::RegisterType table, int address);
    void answerPage(class QTcpSocket* socket);

    World& world_;
    QModbusTcpServer modbus_;
    QTcpServer plug_;
    std::unique_ptr<Pty> usb_;
    std::string typed_;
    int modbusPort_ = 0;
    bool ours_ = false; ///< registers are being set by us
};

} // namespace otterstone::standin
