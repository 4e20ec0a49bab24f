// A bench that shares nothing with the shipped stand-in: four sockets, a source of 5 V, a load that draws what it was
// told, and a temperature that is set. Its load does not notice who goes: what is on stays on until somebody says off.
// Each instrument can be made to fail in each way. As on a bench, they answer whatever the test's own thread is busy
// with: they live in a thread of theirs, and what a test reads or turns meanwhile is atomic.
#pragma once

#include <algorithm>
#include <atomic>
#include <deque>
#include <functional>

#include <QElapsedTimer>
#include <QPointer>
#include <QTcpServer>
#include <QTcpSocket>
#include <QThread>
#include <QTimer>

#include "bench/profiles/profile.h"
#include "bench/runner/plan.h"

namespace otterstone::testing {

enum class Fault {
    None,
    Silent, ///< hears and does, says nothing
    Deaf,   ///< hears nothing, stays connected
    Mute,   ///< does what it is told; questions stay unanswered, but for the meter, which prints empty lines
    NotANumber,
    Infinite,
    Stuck,
    WrongRange,
    Words,
    Refuses,   ///< the load does not obey "off"; others answer with an error
    Lies,      ///< the load says that it is off, and goes on
    Floods,    ///< the load talks without a pause, from "off" on
    Slow,      ///< says everything a second late
    Closes,    ///< closes its line and is gone
    Reconnects ///< closes its line; after two seconds it is there again
};

/// Does this in the object's own thread, and waits for it.
template<class Do>
void inItsThread(QObject* object, const Do& what) {
    if (object->thread() == QThread::currentThread())
        what();
    else
        QMetaObject::invokeMethod(object, what, Qt::BlockingQueuedConnection);
}

class FakeInstrument : public QObject {
public:
    explicit FakeInstrument(QObject* parent) : QObject(parent) {
        listen();
        connect(&server_, &QTcpServer::newConnection, this, [this] {
            while (QTcpSocket* s = server_.nextPendingConnection()) {
                sockets_ << s;
                connect(s, &QTcpSocket::readyRead, this, [this, s] {
                    while (s->canReadLine())
                        hear(s, s->readLine().trimmed());
                });
                connect(s, &QTcpSocket::disconnected, this, [this, s] {
                    sockets_.removeAll(s);
                    s->deleteLater();
                });
            }
        });
    }
    ~FakeInstrument() override { rest(); }
    /// Nobody is there any more.
    void rest() {
        server_.close();
        for (QTcpSocket* s : std::exchange(sockets_, {})) {
            s->disconnect(this);
            s->abort();
            s->deleteLater();
        }
    }
    [[nodiscard]] bench::Address address() const { return {QStringLiteral("127.0.0.1:%1").arg(port_)}; }
    std::function<QByteArray(const QByteArray&)> answer; ///< to a line; empty: nothing to say

    void fail(Fault fault) {
        inItsThread(this, [this, fault] { becomes(fault); });
    }
    [[nodiscard]] Fault fault() const { return fault_; }
    /// A number as this instrument gives it now.
    QByteArray said(double value, const char* what = "") {
        QByteArray right = QByteArray::number(value, 'f', 4);
        switch (fault_) {
        case Fault::NotANumber: return "nan";
        case Fault::Infinite: return "inf";
        case Fault::WrongRange: return "-1e300";
        case Fault::Words: return "OVERLOAD";
        case Fault::Refuses: return "-200,\"Execution error\"";
        case Fault::Stuck: {
            auto& at = stuckAt_[what];
            return at.isEmpty() ? at = right : at;
        }
        default: return right;
        }
    }
    [[nodiscard]] qint64 owes() const {
        qint64 all = 0;
        for (const QTcpSocket* s : sockets_)
            all += s->bytesToWrite();
        return all;
    }
    void print(const QByteArray& line) {
        const auto all = sockets_; // one may leave meanwhile
        for (QTcpSocket* s : all)
            say(s, line);
    }

private:
    void becomes(Fault fault) {
        fault_ = fault;
        stuckAt_.clear();
        if (fault == Fault::None && !server_.isListening())
            listen();
        if (fault != Fault::Closes && fault != Fault::Reconnects)
            return;
        server_.close();
        const auto all = sockets_;
        for (QTcpSocket* s : all)
            s->abort();
        if (fault == Fault::Reconnects)
            QTimer::singleShot(2000, this, [this] {
                fault_ = Fault::None;
                listen();
            });
    }
    void listen() {
        if (server_.listen(QHostAddress::LocalHost, port_) && port_ == 0)
            port_ = server_.serverPort();
    }
    void hear(QTcpSocket* s, const QByteArray& line) {
        if (fault_ == Fault::Deaf)
            return;
        const QByteArray back = answer ? answer(line) : QByteArray();
        if (!back.isEmpty())
            say(s, back);
    }
    void say(QTcpSocket* s, const QByteArray& line) {
        if (fault_ == Fault::Silent || fault_ == Fault::Mute || fault_ == Fault::Deaf)
            return;
        waiting_.push_back([s = QPointer<QTcpSocket>(s), line] {
            if (s)
                s->write(line + '\n');
        });
        if (fault_ == Fault::Slow || waiting_.size() > 1)
            QTimer::singleShot(fault_ == Fault::Slow ? 1000 : 0, this, &FakeInstrument::sayNext);
        else
            sayNext();
    }
    // As on any wire, nothing overtakes what is still on its way, also when it is mended meanwhile.
    void sayNext() {
        const auto next = std::move(waiting_.front());
        waiting_.pop_front();
        next();
    }
    QTcpServer server_{this};
    quint16 port_ = 0;
    QList<QTcpSocket*> sockets_;
    Fault fault_ = Fault::None;
    QHash<QByteArray, QByteArray> stuckAt_;
    std::deque<std::function<void()>> waiting_;
};

class FakeBench : public QObject {
public:
    FakeInstrument meter{this}, load{this}, thermometer{this}, trigger{this};
    std::atomic<double> celsius = 25.0, volts = 5.0, amps = 0.0;
    std::atomic<bool> on = false;
    std::atomic<bool> knowsState = true;    ///< its load can be asked for its input
    std::atomic<bool> meterSaysHeat = true; ///< the meter prints a temperature
    /// The meter's volts count its lines: none can be lost unseen.
    std::atomic<bool> counts = false;
    static constexpr double kCountFrom = 4.9, kCountStep = 1e-4;
    std::atomic<long> printed = 0;
    std::atomic<double> setTo = -1.0;          ///< A, that the load says it is set to; negative: as it was told
    std::atomic<const char*> flood = "1.0000"; ///< what a load that floods says
    std::atomic<qint64> offAt = -1;            ///< ms of clock, when the load went off last
    std::atomic<double> mostAsked = 0.0;       ///< A
    QElapsedTimer clock;

    FakeBench() {
        clock.start();
        load.answer = [this](const QByteArray& line) { return loadHears(line); };
        thermometer.answer = [this](const QByteArray& line) {
            return line.endsWith("IDN?")   ? QByteArray("fake thermometer")
                   : line.contains("TEMP") ? thermometer.said(celsius)
                                           : QByteArray("0,\"No error\"");
        };
        trigger.answer = [this](const QByteArray& line) {
            return line.endsWith("IDN?") ? QByteArray("fake trigger")
                   : line.endsWith('?')  ? trigger.said(0.0)
                                         : QByteArray();
        };
        // Asked, where nothing is printed.
        meter.answer = [this](const QByteArray& line) {
            return line.endsWith("IDN?")   ? QByteArray("fake meter")
                   : line.contains("VOLT") ? meter.said(volts, "v")
                   : line.contains("CURR") ? meter.said(flows(), "a")
                                           : QByteArray();
        };
        connect(&prints_, &QTimer::timeout, this, &FakeBench::printLine);
        prints_.start(100);
        connect(&floods_, &QTimer::timeout, this, [this] {
            if (load.fault() != Fault::Floods)
                return floods_.stop();
            if (load.owes() > (1 << 16))
                return; // a wire holds no more
            load.print((QByteArray(flood.load()) + '\n').repeated(500).chopped(1));
        });
        moveToThread(&thread_);
        thread_.start();
    }
    ~FakeBench() override {
        rest();
        inItsThread(this, [this, home = QThread::currentThread()] { moveToThread(home); });
        thread_.quit();
        thread_.wait();
    }
    void rest() {
        inItsThread(this, [this] {
            prints_.stop();
            floods_.stop();
            for (FakeInstrument* i : {&meter, &load, &thermometer, &trigger})
                i->rest();
        });
    }
    [[nodiscard]] double flows() const { return on ? amps.load() : 0.0; }

    [[nodiscard]] static bench::Profile profile(bench::Kind kind, bool printing = false, bool heat = true) {
        bench::Profile p;
        p.key = "fake-" + bench::kindName(kind);
        p.name = "Fake " + bench::kindName(kind);
        p.kind = kind;
        p.by = bench::Profile::By::Tcp;
        if (printing) {
            p.lines.emplace();
            p.lines->cells = 4;
            p.lines->meaning = {{logs::Role::Time, 0, ""}, {logs::Role::Volts, 1, ""}, {logs::Role::Amps, 2, ""}};
            if (heat)
                p.lines->meaning.push_back({logs::Role::Temperature, 3, ""});
        }
        return p;
    }
    [[nodiscard]] std::map<bench::Role, bench::Instrument> instruments(bool printing = true) const {
        return {{"meter", {profile(bench::Kind::Meter, printing, meterSaysHeat), meter.address()}},
                {"load", {profile(bench::Kind::Load), load.address()}},
                {"trigger", {profile(bench::Kind::Trigger), trigger.address()}},
                {"thermometer", {profile(bench::Kind::Thermometer), thermometer.address()}}};
    }

private:
    QByteArray loadHears(const QByteArray& line) {
        if (line.startsWith("INPut O") && line.endsWith("ON"))
            on = true;
        else if (line.startsWith("INPut O")) {
            if (load.fault() == Fault::Refuses)
                error_ = "-221,\"Settings conflict\"";
            else if (load.fault() == Fault::Lies)
                lies_ = true;
            else if (load.fault() == Fault::Floods)
                floods_.start(0);
            else if (on) {
                offAt = clock.elapsed(); // before it is seen to be off
                on = false;
            }
        } else if (line.startsWith("SOURce:CURRent ")) {
            amps = line.mid(15).toDouble();
            mostAsked = std::max<double>(mostAsked, amps);
        }
        if (line.endsWith("IDN?"))
            return "fake load";
        if (load.fault() != Fault::Lies)
            lies_ = false;
        if (lies_ && (line == "INPut?" || line.contains("CURRent?")))
            return "0";
        if (line == "INPut?")
            return knowsState ? QByteArray(on ? "1" : "0") : QByteArray();
        if (line.contains("ERRor?"))
            return std::exchange(error_, "0,\"No error\"");
        if (line == "SOURce:CURRent?")
            return QByteArray::number(setTo >= 0.0 ? setTo.load() : amps.load());
        if (line.contains("VOLT"))
            return load.fault() == Fault::Refuses ? QByteArray::number(volts) : load.said(volts, "v");
        if (line.contains("CURRent?"))
            return load.fault() == Fault::Refuses ? QByteArray::number(flows()) : load.said(flows(), "a");
        return {};
    }
    void printLine() {
        const QByteArray t = meter.said(static_cast<double>(clock.elapsed()) * 1e-3, "t");
        QByteArray line =
            t + ',' +
            meter.said(counts ? kCountFrom + kCountStep * static_cast<double>(++printed) : volts.load(), "v") + ',' +
            meter.said(flows(), "a") + ',' + (meterSaysHeat ? meter.said(celsius, "c") : QByteArray());
        meter.print(line);
    }
    QTimer prints_{this}, floods_{this};
    bool lies_ = false; ///< in its own thread
    QThread thread_;
    QByteArray error_ = "0,\"No error\"";
};

} // namespace otterstone::testing
