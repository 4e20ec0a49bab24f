// F: the bank's two temperatures, and whether they stop it.
#pragma once

#include "core/model/bank.h"

namespace otterstone::model {

class Heat {
public:
    Heat(const Thermal& thermal, double ambient)
        : thermal_(thermal), ambient_(ambient), core_(ambient), case_(ambient) {}

    [[nodiscard]] double coreCelsius() const { return core_; }
    [[nodiscard]] double caseCelsius() const { return case_; }
    /// Too hot to go on: from the trip until it has cooled down to where it restarts.
    [[nodiscard]] bool tripped() const { return tripped_; }
    /// Plugged in anew: a trip that waits for it is over once the core is below where it tripped.
    void replug() { tripped_ = core_ >= thermal_.tripCelsius; }
    /// `watts` arise in the core.
    void step(double watts, double seconds);

private:
    Thermal thermal_;
    double ambient_;
    double core_, case_;
    bool tripped_ = false;
};

} // namespace otterstone::model
