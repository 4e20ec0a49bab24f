// Puts a simulated bench behind pseudo-terminals (streaming meters) and loopback TCP (SCPI load, trigger, thermometer,
// and the hands), and lets its time pass. Nothing listens beyond loopback.
#pragma once

#include <memory>

#include <QElapsedTimer>
#include <QObject>
#include <QTcpServer>
#include <QTimer>

#include "standin/other_doors.h"
#include "standin/pty.h"
#include "standin/world.h"

class QTcpSocket;

namespace otterstone::standin {

struct Options {
    Scene scene;
    double speed = 1.0;  ///< seconds that pass on the bench for each real one
    bool inStep = false; ///< no time passes but what the one at the control asks for
    int baud = 115200;   ///< of the meters
    QString folder;      ///< for the meters' names; must exist
    int loadPort = 0, secondLoadPort = 0, triggerPort = 0, secondTriggerPort = 0, thermometerPort = 0, controlPort = 0,
        modbusPort = 0, plugPort = 0; ///< TCP; 0: any free one
};

class Station : public QObject {
    Q_OBJECT

public:
    explicit Station(Options options, QObject* parent = nullptr);

    [[nodiscard]] Result<void> start();
    /// Where its instruments are, as one JSON object.
    [[nodiscard]] std::string whereabouts() const;
    [[nodiscard]] World& world() { return world_; }

private:
    using Handler = std::function<std::string(const std::string&)>;
    [[nodiscard]] Result<void> listen(QTcpServer& server, int port, Handler handler, std::function<void()> left = {});
    void tick();
    void pass(double seconds);
    /// Waits for its listeners a little: what was printed is theirs before the next answer.
    void handOver();
    [[nodiscard]] std::string control(const std::string& line);
    void send(int meter, const std::string& line);
    void mindThePlug();

    Options options_;
    World world_;
    OtherDoors others_;
    std::unique_ptr<Pty> meters_[2];
    QTcpServer load_, secondLoad_, trigger_, secondTrigger_, thermometer_, control_;
    QTimer timer_;
    QElapsedTimer real_;
    qint64 before_ = 0;     ///< nanoseconds
    bool lockstep_ = false; ///< time passes only when the one at the control says so
};

} // namespace otterstone::standin
