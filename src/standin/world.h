// The simulated bench as a stand-in runs it: the model, what its instruments are set to and show, and their faults. No
// sockets, no real clock.
#pragma once

#include <cstdint>
#include <functional>
#include <map>
#include <random>
#include <string>

#include "core/model/bench.h"
#include "core/model/meter_errors.h"

namespace otterstone::standin {

/// What the bench is made of; all of it is known to whoever holds a finding against it.
struct Scene {
    model::Bank bank;
    double stateOfCharge = 1.0;
    double ambient = 20.0;
    double outOhms = 0.058, inOhms = 0.058; ///< cables: bank to meter, charger to bank
    path::Meter meter;                      ///< both meters are of this make
    model::Charger charger;
    model::Bank device; ///< what is charged when a device is plugged in
    double deviceSoc = 0.1;
    double samplesPerSecond = 1.0;
    double watchdogSeconds = 30.0; ///< a load that hears nothing for so long switches itself off; 0: never
    std::uint64_t seed = 1;
    std::size_t inPort = 0, outPort = 0, secondPort = 0; ///< of the bank; where there is one socket only, all are that

    /// A bank's sockets by what they can do.
    void choosePorts();
};

enum class Fault { Noise, Silence, NotANumber, Partial, Unplug, SlowClock, Restart, WrongBaud };
[[nodiscard]] std::optional<Fault> faultFromKey(std::string_view key);
[[nodiscard]] const std::map<std::string, Fault>& faults();

class World {
public:
    explicit World(Scene scene);

    /// Both meters: 0 towards the load, 1 from the charger. Called for each line they print, without its ending.
    std::function<void(int meter, const std::string& line)> printed;

    /// Lets so many seconds pass; if `untilStartled`, only up to a line that differs much from the one before. Whether
    /// all of them passed.
    bool advance(double seconds, bool untilStartled = false);
    [[nodiscard]] double seconds() const { return bench_.seconds(); }
    [[nodiscard]] bool has(Fault fault) const;
    void put(Fault fault, double seconds, double value);

    // What the instruments' sockets say. A reply, "" for none; an unknown command leaves an error for SYSTem:ERRor?.
    std::string load(int which, const std::string& line);
    /// What the first load would answer, without that it heard anything: its watchdog counts on.
    [[nodiscard]] std::string peek(const std::string& question);
    std::string trigger(int which, const std::string& line);
    std::string thermometer(const std::string& line);
    /// Hands, faults and the truth.
    std::string control(const std::string& line);
    /// Whether a load was ever switched on, or a charger or device plugged in.
    [[nodiscard]] bool begun() const { return begun_; }
    /// The bank's button, pressed now and then, so that its output does not go to sleep before anything is done.
    void keepAwake();
    void stretchWatchdog(double factor) { scene_.watchdogSeconds *= factor; }
    /// Nobody is connected to the load any more.
    void loadLeftAlone(int which);
    [[nodiscard]] std::string truth() const;
    /// What charger and its own losses take out of the wall, W.
    [[nodiscard]] double wallWatts() const;

private:
    struct LoadState {
        model::Load set{model::Load::Mode::ConstantCurrent, 0.0, false};
        double heardAt = 0.0;
        double offAt = -1.0;
        double onFor = 0.0;
        bool plugged = false;
        std::string error = "0,\"No error\"";
    };
    [[nodiscard]] std::size_t loadPort(int which) const { return which == 0 ? scene_.outPort : scene_.secondPort; }
    /// Into a socket of the bank; whatever else hangs there comes out.
    void plugLoad(int which, std::size_t port);
    void pullLoad(int which);
    [[nodiscard]] std::string hands(const std::string& line);
    void source(const std::string& json);
    void applyLoad(int which);
    void switchOff(int which);
    void print();
    void printOne(int which, double volts, double amps);
    [[nodiscard]] std::string spoiled(std::string line);

    Scene scene_;
    model::Bench bench_;
    model::MeterErrors out_, in_;
    LoadState loads_[2];
    model::Ask asks_[2] = {{5.0, 5.0}, {5.0, 5.0}};
    bool charger_ = false, device_ = false;
    std::size_t chargerPort_ = 0;
    std::map<Fault, double> until_;
    struct Shown {
        double volts = 0.0, amps = 0.0;
    };
    Shown shown_[2];
    bool startled_ = false; ///< whoever reads the meters may want to do something
    double printedAt_ = 0.0;
    bool begun_ = false;
    double wokenAt_ = 0.0;
    double faultAt_ = -1.0;
    double clockRuns_ = 1.0, clockFrom_ = 0.0, clockBase_ = 0.0; ///< the meters' own clock
    std::mt19937_64 random_;
};

} // namespace otterstone::standin
