// The loads of one run: which of them are on, and whether they are off when they must be.
#pragma once

#include <array>
#include <memory>
#include <string>

#include "bench/instruments/scpi_device.h"

namespace otterstone::bench {

class Loads {
public:
    static constexpr int kMost = 2;

    /// Those of a new run, none of which was on in it; nullptr where there is none.
    void take(std::unique_ptr<ScpiDevice> first, std::unique_ptr<ScpiDevice> second);
    [[nodiscard]] ScpiDevice* operator[](int which) const { return at(which).device.get(); }

    /// Each that there is, whatever it says of itself.
    void switchOff();
    void switchOff(int which);
    /// One that is off already is not told again.
    void ensureOff(int which);
    void switchedOn(int which);
    /// Switched on by this run, and not off since.
    [[nodiscard]] bool on(int which) const { return at(which).on; }
    [[nodiscard]] bool anyOn() const { return on(0) || on(1); }
    /// One was on in this run.
    [[nodiscard]] bool ours() const { return at(0).wasOn || at(1).wasOn; }

    /// Each said so, but one that was never on in this run and cannot be reached: it has nothing to do with it.
    [[nodiscard]] bool areOff() const;
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
    };
    [[nodiscard]] const Load& at(int which) const { return loads_[static_cast<std::size_t>(which)]; }
    [[nodiscard]] Load& at(int which) { return loads_[static_cast<std::size_t>(which)]; }

    std::array<Load, kMost> loads_;
};

} // namespace otterstone::bench
