// F: a whole bench: one simulated bank, and on each of its sockets a charger, an electronic load, a device or another
// bank, with a cable between. Steps of any length up to a second; what is plugged, asked and switched takes hold at the
// next step.
#pragma once

#include <memory>
#include <string>
#include <vector>

#include "core/model/running_bank.h"
#include "core/model/socket.h"

namespace otterstone::model {

/// What flows through one socket of the bank.
struct Flow {
    double portVolts = 0.0; ///< at the bank's own socket
    double farVolts = 0.0;  ///< at the other end of the cable
    double amps = 0.0;      ///< magnitude; `in` tells the direction
    bool in = false;
    double tierVolts = 0.0; ///< what was agreed; 0 while the socket is off
};

/// Wh since the start, at the edges of what is simulated. What came in has gone out, was lost or is stored.
struct Ledger {
    double fromChargers = 0.0; ///< at the chargers' end of their cables
    double fromWall = 0.0;
    double intoPorts = 0.0, outOfPorts = 0.0; ///< at the bank's sockets
    double toLoads = 0.0;                     ///< used up by electronic loads
    double inCables = 0.0;
};

enum class Off { No, Tripped, TooHot, Empty, Asleep, Refused };

class Bench {
public:
    Bench(const Bank& bank, double stateOfCharge, double ambient);
    ~Bench();
    Bench(Bench&&) noexcept;

    [[nodiscard]] const RunningBank& bank() const { return bank_; }
    /// The device or bank that hangs on a socket; nullptr for none.
    [[nodiscard]] const RunningBank* device(std::size_t port) const;
    [[nodiscard]] const Flow& flow(std::size_t port) const;
    /// Why a socket with something on it gives nothing.
    [[nodiscard]] Off off(std::size_t port) const;
    [[nodiscard]] const Ledger& ledger() const { return ledger_; }
    [[nodiscard]] double seconds() const { return seconds_; }
    [[nodiscard]] std::size_t ports() const;

    // Hands. Plugging in unplugs what was there.
    void plugCharger(std::size_t port, const Charger& charger, Cable cable);
    void plugLoad(std::size_t port, Cable cable, Ask ask = {});
    /// Something with a battery of its own. Between two dual-role sockets the firmware decides who gives, unless
    /// `forceOut`.
    void plugDevice(std::size_t port, const Bank& device, double stateOfCharge, Cable cable, bool forceOut = false);
    void unplug(std::size_t port);
    void pressButton();
    void setLowCurrentMode(bool on);
    /// The charger gives at most so much: 0 for its own limit.
    void limitCharger(std::size_t port, double watts);

    // Instruments.
    void ask(std::size_t port, Ask ask);
    void setLoad(std::size_t port, const Load& load);
    [[nodiscard]] const Load& load(std::size_t port) const;

    void step(double seconds);

private:
    struct Socket;
    void somethingPlugged(std::size_t port);
    [[nodiscard]] bool charging() const;
    [[nodiscard]] std::size_t outputsInUse() const;
    [[nodiscard]] Ask offered(std::size_t port) const;
    void flowOut(double seconds);
    void flowIn(double outputWatts, double seconds);
    void trip(Socket& socket);
    void mind(Socket& socket, double amps, Ask offer, double seconds);
    void wake(Socket& socket, bool replugged);

    RunningBank bank_;
    std::vector<Socket> sockets_;
    Ledger ledger_;
    double seconds_ = 0.0;
    double lowModeUntil_ = -1.0;
    int plugged_ = 0; ///< counts, to know who came first
    // Of the step that is being worked out.
    double portWatts_ = 0.0, outputLoss_ = 0.0, inputWatts_ = 0.0, inputVolts_ = 5.0;
    bool sourceLimits_ = false;
};

} // namespace otterstone::model
