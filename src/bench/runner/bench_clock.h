// The bench's clock: real seconds as a rule, the stand-in's seconds in a rehearsal. Also notices that the computer
// slept.
#pragma once

#include <utility>

#include <time.h>

namespace otterstone::bench {

/// Seconds of a system clock. The first two only ever rise, and only the second counts while the computer sleeps; the
/// third is what the wall says, and may be set.
struct SystemClocks {
    double (*awake)() = [] {
        timespec t{};
        ::clock_gettime(CLOCK_MONOTONIC, &t);
        return static_cast<double>(t.tv_sec) + 1e-9 * static_cast<double>(t.tv_nsec);
    };
    double (*always)() = [] {
        timespec t{};
        ::clock_gettime(CLOCK_BOOTTIME, &t);
        return static_cast<double>(t.tv_sec) + 1e-9 * static_cast<double>(t.tv_nsec);
    };
    double (*wall)() = [] {
        timespec t{};
        ::clock_gettime(CLOCK_REALTIME, &t);
        return static_cast<double>(t.tv_sec) + 1e-9 * static_cast<double>(t.tv_nsec);
    };
};

class BenchClock {
public:
    explicit BenchClock(double speed = 1.0, SystemClocks clocks = {})
        : clocks_(clocks), speed_(speed), real_(clocks.awake()), slept_(clocks.always() - clocks.awake()),
          ahead_(clocks.wall() - clocks.always()) {}

    /// Seconds on the bench; never steps back. A sleep counts.
    [[nodiscard]] double now() {
        const double sleep = clocks_.always() - clocks_.awake() - slept_;
        const double t = bench_ + (clocks_.awake() - real_ + sleep) * speed_;
        return latest_ = t > latest_ ? t : latest_;
    }
    /// From now on it stands still between two syncs.
    void halt() { speed_ = 0.0; }
    /// A stand-in said what time it is on its bench.
    void sync(double bench) {
        bench_ = bench;
        real_ = clocks_.awake();
    }
    /// Seconds slept since this was last asked; 0 as a rule.
    [[nodiscard]] double sleptSince() {
        const double behind = clocks_.always() - clocks_.awake();
        const double sleep = behind - slept_ - told_;
        if (sleep < 1.0)
            return 0.0;
        told_ += sleep;
        return sleep;
    }
    /// Seconds by which the wall clock went on, beside time as it passed, since this was last asked: somebody set it,
    /// or the computer slept where no other clock counts that (a virtual one).
    [[nodiscard]] double setSince() {
        const double ahead = clocks_.wall() - clocks_.always();
        return ahead - std::exchange(ahead_, ahead);
    }
    [[nodiscard]] double speed() const { return speed_; }

private:
    SystemClocks clocks_;
    double speed_;
    double real_;
    double bench_ = 0.0;
    double latest_ = -1e300;
    double slept_; ///< how far the two clocks stood apart at the start
    double told_ = 0.0;
    double ahead_; ///< of the wall clock, when it was last asked
};

} // namespace otterstone::bench
