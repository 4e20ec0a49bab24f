// A line-by-line connection to one instrument, however it is connected, that comes back by itself after it was lost.
#pragma once

#include <memory>

#include <QByteArray>
#include <QElapsedTimer>
#include <QObject>
#include <QTimer>

#include "bench/instruments/address.h"

class QIODevice;

namespace otterstone::bench {

class Link : public QObject {
    Q_OBJECT

public:
    Link(const Profile& profile, Address address, QObject* parent = nullptr);
    ~Link() override;

    [[nodiscard]] bool isUp() const { return up_; }
    [[nodiscard]] const Address& address() const { return address_; }
    /// Why it is not up; empty while nothing failed.
    [[nodiscard]] const QString& trouble() const { return trouble_; }

    /// Connects, and again whenever it is lost, until close().
    void open();
    void close();
    /// False when nothing is connected: the line is lost then.
    bool send(const QByteArray& line);
    /// Reads until nothing comes any more. From here on lines are told only within takeIn().
    void takeRest();
    /// So many bytes were sent from the other end: waits for them, a little at most, and reads them.
    void takeIn(qsizetype bytes);
    /// Of what is connected; −1 when nothing is.
    [[nodiscard]] int descriptor() const;
    /// Waits until what was sent has left the program. For the last word before an end.
    void drain(int milliseconds);

Q_SIGNALS:
    void up();
    void down(const QString& why);
    /// Without its ending, as it came.
    void line(const QByteArray& bytes);

private:
    void connectNow();
    void connectOther();
    void cameUp();
    void lost(const QString& why);
    void read();

    Profile profile_;
    Address address_;
    std::unique_ptr<QIODevice> device_;
    QByteArray pending_;
    qsizetype owed_ = 0; ///< of takeIn()
    bool held_ = false;  ///< outside of it nothing is read
    QTimer again_;
    QString trouble_;
    bool wanted_ = false;
    bool up_ = false;
};

/// Serial ports that are there now: their names and what they say of themselves.
struct PortFound {
    QString name;
    QString description;
};
[[nodiscard]] std::vector<PortFound> serialPorts();

} // namespace otterstone::bench
