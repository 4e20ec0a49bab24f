#include "bench/instruments/transports/modbus_port.h"

#include <algorithm>
#include <utility>

#include <QElapsedTimer>
#include <QEventLoop>
#include <QModbusReply>
#include <QModbusRtuSerialClient>
#include <QModbusTcpClient>
#include <QSerialPort>
#include <QTimer>
#include <QVariant>

#include "bench/instruments/address.h"

namespace otterstone::bench {

namespace {

constexpr int kPatienceMs = 1000;
constexpr int kStepMs = 5;
constexpr std::size_t kMostWaiting = 200; // it hears nothing: what was asked of it first is as good as lost

QModbusDataUnit::RegisterType tableOf(Register::Table table) {
    switch (table) {
    case Register::Table::Holding: return QModbusDataUnit::HoldingRegisters;
    case Register::Table::Input: return QModbusDataUnit::InputRegisters;
    case Register::Table::Coil: break;
    }
    return QModbusDataUnit::Coils;
}

// "level.cc" of "level.cc 1.5", "on" of "on".
std::string actionOf(const QByteArray& line) {
    const qsizetype space = line.indexOf(' ');
    return (space < 0 ? line : line.left(space)).toStdString();
}

} // namespace

ModbusPort::ModbusPort(const Profile& profile, const QString& address, QObject* parent)
    : LinePort(parent), registers_(*profile.modbus) {
    if (profile.by == Profile::By::Serial) {
        client_ = std::make_unique<QModbusRtuSerialClient>();
        client_->setConnectionParameter(QModbusDevice::SerialPortNameParameter, address);
        client_->setConnectionParameter(QModbusDevice::SerialBaudRateParameter, profile.baud);
        client_->setConnectionParameter(QModbusDevice::SerialParityParameter,
                                        profile.parity == "even"  ? QSerialPort::EvenParity
                                        : profile.parity == "odd" ? QSerialPort::OddParity
                                                                  : QSerialPort::NoParity);
    } else {
        const HostPort to = hostPort(address, profile.tcpPort).value_or(HostPort{});
        client_ = std::make_unique<QModbusTcpClient>();
        client_->setConnectionParameter(QModbusDevice::NetworkAddressParameter, to.host);
        client_->setConnectionParameter(QModbusDevice::NetworkPortParameter, to.port);
    }
    client_->setTimeout(kPatienceMs);
    client_->setNumberOfRetries(0); // what must be said again is said again by whoever said it
    connect(client_.get(), &QModbusClient::stateChanged, this, [this](QModbusDevice::State state) {
        if (state == QModbusDevice::ConnectedState) {
            Q_EMIT connected();
            next();
        } else if (state == QModbusDevice::UnconnectedState && isOpen()) {
            giveUp(client_->errorString().isEmpty() ? tr("it closed the connection") : client_->errorString());
        }
    });
}

ModbusPort::~ModbusPort() {
    client_->disconnect(this);
    client_->disconnectDevice();
}

bool ModbusPort::open(OpenMode mode) {
    QIODevice::open(mode | QIODevice::Unbuffered);
    if (client_->connectDevice())
        return true;
    setErrorString(client_->errorString());
    QIODevice::close();
    return false;
}

void ModbusPort::close() {
    if (!isOpen())
        return;
    QIODevice::close();
    client_->disconnectDevice();
}

qint64 ModbusPort::writeData(const char* data, qint64 size) {
    typed_.append(data, size);
    for (qsizetype end = typed_.indexOf('\n'); end >= 0; end = typed_.indexOf('\n')) {
        say(typed_.left(end).trimmed());
        typed_.remove(0, end + 1);
    }
    return size;
}

void ModbusPort::say(const QByteArray& line) {
    // Off comes before all that waits, and that is not said any more after it: what was to set a level would find the
    // load off, and what was to switch it on is overtaken.
    if (line == "off")
        std::erase_if(waiting_, [this](const QByteArray& w) {
            const auto r = registers_.actions.find(actionOf(w));
            return r != registers_.actions.end() && r->second.write;
        });
    if (line == "off")
        waiting_.push_front(line);
    else if (waiting_.size() < kMostWaiting)
        waiting_.push_back(line);
    next();
}

qint64 ModbusPort::bytesToWrite() const {
    qint64 all = onItsWay_ ? 1 : 0;
    for (const QByteArray& line : waiting_)
        all += line.size();
    return all;
}

bool ModbusPort::waitForBytesWritten(int milliseconds) {
    QElapsedTimer waited;
    for (waited.start(); bytesToWrite() > 0 && !isLost_ && waited.elapsed() < milliseconds;) {
        QEventLoop loop;
        QTimer::singleShot(kStepMs, &loop, &QEventLoop::quit);
        loop.exec();
    }
    return bytesToWrite() == 0;
}

// Whoever asked would take the next answer for this one's, and whoever set something would go on with what it was
// before: all is begun anew.
void ModbusPort::giveUp(const QString& why) {
    waiting_.clear();
    if (!std::exchange(isLost_, true))
        Q_EMIT lost(why);
}

void ModbusPort::next() {
    if (isLost_ || onItsWay_ || waiting_.empty() || client_->state() != QModbusDevice::ConnectedState)
        return;
    const QByteArray line = waiting_.front();
    waiting_.pop_front();
    const auto at = registers_.actions.find(actionOf(line));
    if (at == registers_.actions.end())
        return next();
    const Register r = at->second;
    QModbusDataUnit unit(tableOf(r.table), r.address,
                         static_cast<quint16>(r.table == Register::Table::Coil ? 1 : r.words()));
    QModbusReply* reply = nullptr;
    if (r.write) {
        const auto words =
            wordsOf(r, r.value ? *r.value : line.mid(line.indexOf(' ') + 1).toDouble(), registers_.lowWordFirst);
        if (!words)
            return giveUp(tr("“%1” does not fit into its register").arg(QString::fromUtf8(line)));
        for (qsizetype k = 0; k < static_cast<qsizetype>(unit.valueCount()); ++k)
            unit.setValue(k, (*words)[static_cast<std::size_t>(k)]);
        reply = client_->sendWriteRequest(unit, registers_.unit);
    } else {
        reply = client_->sendReadRequest(unit, registers_.unit);
    }
    if (!reply)
        return giveUp(client_->errorString());
    onItsWay_ = true;
    const auto finished = [this, reply, r, line] {
        reply->deleteLater();
        onItsWay_ = false;
        if (!isOpen() || isLost_)
            return;
        const bool refused = reply->error() == QModbusDevice::ProtocolError;
        if (reply->error() != QModbusDevice::NoError && !refused)
            return giveUp(reply->errorString());
        if (refused && r.write && line != "off") // one that refuses to be off is asked whether it is, and told again
            return giveUp(tr("it refuses “%1”").arg(QString::fromUtf8(line)));
        if (!refused && !r.write) {
            std::vector<std::uint16_t> words;
            for (const quint16 v : reply->result().values())
                words.push_back(v);
            const auto number = r.table == Register::Table::Coil && !words.empty()
                                    ? std::optional<double>(words.front())
                                    : numberOf(r, words, registers_.lowWordFirst);
            put(number ? QByteArray::number(*number, 'g', 9) : QByteArrayLiteral("nothing"));
        } else if (!r.write) {
            put("refused"); // it does not have that register
        }
        next();
    };
    reply->isFinished() ? finished() : (void)connect(reply, &QModbusReply::finished, this, finished);
}

} // namespace otterstone::bench
