#include "standin/station.h"

#include <QTcpSocket>

#include <nlohmann/json.hpp>

#include "standin/scpi_words.h"

namespace otterstone::standin {

namespace {

constexpr int kTickMs = 5;
constexpr std::size_t kMostWaiting = 1 << 15; // bytes a listener may lag behind before time waits for it
constexpr int kHandOverMs = 200;
constexpr double kMostAtOnce = 3600.0;
constexpr double kLongestTick = 0.25; // real seconds that pass at once: a stopped process doesn't jump

} // namespace

Station::Station(Options options, QObject* parent)
    : QObject(parent), options_(std::move(options)), world_(options_.scene), others_(world_) {
    lockstep_ = options_.inStep;
    if (!options_.inStep) // whoever drives a quick bench that runs free has the computer's time, not the bench's
        world_.stretchWatchdog(std::max(1.0, options_.speed));
    world_.printed = [this](int meter, const std::string& line) { send(meter, line); };
    timer_.setTimerType(Qt::PreciseTimer);
    timer_.setInterval(kTickMs);
    connect(&timer_, &QTimer::timeout, this, &Station::tick);
}

Result<void> Station::start() {
    const char* names[] = {"meter", "input-meter"};
    for (int k = 0; k < 2; ++k) {
        meters_[k] =
            std::make_unique<Pty>((options_.folder + QLatin1Char('/') + QLatin1String(names[k])).toStdString());
        if (auto opened = meters_[k]->open(options_.baud); !opened)
            return opened;
    }
    for (auto&& listening :
         {listen(
              load_, options_.loadPort, [this](const auto& l) { return world_.load(0, l); },
              [this] { world_.loadLeftAlone(0); }),
          listen(
              secondLoad_, options_.secondLoadPort, [this](const auto& l) { return world_.load(1, l); },
              [this] { world_.loadLeftAlone(1); }),
          listen(trigger_, options_.triggerPort, [this](const auto& l) { return world_.trigger(0, l); }),
          listen(secondTrigger_, options_.secondTriggerPort, [this](const auto& l) { return world_.trigger(1, l); }),
          listen(thermometer_, options_.thermometerPort, [this](const auto& l) { return world_.thermometer(l); }),
          listen(
              control_, options_.controlPort, [this](const auto& l) { return control(l); },
              [this] { lockstep_ = options_.inStep; })}) {
        if (!listening)
            return listening;
    }
    if (!options_.inStep) { // a rehearsal knows what it needs
        if (auto opened = others_.open(options_.folder, options_.modbusPort, options_.plugPort); !opened)
            return opened;
    }
    real_.start();
    timer_.start();
    return {};
}

Result<void> Station::listen(QTcpServer& server, int port, Handler handler, std::function<void()> left) {
    if (!server.listen(QHostAddress::LocalHost, static_cast<quint16>(port)))
        return problem("cannot_listen", "port " + std::to_string(port), server.errorString().toStdString() + ".",
                       "Choose another port, or 0 for any.");
    connect(&server, &QTcpServer::newConnection, this,
            [this, &server, handler = std::move(handler), left = std::move(left)] {
                while (QTcpSocket* socket = server.nextPendingConnection()) {
                    socket->setSocketOption(QAbstractSocket::LowDelayOption, 1);
                    connect(socket, &QTcpSocket::readyRead, this, [this, socket, handler] {
                        // What is asked or set holds now, not at the last tick.
                        tick();
                        while (socket->canReadLine()) {
                            const std::string reply = handler(socket->readLine().trimmed().toStdString());
                            if (!reply.empty())
                                socket->write(QByteArray::fromStdString(reply + "\n"));
                        }
                    });
                    connect(socket, &QTcpSocket::disconnected, this, [this, socket, left, &server] {
                        socket->deleteLater();
                        const auto others = server.findChildren<QTcpSocket*>();
                        const bool alone = std::none_of(others.begin(), others.end(), [socket](QTcpSocket* s) {
                            return s != socket && s->state() == QAbstractSocket::ConnectedState;
                        });
                        tick();
                        if (left && alone)
                            left();
                    });
                }
            });
    return {};
}

std::string Station::whereabouts() const {
    nlohmann::json where{{"meter", meters_[0]->link()},
                         {"input_meter", meters_[1]->link()},
                         {"load", load_.serverPort()},
                         {"second_load", secondLoad_.serverPort()},
                         {"trigger", trigger_.serverPort()},
                         {"second_trigger", secondTrigger_.serverPort()},
                         {"thermometer", thermometer_.serverPort()},
                         {"control", control_.serverPort()},
                         {"speed", options_.speed},
                         {"baud", options_.baud}};
    if (!options_.inStep)
        where.update(
            {{"modbus_load", others_.modbusPort()}, {"plug", others_.plugPort()}, {"usb_load", others_.usb()}});
    return where.dump();
}

void Station::mindThePlug() {
    Pty& meter = *meters_[0];
    const bool out = world_.has(Fault::Unplug);
    if (out && meter.isOpen())
        meter.close();
    else if (!out && !meter.isOpen())
        (void)meter.open(options_.baud); // tried again at the next tick
}

void Station::tick() {
    const qint64 now = real_.nsecsElapsed();
    // Until somebody does something the bench waits: no faster than real, and the bank is kept awake.
    const bool waits = !world_.begun();
    const double passed = std::min(kLongestTick, static_cast<double>(now - before_) * 1e-9) *
                          (waits ? std::min(1.0, options_.speed) : options_.speed);
    before_ = now;
    for (auto& meter : meters_) {
        meter->flush();
        if (!meter->heard())
            meter->drop();
    }
    others_.tick();
    if (!lockstep_ && waits)
        world_.keepAwake();
    if (!lockstep_)
        pass(passed);
    else
        mindThePlug();
}

void Station::pass(double seconds) {
    // Faster than real, time waits for a listener that lags behind; a real meter's bytes would be lost. The world moves
    // in small pieces, so that no piece prints more than what may wait.
    const double piece = std::max(0.1, 200.0 / options_.scene.samplesPerSecond);
    for (double left = seconds; left > 0.0; left -= piece) {
        if (lockstep_)
            handOver();
        else if (options_.speed > 1.0 && (meters_[0]->waiting() > kMostWaiting || meters_[1]->waiting() > kMostWaiting))
            break;
        const bool whole = world_.advance(std::min(piece, left), lockstep_);
        mindThePlug();
        if (!whole)
            break;
    }
}

void Station::handOver() {
    QElapsedTimer waited;
    waited.start();
    for (auto& meter : meters_) {
        meter->flush();
        while (meter->heard() && meter->waiting() > 0 && waited.elapsed() < kHandOverMs) {
            meter->waitForRoom(kHandOverMs);
            meter->flush();
        }
    }
}

// Besides the world's hands: LOCKstep ON, and then ADVance seconds, answered when they are over, or a meter's reading
// jumped, with the time and the bytes that each meter printed meanwhile: a pseudo-terminal hands them on in its own
// time, so whoever asked waits for so many.
std::string Station::control(const std::string& line) {
    if (const auto to = parameterOf(line, "LOCKstep")) {
        lockstep_ = *to == "ON";
        handOver();
        for (auto& meter : meters_)
            (void)meter->takeSent();
        return world_.control("TIME?");
    }
    if (const auto seconds = parameterOf(line, "ADVance")) {
        pass(std::clamp(QByteArray(seconds->data(), static_cast<qsizetype>(seconds->size())).toDouble(), 0.0,
                        kMostAtOnce));
        handOver();
        return world_.control("TIME?") + " " + std::to_string(meters_[0]->takeSent()) + " " +
               std::to_string(meters_[1]->takeSent());
    }
    return world_.control(line);
}

void Station::send(int meter, const std::string& line) {
    Pty& pty = *meters_[meter];
    if (!pty.isOpen() || !pty.heard())
        return;
    std::string bytes = line + "\n";
    const int own = world_.has(Fault::WrongBaud) && meter == 0 ? 9600 : options_.baud;
    if (const int set = pty.baud(); set != 0 && set != own) {
        // What a receiver at another rate makes of it.
        for (char& c : bytes)
            c = static_cast<char>((c * 37 + 11) | 0x80);
    }
    pty.write(bytes);
}

} // namespace otterstone::standin
