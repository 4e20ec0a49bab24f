// Lays a meter's own clock onto a run: the trace's time begins at 0, never steps back, and survives a meter that begins
// to count anew.
#pragma once

#include <optional>
#include <string>

namespace otterstone::bench {

class TimeKeeper {
public:
    /// A run that goes on begins behind its last sample, so many seconds later.
    explicit TimeKeeper(double startsAt = 0.0) : base_(startsAt), last_(startsAt) {}

    struct Placed {
        double time = 0.0;
        std::string remark; ///< what is worth a mark; empty as a rule
    };
    /// Where on the run's clock a reading belongs; nothing for one that must be left out (a spoiled time stamp).
    /// `stamp`: on the meter's clock, seconds; without one the bench's clock counts. `bench`: when it came in, on the
    /// bench's clock.
    [[nodiscard]] std::optional<Placed> place(std::optional<double> stamp, double bench);
    /// The run's clock at a moment of the bench's clock, for marks.
    [[nodiscard]] double at(double bench) const;
    [[nodiscard]] bool begun() const { return begun_; }
    [[nodiscard]] double last() const { return last_; }

private:
    [[nodiscard]] std::string rateRemark(double stamp, double bench);
    double base_; ///< run time at the anchor
    double anchorStamp_ = 0.0, anchorBench_ = 0.0;
    double last_; ///< run time of the last reading
    double lastStamp_ = 0.0, lastBench_ = 0.0;
    bool begun_ = false;
    bool rateTold_ = false;
    std::optional<double> suspect_; ///< a stamp that fits nothing, waiting for a second one that bears it out
    double suspectBench_ = 0.0;
};

} // namespace otterstone::bench
