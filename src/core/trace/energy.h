// C8: what a trace's totals are worth, with the errors of the meter, the clock and the gaps on them.
#pragma once

#include "core/path/meter.h"
#include "core/quantity/measured.h"
#include "core/trace/blocks.h"
#include "core/trace/integral.h"

namespace otterstone::trace {

/// Figures at the point where the trace was read.
struct EnergyFigures {
    Measured wattHours;
    Measured ampHours;
    Measured squareAmpHours; ///< ∫I² dt, what a resistance on the path turns into heat per ohm
    double clockFactor = 1.0;
};

/// What the errors of a reading depend on besides the samples.
struct Read {
    const path::Meter& meter;
    Measured clock = Measured(1.0); ///< factor to true time; the trace's times are taken as already scaled by its value
    Between between = Between::Joined; ///< how the time between the readings is filled
    std::string run = {};              ///< identity of the errors that no other run shares
    bool intoBank = false;
};

/// Errors of gain and offset are common to all samples, so they do not average out (JCGM 100:2008, 5.2.2 and F.1.2): a
/// gain scales with the total, an offset of the volts with ∫I dt, one of the amps with ∫V dt. What lies between the
/// samples and below their last digit: blocks.h. A gap's doubt: gaps.h.
[[nodiscard]] EnergyFigures energyFigures(const Trace& trace, const Totals& totals, const std::vector<Block>& blocks,
                                          const Read& read);

/// When a share of a charge was in; all on the trace's clock, in s.
struct Moment {
    double start = 0.0, at = 0.0, end = 0.0;
    double share = 1.0; ///< 0 … 1, of the energy between start and end
    double watts = 1.0; ///< > 0, at the moment
};
/// The span from the start to the moment, with the doubt that offsets, digits, gaps and what lies between samples put
/// on it; gains don't move it.
[[nodiscard]] Measured shareSpan(const Moment& moment, const Trace& trace, const Totals& totals,
                                 const std::vector<Block>& blocks, const Read& read);

/// B2: referred along a loop resistance, sample by sample through ∫I² dt: out of the bank the port gave more than a
/// meter behind the resistance saw, into the bank it got less. `towardsSource` = +1 when the port is nearer to the
/// source.
[[nodiscard]] Measured referEnergy(const EnergyFigures& atMeter, const Measured& ohms, int towardsSource);

} // namespace otterstone::trace
