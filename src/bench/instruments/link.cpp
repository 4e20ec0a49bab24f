#include "bench/instruments/link.h"

#include <QSerialPort>
#include <QSerialPortInfo>
#include <QTcpSocket>

#include "bench/instruments/transports/modbus_port.h"
#include "bench/instruments/transports/usbtmc_port.h"
#include "bench/instruments/transports/web_poll.h"

namespace otterstone::bench {

namespace {

constexpr int kAgainMs = 100;
constexpr int kTakeInMs = 1000; // what was sent is on its way; only a computer that stalls makes it late
constexpr int kRestMs = 20;
constexpr int kLongestLine = 400;   // noise without an end is a spoiled line
constexpr qint64 kAtOnce = 1 << 16; // of one that talks without a pause; then the others have their turn

} // namespace

Link::Link(const Profile& profile, Address address, QObject* parent)
    : QObject(parent), profile_(profile), address_(std::move(address)), again_(this) {
    again_.setSingleShot(true);
    again_.setInterval(kAgainMs);
    connect(&again_, &QTimer::timeout, this, &Link::connectNow);
}

Link::~Link() { close(); }

void Link::open() {
    wanted_ = true;
    connectNow();
}

void Link::close() {
    wanted_ = false;
    again_.stop();
    up_ = false;
    if (device_) {
        device_->disconnect(this);
        device_->close();
        device_.release()->deleteLater(); // may be among its own signal's callers
    }
}

void Link::connectNow() {
    if (!wanted_)
        return;
    if (device_) {
        device_->disconnect(this);
        device_.release()->deleteLater();
    }
    pending_.clear();
    if (profile_.modbus || profile_.by == Profile::By::Web || profile_.by == Profile::By::Usbtmc) {
        connectOther();
        return;
    }
    if (profile_.by == Profile::By::Serial) {
        auto port = std::make_unique<QSerialPort>();
        QSerialPort* p = port.get();
        p->setPortName(devicePath(address_.text));
        p->setReadBufferSize(kAtOnce);
        p->setBaudRate(profile_.baud);
        p->setParity(profile_.parity == "even"  ? QSerialPort::EvenParity
                     : profile_.parity == "odd" ? QSerialPort::OddParity
                                                : QSerialPort::NoParity);
        device_ = std::move(port);
        if (!p->open(QIODevice::ReadWrite)) {
            lost(p->errorString());
            return;
        }
        // What lay in the line before somebody listened is old.
        p->clear();
        connect(p, &QSerialPort::readyRead, this, &Link::read);
        connect(p, &QSerialPort::errorOccurred, this, [this, p](QSerialPort::SerialPortError error) {
            // A port that was pulled out may read as nothing at all, which QSerialPort names by whatever the last
            // system call said.
            if (error == QSerialPort::ResourceError || error == QSerialPort::ReadError ||
                error == QSerialPort::PermissionError || error == QSerialPort::DeviceNotFoundError)
                lost(p->errorString());
        });
        cameUp();
        return;
    }
    auto socket = std::make_unique<QTcpSocket>();
    QTcpSocket* s = socket.get();
    device_ = std::move(socket);
    const auto to = hostPort(address_.text, profile_.tcpPort);
    if (!to) {
        lost(tr("this is no address: write host:port, with a port from 1 to 65535"));
        return;
    }
    s->setReadBufferSize(kAtOnce);
    connect(s, &QTcpSocket::connected, this, [this, s] {
        s->setSocketOption(QAbstractSocket::LowDelayOption, 1);
        cameUp();
    });
    connect(s, &QTcpSocket::readyRead, this, &Link::read);
    connect(s, &QTcpSocket::errorOccurred, this, [this, s] { lost(s->errorString()); });
    s->connectToHost(to->host, to->port);
}

void Link::cameUp() {
    up_ = true;
    trouble_.clear();
    Q_EMIT up();
}

void Link::connectOther() {
    if (profile_.modbus) {
        auto port = std::make_unique<ModbusPort>(
            profile_, profile_.by == Profile::By::Serial ? devicePath(address_.text) : address_.text);
        connect(port.get(), &ModbusPort::connected, this, &Link::cameUp);
        connect(port.get(), &ModbusPort::lost, this, &Link::lost);
        device_ = std::move(port);
    } else if (profile_.page) {
        auto page = std::make_unique<WebPoll>(*profile_.page, address_.text);
        connect(page.get(), &WebPoll::answered, this, &Link::cameUp);
        connect(page.get(), &WebPoll::lost, this, &Link::lost);
        device_ = std::move(page);
    } else {
        auto port = std::make_unique<UsbtmcPort>(devicePath(address_.text));
        connect(port.get(), &UsbtmcPort::lost, this, &Link::lost);
        device_ = std::move(port);
    }
    connect(device_.get(), &QIODevice::readyRead, this, &Link::read);
    if (!device_->open(QIODevice::ReadWrite))
        lost(device_->errorString());
    else if (profile_.by == Profile::By::Usbtmc)
        cameUp();
}

void Link::lost(const QString& why) {
    const bool was = std::exchange(up_, false);
    const bool news = was || trouble_.isEmpty();
    trouble_ = why;
    if (device_)
        device_->disconnect(this); // it would tell its loss again and again
    if (wanted_)
        again_.start();
    if (news)
        Q_EMIT down(why);
}

void Link::read() {
    if (!device_ || held_)
        return;
    const QByteArray fresh = device_->readAll();
    owed_ -= fresh.size();
    pending_ += fresh;
    qsizetype from = 0;
    for (qsizetype end = pending_.indexOf('\n', from); end >= 0; end = pending_.indexOf('\n', from)) {
        qsizetype length = end - from;
        if (length > 0 && pending_[end - 1] == '\r')
            --length;
        Q_EMIT line(pending_.mid(from, length));
        if (!device_) // closed by whoever heard it
            return;
        from = end + 1;
    }
    pending_.remove(0, from);
    if (pending_.size() > kLongestLine) {
        Q_EMIT line(pending_);
        pending_.clear();
    }
}

bool Link::send(const QByteArray& line) {
    if (!up_ || !device_)
        return false;
    device_->write(line + QByteArray::fromStdString(profile_.ending));
    if (auto* socket = qobject_cast<QTcpSocket*>(device_.get()))
        socket->flush();
    else if (auto* port = qobject_cast<QSerialPort*>(device_.get()))
        port->flush();
    return true;
}

void Link::takeRest() {
    held_ = false;
    read();
    while (up_ && device_ && device_->waitForReadyRead(kRestMs)) {
    }
    owed_ = 0;
    held_ = true;
}

void Link::takeIn(qsizetype bytes) {
    owed_ += bytes;
    held_ = false;
    read();
    while (owed_ > 0 && up_ && device_ && device_->waitForReadyRead(kTakeInMs)) {
    }
    owed_ = std::min<qsizetype>(owed_, 0); // what never came is not waited for again
    held_ = true;
}

int Link::descriptor() const {
    if (!up_ || !device_)
        return -1;
    if (const auto* socket = qobject_cast<const QTcpSocket*>(device_.get()))
        return static_cast<int>(socket->socketDescriptor());
    if (const auto* usb = qobject_cast<const UsbtmcPort*>(device_.get()))
        return usb->descriptor();
    const auto* port = qobject_cast<const QSerialPort*>(device_.get());
    return port ? static_cast<int>(port->handle()) : -1;
}

void Link::drain(int milliseconds) {
    if (up_ && device_ && device_->bytesToWrite() > 0)
        device_->waitForBytesWritten(milliseconds);
}

std::vector<PortFound> serialPorts() {
    std::vector<PortFound> all;
    for (const QSerialPortInfo& port : QSerialPortInfo::availablePorts())
        all.push_back({port.systemLocation(), port.description()});
    return all;
}

} // namespace otterstone::bench
