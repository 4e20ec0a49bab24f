// C8: what a trace's totals are worth, with the errors of the meter, the clock and the gaps on them.
#pragma once

#include "core/path/meter.h"
#include "core/quantity/measured.h"
#include "core/trace/integral.h"

namespace otterstone::trace {

/// Figures at the point where the trace was read.
struct EnergyFigures {
    Measured wattHours;
    Measured ampHours;
    Measured squareAmpHours; ///< ∫I² dt, what a resistance on the path turns into heat per ohm
    double clockFactor = 1.0;
};

/// Errors of gain, offset and resolution are common to all samples, so they do not average out (JCGM 100:2008, 5.2.2 and
/// F.1.2): a gain scales with the total, an offset of the volts with ∫I dt, one of the amps with ∫V dt. Resolution is taken
/// as common too: a steady signal sits on one digit for hours. A gap's doubt is half of what was bridged or left out,
/// rectangular. `clock` is the factor to true time with its doubt; the trace's times are taken as already scaled by its value.
[[nodiscard]] EnergyFigures energyFigures(const Trace& trace, const Totals& totals, const path::Meter& meter,
                                          const Measured& clock);

/// B2: referred along a loop resistance, sample by sample through ∫I² dt: out of the bank the port gave more than a meter
/// behind the resistance saw, into the bank it got less. `towardsSource` = +1 when the port is nearer to the source.
[[nodiscard]] Measured referEnergy(const EnergyFigures& atMeter, const Measured& ohms, int towardsSource);

} // namespace otterstone::trace
