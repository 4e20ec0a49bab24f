// The loads of one run: which of them are on, and whether they are off when they must be. A load's own word does not
// do where a meter stands on its path: the meter decides.
#pragma once

#include <array>
#include <memory>
#include <optional>
#include <string>

#include <QElapsedTimer>

#include "bench/instruments/scpi_device.h"

namespace otterstone::bench {

class Loads {
public:
    static constexpr int kMost = 2;

    /// Those of a new run, none of which was on in it; nullptr where there is none.
    void take(std::unique_ptr<ScpiDevice> first, std::unique_ptr<ScpiDevice> second);
    [[nodiscard]] ScpiDevice* operator[](int which) const { return at(which).device.get(); }

    /// Each that there is, whatever it says of itself. `now`, here and below: the bench's clock.
    void switchOff(double now);
    void switchOff(int which, double now);
    /// One that is off already is not told again.
    void ensureOff(int which, double now);
    void switchedOn(int which);
    /// Told once more, where it can be reached: what it said a while ago, somebody else may have changed.
    void confirmAnew();
    /// The meter on the first load's path read this. What flows on after that load was switched off says that it lies.
    void meterReads(double amps, double now);
    /// Hands change what hangs on that path: nothing is known of what the load draws through the meter.
    void pathChanges() { drawn_.reset(); }
    /// Those that the meter belies are told again.
    void insist(double now);
    /// Switched on by this run, and not off since.
    [[nodiscard]] bool on(int which) const { return at(which).on; }
    [[nodiscard]] bool anyOn() const { return on(0) || on(1); }
    /// One was on in this run.
    [[nodiscard]] bool ours() const { return at(0).wasOn || at(1).wasOn; }

    /// Each said so, but one that was never on in this run and cannot be reached: it has nothing to do with it.
    [[nodiscard]] bool areOff() const;
    /// They are, and a meter that saw what the first drew has seen it go; one that says nothing for five seconds says
    /// nothing more.
    [[nodiscard]] bool areProvenOff(double now) const;
    /// One was off and is on again, though nobody here said so.
    [[nodiscard]] bool foundOn() const;
    /// The load says that it is off, and the meter on its path reads what it drew before, A; nothing as a rule.
    [[nodiscard]] std::optional<double> belied() const { return belied_; }
    [[nodiscard]] bool canSay() const;
    /// Why one is not, as a sentence's part; empty when all are.
    [[nodiscard]] std::string whyNotOff() const;
    /// Milliseconds since the first of them was told and did not say so; 0 when none is late.
    [[nodiscard]] qint64 late() const;
    /// One that is not off can be reached.
    [[nodiscard]] bool reachable() const;
    void listenAnew();
    /// Lets go of them, switched off; those that are on are kept, to be told again, where that is wished.
    void close(bool keepThoseOn);

private:
    struct Load {
        std::unique_ptr<ScpiDevice> device;
        bool on = false, wasOn = false;
        double offAt = 0.0; ///< when it was told so
        QElapsedTimer off;  ///< the same, in real time
    };
    [[nodiscard]] const Load& at(int which) const { return loads_[static_cast<std::size_t>(which)]; }
    [[nodiscard]] Load& at(int which) { return loads_[static_cast<std::size_t>(which)]; }

    std::array<Load, kMost> loads_;
    std::optional<double> drawn_;  ///< through the meter while the first was on, A
    std::optional<double> belied_; ///< what it reads still
    int reads_ = 0;                ///< such readings in a row
    bool agreed_ = false;          ///< it reads nothing since that was switched off
    double readAt_ = 0.0, insistedAt_ = 0.0;
};

} // namespace otterstone::bench
