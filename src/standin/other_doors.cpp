#include "standin/other_doors.h"

#include <QTcpSocket>
#include <bit>
#include <nlohmann/json.hpp>

#include "standin/scpi_words.h"

namespace otterstone::standin {

namespace {

// Where things are, as docs/live-bench.md and share/otterstone/instruments/modbus-load.json have it.
constexpr int kOn = 0;               // coil
constexpr int kMode = 0, kLevel = 2; // holding registers
constexpr int kVolts = 0, kAmps = 2; // input registers
constexpr int kUnit = 1;
constexpr double kMainsVolts = 229.8;

} // namespace

OtherDoors::OtherDoors(World& world, QObject* parent) : QObject(parent), world_(world), modbus_(this), plug_(this) {
    QModbusDataUnitMap map;
    map.insert(QModbusDataUnit::Coils, {QModbusDataUnit::Coils, 0, 4});
    map.insert(QModbusDataUnit::HoldingRegisters, {QModbusDataUnit::HoldingRegisters, 0, 8});
    map.insert(QModbusDataUnit::InputRegisters, {QModbusDataUnit::InputRegisters, 0, 8});
    modbus_.setMap(map);
    modbus_.setServerAddress(kUnit);
    connect(&modbus_, &QModbusServer::dataWritten, this, [this](QModbusDataUnit::RegisterType table, int address, int) {
        if (!ours_)
            written(table, address);
    });
    connect(&modbus_, &QModbusTcpServer::modbusClientDisconnected, this, [this] { world_.loadLeftAlone(0); });
    connect(&plug_, &QTcpServer::newConnection, this, [this] {
        while (QTcpSocket* socket = plug_.nextPendingConnection()) {
            connect(socket, &QTcpSocket::disconnected, socket, &QObject::deleteLater);
            connect(socket, &QTcpSocket::readyRead, this, [this, socket] { answerPage(socket); });
        }
    });
}

Result<void> OtherDoors::open(const QString& folder, int modbusPort, int plugPort) {
    if (!plug_.listen(QHostAddress::LocalHost, static_cast<quint16>(plugPort)))
        return problem("cannot_listen", "port " + std::to_string(plugPort), plug_.errorString().toStdString() + ".",
                       "Choose another port, or 0 for any.");
    modbusPort_ = modbusPort;
    if (modbusPort_ == 0) { // the server says of no port that it chose: one that is free is looked for
        QTcpServer any;
        if (any.listen(QHostAddress::LocalHost, 0))
            modbusPort_ = any.serverPort();
    }
    modbus_.setConnectionParameter(QModbusDevice::NetworkAddressParameter, QStringLiteral("127.0.0.1"));
    modbus_.setConnectionParameter(QModbusDevice::NetworkPortParameter, modbusPort_);
    if (!modbus_.connectDevice())
        return problem("cannot_listen", "port " + std::to_string(modbusPort_),
                       modbus_.errorString().toStdString() + ".", "Choose another port, or 0 for any.");
    usb_ = std::make_unique<Pty>((folder + QStringLiteral("/usb-load")).toStdString());
    return usb_->open(115200);
}

void OtherDoors::written(QModbusDataUnit::RegisterType table, int address) {
    quint16 value = 0;
    if (table == QModbusDataUnit::Coils && address == kOn && modbus_.data(table, kOn, &value))
        (void)world_.load(0, value ? "INPut ON" : "INPut OFF");
    if (table != QModbusDataUnit::HoldingRegisters)
        return;
    const char* modes[] = {"CURRent", "POWer", "RESistance"};
    modbus_.data(table, kMode, &value);
    const char* mode = modes[std::min<quint16>(value, 2)];
    quint16 high = 0, low = 0;
    modbus_.data(table, kLevel, &high);
    modbus_.data(table, kLevel + 1, &low);
    const auto level = std::bit_cast<float>((static_cast<std::uint32_t>(high) << 16U) | low);
    if (address == kMode)
        (void)world_.load(0, std::string("SOURce:FUNCtion ") + mode);
    else
        (void)world_.load(0, std::string("SOURce:") + mode + " " + number(static_cast<double>(level), 4));
}

void OtherDoors::tick() {
    if (modbus_.state() == QModbusDevice::ConnectedState && world_.begun()) {
        ours_ = true;
        const auto put = [this](int address, const std::string& said) {
            const auto bits = std::bit_cast<std::uint32_t>(static_cast<float>(numberIn(said).value_or(0.0)));
            modbus_.setData(QModbusDataUnit::InputRegisters, static_cast<quint16>(address),
                            static_cast<quint16>(bits >> 16U));
            modbus_.setData(QModbusDataUnit::InputRegisters, static_cast<quint16>(address + 1),
                            static_cast<quint16>(bits & 0xffffU));
        };
        put(kVolts, world_.peek("MEASure:VOLTage?"));
        put(kAmps, world_.peek("MEASure:CURRent?"));
        modbus_.setData(QModbusDataUnit::Coils, kOn, world_.peek("INPut?") == "1" ? 1 : 0);
        ours_ = false;
    }
    if (!usb_ || !usb_->isOpen())
        return;
    typed_ += usb_->read();
    for (std::size_t end = typed_.find('\n'); end != std::string::npos; end = typed_.find('\n')) {
        const std::string reply = world_.load(0, typed_.substr(0, end));
        typed_.erase(0, end + 1);
        if (!reply.empty())
            usb_->write(reply + "\n");
    }
    usb_->flush();
}

void OtherDoors::answerPage(QTcpSocket* socket) {
    if (!socket->peek(1 << 16).contains("\r\n\r\n"))
        return;
    const bool found = socket->readAll().startsWith("GET /status ");
    const QByteArray body = found ? QByteArray::fromStdString(nlohmann::json{
                                        {"meters", {{{"power", world_.wallWatts()}, {"voltage", kMainsVolts}}}},
                                        {"temperature",
                                         {{"tC", 31.2}}}}.dump())
                                  : QByteArrayLiteral("no such page");
    socket->write((found ? "HTTP/1.1 200 OK\r\nContent-Type: application/json" : "HTTP/1.1 404 Not Found") +
                  QByteArrayLiteral("\r\nConnection: close\r\nContent-Length: ") + QByteArray::number(body.size()) +
                  "\r\n\r\n" + body);
    socket->disconnectFromHost();
}

} // namespace otterstone::standin
