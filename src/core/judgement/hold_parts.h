// What the holders of claims share; internal to this folder.
#pragma once

#include "core/judgement/hold.h"
#include "core/kinds/observation.h"

namespace otterstone::judgement {

/// One value a run has for a claim.
struct Sample {
    Working working;
    long long run = 0;
};

/// The mean of what runs say (D18), or the one. Precondition: not empty.
struct Pooled {
    Working working;
    std::optional<double> spread;
    std::vector<long long> runs;
};
[[nodiscard]] Pooled pool(const std::vector<Sample>& samples);

/// A working whose doubt lacks the meter's accuracy gets the assumed one.
[[nodiscard]] Working withAssumedAccuracy(Working w);

/// Decides, and writes the comparison down.
void decideRow(Held& row, const Pooled& finding);
/// For a promise that is kept or not.
void decideRow(Held& row, bool kept, Working seen, long long run);
void notTested(Held& row, Spoken why);

/// Mean watts at the port while it was loaded.
[[nodiscard]] double loadOf(const kinds::RunEntry& r);

using kinds::LimitedBy;
using kinds::Observation;
using kinds::What;
using label::Way;

/// Decides by one observation's value, and names its place.
void decideBy(Held& row, const Observation& o, const Working& value);
/// "18 W".
[[nodiscard]] std::string watts(double w);

/// A bank's evidence with what was seen in it: worked out once for all its claims.
struct Case {
    const Evidence& e;
    std::vector<kinds::Observation> seen;
};

void holdEnergy(const Case& c, Held& row);
void holdRatedOutput(const Case& c, Held& row);
void holdRecharge(const Case& c, Held& row);
void holdCharges(const Case& c, Held& row);
void holdInput(const Case& c, Held& row);
void holdTier(const Case& c, Held& row);
void holdPortWatts(const Case& c, Held& row);
void holdTotal(const Case& c, Held& row);
void holdTogether(const Case& c, Held& row);
void holdPassThrough(const Case& c, Held& row);
void holdLowCurrent(const Case& c, Held& row);

} // namespace otterstone::judgement
