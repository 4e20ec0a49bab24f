// Instruments that are connected in other ways than by a serial line or a SCPI socket: Modbus registers, the file of a
// USB instrument, a page on the network. By servers of the test's own, and by the shipped stand-in.
#include <bit>

#include <QHash>
#include <QModbusTcpServer>
#include <QSet>
#include <QSignalSpy>
#include <QVariant>
#include <fcntl.h>
#include <termios.h>
#include <unistd.h>

#include "bench/instruments/meter.h"
#include "bench/instruments/transports/modbus_port.h"
#include "bench/instruments/transports/usbtmc_port.h"
#include "bench_harness.h"
#include "fake_bench.h"

using namespace otterstone;
using namespace otterstone::testing;
using Type = bench::Register::Type;

namespace {

constexpr const char* kModbusLoad =
    R"({"format": "otterstone-instrument", "version": 1, "key": "m", "name": "M", "kind": "load",
    "connection": {"tcp": {"port": 502}},
    "modbus": {"unit": 7, "volts": {"read": 10, "scale": 0.01}, "amps": {"read": 11, "type": "int16", "scale": 0.001},
      "mode.cc": {"write": 20, "value": 4}, "level.cc": {"write": 21, "type": "uint32", "scale": 0.0001},
      "on": {"write": 30, "value": 1}, "off": {"write": 30, "value": 0}, "state": {"read": 30}}})";

// A load of another make than the stand-in's: other unit, other registers, whole numbers.
class ModbusLoad : public QModbusTcpServer {
public:
    bool refuses = false;
    qint64 offAt = -1;
    QElapsedTimer clock;
    int port = 0;

    ModbusLoad() {
        clock.start();
        QModbusDataUnitMap map;
        map.insert(QModbusDataUnit::HoldingRegisters, {QModbusDataUnit::HoldingRegisters, 0, 64});
        setMap(map);
        setServerAddress(7);
        QTcpServer any;
        if (any.listen(QHostAddress::LocalHost, 0))
            port = any.serverPort();
        any.close();
        setConnectionParameter(NetworkAddressParameter, QVariant(QStringLiteral("127.0.0.1")));
        setConnectionParameter(NetworkPortParameter, QVariant(port));
        set(10, 503); // 5.03 V
        connectDevice();
        connect(this, &QModbusServer::dataWritten, this, [this](QModbusDataUnit::RegisterType, int address, int) {
            if (address != 30)
                return;
            if (!on())
                offAt = clock.elapsed();
            set(11, on() ? static_cast<quint16>(milliamps()) : quint16(2));
        });
    }
    bool on() { return get(30) == 1; }
    /// What register pair 21 asks for, in mA.
    int milliamps() { return static_cast<int>(((static_cast<unsigned>(get(21)) << 16U) | get(22)) / 10U); }
    quint16 get(int address) {
        quint16 v = 0;
        data(QModbusDataUnit::HoldingRegisters, static_cast<quint16>(address), &v);
        return v;
    }
    void set(int address, quint16 v) { setData(QModbusDataUnit::HoldingRegisters, static_cast<quint16>(address), v); }
    [[nodiscard]] QString address() const { return QStringLiteral("127.0.0.1:%1").arg(port); }

protected:
    QModbusResponse processRequest(const QModbusPdu& request) override {
        const bool writes = request.functionCode() == QModbusPdu::WriteSingleRegister ||
                            request.functionCode() == QModbusPdu::WriteMultipleRegisters;
        if (refuses && writes)
            return QModbusExceptionResponse(request.functionCode(), QModbusExceptionResponse::ServerDeviceFailure);
        return QModbusTcpServer::processRequest(request);
    }
};

// A load whose Modbus is written out byte by byte, as the application protocol has it (V1.1b3: function 3 reads holding
// registers, 6 writes one, 16 several; 4 is "server device failure"; quoted from memory), and that can leave out
// answers.
class PlainModbus : public QTcpServer {
public:
    QHash<int, int> registers;
    QSet<int> mute, refuses; ///< reads that stay unanswered, writes that are refused
    QList<int> written;
    PlainModbus() {
        if (!listen(QHostAddress::LocalHost, 0))
            return;
        connect(this, &QTcpServer::newConnection, this, [this] {
            while (QTcpSocket* s = nextPendingConnection()) {
                connect(s, &QTcpSocket::disconnected, s, &QObject::deleteLater);
                connect(s, &QTcpSocket::readyRead, this, [this, s] {
                    while (s->bytesAvailable() >= 8) {
                        const QByteArray head = s->peek(6);
                        const int length = word(head, 4);
                        if (s->bytesAvailable() < 6 + length)
                            return;
                        const QByteArray back = hear(s->read(6 + length).mid(6));
                        if (!back.isEmpty())
                            s->write(head.left(4) + QByteArray(1, '\0') + char(back.size()) + back);
                    }
                });
            }
        });
    }
    [[nodiscard]] bench::Address address() const { return {QStringLiteral("127.0.0.1:%1").arg(serverPort())}; }
    static int word(const QByteArray& b, qsizetype at) {
        return static_cast<unsigned char>(b[at]) << 8 | static_cast<unsigned char>(b[at + 1]);
    }

private:
    QByteArray hear(const QByteArray& request) { // unit, function, address, …
        const int function = static_cast<unsigned char>(request[1]), at = word(request, 2);
        if (function == 3) {
            if (mute.contains(at))
                return {};
            QByteArray back = request.left(2) + char(2 * word(request, 4));
            for (int k = 0; k < word(request, 4); ++k)
                back += QByteArray() + char(registers.value(at + k) >> 8) + char(registers.value(at + k) & 255);
            return back;
        }
        if (refuses.contains(at))
            return QByteArray() + request[0] + char(function | 0x80) + char(4);
        written << at;
        if (function == 6)
            registers[at] = word(request, 4);
        for (int k = 0; function == 16 && k < word(request, 4); ++k)
            registers[at + k] = word(request, 7 + 2 * k);
        return request.left(6);
    }
};

// A page with what is put on it.
class Page : public QTcpServer {
public:
    QByteArray body, status = "200 OK";
    int asked = 0;
    Page() {
        if (!listen(QHostAddress::LocalHost, 0))
            return;
        connect(this, &QTcpServer::newConnection, this, [this] {
            while (QTcpSocket* s = nextPendingConnection()) {
                connect(s, &QTcpSocket::disconnected, s, &QObject::deleteLater);
                connect(s, &QTcpSocket::readyRead, this, [this, s] {
                    if (!s->readAll().startsWith("GET /rpc ")) // HTTP/1.1, RFC 9110
                        return;
                    ++asked;
                    s->write("HTTP/1.1 " + status + "\r\nConnection: close\r\nContent-Length: " +
                             QByteArray::number(body.size()) + "\r\n\r\n" + body);
                    s->disconnectFromHost();
                });
            }
        });
    }
    [[nodiscard]] bench::Address address() const { return {QStringLiteral("127.0.0.1:%1").arg(serverPort())}; }
};

bench::Profile page(const QByteArray& members, const QByteArray& more = {}) {
    const QByteArray text =
        R"({"format": "otterstone-instrument", "version": 1, "key": "p", "name": "P", "kind": "meter", "connection":
        {"http": {"path": "/rpc", "every_s": 0.2, "members": )" +
        members + more + "}}}";
    const auto read = bench::profileFromJson(text.toStdString(), "plug.json");
    if (!read)
        qWarning("%s", read.error().sentence().c_str());
    return *read;
}

} // namespace

class WiresTest : public QObject {
    Q_OBJECT

    static bench::Plan drain(OneBank& one, FakeBench& rest, const bench::Instrument& load) {
        bench::Plan plan;
        plan.recipe = recipe("gentle-drain");
        plan.recipe.closingSeconds = 0.5;
        plan.recipe.steps = {bench::Step{}};
        plan.recipe.steps.front().what = bench::Step::Do::Load;
        plan.recipe.steps.front().level = 1.0;
        plan.recipe.steps.front().seconds = 60.0;
        plan.book = one.path;
        plan.run.bank = one.bank;
        plan.label = one.book->bank(one.bank)->label;
        plan.rescueFolder = one.folder.path();
        plan.instruments = rest.instruments();
        plan.instruments.erase("trigger");
        plan.instruments["load"] = load;
        return plan;
    }

private Q_SLOTS:
    // Words as Python's struct packs them (">H", ">h", ">I", ">i", ">f"), an implementation of IEEE 754 of its own.
    void numbers_stand_in_registers_as_others_put_them_data() {
        QTest::addColumn<int>("type");
        QTest::addColumn<double>("scale");
        QTest::addColumn<double>("value");
        QTest::addColumn<QString>("words"); // empty: it does not fit
        const auto row = [](const char* name, Type type, double scale, double value, const char* words) {
            QTest::newRow(name) << static_cast<int>(type) << scale << value << QString(words);
        };
        row("a float", Type::Float32, 1.0, 123456.0, "47f1 2000");
        row("a small float", Type::Float32, 1.0, 1.5, "3fc0 0000");
        row("a negative float", Type::Float32, 1.0, -0.1, "bdcc cccd");
        row("a whole number", Type::Uint16, 1.0, 65535.0, "ffff");
        row("milliamperes", Type::Uint16, 0.001, 1.234, "04d2");
        row("less than none", Type::Int16, 0.001, -2.0, "f830");
        row("a long one", Type::Uint32, 0.0001, 15.0, "0002 49f0");
        row("a long one, negative", Type::Int32, 1.0, -100000.0, "fffe 7960");
        row("too much", Type::Uint16, 0.001, 70.0, "");
        row("below nought", Type::Uint16, 1.0, -1.0, "");
        row("no float holds it", Type::Float32, 1.0, 1e39, "");
    }
    void numbers_stand_in_registers_as_others_put_them() {
        QFETCH(int, type);
        QFETCH(double, scale);
        QFETCH(double, value);
        QFETCH(QString, words);
        bench::Register r;
        r.type = static_cast<Type>(type);
        r.scale = scale;
        const auto packed = bench::wordsOf(r, value, false);
        QCOMPARE(packed.has_value(), !words.isEmpty());
        if (!packed)
            return;
        QStringList told;
        for (const std::uint16_t w : *packed)
            told << QStringLiteral("%1").arg(w, 4, 16, QLatin1Char('0'));
        QCOMPARE(told.join(' '), words);
        QVERIFY(std::fabs(*bench::numberOf(r, *packed, false) - value) <= 1e-6 * std::fabs(value) + 1e-9);
        const auto turned = bench::wordsOf(r, value, true);
        QVERIFY(*turned == std::vector<std::uint16_t>(packed->rbegin(), packed->rend()));
        QVERIFY(std::fabs(*bench::numberOf(r, *turned, true) - value) <= 1e-6 * std::fabs(value) + 1e-9);
    }

    void a_page_is_read_or_it_is_said_why_not_data() {
        QTest::addColumn<QByteArray>("members");
        QTest::addColumn<QByteArray>("more");
        QTest::addColumn<QByteArray>("body");
        QTest::addColumn<QString>("line");
        const QByteArray watts = R"({"watts": "a.0.p", "volts": "a.0.v"})";
        QTest::newRow("watts and volts") << watts << QByteArray() << QByteArray(R"({"a": [{"p": 23.0, "v": 230}]})")
                                         << "230,0.1";
        QTest::newRow("numbers as texts")
            << watts << QByteArray() << QByteArray(R"({"a": [{"p": "46", "v": "230.0"}]})") << "230,0.2";
        QTest::newRow("only watts") << QByteArray(R"({"watts": "w"})") << QByteArray(R"(, "mains_volts": 120)")
                                    << QByteArray(R"({"w": 12})") << "120,0.1";
        QTest::newRow("volts and amps, and warm")
            << QByteArray(R"({"volts": "v", "amps": "i", "temperature": "t"})") << QByteArray()
            << QByteArray(R"({"v": 5.1, "i": 2, "t": 31.5})") << "5.1,2,31.5";
        QTest::newRow("drawing nothing") << watts << QByteArray() << QByteArray(R"({"a": [{"p": 0, "v": 231}]})")
                                         << "231,0";
        QTest::newRow("not there") << watts << QByteArray() << QByteArray(R"({"a": []})")
                                   << "the page holds no number at “a.0.v”";
        QTest::newRow("null") << watts << QByteArray() << QByteArray(R"({"a": [{"p": null, "v": 230}]})")
                              << "the page holds no number at “a.0.p”";
        QTest::newRow("no volts") << watts << QByteArray() << QByteArray(R"({"a": [{"p": 5, "v": 0}]})")
                                  << "the page says watts at no volts";
        QTest::newRow("no JSON") << watts << QByteArray() << QByteArray("<html>") << "the page is no JSON";
        QTest::newRow("deep") << watts << QByteArray() << QByteArray(100000, '[') << "the page is no JSON";
    }
    void a_page_is_read_or_it_is_said_why_not() {
        QFETCH(QByteArray, members);
        QFETCH(QByteArray, more);
        QFETCH(QByteArray, body);
        QFETCH(QString, line);
        const auto read = bench::lineOf(*page(members, more).page, body.toStdString());
        QCOMPARE(QString::fromStdString(read ? *read : read.error()), line);
    }

    void a_profile_is_read_or_refused_data() {
        QTest::addColumn<QString>("text");
        QTest::addColumn<QString>("told");
        const auto profile = [](const char* kind, const QString& rest) {
            return QStringLiteral(
                       R"({"format": "otterstone-instrument", "version": 1, "key": "x", "name": "X", "kind": "%1", %2})")
                .arg(QString(kind), rest);
        };
        const QString on = R"("on": {"write": 1, "value": 1})", off = R"("off": {"write": 1, "value": 0})";
        const QString serial = R"("connection": {"serial": {}}, "modbus": {)";
        QTest::newRow("a load on Modbus") << profile("load", serial + on + ", " + off + "}") << "";
        QTest::newRow("no off") << profile("load", serial + on + "}") << "without “off”";
        QTest::newRow("off is on") << profile("load", serial + on + R"(, "off": {"write": 1, "value": 1}})")
                                   << "write the same";
        QTest::newRow("off writes nothing")
            << profile("load", serial + on + R"(, "off": {"write": 1}})") << "what is written is not said";
        QTest::newRow("a question that writes")
            << profile("load", serial + on + ", " + off + R"(, "amps": {"write": 3, "value": 1}})") << "amps";
        QTest::newRow("a level with a value")
            << profile("load", serial + on + ", " + off + R"(, "level.cc": {"write": 3, "value": 1}})")
            << "the value is what the recipe asks for";
        QTest::newRow("an input that is written")
            << profile("load", serial + on + R"(, "off": {"write": 1, "value": 0, "table": "input"}})")
            << "cannot be written";
        QTest::newRow("a level that does not fit")
            << profile("load", serial + on + ", " + off + R"(, "level.cc": {"write": 3, "scale": 0.0001}})")
            << "cannot hold the load's most, 30 A";
        QTest::newRow("a level that fits the load")
            << profile("load", serial + on + ", " + off +
                                   R"(, "level.cc": {"write": 3, "scale": 0.0001}}, "most": {"amps": 5})")
            << "";
        QTest::newRow("an action that is none")
            << profile("load", serial + on + ", " + off + R"(, "offf": {"write": 1, "value": 0}})")
            << "there is no such action";
        QTest::newRow("a register beyond the last")
            << profile("load", serial + on + R"(, "off": {"write": 70000, "value": 0}})") << "off.write";
        QTest::newRow("Modbus and SCPI") << profile("load", serial + on + ", " + off + R"(}, "scpi": {})")
                                         << "all that the instrument speaks";
        QTest::newRow("a USB load") << profile("load", R"("connection": {"usbtmc": {}}, "scpi": {})") << "";
        QTest::newRow("a plug")
            << profile("meter",
                       R"("connection": {"http": {"path": "/s", "members": {"watts": "w"}, "mains_volts": 230}})")
            << "";
        QTest::newRow("a plug without volts")
            << profile("meter", R"("connection": {"http": {"path": "/s", "members": {"watts": "w"}}})")
            << "it says no volts";
        QTest::newRow("a plug that is a load")
            << profile("load", R"("connection": {"http": {"path": "/s", "members": {"volts": "v", "amps": "a"}}})")
            << "only a meter";
        QTest::newRow("a path with a line end")
            << profile("meter",
                       R"("connection": {"http": {"path": "/s\r\nHost: x", "members": {"volts": "v", "amps": "a"}}})")
            << "path";
        QTest::newRow("connected twice") << profile("meter", R"("connection": {"tcp": {}, "usbtmc": {}}, "scpi": {})")
                                         << "both ways";
    }
    void a_profile_is_read_or_refused() {
        QFETCH(QString, text);
        QFETCH(QString, told);
        const auto p = bench::profileFromJson(text.toStdString(), "x.json");
        QVERIFY2(p.has_value() == told.isEmpty(), p ? "read" : p.error().sentence().c_str());
        if (p)
            QVERIFY(bench::profileFromJson(bench::toJson(*p), "again") == *p);
        else
            QVERIFY2(QString::fromStdString(p.error().sentence()).contains(told), p.error().sentence().c_str());
    }

    void a_modbus_load_draws_and_is_off_in_the_end_data() {
        QTest::addColumn<QString>("what");
        for (const char* what : {"stopped", "refuses off", "is gone, and back", "is gone for good"})
            QTest::newRow(what) << QString(what);
    }
    void a_modbus_load_draws_and_is_off_in_the_end() {
        QFETCH(QString, what);
        FakeBench rest;
        OneBank one;
        ModbusLoad load;
        QCOMPARE(load.state(), QModbusDevice::ConnectedState);
        QTimer follows; // the meter sees what the load draws
        connect(&follows, &QTimer::timeout, &load, [&] {
            rest.on = load.on();
            rest.amps = load.milliamps() * 1e-3;
        });
        follows.start(20);
        bench::Session session;
        QSignalSpy ended(&session, &bench::Session::finished);
        session.start(drain(one, rest, {bench::profileFromJson(kModbusLoad, "m").value(), {load.address()}}));
        QTRY_VERIFY2_WITH_TIMEOUT(load.on() && session.progress().amps > 0.5, session.progress().doing.c_str(), 10000);
        QCOMPARE(load.milliamps(), 1000);
        QCOMPARE(int(load.get(20)), 4); // its own code for constant current
        QTest::qWait(1500);
        QCOMPARE(session.progress().phase, bench::Phase::Running);
        if (what == "refuses off")
            load.refuses = true;
        if (what.startsWith("is gone")) {
            load.disconnectDevice();
        } else {
            const qint64 at = load.clock.elapsed();
            session.stop();
            if (what == "stopped") {
                QTRY_VERIFY_WITH_TIMEOUT(!load.on(), 2000);
                QVERIFY(load.offAt - at <= 1000);
            }
        }
        if (what == "stopped") {
            QVERIFY(ended.wait(10000));
            QVERIFY(qvariant_cast<bench::Outcome>(ended.first().first()).stillOn.empty());
            return;
        }
        // It is on, and that is said in the loudest words; nothing ends in peace.
        QTRY_VERIFY_WITH_TIMEOUT(!session.progress().stillOn.empty(), 20000);
        QVERIFY(load.on());
        if (what == "is gone for good") {
            QVERIFY(ended.wait(60000));
            QVERIFY(!qvariant_cast<bench::Outcome>(ended.first().first()).stillOn.empty());
            return;
        }
        QVERIFY(ended.empty());
        load.refuses = false;
        if (what.startsWith("is gone"))
            QVERIFY(load.connectDevice());
        QTRY_VERIFY_WITH_TIMEOUT(!load.on(), 10000); // first thing
        QTRY_VERIFY_WITH_TIMEOUT(!ended.empty(), 30000);
        QVERIFY(qvariant_cast<bench::Outcome>(ended.first().first()).stillOn.empty());
    }

    // An answer that never came is nobody's: the next one is not taken for it.
    void a_question_without_an_answer_takes_no_other_ones() {
        PlainModbus load;
        load.registers = {{10, 503}, {11, 0}, {30, 1}}; // 5.03 V, nothing flows, and it is on
        load.mute = {30};
        bench::ScpiDevice device(bench::profileFromJson(kModbusLoad, "m").value(), load.address());
        QStringList told;
        device.link().open();
        QTRY_VERIFY(device.link().isUp());
        QTest::qWait(200); // it was told to be off, and is asked
        for (int k = 0; k < 3; ++k) {
            device.ask("volts", [&](std::optional<double> v) { told << (v ? QString::number(*v) : "none"); });
            device.ask("amps", [&](std::optional<double> v) { told << (v ? QString::number(*v) : "none"); });
        }
        load.registers[30] = 1; // whatever it was told
        QTest::qWait(2500);
        QVERIFY(!told.isEmpty());
        for (qsizetype k = 0; k < told.size(); ++k)
            QVERIFY2(told[k] == "none" || told[k] == (k % 2 == 0 ? "5.03" : "0"), qPrintable(told.join(' ')));
    }
    // What cannot be set is not drawn: never at the level of before.
    void a_level_that_is_refused_is_not_drawn_at_another_data() {
        QTest::addColumn<int>("refused");
        QTest::newRow("the level") << 21;
        QTest::newRow("the mode") << 20;
    }
    void a_level_that_is_refused_is_not_drawn_at_another() {
        QFETCH(int, refused);
        FakeBench rest;
        OneBank one;
        PlainModbus load;
        load.registers = {{10, 503}, {21, 0}, {22, 60000}}; // 6 A, from whoever used it before
        load.refuses = {refused};
        bench::Session session;
        QSignalSpy ended(&session, &bench::Session::finished);
        bool wasOn = false;
        QTimer looks;
        connect(&looks, &QTimer::timeout, &load, [&] { wasOn |= load.registers.value(30) == 1; });
        looks.start(1);
        session.start(drain(one, rest, {bench::profileFromJson(kModbusLoad, "m").value(), load.address()}));
        QTRY_VERIFY2_WITH_TIMEOUT(!ended.empty(), session.progress().doing.c_str(), 40000);
        QVERIFY(!wasOn && load.registers.value(30) == 0);
        QVERIFY(!bench::isOrderly(qvariant_cast<bench::Outcome>(ended.first().first()).stop.kind));
    }
    void off_is_never_dropped_and_goes_first() {
        PlainModbus load;
        bench::ModbusPort port(bench::profileFromJson(kModbusLoad, "m").value(), load.address().text);
        QVERIFY(port.open(QIODevice::ReadWrite)); // not yet connected: everything waits
        port.write("level.cc 2\non\n");
        for (int k = 0; k < 300; ++k)
            port.write("amps\n");
        port.write("off\n");
        QVERIFY(port.bytesToWrite() > 0);
        QVERIFY(port.waitForBytesWritten(10000));
        QVERIFY2(load.written == QList<int>{30}, qPrintable(QDebug::toString(load.written))); // neither level nor on
        QCOMPARE(load.registers.value(30, -1), 0);
    }

    // The kernel's file of a USB instrument, as a pseudo-terminal shows it: an answer to each question.
    void a_usb_load_draws_and_is_off_in_the_end() {
        const int master = ::posix_openpt(O_RDWR | O_NOCTTY | O_NONBLOCK | O_CLOEXEC);
        QVERIFY(master >= 0 && ::grantpt(master) == 0 && ::unlockpt(master) == 0);
        termios raw{};
        QVERIFY(::tcgetattr(master, &raw) == 0);
        ::cfmakeraw(&raw);
        ::tcsetattr(master, TCSANOW, &raw);
        const QString path = QString::fromLocal8Bit(::ptsname(master));
        FakeBench bench;
        OneBank one;
        QByteArray heard;
        QTimer serves;
        connect(&serves, &QTimer::timeout, &bench, [&] {
            char bytes[500];
            for (ssize_t got = 0; (got = ::read(master, bytes, sizeof bytes)) > 0;)
                heard.append(bytes, got);
            for (qsizetype end = heard.indexOf('\n'); end >= 0; end = heard.indexOf('\n')) {
                const QByteArray back = bench.load.answer(heard.left(end).trimmed());
                heard.remove(0, end + 1);
                if (!back.isEmpty())
                    QVERIFY(::write(master, (back + '\n').constData(), static_cast<std::size_t>(back.size()) + 1) > 0);
            }
        });
        serves.start(5);
        bench::Profile profile = FakeBench::profile(bench::Kind::Load);
        profile.by = bench::Profile::By::Usbtmc;
        bench::Session session;
        QSignalSpy ended(&session, &bench::Session::finished);
        session.start(drain(one, bench, {profile, {path}}));
        QTRY_VERIFY2_WITH_TIMEOUT(bench.on && session.progress().amps > 0.5, session.progress().doing.c_str(), 15000);
        QCOMPARE(bench.amps.load(), 1.0);
        QTest::qWait(1500);
        const qint64 at = bench.clock.elapsed();
        session.stop();
        QVERIFY(ended.wait(15000));
        QVERIFY(!bench.on && bench.offAt - at <= 1000);
        QVERIFY(qvariant_cast<bench::Outcome>(ended.first().first()).stillOn.empty());
        ::close(master);
    }

    void a_usb_port_that_is_closed_says_what_it_was_told_last() {
        const int master = ::posix_openpt(O_RDWR | O_NOCTTY | O_NONBLOCK | O_CLOEXEC);
        QVERIFY(master >= 0 && ::grantpt(master) == 0 && ::unlockpt(master) == 0);
        termios raw{};
        QVERIFY(::tcgetattr(master, &raw) == 0);
        ::cfmakeraw(&raw);
        ::tcsetattr(master, TCSANOW, &raw);
        bench::UsbtmcPort port(QString::fromLocal8Bit(::ptsname(master)));
        QSignalSpy lost(&port, &bench::UsbtmcPort::lost);
        QVERIFY(port.open(QIODevice::ReadWrite));
        QByteArray heard;
        const auto hears = [&](const QByteArray& all) {
            char bytes[200]; // the terminal hands over what was written when it likes, and not all at once
            for (ssize_t got = 0; (got = ::read(master, bytes, sizeof bytes)) > 0;)
                heard.append(bytes, got);
            return heard == all;
        };
        port.write("MEASure:CURRent?\n"); // nobody answers
        QTRY_VERIFY2(hears("MEASure:CURRent?\n"), heard.constData());
        port.write("INPut OFF\n"); // waits behind it
        port.write("INPut?\n");
        port.close();
        QTRY_VERIFY2(hears("MEASure:CURRent?\nINPut OFF\n"), heard.constData());
        // And one that stays unanswered while it is open begins anew.
        QVERIFY(port.open(QIODevice::ReadWrite));
        port.write("MEASure:CURRent?\n");
        QTRY_VERIFY_WITH_TIMEOUT(!lost.empty(), 3000);
        port.close();
        ::close(master);
    }

    void a_plug_is_read_again_and_again_whatever_its_page_holds() {
        Page plug;
        plug.body = R"({"w": 23, "v": 230})";
        bench::Meter meter(page(R"({"watts": "w", "volts": "v"})"), plug.address(), 1000);
        QSignalSpy read(&meter, &bench::Meter::reading), spoiled(&meter, &bench::Meter::spoiled),
            down(&meter, &bench::Meter::down);
        meter.open();
        QTRY_VERIFY_WITH_TIMEOUT(read.size() >= 3, 5000);
        const auto last = qvariant_cast<logs::LiveReading>(read.back().front());
        QCOMPARE(last.volts * last.amps, 23.0);
        QVERIFY(meter.isUp() && spoiled.empty());
        plug.body = "<html>";
        QTRY_VERIFY_WITH_TIMEOUT(!spoiled.empty(), 5000);
        QCOMPARE(spoiled.front().front().toString(), QString("the page is no JSON"));
        QVERIFY(meter.isUp());
        // No such page: it is there all the same, and is not stormed.
        plug.status = "404 Not Found";
        const auto answers = spoiled.size();
        QTRY_VERIFY_WITH_TIMEOUT(spoiled.size() > answers + 1, 5000);
        QCOMPARE(spoiled.back().front().toString(), QString("the page answers with status 404"));
        QVERIFY(meter.isUp() && down.empty());
        plug.status = "200 OK";
        plug.body = QByteArray(1 << 20, ' '); // more than a page of a plug
        QTRY_VERIFY_WITH_TIMEOUT(!down.empty(), 5000);
        plug.body = R"({"w": 46, "v": 230})";
        const auto before = read.size();
        QTRY_VERIFY_WITH_TIMEOUT(read.size() > before, 5000); // it comes back by itself
        plug.close();
        const auto lost = down.size();
        QTRY_VERIFY_WITH_TIMEOUT(down.size() > lost, 8000);
        QVERIFY(!meter.isUp() && !meter.trouble().isEmpty());
        const int asked = plug.asked;
        QTest::qWait(600);
        QVERIFY(plug.asked - asked <= 1); // closed, and not stormed
    }

    // What a page has too much of stays where it is.
    void a_plug_s_page_without_an_end_is_left_off() {
        QTcpServer server;
        QVERIFY(server.listen(QHostAddress::LocalHost));
        qint64 given = 0;
        connect(&server, &QTcpServer::newConnection, this, [&] {
            QTcpSocket* s = server.nextPendingConnection();
            const auto more = [s, &given] {
                const QByteArray much(1 << 16, ' ');
                given += s->write(much);
            };
            connect(s, &QTcpSocket::bytesWritten, s, more);
            connect(s, &QTcpSocket::readyRead, s, [s] {
                s->readAll();
                s->write("HTTP/1.1 200 OK\r\nContent-Type: application/json\r\n\r\n");
            });
        });
        bench::Meter meter(page(R"({"watts": "w", "volts": "v"})"),
                           {QStringLiteral("127.0.0.1:%1").arg(server.serverPort())}, 1000);
        QSignalSpy down(&meter, &bench::Meter::down);
        meter.open();
        QTRY_VERIFY_WITH_TIMEOUT(!down.empty(), 6000);
        QVERIFY2(given < (qint64{1} << 25),
                 qPrintable(QString::number(given))); // what the kernel takes on its way, too
    }

    // The worked examples as they are shipped, on the shipped stand-in.
    void the_shipped_profiles_work_on_the_stand_in_data() {
        QTest::addColumn<QString>("profile");
        QTest::addColumn<QString>("where");
        QTest::newRow("Modbus") << "modbus-load"
                                << "modbus_load";
        QTest::newRow("USB") << "usb-load"
                             << "usb_load";
    }
    void the_shipped_profiles_work_on_the_stand_in() {
        QFETCH(QString, profile);
        QFETCH(QString, where);
        Standin standin({"--speed", "5", "--rate", "2"});
        QVERIFY(standin.ok());
        OneBank one;
        bench::Plan plan = planFor(recipe("gentle-drain"), one, standin, false);
        plan.recipe.steps = {bench::Step{}};
        plan.recipe.steps.front().what = bench::Step::Do::Load;
        plan.recipe.steps.front().level = 1.0;
        plan.recipe.steps.front().seconds = 6.0;
        plan.recipe.closingSeconds = 0.5;
        plan.instruments["load"] = {builtin(profile.toLatin1()), standin.at(where.toLatin1())};
        bench::Session session;
        QSignalSpy ended(&session, &bench::Session::finished);
        session.start(plan);
        QTRY_VERIFY2_WITH_TIMEOUT(session.progress().amps > 0.9, session.progress().doing.c_str(), 15000);
        QVERIFY(standin.truth().at("load_on").get<bool>());
        QVERIFY(ended.wait(30000));
        const auto outcome = qvariant_cast<bench::Outcome>(ended.first().first());
        QVERIFY2(outcome.stop.kind == bench::StopKind::Done && outcome.stillOn.empty(), outcome.stop.why.c_str());
        QVERIFY(!standin.truth().at("load_on").get<bool>());
    }
    void a_recharge_is_watched_from_the_wall_on() {
        Standin standin({"--speed", "20", "--rate", "2", "--empty"});
        QVERIFY(standin.ok());
        OneBank one;
        bench::Plan plan = planFor(recipe("recharge-to-taper"), one, standin, false);
        plan.recipe.steps.front().seconds = 8.0;
        plan.recipe.steps.resize(1);
        plan.recipe.closingSeconds = 0.5;
        plan.instruments["wall meter"] = {builtin("wall-plug"), standin.at("plug")};
        records::Gear usb;
        usb.kind = records::GearKind::Meter;
        usb.name = "Pocket meter";
        plan.run.meter = *one.book->save(usb);
        standin.say("HANDs:CHARger IN");
        bench::Session session;
        const auto outcome = runToEnd(session, plan);
        QVERIFY2(outcome.stop.kind == bench::StopKind::Done, outcome.stop.why.c_str());
        const auto run = one.book->run(outcome.run);
        QVERIFY(run && run->also.size() == 1);
        QCOMPARE(run->also.front().point, path::Point::Wall);
        QVERIFY(!run->also.front().meter); // the plug is no meter of the drawer, least of all the run's
        const auto wall = one.book->trace(outcome.run, run->also.front().key()), in = one.book->trace(outcome.run);
        QVERIFY(wall.size() >= 4 && in.size() >= 10);
        // What comes out of the wall is more than what goes into the bank, by what an ordinary charger loses.
        const double share = in.power(in.size() - 1) / wall.power(wall.size() - 1);
        QVERIFY2(share > 0.75 && share < 0.95, qPrintable(QString::number(share)));
    }
};

QTEST_GUILESS_MAIN(WiresTest)
#include "wires_test.moc"
